// @vitest-environment jsdom

import { beforeEach, expect, it, vi } from "vitest";

const KEY = "oak-drum.shelf";
let filter: typeof import("./filter");
const fresh = async () => {
  vi.resetModules();
  filter = await import("./filter");
};

beforeEach(() => localStorage.clear());

it("what the shelf is narrowed to is kept in this browser", async () => {
  await fresh();
  filter.narrow({ text: "attic", favourites: true });
  filter.choose({ order: { by: "fs_hz", down: true } });
  const kept = JSON.parse(localStorage.getItem(KEY) ?? "{}") as Record<string, unknown>;
  expect(kept).toMatchObject({
    filter: { text: "attic", favourites: true },
    order: { by: "fs_hz", down: true },
  });
});

it("what was kept by an older version gets what it does not know, and what cannot be read is let go", async () => {
  localStorage.setItem(KEY, JSON.stringify({ ranges: true }));
  await fresh();
  filter.narrow({ tag: "hall" });
  expect(JSON.parse(localStorage.getItem(KEY) ?? "{}")).toMatchObject({
    ranges: true,
    filter: { text: "", tag: "hall" },
    columns: expect.arrayContaining(["fs_hz", "qts"]) as string[],
  });
  localStorage.setItem(KEY, "{half");
  await fresh();
  filter.narrow({ tag: "attic" });
  expect(JSON.parse(localStorage.getItem(KEY) ?? "{}")).toMatchObject({
    ranges: false,
    filter: { tag: "attic" },
  });
});

it("a shelf is narrowed by words, stars, a tag or a bound, not by bounds that were emptied again", async () => {
  await fresh();
  const open = { text: "", favourites: false, tag: "", ranges: {} };
  expect(filter.narrowed(open)).toBe(false);
  expect(filter.narrowed({ ...open, text: "  " })).toBe(false);
  expect(filter.narrowed({ ...open, text: "12" })).toBe(true);
  expect(filter.narrowed({ ...open, favourites: true })).toBe(true);
  expect(filter.narrowed({ ...open, tag: "hall" })).toBe(true);
  expect(filter.narrowed({ ...open, ranges: { fs_hz: [undefined, 40] } })).toBe(true);
  expect(filter.narrowed({ ...open, ranges: { fs_hz: [undefined, undefined] } })).toBe(false);
});
