// The figures revisions are compared by: what each is, and which way is better.

import type { Design, Evaluation, Finding } from "../../../api/client";

export type Line = {
  id: string;
  title: string;
  unit: string;
  help: string;
  /** 1: more is better; -1: less is; 0: neither. */
  way: 1 | -1 | 0;
  of: (e: Evaluation, d: Design, found: Finding[] | undefined) => number | string | undefined;
};

export const LINES: Line[] = [
  {
    id: "family",
    title: "box",
    unit: "",
    help: "The family.",
    way: 0,
    of: (_, d) => d.enclosure.family.replaceAll("_", " "),
  },
  {
    id: "air",
    title: "air inside",
    unit: "L",
    help: "All chambers together, or the line.",
    way: -1,
    of: (e) => e.summary.compared.air_l ?? undefined,
  },
  {
    id: "f3",
    title: "f3",
    unit: "Hz",
    help: "Half power below the passband.",
    way: -1,
    of: (e) => e.summary.f3_hz ?? undefined,
  },
  {
    id: "f10",
    title: "f10",
    unit: "Hz",
    help: "10 dB below the passband.",
    way: -1,
    of: (e) => e.summary.f10_hz ?? undefined,
  },
  {
    id: "low",
    title: "level at the lowest note",
    unit: "dB",
    help: "At this drive.",
    way: 1,
    of: (e) => e.summary.compared.level_db,
  },
  {
    id: "highest",
    title: "highest level there",
    unit: "dB",
    help: "What stroke, heat, air and amplifier allow at the lowest note.",
    way: 1,
    of: (e) => e.summary.compared.highest_db ?? undefined,
  },
  {
    id: "swing",
    title: "swing over two octaves",
    unit: "dB",
    help: "Highest less lowest level from the lowest note two octaves up.",
    way: -1,
    of: (e) => e.summary.compared.swing_db,
  },
  {
    id: "stroke",
    title: "largest stroke",
    unit: "travel",
    help: "From the lowest note up, at this drive.",
    way: -1,
    of: (e) => e.summary.compared.excursion_mm,
  },
  {
    id: "air_speed",
    title: "fastest air",
    unit: "m/s",
    help: "In ports, mouth and throat, from the lowest note to twice the tuning, at this drive.",
    way: -1,
    of: (e) => e.summary.fastest_air_m_per_s ?? undefined,
  },
  {
    id: "delay",
    title: "longest delay",
    unit: "ms",
    help: "Group delay from the lowest note up.",
    way: -1,
    of: (e) => e.summary.compared.delay_ms,
  },
  {
    id: "impedance",
    title: "lowest impedance",
    unit: "ohm",
    help: "What the amplifier must carry.",
    way: 0,
    of: (e) => e.summary.compared.impedance_ohm,
  },
  {
    id: "port",
    title: "port length",
    unit: "mm",
    help: "Of the first port.",
    way: -1,
    of: (e) => e.ports[0]?.length_mm,
  },
  {
    id: "broken",
    title: "findings to look at",
    unit: "",
    help: "Broken limits and things to look at.",
    way: -1,
    of: (_, __, found) => found?.filter((f) => f.severity === "broken" || f.severity === "look").length,
  },
];

/** How a value stands against the one being edited: better, worse, or neither within half a per cent. */
export function better(
  line: Line,
  value: number | string | undefined,
  against: number | string | undefined,
  self: boolean,
): "better" | "worse" | undefined {
  if (self || line.way === 0 || typeof value !== "number" || typeof against !== "number") return undefined;
  if (Math.abs(value - against) <= Math.abs(against) * 0.005) return undefined;
  return Math.sign(value - against) === line.way ? "better" : "worse";
}
