// Where a filter is taken hold of on the level lane, and what pulling does to it: plain functions, tested beside.

import type { DriveView } from "../../api/client";
import type { Scale } from "../../lanes/Lane";
import type { Change } from "../../lib/pointer";
import type { ChainFilter, Filter } from "./chain";

export const LOW = 10;
export const HIGH = 1000;

export const xOf = (hz: number, s: Scale) => s.left + (Math.log(hz / LOW) / Math.log(HIGH / LOW)) * s.width;
export const hzAt = (x: number, s: Scale) => LOW * (HIGH / LOW) ** ((x - s.left) / s.width);
export const yOf = (db: number, s: Scale) => s.top + ((s.high - db) / (s.high - s.low)) * s.height;

type Bounds = { hz: [number, number]; level: [number, number]; q: [number, number] };

/** What a filter's fields may be: the format's own bounds, or what the amplifier it is in lets them be. */
export function boundsOf(ranges: DriveView["filters"][number]["ranges"] | undefined): Bounds {
  const of = (field: string, usual: [number, number]): [number, number] => {
    const range = ranges?.find((r) => r.field === field);
    return range ? [range.from, range.to] : usual;
  };
  return { hz: of("/frequency_hz", [1, 20000]), level: of("/level_db", [-24, 24]), q: of("/q", [0.1, 30]) };
}

const held = (value: number, [low, high]: [number, number]) => Math.min(Math.max(value, low), high);
const tenth = (value: number) => Math.round(value * 10) / 10;

/** The frequency a filter is taken hold of at, Hz. */
export function hzOf(filter: Filter): number | undefined {
  if ("frequency_hz" in filter) return filter.frequency_hz;
  return filter.kind === "transform" ? filter.to_hz : undefined;
}

/** The level it can be pulled to, dB. */
export const levelOf = (filter: Filter): number | undefined =>
  filter.kind === "band" || filter.kind === "low_shelf" || filter.kind === "high_shelf"
    ? filter.level_db
    : undefined;

/** Its width, as Q. */
export const qOf = (filter: Filter): number | undefined =>
  filter.kind === "band" || filter.kind === "notch" ? filter.q : undefined;

/** The changes that set frequency, level or Q of a filter, held to its bounds and rounded as a hand would set them. */
export function pulled(
  at: string,
  filter: Filter,
  bounds: Bounds,
  to: { hz?: number; level?: number; q?: number },
): Change[] {
  const changes: Change[] = [];
  const set = (field: string, value: number) => changes.push({ pointer: `${at}/filter/${field}`, value });
  if (to.hz !== undefined) {
    const hz = held(to.hz, bounds.hz);
    set(filter.kind === "transform" ? "to_hz" : "frequency_hz", hz < 100 ? tenth(hz) : Math.round(hz));
  }
  if (to.level !== undefined && levelOf(filter) !== undefined)
    set("level_db", tenth(held(to.level, bounds.level)));
  if (to.q !== undefined && qOf(filter) !== undefined) set("q", Number(held(to.q, bounds.q).toPrecision(3)));
  return changes;
}

/** Half the width of a band in octaves, from its middle to the points of half its level. */
export const halfOctaves = (q: number) => Math.asinh(0.5 / q) / Math.LN2;
/** Q of a band whose points of half its level lie so many octaves from its middle. */
export const qOfHalf = (octaves: number) => 0.5 / Math.sinh(Math.max(octaves, 0.02) * Math.LN2);

/** The level of a curve at a frequency, between its points. */
export function levelAt(hz: number, list: readonly number[], values: readonly number[]): number | undefined {
  const i = list.findIndex((f) => f >= hz);
  if (i <= 0) return i === 0 ? values[0] : values.at(-1);
  const [a, b] = [list[i - 1] ?? hz, list[i] ?? hz];
  const share = b > a ? Math.log(hz / a) / Math.log(b / a) : 0;
  return (values[i - 1] ?? 0) + share * ((values[i] ?? 0) - (values[i - 1] ?? 0));
}

/** The filters that are taken hold of on the lane: those that are on and have a frequency. */
export const pegsOf = (filters: ChainFilter[]) =>
  filters
    .map((filter, index) => ({ filter: filter.filter, index, off: filter.off === true }))
    .filter((p) => !p.off && hzOf(p.filter) !== undefined);
