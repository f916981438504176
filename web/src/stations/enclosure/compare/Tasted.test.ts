// @vitest-environment jsdom

import { expect, it } from "vitest";
import type { SessionShown } from "../../../api/client";
import { lineOf } from "./Tasted";

const shown = (outcome: object | null, candidates: object[]) =>
  ({ id: "s", document: { title: "Evening", candidates }, outcome }) as unknown as SessionShown;
const two = [{ name: "Open", revision: "A" }, { name: "Old" }, { name: "Shut", revision: "C" }];

it("tells the score of the whole of each revision, and nothing of one that was not heard", () => {
  const outcome = {
    scales: [
      { scale: "deep", told: { means: [9, 2, 4] }, sentence: "deep so" },
      { scale: "overall", told: { means: [7.25, 3, 6] }, sentence: "overall so" },
    ],
    wins: [],
  };
  expect(lineOf(shown(outcome, two), ["A", "B", "C"])).toEqual({
    id: "s",
    what: "Evening: overall, 1 to 10",
    said: "overall so",
    values: ["7.3", undefined, "6.0"],
  });
});

it("tells nothing before the end, or of one revision alone", () => {
  expect(lineOf(shown(null, two), ["A", "C"])).toBeUndefined();
  expect(lineOf(shown({ scales: [], wins: [] }, two), ["A", "B"])).toBeUndefined();
});

it("tells votes won, and of a difference its sentence", () => {
  const votes = {
    scales: [],
    votes: {},
    wins: [
      [0, 3, 2],
      [1, 0, 0],
      [2, 4, 0],
    ],
    sentence: "so",
  };
  expect(lineOf(shown(votes, two), ["A", "C"])?.values).toEqual(["5", "6"]);
  const difference = { scales: [], wins: [], difference: {}, sentence: "12 of 16 right" };
  expect(lineOf(shown(difference, two), ["A", "C"])).toMatchObject({
    said: "12 of 16 right",
    values: [undefined, undefined],
  });
});
