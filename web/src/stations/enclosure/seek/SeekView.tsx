import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { api, get, Refused, type Seek, type Sought } from "../../../api/client";
import { printUnit, show, tidy } from "../../../lib/quantity";
import { Plot } from "../../../ui/Plot";
import { Button } from "../../../ui/Button";
import { Select } from "../../../ui/SchemaForm";
import { QuantityField } from "../../../ui/QuantityField";
import { useDocument, useEvaluation, useWorkbench } from "../../../workbench/context";
import { useSettings, useSize } from "../../../app/settings";

const REACH: [Seek["reach"], string, string][] = [
  ["lowest_f3", "the lowest f3", "The level never more than 2 dB proud (6 in a line)."],
  ["flattest", "the flattest level", "The least swing from the lowest note two octaves up."],
  ["loudest", "most level at the lowest note", "What stroke, heat, air and amplifier allow there."],
  ["smallest", "the smallest box", "That still has its f3 at the lowest note."],
];

type Trade = Sought["trades"][number];

/** What each goal's trade-off is drawn against. */
function reached(reach: Seek["reach"], t: Trade): number {
  if (reach === "flattest") return t.measures.swing_db;
  if (reach === "loudest") return t.measures.loudest_db;
  return t.measures.f3_hz ?? NaN;
}

/** Seeking a goal within the family: what to hold, what to reach, and what it costs. */
export function SeekView() {
  const { id = "" } = useParams();
  const document = useDocument();
  const evaluation = useEvaluation();
  const workbench = useWorkbench();
  const navigate = useNavigate();
  const path = Boolean(evaluation?.path);
  const litres = evaluation?.summary.chambers.reduce((sum, c) => sum + c.net_l, 0);
  // a horn would grow without end: it is held to its length and to about the room it takes now
  const horn = ("horn" in document.enclosure && evaluation?.path) || undefined;
  const [reach, setReach] = useState<Seek["reach"]>("lowest_f3");
  const [note, setNote] = useState<number | undefined>(document.brief?.lowest_note_hz ?? 30);
  const [volume, setVolume] = useState<number | undefined>(
    litres ? Number(litres.toPrecision(2)) : undefined,
  );
  const [length, setLength] = useState<number | undefined>(() => horn && Math.round(horn.length_mm));
  const [delay, setDelay] = useState<number | undefined>();
  const [outside, setOutside] = useState<number | undefined>(
    () => horn && Number(horn.room_l.toPrecision(2)),
  );
  const [state, setState] = useState<"idle" | "seeking">("idle");
  const [answer, setAnswer] = useState<{ sought: Sought; reach: Seek["reach"] }>();
  const [wrong, setWrong] = useState<string>();

  const seek = async () => {
    if (!note) return;
    setState("seeking");
    setWrong(undefined);
    const wanted: Seek = {
      reach,
      lowest_note_hz: note,
      ...(volume && reach !== "smallest" && { volume_l: volume }),
      ...(length && path && { length_mm: length }),
      ...(delay && { delay_ms: delay }),
      ...(outside && { outside_l: outside }),
    };
    try {
      setAnswer({ sought: await get(api.POST("/api/seek", { body: { document, seek: wanted } })), reach });
    } catch (cause) {
      setWrong(cause instanceof Refused ? cause.message : "That did not work.");
    }
    setState("idle");
  };
  const take = async (trade: Trade) => {
    const title = REACH.find(([r]) => r === answer?.reach)?.[1] ?? "sought";
    await workbench.openAsRevision({ ...document, name: `Sought: ${title}`, enclosure: trade.enclosure });
    await navigate(`/builds/${id}/box`);
  };
  return (
    <div className="grid min-h-0 flex-1 gap-4 lg:grid-cols-[262px_minmax(0,1fr)]">
      <section aria-label="What is sought">
        <div className="flex items-baseline gap-2 border-b border-rule/70 py-[5px]">
          <span className="flex-1 text-soft">Reach</span>
          <Select
            label="Reach"
            value={reach}
            choices={REACH.map(([v, t, h]): [string, string, string] => [v, t, h])}
            onChange={(v) => setReach(v as Seek["reach"])}
          />
        </div>
        <p className="py-1 text-xs text-soft">{REACH.find(([r]) => r === reach)?.[2]}</p>
        <Quantity label="Lowest note" unit="Hz" value={note} min={5} max={200} onChange={setNote} />
        {reach !== "smallest" && (
          <Quantity
            label="Air, at most"
            unit="L"
            value={volume}
            min={0.5}
            max={20000}
            onChange={setVolume}
            empty="free"
          />
        )}
        <Quantity
          label="Outside, at most"
          unit="L"
          value={outside}
          min={1}
          max={20000}
          onChange={setOutside}
          empty="free"
        />
        {path && (
          <Quantity
            label="No longer than"
            unit="mm"
            value={length}
            min={50}
            max={30000}
            onChange={setLength}
            empty="free"
          />
        )}
        <Quantity
          label="Group delay under"
          unit="ms"
          value={delay}
          min={0.5}
          max={500}
          onChange={setDelay}
          empty="free"
        />
        <div className="py-2">
          <Button look="strong" disabled={state === "seeking" || !note} onClick={() => void seek()}>
            {state === "seeking" ? "Seeking…" : "Seek"}
          </Button>
        </div>
        {wrong && (
          <p role="alert" className="text-brick">
            {wrong}
          </p>
        )}
        <p className="text-xs text-soft">
          Volumes, tunings, lengths and areas of this family are turned; openings, fill and losses stay as
          they are.
        </p>
      </section>
      {answer && <Answer sought={answer.sought} reach={answer.reach} onTake={(t) => void take(t)} />}
    </div>
  );
}

function Quantity({
  label,
  unit,
  value,
  min,
  max,
  empty,
  onChange,
}: {
  label: string;
  unit: string;
  value: number | undefined;
  min: number;
  max: number;
  empty?: string;
  onChange: (v: number | undefined) => void;
}) {
  return (
    <QuantityField
      label={label}
      help={undefined}
      unit={unit}
      value={value}
      empty={empty}
      optional={empty !== undefined}
      min={min}
      max={max}
      whole={false}
      large={false}
      problem={undefined}
      pointer={`/seek/${label}`}
      onChange={(v) => onChange(v ?? undefined)}
      onDone={() => undefined}
    />
  );
}

const AXES: Record<Seek["reach"], [string, string]> = {
  lowest_f3: ["f3", "Hz"],
  smallest: ["f3", "Hz"],
  flattest: ["swing", "dB"],
  loudest: ["level", "dB"],
};

function Answer({
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
    <tr className="border-t border-rule/60">
      <th scope="row" className="py-[3px] pr-3 text-left font-normal text-soft">
        {name}
      </th>
      <td className="px-2 text-right font-mono text-xs">{from}</td>
      <td className="px-2 text-right font-mono text-xs">{to}</td>
    </tr>
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
              <th scope="col" className="px-2 text-right font-normal">
                now
              </th>
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
    <figure className="mt-4">
      <figcaption className="font-display text-base font-semibold">
        What it costs: {sought.by_length ? "length" : "air"} against {name}
      </figcaption>
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
    </figure>
  );
}
