import { cleanup, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, it } from "vitest";
import { change } from "../../app/settings";
import { plain } from "../../lib/said";
import { LedgerBar, pieces } from "./LedgerBar";

const line = (id: string, litres: number) => ({ id, label: [id], litres, pointer: `/${id}` });
const ledger = {
  lines: [line("outside", 100), line("boards", -20), line("woofer", -5), line("port", -15)],
  net_l: 60,
  fill_factor: 1,
  acts_like_l: 60,
  wanted_net_l: 50,
};

beforeEach(() => change({ system: "metric" }));
afterEach(cleanup);

it("every litre of the outside has its place on the bar, end to end", () => {
  const list = pieces(ledger, plain);
  expect(list.map((p) => [p.name, p.from, p.to])).toEqual([
    ["net", 0, 0.6],
    ["boards", 0.6, 0.8],
    ["woofer", 0.8, 0.85],
    ["port", 0.85, 1],
  ]);
  // nothing is left for the air: the bar is what takes it, and no piece is less than nothing
  const full = pieces({ ...ledger, net_l: -10 }, plain);
  expect(full[0]).toMatchObject({ litres: 0, from: 0, to: 0 });
  expect(full.at(-1)?.to).toBe(1);
  expect(pieces({ lines: [], net_l: 0 }, plain)).toEqual([]);
});

it("is read aloud in the units of the page, with what is wanted", () => {
  render(<LedgerBar ledger={ledger} />);
  expect(screen.getByRole("img").getAttribute("aria-label")).toContain("net 60 L, boards 20 L");
  expect(screen.getByRole("img").getAttribute("aria-label")).toContain("wanted 50 L");
  // half of the bar is wanted
  expect(document.querySelector("path")?.getAttribute("d")).toMatch(/^M230 /);
});
