import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState, useSyncExternalStore } from "react";
import { Link } from "react-router";
import {
  api,
  get,
  Refused,
  type MeasurementRecord,
  type WooferProof,
  type WooferWish,
} from "../../api/client";
import { useRested } from "../../api/answer";
import { useSay, useSettings } from "../../app/settings";
import { roundUp } from "../../lib/axis";
import { show, printUnit } from "../../lib/quantity";
import { definition, wooferWishSchema } from "../../lib/schema";
import { PROVENANCE } from "../../lib/shelf";
import { Button } from "../../ui/Button";
import { Disclosure } from "../../ui/Disclosure";
import { Draft, FormContext } from "../../ui/form";
import { Plot } from "../../ui/Plot";
import { QuantityField } from "../../ui/QuantityField";
import { Saved, SavedTable } from "../../ui/Saved";
import { Say } from "../../ui/Say";
import { SchemaForm, type Assumed } from "../../ui/SchemaForm";
import { Select } from "../../ui/Select";
import { Head, Heads, Name, Row, Value } from "../../ui/Table";
import { RESTED_MS } from "../../workbench/asker";
import { useDocument } from "../../workbench/context";
import { BreakIn } from "./BreakIn";
import { useAsRevision } from "./useAsRevision";
import { useMeasured } from "./useMeasured";

const SHEET = definition("Woofer").properties ?? {};
/** A figure's name, as the sheet has it. */
const titleOf = (id: string) => SHEET[id]?.title ?? id;
const LAWS = { plain: "a plain inductance", parallel: "two inductances", semi: "a semi-inductance" };
const TICKS = [5, 10, 20, 50, 100, 200, 500, 1000];

const wishes = new Draft<{ wish: WooferWish }>(
  { properties: { wish: wooferWishSchema }, required: ["wish"] },
  { wish: { mass_percent: 1, volume_percent: 2, sd_percent: 2, temperature_c: 20 } },
  0,
);

/** Half of a range, as a share of the value. */
function range({ low, high }: { low: number; high: number }) {
  const half = ((high / low) ** 0.5 - 1) * 100;
  return half < 0.05 ? "under ±0.1 %" : `±${half.toFixed(1)} %`;
}

/** A difference in per cent. */
function apart(percent: number) {
  const text = Math.abs(percent).toFixed(1);
  return text === "0.0" ? "0" : `${percent < 0 ? "−" : "+"}${text} %`;
}

type Chosen = { free?: string; mass?: string; boxed?: string; other?: string };

/** The woofer by itself: its figures from impedances, what they do to this design, and where they are kept. */
export function WooferView() {
  const { list, isPending } = useMeasured();
  const say = useSay();
  const document = useDocument();
  const { wish } = useSyncExternalStore(wishes.subscribe, wishes.document);
  const [chosen, setChosen] = useState<Chosen>({});
  const of = (kind: string) => list.filter((m) => (m.document.about?.taken?.kind ?? "in_box") === kind);
  const free = of("free_air");
  const first = chosen.free ?? free.at(-1)?.id;
  const pick = (from: MeasurementRecord[], said: string | undefined) =>
    said === "" ? undefined : (said ?? from.at(-1)?.id);
  const ids = {
    free: first,
    mass: pick(of("added_mass"), chosen.mass),
    boxed: pick(of("known_box"), chosen.boxed),
    other: chosen.other || undefined,
  };
  const versions = list.filter((m) => Object.values(ids).includes(m.id)).map((m) => m.version);
  const asked = useRested(JSON.stringify({ ids, versions, wish, document }), RESTED_MS);
  const { data: proof, error } = useQuery({
    queryKey: ["woofer", asked],
    queryFn: ({ signal }) => {
      const { free, ...others } = ids;
      if (!free) throw new Error("nothing to fit");
      const body = { document, free, wish, ...others };
      return get(api.POST("/api/fit/woofer", { body, signal }));
    },
    enabled: !!first,
    retry: false,
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  });
  if (isPending) return <p className="text-soft">Fetching…</p>;
  const sd = document.woofer.sd_cm2;
  const assumed: Assumed = {
    "/wish/re_ohm": "fitted",
    "/wish/sd_cm2": typeof sd === "number" ? { value: sd, words: "sheet" } : "sheet",
  };
  const problem = error instanceof Refused ? error.problem : undefined;
  const wrong = problem?.errors?.[0]?.message;
  const names = (from: MeasurementRecord[]): [string, string][] =>
    from.map((m) => [m.id, m.document.about?.name || "without a name"]);
  const choose = (part: keyof Chosen, title: string, from: MeasurementRecord[], none: string) =>
    from.length > 0 && (
      <p className="flex flex-wrap items-baseline gap-2 py-1">
        <span className="w-28 text-soft">{title}</span>
        <Select
          label={title}
          value={ids[part] ?? ""}
          choices={[...(none ? ([["", none]] as [string, string][]) : []), ...names(from)]}
          onChange={(id) => setChosen({ ...chosen, [part]: id })}
        />
      </p>
    );
  return (
    <section
      aria-label="The woofer by itself"
      className="grid min-h-0 flex-1 content-start gap-x-6 gap-y-3 overflow-y-auto lg:grid-cols-[306px_minmax(0,1fr)]"
    >
      <div>
        {!first && (
          <p className="pb-2">
            The woofer was not measured by itself yet. <TakeLink>Take its impedance in free air</TakeLink>,
            then with a mass on the cone or on a known box: that gives all of its figures.
          </p>
        )}
        {choose("free", "In free air", free, "")}
        {choose("mass", "With a mass", of("added_mass"), "none")}
        {choose("boxed", "On a known box", of("known_box"), "none")}
        {choose(
          "other",
          "Beside another",
          free.filter((m) => m.id !== first),
          "none",
        )}
        {first && (
          <FormContext value={wishes}>
            <SchemaForm pointer="/wish" assumed={assumed} />
          </FormContext>
        )}
        <BreakIn />
      </div>
      <div className="min-w-0">
        {error && (
          <p role="alert" className="border-l-2 border-brick pl-2 text-brick">
            {(wrong && say(wrong)) ?? problem?.detail ?? "The server does not answer."}
          </p>
        )}
        {proof && !error && <Fitted proof={proof} />}
        {first && !proof && !error && <p className="text-soft">Fitting…</p>}
      </div>
    </section>
  );
}

const TakeLink = ({ children }: { children: string }) => (
  <Link className="text-oak underline" to="../take" relative="path">
    {children}
  </Link>
);

function Fitted({ proof }: { proof: WooferProof }) {
  const { system } = useSettings();
  const { said, take } = useAsRevision();
  const told = (id: string, v: number) => {
    const unit = SHEET[id]?.["x-unit"] ?? "";
    const shown = show(v, unit, system, 4);
    return `${shown.text}${shown.unit ? ` ${printUnit(shown.unit)}` : ""}`;
  };
  return (
    <>
      <SavedTable
        columns={["figure", "value", "low", "high", "sheet"]}
        rows={() => proof.figures.map((f, i) => [f.id, f.value, f.low, f.high, proof.planned[i]])}
        title="Its figures"
        note={`${proof.left_percent.toFixed(1)} % of the impedance is left over, the coil as ${LAWS[proof.law]}`}
      >
        <table className="text-xs whitespace-nowrap" data-testid="woofer-figures">
          <Heads>
            <Head left>figure</Head>
            <Head className="pl-2 sm:pl-4">measured</Head>
            <Head className="pl-2 whitespace-normal sm:pl-4">19 of 20 within</Head>
            <Head className="pl-2 sm:pl-4">sheet</Head>
            <Head className="pl-2 sm:pl-4">off by</Head>
          </Heads>
          <tbody>
            {proof.figures.map((f, i) => {
              const planned = proof.planned[i];
              const off = typeof planned === "number" ? (f.value / planned - 1) * 100 : undefined;
              return (
                <Row key={f.id}>
                  <Name>{titleOf(f.id)}</Name>
                  <Value className="pl-2 sm:pl-4">{told(f.id, f.value)}</Value>
                  <Value className="pl-2 sm:pl-4">{range(f)}</Value>
                  <Value className="pl-2 sm:pl-4">
                    {typeof planned === "number" ? told(f.id, planned) : "–"}
                  </Value>
                  <Value className="pl-2 sm:pl-4">{off === undefined ? "–" : apart(off)}</Value>
                </Row>
              );
            })}
          </tbody>
        </table>
      </SavedTable>
      {proof.effect && (
        <p className="max-w-2xl py-2" data-testid="effect">
          <Say text={proof.effect.sentence} />
        </p>
      )}
      {proof.other && (
        <p className="max-w-2xl py-1" data-testid="other">
          <Say text={proof.other.sentence} />
        </p>
      )}
      {proof.remarks.map((r, i) => (
        <p key={i} className="max-w-2xl text-xs text-soft">
          <Say text={r} />.
        </p>
      ))}
      <p className="flex flex-wrap items-baseline gap-3 py-2">
        <Button
          look="strong"
          disabled={!proof.changes.length}
          onClick={() => void take(["With the woofer as measured"], proof.changes)}
        >
          Design with these figures
        </Button>
        <span role="status" className="text-xs text-soft">
          {said}
        </span>
      </p>
      <KeepSet proof={proof} />
      {proof.curves.map((c) => (
        <CurveAndRest key={c.taken} curve={c} />
      ))}
    </>
  );
}

/** A measured impedance with the fit, and what is left of it below. */
function CurveAndRest({ curve }: { curve: WooferProof["curves"][number] }) {
  const { measured, fitted, left_percent: left } = curve;
  const x = measured.frequency_hz;
  const most = Math.max(1, ...left);
  return (
    <section aria-label={curve.taken} className="max-w-3xl pt-2">
      <Saved title={curve.taken} note="measured, and fitted dotted">
        <Plot
          x={x}
          title="impedance"
          unit="ohm"
          told
          range={[0, roundUp(Math.max(...measured.magnitude) * 1.05)]}
          height={150}
          ticks={TICKS}
          showTicks={false}
          curves={[
            { values: measured.magnitude, colour: "var(--oak)", width: 1.3 },
            { x: fitted.frequency_hz, values: fitted.magnitude, dash: "1 3", width: 1.8 },
          ]}
        />
        <Plot
          x={x}
          title="left over"
          unit="%"
          told
          range={[0, roundUp(most)]}
          height={70}
          ticks={TICKS}
          xUnit="Hz"
          curves={[{ x: fitted.frequency_hz, values: left, colour: "var(--oak)" }]}
        />
      </Saved>
    </section>
  );
}

/** Keeps the figures on the shelf, as a set of this woofer with where they come from. */
function KeepSet({ proof }: { proof: WooferProof }) {
  const document = useDocument();
  const [provenance, setProvenance] = useState<keyof typeof PROVENANCE>("measured_new");
  const [hours, setHours] = useState<number>();
  const [by, setBy] = useState("");
  const [said, setSaid] = useState("");
  const keep = async () => {
    const method = ["impedance in free air", ...proof.curves.slice(1).map((c) => c.taken)].join(", ");
    const ranges = proof.figures
      .filter((f) => ["fs_hz", "qts", "vas_l"].includes(f.id))
      .map((f) => `${titleOf(f.id)} ${range(f)}`);
    const set = {
      provenance,
      date: new Date().toISOString().slice(0, 10),
      by,
      method: method.slice(0, 400),
      note: `19 of 20 within ${ranges.join(", ")}`,
      ...(hours !== undefined && { hours }),
      figures: proof.sheet,
    };
    try {
      const kept = await get(api.POST("/api/woofers/log", { body: { document, set } }));
      setSaid(`Kept with ${kept.name || "the woofer"} on the shelf, and in use there.`);
    } catch (cause) {
      const problem = cause instanceof Refused ? cause.problem : undefined;
      setSaid(`Not kept: ${problem?.detail ?? "the server does not answer."}`);
    }
  };
  return (
    <Disclosure title="Keep them on the shelf" offers indented>
      <div className="max-w-80">
        <p className="flex items-baseline gap-2 py-1">
          <span className="text-soft">Comes from</span>
          <Select
            label="Comes from"
            value={provenance}
            choices={Object.entries(PROVENANCE).filter(([id]) => id !== "data_sheet")}
            onChange={(id) => setProvenance(id as typeof provenance)}
          />
        </p>
        <QuantityField
          label="Broken in"
          unit="h"
          value={hours}
          optional
          min={0}
          max={10000}
          onChange={setHours}
        />
        <label className="flex items-baseline gap-2 py-1">
          <span className="text-soft">Who</span>
          <input
            className="w-full border border-rule bg-panel px-1 py-0.5"
            value={by}
            maxLength={120}
            onChange={(e) => setBy(e.target.value)}
          />
        </label>
        <p className="py-1">
          <Button look="action" onClick={() => void keep()}>
            Keep as a set of figures
          </Button>
        </p>
      </div>
      <p role="status" className="text-xs">
        {said}
      </p>
    </Disclosure>
  );
}
