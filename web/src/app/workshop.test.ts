import { describe, expect, it } from "vitest";
import { joined, withOwned, withoutOwned } from "./workshop";

const piece = (length_mm: number) => ({ board: "mdf" as const, length_mm, width_mm: 300, thickness_mm: 18 });

describe("two browsers at one workshop", () => {
  it("lose nothing of each other", () => {
    const base = { currency: "EUR", has: [{ thing: "router" }], rack: [piece(600), piece(600)] };
    const mine = { currency: "EUR", has: [{ thing: "router" }, { thing: "drill" }], rack: [piece(600)] };
    const theirs = {
      currency: "kr",
      has: [{ thing: "router" }, { thing: "jigsaw" }],
      rack: [piece(600), piece(600), piece(900)],
    };
    const made = joined(base, mine, theirs);
    expect(made.currency).toBe("kr");
    expect(made.has?.map((h) => h.thing).sort()).toEqual(["drill", "jigsaw", "router"]);
    // of two alike I took one
    expect(made.rack?.map((p) => p.length_mm)).toEqual([600, 900]);
  });
  it("what I took off stays off, and an empty list is none", () => {
    const base = { has: [{ thing: "router" }] };
    expect(joined(base, {}, base)).toEqual({});
    expect(joined({}, { currency: "EUR" }, {})).toEqual({ currency: "EUR" });
  });
});

describe("ticks", () => {
  it("put a tool to what is there and take it off by kind and size", () => {
    const with8 = withOwned({}, { thing: "straight_bit", size_mm: 8 });
    expect(withoutOwned(with8, "straight_bit", 12)).toEqual(with8);
    expect(withoutOwned(with8, "straight_bit", 8)).toEqual({});
    const clamps = {
      has: [
        { thing: "clamp", size_mm: 900, many: 2 },
        { thing: "clamp", size_mm: 500, many: 4 },
      ],
    };
    expect(withoutOwned(clamps, "clamp", 590).has).toEqual([{ thing: "clamp", size_mm: 500, many: 4 }]);
  });
});
