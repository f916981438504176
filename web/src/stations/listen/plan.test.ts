import { expect, it } from "vitest";
import { fresh, isOfTwo, KINDS, letters, matched, session, type Draft } from "./plan";

const two = [
  { letter: "A", name: "Flat" },
  { letter: "B", name: "Lifted" },
];
const draft = (part: Partial<Draft> = {}): Draft => ({ ...fresh(two), ...part });

it("makes a session of what is typed", () => {
  const made = session(draft({ level: "78,5", own: " Our tape \n\n" }), undefined, 7);
  expect(made).toEqual({
    title: "Flat against Lifted",
    test: { kind: "difference", method: "abx", trials: 16 },
    candidates: [
      { name: "Flat", revision: "A" },
      { name: "Lifted", revision: "B" },
    ],
    pieces: [
      { kind: "shipped", id: "walk" },
      { kind: "shipped", id: "drum" },
      { kind: "own", name: "Our tape" },
    ],
    switching: "helper",
    level_db: 78.5,
    seed: 7,
  });
  const scored = session(draft({ kind: "scores", scales: "deep, , overall" }), undefined, 1);
  expect(scored).toMatchObject({ test: { kind: "scores", scales: ["deep", "overall"] } });
});

it("says what is missing", () => {
  expect(session(draft({ pieces: [] }), undefined, 1)).toBe("something to play is expected");
  expect(session(draft({ kind: "scores", scales: " " }), undefined, 1)).toMatch(/scale/);
  const three = [...fresh(two).candidates, { name: "C", revision: "", setting: "" }];
  expect(session(draft({ candidates: three }), undefined, 1)).toMatch(/of two/);
  expect(matched(draft({ match: "noise", readings: ["80", ""] }), undefined)).toMatch(/reading/);
});

it("turns the louder one down, by readings, by ear and by the model", () => {
  expect(matched(draft({ match: "noise", readings: ["82.5", "81"] }), undefined)).toMatchObject({
    trims_db: [-1.5, 0],
    levels_db: [82.5, 81],
  });
  expect(matched(draft({ match: "ear", readings: ["0", "-2"] }), undefined)).toMatchObject({
    trims_db: [0, -2],
    levels_db: [0, 2],
  });
  const model = { band_hz: [35, 120], levels_db: [90, 92], trims_db: [0, -2] };
  expect(matched(draft(), model)).toMatchObject({ by: "model", band_hz: [35, 120], trims_db: [0, -2] });
  expect(matched(draft({ match: "none" }), model)).toBeUndefined();
  expect(matched(draft({ match: "measurement" }), model)).toMatchObject({
    by: "measurement",
    trims_db: [0, -2],
  });
  expect(matched(draft({ match: "measurement" }), undefined)).toMatch(/measurement of each/);
});

it("puts letters on envelopes that are no revision's", () => {
  expect(letters("abx", 3)).toEqual(["A", "B", "X"]);
  expect(letters(undefined, 3)).toEqual(["P", "Q", "R"]);
});

it("of the five kinds three ask for a difference, each with envelopes of its own", () => {
  expect(KINDS.filter((k) => isOfTwo(k.id)).map((k) => k.id)).toEqual(["abx", "duo_trio", "triangle"]);
  expect(letters("duo_trio", 3)).toEqual(["R", "1", "2"]);
  const made = session(draft({ kind: "duo_trio", trials: 12 }), undefined, 7);
  expect(made).toMatchObject({ test: { kind: "difference", method: "duo_trio", trials: 12 } });
});
