import { describe, expect, it } from "vitest";
import type { RoomMap, RoomView } from "../../api/client";
import { blanks, filled, heights, lines } from "./contours";
import { beside, sidesOf, snapped, standing, stuck, toWall, type InRoom } from "./places";

const room = (length_m = 5, width_m = 4): InRoom["room"] => ({
  name: "Parlour",
  space: { kind: "room", length_m, width_m, height_m: 2.5, damping: { by: "time", t60_s: 0.5 } },
});

describe("a thing that is moved", () => {
  it("jumps to a wall and to the middle, and stays within", () => {
    expect(snapped(0.3, 0.5, 4)).toBe(0.25);
    expect(snapped(3.7, 0.5, 4)).toBe(3.75);
    expect(snapped(2.03, 0.5, 4)).toBe(2);
    expect(snapped(1.2, 0.5, 4)).toBe(1.2);
    expect(snapped(9, 0.5, 4)).toBe(3.75);
    // a seat is a point
    expect(snapped(-1, 0, 4)).toBe(0);
    // what is wider than the room stands in its middle
    expect(snapped(1, 6, 4)).toBe(2);
  });
  it("is told from the nearer wall, by its edge", () => {
    expect(toWall(1, 0.5, 4)).toEqual({ from: 0, to: 0.75, metres: 0.75 });
    const far = toWall(3, 0.5, 4);
    expect([far.from, far.to, far.metres]).toEqual([3.25, 4, 0.75]);
  });
  it("is put beside the last of its kind, within the walls", () => {
    expect(beside({ x_m: 1, y_m: 1 }, [5, 4, 2.5])).toEqual({ x_m: 1, y_m: 1.6 });
    expect(beside({ x_m: 1, y_m: 3.5 }, [5, 4, 2.5])).toEqual({ x_m: 1, y_m: 2.9 });
  });
});

it("a build that stands nowhere yet is put in a corner, with one seat", () => {
  const there = standing(room());
  expect(there.cabinets).toEqual([{ x_m: 0.4, y_m: 0.5 }]);
  expect(there.seats[0]).toMatchObject({ x_m: 3.1, y_m: 2, ears_m: 1.2 });
  expect(sidesOf({ kind: "cabin", volume_m3: 3, length_m: 2, distance_m: 1, leak_hz: 8 })).toBeUndefined();
});

it("who stands in one another are both drawn red", () => {
  const view = {
    clashes: [
      { seat: false, index: 1, against: "cabinet", other: 0, by_m: 0.1 },
      { seat: true, index: 0, against: "wall", other: 0, by_m: 0.1 },
    ],
  } as unknown as RoomView;
  expect([0, 1, 2].map((index) => stuck(view, { kind: "cabinet", index }))).toEqual([true, true, false]);
  expect([0, 1].map((index) => stuck(view, { kind: "seat", index }))).toEqual([true, false]);
});

describe("a map", () => {
  const columns = 12;
  const x_m = Array.from({ length: columns }, (_, i) => 0.25 + 0.5 * i);
  const y_m = Array.from({ length: 8 }, (_, i) => 0.25 + 0.5 * i);
  // a slope along the length, two fields of the lowest row blank
  const uneven_db = y_m.flatMap((_, r) => x_m.map((x, c) => (r === 0 && c < 2 ? null : x)));
  const map = { x_m, y_m, uneven_db, loud_db: uneven_db, low_db: uneven_db, best: [] } as unknown as RoomMap;

  it("has lines at round heights, each where its value is", () => {
    expect(heights(uneven_db)).toEqual([1, 2, 3, 4, 5]);
    const found = lines(map, "uneven");
    expect(found.map((l) => l.value)).toEqual([1, 2, 3, 4, 5]);
    const three = found[2];
    // the line of 3 dB runs across the width at x = 3 m
    const across = three?.rings.flat().filter(([, y]) => y > 0.5 && y < 3.5) ?? [];
    expect(across.some(([x]) => Math.abs(x - 3) < 0.01)).toBe(true);
    expect(three?.label?.text).toBe("3");
    expect(lines(map, "loud").map((l) => l.value)).toEqual([5, 4, 3, 2, 1]);
  });
  it("leaves blank where nothing can stand, and runs on beneath", () => {
    expect(blanks(map)).toEqual([{ at: [0, 0.5], long: [1, 0.5] }]);
    expect(filled([1, null, 3, null], 4)).toEqual([1, 2, 3, 3]);
    expect(filled([null, null], 2)).toEqual([0, 0]);
  });
});
