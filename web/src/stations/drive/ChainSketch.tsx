import { useState } from "react";
import type { DriveView } from "../../api/client";
import { useSize } from "../../app/settings";
import { tidy } from "../../lib/quantity";
import { Button } from "../../ui/Button";
import { Plot } from "../../ui/Plot";
import { QuantityField } from "../../ui/QuantityField";
import { SchemaForm } from "../../ui/SchemaForm";
import { Tip } from "../../ui/Tip";
import { usePartOfDocument, useWorkbench } from "../../workbench/context";
import {
  copied,
  filtersOf,
  inStage,
  kinds,
  moved,
  rated,
  STAGES,
  told,
  withFilter,
  without,
  type Stage,
} from "./chain";
import { halfOctaves, qOfHalf } from "./pull";
import { useDrive } from "./useDrive";
import { choose, useChosen } from "./chosen";

const MOST = 20;

/** The chain as blocks on one wire, from what plays to the woofers; a member that is pressed opens under its name. */
export function ChainSketch() {
  const drive = useDrive();
  return (
    <ol className="relative ml-1.5 border-l border-ink/70 pl-3" aria-label="Signal chain">
      {STAGES.map(({ stage, title, help }) => (
        <StageBlock key={stage} stage={stage} title={title} help={help} drive={drive} />
      ))}
      <Leads drive={drive} />
      <Parts drive={drive} />
      <Woofers />
    </ol>
  );
}

/** A block on the wire. */
function Block({
  title,
  note,
  help,
  children,
}: {
  title: string;
  note?: string;
  help?: string;
  children?: React.ReactNode;
}) {
  return (
    <li className="relative mb-2 rounded-sm border border-rule bg-panel px-2 py-1 before:absolute before:top-3 before:-left-3 before:h-px before:w-3 before:bg-ink/70">
      <div className="flex items-baseline gap-2">
        <Tip text={help}>
          <h2 className="font-display text-sm font-semibold">{title}</h2>
        </Tip>
        <span className="min-w-0 flex-1 truncate text-right text-xs text-soft">{note}</span>
      </div>
      {children}
    </li>
  );
}

function StageBlock({
  stage,
  title,
  help,
  drive,
}: {
  stage: Stage;
  title: string;
  help: string;
  drive: DriveView | undefined;
}) {
  const filters = usePartOfDocument(filtersOf);
  const amplifier = usePartOfDocument((d) => d.chain?.amplifier);
  const own = inStage(filters, stage);
  const fixed = stage === "amplifier" ? (drive?.filters.filter((f) => f.fixed) ?? []) : [];
  const note = stage === "amplifier" ? (amplifier ? rated(amplifier) : "not stated") : "";
  return (
    <Block title={title} help={help} note={note}>
      <ul>
        {own.map(({ filter, index }) => (
          <Member key={index} index={index} title={filter.name || nameOf(filter.filter.kind)} drive={drive} />
        ))}
        {fixed.map((f) => (
          <li key={f.member.pointer} className="text-xs text-soft">
            {f.member.title}, always there{f.hz ? `, ${tidy(f.hz, 3)} Hz` : ""}
          </li>
        ))}
      </ul>
      {stage === "amplifier" && <AmplifierSheet />}
      <Add stage={stage} />
    </Block>
  );
}

const nameOf = (kind: string) => kinds().find((k) => k.kind === kind)?.title ?? kind;

/** One filter: a switch, its figures, and what can be done with it. */
function Member({ index, title, drive }: { index: number; title: string; drive: DriveView | undefined }) {
  const workbench = useWorkbench();
  const filters = usePartOfDocument(filtersOf);
  const chosen = useChosen();
  const here = filters[index];
  if (!here) return null;
  const open = chosen === index;
  const seen = drive?.filters[index];
  const off = here.off === true;
  return (
    <li className={`border-t border-rule/60 ${open ? "bg-selected/40" : ""}`}>
      <div className="flex items-baseline gap-1.5 py-0.5">
        <input
          type="checkbox"
          className="accent-oak"
          aria-label={`${title} on`}
          title="On or off; it is kept either way"
          checked={!off}
          onChange={(e) => workbench.set(`/chain/filters/${index}/off`, e.target.checked ? undefined : true)}
        />
        <button
          type="button"
          aria-expanded={open}
          className={`min-w-0 flex-1 truncate text-left hover:text-oak ${off ? "text-soft line-through" : ""}`}
          onClick={() => choose(open ? null : index)}
        >
          {title} <span className="font-mono text-xs text-soft">{told(here.filter)}</span>
        </button>
        {seen?.beyond && <span className="text-xs text-brick">not in it</span>}
      </div>
      {open && (
        <div className="border-l-2 border-oak/60 pb-2 pl-2">
          <SchemaForm
            pointer={`/chain/filters/${index}`}
            only={["filter"]}
            within={(pointer) => {
              const range = seen?.ranges.find((r) => pointer === `/chain/filters/${index}/filter${r.field}`);
              return range && [range.from, range.to];
            }}
          />
          {seen?.width && here.filter.kind === "band" && <Width index={index} width={seen.width} />}
          <PriceLine drive={drive} index={index} />
          <SchemaForm pointer={`/chain/filters/${index}`} only={["name", "stage"]} />
          {seen && drive && <Alone view={seen.member} hz={drive.frequency_hz} />}
          <div className="flex flex-wrap gap-1 pt-1 text-xs">
            <Button onClick={() => workbench.change(moved(filters, index, -1))}>Earlier</Button>
            <Button onClick={() => workbench.change(moved(filters, index, 1))}>Later</Button>
            <Button
              disabled={filters.length >= MOST}
              onClick={() => {
                workbench.change(copied(filters, index));
                choose(index + 1);
              }}
            >
              Copy it
            </Button>
            <Button
              onClick={() => {
                choose(null);
                workbench.change(without(filters, index));
              }}
            >
              Take out
            </Button>
          </div>
        </div>
      )}
    </li>
  );
}

/** A band's width in octaves, which sets its Q, and as other devices count it. */
function Width({
  index,
  width,
}: {
  index: number;
  width: NonNullable<DriveView["filters"][number]["width"]>;
}) {
  const workbench = useWorkbench();
  const filters = usePartOfDocument(filtersOf);
  const filter = filters[index]?.filter;
  if (filter?.kind !== "band") return null;
  const set = (octaves: number | undefined, gesture?: string) => {
    if (octaves === undefined) return;
    const q = Number(qOfHalf(octaves / 2).toPrecision(4));
    workbench.set(`/chain/filters/${index}/filter/q`, Math.min(Math.max(q, 0.1), 30), gesture);
  };
  return (
    <div data-testid="width">
      <QuantityField
        label="Octaves"
        help="Width between the points of half its level in decibels; sets Q."
        unit=""
        value={Number((2 * halfOctaves(filter.q)).toPrecision(3))}
        min={0.05}
        max={6.6}
        onChange={set}
        onDone={() => workbench.endGesture()}
      />
      <p className="py-1 text-xs text-soft">
        {typeof width.three_db_octaves === "number" &&
          `Devices that count 3 dB under the top: ${tidy(width.three_db_octaves, 2)} octaves. `}
        Devices of constant Q: {tidy(width.constant_q, 2)}.
      </p>
    </div>
  );
}

/** What a boost costs, in watts, stroke and level. */
export function PriceLine({ drive, index }: { drive: DriveView | undefined; index: number }) {
  const size = useSize();
  const price = drive?.filters[index]?.price;
  if (!price) return null;
  const cost = price.level_cost_db;
  return (
    <p className="py-1 text-xs" data-testid="price">
      Lifts {price.lift_db.toFixed(1)} dB: <b>{tidy(price.watts, 3)} W</b> in place of{" "}
      {tidy(price.watts_without, 2)} W, cone {size(price.excursion_mm, "travel", 2)} in place of{" "}
      {size(price.excursion_without_mm, "travel", 2)}
      {typeof price.air_m_per_s === "number" && `, air ${tidy(price.air_m_per_s, 2)} m/s`}
      {cost !== undefined && cost !== null && cost > 0.05 && (
        <>
          ; <b className="text-brick">{cost.toFixed(1)} dB</b> off the loudest
        </>
      )}
      .
    </p>
  );
}

/** A member by itself: its level and its phase. */
export function Alone({ view, hz }: { view: DriveView["leads"]; hz: number[] }) {
  const most = Math.max(...view.own_db.map(Math.abs).filter((v) => v < 60), 3);
  const range = Math.ceil(most / 3) * 3;
  const shared = {
    x: hz,
    width: 270,
    height: 74,
    log: true,
    across: [10, 1000] as [number, number],
    ticks: [20, 50, 100, 200, 500],
  };
  return (
    <div>
      <Plot {...shared} title="Alone" unit="dB" range={[-range, range]} curves={[{ values: view.own_db }]} />
      <Plot
        {...shared}
        title="Phase"
        unit="°"
        range={[-180, 180]}
        showTicks
        xUnit="Hz"
        curves={[{ values: view.own_phase_deg, colour: "var(--verdigris)" }]}
      />
    </div>
  );
}

/** A filter more at a stage; in the amplifier what it has. */
function Add({ stage }: { stage: Stage }) {
  const workbench = useWorkbench();
  const filters = usePartOfDocument(filtersOf);
  const amplifier = usePartOfDocument((d) => d.chain?.amplifier);
  const [open, setOpen] = useState(false);
  const has = (kind: string) => {
    if (stage !== "amplifier" || !amplifier) return stage !== "amplifier";
    if (kind === "band") return !!amplifier.equaliser;
    if (kind === "high_pass") return !!amplifier.low_cut;
    if (kind === "low_pass") return !!amplifier.low_pass;
    if (kind === "delay") return typeof amplifier.longest_delay_ms === "number";
    if (kind === "polarity") return amplifier.polarity === true;
    return kind === "gain";
  };
  const list = kinds().filter((k) => has(k.kind));
  if (stage === "amplifier" && !amplifier) return null;
  return (
    <div className="pt-0.5">
      <button
        type="button"
        aria-expanded={open}
        aria-label={`Add a filter: ${stage}`}
        className="text-xs text-oak underline decoration-dotted"
        disabled={filters.length >= MOST}
        onClick={() => setOpen(!open)}
      >
        {filters.length >= MOST ? `${MOST} filters: no more` : "add a filter"}
      </button>
      {open && (
        <span className="flex flex-wrap gap-1 pt-1">
          {list.map((k) => (
            <button
              key={k.kind}
              type="button"
              title={k.help}
              className="rounded-sm border border-rule px-1.5 py-0.5 text-xs hover:border-oak"
              onClick={() => {
                workbench.change(withFilter(filters, { stage, filter: k.fresh() }));
                choose(filters.length);
                setOpen(false);
              }}
            >
              {k.title}
            </button>
          ))}
          {!list.length && <span className="text-xs text-soft">It has none that can be set.</span>}
        </span>
      )}
    </div>
  );
}

function AmplifierSheet() {
  const stated = usePartOfDocument((d) => !!d.chain?.amplifier);
  return (
    <details className="border-t border-rule/60">
      <summary className="cursor-pointer list-none py-0.5 text-xs text-oak underline decoration-dotted">
        {stated ? "its sheet" : "state an amplifier"}
      </summary>
      <SchemaForm pointer="/chain" only={["amplifier"]} open={["What it can do to the signal"]} />
      {stated && (
        <p className="mt-1 border-l-2 border-ochre pl-2 text-xs text-soft">
          Amplifiers carry mains voltage: keep the case closed and unplug it before you touch a wire. Fixed
          wiring belongs to a licensed electrician; local electrical codes come first.
        </p>
      )}
    </details>
  );
}

function Leads({ drive }: { drive: DriveView | undefined }) {
  const workbench = useWorkbench();
  const cable = usePartOfDocument((d) => d.chain?.cable);
  const off = usePartOfDocument((d) => d.chain?.cable_off === true);
  const size = useSize();
  const lost = drive?.leads.own_db;
  const most = lost && -Math.min(...lost);
  const note =
    cable?.kind === "wire"
      ? `${size(cable.length_m, "m", 3)} of ${tidy(cable.area_mm2, 3)} mm²`
      : cable
        ? `${tidy(cable.lead_resistance_ohm, 3)} ohm`
        : "of no resistance";
  return (
    <Block title="Leads" note={note} help="The pair from amplifier to woofers, both ways.">
      <details>
        <summary className="cursor-pointer list-none text-xs text-oak underline decoration-dotted">
          {most !== undefined && most > 0.005 ? `cost up to ${most.toFixed(2)} dB` : "state them"}
        </summary>
        <SchemaForm pointer="/chain" only={["cable"]} />
        <label className="flex items-center gap-1.5 text-xs text-soft">
          <input
            type="checkbox"
            className="accent-oak"
            checked={!off}
            onChange={(e) => workbench.set("/chain/cable_off", e.target.checked ? undefined : true)}
          />
          counted
        </label>
      </details>
    </Block>
  );
}

function Parts({ drive }: { drive: DriveView | undefined }) {
  const parts = usePartOfDocument((d) => d.chain?.parts) ?? [];
  const on = parts.filter((p) => !p.off).length;
  const names = drive?.parts.filter((p) => !p.member.off).map((p) => p.member.title.toLowerCase());
  return (
    <Block
      title="Parts at the terminals"
      note={parts.length ? `${on} of ${parts.length} on` : "none"}
      help="Coils, capacitors and resistors between the leads and the woofers; drawn under Parts."
    >
      {names && names.length > 0 && <p className="truncate text-xs text-soft">{names.join(", ")}</p>}
    </Block>
  );
}

function Woofers() {
  const name = usePartOfDocument((d) => d.woofer.name);
  const count = usePartOfDocument((d) => d.array?.count ?? 1);
  return <Block title="Woofers" note={`${count > 1 ? `${count} x ` : ""}${name || "own figures"}`} />;
}
