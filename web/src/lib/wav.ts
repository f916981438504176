/** Channels of equal length as a WAV file of 32 bit floats. */
export function encodeWav(rate: number, channels: Float32Array[]): Blob {
  const length = Math.min(...channels.map((c) => c.length));
  const width = channels.length;
  const head = new DataView(new ArrayBuffer(44));
  const text = (at: number, word: string) =>
    [...word].forEach((letter, i) => head.setUint8(at + i, letter.charCodeAt(0)));
  const bytes = length * width * 4;
  text(0, "RIFF");
  head.setUint32(4, 36 + bytes, true);
  text(8, "WAVEfmt ");
  head.setUint32(16, 16, true);
  head.setUint16(20, 3, true); // floats
  head.setUint16(22, width, true);
  head.setUint32(24, rate, true);
  head.setUint32(28, rate * width * 4, true);
  head.setUint16(32, width * 4, true);
  head.setUint16(34, 32, true);
  text(36, "data");
  head.setUint32(40, bytes, true);
  const data = new DataView(new ArrayBuffer(bytes));
  channels.forEach((channel, k) => {
    for (let i = 0; i < length; i++) data.setFloat32((i * width + k) * 4, channel[i] ?? 0, true);
  });
  return new Blob([head, data], { type: "audio/wav" });
}
