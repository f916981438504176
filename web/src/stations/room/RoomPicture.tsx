import { useLayoutEffect, useState } from "react";
import type { RoomView } from "../../api/client";
import { useSize } from "../../app/settings";
import { painted } from "../../lib/traced";
import { tidy } from "../../lib/quantity";
import { Button } from "../../ui/Button";
import { roundUp } from "../../lib/axis";
import { Figure } from "../../ui/Figure";
import { Plot, type PlotCurve } from "../../ui/Plot";
import { Saved } from "../../ui/Saved";
import { Say } from "../../ui/Say";
import { useDocument } from "../../workbench/context";
import { sidesOf, type Which } from "./places";
import { RoomDrawing } from "./RoomDrawing";
import { useHeard } from "./useRoom";
import { letter } from "./useThings";

const TICKS = [10, 20, 30, 40, 50, 70, 100, 150, 200];

/** Plan and side view with what stands there, and what every seat hears. */
export function RoomPicture() {
  const room = useDocument().room;
  const view = useHeard();
  // for who measures how soon a drag is seen
  useLayoutEffect(() => {
    if (view) painted("room", view);
  }, [view]);
  if (!room) return <Invitation />;
  if (!view) return <p className="text-soft">Computing…</p>;
  return (
    <div className="space-y-2">
      <Drawings view={view} />
      <Facts view={view} />
      {stands(view) ? (
        <Heard view={view} />
      ) : (
        <p role="status" className="border-l-3 border-brick pl-2">
          Something stands where it cannot, drawn red: nothing is told of what is heard until it stands
          elsewhere.
        </p>
      )}
    </div>
  );
}

/** Whether everything stands where it can; what is kept free is a wish. */
const stands = (view: RoomView) => view.clashes.every((c) => c.against === "kept_free");

function Invitation() {
  return (
    <div className="max-w-prose space-y-2 pt-6">
      <h2 className="font-display text-lg font-semibold">Half of what is heard below 100 Hz is the room</h2>
      <p>
        This build stands in the open: its level is that of a wide floor without walls. Give it a room, a
        cabin or a place outdoors on the left, and see what every seat gets, where it is best put, and what
        the room lifts by itself.
      </p>
    </div>
  );
}

/** The plan, and the side view under or beside it. */
function Drawings({ view }: { view: RoomView }) {
  const [chosen, onChoose] = useState<Which>({ kind: "cabinet", index: 0 });
  const room = useDocument().room;
  if (!room || !sidesOf(room.room.space)) return null;
  const shared = { view, chosen, onChoose, height: 236 };
  return (
    <div className="grid gap-3 md:grid-cols-[minmax(0,1.35fr)_minmax(0,1fr)]">
      <Saved title="Plan" note="pull cabinets and seats about">
        <RoomDrawing {...shared} up="plan" width={360} />
      </Saved>
      <Saved title="Side view" note="along the length">
        <RoomDrawing {...shared} up="side" width={270} />
      </Saved>
    </div>
  );
}

function Facts({ view }: { view: RoomView }) {
  const size = useSize();
  const { figures, band_hz } = view;
  const from = `${Math.round(band_hz[0] ?? 0)} to ${Math.round(band_hz[1] ?? 0)} Hz`;
  const stuck = !stands(view);
  const lowest = figures.begins_hz ?? figures.lowest_mode_hz;
  const told = (text: string) => (stuck ? "–" : text);
  return (
    <dl className="grid grid-cols-2 gap-x-4 gap-y-1 md:grid-cols-4" data-testid="room-figures">
      <Figure
        label={view.seats.length > 1 ? "Seats differ by" : "Up and down"}
        value={told(`±${(view.seats.length > 1 ? view.between_seats_db : view.along_band_db).toFixed(1)} dB`)}
        note={
          view.seats.length > 1 && !stuck
            ? `their mean ±${view.along_band_db.toFixed(1)} dB, ${from}`
            : `along ${from}`
        }
        bad={stuck}
      />
      <Figure
        label="The room adds"
        value={told(`${signed(view.gain_db)} dB`)}
        note={told(`${signed(view.low_gain_db)} dB in the lowest octave, at the main seat`)}
      />
      <Figure
        label={figures.begins_hz ? "Lifts from" : "Lowest wave"}
        value={lowest ? `${tidy(lowest, 3)} Hz` : "none"}
        note={
          figures.begins_hz
            ? `downward; leaks below ${tidy(figures.leak_hz ?? 0, 2)} Hz`
            : figures.leak_hz
              ? `under it pressure alone, to ${tidy(figures.leak_hz, 2)} Hz`
              : "nothing stands opposite"
        }
      />
      {figures.t60_s ? (
        <Figure
          label="Dies away in"
          value={`${tidy(figures.t60_s, 2)} s`}
          note={`waves are told to ${Math.round(figures.schroeder_hz ?? 0)} Hz`}
        />
      ) : (
        <Figure
          label="Main seat at"
          value={size(view.seats[0]?.distance_m ?? 0, "m")}
          note={
            figures.crossing_hz
              ? `volume meets the open at ${Math.round(figures.crossing_hz)} Hz`
              : "from the cabinet"
          }
        />
      )}
    </dl>
  );
}

const signed = (value: number) => `${value < 0 ? "−" : "+"}${Math.abs(value).toFixed(1)}`;

/** What every seat hears; one press shows what it would be without the room. */
function Heard({ view }: { view: RoomView }) {
  const [open, setOpen] = useState(false);
  const across: [number, number] = [10, Math.min(view.frequency_hz.at(-1) ?? 200, 200)];
  const names = useDocument().room?.seats ?? [];
  const x = view.frequency_hz;
  const told = view.seats.filter((s) => s.level_db.length > 0);
  const several = told.length > 1;
  const seats: PlotCurve[] = open
    ? []
    : view.seats.flatMap((s, i) =>
        s.level_db.length
          ? [
              {
                values: s.level_db,
                colour: "var(--verdigris)",
                width: several ? 0.9 : 1.8,
                letter: letter(i),
              },
            ]
          : [],
      );
  const mean: PlotCurve[] = open || !several ? [] : [{ values: view.mean_level_db, width: 2, letter: "M" }];
  const free: PlotCurve = {
    values: view.open_level_db,
    colour: "var(--soft)",
    dash: open ? undefined : "5 4",
    width: open ? 2 : 1.1,
  };
  const all = [...view.open_level_db, ...told.flatMap((s) => s.level_db)];
  const top = Math.ceil((Math.max(...all) + 2) / 10) * 10;
  const range: [number, number] = [top - 60, top];
  const low = several && !open ? view.mean_level_db.map((m, i) => m - (view.spread_db[i] ?? 0)) : undefined;
  const high = several && !open ? view.mean_level_db.map((m, i) => m + (view.spread_db[i] ?? 0)) : undefined;
  const delays = open ? view.open_group_delay_ms : view.group_delay_ms;
  const [from = 10, to = 120] = view.band_hz;
  return (
    <Saved
      title={open ? "Without the room" : "At the seats"}
      note={`judged from ${Math.round(from)} to ${Math.round(to)} Hz`}
      table={{
        columns: [
          "frequency_hz",
          "open_db",
          ...view.seats.map((_, i) => `seat_${letter(i)}_db`),
          "mean_db",
          "spread_db",
          "group_delay_ms",
        ],
        rows: () =>
          x.map((f, i) => [
            f,
            view.open_level_db[i] ?? null,
            ...view.seats.map((s) => s.level_db[i] ?? null),
            view.mean_level_db[i] ?? null,
            view.spread_db[i] ?? null,
            view.group_delay_ms[i] ?? null,
          ]),
      }}
    >
      <div className="flex flex-wrap items-baseline gap-x-3 pb-1 text-xs text-soft">
        <Button aria-pressed={open} onClick={() => setOpen(!open)} className="!py-0.5">
          {open ? "With the room" : "Without the room"}
        </Button>
        <span>
          {view.seats.map((s, i) => `${letter(i)} ${names[i]?.name || s.name || `seat ${i + 1}`}`).join(", ")}
          {several && ", M their mean; the ground is how far they differ from it"}; dashed is the open
        </span>
      </div>
      <Plot
        x={x}
        across={across}
        title="Level"
        unit="dB"
        told
        range={range}
        ticks={TICKS}
        showTicks={false}
        height={158}
        curves={[free, ...seats, ...mean]}
        band={low && high ? { x, low, high } : undefined}
      >
        {({ x: at, bottom }) => (
          // the band that is judged, as a dimension line
          <path
            d={`M${at(from)} ${bottom - 4}H${at(to)}M${at(from) - 3} ${bottom - 1}l6 -6M${at(to) - 3} ${bottom - 1}l6 -6`}
            stroke="var(--oak)"
            fill="none"
          />
        )}
      </Plot>
      <Plot
        x={x}
        across={across}
        title={open ? "Group delay" : "Group delay at the main seat"}
        unit="ms"
        told
        range={[-20, 140]}
        ticks={TICKS}
        xUnit="Hz"
        showTicks={open || !view.modes.length}
        height={74}
        curves={[{ values: delays.map((d) => Math.min(Math.max(d, -20), 140)), width: 1.4 }]}
      />
      {view.modes.length > 0 && !open && <Decays view={view} across={across} />}
      <p className="pt-1 text-xs text-soft">
        <Say text={view.rests_on} />
      </p>
    </Saved>
  );
}

/** How long each of the lowest waves rings: a stem each, heavy where the first cabinet feeds it and the main seat hears it. */
function Decays({ view, across }: { view: RoomView; across: [number, number] }) {
  const longest = Math.max(...view.modes.map((m) => m.t60_s));
  return (
    <Plot
      x={[across[0], across[1]]}
      across={across}
      title="The lowest waves die away in"
      unit="s"
      told
      note="heavy: fed and heard"
      range={[0, roundUp(longest * 1.05)]}
      ticks={TICKS}
      xUnit="Hz"
      height={58}
      curves={[]}
    >
      {({ x, y, bottom }) =>
        view.modes
          .filter((m) => m.frequency_hz <= across[1])
          .map((m) => (
            <path
              key={m.order.join(" ")}
              d={`M${x(m.frequency_hz)} ${bottom}V${y(m.t60_s)}`}
              stroke="var(--ink)"
              strokeWidth={m.coupling_db > -6 ? 2.6 : m.coupling_db > -15 ? 1.3 : 0.5}
              strokeLinecap="round"
            />
          ))
      }
    </Plot>
  );
}
