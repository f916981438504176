// @vitest-environment jsdom

import { describe, expect, it } from "vitest";
import { encodeWav } from "./wav";

/** What a blob holds, by the browser's own reader. */
const buffer = (blob: Blob) =>
  new Promise<DataView>((done) => {
    const reader = new FileReader();
    reader.onload = () => done(new DataView(reader.result as ArrayBuffer));
    reader.readAsArrayBuffer(blob);
  });

describe("a WAV file", () => {
  it("has its samples as floats, channel by channel, as long as the shortest", async () => {
    const blob = encodeWav(48000, [new Float32Array([0.5, -0.25, 1]), new Float32Array([0, 0.125])]);
    const bytes = await buffer(blob);
    const word = (at: number) => String.fromCharCode(...[0, 1, 2, 3].map((i) => bytes.getUint8(at + i)));
    expect([word(0), word(8), word(36)]).toEqual(["RIFF", "WAVE", "data"]);
    expect(bytes.byteLength).toBe(44 + 2 * 2 * 4);
    expect([bytes.getUint16(20, true), bytes.getUint16(22, true), bytes.getUint32(24, true)]).toEqual([
      3, 2, 48000,
    ]);
    expect([0, 1, 2, 3].map((i) => bytes.getFloat32(44 + 4 * i, true))).toEqual([0.5, 0, -0.25, 0.125]);
  });
});
