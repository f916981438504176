// The task that is being tried in this browser, and those that were done.

import { useSyncExternalStore } from "react";
import type { Text } from "../api/client";

export type Trying = {
  /** The practice build it is tried in. */
  build: string;
  task: string;
  /** Steps done. */
  done: number;
  /** What came of the last of them. */
  told: Text[];
  began: number;
  ended?: number;
};

type Kept = {
  trying?: Trying | undefined;
  /** Seconds each task took, the quickest time. */ took: Record<string, number>;
};

const KEY = "oak-drum.tour";
const listeners = new Set<() => void>();

function load(): Kept {
  try {
    return { took: {}, ...(JSON.parse(localStorage.getItem(KEY) ?? "{}") as Partial<Kept>) };
  } catch {
    return { took: {} };
  }
}

let kept = load();

function keep(next: Kept) {
  kept = next;
  localStorage.setItem(KEY, JSON.stringify(next));
  listeners.forEach((listener) => listener());
}

export const tourState = (): Kept => kept;

export const useTour = (): Kept =>
  useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, tourState);

export const begin = (build: string, task: string) =>
  keep({ ...kept, trying: { build, task, done: 0, told: [], began: Date.now() } });

/** Steps that were done just now, of so many. */
export function reached(done: number, told: Text[], of: number) {
  const { trying } = kept;
  if (!trying || done <= trying.done) return;
  const ended = done >= of && trying.ended === undefined ? Date.now() : trying.ended;
  const took = { ...kept.took };
  if (ended !== undefined && trying.ended === undefined) {
    const seconds = Math.max(1, Math.round((ended - trying.began) / 1000));
    took[trying.task] = Math.min(took[trying.task] ?? Infinity, seconds);
  }
  keep({ took, trying: { ...trying, done, told, ...(ended !== undefined && { ended }) } });
}

/** The same task from its beginning. */
export function again() {
  if (kept.trying) begin(kept.trying.build, kept.trying.task);
}

export const leave = () => keep({ took: kept.took });

/** Seconds in words. */
export const lasted = (seconds: number): string =>
  seconds < 60 ? `${seconds} s` : `${Math.floor(seconds / 60)} min ${seconds % 60} s`;
