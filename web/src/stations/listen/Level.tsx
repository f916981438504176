import { useQuery } from "@tanstack/react-query";
import { Refused } from "../../api/client";
import { measurements } from "../../api/queries";
import { useSay } from "../../app/settings";
import { ByMicrophone } from "./ByMicrophone";
import { box, type Changes, type Draft, type matched } from "./plan";
import type { Levels } from "./useLevels";

/** How loud each is beside the others, and what each is turned by. */
export function Level({
  draft,
  change,
  levels,
  match,
  build,
}: Changes & { levels: Levels; match: ReturnType<typeof matched>; build: string }) {
  const say = useSay();
  const refusal = (cause: unknown) => {
    const problem = cause instanceof Refused ? cause.problem : undefined;
    const first = problem?.errors?.[0]?.message;
    return `They cannot be held against each other: ${(first && say(first)) ?? problem?.detail ?? "the server does not answer"}.`;
  };
  const typed = draft.match === "noise" || draft.match === "ear";
  const other = draft.candidates.some((c) => !c.revision);
  return (
    <fieldset className="space-y-1">
      <legend className="text-xs text-soft">Equally loud</legend>
      <select
        className="h-7 w-full rounded-sm border border-rule bg-panel px-1"
        aria-label="How levels are matched"
        value={draft.match}
        onChange={(e) => change({ match: e.target.value as Draft["match"] })}
      >
        <option value="model">by the model</option>
        <option value="measurement">by what was measured of each</option>
        <option value="noise">by a meter or microphone</option>
        <option value="ear">by ear and the steady tone</option>
        <option value="none">not at all</option>
      </select>
      {draft.match === "model" && other && (
        <p className="text-xs text-ochre">
          The model knows revisions of this build alone: choose another way.
        </p>
      )}
      {draft.match === "measurement" && <Measured draft={draft} change={change} build={build} />}
      {typed &&
        draft.candidates.map((c, i) => (
          <label key={i} className="flex items-baseline justify-between gap-2">
            <span className="min-w-0 truncate">
              {c.name} {draft.match === "ear" && <span className="text-xs text-soft">turned by</span>}
            </span>
            <span className="flex items-baseline gap-1">
              <input
                className={`${box} w-16 text-right`}
                inputMode="decimal"
                aria-label={`${draft.match === "noise" ? "Reading" : "Trim"} of ${c.name}, dB`}
                value={draft.readings[i] ?? ""}
                onChange={(e) =>
                  change({
                    readings: draft.candidates.map((_, k) =>
                      k === i ? e.target.value : (draft.readings[k] ?? ""),
                    ),
                  })
                }
              />
              dB
            </span>
          </label>
        ))}
      {draft.match === "noise" && <ByMicrophone draft={draft} change={change} />}
      {draft.match === "noise" && (
        <p className="text-xs text-soft">
          Play the band of noise and read each for 8 s or more: it repeats, so that a reading is steady.
        </p>
      )}
      {match && typeof match !== "string" && (
        <p className="text-xs" data-testid="match">
          {draft.candidates.map((c, i) => (
            <span key={i} className="block tabular-nums">
              {c.name}: {trim(match.trims_db[i])}
            </span>
          ))}
          <span className="text-soft">
            {(match.by === "model" || match.by === "measurement") &&
              `pink noise from ${match.band_hz[0]} to ${match.band_hz[1]} Hz; `}
            level within {draft.tolerance} dB then
          </span>
        </p>
      )}
      {levels.isError && (
        <p role="alert" className="text-xs text-brick">
          {draft.match === "model"
            ? "The model cannot tell the levels: a revision has problems, or the server does not answer."
            : refusal(levels.error)}
        </p>
      )}
      {draft.match === "none" && (
        <p className="text-xs text-ochre">The louder one is often taken for the better one.</p>
      )}
    </fieldset>
  );
}

const trim = (db: number | undefined) =>
  !db || Math.abs(db) < 0.005 ? "as it is" : `${db < 0 ? "down" : "up"} ${Math.abs(db).toFixed(2)} dB`;

/** Which measurement stands for each: those of a microphone. */
function Measured({ draft, change, build }: Changes & { build: string }) {
  const all = useQuery(measurements(build)).data ?? [];
  const heard = all.filter(
    (m) =>
      !["in_box", "free_air", "added_mass", "known_box"].includes(m.document.about?.taken?.kind ?? "in_box"),
  );
  if (!heard.length)
    return (
      <p className="text-xs text-ochre">
        Nothing of this build was measured with a microphone yet: take each at one place in Prove, with the
        same volts.
      </p>
    );
  return draft.candidates.map((c, i) => (
    <label key={i} className="flex items-baseline justify-between gap-2">
      <span className="min-w-0 truncate">{c.name}</span>
      <select
        className="h-7 min-w-0 max-w-44 rounded-sm border border-rule bg-panel px-1"
        aria-label={`Measurement of ${c.name}`}
        value={draft.measured?.[i] ?? ""}
        onChange={(e) =>
          change({
            measured: draft.candidates.map((_, k) =>
              k === i ? e.target.value : (draft.measured?.[k] ?? ""),
            ),
          })
        }
      >
        <option value="">choose</option>
        {heard.map((m) => (
          <option key={m.id} value={m.id}>
            {m.document.about?.name || "without a name"}
          </option>
        ))}
      </select>
    </label>
  ));
}
