import type { Quiet } from "../../api/client";
import { tidy } from "../../lib/quantity";
import { Button } from "../../ui/Button";
import { HERTZ, levels } from "../../lib/axis";
import { Plot } from "../../ui/Plot";
import { Saved, SavedTable } from "../../ui/Saved";
import { SchemaForm } from "../../ui/SchemaForm";
import { useDocument, useWorkbench } from "../../workbench/context";
import { FillLibrary } from "../enclosure/FillLibrary";
import { at } from "../../lib/pointer";
import { liningSeed, useQuiet } from "./useQuiet";
import { Say } from "../../ui/Say";
import { lowered, plain } from "../../lib/said";
import { useSay, useSize } from "../../app/settings";
import { Head, Heads, Name, Row, Value } from "../../ui/Table";

const DASH = ["", "7 4", "2 3", "9 3 2 3"];
const INK = ["--ink", "--verdigris", "--oak", "--brick"];

const more = (factor: number) => Math.max((factor - 1) * 100, 0).toFixed(1);

/** What the fill does, what there is to buy, and the schools side by side. */
export function FillView() {
  const quiet = useQuiet();
  const document = useDocument();
  if (!quiet) return <p className="text-soft">Computing…</p>;
  const { fills } = quiet;
  if (!fills)
    return (
      <p className="text-soft">
        {quiet.path.length > 0
          ? "Fill along a line or horn is stated at the Box, by sections."
          : "There is no chamber to fill."}
      </p>
    );
  const fill = fills.now.pointer.split("/").at(-1) ?? "fill";
  const inside = fills.now.pointer.replace(/fill$/, "inside");
  return (
    <section aria-label="Fill" className="grid min-h-0 flex-1 gap-6 lg:grid-cols-[306px_minmax(0,1fr)]">
      <div>
        <SchemaForm pointer="/enclosure" only={[fill]} open={["Fill and losses"]} />
        {at(document, inside) !== undefined ? (
          <SchemaForm pointer={inside} only={["fill_lies", "lining"]} seed={liningSeed(quiet)} />
        ) : (
          <p className="py-1 text-xs text-soft">
            State the inside at Quiet, and where the fill lies counts too: a wave is damped where its air
            moves.
          </p>
        )}
        <FillLibrary />
        <p className="pt-2 text-xs text-soft">
          Mineral wool sheds fibres: mask, gloves, and a cloth over it where the cone could breathe it out.
        </p>
      </div>
      <div className="min-w-0 space-y-4">
        <Now quiet={quiet} />
        <Schools quiet={quiet} />
      </div>
    </section>
  );
}

function Now({ quiet }: { quiet: Quiet }) {
  const size = useSize();
  const now = quiet.fills?.now;
  if (!now) return null;
  const [title, unit] = now.figure_title.split(", ");
  const lines: [string, string, string][] = [
    [
      "To buy",
      now.grams ? `${tidy(now.grams, 3)} g` : "–",
      `${now.material}, ${size(now.filled_l, "L")} of it`,
    ],
    [
      "Packed",
      now.packed_kg_per_m3 ? `${tidy(now.packed_kg_per_m3, 3)} kg/m³` : "–",
      now.flow_resistivity_pa_s_per_m2
        ? `resists with ${tidy(now.flow_resistivity_pa_s_per_m2, 3)} Pa·s/m²`
        : "",
    ],
    ["Acts larger by", `${more(now.acts_larger_by)} %`, "at the box's own resonance"],
    [
      title ?? "",
      `${tidy(now.figure, 3)} ${unit ?? ""}`,
      `empty ${tidy(now.figure_empty, 3)}, nothing else changed`,
    ],
  ];
  return (
    <dl className="grid grid-cols-2 gap-4 md:grid-cols-4" data-testid="fill-now">
      {lines.map(([label, value, note]) => (
        <div key={label}>
          <dt className="text-xs text-soft">{label}</dt>
          <dd className="font-display text-lg leading-tight font-semibold">{value}</dd>
          <dd className="text-xs text-soft">{note}</dd>
        </div>
      ))}
    </dl>
  );
}

function Schools({ quiet }: { quiet: Quiet }) {
  const say = useSay();
  const workbench = useWorkbench();
  const { fills } = quiet;
  if (!fills) return null;
  const highest = Math.max(...fills.schools.flatMap((s) => s.level_db));
  return (
    <>
      <Saved
        title="Schools of filling"
        note={`${fills.schools_of}; port and volume as built`}
        table={{
          columns: ["frequency_hz", ...fills.schools.map((s) => `level_db_${s.id}`)],
          rows: () => fills.frequency_hz.map((f, i) => [f, ...fills.schools.map((s) => s.level_db[i])]),
        }}
      >
        <Plot
          x={fills.frequency_hz}
          title="Level"
          unit="dB"
          range={levels(highest, 35)}
          ticks={HERTZ}
          xUnit="Hz"
          width={600}
          height={160}
          curves={fills.schools.map((s, i) => ({
            values: s.level_db,
            colour: `var(${INK[i] ?? "--ink"})`,
            ...(DASH[i] && { dash: DASH[i] }),
          }))}
        />
      </Saved>
      <SavedTable
        title="What each takes and gives"
        columns={["school", "grams", "acts_larger_by", "figure", "f3_hz", "wave_db"]}
        rows={() =>
          fills.schools.map((s) => [
            plain(s.title),
            s.grams,
            s.acts_larger_by,
            s.figure,
            s.f3_hz ?? null,
            s.wave_db ?? null,
          ])
        }
      >
        <table className="w-full text-xs [&_td+td]:pl-2 [&_th+th]:pl-2" data-testid="fill-schools">
          <Heads>
            <Head left>school</Head>
            <Head>to buy, g</Head>
            <Head>acts larger, %</Head>
            <Head>{fills.now.figure_title}</Head>
            <Head>f3, Hz</Head>
            <Head>worst wave, dB</Head>
            <td />
          </Heads>
          <tbody className="font-mono tabular-nums">
            {fills.schools.map((s, i) => (
              <Row key={s.id}>
                <Name className="py-1">
                  <svg viewBox="0 0 26 6" className="mr-1.5 inline-block w-6" aria-hidden>
                    <path
                      d="M0 3H26"
                      stroke={`var(${INK[i] ?? "--ink"})`}
                      strokeWidth="1.8"
                      strokeDasharray={DASH[i]}
                    />
                  </svg>
                  <Say text={s.title} />
                </Name>
                <Value>{tidy(s.grams, 3)}</Value>
                <Value>{more(s.acts_larger_by)}</Value>
                <Value>{tidy(s.figure, 3)}</Value>
                <Value>{s.f3_hz ? tidy(s.f3_hz, 3) : "–"}</Value>
                <Value>{s.wave_db === undefined || s.wave_db === null ? "–" : s.wave_db.toFixed(1)}</Value>
                <td className="pl-2 text-right font-sans">
                  <Button
                    look="action"
                    className="px-1.5 py-0"
                    aria-label={`Take ${say(s.title)}`}
                    onClick={() => workbench.take(["Fill: ", ...lowered(s.title)], s.changes)}
                  >
                    take
                  </Button>
                </td>
              </Row>
            ))}
          </tbody>
        </table>
      </SavedTable>
    </>
  );
}
