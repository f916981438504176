import { describe, expect, it } from "vitest";
import { better, LINES } from "./lines";

describe("better and worse", () => {
  const line = (id: string) => LINES.find((l) => l.id === id)!;
  it("knows which way is better", () => {
    expect(better(line("f3"), 24, 30, false)).toBe("better");
    expect(better(line("f3"), 36, 30, false)).toBe("worse");
    expect(better(line("highest"), 110, 105, false)).toBe("better");
    expect(better(line("impedance"), 3, 6, false)).toBeUndefined();
  });
  it("calls nothing better that is the same, itself or unknown", () => {
    expect(better(line("f3"), 30.1, 30, false)).toBeUndefined();
    expect(better(line("f3"), 20, 30, true)).toBeUndefined();
    expect(better(line("f3"), undefined, 30, false)).toBeUndefined();
  });
  it("names each line once", () => {
    expect(new Set(LINES.map((l) => l.id)).size).toBe(LINES.length);
  });
});
