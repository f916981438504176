import { describe, expect, it } from "vitest";
import type { Design } from "../../api/client";
import { apply } from "../../lib/pointer";
import {
  copied,
  filtersOf,
  inStage,
  kinds,
  moved,
  told,
  withFilter,
  without,
  type ChainFilter,
} from "./chain";

const gain = (level_db: number, stage: ChainFilter["stage"] = "line"): ChainFilter => ({
  stage,
  filter: { kind: "gain", level_db },
});

const bare: Design = {
  format: "oak-drum-design",
  version: 8,
  woofer: {},
  enclosure: { family: "sealed", net_volume_l: 50 },
};

describe("the filters of a chain", () => {
  it("is the same empty list each time where there is none: a snapshot may not change by being looked at", () => {
    expect(filtersOf(bare)).toBe(filtersOf({ ...bare, chain: {} }));
    expect(filtersOf(bare)).toEqual([]);
  });

  it("adds, copies and takes out, parents made where they are missing", () => {
    const one = apply(bare, withFilter(filtersOf(bare), gain(-3)));
    expect(filtersOf(one)).toEqual([gain(-3)]);
    const two = apply(one, copied(filtersOf(one), 0));
    expect(filtersOf(two)).toEqual([gain(-3), gain(-3)]);
    expect(filtersOf(apply(two, without(filtersOf(two), 0)))).toEqual([gain(-3)]);
  });

  it("moves within a stage past its mates, and at its end into the next stage", () => {
    const list = [gain(1), gain(2, "amplifier"), gain(3)];
    const levels = (filters: ChainFilter[]) =>
      filters.map((f) => `${f.filter.kind === "gain" ? f.filter.level_db : ""}${f.stage}`);
    const after = (index: number, by: 1 | -1) => levels(filtersOf(apply(bare, moved(list, index, by))));
    expect(after(0, 1)).toEqual(["3line", "2amplifier", "1line"]);
    expect(after(2, 1)).toEqual(["1line", "2amplifier", "3amplifier"]);
    expect(after(0, -1)).toEqual(["1player", "2amplifier", "3line"]);
    // the last stage is the last
    expect(after(1, 1)).toEqual(levels(list));
    expect(inStage(list, "line").map((f) => f.index)).toEqual([0, 2]);
  });

  it("knows every kind of the published schema, with a value to begin with that says what it is", () => {
    const list = kinds();
    expect(list.length).toBe(11);
    for (const kind of list) {
      const fresh = kind.fresh();
      expect(fresh.kind).toBe(kind.kind);
      expect(told(fresh)).not.toMatch(/NaN|undefined/);
      expect(kind.title).not.toBe(kind.kind);
    }
  });
});
