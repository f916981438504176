// Where things stand on the plan and the side view of a room: snapping to walls, how far they are from them.

import type { Design, RoomView } from "../../api/client";

export type InRoom = NonNullable<Design["room"]>;
export type Space = InRoom["room"]["space"];
export type Kind = "cabinet" | "seat";
export type Which = { kind: Kind; index: number };

/** Length, width and height of what a plan is drawn of, m; nothing of a cabin, where no place is known. */
export function sidesOf(space: Space): [number, number, number] | undefined {
  if (space.kind === "cabin") return undefined;
  const { length_m, width_m } = space;
  return [length_m, width_m, space.kind === "room" ? space.height_m : 3];
}

/** To the centimetre. */
export const centimetre = (metres: number) => Math.round(metres * 100) / 100;

/** How near a thing is drawn to a wall before it jumps to it, m. */
const REACH = 0.12;
/** And to the middle between two of them. */
const MIDDLE = 0.05;

/** A middle between two walls that are `side` apart: at a wall, in the middle, or where the hand is; of a thing that long. */
export function snapped(at: number, long: number, side: number): number {
  const half = long / 2;
  const low = half;
  const high = side - half;
  // flush is flush: rounded to the centimetre it would stand in the wall
  const exact = (metres: number) => Number(metres.toFixed(4));
  if (high <= low) return exact(side / 2);
  const held = Math.min(Math.max(at, low), high);
  if (held - low < REACH) return exact(low);
  if (high - held < REACH) return exact(high);
  if (Math.abs(held - side / 2) < MIDDLE) return exact(side / 2);
  return centimetre(held);
}

/** A stretch to the nearer wall: from where to where, and how long it is, m. */
export type Stretch = { from: number; to: number; metres: number };

/** From a thing's nearer edge to the nearer of two walls that are `side` apart. */
export function toWall(at: number, long: number, side: number): Stretch {
  const [low, high] = [at - long / 2, at + long / 2];
  return low <= side - high
    ? { from: 0, to: low, metres: low }
    : { from: high, to: side, metres: side - high };
}

/** The floor a cabinet takes, m: as the answer has it, or as long as there is none a square of half a metre. */
export const footprintOf = (view: RoomView | undefined, index: number): [number, number] =>
  (view?.cabinets[index]?.footprint_m as [number, number] | undefined) ?? [0.5, 0.5];

export const heightOf = (view: RoomView | undefined, index: number): number =>
  view?.cabinets[index]?.outside_m[1] ?? 0.5;

/** Whether something stands where it cannot. */
export const stuck = (view: RoomView | undefined, { kind, index }: Which): boolean =>
  !!view?.clashes.some(
    (c) =>
      c.seat === (kind === "seat") &&
      (c.index === index || (!c.seat && c.against === "cabinet" && c.other === index)),
  );

/** Where a front looks, as a step along the length and across the width. */
export const LOOKS: Record<string, [number, number]> = {
  right: [1, 0],
  left: [-1, 0],
  upper: [0, 1],
  lower: [0, -1],
};

/** A cabinet or a seat beside the last of its kind, half a metre on, within the room. */
export function beside<T extends { x_m: number; y_m: number }>(last: T, sides: number[] | undefined): T {
  const [, width = 1e9] = sides ?? [];
  const y = last.y_m + 0.6 < width - 0.3 ? last.y_m + 0.6 : Math.max(last.y_m - 0.6, 0.3);
  return { ...last, y_m: centimetre(y) };
}

/** What a build has that stands nowhere yet: a corner for the cabinet, one seat. */
export function standing(room: InRoom["room"]): InRoom {
  const sides = sidesOf(room.space) ?? [3, 2, 2];
  const [length, width] = sides;
  return {
    room,
    cabinets: [{ x_m: centimetre(Math.min(0.4, length / 4)), y_m: centimetre(Math.min(0.5, width / 4)) }],
    seats: [{ name: "Main seat", x_m: centimetre(length * 0.62), y_m: centimetre(width / 2), ears_m: 1.2 }],
  };
}
