import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, get, Refused, type Flaw, type MeasuringPlan, type Verdict } from "../../api/client";
import { measurements } from "../../api/queries";
import { useSay, useSettings } from "../../app/settings";
import { Button } from "../../ui/Button";
import { Say } from "../../ui/Say";
import { Select } from "../../ui/Select";
import { RESTED_MS } from "../../workbench/asker";
import { useCurrentPart, useDocument, usePart } from "../../workbench/context";
import { useDocumentQuery, type Question } from "../../workbench/documentQuery";
import { placeWords } from "./places";
import { useMeasured } from "./useMeasured";

type Difficulty = "plain" | "mixed" | "hard";
type Said = Record<Flaw["kind"], string>;

const asked: Question<MeasuringPlan> = (body, signal) => get(api.POST("/api/prove/plan", { body, signal }));

/** What can be wrong, with what is said about it. */
const FLAWS: { kind: Flaw["kind"]; words: string; unit: string; make: (x: number) => Flaw }[] = [
  { kind: "leak", words: "It leaks; QL is", unit: "", make: (q) => ({ kind: "leak", q }) },
  { kind: "volume", words: "Its air is off by", unit: "%", make: (percent) => ({ kind: "volume", percent }) },
  { kind: "port", words: "Its port is off by", unit: "mm", make: (mm) => ({ kind: "port", mm }) },
  {
    kind: "suspension",
    words: "The woofer's fs is off by",
    unit: "%",
    make: (fs_percent) => ({ kind: "suspension", fs_percent }),
  },
  { kind: "buzz", words: "It buzzes at", unit: "Hz", make: (at_hz) => ({ kind: "buzz", at_hz }) },
  {
    kind: "microphone",
    words: "The microphone is 3 dB down at",
    unit: "Hz",
    make: (at_hz) => ({ kind: "microphone", at_hz }),
  },
];

const EMPTY: Said = { leak: "", volume: "", port: "", suspension: "", buzz: "", microphone: "" };

/** A cabinet with something wrong with it: measure it, say what, get told how near you came. */
export function PracticeView() {
  const { build, list } = useMeasured();
  const revision = useCurrentPart((r) => r.id);
  const letter = usePart((b) => b.current);
  const document = useDocument();
  const plan = useDocumentQuery(asked, RESTED_MS);
  const client = useQueryClient();
  const say = useSay();
  const { system } = useSettings();
  const [difficulty, setDifficulty] = useState<Difficulty>("plain");
  const [seed, setSeed] = useState(1);
  const [said, setSaid] = useState<Said>(EMPTY);
  const [verdict, setVerdict] = useState<Verdict>();
  const [busy, setBusy] = useState("");
  const [wrong, setWrong] = useState("");
  const cabinet = { kind: "practice" as const, seed, difficulty };
  const own = list.filter(
    (m) =>
      m.document.source.kind === "practice" &&
      m.document.source.seed === seed &&
      m.document.source.difficulty === difficulty,
  );
  const failed = (cause: unknown) => {
    const problem = cause instanceof Refused ? cause.problem : undefined;
    const first = problem?.errors?.[0]?.message;
    setWrong((first && say(first)) ?? problem?.detail ?? "The server does not answer.");
  };
  const measure = async (place: MeasuringPlan["places"][number]) => {
    setBusy(place.taken.kind);
    setWrong("");
    try {
      const name = `Practice ${seed}, ${placeWords(place.taken)}`;
      const wish = { taken: place.taken, bench: { seed: own.length + 1 } };
      const body = { document, wish, name, revision, cabinet };
      await get(api.POST("/api/builds/{id}/measurements/bench", { params: { path: { id: build } }, body }));
      await client.invalidateQueries(measurements(build));
    } catch (cause) {
      failed(cause);
    } finally {
      setBusy("");
    }
  };
  const judge = async () => {
    setWrong("");
    try {
      const stated = FLAWS.filter((f) => said[f.kind].trim());
      const number = (f: (typeof FLAWS)[number]) =>
        Number(said[f.kind].replace(",", ".")) * (f.unit === "mm" && inch ? 25.4 : 1);
      const odd = stated.find((f) => !Number.isFinite(number(f)));
      if (odd) {
        setWrong(`${odd.words}: "${said[odd.kind]}" is no number.`);
        return;
      }
      const flaws = stated.map((f) => f.make(number(f)));
      const body = { document, cabinet, said: flaws };
      setVerdict(await get(api.POST("/api/prove/judge", { body })));
    } catch (cause) {
      failed(cause);
    }
  };
  // a port is measured in millimetres, told as the page is set
  const inch = system === "inch";
  const has = (f: (typeof FLAWS)[number]) =>
    f.kind !== "port" || !!plan?.places.some((p) => p.taken.kind === "near_port");
  const next = (to: number, how = difficulty) => {
    setSeed(to);
    setDifficulty(how);
    setSaid(EMPTY);
    setVerdict(undefined);
  };
  const places = plan?.places.filter((p) =>
    ["in_box", "near_cone", "near_port", "in_front"].includes(p.taken.kind),
  );
  return (
    <section aria-label="Practice" className="min-h-0 max-w-3xl flex-1 overflow-y-auto">
      <p>
        On the bench stands a cabinet built from revision {letter}, and something is wrong with it. Measure
        it, hold it against the prediction, say what it is.
      </p>
      <p className="flex flex-wrap items-baseline gap-4 py-2">
        <span>
          How hard{" "}
          <Select
            label="How hard"
            value={difficulty}
            choices={[
              ["plain", "one thing, plainly wrong"],
              ["mixed", "two things"],
              ["hard", "three smaller things"],
            ]}
            onChange={(d) => next(seed, d as Difficulty)}
          />
        </span>
        <span>Cabinet {seed}</span>
        <Button onClick={() => next(seed + 1)}>Another cabinet</Button>
      </p>
      <h2 className="font-display text-base font-semibold">Measure it</h2>
      <p className="flex flex-wrap gap-2 py-1">
        {places?.map((p) => (
          <Button key={p.taken.kind} look="action" disabled={!!busy} onClick={() => void measure(p)}>
            {busy === p.taken.kind ? "Sweeping…" : p.title}
          </Button>
        ))}
      </p>
      {own.length > 0 && (
        <p className="text-xs" data-testid="practised">
          Measured {own.length} {own.length === 1 ? "time" : "times"}.{" "}
          <Link className="text-oak underline" to={`/builds/${build}/prove`}>
            See it on the prediction
          </Link>
        </p>
      )}
      <h2 className="pt-3 font-display text-base font-semibold">Say what is wrong</h2>
      <p className="text-xs text-soft">
        Leave empty what is as it should be. Less air, a shorter port and a lower fs are negative.
      </p>
      <div className="grid max-w-md gap-1 py-1">
        {FLAWS.filter(has).map((f) => (
          <label key={f.kind} className="flex items-baseline gap-2">
            <span className="flex-1">{f.words}</span>
            <input
              inputMode="decimal"
              aria-label={f.words}
              className="w-20 border border-rule bg-panel px-1 py-0.5 text-right"
              value={said[f.kind]}
              onChange={(e) => setSaid({ ...said, [f.kind]: e.target.value })}
            />
            <span className="w-8 text-xs text-soft">{f.unit === "mm" && inch ? "in" : f.unit}</span>
          </label>
        ))}
      </div>
      <Button look="strong" onClick={() => void judge()}>
        That is it
      </Button>
      {wrong && (
        <p role="alert" className="pt-1 text-brick">
          {wrong}
        </p>
      )}
      {verdict && (
        <div role="status" className="mt-3 border-l-2 border-oak pl-3" data-testid="verdict">
          <b className="font-display text-lg">{verdict.points} of 100</b>{" "}
          <span>
            <Say text={verdict.sentence} />
          </span>
          <ul>
            {verdict.told.map((t, i) => (
              <li
                key={i}
                className={
                  { found: "text-verdigris", near: "text-ochre", missed: "text-brick", wrong: "text-brick" }[
                    t.outcome
                  ]
                }
              >
                <Say text={t.sentence} />
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}
