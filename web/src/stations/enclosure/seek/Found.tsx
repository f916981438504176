import { type Seek, type Sought } from "../../../api/client";
import { printUnit, show, tidy } from "../../../lib/quantity";
import { Plot } from "../../../ui/Plot";
import { Saved } from "../../../ui/Saved";
import { Button } from "../../../ui/Button";
import { useSettings, useSize } from "../../../app/settings";
import { Head, Name, Row, Value } from "../../../ui/Table";

type Trade = Sought["trades"][number];

const TRADE_COLUMNS = [
  "air_l",
  "outside_l",
  "length_mm",
  "f3_hz",
  "swing_db",
  "highest_level_db",
  "longest_delay_ms",
  "longest_port_mm",
];
const tradeRow = ({ measures: m }: Trade) => [
  m.volume_l,
  m.outside_l,
  m.length_mm,
  m.f3_hz,
  m.swing_db,
  m.loudest_db,
  m.delay_ms,
  m.longest_port_mm,
];

/** What each goal's trade-off is drawn against. */
function reached(reach: Seek["reach"], t: Trade): number {
  if (reach === "flattest") return t.measures.swing_db;
  if (reach === "loudest") return t.measures.loudest_db;
  return t.measures.f3_hz ?? NaN;
}

const AXES: Record<Seek["reach"], [string, string]> = {
  lowest_f3: ["f3", "Hz"],
  smallest: ["f3", "Hz"],
  flattest: ["swing", "dB"],
  loudest: ["level", "dB"],
};

/** What was found, held against what stands, and what it costs. */
export function Found({
  sought,
  reach,
  onTake,
}: {
  sought: Sought;
  reach: Seek["reach"];
  onTake: (t: Trade) => void;
}) {
  const size = useSize();
  const { best, now, trades, by_length } = sought;
  const { system } = useSettings();
  const told = (v: number) => (by_length ? show(v / 1000, "m", system, 3) : show(v, "L", system, 3));
  const unit = printUnit(told(1).unit);
  const held = (v: number) => told(v).text;
  if (!best) {
    return (
      <p role="status" className="pt-1 text-ochre">
        Not found: {sought.reason}.
      </p>
    );
  }
  const row = (name: string, from: string, to: string) => (
    <Row>
      <Name className="py-[3px] pr-3 text-soft">{name}</Name>
      <Value className="px-2 text-xs">{from}</Value>
      <Value className="px-2 text-xs">{to}</Value>
    </Row>
  );
  const m = best.measures;
  const hz = (v: number | null | undefined) => (v ? `${tidy(v, 3)} Hz` : "–");
  return (
    <section aria-label="What was found" className="min-h-0 overflow-auto">
      <div className="flex flex-wrap items-start gap-6">
        <table className="text-[13px]" data-testid="sought">
          <thead>
            <tr className="text-soft">
              <td />
              <Head className="px-2">now</Head>
              <th scope="col" className="px-2 text-right font-semibold text-ink">
                found
              </th>
            </tr>
          </thead>
          <tbody>
            {row("air", size(now.volume_l, "L"), size(m.volume_l, "L"))}
            {row("outside, estimated", size(now.outside_l, "L"), size(m.outside_l, "L"))}
            {by_length && row("length", size(now.length_mm / 1000, "m"), size(m.length_mm / 1000, "m"))}
            {row("f3", hz(now.f3_hz), hz(m.f3_hz))}
            {row("swing", `${now.swing_db.toFixed(1)} dB`, `${m.swing_db.toFixed(1)} dB`)}
            {row("highest level there", `${now.loudest_db.toFixed(1)} dB`, `${m.loudest_db.toFixed(1)} dB`)}
            {row("longest delay", `${tidy(now.delay_ms, 3)} ms`, `${tidy(m.delay_ms, 3)} ms`)}
          </tbody>
        </table>
        <Button look="action" onClick={() => onTake(best)}>
          Make it a revision
        </Button>
      </div>
      {trades.length > 1 && (
        <TradeOff sought={sought} reach={reach} unit={unit} held={held} onTake={onTake} />
      )}
    </section>
  );
}

function TradeOff({
  sought,
  reach,
  unit,
  held,
  onTake,
}: {
  sought: Sought;
  reach: Seek["reach"];
  unit: string;
  held: (v: number) => string;
  onTake: (t: Trade) => void;
}) {
  const points = sought.trades.filter((t) => Number.isFinite(reached(reach, t)));
  const [xs, ys] = [points.map((t) => t.held), points.map((t) => reached(reach, t))];
  const pad = Math.max((Math.max(...ys) - Math.min(...ys)) * 0.15, 0.5);
  const [name, what] = AXES[reach];
  // the rings at the ends stand inside the frame
  const beside = 1.04;
  return (
    <Saved
      className="mt-4 max-w-xl"
      title={`What it costs: ${sought.by_length ? "length" : "air"} against ${name}`}
      table={{
        columns: TRADE_COLUMNS,
        rows: () => points.map((t) => tradeRow(t)),
      }}
    >
      <div className="max-w-xl" role="group" aria-label="Trade-off">
        <Plot
          title={name}
          unit={what}
          x={xs}
          across={[Math.min(...xs) / beside, Math.max(...xs) * beside]}
          ticks={xs}
          tick={held}
          xUnit={unit}
          width={460}
          height={200}
          range={[Math.min(...ys) - pad, Math.max(...ys) + pad]}
          curves={[{ values: ys, colour: "var(--verdigris)" }]}
        >
          {(place) =>
            points.map((t, i) => {
              const words = `${held(t.held)} ${unit}: ${name} ${tidy(reached(reach, t), 3)} ${what}`;
              return (
                <circle
                  key={i}
                  role="button"
                  tabIndex={0}
                  aria-label={`${words}; make it a revision`}
                  className="cursor-pointer"
                  onClick={() => onTake(t)}
                  onKeyDown={(e) => e.key === "Enter" && onTake(t)}
                  cx={place.x(t.held)}
                  cy={place.y(reached(reach, t))}
                  r="6"
                  fill="var(--panel)"
                  stroke="var(--verdigris)"
                  strokeWidth="1.6"
                >
                  <title>{words}</title>
                </circle>
              );
            })
          }
        </Plot>
      </div>
      <p className="text-xs text-soft">Each ring is a box of its own: press one to make it a revision.</p>
    </Saved>
  );
}
