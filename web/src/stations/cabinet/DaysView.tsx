import { useMemo, useState } from "react";
import { api, get, type DaysPlan } from "../../api/client";
import { useSay, useSettings } from "../../app/settings";
import { useAnswer } from "../../api/answer";
import { downloadText } from "../../lib/download";
import { Button } from "../../ui/Button";
import { FormContext } from "../../ui/form";
import { Say } from "../../ui/Say";
import { SchemaForm } from "../../ui/SchemaForm";
import { useCurrentPart, useDocument, useWorkbench } from "../../workbench/context";
import { NoCabinet } from "../enclosure/NoCabinet";
import { ticked } from "../../workbench/plan";
import { inHours } from "./StepClock";
import { useBuilding } from "./useCabinet";
import { ofWorkPlan } from "./workForm";

type Sitting = DaysPlan["sittings"][number];

/** What the clock of this page says, to the minute. */
function clock(at = new Date()): { now: string; ahead_min: number } {
  const ahead_min = -at.getTimezoneOffset();
  return { now: new Date(at.getTime() + ahead_min * 60_000).toISOString().slice(0, 16), ahead_min };
}

const DAY = new Intl.DateTimeFormat("en-GB", {
  weekday: "long",
  day: "numeric",
  month: "long",
  timeZone: "UTC",
});
/** A moment of the plan, which has no zone of its own. */
const moment = (text: string) => new Date(`${text}:00Z`);
const hour = (text: string) => text.slice(11);
const short = (text: string) => `${DAY.format(moment(text))}, ${hour(text)}`;

/** When what is done: free times, warmth, glue and finish on the left, the days that come of it on the right. */
export function DaysView() {
  const document = useDocument();
  const workbench = useWorkbench();
  const work = useCurrentPart((r) => r.work);
  const form = useMemo(() => ofWorkPlan(workbench), [workbench]);
  const { system } = useSettings();
  const say = useSay();
  const [wrong, setWrong] = useState("");
  // the plan is made anew when something of it changes, from when the view was opened
  const [opened] = useState(() => clock());
  const about = document.cabinet ? { document, work, ...opened } : undefined;
  const plan = useAnswer<DaysPlan>(
    "days",
    about,
    (signal) => (about ? get(api.POST("/api/days", { body: about, signal })) : Promise.reject(new Error())),
    400,
  );
  if (!document.cabinet) return <NoCabinet then="and its building is laid into your days." />;
  const days = new Map<string, Sitting[]>();
  for (const s of plan?.sittings ?? []) {
    const day = s.from.slice(0, 10);
    days.set(day, [...(days.get(day) ?? []), s]);
  }
  const save = async () => {
    if (!about) return;
    setWrong("");
    try {
      const text = await get(api.POST("/api/days/calendar", { body: { ...about, system }, parseAs: "text" }));
      downloadText(text, "text/calendar", "days.ics");
    } catch (cause) {
      setWrong(cause instanceof Error ? cause.message : "That did not work.");
    }
  };
  return (
    <section aria-label="Days" className="grid min-h-0 flex-1 gap-6 lg:grid-cols-[306px_minmax(0,1fr)]">
      <div>
        <FormContext value={form}>
          <SchemaForm pointer="/days" assumed={ASSUMED} />
        </FormContext>
        <p className="pt-2 text-xs text-soft">
          Minutes and drying times are common practice by class of product, at 20 °C; what stands on the tin
          comes first. Each can be set at its step below; what your own clocks say is learned.
        </p>
      </div>
      <div className="min-w-0 space-y-3">
        {!plan && <p className="text-soft">Computing…</p>}
        {plan && (
          <>
            <h2 className="flex flex-wrap items-baseline gap-x-3 font-display text-base font-semibold">
              <span data-testid="days-done">
                {plan.done_at ? `Done on ${DAY.format(moment(plan.done_at))}` : "No calendar yet"}
              </span>
              <span className="font-sans text-xs font-normal text-soft">
                {inHours(plan.hours_left * 60)} of work left
              </span>
              {plan.sittings.length > 0 && (
                <span className="ml-auto font-sans text-xs font-normal">
                  <Button onClick={() => void save()}>Save as a calendar</Button>
                </span>
              )}
            </h2>
            {wrong && (
              <p role="alert" className="text-brick">
                {wrong}
              </p>
            )}
            <ul className="space-y-1">
              {[...plan.unknown, ...plan.remarks].map((text, i) => (
                <li key={i} className="border-l-2 border-ochre pl-2 text-xs">
                  <Say text={text} />
                </li>
              ))}
            </ul>
            <ol className="space-y-3" data-testid="days">
              {[...days].map(([day, sittings]) => (
                <li key={day}>
                  <h3 className="border-b border-rule font-display font-semibold">
                    {DAY.format(moment(`${day}T00:00`))}
                  </h3>
                  <ul>
                    {sittings.map((s) => (
                      <li key={s.from} className="grid grid-cols-[6.5rem_minmax(0,1fr)] gap-2 py-1">
                        <span className="font-mono text-xs leading-5 tabular-nums">
                          {hour(s.from)}–{hour(s.to)}
                        </span>
                        <span>
                          <Say text={s.title} />
                          {(s.part[1] ?? 1) > 1 && (
                            <span className="text-soft">
                              {" "}
                              {s.part[0]} of {s.part[1]}
                            </span>
                          )}
                          {s.hands > 1 && <span className="text-ochre"> · {s.hands} people</span>}
                          {s.then && (
                            <span className="block text-xs text-soft">
                              {s.then.what}
                              {s.then.next_at === s.then.hard_at
                                ? `: until ${short(s.then.next_at)}`
                                : `: go on from ${short(s.then.next_at)}, hard from ${short(s.then.hard_at)}`}
                            </span>
                          )}
                        </span>
                      </li>
                    ))}
                  </ul>
                </li>
              ))}
            </ol>
            <Minutes plan={plan} say={say} />
          </>
        )}
      </div>
    </section>
  );
}

const ASSUMED = { "/days/coats": "as usual", "/days/warmth_c": "not stated" };
const BY = { practice: "common practice", clocks: "your clocks", builder: "you" } as const;

/** How long each step takes, and what the builder says to it. */
function Minutes({ plan, say }: { plan: DaysPlan; say: ReturnType<typeof useSay> }) {
  const workbench = useWorkbench();
  const work = useCurrentPart((r) => r.work);
  const titles = new Map(useBuilding()?.steps.map((s) => [s.id, s.title]));
  const tick = (id: string) => work.steps?.find((t) => t.step === id);
  const keep = (id: string, key: "allow_min" | "wait_h", text: string) => {
    const typed = Number.parseFloat(text.replace(",", "."));
    const value =
      Number.isFinite(typed) && typed >= 0 ? Math.min(typed, key === "wait_h" ? 1000 : 10000) : undefined;
    workbench.changeWork((plan) => ticked(plan, id, { [key]: value }));
  };
  const input = "h-6 w-16 rounded-sm border border-rule bg-panel px-1 text-right tabular-nums";
  return (
    <details>
      <summary className="cursor-pointer text-soft">Minutes and waits, step by step</summary>
      <table className="w-full text-xs">
        <thead>
          <tr className="text-left text-soft">
            <th className="font-normal">step</th>
            <th className="text-right font-normal">min</th>
            <th className="pl-2 font-normal">by</th>
            <th className="text-right font-normal">allow, min</th>
            <th className="text-right font-normal">then wait, h</th>
          </tr>
        </thead>
        <tbody>
          {plan.reckoned.map((r) => {
            const title = titles.get(r.step);
            const name = title ? say(title) : r.step;
            return (
              <tr key={r.step} className="border-t border-rule/70">
                <td className="py-0.5">{name}</td>
                <td className="text-right tabular-nums">{Math.round(r.minutes)}</td>
                <td className="pl-2 text-soft">{BY[r.by]}</td>
                <td className="text-right">
                  <input
                    aria-label={`Allow for ${name}, min`}
                    className={input}
                    inputMode="decimal"
                    defaultValue={tick(r.step)?.allow_min ?? ""}
                    onBlur={(e) => keep(r.step, "allow_min", e.target.value)}
                  />
                </td>
                <td className="text-right">
                  <input
                    aria-label={`Wait after ${name}, h`}
                    className={input}
                    inputMode="decimal"
                    defaultValue={tick(r.step)?.wait_h ?? ""}
                    onBlur={(e) => keep(r.step, "wait_h", e.target.value)}
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </details>
  );
}
