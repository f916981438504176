import { describe, expect, it } from "vitest";
import { boundsOf, halfOctaves, hzAt, levelAt, pegsOf, pulled, qOfHalf, xOf, yOf } from "./pull";

const scale = { left: 40, top: 10, width: 500, height: 200, low: 60, high: 100 };
const band = { kind: "band" as const, frequency_hz: 40, level_db: -3, q: 1.4 };

describe("pegs on the level lane", () => {
  it("stand where the lane has their frequency and level", () => {
    expect(xOf(100, scale)).toBeCloseTo(290);
    expect(hzAt(xOf(37, scale), scale)).toBeCloseTo(37);
    expect(yOf(100, scale)).toBe(10);
    expect(yOf(60, scale)).toBe(210);
  });

  it("are held to what the amplifier lets them be, and rounded as a hand would set them", () => {
    const bounds = boundsOf([
      { field: "/frequency_hz", from: 18, to: 80, unit: "Hz" },
      { field: "/level_db", from: -12, to: 6, unit: "dB" },
    ]);
    expect(pulled("/chain/filters/2", band, bounds, { hz: 95.123, level: -20 })).toEqual([
      { pointer: "/chain/filters/2/filter/frequency_hz", value: 80 },
      { pointer: "/chain/filters/2/filter/level_db", value: -12 },
    ]);
    expect(pulled("", band, boundsOf(undefined), { hz: 43.21, level: -4.56, q: 2.3456 })).toEqual([
      { pointer: "/filter/frequency_hz", value: 43.2 },
      { pointer: "/filter/level_db", value: -4.6 },
      { pointer: "/filter/q", value: 2.35 },
    ]);
  });

  it("change nothing a filter has not", () => {
    const pass = {
      kind: "high_pass" as const,
      frequency_hz: 20,
      slope: { shape: "butterworth" as const, order: 2 },
    };
    expect(pulled("", pass, boundsOf(undefined), { hz: 25, level: -6, q: 3 })).toEqual([
      { pointer: "/filter/frequency_hz", value: 25 },
    ]);
    expect(pulled("", { kind: "polarity" }, boundsOf(undefined), { level: -6 })).toEqual([]);
  });

  it("take the transform by where it leads", () => {
    const transform = { kind: "transform" as const, from_hz: 50, from_q: 0.8, to_hz: 30, to_q: 0.7 };
    expect(pulled("", transform, boundsOf(undefined), { hz: 26 })).toEqual([
      { pointer: "/filter/to_hz", value: 26 },
    ]);
  });

  it("know a width as Q and as octaves either way", () => {
    // an octave is Q 1.414 (1/Q = 2 sinh(ln2/2))
    expect(2 * halfOctaves(Math.SQRT2)).toBeCloseTo(1, 6);
    expect(qOfHalf(halfOctaves(3))).toBeCloseTo(3, 9);
    expect(Number.isFinite(qOfHalf(0))).toBe(true);
  });

  it("are those that are on and have a frequency", () => {
    const list = pegsOf([
      { filter: band },
      { off: true, filter: band },
      { filter: { kind: "delay", delay_ms: 3 } },
      { filter: band },
    ]);
    expect(list.map((p) => p.index)).toEqual([0, 3]);
  });

  it("read a curve between its points", () => {
    expect(levelAt(20, [10, 40], [80, 90])).toBeCloseTo(85);
    expect(levelAt(5, [10, 40], [80, 90])).toBe(80);
    expect(levelAt(400, [10, 40], [80, 90])).toBe(90);
  });
});
