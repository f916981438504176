import { useAnswer } from "../../../api/answer";
import { api, get, type Band, type Evaluation } from "../../../api/client";
import { useSettings } from "../../../app/settings";
import { printUnit, show, tidy } from "../../../lib/quantity";
import { look } from "../../../lanes/style";
import { useBuild, useDocument } from "../../../workbench/context";
import { Saved, SavedTable } from "../../../ui/Saved";
import { HERTZ, levels } from "../../../lib/axis";
import { Plot, type PlotCurve } from "../../../ui/Plot";
import { better, LINES } from "./lines";
import { Tasted } from "./Tasted";
import { Name, Row, Value } from "../../../ui/Table";

/** All revisions side by side: figures with better and worse, lanes overlaid, and how far the one being edited may be off. */
export function CompareView() {
  const bench = useBuild();
  const { system } = useSettings();
  const open = bench.revisions.filter((r) => r.evaluation);
  const current = open.findIndex((r) => r.letter === bench.current);
  const band = useBand();
  const curves = (of: (e: Evaluation) => (number | null)[]): PlotCurve[] =>
    open.map((r) => {
      const style = look(
        open.filter((o) => o.letter !== bench.current).indexOf(r),
        r.letter === bench.current,
      );
      return {
        x: r.evaluation?.curves.frequency_hz ?? [],
        values: r.evaluation ? of(r.evaluation) : [],
        colour: `var(${style.colour})`,
        dash: style.dash.join(" ") || undefined,
        width: style.width,
        letter: r.letter,
      };
    });
  const most = (of: (e: Evaluation) => (number | null)[]) =>
    Math.max(
      1e-6,
      ...open.flatMap((r) =>
        r.evaluation
          ? of(r.evaluation)
              .map((v) => v ?? 0)
              .slice(0, 280)
          : [],
      ),
    );
  const xmax = open[current]?.document.woofer.xmax_mm;
  return (
    <section
      aria-label="Revisions side by side"
      className="grid min-h-0 flex-1 gap-4 xl:grid-cols-[minmax(0,1fr)_330px]"
    >
      <div className="min-h-0 overflow-auto">
        <SavedTable
          title="Figures side by side"
          columns={["figure", "unit", ...open.map((r) => r.letter)]}
          rows={() =>
            LINES.map((line) => [
              line.title,
              line.unit === "travel" ? "mm" : line.unit,
              ...open.map((r) =>
                r.evaluation ? line.of(r.evaluation, r.document, r.found?.list) : undefined,
              ),
            ])
          }
        >
          <table className="w-full text-[13px]">
            <thead>
              <tr>
                <td />
                {open.map((r) => (
                  <th key={r.id} scope="col" className="px-2 pb-1 text-right align-bottom font-semibold">
                    {r.letter} <span className="block max-w-36 font-normal text-soft">{r.document.name}</span>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {LINES.map((line) => {
                const values = open.map((r) =>
                  r.evaluation ? line.of(r.evaluation, r.document, r.found?.list) : undefined,
                );
                return (
                  <Row key={line.id}>
                    <Name title={line.help} className="py-[3px] pr-2 text-soft">
                      {line.title} {printUnit(show(1, line.unit, system).unit)}
                    </Name>
                    {values.map((value, i) => {
                      const mark = better(line, value, values[current], i === current);
                      return (
                        <Value key={open[i]?.id} className="px-2 text-xs whitespace-nowrap">
                          {typeof value === "number"
                            ? show(value, line.unit, system, 3).text
                            : (value ?? "–")}{" "}
                          <span
                            aria-label={mark === "better" ? "better" : mark === "worse" ? "worse" : undefined}
                            className={
                              mark === "better"
                                ? "text-verdigris"
                                : mark === "worse"
                                  ? "text-brick"
                                  : "invisible"
                            }
                          >
                            {mark === "worse" ? "▾" : "▴"}
                          </span>
                        </Value>
                      );
                    })}
                  </Row>
                );
              })}
            </tbody>
          </table>
        </SavedTable>
        <p className="pt-2 text-xs text-soft">
          Better and worse against {bench.current}, the one being edited, at its drive.
        </p>
        <Tasted letters={open.map((r) => r.letter)} />
      </div>
      <Saved
        title="Curves side by side"
        className="space-y-2"
        table={{
          columns: ["frequency_hz", ...open.flatMap((r) => CURVES.map(([name]) => `${name}_${r.letter}`))],
          rows: () =>
            (open[0]?.evaluation?.curves.frequency_hz ?? []).map((f, i) => [
              f,
              ...open.flatMap((r) =>
                CURVES.map(([, of]) => (r.evaluation ? of(r.evaluation)[i] : undefined)),
              ),
            ]),
        }}
      >
        <Plot
          {...SMALL}
          title="Level"
          unit="dB"
          range={levels(
            most((e) => e.curves.level_db),
            40,
          )}
          height={140}
          curves={curves((e) => e.curves.level_db)}
          band={band && { x: band.frequency_hz, low: band.low_db, high: band.high_db }}
        />
        {band && (
          <p className="text-xs text-soft" data-testid="band">
            Shaded: where nine in ten of {band.samples} variants of {bench.current} lie when fs, Qts and Vas
            are off by up to 10 %, the box by 3 % and the fill by 20 %. {band.figure}{" "}
            {tidy(band.figure_range[0] ?? 0, 3)} to {tidy(band.figure_range[1] ?? 0, 3)}{" "}
            {printUnit(band.unit)}
            {band.f3_range_hz &&
              `, f3 ${tidy(band.f3_range_hz[0] ?? 0, 3)} to ${tidy(band.f3_range_hz[1] ?? 0, 3)} Hz`}
            .
          </p>
        )}
        <Plot
          {...SMALL}
          title="Cone stroke"
          unit="travel"
          range={[
            0,
            Math.min(
              most((e) => e.curves.cone_excursion_mm),
              (xmax ?? 20) * 2,
            ),
          ]}
          limit={xmax ? { value: xmax, line: true } : undefined}
          curves={curves((e) => e.curves.cone_excursion_mm)}
        />
        <Plot
          {...SMALL}
          title="Group delay"
          unit="ms"
          range={[
            0,
            Math.min(
              most((e) => e.curves.group_delay_ms),
              80,
            ),
          ]}
          curves={curves((e) => e.curves.group_delay_ms)}
        />
        <Plot
          {...SMALL}
          title="Impedance"
          unit="ohm"
          range={[0, most((e) => e.curves.impedance_ohm)]}
          curves={curves((e) => e.curves.impedance_ohm)}
        />
      </Saved>
    </section>
  );
}

const CURVES: [string, (e: Evaluation) => (number | null)[]][] = [
  ["level_db", (e) => e.curves.level_db],
  ["cone_excursion_mm", (e) => e.curves.cone_excursion_mm],
  ["group_delay_ms", (e) => e.curves.group_delay_ms],
  ["impedance_ohm", (e) => e.curves.impedance_ohm],
];

/** What the plots at the side have in common: one frequency axis, each curve on its own frequencies. */
const SMALL = { x: [], across: [10, 300] as [number, number], ticks: HERTZ, xUnit: "Hz", width: 330 };

/** The tolerance band of the revision being edited. */
function useBand(): Band | undefined {
  const document = useDocument();
  const body = { document, tolerances: {} };
  const ask = (signal: AbortSignal) => get(api.POST("/api/tolerance", { body, signal }));
  return useAnswer("tolerance", body, ask, 150);
}
