import { describe, expect, it } from "vitest";
import type { WorkPlan } from "../api/client";
import { clocked, merged, minutesOf, paidFor, ticked, tickOf } from "./plan";

describe("ticks", () => {
  it("keeps a step as long as it is done or has a note", () => {
    const cut = ticked({}, "cut", { done: true });
    expect(cut).toEqual({ steps: [{ step: "cut", done: true }] });
    const noted = ticked(cut, "cut", { note: "fence off by 0.3" });
    expect(tickOf(noted, "cut")).toEqual({ step: "cut", done: true, note: "fence off by 0.3" });
    expect(ticked(ticked(noted, "cut", { done: false }), "cut", { note: "" })).toEqual({});
  });

  it("leaves prices and other steps alone", () => {
    const plan: WorkPlan = { prices: { sheet: 58 }, steps: [{ step: "holes", done: true }] };
    expect(ticked(plan, "cut", { done: true })).toEqual({
      prices: { sheet: 58 },
      steps: [
        { step: "holes", done: true },
        { step: "cut", done: true },
      ],
    });
  });
});

describe("two who changed one plan", () => {
  const base: WorkPlan = { prices: { sheet: 58, woofer: 100 }, steps: [{ step: "cut", note: "as drawn" }] };

  it("keeps what each changed", () => {
    const mine = ticked({ ...base, prices: { sheet: 60, woofer: 100 } }, "cut", { done: true });
    const theirs = ticked({ ...base, prices: { sheet: 58, fill_per_kg: 14 } }, "holes", { done: true });
    const both = merged(base, mine, theirs);
    expect(both.prices).toEqual({ sheet: 60, fill_per_kg: 14 });
    expect(tickOf(both, "cut")).toEqual({ step: "cut", done: true, note: "as drawn" });
    expect(tickOf(both, "holes")).toEqual({ step: "holes", done: true });
  });

  it("loses no word of two notes", () => {
    const mine = ticked(base, "cut", { note: "fence off" });
    const theirs = ticked(base, "cut", { note: "blade dull" });
    expect(tickOf(merged(base, mine, theirs), "cut")?.note).toBe("blade dull\nfence off");
    expect(tickOf(merged(base, base, theirs), "cut")?.note).toBe("blade dull");
    expect(tickOf(merged(base, mine, base), "cut")?.note).toBe("fence off");
  });

  it("lets a tick be taken back, and both take the same one back", () => {
    const done = ticked({}, "cut", { done: true });
    expect(merged(done, {}, done)).toEqual({});
    expect(merged(done, done, {})).toEqual({});
    expect(merged(done, {}, {})).toEqual({});
  });

  it("is what the other has where mine is untouched, and mine where theirs is", () => {
    const other = ticked({ prices: { sheet: 1 } }, "holes", { note: "n" });
    expect(merged(base, base, other)).toEqual(other);
    expect(merged(base, other, base)).toEqual(other);
  });
});

it("runs a step's clock over a reload, stops it, and adds up what two spent", () => {
  const at = Date.parse("2026-03-01T10:00:00Z");
  const begun = ticked({}, "cut", clocked(undefined, at));
  expect(tickOf(begun, "cut")).toEqual({ step: "cut", running_since: "2026-03-01T10:00:00.000Z" });
  const later = at + 25 * 60_000;
  expect(minutesOf(tickOf(begun, "cut"), later)).toBe(25);
  const stopped = ticked(begun, "cut", clocked(tickOf(begun, "cut"), later));
  expect(tickOf(stopped, "cut")).toEqual({ step: "cut", minutes: 25 });
  // a clock that was set back takes nothing away
  expect(minutesOf(tickOf(begun, "cut"), at - 60_000)).toBe(0);
  const mine = ticked(stopped, "cut", { minutes: 40 });
  const theirs = ticked(stopped, "cut", { minutes: 35, done: true, done_at: "2026-03-01T12:00:00Z" });
  expect(merged(stopped, mine, theirs).steps).toEqual([
    { step: "cut", done: true, done_at: "2026-03-01T12:00:00Z", minutes: 50 },
  ]);
});

it("keeps what was paid line by line, and joins what two have written of one", () => {
  const base = paidFor({}, "woofer", { paid: 180, shop: "Corner shop" });
  expect(base).toEqual({ bought: [{ paid: 180, shop: "Corner shop", item: "woofer" }] });
  expect(paidFor(base, "woofer", { paid: undefined, shop: "" })).toEqual({});
  const mine = paidFor(base, "woofer", { paid: 175 });
  const theirs = paidFor(paidFor(base, "woofer", { left: 1 }), "glue", { paid: 6 });
  expect(merged(base, mine, theirs).bought).toEqual([
    { paid: 175, shop: "Corner shop", left: 1, item: "woofer" },
    { paid: 6, item: "glue" },
  ]);
});
