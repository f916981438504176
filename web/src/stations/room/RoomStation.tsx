import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, get, Refused, type RoomRecord } from "../../api/client";
import { build, builds, rooms } from "../../api/queries";
import { useFigure, useSay } from "../../app/settings";
import { definition } from "../../lib/schema";
import { Button } from "../../ui/Button";
import { Disclosure } from "../../ui/Disclosure";
import { SchemaForm } from "../../ui/SchemaForm";
import { Select } from "../../ui/Select";
import { useDocument, useWorkbench } from "../../workbench/context";
import { same } from "../../workbench/saver";
import { beside, sidesOf, standing, type InRoom } from "./places";
import { useRoom } from "./useRoom";

const most = (list: string) => definition("InRoom").properties?.[list]?.maxItems ?? 1;
const MOST_CABINETS = most("cabinets");
const MOST_SEATS = most("seats");
const OWN: InRoom["room"] = {
  name: "My room",
  space: { kind: "room", length_m: 5.2, width_m: 3.9, height_m: 2.5, damping: { by: "time", t60_s: 0.5 } },
};

/** Which room it is, what stands in it, who listens, who lives behind the wall. */
export function RoomStation() {
  const room = useDocument().room;
  const { data } = useQuery(rooms());
  return (
    <>
      <Chosen list={data ?? []} />
      {room && (
        <>
          <Disclosure title="The room itself" indented>
            <SchemaForm pointer="/room/room" />
          </Disclosure>
          <Cabinets />
          <Seats />
          <SchemaForm pointer="/room" only={["holds_brief"]} />
          <Behind />
        </>
      )}
    </>
  );
}

/** The workshop's rooms to choose from, and how this build's copy stands to the workshop's. */
function Chosen({ list }: { list: RoomRecord[] }) {
  const room = useDocument().room;
  const workbench = useWorkbench();
  const client = useQueryClient();
  const say = useSay();
  const [said, setSaid] = useState("");
  const [gone, setGone] = useState<RoomRecord | null>(null);
  const kept = list.find((r) => r.document.name === room?.room.name);
  const put = (taken: InRoom["room"]) =>
    workbench.take(`In ${taken.name}`, [
      room ? { pointer: "/room/room", value: taken } : { pointer: "/room", value: standing(taken) },
    ]);
  const doing = async (what: () => Promise<unknown>, done: string) => {
    try {
      await what();
      setSaid(done);
    } catch (cause) {
      const problem = cause instanceof Refused ? cause.problem : undefined;
      const first = problem?.errors?.[0]?.message;
      setSaid(
        problem?.status === 409
          ? "Not kept: somebody saved this room meanwhile. Take the workshop's, or give yours another name."
          : first
            ? `Not kept: ${say(first)}`
            : "Not kept: the server does not answer.",
      );
    }
    await client.invalidateQueries(rooms());
  };
  const keep = (document: InRoom["room"]) =>
    kept
      ? get(
          api.PUT("/api/rooms/{id}", {
            params: { path: { id: kept.id } },
            body: { base_version: kept.version, document },
          }),
        )
      : get(api.POST("/api/rooms", { body: { document } }));
  const away = (record: RoomRecord) =>
    doing(async () => {
      await get(api.DELETE("/api/rooms/{id}", { params: { path: { id: record.id } } }));
      setGone(record);
    }, `${record.document.name} is put away; builds keep their copy.`);
  const back = (record: RoomRecord) =>
    doing(async () => {
      await get(api.POST("/api/rooms/{id}/restore", { params: { path: { id: record.id } } }));
      setGone(null);
    }, `${record.document.name} is back.`);
  const choices: [string, string][] = [
    ["", room ? `${room.room.name}${kept ? "" : " (this build's)"}` : "in the open"],
    ...list.filter((r) => r !== kept).map((r): [string, string] => [r.id, r.document.name]),
    ...(room ? [["open", "in the open"] as [string, string]] : []),
    ...(room ? [] : [["own", "a room of my own"] as [string, string]]),
  ];
  const choose = (id: string) => {
    const record = list.find((r) => r.id === id);
    setSaid("");
    if (record) put(record.document);
    if (id === "own") put(OWN);
    if (id === "open") workbench.take("In the open", [{ pointer: "/room", value: undefined }]);
  };
  const differs = room && kept && !same(kept.document, room.room);
  return (
    <div className="border-b border-rule/70 pb-1.5">
      <div className="flex items-baseline justify-between gap-2 py-[5px]">
        <span className="text-soft">It stands</span>
        <Select label="Room" value="" choices={choices} onChange={choose} />
      </div>
      {!room && (
        <div className="flex flex-wrap gap-1.5">
          {list.map((r) => (
            <Button key={r.id} look="action" onClick={() => put(r.document)}>
              {r.document.name}
            </Button>
          ))}
          <Button onClick={() => put(OWN)}>A room of my own</Button>
        </div>
      )}
      {room && (!kept || differs) && (
        <p className="flex flex-wrap items-baseline gap-2 text-xs">
          <span className="text-soft">
            {kept ? "The workshop's room of this name is another." : "Kept with this build only."}
          </span>
          <Button
            className="!py-0"
            onClick={() => void doing(() => keep(room.room), "Kept in the workshop.")}
          >
            {kept ? "Keep mine" : "Keep it in the workshop"}
          </Button>
          {kept && (
            <Button className="!py-0" onClick={() => put(kept.document)}>
              Take the workshop&rsquo;s
            </Button>
          )}
        </p>
      )}
      {room && kept && !differs && (
        <button
          type="button"
          className="text-xs text-soft underline decoration-dotted"
          onClick={() => void away(kept)}
        >
          put this room out of the workshop
        </button>
      )}
      <p role="status" className="text-xs text-soft">
        {said}{" "}
        {gone && (
          <button type="button" className="text-oak underline" onClick={() => void back(gone)}>
            Put it back
          </button>
        )}
      </p>
    </div>
  );
}

function Cabinets() {
  const room = useDocument().room;
  const workbench = useWorkbench();
  const view = useRoom();
  const figure = useFigure();
  if (!room) return null;
  const placed = room.room.space.kind !== "cabin";
  const fields = placed ? ["x_m", "y_m", "raised_m", "faces"] : [];
  const change = (cabinets: InRoom["cabinets"]) => workbench.set("/room/cabinets", cabinets);
  const [last] = room.cabinets.slice(-1);
  return (
    <section aria-label="Cabinets">
      <h2 className="flex items-baseline justify-between pt-2 font-display text-base font-semibold">
        Cabinets
        <button
          type="button"
          className="font-sans text-sm font-normal text-oak underline decoration-dotted disabled:opacity-40"
          disabled={room.cabinets.length >= MOST_CABINETS}
          onClick={() => last && change([...room.cabinets, beside(last, sidesOf(room.room.space))])}
        >
          another
        </button>
      </h2>
      {room.cabinets.map((cabinet, i) => {
        const outside = view?.cabinets[i];
        const sizes = outside?.outside_m.map((m) => figure(Math.round(m * 1000), "mm")).join(" x ");
        return (
          <Disclosure
            key={i}
            title={`${i + 1}  ${cabinet.other?.name ?? "this build"}${sizes ? `, ${sizes}` : ""}${outside?.assumed ? " (assumed)" : ""}`}
            indented
            open={i === 0}
          >
            <SchemaForm
              pointer={`/room/cabinets/${i}`}
              only={[...fields, "level_db", "delay_ms", "inverted"]}
            />
            <p className="flex flex-wrap gap-3 py-1 text-xs">
              <Other index={i} />
              {room.cabinets.length > 1 && (
                <button
                  type="button"
                  className="text-soft underline decoration-dotted"
                  aria-label={`Remove cabinet ${i + 1}`}
                  onClick={() => change(room.cabinets.filter((_, k) => k !== i))}
                >
                  remove
                </button>
              )}
            </p>
          </Disclosure>
        );
      })}
    </section>
  );
}

/** Another build in a cabinet's place: its air as it plays now is kept with this build. */
function Other({ index }: { index: number }) {
  const document = useDocument();
  const workbench = useWorkbench();
  const client = useQueryClient();
  const [open, setOpen] = useState(false);
  const [said, setSaid] = useState("");
  const { data } = useQuery({ ...builds(), enabled: open });
  const other = document.room?.cabinets[index]?.other;
  const at = `/room/cabinets/${index}/other`;
  const put = async (which: string) => {
    const [id = "", letter] = which.split("/");
    setSaid("Working it out…");
    try {
      const detail = await client.fetchQuery({ ...build(id), gcTime: 1000 });
      const chosen = detail.revisions.find((r) => r.letter === letter);
      if (!chosen) return;
      const made = await get(api.POST("/api/room/other", { body: chosen.document }));
      const name = `${detail.name} ${chosen.letter}`;
      workbench.take(`${name} there`, [{ pointer: at, value: { ...made, name } }]);
      setOpen(false);
      setSaid("");
    } catch {
      setSaid("It cannot be worked out now.");
    }
  };
  if (other)
    return (
      <button
        type="button"
        className="text-oak underline decoration-dotted"
        onClick={() => workbench.take("This build there", [{ pointer: at, value: undefined }])}
      >
        this build instead
      </button>
    );
  if (!open)
    return (
      <button type="button" className="text-oak underline decoration-dotted" onClick={() => setOpen(true)}>
        another build here
      </button>
    );
  return (
    <span className="flex items-baseline gap-2">
      <Select
        label={`Build in place ${index + 1}`}
        value=""
        choices={[
          ["", "which?"],
          ...(data ?? []).flatMap((b) =>
            b.letters.map((letter): [string, string] => [`${b.id}/${letter}`, `${b.name} ${letter}`]),
          ),
        ]}
        onChange={(id) => id && void put(id)}
      />
      <span role="status">{said}</span>
    </span>
  );
}

function Seats() {
  const room = useDocument().room;
  const workbench = useWorkbench();
  if (!room || room.room.space.kind === "cabin") return null;
  const change = (seats: InRoom["seats"]) => workbench.set("/room/seats", seats);
  const [last] = room.seats.slice(-1);
  const full = room.seats.length >= MOST_SEATS;
  const sides = sidesOf(room.room.space);
  const add = () => last && change([...room.seats, { ...beside(last, sides), name: "" }]);
  const area = () => last && change([...room.seats, ...block(last, MOST_SEATS - room.seats.length, sides)]);
  return (
    <section aria-label="Seats">
      <h2 className="flex items-baseline justify-between pt-2 font-display text-base font-semibold">
        Seats
        <span className="flex gap-3 font-sans text-sm font-normal">
          <button
            type="button"
            className="text-oak underline decoration-dotted disabled:opacity-40"
            disabled={full}
            onClick={add}
          >
            another
          </button>
          <button
            type="button"
            className="text-oak underline decoration-dotted disabled:opacity-40"
            disabled={full}
            onClick={area}
          >
            an area
          </button>
        </span>
      </h2>
      {room.seats.map((seat, i) => (
        <Disclosure
          key={i}
          title={`${String.fromCharCode(97 + i)}  ${seat.name || `Seat ${i + 1}`}`}
          indented
        >
          <SchemaForm pointer={`/room/seats/${i}`} />
          {room.seats.length > 1 && (
            <button
              type="button"
              className="py-1 text-xs text-soft underline decoration-dotted"
              aria-label={`Remove seat ${i + 1}`}
              onClick={() => change(room.seats.filter((_, k) => k !== i))}
            >
              remove
            </button>
          )}
        </Disclosure>
      ))}
    </section>
  );
}

/** Six seats behind the last one, two rows of three 0.7 m apart, as many as fit. */
function block(from: InRoom["seats"][number], most: number, sides: number[] | undefined): InRoom["seats"] {
  const [length = 1e9, width = 1e9] = sides ?? [];
  const held = (v: number, side: number) => Number(Math.min(Math.max(v, 0.2), side - 0.2).toFixed(2));
  const places = [0.7, 1.4].flatMap((back) => [-0.7, 0, 0.7].map((aside) => [back, aside] as const));
  return places.slice(0, most).map(([back, aside]) => ({
    ...from,
    name: "",
    x_m: held(from.x_m + back, length),
    y_m: held(from.y_m + aside, width),
  }));
}

/** Who lives behind a wall, and what they get. */
function Behind() {
  const neighbour = useDocument().room?.neighbour;
  const workbench = useWorkbench();
  const view = useRoom();
  const there = view?.neighbour;
  return (
    <section aria-label="Neighbour" className="pt-2">
      <label className="flex items-baseline gap-2">
        <input
          type="checkbox"
          checked={!!neighbour}
          onChange={(e) => workbench.set("/room/neighbour", e.target.checked ? START : undefined)}
        />
        <span>Somebody lives behind a wall</span>
      </label>
      {neighbour && <SchemaForm pointer="/room/neighbour" />}
      {neighbour && there && (
        <p className="pt-1 text-xs" data-testid="neighbour">
          At this drive about <b>{Math.round(there.there_dba)} dBA</b> behind it ({Math.round(there.here_db)}{" "}
          dB here), by the mass law: an estimate, flanking ways and the wall&rsquo;s own resonances left out.{" "}
          {there.softer_db > 0
            ? `${hours(there.hours)} of the evening stay under the limit; ${Math.ceil(there.softer_db)} dB softer all of it does.`
            : "The whole evening stays under the limit."}
        </p>
      )}
    </section>
  );
}

const START: NonNullable<InRoom["neighbour"]> = { wall: "half_brick", limit_dba: 30, evening_h: 4 };
const hours = (h: number) => (h < 1.5 ? `${Math.round(h * 60)} min` : `${h.toFixed(1)} h`);
