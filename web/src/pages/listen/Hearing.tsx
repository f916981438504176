import { useEffect, useRef, useState } from "react";
import { api, get, Refused, type ForListeners, type ListeningSlip, type MyHearing } from "../../api/client";
import { plain } from "../../lib/said";
import { Player } from "../../lib/player";
import { Envelope } from "../../stations/listen/Envelope";
import { letters, methodOf } from "../../stations/listen/plan";
import { Button } from "../../ui/Button";

/** One hearing: envelopes to listen to, an answer to seal. */
export function Hearing({
  code,
  listener,
  number,
  of,
  hearing,
  session,
  sealed,
}: {
  code: string;
  listener: string;
  number: number;
  of: number;
  hearing: MyHearing;
  session: ForListeners;
  sealed: () => Promise<void>;
}) {
  const { test } = session;
  const names = letters(methodOf(session), hearing.envelopes);
  const draftKey = `oak-drum.slip.${code}.${listener}.${number}`;
  const [slip, setSlip] = useState<ListeningSlip>(() => drafted(draftKey));
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  const change = (part: Partial<ListeningSlip>) => {
    const made = { ...slip, ...part };
    setSlip(made);
    localStorage.setItem(draftKey, JSON.stringify(made));
  };
  const scales = test.kind === "scores" ? test.scales : [];
  const whole =
    test.kind === "scores"
      ? names.every((_, i) => scales.every((_, k) => slip.scores?.[i]?.[k]))
      : typeof slip.choice === "number";
  const seal = async () => {
    setBusy(true);
    setWrong("");
    try {
      await get(
        api.PUT("/api/listen/{code}/hearings/{hearing}", {
          params: { path: { code, hearing: number } },
          body: { key: listener, slip },
        }),
      );
      localStorage.removeItem(draftKey);
      await sealed();
    } catch (cause) {
      const problem = cause instanceof Refused ? cause.problem : undefined;
      const first = problem?.errors?.[0];
      if (problem?.status === 409) await sealed();
      setWrong(
        first
          ? plain(first.message)
          : (problem?.detail ?? "Not sealed yet: the server does not answer. What you answered stays here."),
      );
    } finally {
      setBusy(false);
    }
  };
  const piece = session.pieces[hearing.piece];
  return (
    <section aria-label={`Hearing ${number + 1}`} className="space-y-4">
      <p>
        <b className="font-display">
          {number + 1} of {of}
        </b>{" "}
        <span className="text-soft">{piece?.name}</span>
      </p>
      {session.switching === "program" ? (
        <Played hearing={hearing} names={names} piece={piece} />
      ) : (
        <div className="flex flex-wrap justify-center gap-3">
          {names.map((name) => (
            <Envelope key={name} letter={name} />
          ))}
        </div>
      )}
      {test.kind === "scores" ? (
        <Scores
          names={names}
          scales={scales}
          given={slip.scores ?? []}
          give={(scores) => change({ scores })}
        />
      ) : (
        <Choice
          test={test}
          names={names}
          chosen={slip.choice ?? undefined}
          choose={(choice) => change({ choice })}
        />
      )}
      <label className="block text-sm">
        <span className="text-soft">Note, if you like</span>
        <textarea
          className="mt-1 w-full rounded-sm border border-rule bg-panel px-2 py-1"
          rows={2}
          maxLength={2000}
          value={slip.note ?? ""}
          onChange={(e) => change({ note: e.target.value })}
        />
      </label>
      {wrong && (
        <p role="alert" className="text-brick">
          {wrong}
        </p>
      )}
      <Button
        look="strong"
        className="min-h-12 w-full text-center!"
        disabled={!whole || busy}
        onClick={() => void seal()}
      >
        Seal this answer
      </Button>
    </section>
  );
}

function drafted(key: string): ListeningSlip {
  try {
    return (JSON.parse(localStorage.getItem(key) ?? "null") as ListeningSlip | null) ?? {};
  } catch {
    return {};
  }
}

/** Envelopes that play: all in step, faded from one to the other. */
function Played({
  hearing,
  names,
  piece,
}: {
  hearing: MyHearing;
  names: string[];
  piece: { name: string; id?: string | null } | undefined;
}) {
  const player = useRef<Player>(null);
  const [on, setOn] = useState<number>();
  const [file, setFile] = useState<File>();
  const [wrong, setWrong] = useState("");
  useEffect(
    () => () => {
      player.current?.close();
      player.current = null;
    },
    [],
  );
  const press = async (i: number) => {
    setWrong("");
    try {
      player.current ??= new Player();
      if (on === i) {
        player.current.stop();
        return setOn(undefined);
      }
      if (on !== undefined) player.current.turnTo(i);
      else {
        const sound = piece?.id
          ? await player.current.shipped(piece.id)
          : file && (await player.current.own(file));
        if (!sound) return setWrong("Choose your recording first.");
        await player.current.begin(sound, hearing.sounds, i);
      }
      setOn(i);
    } catch {
      setWrong("This browser could not play it. Try another file, or another browser.");
    }
  };
  return (
    <div className="space-y-2">
      {!piece?.id && (
        <label className="block text-sm">
          {piece?.name}: choose the file; it stays in this browser
          <input
            type="file"
            accept="audio/*"
            className="mt-1 block w-full"
            onChange={(e) => setFile(e.target.files?.[0])}
          />
        </label>
      )}
      <div className="flex flex-wrap justify-center gap-3">
        {names.map((name, i) => (
          <button
            key={name}
            type="button"
            aria-pressed={on === i}
            aria-label={`Play ${name}`}
            onClick={() => void press(i)}
          >
            <Envelope letter={name} on={on === i} />
          </button>
        ))}
      </div>
      <p role="status" className="text-center text-sm text-soft">
        {on === undefined ? "Press an envelope to hear it." : `${names[on]} is heard; press again to stop.`}
      </p>
      {wrong && (
        <p role="alert" className="text-brick">
          {wrong}
        </p>
      )}
    </div>
  );
}

function Choice({
  test,
  names,
  chosen,
  choose,
}: {
  test: ForListeners["test"];
  names: string[];
  chosen: number | undefined;
  choose: (which: number) => void;
}) {
  const words =
    test.kind === "difference" && test.method === "abx"
      ? ["X is A", "X is B"]
      : test.kind === "difference" && test.method === "duo_trio"
        ? names.slice(1).map((n) => `${n} is like R`)
        : test.kind === "difference"
          ? names.map((n) => `${n} is the odd one`)
          : names.map((n) => `${n} is better`);
  return (
    <div role="radiogroup" aria-label="Your answer" className="grid gap-2">
      {words.map((word, i) => (
        <button
          key={word}
          type="button"
          role="radio"
          aria-checked={chosen === i}
          className={`min-h-12 rounded-sm border px-3 ${
            chosen === i ? "border-oak bg-selected font-medium" : "border-rule hover:bg-selected"
          }`}
          onClick={() => choose(i)}
        >
          {word}
        </button>
      ))}
    </div>
  );
}

/** A ruler from 1 to 10 for every scale of every envelope. */
function Scores({
  names,
  scales,
  given,
  give,
}: {
  names: string[];
  scales: string[];
  given: number[][];
  give: (scores: number[][]) => void;
}) {
  const set = (i: number, k: number, value: number) =>
    give(names.map((_, a) => scales.map((_, b) => (a === i && b === k ? value : (given[a]?.[b] ?? 0)))));
  return (
    <div className="space-y-4">
      {names.map((name, i) => (
        <fieldset key={name} className="border-t border-rule pt-2">
          <legend className="font-display text-lg font-semibold">{name}</legend>
          {scales.map((scale, k) => {
            const value = given[i]?.[k];
            return (
              <label
                key={scale}
                className="grid grid-cols-[5.5rem_minmax(0,1fr)_2.2rem] items-center gap-2 py-1"
              >
                <span>{scale}</span>
                <input
                  type="range"
                  min={1}
                  max={10}
                  step={0.5}
                  list="ruler"
                  className={`h-9 accent-(--oak) ${value ? "" : "opacity-40"}`}
                  aria-label={`${scale} of ${name}`}
                  aria-valuetext={value ? String(value) : "not scored yet"}
                  value={value || 5.5}
                  onChange={(e) => set(i, k, Number(e.target.value))}
                  onClick={(e) => !value && set(i, k, Number(e.currentTarget.value))}
                />
                <span className="text-right tabular-nums">{value || "–"}</span>
              </label>
            );
          })}
        </fieldset>
      ))}
      <datalist id="ruler">
        {Array.from({ length: 10 }, (_, i) => (
          <option key={i} value={i + 1} />
        ))}
      </datalist>
    </div>
  );
}
