// The lanes: what each shows, how it is scaled and what it must stay out of.

import type { Evaluation } from "../api/client";
import { levels } from "../lib/axis";
import { inSystem, tidy, type System } from "../lib/quantity";

/** A limit with what stands before and behind its value. */
export type Limit = { value: number; words: string; more?: string };

export type LaneSpec = {
  id: string;
  title: string;
  unit: string;
  help: string;
  /** Share of the height. */
  weight: number;
  /** The station it belongs to; every station's where it says none. */
  station?: string;
  /** Folded until opened. */
  folded?: boolean;
  values: (e: Evaluation) => (number | null)[];
  /** What the solid curve is called where there are further ones. */
  named?: (e: Evaluation) => string | undefined;
  /** Further, dashed curves of the revision being edited. */
  others?: (e: Evaluation) => { name: string; values: (number | null)[] }[];
  limit?: (e: Evaluation, xmax: number | undefined) => Limit | undefined;
  scale: (highest: number, limit: Limit | undefined) => [number, number];
  digits: number;
};

const fromZero =
  (cap: number) =>
  (highest: number, limit: Limit | undefined): [number, number] => {
    const top = limit
      ? Math.max(limit.value * 1.25, Math.min(highest * 1.05, limit.value * cap))
      : highest * 1.08;
    return [0, Math.max(top, 1e-6)];
  };

/** Near fields, the cone's first, then one for each opening outside. */
function nearFields(e: Evaluation): { name: string; values: (number | null)[] }[] {
  const outside = (e.curves.openings ?? []).filter((o) => o.outside);
  const openings = outside.map((o) => ({ name: o.name, values: o.near_field_db }));
  return e.curves.near_field_cone_db.length
    ? [{ name: "cone", values: e.curves.near_field_cone_db }, ...openings]
    : openings;
}

const METRIC: LaneSpec[] = [
  {
    id: "level",
    title: "Level",
    unit: "dB",
    help: "Sound pressure at the distance and in the solid angle chosen above. The hatched ground is out of reach: there the woofer, the port or the amplifier is at its limit.",
    weight: 2.1,
    values: (e) => e.curves.level_db,
    named: (e) => (e.curves.unfiltered_level_db.length ? "filtered" : undefined),
    others: (e) =>
      e.curves.unfiltered_level_db.length
        ? [{ name: "without the filters", values: e.curves.unfiltered_level_db }]
        : [],
    scale: (highest) => levels(highest, 40),
    digits: 1,
  },
  {
    id: "stroke",
    title: "Cone stroke",
    unit: "travel",
    help: "How far the cone moves from rest, one way, at this drive.",
    weight: 1,
    values: (e) => e.curves.cone_excursion_mm,
    limit: (_, xmax) => (xmax === undefined ? undefined : { value: xmax, words: "stroke limit" }),
    scale: fromZero(1.9),
    digits: 2,
  },
  {
    id: "radiator",
    title: "Radiator stroke",
    unit: "travel",
    help: "How far the passive radiators move from rest, one way, at this drive.",
    weight: 1,
    values: (e) => e.curves.radiator_excursion_mm,
    limit: (e) => {
      const value = e.summary.radiator_limit_mm;
      return value ? { value, words: "radiator limit" } : undefined;
    },
    scale: fromZero(1.9),
    digits: 2,
  },
  {
    id: "air",
    title: "Air speed",
    unit: "m/s",
    help: "Peak speed of the air at this drive, in the fastest of ports, mouth and throat; each of several by itself is dashed.",
    weight: 1,
    values: (e) => e.curves.air_speed_m_per_s,
    named: () => "fastest",
    others: (e) => {
      const airy = (e.curves.openings ?? []).filter((o) => o.air_speed_m_per_s.length);
      return airy.length > 1 ? airy.map((o) => ({ name: o.name, values: o.air_speed_m_per_s })) : [];
    },
    limit: (e) => {
      const limits = (e.curves.openings ?? []).flatMap((o) => o.limit_m_per_s ?? []);
      if (!limits.length) return undefined;
      const value = Math.min(...limits);
      const port = e.ports[0];
      if (port && port.air_limit_m_per_s !== port.quiet_speed_m_per_s)
        return { value, words: "the brief allows" };
      return { value, words: "quiet limit", more: ` (${value > 20 ? "flared" : "straight"} ends)` };
    },
    scale: fromZero(1.9),
    digits: 1,
  },
  {
    id: "delay",
    title: "Group delay",
    unit: "ms",
    help: "How much later a note's build-up arrives than it would without the box.",
    weight: 0.9,
    values: (e) => e.curves.group_delay_ms,
    scale: (highest) => [0, Math.min(Math.max(highest * 1.08, 10), 80)],
    digits: 1,
  },
  {
    id: "impedance",
    title: "Impedance",
    unit: "ohm",
    help: "What the amplifier sees at the terminals, all woofers in their wiring.",
    weight: 1,
    values: (e) => e.curves.impedance_ohm,
    scale: (highest) => [0, highest * 1.08],
    digits: 1,
  },
  {
    id: "filter",
    title: "Filters",
    unit: "dB",
    help: "What all filters before the amplifier and in it do together.",
    weight: 0.8,
    station: "drive",
    values: (e) => e.curves.filter_db,
    scale: (highest) => [Math.max(highest, 3) - 30, Math.max(highest + 2, 3)],
    digits: 1,
  },
  {
    id: "emf",
    title: "Amplifier voltage",
    unit: "V",
    help: "What the amplifier gives behind its own resistance, rms of a sine; dashed what arrives at the woofers' terminals.",
    weight: 0.8,
    station: "drive",
    folded: true,
    values: (e) => e.curves.emf_v,
    named: () => "amplifier",
    others: (e) => [{ name: "at the woofers", values: e.curves.terminal_v }],
    scale: (highest) => [0, highest * 1.08],
    digits: 1,
  },
  {
    id: "current",
    title: "Current",
    unit: "A",
    help: "What the amplifier gives, rms of a sine.",
    weight: 0.7,
    station: "drive",
    folded: true,
    values: (e) => e.curves.amplifier_a,
    scale: (highest) => [0, highest * 1.08],
    digits: 2,
  },
  {
    id: "power",
    title: "Power",
    unit: "W",
    help: "Real power out of the amplifier with a sine; dashed the apparent power it has to carry, and what becomes heat in the voice coils.",
    weight: 0.9,
    station: "drive",
    values: (e) => e.curves.real_power_w,
    named: () => "real",
    others: (e) => [
      { name: "apparent", values: e.curves.apparent_power_va },
      { name: "heat in the coils", values: e.curves.coil_heat_w },
    ],
    scale: (highest) => [0, highest * 1.08],
    digits: 1,
  },
  {
    id: "load",
    title: "Load with its parts",
    unit: "ohm",
    help: "What the amplifier sees behind its leads, parts included.",
    weight: 0.8,
    station: "drive",
    values: (e) => e.curves.load_ohm,
    scale: (highest) => [0, highest * 1.08],
    digits: 1,
  },
  {
    id: "near",
    title: "Near field",
    unit: "dB",
    help: "What a microphone right at the cone (solid) and in the middle of each opening outside (dashed) would show; without a cone outside the first opening is solid.",
    weight: 1.2,
    folded: true,
    values: (e) => nearFields(e)[0]?.values ?? [],
    named: (e) => nearFields(e)[0]?.name,
    others: (e) => nearFields(e).slice(1),
    scale: (highest) => levels(highest, 50),
    digits: 1,
  },
  {
    id: "efficiency",
    title: "Efficiency",
    unit: "%",
    help: "Sound power over the power taken. Not told where a mouth stands in another part of space than the listener.",
    weight: 1,
    folded: true,
    values: (e) => e.curves.efficiency_percent,
    scale: (highest) => [0, Math.max(highest * 1.08, 0.5)],
    digits: 2,
  },
  {
    id: "shake",
    title: "Shaking force",
    unit: "N",
    help: "Peak force of cones and passive radiators on the cabinet at this drive, by the faces they sit on: opposed ones cancel.",
    weight: 1,
    folded: true,
    values: (e) => e.curves.shaking_force_n,
    scale: (highest) => [0, Math.max(highest * 1.08, 0.1)],
    digits: 1,
  },
  {
    id: "turn",
    title: "Shaking moment",
    unit: "N·m",
    help: "What they turn the cabinet about its middle with, peak, at this drive: opposed woofers off one line turn it though they do not push it.",
    weight: 1,
    folded: true,
    values: (e) => e.curves.shaking_moment_nm,
    scale: (highest) => [0, Math.max(highest * 1.08, 0.1)],
    digits: 2,
  },
];

/** A lane as a system of units tells it. */
function told(spec: LaneSpec, system: System): LaneSpec {
  const { times, unit } = inSystem(spec.unit, system);
  if (times === 1) return { ...spec, unit };
  const each = (values: (number | null)[]) => values.map((v) => (v === null ? null : v * times));
  return {
    ...spec,
    unit,
    values: (e) => each(spec.values(e)),
    limit: (e, xmax) => {
      const limit = spec.limit?.(e, xmax);
      return limit && { ...limit, value: limit.value * times };
    },
    digits: spec.digits + 1,
  };
}

/** The lanes as each system tells them. */
export const LANES: Record<System, LaneSpec[]> = {
  metric: METRIC.map((spec) => told(spec, "metric")),
  inch: METRIC.map((spec) => told(spec, "inch")),
};

/** A limit in words. */
export const limitWords = ({ value, words, more = "" }: Limit) => `${words} ${tidy(value, 3)}${more}`;

/** What rules the highest level, in words. */
export const RULED_BY: Record<string, string> = {
  none: "no limit stated",
  thermal: "coil heat",
  excursion: "cone stroke",
  port_air: "port air",
  radiator_excursion: "radiator stroke",
  amplifier_voltage: "amplifier voltage",
  amplifier_current: "amplifier current",
};
