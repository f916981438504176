import { describe, expect, it } from "vitest";
import type { ShelfLine } from "../api/client";
import { FIGURES, FRAME, NO_FILTER, passes, sheetWith, sorted } from "./shelf";

const line = (name: string, fs: number | null, more: object = {}): ShelfLine => ({
  id: name,
  version: 1,
  row: {
    name,
    maker: "Nobody",
    coils: 1,
    provenance: "data_sheet",
    sets: 1,
    tags: ["hall"],
    favourite: false,
    size_in: 12,
    fs_hz: fs,
    ...more,
  },
});

describe("the shelf", () => {
  it("keeps frame and figures apart", () => {
    expect(FIGURES).toContain("bl_t_m");
    expect(FRAME).toContain("coils");
    expect(FRAME).toContain("price");
    expect(FIGURES.filter((f) => FRAME.includes(f))).toEqual([]);
    const sheet = sheetWith(
      {
        format: "oak-drum-woofer",
        version: 1,
        woofer: { name: "A" },
        sets: [
          { provenance: "data_sheet", figures: { fs_hz: 30 } },
          { provenance: "measured_new", figures: { fs_hz: 33 } },
        ],
      },
      1,
    );
    expect(sheet).toEqual({ name: "A", fs_hz: 33 });
  });

  it("finds by words, tags, favourites and ranges", () => {
    const a = line("Attic 12", 28);
    expect(passes(a, { ...NO_FILTER, text: "nobody attic" })).toBe(true);
    expect(passes(a, { ...NO_FILTER, text: "12in hall" })).toBe(true);
    expect(passes(a, { ...NO_FILTER, text: "cellar" })).toBe(false);
    expect(passes(a, { ...NO_FILTER, favourites: true })).toBe(false);
    expect(passes(a, { ...NO_FILTER, tag: "hall" })).toBe(true);
    expect(passes(a, { ...NO_FILTER, ranges: { fs_hz: [20, 27.9] } })).toBe(false);
    expect(passes(a, { ...NO_FILTER, ranges: { fs_hz: [28, undefined] } })).toBe(true);
    expect(passes(a, { ...NO_FILTER, ranges: { price: [undefined, 100] } })).toBe(false);
  });

  it("sorts with what is not known last either way", () => {
    const list = [line("A", 30), line("B", null), line("C", 20)];
    const names = (down: boolean) => sorted(list, { by: "fs_hz", down }).map((l) => l.row.name);
    expect(names(false)).toEqual(["C", "A", "B"]);
    expect(names(true)).toEqual(["A", "C", "B"]);
  });
});
