import { useEffect, useState } from "react";
import { clocked, minutesOf, type Tick } from "../../workbench/plan";

/** Minutes as hours and minutes. */
export function inHours(minutes: number): string {
  const whole = Math.round(minutes);
  return whole < 60 ? `${whole} min` : `${Math.floor(whole / 60)} h ${String(whole % 60).padStart(2, "0")}`;
}

/** The clock of a step: started and stopped by hand; since when it runs is kept, so that it runs on over a reload. */
export function StepClock({
  tick,
  keep,
  title,
}: {
  tick: Tick | undefined;
  keep: (change: Partial<Tick>) => void;
  title: string;
}) {
  const [now, setNow] = useState(() => Date.now());
  const runs = !!tick?.running_since;
  useEffect(() => {
    if (!runs) return;
    const timer = setInterval(() => setNow(Date.now()), 5000);
    return () => clearInterval(timer);
  }, [runs]);
  const spent = minutesOf(tick, Math.max(now, tick?.running_since ? Date.parse(tick.running_since) : 0));
  return (
    <span className="flex items-baseline gap-2 text-xs">
      <button
        type="button"
        className={`underline decoration-dotted ${runs ? "font-medium text-verdigris" : "text-oak"}`}
        aria-label={`${runs ? "Stop" : "Start"} the clock of ${title}`}
        onClick={() => {
          const pressed = Date.now();
          setNow(pressed);
          keep(clocked(tick, pressed));
        }}
      >
        {runs ? "stop the clock" : "start the clock"}
      </button>
      {(spent > 0 || runs) && <span className="text-soft tabular-nums">{inHours(spent)}</span>}
    </span>
  );
}
