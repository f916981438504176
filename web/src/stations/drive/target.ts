// What a level is flattened toward, as it is drawn on the level lane: plain functions, tested beside.

import type { Design } from "../../api/client";
import { flattenSchema } from "../../lib/schema";
import { Draft } from "../../ui/form";
import type { Workbench } from "../../workbench/workbench";
import { HIGH, LOW } from "./pull";

export type Place = { hz: number; db: number };
export type Target =
  | { kind: "flat" }
  | { kind: "sloped"; corner_hz: number; db_per_octave: number }
  | { kind: "drawn"; points: Place[] };
export type Wish = {
  bands: number;
  from_hz: number;
  to_hz: number;
  target: Target;
  stage: "player" | "line" | "amplifier";
};

/** Most places a target has. */
export const MOST_PLACES = 64;

/** What a design asks for first: the bands its amplifier has, over what it plays. */
function first(document: Design | undefined): Wish {
  const own = document?.chain?.amplifier?.equaliser;
  return {
    bands: own?.bands ?? 1,
    from_hz: document?.brief?.lowest_note_hz ?? 25,
    to_hz: document?.brief?.plays_to_hz ?? 120,
    target: { kind: "flat" },
    stage: own ? "amplifier" : "line",
  };
}

const drafts = new WeakMap<Workbench, Draft<Wish>>();

/** The wish of a build, the same for the form and for the line on the lane. */
export function wishOf(workbench: Workbench): Draft<Wish> {
  const known = drafts.get(workbench);
  if (known) return known;
  const draft = new Draft<Wish>(flattenSchema, first(workbench.current?.document), 0);
  drafts.set(workbench, draft);
  return draft;
}

/** Places to begin with where none are drawn yet: level, from end to end of the band. */
export const begun = (wish: Wish): Place[] => [
  { hz: wish.from_hz, db: 0 },
  { hz: wish.to_hz, db: 0 },
];

/** The level the line's zero lies at on the lane: the middle one of the curve in the band. Only the line's shape counts. */
export function baseOf(wish: Wish, hz: readonly number[], level: readonly number[]): number {
  const inside = level.filter(
    (l, i) => Number.isFinite(l) && (hz[i] ?? 0) >= wish.from_hz && (hz[i] ?? 0) <= wish.to_hz,
  );
  const sorted = [...inside].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? 0;
}

const tenth = (value: number) => Math.round(value * 10) / 10;
const heldTo = (value: number, low: number, high: number) => Math.min(Math.max(value, low), high);

/** A place pulled elsewhere: it stays between its neighbours and on the lane. */
export function movedPlace(places: Place[], index: number, to: Partial<Place>): Place[] {
  const here = places[index];
  if (!here) return places;
  const low = (places[index - 1]?.hz ?? LOW / 1.02) * 1.02;
  const high = (places[index + 1]?.hz ?? HIGH * 1.02) / 1.02;
  const hz = tenth(heldTo(to.hz ?? here.hz, low, high));
  const db = tenth(heldTo(to.db ?? here.db, -60, 60));
  return places.map((p, i) => (i === index ? { hz, db } : p));
}

/** A further place on the line; the same list where there is no room for one. */
export function placeAdded(places: Place[], hz: number): { places: Place[]; index: number } {
  const index = places.findIndex((p) => p.hz > hz);
  const at = index < 0 ? places.length : index;
  const near = [places[at - 1], places[at]].some((p) => p && Math.abs(Math.log(p.hz / hz)) < Math.log(1.03));
  if (places.length >= MOST_PLACES || near) return { places, index: -1 };
  const fresh = { hz: tenth(hz), db: tenth(targetAt(places, hz)) };
  return { places: [...places.slice(0, at), fresh, ...places.slice(at)], index: at };
}

/** A place taken out; two stay. */
export const placeDropped = (places: Place[], index: number): Place[] =>
  places.length > 2 ? places.filter((_, i) => i !== index) : places;

/** The line at a frequency: straight between places over the logarithm of frequency, level beyond its ends. */
export function targetAt(places: Place[], hz: number): number {
  const after = places.findIndex((p) => p.hz >= hz);
  const [a, b] = [places[after - 1], places[after]];
  if (!b) return places.at(-1)?.db ?? 0;
  if (!a) return b.db;
  return a.db + ((b.db - a.db) * Math.log(hz / a.hz)) / Math.log(b.hz / a.hz);
}
