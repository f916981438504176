import { useState } from "react";
import { tidy } from "../../../lib/quantity";
import { flagsOf } from "../../../lib/tuning";
import { Live, useDocument, useEvaluation } from "../../../workbench/context";
import { BaffleSection } from "./BaffleSection";
import { BoxSection } from "./BoxSection";
import { ChambersSection } from "./ChambersSection";
import { moving, prefersStillness, strokeOf, useMotion, usePhase } from "./motion";
import { PathSection } from "./PathSection";
import { useSize } from "../../../app/settings";

/** The box in section, and the air in motion at a frequency of one's choice. */
export function Section() {
  const size = useSize();
  const document = useDocument();
  const evaluation = useEvaluation();
  const [on, setOn] = useState(false);
  const [chosen, setChosen] = useState<number>();
  const still = prefersStillness();
  const tuning =
    flagsOf(document, evaluation)[0]?.hz ?? evaluation?.summary.figures.find((f) => f.unit === "Hz")?.value;
  const frequency = chosen ?? tuning ?? 40;
  const motion = useMotion(frequency, on);
  const [phase, setPhase] = usePhase(on && !still);
  const now = moving(motion, phase);
  const { family } = document.enclosure;
  const [held, setHeld] = useState(false);
  const { path, section } = evaluation ?? {};
  const drawing = path ? (
    <PathSection moving={now} />
  ) : section ? (
    <BoxSection section={section} moving={now} />
  ) : family.startsWith("bandpass") ? (
    <ChambersSection moving={now} />
  ) : family.endsWith("baffle") ? (
    <BaffleSection moving={now} />
  ) : null;
  const outside = motion?.openings.find((o) => o.outside);
  return (
    <section aria-label="Section" className="mt-1">
      <div onFocus={() => setHeld(true)} onBlur={() => setHeld(false)}>
        <Live when={held}>{drawing}</Live>
      </div>
      <div className="flex items-center gap-2 text-xs text-soft">
        <button
          type="button"
          aria-pressed={on}
          className="rounded-sm border border-rule px-1.5 py-0.5 text-oak hover:bg-selected"
          onClick={() => setOn(!on)}
        >
          {on ? "Hold the air still" : "Air in motion"}
        </button>
        {on && (
          <input
            type="range"
            aria-label="Frequency of the motion"
            aria-valuetext={`${tidy(frequency, 3)} Hz`}
            className="min-w-0 flex-1 accent-oak"
            min={Math.log(10)}
            max={Math.log(200)}
            step={0.01}
            value={Math.log(frequency)}
            onChange={(e) => setChosen(Number(Math.exp(Number(e.target.value)).toPrecision(3)))}
          />
        )}
      </div>
      {on && still && (
        <label className="flex items-center gap-2 text-xs text-soft">
          Instant
          <input
            type="range"
            className="flex-1 accent-oak"
            min={0}
            max={1}
            step={0.01}
            value={phase}
            onChange={(e) => setPhase(Number(e.target.value))}
          />
        </label>
      )}
      {on && motion && (
        <p className="text-xs text-soft" data-testid="motion">
          {tidy(motion.frequency_hz, 3)} Hz: cone {size(strokeOf(motion.cone), "travel", 2)}
          {outside &&
            `, ${outside.radiator ? "radiator" : "air at the opening"} ${size(strokeOf(outside.swing), "travel", 2)}`}
          {still ? " (drawn still, as your system asks)" : ", slowed down, true to one another"}
        </p>
      )}
    </section>
  );
}
