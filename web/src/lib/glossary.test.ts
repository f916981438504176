import { describe, expect, it } from "vitest";
import { LANES } from "../lanes/specs";
import { fieldsOf } from "./fields";
import { TERMS, termOf, termOfField, termOfFigure, termsFor } from "./glossary";

describe("terms", () => {
  it("are found by field, by figure and by name", () => {
    expect(termOfField("/enclosure/port/sizing/tuning_hz")?.id).toBe("tuning");
    expect(termOfField("/enclosure/net_volume_l")?.id).toBe("net_volume");
    expect(termOfField(undefined)).toBeUndefined();
    expect(termOfFigure("qtc")?.name).toBe("Qtc");
    expect(termOf("leak")?.drawing?.lines.length).toBeGreaterThan(2);
  });

  it("searched for come with those of that name first, further names counted", () => {
    expect(termsFor("bass reflex")[0]?.id).toBe("vented");
    expect(termsFor("Q")[0]?.name).toMatch(/^Q/);
    expect(termsFor("chuffing")[0]?.id).toBe("air_speed");
    expect(termsFor("no such word at all")).toEqual([]);
    expect(termsFor("")).toHaveLength(TERMS.length);
  });

  it("stand beside the lanes that most of the time are open", () => {
    const open = LANES.metric.filter((l) => !l.folded && !l.station);
    for (const lane of open) expect(termOfFigure(lane.id), lane.id).toBeTruthy();
  });

  it("explain every figure of a woofer's sheet that moves air", () => {
    const sheet = fieldsOf({ woofer: {} }).filter((f) =>
      /^\/woofer\/(fs|q|vas|sd|xm|re_|bl|mms|cms)/.test(f.pointer),
    );
    expect(sheet.length).toBeGreaterThan(9);
    for (const f of sheet) expect(termOfField(f.pointer), f.pointer).toBeTruthy();
  });
});
