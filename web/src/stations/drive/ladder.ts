// The parts at the terminals as a drawing lays them out, and their values: plain functions, tested beside.

import type { DriveView } from "../../api/client";
import type { Change } from "../../lib/pointer";
import { definition, resolve, start } from "../../lib/schema";
import type { Chain } from "./chain";

export type ChainPart = NonNullable<Chain["parts"]>[number];
export type Part = ChainPart["part"];
export type Sort = "coil" | "capacitor" | "resistor";

/** What each kind is made of, and whether side by side. */
const MADE: Record<Part["kind"], { sorts: Sort[]; side?: boolean }> = {
  coil: { sorts: ["coil"] },
  capacitor: { sorts: ["capacitor"] },
  resistor: { sorts: ["resistor"] },
  zobel: { sorts: ["resistor", "capacitor"] },
  series_notch: { sorts: ["coil", "capacitor", "resistor"] },
  trap: { sorts: ["coil", "capacitor", "resistor"], side: true },
};

const UNITS: Record<string, string> = { inductance_mh: "mH", capacitance_uf: "µF", resistance_ohm: "Ω" };

/** The values written on a part: inductance, capacitance, resistance. */
export function valuesOf(part: Part): { field: string; value: number; unit: string }[] {
  const fields = part as unknown as Record<string, number | undefined>;
  return Object.entries(UNITS).flatMap(([field, unit]) => {
    const value = fields[field];
    return typeof value === "number" && value > 0 ? [{ field, value, unit }] : [];
  });
}

/** The kinds of parts, as the published schema has them. */
export function partKinds(): { kind: Part["kind"]; title: string; help: string; fresh: () => Part }[] {
  return (definition("TerminalPart").oneOf ?? []).map((v) => ({
    kind: String(v.properties?.kind?.const) as Part["kind"],
    title: v.title ?? String(v.properties?.kind?.const),
    help: v.description ?? "",
    fresh: () => start(resolve(v)) as Part,
  }));
}

export type Placed = {
  part: ChainPart;
  index: number;
  title: string;
  x: number;
  width: number;
  sorts: Sort[];
  side: boolean;
};

const BEGIN = 74;
const GAP = 34;

/** Where parts stand from left to right, the places between them, and how wide all of it is. */
export function layout(parts: ChainPart[]): { placed: Placed[]; gaps: number[]; width: number } {
  let x = BEGIN;
  const gaps = [x];
  const titles = new Map(partKinds().map((k) => [k.kind, k.title]));
  const placed = parts.map((part, index): Placed => {
    const made = MADE[part.part.kind];
    const wide = part.placement === "across" ? 72 : made.side ? 84 : 52 * made.sorts.length + 8;
    const at = x + GAP / 2;
    x = at + wide + GAP / 2;
    gaps.push(x);
    return {
      part,
      index,
      title: titles.get(part.part.kind) ?? part.part.kind,
      x: at,
      width: wide,
      sorts:
        part.part.kind === "series_notch" && !(part.part.resistance_ohm ?? 0)
          ? ["coil", "capacitor"]
          : made.sorts,
      side: made.side === true,
    };
  });
  return { placed, gaps, width: Math.max(x + 110, 460) };
}

/** A part stepped to the preferred value next above or below its first value, as the server tells it. */
export function stepped(
  parts: ChainPart[],
  index: number,
  by: 1 | -1,
  components: DriveView["parts"][number]["components"] | undefined,
): Change[] {
  const first = parts[index] && valuesOf(parts[index].part)[0];
  const step = components?.find((c) => c.field === first?.field);
  return first && step
    ? [{ pointer: `/chain/parts/${index}/part/${first.field}`, value: by > 0 ? step.higher : step.lower }]
    : [];
}

export const inserted = (parts: ChainPart[], at: number, part: ChainPart): Change[] => [
  { pointer: "/chain/parts", value: [...parts.slice(0, at), part, ...parts.slice(at)] },
];
export const dropped = (parts: ChainPart[], at: number): Change[] => [
  { pointer: "/chain/parts", value: parts.filter((_, i) => i !== at) },
];
export function shifted(parts: ChainPart[], at: number, by: 1 | -1): Change[] {
  const next = [...parts];
  const [a, b] = [next[at], next[at + by]];
  if (a && b) [next[at], next[at + by]] = [b, a];
  return [{ pointer: "/chain/parts", value: next }];
}
