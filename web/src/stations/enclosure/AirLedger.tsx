import { printUnit, show } from "../../lib/quantity";
import { useSettings } from "../../app/settings";
import { SchemaForm } from "../../ui/SchemaForm";
import { useEvaluation, usePartOfDocument } from "../../workbench/context";
import { focusField } from "../../app/focus";
import { LedgerBar } from "./LedgerBar";
import { NoCabinet } from "./NoCabinet";
import { termOf } from "../../lib/glossary";
import { plain } from "../../lib/said";
import { SaveCsv, Saved } from "../../ui/Saved";
import { Tip } from "../../ui/Tip";
import { Say } from "../../ui/Say";
import { Value } from "../../ui/Table";
import { Disclosure } from "../../ui/Disclosure";

/** Every litre of the cabinet accounted for; each line leads to its cause. */
export function AirLedger({ sizes = true }: { sizes?: boolean }) {
  const evaluation = useEvaluation();
  const has = usePartOfDocument((d) => !!d.cabinet);
  const { system } = useSettings();
  const ledger = evaluation?.ledger;
  if (!has) {
    return <NoCabinet then="and every litre is accounted for." />;
  }
  const litres = (value: number) => {
    const shown = show(Math.abs(value) < 1e-9 ? 0 : value, "L", system);
    return system === "metric" ? (Math.abs(value) < 1e-9 ? 0 : value).toFixed(1) : shown.text;
  };
  const ratio = ledger ? ledger.net_l / ledger.wanted_net_l : 1;
  const verdict = ratio < 0.97 ? "text-brick" : ratio > 1.05 ? "text-ochre" : "text-verdigris";
  return (
    <section aria-label="Air ledger" className="mt-2">
      <h2 className="flex items-baseline gap-2">
        <Tip term={termOf("air_ledger")}>
          <span className="flex-1 font-display text-base font-semibold">Air ledger</span>
        </Tip>
        {ledger && (
          <SaveCsv
            title="Air ledger"
            columns={["line", "litres"]}
            rows={() => [
              ...ledger.lines.map((l) => [plain(l.label), l.litres]),
              ["net", ledger.net_l],
              ["fill, times", ledger.fill_factor],
              ["acts like", ledger.acts_like_l],
              ["wanted", ledger.wanted_net_l],
            ]}
          />
        )}
        <span className="text-xs text-soft">{printUnit(show(1, "L", system).unit)}</span>
      </h2>
      {ledger && (
        <table className="w-full">
          <tbody>
            {ledger.lines.map((line) => (
              <tr key={line.id}>
                <td className="py-px">
                  <button
                    type="button"
                    className="text-left hover:text-oak hover:underline"
                    onClick={() => focusField(line.pointer)}
                  >
                    <Say text={line.label} />
                  </button>
                </td>
                <Value>{litres(line.litres)}</Value>
              </tr>
            ))}
            <tr className="border-t border-ink font-semibold">
              <td className="py-px">net</td>
              <Value data-testid="ledger-net">{litres(ledger.net_l)}</Value>
            </tr>
            <tr>
              <td className="py-px">
                {Math.abs(ledger.fill_factor - 1) < 0.0005
                  ? "no fill, times 1"
                  : `fill, times ${ledger.fill_factor.toFixed(2)}: acts like ${litres(ledger.acts_like_l)}`}
              </td>
              <Value>x {ledger.fill_factor.toFixed(2)}</Value>
            </tr>
            <tr className={`border-t-3 border-double border-ink font-semibold ${verdict}`}>
              <td className="py-px">wanted</td>
              <Value>{litres(ledger.wanted_net_l)}</Value>
            </tr>
          </tbody>
        </table>
      )}
      {ledger && (
        <Saved title="Where the litres go" quiet>
          <LedgerBar ledger={ledger} />
        </Saved>
      )}
      {sizes && (
        <Disclosure title="Cabinet sizes">
          <SchemaForm pointer="/cabinet" />
        </Disclosure>
      )}
    </section>
  );
}
