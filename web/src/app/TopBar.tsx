import { useState } from "react";
import { Link } from "react-router";
import { api, get, Refused } from "../api/client";
import { schemaAt } from "../lib/schema";
import { look } from "../lanes/style";
import { QuantityField } from "../ui/QuantityField";
import { Select } from "../ui/Select";
import { Tip } from "../ui/Tip";
import { useCurrentPart, usePart, usePartOfDocument, useWorkbench } from "../workbench/context";
import type { SaveState } from "../workbench/saver";
import type { OpenRevision } from "../workbench/workbench";
import { DriveLevel } from "./DriveLevel";
import { Preferences } from "./Preferences";

export function TopBar() {
  return (
    <header className="col-span-full flex flex-wrap items-center gap-x-2.5 gap-y-1 border-b border-rule px-4 py-1.5 lg:h-[46px] lg:flex-nowrap">
      <Link
        to="/"
        className="font-display text-lg font-bold whitespace-nowrap text-oak"
        aria-label="Oak Drum, to the workshop"
      >
        Oak Drum
      </Link>
      <BuildName />
      <Revisions />
      <span className="flex-1" />
      <Conditions />
      <Preferences />
      <Saved />
    </header>
  );
}

function BuildName() {
  const build = usePart((b) => b.build);
  const [name, setName] = useState(build.name);
  const [error, setError] = useState<string | null>(null);
  const rename = async () => {
    if (name === build.name) return;
    try {
      await get(api.PATCH("/api/builds/{id}", { params: { path: { id: build.id } }, body: { name } }));
      setError(null);
    } catch (cause) {
      setError(cause instanceof Refused ? cause.message : "That did not work.");
    }
  };
  return (
    <span className="min-w-0">
      <input
        aria-label="Name of the build"
        aria-invalid={error ? true : undefined}
        title={error ?? name}
        value={name}
        maxLength={120}
        onChange={(e) => setName(e.target.value)}
        onBlur={() => void rename()}
        onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
        className={`w-44 max-w-full truncate bg-transparent font-display text-base font-semibold ${error ? "text-brick" : ""}`}
      />
    </span>
  );
}

function Revisions() {
  const workbench = useWorkbench();
  // drawn again when a letter, a name or what is shown changes, not with every move of a hand
  usePart((b) => JSON.stringify([b.current, b.shown, b.revisions.map((r) => [r.letter, r.document.name])]));
  const bench = workbench.snapshot();
  return (
    <div className="flex items-center gap-1.5" role="group" aria-label="Revisions">
      {bench.revisions.map((r) => {
        const current = r.letter === bench.current;
        const shown = bench.shown.indexOf(r.letter);
        const line = look(shown, current);
        return (
          <span
            key={r.id}
            className={`flex shrink-0 items-stretch rounded-sm border ${current ? "border-b-2 border-ink" : "border-rule"}`}
          >
            <button
              type="button"
              aria-pressed={current}
              title={`${r.letter}: ${r.document.name || "no name"} — edit this one ( [ and ] step )`}
              className="flex max-w-28 items-center 2xl:max-w-60 gap-1.5 px-2 py-1"
              onClick={() => workbench.select(r.letter)}
            >
              {(current || shown >= 0) && (
                <svg width="20" height="6" aria-hidden>
                  <line
                    x2="20"
                    y1="3"
                    y2="3"
                    stroke={`var(${line.colour})`}
                    strokeWidth="2"
                    strokeDasharray={line.dash.join(" ")}
                  />
                </svg>
              )}
              <b>{r.letter}</b>
              {!current && <span className="hidden truncate text-soft 2xl:inline">{r.document.name}</span>}
            </button>
            {!current && (
              <button
                type="button"
                aria-pressed={shown >= 0}
                aria-label={`Lay ${r.letter} under`}
                title={shown >= 0 ? `Take ${r.letter} away` : `Lay ${r.letter} under the one you edit`}
                className={`border-l border-rule px-1.5 text-xs ${shown >= 0 ? "bg-selected text-ink" : "text-soft"}`}
                onClick={() => workbench.toggleShown(r.letter)}
              >
                under
              </button>
            )}
          </span>
        );
      })}
      <Tip text="Copies this revision under the next letter and goes on with the copy ( C )">
        <button
          type="button"
          className="rounded-sm border border-dashed border-rule px-2 py-1 text-oak hover:border-oak"
          onClick={() => void workbench.copy().catch(() => undefined)}
        >
          Copy
        </button>
      </Tip>
      <Undo />
    </div>
  );
}

function Undo() {
  const workbench = useWorkbench();
  const back = useCurrentPart((r) => r.undo.length > 0);
  const forward = useCurrentPart((r) => r.redo.length > 0);
  const look = "px-1 text-soft enabled:hover:text-ink disabled:opacity-35";
  return (
    <>
      <button type="button" className={look} disabled={!back} onClick={() => workbench.undo()} title="Ctrl Z">
        Undo
      </button>
      <button
        type="button"
        className={look}
        disabled={!forward}
        onClick={() => workbench.redo()}
        title="Ctrl Shift Z"
      >
        Redo
      </button>
    </>
  );
}

/** What changes every number on the page: drive, distance, solid angle. */
function Conditions() {
  const workbench = useWorkbench();
  const listening = usePartOfDocument((d) => d.listening);
  const distance = schemaAt("/listening/distance_m", { listening });
  const angles = schemaAt("/listening/solid_angle", { listening });
  return (
    <div className="flex items-center gap-3 whitespace-nowrap text-soft [&_.border-b]:border-0 [&_.flex]:!gap-1 [&_label]:!flex-none [&_input]:!w-9 [&_input]:font-semibold [&_input]:text-ink [&_span.w-9]:!w-auto">
      <DriveLevel />
      <div>
        <QuantityField
          label="at"
          help={distance?.description}
          unit="m"
          value={listening?.distance_m ?? 1}
          min={distance?.minimum}
          max={distance?.maximum}
          pointer="/listening/distance_m"
          onChange={(v, gesture) => workbench.set("/listening/distance_m", v, gesture)}
          onDone={() => workbench.endGesture()}
        />
      </div>
      <Select
        label="Solid angle"
        pointer="/listening/solid_angle"
        value={listening?.solid_angle ?? "half"}
        choices={(angles?.oneOf ?? []).map((v) => [
          String(v.const),
          { full: "free air", half: "half space", quarter: "along a wall", eighth: "in a corner" }[
            String(v.const)
          ] ?? String(v.const),
          v.description,
        ])}
        onChange={(v) => workbench.set("/listening/solid_angle", v)}
      />
    </div>
  );
}

/** The design's state or its work plan's, whichever is further from being saved. */
const stateOf = (r: OpenRevision): SaveState =>
  FURTHEST.find((state) => r.save === state || r.workSave === state) ?? "saved";
const FURTHEST: SaveState[] = ["conflict", "refused", "away", "waiting", "saving"];

function words(r: OpenRevision): [string, string] {
  switch (stateOf(r)) {
    case "saved":
      return [
        `Saved ${new Date(r.savedAt).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit", hour12: false })}`,
        "",
      ];
    case "waiting":
    case "saving":
      return ["Not saved yet", ""];
    case "away":
      return ["Not saved yet: no server, trying again", "text-ochre"];
    case "refused":
      return ["Not saved: see the field", "text-brick"];
    case "conflict":
      return ["Saved elsewhere", "text-brick"];
  }
}

function Saved() {
  const text = useCurrentPart((r) => words(r)[0]);
  const look = useCurrentPart((r) => words(r)[1]);
  return (
    <span
      role="status"
      data-testid="save-state"
      className={`w-20 text-right text-xs leading-tight ${look || "text-soft"}`}
    >
      {text}
    </span>
  );
}
