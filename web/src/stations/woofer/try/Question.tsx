import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { api, get, Refused, type FamilyInfo, type Goal, type Trial } from "../../../api/client";
import { families, trial as trialQuery, woofers } from "../../../api/queries";
import { passes } from "../../../lib/shelf";
import { Button } from "../../../ui/Button";
import { SchemaForm } from "../../../ui/SchemaForm";
import { Select } from "../../../ui/Select";
import { useDocument } from "../../../workbench/context";
import { useRoom } from "../../room/useRoom";
import { narrowed, useChoice } from "../shelf/filter";

const ASKED = ["lowest_note_hz", "level_db", "distance_m", "largest_outside_l"];
const ASSUMED = { "/brief/distance_m": { value: 1, words: "assumed" } };

export function Question({ trial }: { trial: Trial | undefined }) {
  const { id = "" } = useParams();
  const document = useDocument();
  const { filter } = useChoice();
  const shelf = useQuery(woofers()).data ?? [];
  const list = (useQuery(families()).data ?? []).filter((f) => f.searched !== "never");
  const [counts, setCounts] = useState([1, 2]);
  const [chosenByHand, choose] = useState<Record<string, boolean>>({});
  // what takes long is left out until it is asked for
  const taken = (f: FamilyInfo) => chosenByHand[f.id] ?? f.searched === "quickly";
  const [air, setAir] = useState<Goal["port_air"]>("quiet");
  const [fits, setFits] = useState(true);
  const [filtered, setFiltered] = useState(true);
  const [inRoom, setInRoom] = useState<boolean>();
  const [wrong, setWrong] = useState<string | null>(null);
  const client = useQueryClient();
  const some = narrowed(filter);
  const tried = some ? shelf.filter((line) => passes(line, filter)) : shelf;
  const brief = document.brief ?? {};
  const chain = document.chain;
  const members = (chain?.filters?.length ?? 0) + (chain?.parts?.length ?? 0);
  const { lowest_note_hz, level_db, largest_outside_l } = brief;
  const adds = useRoom()?.brief_gain_db ?? [];
  const held = document.room && adds.length > 0 && (inRoom ?? document.room.holds_brief ?? false);
  const open = [
    lowest_note_hz ? "" : "the lowest note",
    level_db ? "" : "the level",
    largest_outside_l ? "" : "the largest box",
  ].filter(Boolean);
  const chosen = list.filter(taken).map((f) => f.id);
  const running = trial?.state === "running";

  const begin = async () => {
    if (!lowest_note_hz || !level_db || !largest_outside_l) return;
    setWrong(null);
    const goal: Goal = {
      lowest_note_hz,
      level_db,
      largest_outside_l,
      distance_m: brief.distance_m ?? 1,
      port_air: air,
      port_fits: fits,
      ...(document.listening?.solid_angle && { solid_angle: document.listening.solid_angle }),
      ...(chain && { chain: filtered ? chain : { ...chain, filters: [], parts: [] } }),
      ...(document.air && { air: document.air }),
      ...(held && { room_adds_db: adds }),
    };
    const body = {
      goal,
      counts,
      families: chosen,
      ...(some && { woofers: tried.map((line) => line.id) }),
    };
    try {
      const made = await get(api.POST("/api/builds/{id}/trial", { params: { path: { id } }, body }));
      client.setQueryData(trialQuery(id).queryKey, made);
      await client.invalidateQueries(trialQuery(id));
    } catch (cause) {
      setWrong(cause instanceof Refused ? cause.message : "That did not work.");
    }
  };
  const toggle = (n: number) =>
    setCounts((old) => (old.includes(n) ? old.filter((x) => x !== n) : [...old, n].sort()));
  return (
    <section aria-label="What is asked" className="min-h-0 overflow-y-auto pr-1">
      <SchemaForm pointer="/brief" only={ASKED} assumed={ASSUMED} />
      <fieldset className="flex items-baseline gap-2 border-b border-rule/70 py-[5px]">
        <legend className="float-left flex-1 text-soft">Woofers in it</legend>
        <span className="ml-auto flex gap-2">
          {[1, 2, 4].map((n) => (
            <label key={n} className="flex items-center gap-1">
              <input
                type="checkbox"
                className="accent-oak"
                checked={counts.includes(n)}
                onChange={() => toggle(n)}
              />
              {n}
            </label>
          ))}
        </span>
      </fieldset>
      <fieldset className="border-b border-rule/70 py-[5px]">
        <legend className="sr-only">Families</legend>
        {list.map((f) => (
          <label key={f.id} className="flex items-center gap-1.5" title={f.summary}>
            <input
              type="checkbox"
              className="accent-oak"
              checked={taken(f)}
              onChange={(e) => choose({ ...chosenByHand, [f.id]: e.target.checked })}
            />
            {f.title}
            {f.searched === "slowly" && <span className="text-xs text-soft">takes long</span>}
          </label>
        ))}
      </fieldset>
      <div className="flex items-baseline gap-2 border-b border-rule/70 py-[5px]">
        <span className="flex-1 text-soft">Air in the port</span>
        <Select
          label="Air in the port"
          value={air ?? "quiet"}
          choices={[
            ["quiet", "quiet", "17 m/s with straight ends, 34 with flared ones (common practice)"],
            ["contest", "contest", "as fast as it likes"],
          ]}
          onChange={(v) => setAir(v as Goal["port_air"])}
        />
      </div>
      <label className="flex items-baseline gap-2 border-b border-rule/70 py-[5px]">
        <span className="flex-1 text-soft">Port has to fit in straight</span>
        <input
          type="checkbox"
          className="accent-oak"
          checked={fits}
          onChange={(e) => setFits(e.target.checked)}
        />
      </label>
      {members > 0 && (
        <label className="flex items-baseline gap-2 border-b border-rule/70 py-[5px]">
          <span className="flex-1 text-soft">With this build&apos;s filters and parts</span>
          <input
            type="checkbox"
            className="accent-oak"
            checked={filtered}
            onChange={(e) => setFiltered(e.target.checked)}
          />
        </label>
      )}
      {document.room && adds.length > 0 && (
        <label className="flex items-baseline gap-2 border-b border-rule/70 py-[5px]">
          <span className="flex-1 text-soft" title="What the room adds counts as level (an estimate)">
            At the seats of {document.room.room.name}
          </span>
          <input
            type="checkbox"
            className="accent-oak"
            checked={!!held}
            onChange={(e) => setInRoom(e.target.checked)}
          />
        </label>
      )}
      <p className="py-2 text-soft">
        {some
          ? `The ${tried.length} woofers the shelf is narrowed to.`
          : `All ${tried.length} woofers of the shelf.`}
      </p>
      <Button
        look="strong"
        disabled={running || open.length > 0 || !tried.length || !counts.length || !chosen.length}
        onClick={() => void begin()}
      >
        Try {tried.length} woofers
      </Button>
      {open.length > 0 && (
        <p role="status" className="pt-1 text-ochre">
          The brief still needs {open.join(", ")}.
        </p>
      )}
      {wrong && (
        <p role="alert" className="pt-1 text-brick">
          {wrong}
        </p>
      )}
    </section>
  );
}
