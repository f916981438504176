import { tidy } from "../../lib/quantity";
import type { LowCutChoice } from "../../api/client";
import { Button } from "../../ui/Button";
import { Disclosure } from "../../ui/Disclosure";
import { useWorkbench } from "../../workbench/context";
import { useLowCut } from "./useDrive";

/** What a slope is called. */
export function slopeName(slope: LowCutChoice["slope"]): string {
  const shape = {
    butterworth: "Butterworth",
    bessel: "Bessel",
    linkwitz_riley: "Linkwitz-Riley",
    own_q: "Q",
  }[slope.shape];
  return "order" in slope ? `${6 * slope.order} dB/oct ${shape}` : `12 dB/oct ${shape} ${slope.q}`;
}

/** The low cut that saves the cone: found for each slope there is, with what it costs. */
export function LowCutPanel() {
  const workbench = useWorkbench();
  const found = useLowCut();
  if (!found) return null;
  const take = (choice: LowCutChoice) =>
    workbench.take(`Low cut at ${tidy(choice.frequency_hz, 3)} Hz`, choice.changes);
  return (
    <Disclosure title="Low cut that saves the cone" open indented>
      <p className="pb-1 text-xs text-soft">
        {found.wanted
          ? `At ${tidy(found.volts, 3)} V something passes its limit below ${tidy(found.to_hz, 3)} Hz; the lowest corner that prevents it:`
          : `At ${tidy(found.volts, 3)} V nothing passes its limit below ${tidy(found.to_hz, 3)} Hz: no low cut is wanted.`}
      </p>
      {found.wanted && (
        <ul className="text-xs" data-testid="low-cuts">
          {found.choices.map((c, i) => (
            <li key={i} className="flex items-baseline gap-2 border-t border-rule/60 py-1">
              <Button look="action" className="shrink-0 text-xs" onClick={() => take(c)}>
                {tidy(c.frequency_hz, 3)} Hz
              </Button>
              <span className={c.does ? "" : "text-soft"}>
                {slopeName(c.slope)}: {c.loss_db.toFixed(1)} dB and {c.later_ms.toFixed(0)} ms at{" "}
                {tidy(found.note_hz, 3)} Hz{c.does ? "" : `; holds to ${tidy(c.holds_v, 3)} V only`}
              </span>
            </li>
          ))}
        </ul>
      )}
    </Disclosure>
  );
}
