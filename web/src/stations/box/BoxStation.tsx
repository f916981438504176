import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, get, type Suggestion } from "../../api/client";
import { families } from "../../api/queries";
import { printUnit, show, tidy } from "../../lib/quantity";
import { useSettings } from "../../app/settings";
import { Button } from "../../ui/Button";
import { SchemaForm } from "../../ui/SchemaForm";
import { Tip } from "../../ui/Tip";
import { useDocument, useEvaluation, useWorkbench } from "../../workbench/context";
import type { Workbench } from "../../workbench/workbench";
import { AirLedger } from "./AirLedger";
import { FamilyMark } from "./FamilyMark";
import { Section } from "./Section";

const AMPLIFIER_SIDE = ["source", "air"];

export function BoxStation() {
  const workbench = useWorkbench();
  const document = useDocument();
  const list = useQuery(families()).data ?? [];
  const suggestions = useSuggestions();
  const family = document.enclosure.family;

  const [seed] = useState(() => portSeed(workbench));
  const choose = (id: string) => {
    if (id === family) return;
    const found = suggestions.find((s) => s.enclosure?.family === id);
    if (found?.enclosure) workbench.take(found.title, [{ pointer: "/enclosure", value: found.enclosure }]);
  };
  return (
    <>
      <div className="flex gap-1 border-b border-rule" role="radiogroup" aria-label="Enclosure">
        {list.map((f) => {
          const possible = f.id === family || suggestions.some((s) => s.enclosure?.family === f.id);
          return (
            <Tip key={f.id} text={f.summary}>
              <button
                type="button"
                role="radio"
                aria-checked={f.id === family}
                disabled={!possible}
                onClick={() => choose(f.id)}
                className={`flex flex-1 items-center gap-2 border-b-2 px-2 py-1.5 disabled:opacity-40 ${
                  f.id === family
                    ? "border-oak bg-selected font-semibold"
                    : "border-transparent hover:bg-panel"
                }`}
              >
                <FamilyMark id={f.id} />
                {f.title}
              </button>
            </Tip>
          );
        })}
      </div>
      <SchemaForm pointer="/enclosure" seed={seed} />
      <PortLine />
      <Starts suggestions={suggestions} />
      <Section />
      <AirLedger />
      <details className="group mt-1 border-b border-rule/70">
        <summary className="cursor-pointer list-none py-[5px] text-soft before:mr-1.5 before:inline-block before:content-['▸'] group-open:before:rotate-90">
          Amplifier side and air
        </summary>
        <div className="border-l-2 border-rule pb-1 pl-2">
          <SchemaForm pointer="" only={AMPLIFIER_SIDE} />
        </div>
      </details>
    </>
  );
}

/** What a port given the other way begins with: the length or the tuning it has now. */
function portSeed(workbench: Workbench) {
  return (pointer: string) => {
    const port = workbench.current?.evaluation?.ports[0];
    if (pointer.endsWith("/length_mm") && port) return Math.round(port.length_mm);
    if (pointer.endsWith("/tuning_hz") && port) return Number(port.tuning_hz.toPrecision(3));
    return undefined;
  };
}

/** What follows for the port, as a figure: its length, or its tuning. */
function PortLine() {
  const evaluation = useEvaluation();
  const document = useDocument();
  const { system } = useSettings();
  const port = evaluation?.ports[0];
  if (!port) return null;
  const byTuning = "port" in document.enclosure && document.enclosure.port.sizing.by === "tuning";
  const misfit = evaluation.findings.some((f) => ["port_will_not_fit", "port_out_of_reach"].includes(f.kind));
  const length = show(port.length_mm, "mm", system, 4);
  return (
    <div className="flex items-baseline gap-2 border-b border-rule/70 py-[3px]">
      <span className="flex-1 text-soft">{byTuning ? "Port length" : "Tuning"}</span>
      <output
        data-testid="port-follows"
        className={`font-display text-xl font-semibold ${misfit ? "text-brick" : ""}`}
      >
        {byTuning ? (system === "inch" ? length.text : Math.round(port.length_mm)) : tidy(port.tuning_hz, 3)}
      </output>
      <span className="w-9 text-xs text-soft">{byTuning ? printUnit(length.unit) : "Hz"}</span>
    </div>
  );
}

function useSuggestions(): Suggestion[] {
  const document = useDocument();
  const [list, setList] = useState<Suggestion[]>([]);
  // starting points follow the woofer and what drives it, not the box
  const asked = JSON.stringify([document.woofer, document.array, document.source, document.air]);
  useEffect(() => {
    const abort = new AbortController();
    get(api.POST("/api/suggest", { body: document, signal: abort.signal })).then(
      (answer) => setList(answer.suggestions),
      () => undefined,
    );
    return () => abort.abort();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `asked` stands for the parts of the document that matter
  }, [asked]);
  return list;
}

function Starts({ suggestions }: { suggestions: Suggestion[] }) {
  const workbench = useWorkbench();
  const document = useDocument();
  const family = document.enclosure.family;
  const own = suggestions.filter((s) => (s.enclosure?.family ?? s.id.split("_")[0]) === family);
  if (!own.length) return null;
  return (
    <details className="group border-b border-rule/70">
      <summary className="cursor-pointer list-none py-[5px] text-oak before:mr-1.5 before:inline-block before:content-['▸'] group-open:before:rotate-90">
        Suggest a start for this woofer
      </summary>
      <ul className="space-y-1 pb-2">
        {own.map((s) => (
          <li key={s.id} className="flex items-baseline gap-2">
            <Button
              look="action"
              disabled={!s.enclosure}
              className="shrink-0 text-xs"
              onClick={() => workbench.take(s.title, [{ pointer: "/enclosure", value: s.enclosure }])}
            >
              {s.title.replace(/^\w+, /, "")}
            </Button>
            <span className="text-xs text-soft">{s.sentence}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}
