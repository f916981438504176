import { describe, expect, it } from "vitest";
import { better, LINES, type Line } from "./lines";

const line = (way: Line["way"]): Line => ({ id: "x", title: "x", unit: "dB", help: "", way, of: () => 0 });

describe("better and worse", () => {
  it("go by which way is better, and only from half a per cent on", () => {
    expect(better(line(-1), 90, 100, false)).toBe("better");
    expect(better(line(-1), 110, 100, false)).toBe("worse");
    expect(better(line(1), 110, 100, false)).toBe("better");
    expect(better(line(1), 90, 100, false)).toBe("worse");
    expect(better(line(1), 100.49, 100, false)).toBeUndefined();
    expect(better(line(1), 100.51, 100, false)).toBe("better");
    // levels below nothing count by their size too
    expect(better(line(1), -99, -100, false)).toBe("better");
    expect(better(line(1), -99.6, -100, false)).toBeUndefined();
  });
  it("are not told of the one being edited, of what has no way, and of what is not known", () => {
    expect(better(line(1), 110, 100, true)).toBeUndefined();
    expect(better(line(0), 110, 100, false)).toBeUndefined();
    expect(better(line(1), undefined, 100, false)).toBeUndefined();
    expect(better(line(1), 100, undefined, false)).toBeUndefined();
    expect(better(line(1), "vented", "sealed", false)).toBeUndefined();
  });
});

it("every line has a name of its own and says what it is", () => {
  expect(new Set(LINES.map((l) => l.id)).size).toBe(LINES.length);
  expect(LINES.every((l) => l.title && l.help)).toBe(true);
});
