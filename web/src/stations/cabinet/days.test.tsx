import { expect, test } from "vitest";
import { merged, ticked } from "../../workbench/plan";

test("what two state about steps and days is joined", () => {
  const base = { steps: [{ step: "sand", allow_min: 60 }], days: { warmth_c: 18 } };
  const mine = ticked(base, "sand", { allow_min: 90 });
  const theirs = {
    ...ticked(base, "carcass", { wait_h: 30 }),
    days: { warmth_c: 18, glue: "epoxy" as const },
  };
  const both = merged(base, mine, theirs);
  expect(both.steps?.find((t) => t.step === "sand")).toEqual({ step: "sand", allow_min: 90 });
  expect(both.steps?.find((t) => t.step === "carcass")).toEqual({ step: "carcass", wait_h: 30 });
  expect(both.days).toEqual({ warmth_c: 18, glue: "epoxy" });
  // what one takes away is gone, what both left alone stays
  const without = merged(both, ticked(both, "sand", { allow_min: undefined }), both);
  expect(without.steps?.some((t) => t.step === "sand")).toBe(false);
  expect(without.days).toEqual(both.days);
});

test("a tick keeps what its step was reckoned at", () => {
  const done = ticked({}, "cut", { done: true, reckoned_min: 80, done_at: "2026-11-27T10:00:00Z" });
  const later = merged({}, done, { steps: [{ step: "cut", minutes: 30 }] });
  expect(later.steps).toEqual([
    { step: "cut", done: true, minutes: 30, reckoned_min: 80, done_at: "2026-11-27T10:00:00Z" },
  ]);
  expect(ticked(done, "cut", { done: false, reckoned_min: undefined, done_at: undefined })).toEqual({});
});
