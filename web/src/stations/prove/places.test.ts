import { expect, it } from "vitest";
import { isImpedance, placeOf, PLACES, placeWords } from "./places";

it("every place has words of its own and comes with the figure that belongs to it", () => {
  expect(new Set(PLACES.map((p) => p.words)).size).toBe(PLACES.length);
  for (const { kind } of PLACES) expect(placeOf(kind).kind).toBe(kind);
  expect(placeOf("in_front")).toEqual({ kind: "in_front", distance_m: 1 });
  expect(placeOf("added_mass")).toEqual({ kind: "added_mass", mass_g: 40 });
  expect(placeOf("known_box")).toEqual({ kind: "known_box", volume_l: 40 });
});

it("what is not said is the box's terminals, where an impedance is measured", () => {
  expect(placeWords(undefined)).toBe("at the box's terminals");
  expect(isImpedance(undefined)).toBe(true);
  expect(PLACES.filter((p) => isImpedance(placeOf(p.kind))).map((p) => p.kind)).toEqual([
    "in_box",
    "free_air",
    "added_mass",
    "known_box",
  ]);
});
