// What the chain of a document holds, and how its members are changed: plain functions, tested beside.

import type { Design } from "../../api/client";
import type { Change } from "../../lib/pointer";
import { start, definition, resolve, type Schema } from "../../lib/schema";

export type Chain = NonNullable<Design["chain"]>;
export type ChainFilter = NonNullable<Chain["filters"]>[number];
export type Stage = NonNullable<ChainFilter["stage"]>;
export type Filter = ChainFilter["filter"];

export const STAGES: { stage: Stage; title: string; help: string }[] = [
  { stage: "player", title: "What plays", help: "A receiver's low pass is there whether asked for or not." },
  {
    stage: "line",
    title: "Line level",
    help: "Between what plays and the amplifier: an equaliser, a box of filters.",
  },
  { stage: "amplifier", title: "Amplifier", help: "Only what this amplifier has." },
];

const NONE: ChainFilter[] = [];
/** The filters of a document: the same list each time where there is none. */
export const filtersOf = (document: Design): ChainFilter[] => document.chain?.filters ?? NONE;

/** The filters of a stage with their places in the document. */
export const inStage = (filters: ChainFilter[], stage: Stage) =>
  filters.map((filter, index) => ({ filter, index })).filter((f) => (f.filter.stage ?? "line") === stage);

const changed = (filters: ChainFilter[]): Change[] => [{ pointer: "/chain/filters", value: filters }];

export const withFilter = (filters: ChainFilter[], filter: ChainFilter): Change[] =>
  changed([...filters, filter]);

export const without = (filters: ChainFilter[], index: number): Change[] =>
  changed(filters.filter((_, i) => i !== index));

export const copied = (filters: ChainFilter[], index: number): Change[] => {
  const one = filters[index];
  return changed(one ? [...filters.slice(0, index + 1), { ...one }, ...filters.slice(index + 1)] : filters);
};

/** A filter moved before or behind the next one of its stage; at the end of a stage it goes to the next stage. */
export function moved(filters: ChainFilter[], index: number, by: 1 | -1): Change[] {
  const one = filters[index];
  if (!one) return changed(filters);
  const stage = one.stage ?? "line";
  const mates = inStage(filters, stage).map((f) => f.index);
  const other = mates[mates.indexOf(index) + by];
  const next = [...filters];
  if (other !== undefined) {
    const mate = next[other];
    if (mate) [next[index], next[other]] = [mate, one];
  } else {
    const at = STAGES.findIndex((s) => s.stage === stage) + by;
    const there = STAGES[at]?.stage;
    if (there) next[index] = { ...one, stage: there };
  }
  return changed(next);
}

/** The kinds of filters, as the published schema has them. */
export function kinds(): { kind: Filter["kind"]; title: string; help: string; fresh: () => Filter }[] {
  const schema = definition("Filter");
  return (schema.oneOf ?? []).map((v: Schema) => ({
    kind: String(v.properties?.kind?.const) as Filter["kind"],
    title: v.title ?? String(v.properties?.kind?.const),
    help: v.description ?? "",
    fresh: () => start(resolve(v)) as Filter,
  }));
}

/** An amplifier in a few words: its name and its rating. */
export const rated = (a: NonNullable<Chain["amplifier"]>): string =>
  `${a.name ? `${a.name}, ` : ""}${Number(a.power_w.toPrecision(3))} W into ${Number(a.load_ohm.toPrecision(2))} ohm`;

/** What a filter is, in a few figures. */
export function told(filter: Filter): string {
  const hz = (f: number) => `${Number(f.toPrecision(3))} Hz`;
  const db = (g: number) => `${g > 0 ? "+" : ""}${Number(g.toFixed(1))} dB`;
  switch (filter.kind) {
    case "high_pass":
    case "low_pass":
      return `${hz(filter.frequency_hz)}, ${"order" in filter.slope ? `${6 * filter.slope.order} dB/oct` : `Q ${filter.slope.q}`}`;
    case "band":
    case "low_shelf":
    case "high_shelf":
      return `${hz(filter.frequency_hz)}, ${db(filter.level_db)}`;
    case "all_pass":
    case "notch":
      return hz(filter.frequency_hz);
    case "transform":
      return `${hz(filter.from_hz)} to ${hz(filter.to_hz)}`;
    case "delay":
      return `${filter.delay_ms} ms`;
    case "polarity":
      return "180°";
    case "gain":
      return db(filter.level_db);
  }
}
