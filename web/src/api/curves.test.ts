import { describe, expect, it } from "vitest";
import { unpack } from "./curves";

/** Packed curves put together by hand, as docs/curves.md has them. */
function packed(header: object, floats: number[]): ArrayBuffer {
  let text = JSON.stringify(header);
  while (new TextEncoder().encode(text).length % 4) text += " ";
  const bytes = new TextEncoder().encode(text);
  const all = new ArrayBuffer(8 + bytes.length + 4 * floats.length);
  new Uint8Array(all).set(new TextEncoder().encode("ODC1"));
  new DataView(all).setUint32(4, bytes.length, true);
  new Uint8Array(all).set(bytes, 8);
  floats.forEach((x, i) => new DataView(all).setFloat32(8 + bytes.length + 4 * i, x, true));
  return all;
}

describe("packed curves", () => {
  it("are taken apart list by list", () => {
    const result = { curves: { frequency_hz: [], air_speed_m_per_s: [], openings: [{ name: "port" }] } };
    const lists = [
      ["frequency_hz", 2],
      ["openings/0/near_field_db", 2],
      ["max_level_db", 2],
      ["max_level_ruled_by", 2],
    ];
    const header = { result, lists, limiting_factors: ["none", "thermal", "stroke"], note: "λ" };
    const { curves } = unpack(packed(header, [20, 40.5, 90, 91, 101.5, NaN, 2, 0]));
    expect(curves.frequency_hz).toEqual([20, 40.5]);
    expect(curves.openings[0]?.near_field_db).toEqual([90, 91]);
    expect(curves.max_level_db).toEqual([101.5, null]);
    expect(curves.max_level_ruled_by).toEqual(["stroke", "none"]);
    expect(curves.air_speed_m_per_s).toEqual([]);
  });
  it("are refused where they are not such", () => {
    expect(() => unpack(new ArrayBuffer(4))).toThrow();
    expect(() => unpack(new TextEncoder().encode('{"format": "x"}').buffer)).toThrow();
  });
});
