import { useEffect, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { api, get, Refused, type Seek, type Sought } from "../../../api/client";
import { eachLine } from "../../../lib/lines";
import { Button } from "../../../ui/Button";
import { Progress } from "../../../ui/Progress";
import { Select } from "../../../ui/Select";
import { QuantityField } from "../../../ui/QuantityField";
import { useDocument, useEvaluation, useWorkbench } from "../../../workbench/context";

import { Found } from "./Found";
const REACH: [Seek["reach"], string, string][] = [
  ["lowest_f3", "the lowest f3", "The level never more than 2 dB proud (6 in a line)."],
  ["flattest", "the flattest level", "The least swing from the lowest note two octaves up."],
  ["loudest", "most level at the lowest note", "What stroke, heat, air and amplifier allow there."],
  ["smallest", "the smallest box", "That still has its f3 at the lowest note."],
];

/** A line of the answer. */
type Told = { sofar?: { tried: number; part: number }; sought?: Sought; refused?: string };

type Trade = Sought["trades"][number];

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
  const [sofar, setSofar] = useState<{ tried: number; part: number }>();
  const asking = useRef<AbortController>(undefined);
  useEffect(() => () => asking.current?.abort(), []);
  const [answer, setAnswer] = useState<{ sought: Sought; reach: Seek["reach"] }>();
  const [wrong, setWrong] = useState<string>();

  const seek = async () => {
    if (!note) return;
    const asked = new AbortController();
    asking.current = asked;
    setSofar({ tried: 0, part: 0 });
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
      const stream = await get(
        api.POST("/api/seek/telling", {
          body: { document, seek: wanted },
          signal: asked.signal,
          parseAs: "stream",
        }),
      );
      let ended = false;
      await eachLine(stream as unknown as ReadableStream<Uint8Array>, (line) => {
        const told = line as Told;
        if (told.sofar) return setSofar(told.sofar);
        ended = true;
        if (told.sought) setAnswer({ sought: told.sought, reach });
        else setWrong(told.refused);
      });
      if (!ended) setWrong("The answer broke off; try again.");
    } catch (cause) {
      if (!asked.signal.aborted) setWrong(cause instanceof Refused ? cause.message : "That did not work.");
    }
    setSofar(undefined);
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
          {sofar ? (
            <div className="flex items-center gap-2">
              <Progress label="How far the search is" value={sofar.part} />
              <span role="status" className="text-xs whitespace-nowrap text-soft">
                {sofar.tried} boxes tried
              </span>
              <Button look="action" onClick={() => asking.current?.abort()}>
                Stop
              </Button>
            </div>
          ) : (
            <Button look="strong" disabled={!note} onClick={() => void seek()}>
              Seek
            </Button>
          )}
        </div>
        {wrong && (
          <p role="alert" className="text-brick">
            {wrong}
          </p>
        )}
        <p className="text-xs text-soft">
          Volumes, tunings, lengths and areas of this family are turned; openings, fill and losses stay as
          they are.
          {document.room?.holds_brief &&
            ` Swing and loudness are those at the seats of ${document.room.room.name}, to which the brief is held (an estimate); f3 is the box's own.`}
        </p>
      </section>
      {answer && <Found sought={answer.sought} reach={answer.reach} onTake={(t) => void take(t)} />}
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
