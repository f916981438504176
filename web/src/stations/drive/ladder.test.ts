import { describe, expect, it } from "vitest";
import { apply } from "../../lib/pointer";
import { dropped, inserted, layout, partKinds, shifted, stepped, valuesOf, type ChainPart } from "./ladder";

const coil: ChainPart = { placement: "in_line", part: { kind: "coil", inductance_mh: 4.7 } };
const notch: ChainPart = {
  placement: "across",
  part: { kind: "series_notch", inductance_mh: 10, capacitance_uf: 470, resistance_ohm: 4.7 },
};

describe("the circuit of parts", () => {
  it("lays parts out from left to right, with a place before, between and behind them", () => {
    const { placed, gaps, width } = layout([coil, notch]);
    expect(gaps.length).toBe(3);
    for (const [i, p] of placed.entries()) {
      expect(p.x).toBeGreaterThan(gaps[i] ?? Infinity);
      expect(p.x + p.width).toBeLessThan(gaps[i + 1] ?? 0);
    }
    expect(width).toBeGreaterThan(gaps[2] ?? 0);
    // what is not there is not drawn
    expect(placed[1]?.sorts).toEqual(["coil", "capacitor", "resistor"]);
    const bare = { ...notch, part: { ...notch.part, resistance_ohm: 0 } } as ChainPart;
    expect(layout([bare]).placed[0]?.sorts).toEqual(["coil", "capacitor"]);
  });

  it("writes the values that are there", () => {
    expect(valuesOf(coil.part)).toEqual([{ field: "inductance_mh", value: 4.7, unit: "mH" }]);
    expect(valuesOf(notch.part).map((v) => v.unit)).toEqual(["mH", "µF", "Ω"]);
  });

  it("steps to the preferred values the server tells", () => {
    const told = [
      { sort: "coil", field: "inductance_mh", lower: 3.9, higher: 5.6, watts: 0, amperes: 0, volts: 0 },
    ];
    const step = (by: 1 | -1) => stepped([coil], 0, by, told as never);
    expect(step(1)).toEqual([{ pointer: "/chain/parts/0/part/inductance_mh", value: 5.6 }]);
    expect(step(-1)[0]?.value).toBe(3.9);
    expect(stepped([coil], 0, 1, undefined)).toEqual([]);
  });

  it("inserts, moves and takes out", () => {
    type Held = { chain?: { parts: ChainPart[] } };
    const bare: Held = {};
    const parts = (changes: ReturnType<typeof inserted>) =>
      (apply(bare, changes).chain?.parts ?? []).map((p) => p.part.kind);
    expect(parts(inserted([coil], 0, notch))).toEqual(["series_notch", "coil"]);
    expect(parts(shifted([coil, notch], 0, 1))).toEqual(["series_notch", "coil"]);
    expect(parts(shifted([coil, notch], 1, 1))).toEqual(["coil", "series_notch"]);
    expect(parts(dropped([coil, notch], 0))).toEqual(["series_notch"]);
  });

  it("knows every kind of the published schema, with values to begin with", () => {
    expect(partKinds().length).toBe(6);
    for (const kind of partKinds()) expect(valuesOf(kind.fresh()).length).toBeGreaterThan(0);
  });
});
