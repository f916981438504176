// @vitest-environment jsdom

import { beforeEach, expect, it, vi } from "vitest";
import { again, begin, lasted, leave, reached, tourState } from "./tour";

beforeEach(() => {
  vi.useFakeTimers({ now: 1_000_000 });
  leave();
});

it("a task goes on by its steps, never back, and its quickest time is kept", () => {
  begin("b1", "leak");
  vi.advanceTimersByTime(20_000);
  reached(1, [["less"]], 2);
  expect(tourState().trying).toMatchObject({ done: 1, told: [["less"]] });
  reached(0, [], 2);
  expect(tourState().trying?.done).toBe(1);
  vi.advanceTimersByTime(45_000);
  reached(2, [["tight"]], 2);
  expect(tourState().took.leak).toBe(65);
  // what comes after the end changes no time
  vi.advanceTimersByTime(45_000);
  reached(2, [["tight"]], 2);
  expect(tourState().trying?.ended).toBe(1_065_000);

  again();
  expect(tourState().trying).toMatchObject({ build: "b1", task: "leak", done: 0 });
  vi.advanceTimersByTime(90_000);
  reached(2, [], 2);
  expect(tourState().took.leak).toBe(65);
  leave();
  expect(tourState()).toEqual({ took: { leak: 65 } });
  reached(1, [], 2);
  expect(tourState().trying).toBeUndefined();
});

it("tells how long", () => {
  expect([lasted(8), lasted(60), lasted(125)]).toEqual(["8 s", "1 min 0 s", "2 min 5 s"]);
});
