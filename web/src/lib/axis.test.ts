import { describe, expect, it } from "vitest";
import { apart, axis, ground, levels, roundUp, trace } from "./axis";

describe("an axis", () => {
  it("finds back what it has placed, on both scales and upside down", () => {
    for (const log of [false, true])
      for (const places of [
        [40, 300],
        [300, 40],
      ] as [number, number][]) {
        const a = axis([10, 1000], places, log);
        for (const v of [10, 17, 100, 640, 1000]) expect(a.back(a.at(v))).toBeCloseTo(v, 8);
        expect([a.at(10), a.at(1000)]).toEqual(places);
      }
    expect(axis([10, 1000], [0, 2], true).at(100)).toBeCloseTo(1, 12);
    expect(axis([0, 8], [0, 4]).at(2)).toBe(1);
  });

  it("holds what lies outside at its ends", () => {
    const a = axis([10, 100], [0, 90], true);
    expect([a.at(0), a.at(-3), a.at(1e9)]).toEqual([0, 0, 90]);
    expect([a.back(-50), a.back(500)]).toEqual([expect.closeTo(10, 9), expect.closeTo(100, 9)]);
  });

  it("does not divide by nothing where both bounds are one", () => {
    expect(axis([5, 5], [0, 10]).at(5)).toBe(0);
  });
});

describe("a curve", () => {
  const axes = [axis([0, 10], [0, 100]), axis([0, 1], [50, 0])] as [
    ReturnType<typeof axis>,
    ReturnType<typeof axis>,
  ];
  it("is broken where a value is missing and cut where the axis ends", () => {
    const x = [-1, 0, 2, 4, 6, 8, 11];
    expect(trace(x, [1, 0, 1, null, 0.5, 0, 0], axes, [0, 10])).toBe(
      "M0.0 50.0L20.0 0.0M60.0 25.0L80.0 50.0",
    );
  });
  it("leaves the plot with one step and comes back with one", () => {
    const x = [0, 1, 2, 3, 4, 5];
    expect(trace(x, [0.5, 3, 4, 2, 1, -9], axes, [0, 10])).toBe(
      "M0.0 25.0L10.0 0.0M30.0 0.0L40.0 0.0L50.0 50.0",
    );
    expect(trace(x, [3, 4], axes, [0, 10])).toBeUndefined();
  });
  it("and another hold ground between them", () => {
    expect(ground([0, 10], [1, 5], [0, 0], axes)).toBe("M0.0 0.0L100.0 0.0L100.0 50.0L0.0 50.0Z");
    expect(ground([], [], [], axes)).toBeUndefined();
  });
  it("that has no value has no path", () => {
    expect(trace([1, 2], [null, undefined], axes, [0, 10])).toBeUndefined();
    expect(trace([], [], axes, [0, 10])).toBeUndefined();
  });
});

it("bounds are round and hold what they bound", () => {
  expect([0.012, 0.9, 1.2, 19, 21, 420].map(roundUp)).toEqual([0.015, 1, 1.5, 20, 30, 500]);
  expect(roundUp(0)).toBe(1);
  expect(levels(103.2, 40)).toEqual([65, 105]);
  expect(levels(104.5, 40)).toEqual([70, 110]);
});

it("letters that would lie over one another are set apart upwards", () => {
  expect(apart([50, 50, 10], 11)).toEqual([50, 39, 10]);
  expect(apart([48, 50, 45], 11)).toEqual([39, 50, 28]);
});
