import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, get, Refused, type Mistake, type MistakeCure, type Mistakes } from "../../api/client";
import { plain } from "../../lib/said";
import { QuantityField } from "../../ui/QuantityField";
import { Button } from "../../ui/Button";
import { Say } from "../../ui/Say";
import { useDocument } from "../../workbench/context";

type Kind = Mistake["kind"];

const KINDS: [Kind, string][] = [
  ["hole", "A hole came out wrong"],
  ["out_of_square", "Out of square"],
  ["leak", "It leaks"],
  ["part", "A part is different"],
];

/** What went wrong, in two presses, and what to do now, worked out for this cabinet. */
export function WentWrong({
  chosen,
  choose,
}: {
  chosen: MistakeCure | undefined;
  /** Told of what went wrong in words, and of the cure that is chosen. */
  choose: (said: Mistakes["said"] | undefined, cure: MistakeCure | undefined) => void;
}) {
  const document = useDocument();
  const [kind, setKind] = useState<Kind>();
  const [at, setAt] = useState(0);
  const [off, setOff] = useState<number>();
  const [diagonals, setDiagonals] = useState<(number | undefined)[]>([undefined, undefined]);
  const [glued, setGlued] = useState(true);
  const [leak, setLeak] = useState<"joint" | "gasket" | "wires">("joint");
  const [large, setLarge] = useState(false);
  const ask = (mistake: Mistake | null) => ({
    queryKey: ["mistake", document, mistake],
    queryFn: () => get(api.POST("/api/mistake", { body: { document, ...(mistake && { mistake }) } })),
    retry: false,
    staleTime: Infinity,
  });
  const possible = useQuery({ ...ask(null), enabled: !!document.cabinet }).data;
  const part = possible?.measurable[at];
  const mistake = ((): Mistake | undefined => {
    switch (kind) {
      case "hole":
        return { kind, hole: at, too_small_mm: (large ? -1 : 1) * (off ?? 3) };
      case "out_of_square": {
        const [a, b] = diagonals;
        if (a === undefined || b === undefined) return undefined;
        return { kind, longer_mm: Math.max(a, b), shorter_mm: Math.min(a, b), glued };
      }
      case "leak":
        return { kind, at: leak };
      case "part": {
        if (!part) return undefined;
        const value = part.unit ? off : part.drawn ? 0 : 1;
        return value === undefined ? undefined : { kind, pointer: part.pointer, value };
      }
      default:
        return undefined;
    }
  })();
  const answer = useQuery({ ...ask(mistake ?? null), enabled: !!mistake && !!document.cabinet });
  const problem = answer.error instanceof Refused ? answer.error.problem : undefined;
  if (!document.cabinet)
    return (
      <p className="text-xs text-soft">
        Without a cabinet drawn there is nothing to reckon with; write what happened.
      </p>
    );
  const press = (next: Kind) => {
    setKind(next);
    setAt(0);
    setOff(undefined);
    choose(undefined, undefined);
  };
  const said = mistake ? answer.data?.said : undefined;
  return (
    <div className="space-y-2 border-l-3 border-brick pl-2.5">
      <div role="group" aria-label="What went wrong" className="grid grid-cols-2 gap-1">
        {KINDS.map(([id, title]) => (
          <button
            key={id}
            type="button"
            aria-pressed={kind === id}
            className={`min-h-10 rounded-sm border px-2 text-left lg:min-h-8 ${
              kind === id ? "border-oak bg-selected font-medium" : "border-rule"
            }`}
            onClick={() => press(id)}
          >
            {title}
          </button>
        ))}
      </div>
      {kind === "hole" && possible && (
        <div className="space-y-1">
          <Which label="Hole" value={at} names={possible.holes.map((h) => h.name)} choose={setAt} />
          <QuantityField
            label="By how much"
            unit="mm"
            value={off}
            empty={3}
            onChange={setOff}
            optional
            min={0.1}
            max={60}
          />
          <label className="flex items-center gap-1">
            <input
              type="checkbox"
              className="accent-(--oak)"
              checked={large}
              onChange={(e) => setLarge(e.target.checked)}
            />
            too large
          </label>
        </div>
      )}
      {kind === "out_of_square" && possible && (
        <div className="space-y-1">
          {["Longer diagonal", "Shorter diagonal"].map((label, i) => (
            <QuantityField
              key={label}
              label={label}
              unit="mm"
              value={diagonals[i]}
              empty={possible.diagonal_mm ? { value: possible.diagonal_mm, words: "drawn" } : undefined}
              optional
              onChange={(value) => setDiagonals(diagonals.map((d, k) => (k === i ? value : d)))}
            />
          ))}
          <label className="flex items-center gap-1">
            <input
              type="checkbox"
              className="accent-(--oak)"
              checked={glued}
              onChange={(e) => setGlued(e.target.checked)}
            />
            the glue has set
          </label>
        </div>
      )}
      {kind === "leak" && (
        <Which
          label="Where"
          value={["joint", "gasket", "wires"].indexOf(leak)}
          names={["a glued joint", "under a frame or lid", "around the wires"]}
          choose={(i) => setLeak((["joint", "gasket", "wires"] as const)[i] ?? "joint")}
        />
      )}
      {kind === "part" && possible && (
        <div className="space-y-1">
          <Which label="Part" value={at} names={possible.measurable.map((m) => m.title)} choose={setAt} />
          {part?.unit && (
            <QuantityField
              key={part.pointer}
              label="It measures"
              unit={part.unit}
              value={off}
              empty={typeof part.drawn === "number" ? { value: part.drawn, words: "drawn" } : undefined}
              optional
              onChange={setOff}
            />
          )}
        </div>
      )}
      {problem && (
        <p role="alert" className="text-xs text-brick">
          {problem.errors?.[0] ? plain(problem.errors[0].message) : problem.detail}
        </p>
      )}
      {said && (
        <>
          <p data-testid="went-wrong">
            <Say text={said} />
          </p>
          <ul className="space-y-2" aria-label="What to do now">
            {answer.data?.cures.map((c) => (
              <li key={plain(c.title)}>
                <p className="font-semibold">
                  <Say text={c.title} />
                </p>
                <p className="text-xs">
                  <Say text={c.text} />
                </p>
                <p className="text-xs text-soft">
                  <Say text={c.predicted} />
                </p>
                {c.caution && (
                  <p className="border-l-2 border-ochre pl-2 text-xs">
                    <Say text={c.caution} />
                  </p>
                )}
                <Button
                  look="action"
                  className="mt-1"
                  aria-pressed={plain(chosen?.title ?? []) === plain(c.title)}
                  onClick={() => choose(said, c)}
                >
                  {c.changes.length ? "Do this and change the plan" : "Do this"}
                </Button>
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

function Which({
  label,
  value,
  names,
  choose,
}: {
  label: string;
  value: number;
  names: string[];
  choose: (which: number) => void;
}) {
  return (
    <select
      aria-label={label}
      className="h-8 max-w-44 rounded-sm border border-rule bg-panel px-1"
      value={value}
      onChange={(e) => choose(Number(e.target.value))}
    >
      {names.map((name, i) => (
        <option key={i} value={i}>
          {name}
        </option>
      ))}
    </select>
  );
}
