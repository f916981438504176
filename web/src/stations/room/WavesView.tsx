import { memo, useState } from "react";
import { useAnswer } from "../../api/answer";
import { api, get, type RoomMode, type RoomModePicture } from "../../api/client";
import { useSize } from "../../app/settings";
import { SavedTable, Saved } from "../../ui/Saved";
import { Select } from "../../ui/Select";
import { Head, Heads, Name, Row, Value } from "../../ui/Table";
import { useDocument } from "../../workbench/context";
import { sidesOf } from "./places";
import { RoomDrawing } from "./RoomDrawing";
import { useRoom } from "./useRoom";
import { letter } from "./useThings";

const KIND: Record<RoomMode["kind"], string> = {
  axial: "between one pair of walls",
  tangential: "between two pairs",
  oblique: "between all three",
};
const key = (m: RoomMode) => m.order.join(" ");

/** The room's standing waves: which the cabinet feeds and the seats hear, what moving does, what they look like. */
export function WavesView() {
  const room = useDocument().room;
  const view = useRoom();
  const [chosen, setChosen] = useState<string>();
  if (!room) return <p className="text-soft">This build stands in the open: give it a room first.</p>;
  if (room.room.space.kind !== "room")
    return (
      <p className="max-w-prose text-soft">
        {room.room.space.kind === "cabin"
          ? "A cabin is taken as one spring of air: what stands in it above its lowest wave is not told."
          : "Outdoors there are no opposite walls, and no standing waves."}
      </p>
    );
  if (!view) return <p className="text-soft">Computing…</p>;
  const mode = view.modes.find((m) => key(m) === chosen) ?? view.modes[0];
  return (
    <div className="grid min-h-0 flex-1 gap-4 overflow-y-auto xl:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)]">
      {mode && <Pictured mode={mode} />}
      <Listed modes={view.modes} mode={mode} choose={setChosen} />
    </div>
  );
}

function Pictured({ mode }: { mode: RoomMode }) {
  const document = useDocument();
  const view = useRoom();
  const main = document.room?.seats[0];
  // the pattern hangs on the room and the main seat alone
  const picture = useAnswer(
    "room-mode",
    [document.room?.room.space, main, mode.order],
    (signal) =>
      get(
        api.POST("/api/room/mode", { body: { document, order: mode.order }, signal }),
      ) as Promise<RoomModePicture>,
  );
  const sides = document.room && sidesOf(document.room.room.space);
  if (!sides) return null;
  const [length, width, height] = sides;
  const title = `${mode.frequency_hz.toFixed(1)} Hz`;
  return (
    <Saved
      title={title}
      note={`${mode.order.join(", ")} half waves, ${KIND[mode.kind]}; dies away in ${mode.t60_s.toFixed(2)} s`}
    >
      <div className="space-y-2">
        {(["plan", "side"] as const).map((up) => (
          <RoomDrawing key={up} still view={view} up={up} width={560} height={up === "plan" ? 330 : 190}>
            {(x, y) =>
              picture && (
                <Pressure
                  values={picture[up]}
                  columns={picture.columns}
                  rows={up === "plan" ? picture.rows : picture.storeys}
                  sides={[length, up === "plan" ? width : height]}
                  x={x}
                  y={y}
                />
              )
            }
          </RoomDrawing>
        ))}
      </div>
      <p className="text-xs text-soft">
        + and − press and pull in turn; where nothing is drawn the pressure rests, and a cabinet there does
        not feed this wave, nor does a seat hear it. At the height of the main seat, and through it.
      </p>
      <Moves mode={mode} />
    </Saved>
  );
}

const MOVED: Record<RoomMode["moves"][number]["moved"], [string, string]> = {
  cabinet_right: ["cabinet 1", "right"],
  cabinet_left: ["cabinet 1", "left"],
  cabinet_upper: ["cabinet 1", "upper"],
  cabinet_lower: ["cabinet 1", "lower"],
  seat_right: ["the main seat", "right"],
  seat_left: ["the main seat", "left"],
  seat_upper: ["the main seat", "upper"],
  seat_lower: ["the main seat", "lower"],
};

/** What moving by 20 cm does to the wave. */
function Moves({ mode }: { mode: RoomMode }) {
  const size = useSize();
  const worth = mode.moves.filter((m) => Math.abs(m.change_db) >= 0.5);
  if (!worth.length)
    return <p className="pt-1">Moving cabinet or seat by {size(0.2, "m")} changes little here.</p>;
  const sorted = [...worth].sort((a, b) => a.change_db - b.change_db);
  return (
    <ul className="pt-1">
      {sorted.map((m) => {
        const [what, wall] = MOVED[m.moved];
        return (
          <li key={m.moved}>
            {size(0.2, "m")} of {what} toward the {wall} wall:{" "}
            <b className={m.change_db < 0 ? "text-verdigris" : ""}>
              {Math.abs(m.change_db).toFixed(1)} dB {m.change_db < 0 ? "less" : "more"}
            </b>{" "}
            of it
          </li>
        );
      })}
    </ul>
  );
}

function Listed({
  modes,
  mode,
  choose,
}: {
  modes: RoomMode[];
  mode: RoomMode | undefined;
  choose: (key: string) => void;
}) {
  const room = useDocument().room;
  const [source, setSource] = useState(0);
  const [ear, setEar] = useState(0);
  const many = (count: number, name: (i: number) => string) =>
    Array.from({ length: count }, (_, i): [string, string] => [String(i), name(i)]);
  const cabinets = many(room?.cabinets.length ?? 1, (i) => `cabinet ${i + 1}`);
  const seats = many(room?.seats.length ?? 1, (i) => `seat ${letter(i)}`);
  // one that was taken away meanwhile is as good as the first
  const [from, to] = [source < cabinets.length ? source : 0, ear < seats.length ? ear : 0];
  const both = (m: RoomMode) => m.together_db[from]?.[to] ?? m.coupling_db;
  return (
    <SavedTable
      title="Standing waves"
      note="how much a cabinet feeds and a seat hears of each"
      columns={["length", "width", "height", "frequency_hz", "t60_s", "cabinet", "seat", "together_db"]}
      rows={() =>
        modes.map((m) => [
          ...m.order,
          m.frequency_hz,
          m.t60_s,
          m.cabinets[from] ?? null,
          m.seats[to] ?? null,
          both(m),
        ])
      }
    >
      {(cabinets.length > 1 || seats.length > 1) && (
        <p className="flex flex-wrap items-baseline gap-2 pb-1">
          <Select
            label="Fed by"
            value={String(from)}
            choices={cabinets}
            onChange={(v) => setSource(Number(v))}
          />
          <span className="text-soft">and</span>
          <Select label="Heard at" value={String(to)} choices={seats} onChange={(v) => setEar(Number(v))} />
        </p>
      )}
      <table className="w-full text-xs [&_td]:pl-2 [&_th]:pl-2" data-testid="room-modes">
        <Heads>
          <Head left title="Half waves along the length, across the width, from floor to ceiling">
            half waves
          </Head>
          <Head>Hz</Head>
          <Head title="Time in which it falls by 60 dB">s</Head>
          <Head title="How much it is fed: 1 is all">cabinet {from + 1}</Head>
          <Head title="How much is heard of it: 1 is all">seat {letter(to)}</Head>
          <Head title="Both together, under where it is fed and heard most">together, dB</Head>
        </Heads>
        <tbody className="font-mono tabular-nums">
          {modes.map((m) => (
            <Row key={key(m)} className={mode && key(m) === key(mode) ? "bg-selected" : ""}>
              <Name>
                <button
                  type="button"
                  aria-pressed={!!mode && key(m) === key(mode)}
                  className="text-left hover:underline"
                  onClick={() => choose(key(m))}
                >
                  {m.order.join(" · ")}
                </button>
              </Name>
              <Value>{m.frequency_hz.toFixed(1)}</Value>
              <Value>{m.t60_s.toFixed(2)}</Value>
              <Value>{(m.cabinets[from] ?? 0).toFixed(2)}</Value>
              <Value>{(m.seats[to] ?? 0).toFixed(2)}</Value>
              <Value className={both(m) > -6 ? "font-semibold" : "text-soft"}>{both(m).toFixed(0)}</Value>
            </Row>
          ))}
        </tbody>
      </table>
    </SavedTable>
  );
}

/** Pressure as strokes whose length is how much of it there is: upright where it presses, level where it pulls. */
const Pressure = memo(function Pressure({
  values,
  columns,
  rows,
  sides,
  x,
  y,
}: {
  values: number[];
  columns: number;
  rows: number;
  sides: [number, number];
  x: (m: number) => number;
  y: (m: number) => number;
}) {
  const [w, h] = [sides[0] / columns, sides[1] / rows];
  const reach = 0.42 * Math.min(x(w), Math.abs(y(0) - y(h)));
  let plus = "";
  let minus = "";
  values.forEach((v, i) => {
    const [px, py] = [x(((i % columns) + 0.5) * w), y((Math.floor(i / columns) + 0.5) * h)];
    const r = Math.abs(v) * reach;
    if (r < 0.3) return;
    const level = `M${(px - r).toFixed(1)} ${py.toFixed(1)}h${(2 * r).toFixed(1)}`;
    if (v > 0) plus += `${level}M${px.toFixed(1)} ${(py - r).toFixed(1)}v${(2 * r).toFixed(1)}`;
    else minus += level;
  });
  return (
    <g aria-hidden fill="none" strokeWidth="1.1">
      <path d={plus} stroke="var(--oak)" />
      <path d={minus} stroke="var(--verdigris)" />
    </g>
  );
});
