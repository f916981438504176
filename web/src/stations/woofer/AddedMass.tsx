import { useSettings } from "../../app/settings";
import { inSystem, tidy } from "../../lib/quantity";
import { SchemaForm } from "../../ui/SchemaForm";
import { useDocument, useEvaluation, useWorkbench } from "../../workbench/context";
import { Head, Heads, Name, Row, Value } from "../../ui/Table";

const MASS = ["added_mass_g"];

/** What if mass is fixed to the cone: a slider, and the stock woofer beside the loaded one. */
export function AddedMass() {
  const document = useDocument();
  const workbench = useWorkbench();
  const summary = useEvaluation()?.summary;
  const grams = document.array?.added_mass_g ?? 0;
  const most = Math.max(20, Math.round(summary?.woofer.mms_g ?? 100));
  const { system } = useSettings();
  const travel = inSystem("travel", system);
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
          `stroke at ${tidy(result.excursion_at_hz, 3)} Hz, ${travel.unit}`,
          result.stock.excursion_mm * travel.times,
          result.loaded.excursion_mm * travel.times,
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
          <Heads>
            <td />
            <Head>stock</Head>
            <Head>+{tidy(grams, 3)} g</Head>
          </Heads>
          <tbody>
            {lines.map(([title, stock, loaded, digits]) => (
              <Row key={title}>
                <Name className="py-[2px] text-soft">{title}</Name>
                <Value>{typeof stock === "number" ? tidy(stock, digits) : "–"}</Value>
                <Value>{typeof loaded === "number" ? tidy(loaded, digits) : "–"}</Value>
              </Row>
            ))}
            <Row>
              <Name className="py-[2px] text-soft">power for the old level</Name>
              <Value>1 x</Value>
              <Value>{tidy(result.power_ratio, 3)} x</Value>
            </Row>
          </tbody>
        </table>
      )}
    </section>
  );
}
