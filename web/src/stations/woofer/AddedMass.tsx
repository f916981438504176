import { tidy } from "../../lib/quantity";
import { SchemaForm } from "../../ui/SchemaForm";
import { useDocument, useEvaluation, useWorkbench } from "../../workbench/context";

const MASS = ["added_mass_g"];

/** What if mass is fixed to the cone: a slider, and the stock woofer beside the loaded one. */
export function AddedMass() {
  const document = useDocument();
  const workbench = useWorkbench();
  const summary = useEvaluation()?.summary;
  const grams = document.array?.added_mass_g ?? 0;
  const most = Math.max(20, Math.round(summary?.woofer.mms_g ?? 100));
  const result = summary?.array.added_mass;
  const lines: [string, number | null | undefined, number | null | undefined, number][] = result
    ? [
        ["fs, Hz", result.stock.fs_hz, result.loaded.fs_hz, 3],
        ["Qts", result.stock.qts, result.loaded.qts, 2],
        ["Qes", result.stock.qes, result.loaded.qes, 2],
        ["Qms", result.stock.qms, result.loaded.qms, 3],
        ["level, 2.83 V, dB", result.stock.sensitivity_db, result.loaded.sensitivity_db, 3],
        ["f3 here, Hz", result.stock.f3_hz, result.loaded.f3_hz, 3],
        [
          `stroke at ${tidy(result.stroke_at_hz, 3)} Hz, mm`,
          result.stock.stroke_mm,
          result.loaded.stroke_mm,
          3,
        ],
      ]
    : [];
  return (
    <section aria-label="Mass on the cone" className="border-b border-rule/70 pb-2">
      <SchemaForm pointer="/array" only={MASS} />
      <input
        type="range"
        aria-label="Mass added to the cone, grams"
        min={0}
        max={most}
        step={1}
        value={Math.min(grams, most)}
        className="w-full accent-oak"
        onChange={(e) => workbench.set("/array/added_mass_g", Number(e.target.value), "mass-drag")}
        onPointerUp={() => workbench.endGesture()}
        onBlur={() => workbench.endGesture()}
      />
      {result && (
        <table className="w-full font-mono text-xs tabular-nums" data-testid="mass">
          <thead className="text-soft">
            <tr>
              <td />
              <th className="text-right font-normal">stock</th>
              <th className="text-right font-normal">+{tidy(grams, 3)} g</th>
            </tr>
          </thead>
          <tbody>
            {lines.map(([title, stock, loaded, digits]) => (
              <tr key={title} className="border-t border-rule/60">
                <th scope="row" className="py-[2px] text-left font-sans font-normal text-soft">
                  {title}
                </th>
                <td className="text-right">{typeof stock === "number" ? tidy(stock, digits) : "–"}</td>
                <td className="text-right">{typeof loaded === "number" ? tidy(loaded, digits) : "–"}</td>
              </tr>
            ))}
            <tr className="border-t border-rule/60">
              <th scope="row" className="py-[2px] text-left font-sans font-normal text-soft">
                power for the old level
              </th>
              <td className="text-right">1 x</td>
              <td className="text-right">{tidy(result.power_ratio, 3)} x</td>
            </tr>
          </tbody>
        </table>
      )}
    </section>
  );
}
