// The work plan: what the workshop keeps beside a revision while it is built.

import type { WorkPlan } from "../api/client";

export type Tick = NonNullable<WorkPlan["steps"]>[number];

export type Bought = NonNullable<WorkPlan["bought"]>[number];

export const tickOf = (plan: WorkPlan, step: string): Tick | undefined =>
  plan.steps?.find((t) => t.step === step);

/** Whether a tick says anything. */
const says = (t: Tick) =>
  !!(t.done || t.note || t.minutes || t.running_since) || t.allow_min != null || t.wait_h != null;

/** The plan with one step's tick changed; one that says nothing is not kept. */
export function ticked(plan: WorkPlan, step: string, change: Partial<Omit<Tick, "step">>): WorkPlan {
  const made: Tick = { ...tickOf(plan, step), ...change, step };
  const others = (plan.steps ?? []).filter((t) => t.step !== step);
  return withSteps(plan, says(made) ? [...others, cleaned(made)] : others);
}

/** A tick without what is left open. */
const cleaned = (tick: Tick): Tick =>
  Object.fromEntries(
    Object.entries(tick).filter(([, v]) => v !== undefined && v !== null && v !== ""),
  ) as Tick;

/** Minutes of a step's clock up to now: what was kept, and what runs. */
export function minutesOf(tick: Tick | undefined, now: number): number {
  const since = tick?.running_since ? Date.parse(tick.running_since) : NaN;
  return (tick?.minutes ?? 0) + (Number.isFinite(since) ? Math.max(0, now - since) / 60_000 : 0);
}

/** The change that starts a step's clock, or stops it and keeps what it ran. */
export function clocked(tick: Tick | undefined, now: number): Partial<Tick> {
  if (!tick?.running_since) return { running_since: new Date(now).toISOString() };
  return { running_since: undefined, minutes: Math.round(minutesOf(tick, now) * 10) / 10 };
}

function withSteps(plan: WorkPlan, steps: Tick[]): WorkPlan {
  const made = { ...plan };
  delete made.steps;
  return steps.length ? { ...made, steps } : made;
}

function withBought(plan: WorkPlan, bought: Bought[]): WorkPlan {
  const made = { ...plan };
  delete made.bought;
  return bought.length ? { ...made, bought } : made;
}

/** The plan with what was paid for a line of the shopping list changed; a line that says nothing is not kept. */
export function paidFor(plan: WorkPlan, item: string, change: Partial<Omit<Bought, "item">>): WorkPlan {
  const old = plan.bought?.find((b) => b.item === item);
  const entries = Object.entries({ ...old, ...change }).filter(
    ([key, v]) => key !== "item" && v !== undefined && v !== null && v !== "",
  );
  const others = (plan.bought ?? []).filter((b) => b.item !== item);
  return withBought(plan, entries.length ? [...others, { ...Object.fromEntries(entries), item }] : others);
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
    const own = (m?.done ?? false) !== (b?.done ?? false);
    // time spent by two adds up
    const minutes = Math.max(0, (t?.minutes ?? 0) + (m?.minutes ?? 0) - (b?.minutes ?? 0));
    const running = m?.running_since !== b?.running_since ? m?.running_since : t?.running_since;
    const stated = joined<Partial<Tick>>(settled(b), settled(m), settled(t));
    const made: Tick = {
      ...stated,
      step,
      done: done || undefined,
      note: note || undefined,
      done_at: done ? ((own ? m : t)?.done_at ?? undefined) : undefined,
      minutes: minutes || undefined,
      running_since: running ?? undefined,
    };
    return says(made) ? [cleaned(made)] : [];
  });
  const lines = [...(theirs.bought ?? []), ...(mine.bought ?? [])].map((b) => b.item);
  const bought = [...new Set(lines)].flatMap((item) => {
    const [b, m, t] = [base, mine, theirs].map((plan) => plan.bought?.find((l) => l.item === item));
    const line = joined<Partial<Bought>>(b ?? {}, m ?? {}, t ?? {});
    return Object.keys(line).some((key) => key !== "item") ? [{ ...line, item }] : [];
  });
  const days = joined(base.days ?? {}, mine.days ?? {}, theirs.days ?? {});
  const made = withBought(withSteps({ ...theirs }, steps), bought);
  delete made.prices;
  delete made.days;
  if (Object.keys(days).length) made.days = days;
  return Object.keys(prices).length ? { ...made, prices } : made;
}

/** What a builder states of a step, of which the one that was changed holds. */
const settled = (t: Tick | undefined): Partial<Tick> => {
  const { allow_min, wait_h, reckoned_min } = t ?? {};
  return { allow_min, wait_h, reckoned_min };
};

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
