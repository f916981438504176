import type { ArrayResult } from "../../api/client";
import { tidy } from "../../lib/quantity";
import { SchemaForm } from "../../ui/SchemaForm";
import { useDocument, useEvaluation, useWorkbench } from "../../workbench/context";
import { WiringDrawing } from "./WiringDrawing";
import { Head, Heads, Value } from "../../ui/Table";

const COUNT = ["count"];

/** How many woofers, which wiring, isobaric pairs. */
export function ArrayPanel() {
  const document = useDocument();
  const workbench = useWorkbench();
  const result = useEvaluation()?.summary.array;
  const array = document.array ?? {};
  const count = array.count ?? 1;
  const chosen = result?.wirings.find((w) => w.chosen);
  const face = array.isobaric?.mounting === "face_to_face";
  return (
    <section aria-label="Woofers and wiring" className="border-b border-rule/70 pb-2">
      <SchemaForm pointer="/array" only={COUNT} />
      {result && (count > 1 || result.voice_coils > 1) && (
        <table className="mt-1 w-full font-mono text-xs tabular-nums">
          <Heads>
            <Head left>wiring</Head>
            <Head title="Nominal, and lowest in this box">Ω</Head>
            <Head title="Level against the wiring chosen, at the same voltage">dB</Head>
            <Head title="Most heat in each coil at this drive">W/coil</Head>
          </Heads>
          <tbody>
            {result.wirings.map((w) => (
              <tr key={w.title} className={w.chosen ? "bg-selected" : "hover:bg-panel"}>
                <td className="py-0.5">
                  <button
                    type="button"
                    aria-pressed={w.chosen}
                    className="text-left font-sans text-[13px] leading-tight first-letter:uppercase"
                    onClick={() =>
                      workbench.change([
                        { pointer: "/array/coils", value: w.coils },
                        { pointer: "/array/woofers_in_series", value: w.woofers_in_series },
                      ])
                    }
                  >
                    {w.title}
                    {w.carried === false && (
                      <span className="block text-xs text-brick">too low for the amplifier</span>
                    )}
                  </button>
                </td>
                <Value className="align-top">
                  {w.nominal_ohm ? tidy(w.nominal_ohm, 3) : "–"}
                  <span className="block text-[10px] text-soft">{tidy(w.minimum_ohm, 3)}</span>
                </Value>
                <Value className="align-top">{signed(w.level_change_db)}</Value>
                <Value className="align-top">{tidy(w.watts_per_coil, 2)}</Value>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {result && chosen && (count > 1 || result.voice_coils > 1) && count <= 16 && (
        <WiringDrawing
          count={count}
          inSeries={chosen.woofers_in_series}
          voiceCoils={result.voice_coils}
          coilsInSeries={chosen.coils === "series"}
          reversed={face}
        />
      )}
      <Isobaric result={result} />
    </section>
  );
}

function signed(value: number): string {
  return Math.abs(value) < 0.05 ? "0" : `${value > 0 ? "+" : "−"}${Math.abs(value).toFixed(1)}`;
}

function Isobaric({ result }: { result: ArrayResult | undefined }) {
  const document = useDocument();
  const workbench = useWorkbench();
  const array = document.array ?? {};
  const count = array.count ?? 1;
  const pair = array.isobaric;
  const least = result?.least_chambers ?? [];
  const turn = (on: boolean) => {
    if (!on) {
      workbench.change([
        { pointer: "/array/isobaric", value: undefined },
        ...(count === 2
          ? [
              { pointer: "/array/count", value: 1 },
              { pointer: "/array/woofers_in_series", value: 1 },
            ]
          : []),
      ]);
      return;
    }
    const litres = least.find((l) => l.mounting === "front_to_back")?.volume_l ?? 5;
    const chamber_l = Math.ceil(Math.max(litres, 0.2) * 10) / 10;
    workbench.change([
      ...(count % 2 ? [{ pointer: "/array/count", value: count + 1 }] : []),
      ...(count % 2 ? [{ pointer: "/array/woofers_in_series", value: 1 }] : []),
      { pointer: "/array/isobaric", value: { mounting: "front_to_back", chamber_l } },
    ]);
  };
  const room = least.find((l) => l.mounting === pair?.mounting);
  return (
    <div>
      <label className="flex items-baseline gap-2 py-[5px]">
        <span
          className="flex-1 text-soft"
          title="Two cones behind one another on one opening: half the box, twice the power"
        >
          Isobaric pairs
        </span>
        <input
          type="checkbox"
          className="accent-oak"
          checked={Boolean(pair)}
          onChange={(e) => turn(e.target.checked)}
        />
      </label>
      {pair && (
        <div className="border-l-2 border-rule pl-2" data-testid="isobaric">
          <SchemaForm pointer="/array/isobaric" />
          <p className="pt-1 text-xs text-soft">
            {room
              ? `Magnet and strokes need ${Math.round(room.depth_mm)} mm between the mounting faces, about ${tidy(room.volume_l, 2)} L (an estimate). `
              : "Cut-out, depth, Sd and Xmax would tell the least room. "}
            {result?.isobaric &&
              (result.isobaric.uncouples_hz
                ? `The pair parts at ${Math.round(result.isobaric.uncouples_hz)} Hz. `
                : "The pair holds together over the whole band. ")}
            {result?.polarity}
          </p>
        </div>
      )}
    </div>
  );
}
