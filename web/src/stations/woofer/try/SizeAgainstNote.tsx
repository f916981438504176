import type { TrialResult } from "../../../api/client";
import { inSystem, tidy } from "../../../lib/quantity";
import { useSettings, useSize } from "../../../app/settings";
import { Plot } from "../../../ui/Plot";
import { Saved } from "../../../ui/Saved";

const ROUND = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000];

/** What the listed boxes cost: how large each is outside, against the lowest note it plays as loud as asked, or else its f3. */
export function SizeAgainstNote({ results, asked_hz }: { results: TrialResult[]; asked_hz: number }) {
  const size = useSize();
  const { system } = useSettings();
  const dots = results.flatMap(({ name, outcome: o }) => {
    const note = o.reaches_hz ?? o.f3_hz;
    return note && o.outside_l ? [{ name, o, note, litres: o.outside_l, loud: o.reaches_hz != null }] : [];
  });
  if (dots.length < 2) return null;
  const litres = dots.map((d) => d.litres);
  const notes = [...dots.map((d) => d.note), asked_hz];
  const across: [number, number] = [Math.min(...litres) / 1.15, Math.max(...litres) * 1.15];
  const { times } = inSystem("L", system);
  return (
    <Saved
      className="max-w-2xl pb-2"
      title="Size against depth"
      note="filled: as loud as asked down to there; open: its f3, not as loud"
      table={{
        columns: ["woofer", "count", "family", "outside_l", "hz", "as_loud_as_asked"],
        rows: () => dots.map((d) => [d.name, d.o.count, d.o.family, d.litres, d.note, String(d.loud)]),
      }}
    >
      <Plot
        title="Lowest note"
        unit="Hz"
        x={litres}
        across={across}
        xUnit="L"
        ticks={ROUND.filter((r) => r >= across[0] * times && r <= across[1] * times)}
        range={[Math.floor(Math.min(...notes) * 0.9), Math.ceil(Math.max(...notes) * 1.05)]}
        height={150}
        curves={[]}
        limit={{ value: asked_hz, label: `asked: ${tidy(asked_hz, 3)} Hz`, line: true }}
      >
        {(place) =>
          dots.map((d, i) => (
            <circle
              key={i}
              cx={place.x(d.litres)}
              cy={place.y(d.note)}
              r="4"
              fill={d.loud ? "var(--oak)" : "var(--panel)"}
              stroke="var(--oak)"
            >
              <title>
                {`${d.o.count > 1 ? `${d.o.count} x ` : ""}${d.name}, ${d.o.family.replaceAll("_", " ")}: ${size(d.litres, "L")} outside, ${tidy(d.note, 3)} Hz${d.loud ? "" : " (f3)"}`}
              </title>
            </circle>
          ))
        }
      </Plot>
    </Saved>
  );
}
