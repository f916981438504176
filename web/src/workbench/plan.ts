// The work plan: what the workshop keeps beside a revision while it is built.

import type { WorkPlan } from "../api/client";

export type Tick = NonNullable<WorkPlan["steps"]>[number];

export const tickOf = (plan: WorkPlan, step: string): Tick | undefined =>
  plan.steps?.find((t) => t.step === step);

/** The plan with one step's tick changed; a step that is not done and has no note is not kept. */
export function ticked(plan: WorkPlan, step: string, change: Partial<Omit<Tick, "step">>): WorkPlan {
  const made: Tick = { ...tickOf(plan, step), ...change, step };
  const others = (plan.steps ?? []).filter((t) => t.step !== step);
  return withSteps(plan, made.done || made.note ? [...others, made] : others);
}

function withSteps(plan: WorkPlan, steps: Tick[]): WorkPlan {
  const made = { ...plan };
  delete made.steps;
  return steps.length ? { ...made, steps } : made;
}

/**
 * What two have made of one plan, joined: of each price and tick the one that was changed, mine where both were; of two notes both,
 * theirs first, so that no word is lost.
 */
export function merged(base: WorkPlan, mine: WorkPlan, theirs: WorkPlan): WorkPlan {
  const prices = joined(base.prices ?? {}, mine.prices ?? {}, theirs.prices ?? {});
  const names = [...(theirs.steps ?? []), ...(mine.steps ?? [])].map((t) => t.step);
  const steps = [...new Set(names)].flatMap((step) => {
    const [b, m, t] = [base, mine, theirs].map((plan) => tickOf(plan, step));
    const done = (m?.done ?? false) !== (b?.done ?? false) ? (m?.done ?? false) : (t?.done ?? false);
    const note = joinedNote(b?.note ?? "", m?.note ?? "", t?.note ?? "");
    return done || note ? [{ step, ...(done && { done }), ...(note && { note }) }] : [];
  });
  const made = withSteps({ ...theirs }, steps);
  delete made.prices;
  return Object.keys(prices).length ? { ...made, prices } : made;
}

function joined<T extends object>(base: T, mine: T, theirs: T): T {
  const list: [string, unknown][] = [];
  for (const key of new Set([...Object.keys(theirs), ...Object.keys(mine)])) {
    const [b, m, t] = [base, mine, theirs].map((o) => (o as Record<string, unknown>)[key]);
    const value = m !== b ? m : t;
    if (value !== undefined && value !== null) list.push([key, value]);
  }
  return Object.fromEntries(list) as T;
}

function joinedNote(base: string, mine: string, theirs: string): string {
  if (mine === base || mine === theirs) return theirs;
  if (theirs === base) return mine;
  return `${theirs}\n${mine}`;
}
