import { describe, expect, it } from "vitest";
import type { Evaluation } from "../api/client";
import { LANES, limitWords, RULED_BY } from "./specs";

const lane = (id: string, system: "metric" | "inch" = "metric") => LANES[system].find((l) => l.id === id)!;
const evaluation = (part: object) =>
  ({
    curves: { near_field_cone_db: [], openings: [], ...part },
    summary: {},
    ports: [],
  }) as unknown as Evaluation;

describe("a lane", () => {
  it("is told in inches where what it shows is a length, and else as it is", () => {
    const e = evaluation({ cone_excursion_mm: [25.4, null, 12.7], level_db: [90, 91, 92] });
    expect(lane("stroke").values(e)).toEqual([25.4, null, 12.7]);
    expect(lane("stroke", "inch").values(e)).toEqual([expect.closeTo(1, 12), null, expect.closeTo(0.5, 12)]);
    expect([lane("stroke").unit, lane("stroke", "inch").unit]).toEqual(["mm", "in"]);
    // an inch wants more decimals than a millimetre
    expect(lane("stroke", "inch").digits).toBeGreaterThan(lane("stroke").digits);
    expect(lane("level", "inch").values(e)).toEqual([90, 91, 92]);
    expect(LANES.inch.map((l) => l.id)).toEqual(LANES.metric.map((l) => l.id));
  });

  it("keeps its limit in the same units as its curve", () => {
    const e = evaluation({});
    expect(lane("stroke").limit?.(e, 12.7)).toMatchObject({ value: 12.7 });
    const inches = lane("stroke", "inch").limit?.(e, 12.7);
    expect(inches?.value).toBeCloseTo(0.5, 12);
    expect(limitWords(inches!)).toBe("stroke limit 0.5");
    expect(lane("stroke").limit?.(e, undefined)).toBeUndefined();
  });

  it("of the air takes the lowest limit, and says whose it is", () => {
    const opening = (limit?: number) => ({ name: "port", limit_m_per_s: limit, air_speed_m_per_s: [1] });
    const e = evaluation({ openings: [opening(34), opening(17), opening()] });
    expect(limitWords(lane("air").limit!(e, undefined)!)).toBe("quiet limit 17 (straight ends)");
    expect(lane("air").limit?.(evaluation({ openings: [opening()] }), undefined)).toBeUndefined();
    const own = {
      ...e,
      ports: [{ air_limit_m_per_s: 10, quiet_speed_m_per_s: 17 }],
    } as unknown as Evaluation;
    expect(lane("air").limit?.(own, undefined)?.words).toBe("the brief allows");
    // each of several by itself, one alone not twice
    expect(lane("air").others?.(e)).toHaveLength(3);
    expect(lane("air").others?.(evaluation({ openings: [opening(17)] }))).toEqual([]);
  });

  it("goes from nothing to a little over what it shows, its limit in sight and not lost in it", () => {
    const { scale } = lane("stroke");
    expect(scale(10, undefined)[0]).toBe(0);
    expect(scale(10, undefined)[1]).toBeCloseTo(10.8, 9);
    expect(scale(2, { value: 12, words: "" })[1]).toBeCloseTo(15, 9);
    expect(scale(400, { value: 12, words: "" })[1]).toBeCloseTo(12 * 1.9, 9);
    expect(scale(0, undefined)[1]).toBeGreaterThan(0);
  });

  it("near the cone tells the cone first, and without one outside the first opening", () => {
    const port = { name: "port", outside: true, near_field_db: [80] };
    const inner = { name: "wall", outside: false, near_field_db: [] };
    const both = evaluation({ near_field_cone_db: [95], openings: [inner, port] });
    expect([
      lane("near").named?.(both),
      lane("near")
        .others?.(both)
        .map((o) => o.name),
    ]).toEqual(["cone", ["port"]]);
    const one = evaluation({ openings: [inner, port] });
    expect([lane("near").values(one), lane("near").named?.(one), lane("near").others?.(one)]).toEqual([
      [80],
      "port",
      [],
    ]);
  });
});

it("whatever can limit the level has words", () => {
  expect(Object.keys(RULED_BY)).toEqual(
    expect.arrayContaining([
      "none",
      "thermal",
      "excursion",
      "port_air",
      "radiator_excursion",
      "amplifier_voltage",
      "amplifier_current",
    ]),
  );
});
