import { memo, useId, useState } from "react";
import { useAnswer } from "../../api/answer";
import { api, get, type Arrangements, type Design, type RoomMap } from "../../api/client";
import { tidy } from "../../lib/quantity";
import { Button } from "../../ui/Button";
import { Saved } from "../../ui/Saved";
import { Say } from "../../ui/Say";
import { Select } from "../../ui/Select";
import { Head, Heads, Name, Row, Value } from "../../ui/Table";
import { useDocument, useWorkbench } from "../../workbench/context";
import { blanks, lines, SHADINGS, type Shading } from "./contours";
import { RoomDrawing } from "./RoomDrawing";
import { centimetre, type Which } from "./places";
import { useHeard } from "./useRoom";
import { letter } from "./useThings";

const COARSE = { columns: 15, rows: 10 };
const FINE = { columns: 60, rows: 40 };
const REST_MS = 250;

/** The whole floor as a map for a cabinet or a seat, the best places on it, and arrangements of one to four. */
export function WhereView() {
  const room = useDocument().room;
  if (!room) return <p className="text-soft">This build stands in the open: give it a room first.</p>;
  if (room.room.space.kind === "cabin")
    return (
      <p className="max-w-prose text-soft">
        In a cabin the pressure is the same everywhere below its lowest wave: places do not count there, only
        its volume and its leaks.
      </p>
    );
  return (
    <div className="grid min-h-0 flex-1 gap-4 overflow-y-auto xl:grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)]">
      <FloorMap />
      <Arranged />
    </div>
  );
}

/** What a map depends on: all of a design but its name. */
const aboutOf = (document: Design) => ({ ...document, name: "" });

function FloorMap() {
  const document = useDocument();
  const workbench = useWorkbench();
  const view = useHeard();
  const { room } = document;
  const [of, setOf] = useState<Which>({ kind: "cabinet", index: 0 });
  const [shading, setShading] = useState<Shading>("uneven");
  const [pencil, setPencil] = useState(false);
  const [stopped, setStopped] = useState<object | null>(null);
  const wish = { of: of.kind, index: of.index };
  const about = { document: aboutOf(document), wish };
  const ask = (fields: { columns: number; rows: number }) => (signal: AbortSignal) =>
    get(
      api.POST("/api/room/map", { body: { document, map: { ...wish, ...fields } }, signal }),
    ) as Promise<RoomMap>;
  const coarse = useAnswer("room-map-coarse", about, ask(COARSE), REST_MS);
  const fine = useAnswer("room-map", stopped === document ? undefined : about, ask(FINE), REST_MS);
  // the fine one of another place or state is worse than the coarse one of this
  const whole = fine && coarse && near(fine, coarse) ? fine : undefined;
  const map = whole ?? coarse;
  if (!room) return null;
  const things = [
    ...room.cabinets.map((_, i): [string, string] => [`cabinet${i}`, `cabinet ${i + 1}`]),
    ...room.seats.map((s, i): [string, string] => [
      `seat${i}`,
      `seat ${letter(i)}${s.name ? `, ${s.name}` : ""}`,
    ]),
  ];
  const drawn = (area: { at: [number, number]; long: [number, number] }) => {
    const [x_m, y_m] = area.at.map(centimetre) as [number, number];
    const [length_m, width_m] = area.long.map(centimetre) as [number, number];
    const kept = room.room.kept_free ?? [];
    workbench.set("/room/room/kept_free", [...kept, { name: "", x_m, y_m, length_m, width_m }]);
    setPencil(false);
  };
  const taken = room.room.kept_free ?? [];
  return (
    <section aria-label="Map" className="min-w-0 space-y-2">
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <span className="text-soft">With</span>
        <Select
          label="What is moved"
          value={`${of.kind}${of.index}`}
          choices={things}
          onChange={(id) =>
            setOf(
              id.startsWith("seat")
                ? { kind: "seat", index: Number(id.slice(4)) }
                : { kind: "cabinet", index: Number(id.slice(7)) },
            )
          }
        />
        <span className="text-soft">at every place:</span>
        <Select
          label="What the map shows"
          value={shading}
          choices={Object.entries(SHADINGS).map(([id, s]): [string, string] => [id, s.title])}
          onChange={(id) => setShading(id as Shading)}
        />
        <span className="flex-1" />
        <Button aria-pressed={pencil} onClick={() => setPencil(!pencil)}>
          {pencil ? "Draw it on the floor…" : "Keep an area free"}
        </Button>
        {taken.length > 0 && (
          <Button
            onClick={() =>
              workbench.set("/room/room/kept_free", taken.length > 1 ? taken.slice(0, -1) : undefined)
            }
          >
            Free the last again
          </Button>
        )}
      </div>
      <Saved
        title={`${SHADINGS[shading].title}, dB`}
        note={
          map
            ? `${Math.round(map.band_hz[0] ?? 0)} to ${Math.round(map.band_hz[1] ?? 0)} Hz, an estimate`
            : "computing…"
        }
        table={
          map && {
            columns: ["x_m", "y_m", "uneven_db", "between_db", "loud_db", "low_db"],
            rows: () =>
              map.y_m.flatMap((y, r) =>
                map.x_m.map((x, c) => {
                  const i = r * map.x_m.length + c;
                  return [
                    x,
                    y,
                    map.uneven_db[i] ?? null,
                    map.between_db[i] ?? null,
                    map.loud_db[i] ?? null,
                    map.low_db[i] ?? null,
                  ];
                }),
              ),
          }
        }
      >
        <div data-testid="room-map" data-places={map ? map.x_m.length * map.y_m.length : 0}>
          <RoomDrawing
            view={view}
            up="plan"
            chosen={of}
            onChoose={setOf}
            onDrawn={pencil ? drawn : undefined}
            width={640}
            height={420}
          >
            {(x, y) => map && <Shaded map={map} shading={shading} x={x} y={y} />}
          </RoomDrawing>
        </div>
        <p className="flex flex-wrap items-baseline gap-x-3 text-xs text-soft">
          <span>
            {SHADINGS[shading].muchIsBad
              ? "The denser the hatching, the more uneven; crosses are the best places."
              : "The denser the hatching, the softer; crosses are the most even places."}
          </span>
          {!whole && map && stopped !== document && (
            <span role="status">
              {map.x_m.length * map.y_m.length} of {FINE.columns * FINE.rows} places{" "}
              <button type="button" className="text-oak underline" onClick={() => setStopped(document)}>
                that will do
              </button>
            </span>
          )}
        </p>
      </Saved>
      {map && <Best map={map} of={of} />}
    </section>
  );
}

/** Whether two maps are of the same state: their best places lie together. */
const near = (a: RoomMap, b: RoomMap) =>
  a.band_hz[0] === b.band_hz[0] && Math.abs(a.now.uneven_db - b.now.uneven_db) < 1e-6;

/** Lines of equal height with their heights, and hatching by density. */
const Shaded = memo(function Shaded({
  map,
  shading,
  x,
  y,
}: {
  map: RoomMap;
  shading: Shading;
  x: (m: number) => number;
  y: (m: number) => number;
}) {
  const id = useId();
  const list = lines(map, shading);
  const path = (rings: [number, number][][]) =>
    rings
      .map((ring) => `M${ring.map(([a, b]) => `${x(a).toFixed(1)} ${y(b).toFixed(1)}`).join("L")}Z`)
      .join("");
  return (
    <g aria-hidden>
      <defs>
        {list.map((_, i) => (
          <pattern
            key={i}
            id={`${id}${i}`}
            width="12"
            height="12"
            patternUnits="userSpaceOnUse"
            patternTransform={`rotate(${i % 2 ? 45 : -45}) translate(${i * 3.5} 0)`}
          >
            <path d="M0 0V12" stroke="var(--soft)" strokeWidth="0.7" opacity="0.75" />
          </pattern>
        ))}
      </defs>
      {list.map((line, i) => (
        <path
          key={line.value}
          d={path(line.rings)}
          fill={`url(#${id}${i})`}
          stroke="var(--ink)"
          strokeWidth="0.7"
          strokeOpacity="0.55"
        />
      ))}
      <path
        d={blanks(map)
          .map(
            ({ at, long }) =>
              `M${x(at[0]).toFixed(1)} ${y(at[1]).toFixed(1)}h${x(long[0]).toFixed(1)}v${(y(0) - y(long[1])).toFixed(1)}h${(-x(long[0])).toFixed(1)}Z`,
          )
          .join("")}
        fill="var(--panel)"
        stroke="var(--panel)"
        strokeWidth="0.6"
      />
      {list.map(
        (line) =>
          line.label && (
            <text
              key={line.value}
              x={x(line.label.at[0])}
              y={y(line.label.at[1]) + 3}
              textAnchor="middle"
              fill="var(--ink)"
              stroke="var(--panel)"
              strokeWidth="3"
              paintOrder="stroke"
              className="tabular-nums"
            >
              {line.label.text}
            </text>
          ),
      )}
      {map.best.map((place, i) => (
        <g key={i} stroke="var(--oak)" strokeWidth="1.8" fill="none">
          <path d={`M${x(place.x_m) - 5} ${y(place.y_m) - 5}l10 10m0 -10l-10 10`} />
          <text
            x={x(place.x_m) + 9}
            y={y(place.y_m) - 3}
            fill="var(--oak)"
            stroke="var(--panel)"
            strokeWidth="3"
            paintOrder="stroke"
            fontWeight="700"
            fontSize="12"
          >
            {["best", "second", "third"][i]}
          </text>
        </g>
      ))}
    </g>
  );
});

function Best({ map, of }: { map: RoomMap; of: Which }) {
  const workbench = useWorkbench();
  const what = of.kind === "cabinet" ? `Cabinet ${of.index + 1}` : `Seat ${letter(of.index)}`;
  return (
    <ol className="space-y-1" aria-label="Best places">
      {map.best.map((place, i) => (
        <li key={i} className="flex items-baseline gap-2 border-t border-rule/60 pt-1">
          <span className="min-w-0 flex-1">
            <b>{["Best", "Second", "Third"][i]}:</b> <Say text={place.why} />
          </span>
          <Button look="action" onClick={() => workbench.take(`${what} moved`, place.changes)}>
            Put it there
          </Button>
        </li>
      ))}
    </ol>
  );
}

const ARRANGE_REST_MS = 400;

/** The usual arrangements of one to four, and what a search finds. */
function Arranged() {
  const document = useDocument();
  const workbench = useWorkbench();
  const [count, setCount] = useState(
    document.room?.cabinets.length === 1 ? 2 : (document.room?.cabinets.length ?? 2),
  );
  const about = { document: aboutOf(document), count };
  const found = useAnswer(
    "arrangements",
    about,
    (signal) =>
      get(
        api.POST("/api/room/arrangements", { body: { document, arrange: { count } }, signal }),
      ) as Promise<Arrangements>,
    ARRANGE_REST_MS,
  );
  return (
    <section aria-label="Arrangements" className="min-w-0">
      <h2 className="flex flex-wrap items-baseline gap-2 font-display text-base font-semibold">
        Arrangements of
        <span
          role="radiogroup"
          aria-label="How many cabinets"
          className="flex gap-1 font-sans text-sm font-normal"
        >
          {[1, 2, 3, 4].map((n) => (
            <Button
              key={n}
              role="radio"
              aria-checked={n === count}
              className={`!py-0 ${n === count ? "bg-selected" : ""}`}
              onClick={() => setCount(n)}
            >
              {n}
            </Button>
          ))}
        </span>
      </h2>
      {!found && <p className="text-soft">Searching the floor…</p>}
      {found && (
        <>
          <p className="py-1 text-xs text-soft">
            Equal cabinets of this build, the most even first; {found.tried.toLocaleString("en")} sets of
            places were tried beside the usual ones. As it stands now: ±{found.now.uneven_db.toFixed(1)} dB.
          </p>
          <table className="w-full text-xs [&_td]:pl-2 [&_th]:pl-2" data-testid="arrangements">
            <Heads>
              <Head left>where</Head>
              <Head title="What any seat is at any frequency off the mean of all">uneven, dB</Head>
              <Head title="How far seats differ">seats, dB</Head>
              <Head title="Mean level against one cabinet in the open at a metre">loud, dB</Head>
              <td />
            </Heads>
            <tbody className="font-mono tabular-nums">
              {found.list.map((a, i) => (
                <Row key={i}>
                  <Name>
                    <span className="font-sans whitespace-normal">
                      <Say text={a.title} />
                    </span>
                  </Name>
                  <Value className={a.values.uneven_db < found.now.uneven_db ? "font-semibold" : ""}>
                    {a.values.uneven_db.toFixed(1)}
                  </Value>
                  <Value>{a.values.between_db.toFixed(1)}</Value>
                  <Value>{tidy(Number(a.values.loud_db.toFixed(1)), 3)}</Value>
                  <td>
                    <button
                      type="button"
                      className="font-sans whitespace-nowrap text-oak underline decoration-dotted"
                      onClick={() => workbench.take(a.title, a.changes)}
                    >
                      put them so
                    </button>
                  </td>
                </Row>
              ))}
            </tbody>
          </table>
        </>
      )}
    </section>
  );
}
