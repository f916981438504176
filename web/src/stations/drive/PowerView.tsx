import { api, get, type PowerView as Power } from "../../api/client";
import { tidy } from "../../lib/quantity";
import { roundUp } from "../../lib/axis";
import { Plot } from "../../ui/Plot";
import { Saved, SavedTable } from "../../ui/Saved";
import { SchemaForm } from "../../ui/SchemaForm";
import { Name, Row, Value } from "../../ui/Table";
import { RESTED_MS } from "../../workbench/asker";
import { usePartOfDocument } from "../../workbench/context";
import { useDocumentQuery, type Question } from "../../workbench/documentQuery";

const asked: Question<Power> = (body, signal) => get(api.POST("/api/drive/power", { body, signal }));

/** Where the watts of a programme go, how warm the coil gets, what a battery lasts. */
export function PowerView() {
  const power = useDocumentQuery(asked, RESTED_MS);
  const amplifier = usePartOfDocument((d) => !!d.chain?.amplifier);
  const onBattery = usePartOfDocument((d) => d.chain?.amplifier?.supply === "battery" || !!d.chain?.battery);
  return (
    <section
      aria-label="Power"
      className="grid min-h-0 flex-1 content-start gap-6 lg:grid-cols-[306px_minmax(0,1fr)]"
    >
      <div>
        <h2 className="font-display text-base font-semibold">What is played</h2>
        <SchemaForm pointer="/programme" assumed={{ "/programme/to_hz": "as briefed" }} />
        {amplifier && (
          <>
            <h2 className="pt-3 font-display text-base font-semibold">What feeds it</h2>
            <SchemaForm
              pointer="/chain/amplifier"
              only={["supply", "idle_w", "efficiency"]}
              open={["What it takes"]}
            />
            <SchemaForm pointer="/chain" only={["battery"]} />
            {onBattery && (
              <p className="mt-2 border-l-2 border-ochre pl-2 text-xs text-soft">
                Batteries can burn: fuse them at their terminals, keep lithium ones dry and charge them
                outdoors, away from what burns; lead ones give off hydrogen. Follow the maker&apos;s sheet and
                local codes.
              </p>
            )}
          </>
        )}
        {power?.worth && (
          <p className="pt-3 text-xs">
            An amplifier of about <b>{tidy(power.worth.volts, 3)} V</b>
            {typeof power.worth.nominal_w === "number" &&
              ` (${tidy(power.worth.nominal_w, 2)} W into nominal)`}{" "}
            that carries {tidy(power.worth.lowest_load_ohm, 2)} ohm is worth having: one more buys less than 1
            dB on average.
          </p>
        )}
      </div>
      {power ? <Told power={power} /> : <p className="text-soft">Computing…</p>}
    </section>
  );
}

function Told({ power }: { power: Power }) {
  const { coil, supply, flow } = power;
  const most = Math.max(...flow.map((f) => f.watts), 1e-9);
  const highest = (coil?.max_level_db ?? []).filter((l) => typeof l === "number");
  const top = Math.max(...highest, 0);
  return (
    <div className="min-w-0 space-y-4">
      <SavedTable
        title="Where the watts go"
        note={`a programme of ${tidy(power.programme_v, 3)} V rms, coil cold`}
        columns={["what", "watts"]}
        rows={() => flow.map((f) => [f.title, f.watts])}
      >
        <table className="w-full max-w-xl text-sm" data-testid="flow">
          <tbody>
            {flow.map((f) => (
              <Row key={f.title}>
                <Name className="w-56">{f.title}</Name>
                <td>
                  <svg viewBox="0 0 200 10" className="h-2.5 w-full" preserveAspectRatio="none" aria-hidden>
                    <rect
                      width={Math.max((f.watts / most) * 200, 0.4)}
                      height="10"
                      fill="var(--oak)"
                      opacity="0.65"
                    />
                  </svg>
                </td>
                <Value className="w-20">{tidy(f.watts, 3)} W</Value>
              </Row>
            ))}
          </tbody>
        </table>
      </SavedTable>
      {supply && (
        <p data-testid="battery">
          It takes <b>{tidy(supply.playing_w, 3)} W</b> while it plays; for this programme{" "}
          <b>{tidy(supply.needed_wh, 3)} Wh</b>, a lithium battery of {tidy(supply.capacity_wh[0] ?? 0, 3)} Wh
          or a lead one of {tidy(supply.capacity_wh[1] ?? 0, 3)} Wh (estimates).{" "}
          {supply.endless
            ? "The charger gives as much: it plays on. "
            : typeof supply.lasts_h === "number" && (
                <>
                  The battery stated lasts <b>{tidy(supply.lasts_h, 2)} h</b>.{" "}
                </>
              )}
          A box 3 dB louder for the same watts would ask for {tidy(supply.if_3_db_more_efficient_wh, 3)} Wh.
        </p>
      )}
      {coil ? (
        <>
          <p data-testid="coil">
            The coil warms to{" "}
            <b className={coil.after_c > 200 ? "text-brick" : ""}>{coil.after_c.toFixed(0)} °C</b> in{" "}
            {tidy(coil.minutes.at(-1) ?? 0, 3)} min and comes to rest at {coil.rest_c.toFixed(0)} °C with{" "}
            {tidy(coil.rest_w, 2)} W in it; heat takes {coil.mean_compression_db.toFixed(1)} dB of the level.
            An estimate: the way of the heat is taken from the rated power.
          </p>
          <div className="grid gap-4 xl:grid-cols-2">
            <Saved title="Coil temperature" note="an estimate; log time">
              <Plot
                x={coil.minutes.map((m) => Math.max(m, 0.05))}
                across={[0.1, coil.minutes.at(-1) ?? 60]}
                log
                title="Coil"
                unit="°C"
                range={[0, roundUp(Math.max(...coil.coil_c, 60) * 1.1)]}
                width={420}
                height={150}
                ticks={[0.1, 0.5, 1, 5, 15, 60, 240]}
                showTicks
                xUnit="min"
                curves={[{ values: coil.coil_c }]}
                limit={{ value: 200, label: "in danger", line: true }}
              />
            </Saved>
            <Saved title="Lost to heat" note="level cold less level hot">
              <Plot
                x={coil.frequency_hz}
                across={[10, 1000]}
                log
                title="Compression"
                unit="dB"
                range={[
                  Math.min(0, Math.floor(Math.min(...coil.compression_db))),
                  roundUp(Math.max(...coil.compression_db, 0.9) * 1.1),
                ]}
                width={420}
                height={150}
                ticks={[10, 20, 50, 100, 200, 500]}
                showTicks
                xUnit="Hz"
                curves={[{ values: coil.compression_db }]}
              />
            </Saved>
            {highest.length > 0 && (
              <Saved
                title="Highest level, cold and hot"
                note="a sine within every limit; dashed: the coil hot"
              >
                <Plot
                  x={coil.frequency_hz}
                  across={[10, 1000]}
                  log
                  title="Highest level"
                  unit="dB"
                  range={[Math.floor((top - 40) / 5) * 5, Math.ceil((top + 2) / 5) * 5]}
                  width={420}
                  height={150}
                  ticks={[10, 20, 50, 100, 200, 500]}
                  showTicks
                  xUnit="Hz"
                  curves={[
                    { values: coil.max_level_db.map((l) => l ?? NaN) },
                    {
                      values: coil.max_level_hot_db.map((l) => l ?? NaN),
                      dash: "5 3",
                      colour: "var(--brick)",
                    },
                  ]}
                />
              </Saved>
            )}
          </div>
        </>
      ) : (
        <p className="text-soft">
          State the woofer&apos;s rated power, and how warm its coil gets is estimated from it.
        </p>
      )}
    </div>
  );
}
