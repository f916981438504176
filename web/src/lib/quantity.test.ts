import { describe, expect, it } from "vitest";
import { inchFraction, nudge, read, show } from "./quantity";

describe("what builders type", () => {
  it.each([
    ["3/4 in", "mm", 19.05],
    ["18+18", "mm", 36],
    ["1.68 ft3", "L", 47.5723022746],
    ["95 L", "L", 95],
    ["26 Hz", "Hz", 26],
    ["11 11/32 in", "mm", 288.13125],
    ["1 1/2 in + 3 mm", "mm", 41.1],
    ["12,5", "L", 12.5],
    ["500 - 36", "mm", 464],
    ["2*18", "mm", 36],
    ["15 %", "", 0.15],
    ["0.05 m2", "cm2", 500],
    ["-3", "dB", -3],
    ["850 uH", "mH", 0.85],
  ])("%s in a field of %s", (text, unit, value) => {
    const reading = read(text, unit);
    expect("value" in reading && reading.value).toBeCloseTo(value, 8);
  });

  it.each([
    ["", "mm"],
    ["abc", "mm"],
    ["3 furlongs", "mm"],
    ["12 L", "mm"],
    ["1//2", "mm"],
    ["1/0", "mm"],
  ])("%s is refused with an example", (text, unit) => {
    const reading = read(text, unit);
    expect("error" in reading && reading.error).toMatch(/try "/);
  });

  it("says 288 mm as a saw does (common practice: just under 11 11/32 in)", () => {
    expect(inchFraction(288 / 25.4)).toBe("11 11/32");
    expect(inchFraction(25.4 / 25.4)).toBe("1");
    expect(show(19.05, "mm", "inch")).toEqual({ text: "3/4", unit: "in" });
  });

  it("nudges by a tenth of the leading digit", () => {
    expect(nudge(90, 1, "usual")).toBe(91);
    expect(nudge(90, -1, "coarse")).toBe(80);
    expect(nudge(0.42, 1, "fine")).toBe(0.421);
  });
});
