// @vitest-environment jsdom

import { describe, expect, it } from "vitest";
import { baseOf, MOST_PLACES, movedPlace, placeAdded, placeDropped, targetAt, type Wish } from "./target";

const places = [
  { hz: 20, db: 3 },
  { hz: 40, db: 0 },
  { hz: 160, db: -4 },
];
const wish: Wish = {
  bands: 1,
  from_hz: 20,
  to_hz: 100,
  target: { kind: "drawn", points: places },
  stage: "line",
};

describe("a target drawn by hand", () => {
  it("is straight between its places over the logarithm of frequency, and level beyond them", () => {
    expect(targetAt(places, 80)).toBeCloseTo(-2, 12);
    expect([10, 20, 40, 160, 500].map((f) => targetAt(places, f))).toEqual([3, 3, 0, -4, -4]);
  });

  it("takes a further place on its line, where there is room for one", () => {
    expect(placeAdded(places, 80)).toEqual({
      places: [places[0], places[1], { hz: 80, db: -2 }, places[2]],
      index: 2,
    });
    expect(placeAdded(places, 300).places.at(-1)).toEqual({ hz: 300, db: -4 });
    expect(placeAdded(places, 40.4)).toEqual({ places, index: -1 });
    const full = Array.from({ length: MOST_PLACES }, (_, i) => ({ hz: 20 * 1.05 ** i, db: 0 }));
    expect(placeAdded(full, 900).index).toBe(-1);
  });

  it("keeps a place between its neighbours and its level in bounds", () => {
    expect(movedPlace(places, 1, { hz: 500, db: 99 })[1]).toEqual({ hz: 156.9, db: 60 });
    expect(movedPlace(places, 0, { hz: 2 })[0]).toEqual({ hz: 10, db: 3 });
    expect(movedPlace(places, 2, { hz: 4000 })[2]).toEqual({ hz: 1000, db: -4 });
    expect(movedPlace(places, 9, { hz: 30 })).toBe(places);
  });

  it("keeps two places", () => {
    expect(placeDropped(places, 1)).toEqual([places[0], places[2]]);
    expect(placeDropped(places.slice(0, 2), 0)).toHaveLength(2);
  });

  it("lies at the middle of the curve in its band, whatever lies outside and whatever is not known", () => {
    const hz = [10, 20, 40, 80, 100, 200];
    expect(baseOf(wish, hz, [120, 90, 94, NaN, 98, 0])).toBe(94);
    expect(baseOf(wish, [], [])).toBe(0);
  });
});
