import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, get, Refused, type Begin, type Begun, type Design, type PurposeInfo } from "../api/client";
import { amplifiers, builds, purposes, woofer as wooferQuery, woofers } from "../api/queries";
import { Lessons } from "../app/Lessons";
import { useFigure, useSay, useSettings } from "../app/settings";
import { useWorkshop } from "../app/workshop";
import { inSystem, printUnit, readIn } from "../lib/quantity";
import { sheetInUse } from "../lib/shelf";
import { Button } from "../ui/Button";
import { Disclosure } from "../ui/Disclosure";
import { Modal } from "../ui/Modal";
import { newKey, outbox } from "../workbench/outbox";

const field = "mt-1 w-full rounded-sm border border-rule bg-ground px-2 py-1.5";

type Purpose = PurposeInfo["purpose"];
type Sides = [string, string, string];

const SAWN: [NonNullable<Begin["sawn_by"]>, string][] = [
  ["hand_saw", "a hand saw or jigsaw"],
  ["shop", "the shop cuts them"],
  ["table_saw", "a table saw or track saw"],
  ["machine", "a router table or CNC"],
];

/** Begins a build from what there is: what it is for, the woofer and amplifier, what limits it. Each may be left open. */
export function NewBuild({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Modal title="A build of your own" open={open} onOpenChange={onOpenChange} wide>
      <Beginning close={() => onOpenChange(false)} />
    </Modal>
  );
}

function Beginning({ close }: { close: () => void }) {
  const shelf = useQuery(woofers()).data ?? [];
  const powered = useQuery(amplifiers()).data ?? [];
  const known = useQuery(purposes()).data?.purposes ?? [];
  const { system } = useSettings();
  const currency = useWorkshop()?.currency;
  const navigate = useNavigate();
  const client = useQueryClient();
  const say = useSay();
  const [name, setName] = useState("");
  const [purpose, setPurpose] = useState<Purpose>();
  const [woofer, setWoofer] = useState("");
  const [amplifier, setAmplifier] = useState("");
  const [sides, setSides] = useState<Sides>(["", "", ""]);
  const [budget, setBudget] = useState("");
  const [sawn, setSawn] = useState<Begin["sawn_by"]>();
  const [family, setFamily] = useState("vented");
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState("");
  const asked = known.find((p) => p.purpose === purpose);
  const chosen = shelf.find((w) => w.id === woofer);
  const usual = asked?.title ?? (chosen ? `A box for ${chosen.row.name}` : "");

  const unit = printUnit(inSystem("mm", system).unit);
  const space = (): Begin["space"] => {
    if (sides.every((s) => !s.trim())) return undefined;
    const [width_mm, height_mm, depth_mm] = sides.map((s) => {
      const found = readIn(s, "mm", system);
      if ("error" in found) throw new Error(`The space: ${found.error}.`);
      if (found.value < 100 || found.value > 5000)
        throw new Error("The space: each side is 100 to 5000 mm (4 to 197 in), all three or none.");
      return found.value;
    }) as [number, number, number];
    return { width_mm, height_mm, depth_mm };
  };
  const sheet = async () => (woofer ? sheetInUse(await client.fetchQuery(wooferQuery(woofer))) : undefined);

  const go = async (make: () => Promise<{ name: string; documents: Design[]; why?: string }>) => {
    setBusy(true);
    setWrong("");
    try {
      const { name: called, documents, why } = await make();
      const [document, ...others] = documents;
      if (!document) throw new Error("No box came of that.");
      const body = { name: called, document, ...(others.length && { others }) };
      const made = await get(api.POST("/api/builds", { body }));
      // why each is there, and what is not, is the first page of its log
      const entry = { text: why ?? "", tied: { revision: "A" } };
      if (why) await outbox.put({ id: newKey(), build: made.id, base_version: 0, entry, photos: [] });
      await client.invalidateQueries(builds());
      await navigate(`/builds/${made.id}/box`);
    } catch (cause) {
      const problem = cause instanceof Refused ? cause.problem : undefined;
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
      const own = await sheet();
      const drive = powered.find((a) => a.id === amplifier)?.document.amplifier;
      const spent = budget.trim() ? Number(budget.replace(",", ".")) : undefined;
      if (spent !== undefined && !(spent >= 0)) throw new Error("The budget is a number, for example 400.");
      const body: Begin = {
        ...(purpose && { purpose }),
        ...(own && { woofer: own }),
        ...(drive && { amplifier: drive }),
        ...(space() && { space: space() }),
        ...(spent !== undefined && { budget: spent }),
        ...(sawn && { sawn_by: sawn }),
      };
      const begun: Begun = await get(api.POST("/api/begin", { body }));
      if (!begun.boxes.length) throw new Error(begun.left_out.map(say).join(" ") || "No box came of that.");
      const called = name.trim() || usual || "First thoughts";
      const why = [
        ...begun.reasons.map(say),
        ...begun.boxes.map((b) => `${b.title}: ${say(b.sentence)}`),
        ...begun.left_out.map(say),
      ].join("\n");
      return { name: called, documents: begun.boxes.map((b) => b.design), why };
    });
  const bench = () =>
    go(async () => {
      const own = await sheet();
      if (!own) throw new Error("Pick a woofer first; its figures can be changed later.");
      const plain: Design = {
        format: "oak-drum-design",
        version: 8,
        name: "First thought",
        woofer: own,
        enclosure: { family: "sealed", net_volume_l: 50 },
      };
      const { suggestions } = await get(api.POST("/api/suggest", { body: plain }));
      const start =
        suggestions.find((s) => s.enclosure?.family === family)?.enclosure ??
        suggestions.find((s) => s.enclosure)?.enclosure;
      return {
        name: name.trim() || usual || "An empty bench",
        documents: [{ ...plain, ...(start && { enclosure: start }) }],
      };
    });

  return (
    <form
      className="space-y-4"
      onSubmit={(e) => {
        e.preventDefault();
        void three();
      }}
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
              onClick={() => setPurpose(purpose === p.purpose ? undefined : p.purpose)}
            >
              {p.title}
            </button>
          ))}
        </div>
        {asked && <Asked info={asked} />}
      </fieldset>
      <fieldset className="grid gap-x-4 gap-y-2 md:grid-cols-2">
        <legend className="font-display font-semibold">What have you?</legend>
        <label className="block">
          Woofer
          <select value={woofer} onChange={(e) => setWoofer(e.target.value)} className={field}>
            <option value="">None yet: the likeliest of the shelf is taken</option>
            {shelf.map((w) => (
              <option key={w.id} value={w.id}>
                {w.row.name} — {w.row.size_in} in, {w.row.maker}
              </option>
            ))}
          </select>
          <span className="text-xs text-soft">
            Not on the shelf? Its sheet is typed in, or read from a file, on the Woofer page.
          </span>
        </label>
        <label className="block">
          Amplifier
          <select value={amplifier} onChange={(e) => setAmplifier(e.target.value)} className={field}>
            <option value="">None yet: what it has to give is worked out</option>
            {powered.map((a) => (
              <option key={a.id} value={a.id}>
                {a.document.amplifier.name}, {a.document.amplifier.power_w} W
              </option>
            ))}
          </select>
        </label>
      </fieldset>
      <Disclosure title="What limits you? Space, money, tools">
        <div className="grid gap-x-4 gap-y-2 py-2 md:grid-cols-2">
          <div>
            <p>
              It has to go into, <span className="text-soft">{unit}</span>
            </p>
            <div className="mt-1 grid grid-cols-3 gap-2">
              {["wide", "high", "deep"].map((side, i) => (
                <label key={side} className="text-xs text-soft">
                  <input
                    className="w-full rounded-sm border border-rule bg-ground px-2 py-1.5 text-sm text-ink"
                    inputMode="decimal"
                    value={sides[i]}
                    onChange={(e) => setSides(sides.map((s, k) => (k === i ? e.target.value : s)) as Sides)}
                  />
                  {side}
                </label>
              ))}
            </div>
          </div>
          <label className="block">
            It may cost{currency && <span className="text-soft">, {currency}</span>}
            <input
              className={field}
              inputMode="decimal"
              value={budget}
              onChange={(e) => setBudget(e.target.value)}
            />
          </label>
          <label className="block">
            Boards are sawn by
            <select
              className={field}
              value={sawn ?? ""}
              onChange={(e) => setSawn((e.target.value || undefined) as Begin["sawn_by"])}
            >
              <option value="">not said</option>
              {SAWN.map(([id, words]) => (
                <option key={id} value={id}>
                  {words}
                </option>
              ))}
            </select>
          </label>
        </div>
      </Disclosure>
      <label className="block md:w-1/2">
        Name
        <input
          className={field}
          maxLength={120}
          placeholder={usual || "First thoughts"}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      <Lessons about={{ woofer: chosen?.row.name }} />
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
            value={family}
            onChange={(e) => setFamily(e.target.value)}
          >
            <option value="vented">a vented box</option>
            <option value="sealed">a sealed box</option>
          </select>
        </span>
        <Button look="strong" type="submit" disabled={busy}>
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
