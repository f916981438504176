import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useAnswer } from "../../api/answer";
import { api, get, type Evaluation, type Suggestion } from "../../api/client";
import { families } from "../../api/queries";
import { printUnit, show, tidy } from "../../lib/quantity";
import { useSettings } from "../../app/settings";
import { Button } from "../../ui/Button";
import { SchemaForm } from "../../ui/SchemaForm";
import {
  useEvaluation,
  useFoundAny,
  usePartOfDocument,
  useValue,
  useWorkbench,
} from "../../workbench/context";
import type { Workbench } from "../../workbench/workbench";
import { AirLedger } from "./AirLedger";
import { FamilyPicker } from "./FamilyPicker";
import { FillLibrary } from "./FillLibrary";
import { Section } from "./section/Section";
import { Steps, Figures } from "./Figures";
import { Say } from "../../ui/Say";
import { Disclosure } from "../../ui/Disclosure";

const AIR = ["air"];

export function BoxStation() {
  const workbench = useWorkbench();
  const list = useQuery(families()).data ?? [];
  const suggestions = useSuggestions();
  const family = useFamily();

  const [seed] = useState(() => portSeed(workbench));
  const choose = (id: string) => {
    if (id === family) return;
    const found = suggestions.find((s) => s.enclosure?.family === id);
    if (found?.enclosure) workbench.take(found.title, [{ pointer: "/enclosure", value: found.enclosure }]);
  };
  return (
    <>
      <FamilyPicker
        families={list}
        chosen={family}
        possible={(id) => suggestions.some((s) => s.enclosure?.family === id)}
        onChoose={choose}
      />
      <SchemaForm pointer="/enclosure" seed={seed} />
      <VolumeFollows />
      <PortLines />
      <Steps />
      <Figures />
      <Starts suggestions={suggestions} />
      <Section />
      <AirLedger />
      <FillLibrary />
      <Disclosure title="Air" indented>
        <SchemaForm pointer="" only={AIR} />
      </Disclosure>
    </>
  );
}

const useFamily = () => usePartOfDocument((d) => d.enclosure.family);

/** Said where the cabinet's outside is held: the volume is then what its boards leave. */
function VolumeFollows() {
  const held = useValue("/cabinet/held");
  const evaluation = useEvaluation();
  const { system } = useSettings();
  const litres = evaluation?.summary.chambers[0]?.net_l;
  if (held !== "outside" || !litres) return null;
  const shown = show(litres, "L", system, 4);
  return (
    <p className="border-b border-rule/70 py-[3px] text-verdigris">
      Net volume follows from the cabinet: {shown.text} {printUnit(shown.unit)}.
    </p>
  );
}

/** What a field begins with: a port given the other way keeps what it has now, an inside what was assumed of it. */
function portSeed(workbench: Workbench) {
  return (pointer: string) => {
    const current = workbench.current;
    const port = current?.evaluation?.ports.find((p) => pointer.startsWith(p.pointer));
    if (pointer.endsWith("/length_mm") && port) return Math.round(port.length_mm);
    if (pointer.endsWith("/tuning_hz") && port) return Number(port.tuning_hz.toPrecision(3));
    return current?.evaluation?.summary.chambers.find((c) => c.inside_pointer === pointer)?.inside;
  };
}

/** What follows for each port, as a figure: its length, or its tuning. */
function PortLines() {
  const evaluation = useEvaluation();
  return evaluation?.ports.map((port) => <PortLine key={port.pointer} port={port} />);
}

function PortLine({ port }: { port: Evaluation["ports"][number] }) {
  const { system } = useSettings();
  const byTuning = useValue(`${port.pointer}/sizing/by`) === "tuning";
  const misfit = useFoundAny(["port_will_not_fit", "port_out_of_reach"]);
  const length = show(port.length_mm, "mm", system, 4);
  const which = port.pointer.includes("front")
    ? "Front port"
    : port.pointer.includes("rear")
      ? "Rear port"
      : "Port";
  return (
    <div className="flex items-baseline gap-2 border-b border-rule/70 py-[3px]">
      <span className="flex-1 text-soft">
        {byTuning ? `${which} length` : which === "Port" ? "Tuning" : `${which} tuning`}
      </span>
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

const NONE: Suggestion[] = [];

function useSuggestions(): Suggestion[] {
  const workbench = useWorkbench();
  // starting points follow the woofer and what drives it, not the box
  const parts = [useValue("/woofer"), useValue("/array"), useValue("/chain"), useValue("/air")];
  const ask = async (signal: AbortSignal) => {
    const body = workbench.current?.document;
    return body ? (await get(api.POST("/api/suggest", { body, signal }))).suggestions : [];
  };
  return useAnswer("suggest", parts, ask) ?? NONE;
}

function Starts({ suggestions }: { suggestions: Suggestion[] }) {
  const workbench = useWorkbench();
  const family = useFamily();
  const own = suggestions.filter((s) => s.enclosure?.family === family || s.id.startsWith(`${family}_`));
  if (!own.length) return null;
  return (
    <Disclosure title="Suggest a start for this woofer" offers>
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
            <span className="text-xs text-soft">
              <Say text={s.sentence} />
            </span>
          </li>
        ))}
      </ul>
    </Disclosure>
  );
}
