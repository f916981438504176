// @vitest-environment jsdom

import { expect, it } from "vitest";
import { csv, fileName, standAlone } from "./download";

it("a table is written so that whatever stands in a cell comes back", () => {
  const text = csv(
    ["name", "fs_hz"],
    [
      ["Attic 12, old", 28],
      ['the "big" one', null],
      ["two\nlines", undefined],
      [0, -1.5],
    ],
  );
  expect(text).toBe('name,fs_hz\n"Attic 12, old",28\n"the ""big"" one",\n"two\nlines",\n0,-1.5\n');
});

it("a file's name holds nothing a disk would mind", () => {
  expect(fileName("Village hall: pedal stop / 2")).toBe("village-hall-pedal-stop-2");
  expect(fileName("")).toBe("oak-drum");
});

it("a saved drawing stands alone: the theme's colours are in it, and drawings lie as they did", () => {
  document.documentElement.style.setProperty("--panel", "#fffaf0");
  document.documentElement.style.setProperty("--ink", "#20211f");
  const drawing = (top: number) => {
    const svg = document.createElementNS("http://www.w3.org/2000/svg", "svg");
    svg.setAttribute("class", "block w-full");
    svg.innerHTML = '<path d="M0 0H1" stroke="var(--ink)"></path>';
    svg.getBoundingClientRect = () => new DOMRect(20, top, 300, 100);
    return svg;
  };
  const sheet = new DOMParser().parseFromString(standAlone([drawing(50), drawing(160)]), "image/svg+xml");
  const [outer, first, second] = sheet.querySelectorAll("svg");
  expect(outer?.getAttribute("viewBox")).toBe("0 0 300 210");
  expect([first?.getAttribute("y"), second?.getAttribute("y")]).toEqual(["0", "110"]);
  expect(first?.hasAttribute("class")).toBe(false);
  expect(first?.querySelector("path")?.getAttribute("stroke")).toBe("#20211f");
  expect(sheet.documentElement.outerHTML).not.toContain("var(");
});
