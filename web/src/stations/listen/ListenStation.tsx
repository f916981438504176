import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState, type ReactNode } from "react";
import { api, get, Refused } from "../../api/client";
import { listening, programme } from "../../api/queries";
import { useSay } from "../../app/settings";
import { Button } from "../../ui/Button";
import { Disclosure } from "../../ui/Disclosure";
import { useBuild } from "../../workbench/context";
import { Level } from "./Level";
import { useLevels } from "./useLevels";
import { box, fresh, isOfTwo, KINDS, matched, session, type Changes, type Draft } from "./plan";

const KEY = "oak-drum.listen-draft.";
const field = `${box} w-full`;

/** The set-up of a session: what is asked, what is heard, by whom switched, at which level. */
export function ListenStation() {
  const bench = useBuild();
  const build = bench.build.id;
  const client = useQueryClient();
  const say = useSay();
  const [draft, setDraft] = useState<Draft>(() => kept(build) ?? fresh(bench.revisions.map(named)));
  const [said, setSaid] = useState("");
  const [wrong, setWrong] = useState("");
  useEffect(() => localStorage.setItem(KEY + build, JSON.stringify(draft)), [draft, build]);
  const change = (part: Partial<Draft>) => {
    setDraft({ ...draft, ...part });
    setWrong("");
    setSaid("");
  };
  const pieces = useQuery(programme()).data;
  const levels = useLevels(draft, bench.revisions);
  const match = matched(draft, levels.data);
  const begin = async () => {
    const made =
      typeof match === "string"
        ? match
        : session(draft, match, crypto.getRandomValues(new Uint32Array(1))[0] ?? 1);
    if (typeof made === "string") return setWrong(`Not begun: ${made}.`);
    try {
      const begun = await get(
        api.POST("/api/builds/{id}/listening", { params: { path: { id: build } }, body: { session: made } }),
      );
      await client.invalidateQueries({ queryKey: ["listening", build] });
      setSaid(`It has begun; its code is ${begun.code}.`);
    } catch (cause) {
      const problem = cause instanceof Refused ? cause.problem : undefined;
      const first = problem?.errors?.[0]?.message;
      setWrong(`Not begun: ${(first && say(first)) ?? problem?.detail ?? "the server does not answer"}.`);
    }
  };
  const running = useQuery(listening(build)).data?.some((s) => !s.ended_at);
  return (
    <form
      aria-label="Set up a listening session"
      className="space-y-3"
      onSubmit={(e) => {
        e.preventDefault();
        void begin();
      }}
    >
      <Asked draft={draft} change={change} />
      <Heard draft={draft} change={change} revisions={bench.revisions.map((r) => r.letter)} />
      <Disclosure title={`Played: ${draft.pieces.length + lines(draft.own)} pieces`}>
        <ul className="space-y-1 pb-1">
          {pieces?.pieces.map((p) => (
            <li key={p.id}>
              <label className="flex items-start gap-2">
                <input
                  type="checkbox"
                  className="mt-0.5 accent-(--verdigris)"
                  checked={draft.pieces.includes(p.id)}
                  onChange={(e) =>
                    change({
                      pieces: e.target.checked
                        ? [...draft.pieces, p.id]
                        : draft.pieces.filter((id) => id !== p.id),
                    })
                  }
                />
                <span>
                  {p.title} <span className="text-xs text-soft">{p.shows}</span>
                </span>
              </label>
            </li>
          ))}
        </ul>
        <label>
          <span className="block text-xs text-soft">
            Your own recordings, one name a line; files stay with you
          </span>
          <textarea
            className={`${field} h-auto py-1`}
            rows={2}
            value={draft.own}
            onChange={(e) => change({ own: e.target.value })}
          />
        </label>
      </Disclosure>
      <fieldset>
        <legend className="text-xs text-soft">Who switches</legend>
        <Radio
          name="switching"
          value="program"
          now={draft.switching}
          set={(switching) => change({ switching })}
        >
          the program: revisions that differ by the filters before the amplifier, through one cabinet
        </Radio>
        <Radio
          name="switching"
          value="helper"
          now={draft.switching}
          set={(switching) => change({ switching })}
        >
          a helper, told the order on a page of his own: cabinets, ports, fill
        </Radio>
      </fieldset>
      <Level draft={draft} change={change} levels={levels} match={match} build={build} />
      <label className="flex items-baseline justify-between gap-2">
        <span>Level at the seat</span>
        <span className="flex items-baseline gap-1">
          <input
            className={`${box} w-16 text-right`}
            inputMode="decimal"
            value={draft.level}
            aria-label="Level at the seat, dB"
            onChange={(e) => change({ level: e.target.value })}
          />
          dB
        </span>
      </label>
      <Hearing level={Number(draft.level)} hours={pieces?.hours_from_70_db} />
      <label className="block">
        <span className="block text-xs text-soft">Name of the session</span>
        <input
          className={field}
          maxLength={120}
          placeholder={draft.candidates.map((c) => c.name).join(" against ")}
          value={draft.title}
          onChange={(e) => change({ title: e.target.value })}
        />
      </label>
      <Button type="submit" look="strong" className="w-full text-center!" disabled={running}>
        Begin: what is asked is fixed from now on
      </Button>
      {running && <p className="text-xs text-soft">One session runs; end it before another begins.</p>}
      {wrong && (
        <p role="alert" className="border-l-2 border-brick pl-2 text-brick">
          {wrong}
        </p>
      )}
      <p role="status">{said}</p>
    </form>
  );
}

const named = (r: { letter: string; document: { name?: string } }) => ({
  letter: r.letter,
  name: r.document.name ?? "",
});
const lines = (text: string) => text.split("\n").filter((line) => line.trim()).length;

function kept(build: string): Draft | undefined {
  try {
    return (JSON.parse(localStorage.getItem(KEY + build) ?? "null") as Draft | null) ?? undefined;
  } catch {
    return undefined;
  }
}

function Radio<T extends string>({
  name,
  value,
  now,
  set,
  children,
}: {
  name: string;
  value: T;
  now: T;
  set: (value: T) => void;
  children: ReactNode;
}) {
  return (
    <label className="flex items-start gap-2 py-0.5">
      <input
        type="radio"
        name={name}
        className="mt-0.5 accent-(--verdigris)"
        checked={now === value}
        onChange={() => set(value)}
      />
      <span>{children}</span>
    </label>
  );
}

function Asked({ draft, change }: Changes) {
  return (
    <fieldset>
      {["Are they different?", "Which is better?"].map((asks) => (
        <div key={asks}>
          <p className="font-display font-semibold">{asks}</p>
          {KINDS.filter((k) => k.asks === asks).map((k) => (
            <Radio key={k.id} name="kind" value={k.id} now={draft.kind} set={(kind) => change({ kind })}>
              {k.title}
            </Radio>
          ))}
        </div>
      ))}
      {isOfTwo(draft.kind) && <Trials kind={draft.kind} draft={draft} change={change} />}
      {draft.kind === "scores" && (
        <label className="block pt-1">
          <span className="block text-xs text-soft">Scales, in the order they are asked</span>
          <input
            className={field}
            value={draft.scales}
            onChange={(e) => change({ scales: e.target.value })}
          />
        </label>
      )}
      {draft.kind === "pairs" && (
        <label className="flex items-baseline justify-between gap-2 pt-1">
          <span>Each pair is heard</span>
          <span className="flex items-baseline gap-1">
            <input
              type="number"
              min={1}
              max={20}
              className={`${box} w-16 text-right`}
              value={draft.times}
              onChange={(e) =>
                change({ times: Math.max(1, Math.min(20, Math.round(Number(e.target.value)))) })
              }
            />
            times
          </span>
        </label>
      )}
    </fieldset>
  );
}

/** How many trials, and what so many can tell: said before. */
function Trials({ kind: method, draft, change }: Changes & { kind: "abx" | "duo_trio" | "triangle" }) {
  const [share, setShare] = useState(0.7);
  const found = useQuery({
    queryKey: ["trials", method, share],
    queryFn: () =>
      get(
        api.POST("/api/listening/question", {
          body: { kind: "trials", method, share, alpha: 0.05, power: 0.8 },
        }),
      ),
    staleTime: Infinity,
  }).data;
  const told = found?.kind === "trials" ? found : undefined;
  return (
    <div className="space-y-1 pt-1">
      <label className="flex items-baseline justify-between gap-2">
        <span>Trials of each listener</span>
        <input
          type="number"
          min={1}
          max={200}
          className={`${box} w-16 text-right`}
          value={draft.trials}
          onChange={(e) => change({ trials: Math.max(1, Math.min(200, Math.round(Number(e.target.value)))) })}
        />
      </label>
      <label className="flex items-center gap-2 text-xs text-soft">
        to find who is right in
        <input
          type="range"
          min={method === "triangle" ? 0.4 : 0.55}
          max={1}
          step={0.05}
          value={share}
          aria-label="Share of right answers that is to be found"
          aria-valuetext={`${Math.round(share * 100)} percent`}
          className="min-w-0 flex-1 accent-(--verdigris)"
          onChange={(e) => setShare(Number(e.target.value))}
        />
        <span className="w-9 text-right tabular-nums">{Math.round(share * 100)} %</span>
      </label>
      {told && (
        <p className="text-xs text-soft" data-testid="trials-needed">
          {told.sentence}{" "}
          {told.needed && told.needed.always_from <= 200 && told.needed.always_from !== draft.trials && (
            <button
              type="button"
              className="text-oak underline"
              onClick={() => change({ trials: told.needed?.always_from ?? draft.trials })}
            >
              Take {told.needed.always_from}
            </button>
          )}
        </p>
      )}
    </div>
  );
}

function Heard({ draft, change, revisions }: Changes & { revisions: string[] }) {
  const set = (i: number, part: Partial<Draft["candidates"][number]>) =>
    change({ candidates: draft.candidates.map((c, k) => (k === i ? { ...c, ...part } : c)) });
  return (
    <fieldset className="space-y-1.5">
      <legend className="text-xs text-soft">What is heard</legend>
      {draft.candidates.map((c, i) => (
        <div key={i} className="grid grid-cols-[minmax(0,1fr)_3.6rem_1.2rem] gap-1">
          <input
            className={field}
            aria-label={`Name of the ${i + 1}.`}
            maxLength={80}
            value={c.name}
            onChange={(e) => set(i, { name: e.target.value })}
          />
          <select
            className="h-7 rounded-sm border border-rule bg-panel px-1"
            aria-label={`Revision of the ${i + 1}.`}
            value={c.revision}
            onChange={(e) => set(i, { revision: e.target.value })}
          >
            {revisions.map((r) => (
              <option key={r}>{r}</option>
            ))}
            <option value="">other</option>
          </select>
          {draft.candidates.length > 2 ? (
            <button
              type="button"
              aria-label={`Leave out ${c.name}`}
              className="text-soft hover:text-ink"
              onClick={() => change({ candidates: draft.candidates.filter((_, k) => k !== i) })}
            >
              ×
            </button>
          ) : (
            <span />
          )}
          {draft.switching === "helper" && (
            <input
              className={`${field} col-span-2 text-xs`}
              aria-label={`Setting of the ${i + 1}.`}
              placeholder="what the helper does: port shut"
              maxLength={400}
              value={c.setting}
              onChange={(e) => set(i, { setting: e.target.value })}
            />
          )}
        </div>
      ))}
      {draft.candidates.length < 6 && (draft.kind === "scores" || draft.kind === "pairs") && (
        <button
          type="button"
          className="text-oak underline decoration-dotted"
          onClick={() =>
            change({
              candidates: [
                ...draft.candidates,
                { name: `Cabinet ${draft.candidates.length + 1}`, revision: "", setting: "" },
              ],
            })
          }
        >
          one more
        </button>
      )}
    </fieldset>
  );
}

/** How long this level may be listened to. */
function Hearing({ level, hours }: { level: number; hours: number[] | undefined }) {
  const allowed = hours?.[Math.round(level) - 70];
  if (!level || allowed === undefined)
    return (
      <p className="text-xs text-soft">
        State the level to see how long it may be listened to: 85 dB(A) for 8 h, half as long for every 3 dB
        more.
      </p>
    );
  const long = allowed >= 8;
  const words = allowed >= 1 ? `${allowed.toFixed(1)} h` : `${Math.max(1, Math.round(allowed * 60))} min`;
  return (
    <p
      className={`border-l-2 pl-2 text-xs ${long ? "border-rule text-soft" : "border-ochre"}`}
      data-testid="hearing"
    >
      {long ? "A day of this is within the usual limit." : `Listen to this for at most ${words} a day.`} The
      level is taken as it is, not A-weighted: on the safe side.
    </p>
  );
}
