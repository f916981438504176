import { printUnit, show, tidy } from "../../lib/quantity";
import { termOfFigure } from "../../lib/glossary";
import { Tip } from "../../ui/Tip";
import { useSettings } from "../../app/settings";
import { useDocument, useEvaluation, useWorkbench } from "../../workbench/context";

/** The family's own figures, each with its sentence; bands with their edges. */
export function Figures() {
  const evaluation = useEvaluation();
  const { system } = useSettings();
  if (!evaluation) return null;
  const { figures, passband, estimate } = evaluation.summary;
  return (
    <>
      <dl className="grid grid-cols-2 gap-x-3 border-b border-rule/70 py-1 text-xs" data-testid="figures">
        {figures.map((f) => {
          const shown = show(f.value, f.unit, system, 3);
          return (
            <div key={f.id} className="flex items-baseline gap-1">
              <Tip text={f.help} term={termOfFigure(f.id)}>
                <dt className="min-w-0 flex-1 text-soft">{f.label}</dt>
              </Tip>
              <dd className="font-mono whitespace-nowrap tabular-nums">
                {shown.text} <span className="text-soft">{printUnit(shown.unit)}</span>
              </dd>
            </div>
          );
        })}
      </dl>
      {passband && (
        <p className="py-1 text-xs" data-testid="passband">
          Band {tidy(passband.lower_hz, 3)} to {tidy(passband.upper_hz, 3)} Hz, {signed(passband.gain_db)} dB
          against the bare woofer, ripple {passband.ripple_db.toFixed(1)} dB.
        </p>
      )}
      {estimate && <p className="py-1 text-xs text-ochre">{estimate}</p>}
    </>
  );
}

const signed = (v: number) => `${v < 0 ? "−" : "+"}${Math.abs(v).toFixed(1)}`;

/** Weights at hand, each with the tuning it gives; one press screws it on. */
export function Steps() {
  const workbench = useWorkbench();
  const document = useDocument();
  const steps = useEvaluation()?.summary.steps ?? [];
  if (!steps.length || !("radiators" in document.enclosure)) return null;
  const now = document.enclosure.radiators.added_mass_g ?? 0;
  return (
    <div className="border-b border-rule/70 py-1 text-xs" role="group" aria-label="Weights at hand">
      <div className="flex flex-wrap gap-1">
        {steps.map((s) => (
          <button
            key={s.title}
            type="button"
            aria-pressed={Math.abs(s.value - now) < 0.01}
            title={`${tidy(s.value, 3)} g on each radiator`}
            className={`rounded-sm border px-1.5 py-0.5 ${
              Math.abs(s.value - now) < 0.01 ? "border-oak bg-selected" : "border-rule hover:bg-selected"
            }`}
            onClick={() => workbench.set(s.pointer, s.value)}
          >
            {s.title} <span className="font-mono">{tidy(s.tuning_hz, 3)} Hz</span>
          </button>
        ))}
      </div>
      <p className="pt-0.5 text-soft">Count the nut too; loose weights rattle.</p>
    </div>
  );
}
