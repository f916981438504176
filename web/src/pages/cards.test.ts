import { expect, it } from "vitest";
import type { BuildSummary } from "../api/client";
import { fits, ordered, tagsIn, tagsOf } from "./cards";

const build = (name: string, woofer_name: string, family: string, tags: string[] = []): BuildSummary =>
  ({
    id: name,
    name,
    woofer_name,
    family,
    tags,
    purpose: "hymns",
    letters: ["A"],
  }) as unknown as BuildSummary;
const list = [
  build("Hall 10", "Heron 15", "vented"),
  build("Hall 9", "Kelda 10", "transmission_line"),
  build("Attic", "Heron 15", "sealed", ["for sale"]),
];
const names = (builds: BuildSummary[]) => builds.map((b) => b.name);

it("a build is found by any word on its card, all of them together", () => {
  const found = (words: string) => names(list.filter((b) => fits(b, words)));
  expect(found("")).toHaveLength(3);
  expect(found("heron")).toEqual(["Hall 10", "Attic"]);
  expect(found("LINE hall")).toEqual(["Hall 9"]);
  expect(found("hymns sealed")).toEqual(["Attic"]);
  expect(found("for sale")).toEqual(["Attic"]);
  expect(found("horn")).toEqual([]);
});

it("builds stand in the order that is asked for, numbers in names by their size", () => {
  expect(names(ordered(list, "newest"))).toEqual(["Attic", "Hall 9", "Hall 10"]);
  expect(names(ordered(list, "name"))).toEqual(["Attic", "Hall 9", "Hall 10"]);
  expect(names(ordered(list, "woofer"))).toEqual(["Attic", "Hall 10", "Hall 9"]);
  expect(names(ordered(list, "oldest"))).toEqual(["Hall 10", "Hall 9", "Attic"]);
});

it("tags are typed by commas, and told once whatever their capitals", () => {
  expect(tagsIn(" hall, ,for Jana,")).toEqual(["hall", "for Jana"]);
  expect(tagsIn("")).toEqual([]);
  const tagged = [build("A", "", "", ["loud", "Hall"]), build("B", "", "", ["hall"]), build("C", "", "")];
  expect(tagsOf(tagged).map((t) => t.toLowerCase())).toEqual(["hall", "loud"]);
});
