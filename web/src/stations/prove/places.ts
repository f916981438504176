import type { Taken } from "../../api/client";

/** Where something is measured, in the order in which one does. */
export const PLACES: { kind: Taken["kind"]; words: string }[] = [
  { kind: "in_box", words: "at the box's terminals" },
  { kind: "near_cone", words: "close to the cone" },
  { kind: "near_port", words: "in the port's mouth" },
  { kind: "near_radiator", words: "close to a passive radiator" },
  { kind: "in_front", words: "in front of the box" },
  { kind: "at_seat", words: "at the seat" },
  { kind: "free_air", words: "woofer in free air" },
  { kind: "added_mass", words: "woofer with a mass on it" },
  { kind: "known_box", words: "woofer on a known box" },
];

/** A place with the figure that belongs to it at its usual value. */
export function placeOf(kind: string): Taken {
  if (kind === "in_front") return { kind, distance_m: 1 };
  if (kind === "added_mass") return { kind, mass_g: 40 };
  if (kind === "known_box") return { kind, volume_l: 40 };
  return { kind } as Taken;
}

/** A place in words. */
export const placeWords = (taken: Taken | undefined) =>
  PLACES.find((p) => p.kind === (taken?.kind ?? "in_box"))?.words ?? "";

/** Whether an impedance is measured there. */
export const isImpedance = (taken: Taken | undefined) =>
  ["in_box", "free_air", "added_mass", "known_box"].includes(taken?.kind ?? "in_box");

/** The figure that belongs to a place, where one does. */
export function amountOf(taken: Taken) {
  if (taken.kind === "in_front")
    return { label: "Distance", unit: "m", value: taken.distance_m, min: 0.1, max: 100, at: "distance_m" };
  if (taken.kind === "added_mass")
    return { label: "Mass", unit: "g", value: taken.mass_g, min: 0.1, max: 2000, at: "mass_g" };
  if (taken.kind === "known_box")
    return { label: "Its air", unit: "L", value: taken.volume_l, min: 0.2, max: 5000, at: "volume_l" };
  return undefined;
}
