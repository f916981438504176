import { useFigure } from "../../app/settings";
import { useLayoutEffect, useState } from "react";
import type { ChamberModes, ModeRow, Quiet } from "../../api/client";
import { tidy } from "../../lib/quantity";
import { painted } from "../../lib/traced";
import { SavedTable } from "../../ui/Saved";
import { Button } from "../../ui/Button";
import { useWorkbench } from "../../workbench/context";
import { ModePicture } from "./ModePicture";
import { useWaves } from "./useQuiet";
import { Say } from "../../ui/Say";
import { Head, Heads, Name, Row, Value } from "../../ui/Table";

/** Standing waves: which there are, what they do, what they look like, and the proportions that spread them. */
export function QuietPicture() {
  const quiet = useWaves();
  // for who measures how soon a drag is seen
  useLayoutEffect(() => {
    if (quiet) painted("quiet", quiet);
  }, [quiet]);
  if (!quiet) return <p className="text-soft">Computing…</p>;
  return (
    <div className="space-y-4">
      {quiet.chambers.map((chamber) => (
        <Chamber key={chamber.pointer} chamber={chamber} alone={quiet.chambers.length === 1} />
      ))}
      {quiet.path.length > 0 && <Path quiet={quiet} />}
      {quiet.ratios.length > 0 && <Ratios quiet={quiet} />}
    </div>
  );
}

const key = (row: ModeRow) => row.order.join("-");

function Chamber({ chamber, alone }: { chamber: ChamberModes; alone: boolean }) {
  const [chosen, setChosen] = useState<string>();
  const row = chamber.modes.find((m) => key(m) === chosen) ?? chamber.modes[0];
  const shown = chamber.modes.slice(0, 9);
  return (
    <section aria-label={`Standing waves, ${chamber.title}`}>
      {!alone && <h2 className="font-display text-base font-semibold">{chamber.title}</h2>}
      {chamber.all_clear && (
        <p className="mb-2 border-l-3 border-verdigris pl-2" data-testid="all-clear">
          {chamber.all_clear}
        </p>
      )}
      {chamber.long && (
        <p className="mb-1 text-xs">
          <Say text={chamber.long} />
        </p>
      )}
      {chamber.fill_note && <p className="mb-1 border-l-3 border-ochre pl-2 text-xs">{chamber.fill_note}</p>}
      <div className="grid gap-4 xl:grid-cols-[minmax(0,1fr)_minmax(0,1.15fr)]">
        {row && <ModePicture chamber={chamber} row={row} />}
        <SavedTable
          title="Standing waves"
          note={chamber.stated ? "in the curves" : "assumed, not in the curves"}
          columns={[
            "across",
            "up",
            "behind",
            "name",
            "frequency_hz",
            "filled_hz",
            "q",
            "woofer",
            "opening",
            "effect_db",
          ]}
          rows={() =>
            chamber.modes.map((m) => [
              ...m.order,
              m.name,
              m.frequency_hz,
              m.filled_hz,
              m.q,
              m.woofer,
              m.opening ?? null,
              m.effect_db,
            ])
          }
        >
          <table className="w-full text-xs [&_td]:pl-2 [&_th]:pl-2" data-testid="modes">
            <Heads>
              <Head left>wave</Head>
              <Head>Hz</Head>
              <Head title="How sharp it is: frequency over width">Q</Head>
              <Head title="How much the woofer drives it: 1 is all">woofer</Head>
              <Head title="How much the port or radiator hears it: 1 is all">opening</Head>
              <Head title="How far it moves the level near its frequency">moves, dB</Head>
            </Heads>
            <tbody className="font-mono tabular-nums">
              {shown.map((m) => (
                <Row
                  key={key(m)}
                  className={`${row && key(m) === key(row) ? "bg-selected" : ""} ${m.in_band ? "" : "text-soft"}`}
                >
                  <Name>
                    <button
                      type="button"
                      aria-pressed={!!row && key(m) === key(row)}
                      className="text-left hover:underline"
                      onClick={() => setChosen(key(m))}
                    >
                      {m.name}
                    </button>
                  </Name>
                  <Value>{Math.round(m.filled_hz)}</Value>
                  <Value>{m.q.toFixed(m.q < 10 ? 1 : 0)}</Value>
                  <Value>{m.woofer.toFixed(2)}</Value>
                  <Value>{m.opening === undefined || m.opening === null ? "–" : m.opening.toFixed(2)}</Value>
                  <Value className={m.harmful ? "font-semibold text-brick" : ""}>
                    {m.effect_db.toFixed(1)}
                  </Value>
                </Row>
              ))}
            </tbody>
          </table>
          <p className="pt-1 text-xs text-soft">
            + and − press and pull in turn; on the dashed line the pressure rests. In ink what lies in the
            band it is sent, or near above; the rest in grey.
          </p>
        </SavedTable>
      </div>
    </section>
  );
}

function Path({ quiet }: { quiet: Quiet }) {
  return (
    <SavedTable
      title="Waves along the path"
      note="of the empty path with its own areas, bends and open end; fill and chamber move them"
      columns={["quarter_waves", "frequency_hz", "woofer", "swing_db"]}
      rows={() => quiet.path.map((w) => [w.quarters, w.frequency_hz, w.woofer, w.swing_db])}
    >
      <table className="w-full max-w-xl text-xs" data-testid="path-waves">
        <Heads>
          <Head left>wave</Head>
          <Head>Hz</Head>
          <Head>woofer drives it</Head>
          <Head>level swings, dB</Head>
        </Heads>
        <tbody className="font-mono tabular-nums">
          {quiet.path.map((w) => (
            <Row key={w.quarters} className={w.in_band ? "" : "text-soft"}>
              <Name>
                {w.quarters === 1 ? "a quarter wave" : `${w.quarters} quarter waves`}
                {w.missed && <span className="text-verdigris"> missed from here</span>}
              </Name>
              <Value>{Math.round(w.frequency_hz)}</Value>
              <Value>{w.woofer.toFixed(2)}</Value>
              <Value>
                {w.swing_db === undefined || w.swing_db === null ? "the tuning" : w.swing_db.toFixed(1)}
              </Value>
            </Row>
          ))}
        </tbody>
      </table>
    </SavedTable>
  );
}

function Ratios({ quiet }: { quiet: Quiet }) {
  const figure = useFigure();
  const workbench = useWorkbench();
  return (
    <SavedTable
      title="Proportions"
      note="the same litres in other sides; the wider neighbours are apart, the better"
      columns={[
        "ratio",
        "source",
        "width_mm",
        "height_mm",
        "depth_mm",
        "lowest_hz",
        "closest_percent",
        "crowded",
      ]}
      rows={() =>
        quiet.ratios.map((r) => [
          r.title,
          r.source,
          ...r.inside_mm,
          r.lowest_hz,
          r.closest_percent,
          r.crowded,
        ])
      }
    >
      <table className="w-full text-xs [&_td]:pl-3" data-testid="ratios">
        <Heads>
          <Head left>ratio</Head>
          <Head unit="mm">inside</Head>
          <Head>lowest, Hz</Head>
          <Head className="max-sm:hidden" title="Least distance between the ten lowest">
            closest, %
          </Head>
          <Head className="max-sm:hidden" title="How many of the ten lowest lie within 3 % of another">
            crowded
          </Head>
          <td />
        </Heads>
        <tbody className="font-mono tabular-nums">
          {quiet.ratios.map((r) => (
            <Row key={r.id} className="align-top">
              <Name>
                {r.title} <span className="text-[10.5px] text-soft">{r.source}</span>
              </Name>
              <Value className="whitespace-nowrap">
                {r.inside_mm.map((s) => figure(Math.round(s), "mm", 4)).join(" x ")}
              </Value>
              <Value>{Math.round(r.lowest_hz)}</Value>
              <Value className="max-sm:hidden">{tidy(r.closest_percent, 2)}</Value>
              <Value className="max-sm:hidden">{r.crowded}</Value>
              <td className="pl-2 text-right font-sans">
                {r.changes.length > 0 && (
                  <Button
                    look="action"
                    className="px-1.5 py-0"
                    aria-label={`Take ${r.title}`}
                    onClick={() => workbench.take(`${r.title} inside`, r.changes)}
                  >
                    take
                  </Button>
                )}
              </td>
            </Row>
          ))}
        </tbody>
      </table>
    </SavedTable>
  );
}
