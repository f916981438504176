// The lanes: what each shows, how it is scaled and what it must stay out of.

import type { Evaluation } from "../api/client";

export type Limit = { value: number; label: string };

export type LaneSpec = {
  id: string;
  title: string;
  unit: string;
  help: string;
  /** Share of the height. */
  weight: number;
  /** Folded until opened. */
  folded?: boolean;
  values: (e: Evaluation) => (number | null)[];
  /** A second, dashed curve of the revision being edited. */
  second?: { name: string; values: (e: Evaluation) => (number | null)[] };
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

export const LANES: LaneSpec[] = [
  {
    id: "level",
    title: "Level",
    unit: "dB",
    help: "Sound pressure at the distance and in the solid angle chosen above. The hatched ground is out of reach: there the woofer, the port or the amplifier is at its limit.",
    weight: 2.1,
    values: (e) => e.curves.level_db,
    scale: (highest) => {
      const top = Math.ceil((highest + 1) / 5) * 5;
      return [top - 40, top];
    },
    digits: 1,
  },
  {
    id: "stroke",
    title: "Cone stroke",
    unit: "mm",
    help: "How far the cone moves from rest, one way, at this drive.",
    weight: 1,
    values: (e) => e.curves.cone_stroke_mm,
    limit: (_, xmax) => (xmax === undefined ? undefined : { value: xmax, label: `stroke limit ${xmax}` }),
    scale: fromZero(1.9),
    digits: 2,
  },
  {
    id: "radiator",
    title: "Radiator stroke",
    unit: "mm",
    help: "How far the passive radiators move from rest, one way, at this drive.",
    weight: 1,
    values: (e) => e.curves.radiator_stroke_mm,
    limit: (e) => {
      const value = e.summary.radiator_limit_mm;
      return value ? { value, label: `radiator limit ${value}` } : undefined;
    },
    scale: fromZero(1.9),
    digits: 2,
  },
  {
    id: "air",
    title: "Air speed",
    unit: "m/s",
    help: "Peak speed of the air at this drive, in the fastest of ports, mouth and throat.",
    weight: 1,
    values: (e) => e.curves.air_speed_m_per_s,
    limit: (e) => {
      const port = e.ports[0];
      if (!port) return undefined;
      const value = port.quiet_speed_m_per_s;
      return { value, label: `quiet limit ${value} (${value > 20 ? "flared" : "straight"} ends)` };
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
    id: "near",
    title: "Near field",
    unit: "dB",
    help: "What a microphone right at the cone (solid) and in the port's mouth (dashed) would show.",
    weight: 1.2,
    folded: true,
    values: (e) =>
      e.curves.near_field_cone_db.length ? e.curves.near_field_cone_db : e.curves.near_field_port_db,
    second: { name: "port", values: (e) => e.curves.near_field_port_db },
    scale: (highest) => {
      const top = Math.ceil((highest + 1) / 5) * 5;
      return [top - 50, top];
    },
    digits: 1,
  },
  {
    id: "efficiency",
    title: "Efficiency",
    unit: "%",
    help: "Sound power over the power taken at the terminals.",
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
    help: "Peak force of cones and passive radiators on the cabinet along the woofer's axis, at this drive.",
    weight: 1,
    folded: true,
    values: (e) => e.curves.shaking_force_n,
    scale: (highest) => [0, Math.max(highest * 1.08, 0.1)],
    digits: 1,
  },
];

/** What rules the highest level, in words. */
export const RULED_BY: Record<string, string> = {
  none: "no limit stated",
  thermal: "coil heat",
  stroke: "cone stroke",
  port_air: "port air",
  radiator_stroke: "radiator stroke",
  amplifier_voltage: "amplifier voltage",
  amplifier_current: "amplifier current",
};
