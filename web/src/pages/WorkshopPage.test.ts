import { expect, it } from "vitest";
import type { BuildSummary } from "../api/client";
import { fits, ordered } from "./WorkshopPage";

const build = (name: string, woofer_name: string, family: string): BuildSummary =>
  ({ id: name, name, woofer_name, family, purpose: "hymns", letters: ["A"] }) as unknown as BuildSummary;
const list = [
  build("Hall 10", "Heron 15", "vented"),
  build("Hall 9", "Kelda 10", "transmission_line"),
  build("Attic", "Heron 15", "sealed"),
];
const names = (builds: BuildSummary[]) => builds.map((b) => b.name);

it("a build is found by any word on its card, all of them together", () => {
  const found = (words: string) => names(list.filter((b) => fits(b, words)));
  expect(found("")).toHaveLength(3);
  expect(found("heron")).toEqual(["Hall 10", "Attic"]);
  expect(found("LINE hall")).toEqual(["Hall 9"]);
  expect(found("hymns sealed")).toEqual(["Attic"]);
  expect(found("horn")).toEqual([]);
});

it("builds stand in the order that is asked for, numbers in names by their size", () => {
  expect(names(ordered(list, "newest"))).toEqual(["Attic", "Hall 9", "Hall 10"]);
  expect(names(ordered(list, "name"))).toEqual(["Attic", "Hall 9", "Hall 10"]);
  expect(names(ordered(list, "woofer"))).toEqual(["Attic", "Hall 10", "Hall 9"]);
  expect(names(ordered(list, "oldest"))).toEqual(["Hall 10", "Hall 9", "Attic"]);
});
