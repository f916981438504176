import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import {
  api,
  get,
  Refused,
  type Begin,
  type Begun,
  type Design,
  type PurposeInfo,
  type Woofer,
} from "../../api/client";
import { amplifiers, builds, purposes, woofer as wooferQuery, woofers } from "../../api/queries";
import { Lessons } from "../../app/Lessons";
import { useFigure, useSay, useSettings } from "../../app/settings";
import { useWorkshop } from "../../app/workshop";
import { inSystem, printUnit } from "../../lib/quantity";
import { beginSchema, schemaAt, start } from "../../lib/schema";
import { sheetInUse, sheetWith } from "../../lib/shelf";
import { useKeptWoofer } from "../../stations/woofer/shelf/keptWoofer";
import { Button } from "../../ui/Button";
import { Disclosure } from "../../ui/Disclosure";
import { FormContext } from "../../ui/form";
import { Modal } from "../../ui/Modal";
import { SchemaForm } from "../../ui/SchemaForm";
import { newKey, outbox } from "../../workbench/outbox";
import { BY_POWER, useThought } from "./thought";
import { WooferHad } from "./WooferHad";

const LIMITS = ["space", "budget", "sawn_by"];
const field = "mt-1 w-full rounded-sm border border-rule bg-ground px-2 py-1.5";

/** Begins a build from what there is: what it is for, the woofer and amplifier, what limits it. Each may be left open. */
export function NewBuild({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Modal title="A build of your own" open={open} onOpenChange={onOpenChange} wide>
      <Beginning close={() => onOpenChange(false)} />
    </Modal>
  );
}

function Beginning({ close }: { close: () => void }) {
  const shelf = useQuery(woofers()).data;
  const powered = useQuery(amplifiers()).data ?? [];
  const known = useQuery(purposes()).data?.purposes ?? [];
  const navigate = useNavigate();
  const client = useQueryClient();
  const say = useSay();
  const currency = useWorkshop()?.currency;
  const { thought, put, limits, forget } = useThought();
  const { purpose, amplifier } = thought;
  // what was kept stands on the shelf, whatever comes of the rest
  const kept = useKeptWoofer("new", undefined, (made) => put({ from: "shelf", woofer: made.id }));
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState("");
  const asked = known.find((p) => p.purpose === purpose);
  const chosen = thought.from === "shelf" ? shelf?.find((w) => w.id === thought.woofer)?.row.name : undefined;
  const own = chosen ?? (thought.from === "sheet" ? kept.document.woofer.name : undefined);
  const usual = asked?.title ?? (own ? `A box for ${own}` : "");

  /** The sheet that is begun from; none where the shelf's likeliest is to be taken. */
  const sheet = async (): Promise<Woofer | undefined> => {
    if (thought.from === "file")
      throw new Error("The file is not on the shelf yet: take it in, or pick one of the shelf.");
    if (thought.from === "sheet") {
      if (!(await kept.keep())) throw new Error("Your woofer was not kept; what is missing stands at it.");
      return sheetWith(kept.document, 0);
    }
    // one that was taken off the shelf since is none
    if (!thought.woofer || (shelf && !shelf.some((w) => w.id === thought.woofer))) return undefined;
    return sheetInUse(await client.fetchQuery(wooferQuery(thought.woofer)));
  };

  const go = async (make: () => Promise<{ name: string; documents: Design[]; why?: string }>) => {
    setBusy(true);
    setWrong("");
    limits.say(undefined);
    try {
      const { name: called, documents, why } = await make();
      const [document, ...others] = documents;
      if (!document) throw new Error("No box came of that.");
      const body = { name: called, document, ...(others.length && { others }) };
      const made = await get(api.POST("/api/builds", { body }));
      // why each is there, and what is not, is the first page of its log
      const entry = { text: why ?? "", tied: { revision: "A" } };
      if (why) await outbox.put({ id: newKey(), build: made.id, base_version: 0, entry, photos: [] });
      forget();
      await client.invalidateQueries(builds());
      await navigate(`/builds/${made.id}/box`);
    } catch (cause) {
      const problem = cause instanceof Refused ? cause.problem : undefined;
      limits.say(problem?.errors);
      const first = problem?.errors?.[0]?.message;
      setWrong(
        (first && say(first)) ??
          problem?.detail ??
          (cause instanceof Error ? cause.message : "That did not work."),
      );
      setBusy(false);
    }
  };

  const three = () =>
    go(async () => {
      const woofer = await sheet();
      const drive = powered.find((a) => a.id === amplifier)?.document.amplifier;
      const { gives, ...others } = limits.document();
      const body: Begin = {
        ...others,
        ...(purpose && { purpose }),
        ...(woofer && { woofer }),
        ...(drive && { amplifier: drive }),
        ...(amplifier === BY_POWER && gives && { gives }),
      };
      const begun: Begun = await get(api.POST("/api/begin", { body }));
      if (!begun.boxes.length) throw new Error(begun.left_out.map(say).join(" ") || "No box came of that.");
      const called = thought.name.trim() || usual || "First thoughts";
      const why = [
        ...begun.reasons.map(say),
        ...begun.boxes.map((b) => `${b.title}: ${say(b.sentence)}`),
        ...begun.left_out.map(say),
      ].join("\n");
      return { name: called, documents: begun.boxes.map((b) => b.design), why };
    });
  const bench = () =>
    go(async () => {
      const woofer = await sheet();
      if (!woofer) throw new Error("Pick a woofer first; its figures can be changed later.");
      const plain: Design = {
        format: "oak-drum-design",
        version: 8,
        name: "First thought",
        woofer,
        enclosure: { family: "sealed", net_volume_l: 50 },
      };
      const { suggestions } = await get(api.POST("/api/suggest", { body: plain }));
      const start =
        suggestions.find((s) => s.enclosure?.family === thought.family)?.enclosure ??
        suggestions.find((s) => s.enclosure)?.enclosure;
      return {
        name: thought.name.trim() || usual || "An empty bench",
        documents: [{ ...plain, ...(start && { enclosure: start }) }],
      };
    });

  return (
    <form
      className="space-y-4"
      // Enter in a field says that the figure is typed, not that all of it is
      onSubmit={(e) => e.preventDefault()}
      noValidate
    >
      <p className="text-soft">Three questions; each may be left open, and all of it can be changed later.</p>
      <fieldset>
        <legend className="font-display font-semibold">What is it for?</legend>
        <div role="radiogroup" aria-label="What is it for?" className="mt-1 flex flex-wrap gap-1">
          {known.map((p) => (
            <button
              key={p.purpose}
              type="button"
              role="radio"
              aria-checked={purpose === p.purpose}
              className={`min-h-9 rounded-sm border px-2.5 ${
                purpose === p.purpose
                  ? "border-oak bg-selected font-medium"
                  : "border-rule text-soft hover:text-ink"
              }`}
              onClick={() => put({ purpose: purpose === p.purpose ? undefined : p.purpose })}
            >
              {p.title}
            </button>
          ))}
        </div>
        {asked && <Asked info={asked} />}
      </fieldset>
      <fieldset className="grid gap-x-4 gap-y-2 md:grid-cols-2">
        <legend className="font-display font-semibold">What have you?</legend>
        <WooferHad thought={thought} put={put} kept={kept} field={field} />
        <div>
          <label className="block">
            Amplifier
            <select
              value={amplifier}
              onChange={(e) => {
                put({ amplifier: e.target.value });
                if (e.target.value === BY_POWER && !limits.document().gives)
                  limits.set("/gives", start(schemaAt("/gives", {}, beginSchema) ?? {}));
              }}
              className={field}
            >
              <option value="">None yet: what it has to give is worked out</option>
              <option value={BY_POWER}>Mine: its power is all I know</option>
              {powered.map((a) => (
                <option key={a.id} value={a.id}>
                  {a.document.amplifier.name}, {a.document.amplifier.power_w} W
                </option>
              ))}
            </select>
          </label>
          {amplifier === BY_POWER && (
            <FormContext value={limits}>
              <SchemaForm pointer="/gives" />
            </FormContext>
          )}
        </div>
      </fieldset>
      <Disclosure title="What limits you? Space, money, tools">
        <FormContext value={limits}>
          <div className="max-w-xl py-1">
            <SchemaForm pointer="" only={LIMITS} />
            {currency && <p className="pt-1 text-xs text-soft">Money is told in {currency}.</p>}
          </div>
        </FormContext>
      </Disclosure>
      <label className="block md:w-1/2">
        Name
        <input
          className={field}
          maxLength={120}
          placeholder={usual || "First thoughts"}
          value={thought.name}
          onChange={(e) => put({ name: e.target.value })}
        />
      </label>
      <Lessons about={{ woofer: own }} />
      {wrong && (
        <p role="alert" className="text-brick">
          {wrong}
        </p>
      )}
      <div className="flex flex-wrap items-center justify-end gap-2 pt-1">
        {busy && <span className="mr-auto text-soft">Working out your boxes…</span>}
        <Button onClick={close}>Not now</Button>
        <span className="flex items-center gap-1.5">
          <Button onClick={() => void bench()} disabled={busy}>
            Just an empty bench
          </Button>
          <select
            aria-label="The empty bench begins with"
            className="h-8 rounded-sm border border-rule bg-ground px-1"
            value={thought.family}
            onChange={(e) => put({ family: e.target.value })}
          >
            <option value="vented">a vented box</option>
            <option value="sealed">a sealed box</option>
          </select>
        </span>
        <Button look="strong" disabled={busy} onClick={() => void three()}>
          Begin with three boxes
        </Button>
      </div>
    </form>
  );
}

/** What a purpose asks, and why. */
function Asked({ info }: { info: PurposeInfo }) {
  const figure = useFigure();
  const { system } = useSettings();
  const unit = printUnit(inSystem("m", system).unit);
  return (
    <ul className="mt-2 list-disc pl-5 text-sm text-soft" data-testid="asked">
      <li>
        Lowest note {info.lowest_note_hz} Hz: {info.note_why}.
      </li>
      <li>
        {info.level_db} dB at {figure(info.distance_m, "m")} {unit}: {info.level_why}.
      </li>
    </ul>
  );
}
