import { describe, expect, it } from "vitest";
import { fieldsOf } from "./fields";

const vented = {
  woofer: { fs_hz: 30, sd_cm2: 530 },
  enclosure: {
    family: "vented",
    net_volume_l: 60,
    port: { count: 1, shape: { kind: "round", diameter_mm: 100 }, sizing: { by: "tuning", tuning_hz: 30 } },
  },
  cabinet: { width_mm: 300, height_mm: 400, depth_mm: 300, braces: [{ kind: "shelf", at_mm: 200 }] },
};

describe("fields of a document", () => {
  const list = fieldsOf(vented);
  const found = (pointer: string) => list.find((f) => f.pointer === pointer);

  it("are those of the variants that stand there, each with a title and once", () => {
    expect(found("/enclosure/net_volume_l")?.title).toBe("Net volume");
    expect(found("/enclosure/port/sizing/tuning_hz")?.title).toBe("Tuned to");
    expect(found("/enclosure/port/sizing/length_mm")).toBeUndefined();
    expect(list.every((f) => f.title)).toBe(true);
    expect(new Set(list.map((f) => f.pointer)).size).toBe(list.length);
  });

  it("of entries carry their number, of parts not stated only the part", () => {
    const brace = list.find((f) => f.pointer.startsWith("/cabinet/braces/0/"));
    expect(brace?.within.at(-1)).toMatch(/ 1$/);
    expect(found("/room")?.title).toBe("Where it stands");
    expect(list.some((f) => f.pointer.startsWith("/room/"))).toBe(false);
  });
});
