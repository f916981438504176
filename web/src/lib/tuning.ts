// What can be pulled at on the frequency axis. What moves with a handle, and how, the core says; here it is only put in.

import type { Design, Evaluation } from "../api/client";
import { at, type Change } from "./pointer";

type Handle = Evaluation["handles"][number];

export type Flag = {
  id: string;
  label: string;
  hz: number;
  /** Between which frequencies it is pulled, Hz. */
  range: [number, number];
  /** The changes that move it to another frequency. */
  to: (hz: number) => Change[];
};

/** The changes that take a handle to a frequency. */
export function changesTo(handle: Handle, hz: number): Change[] {
  const ratio = Math.min(Math.max(hz, handle.lowest_hz), handle.highest_hz) / handle.hz;
  const follows = handle.follows.map((f) => {
    const value = Math.max(f.least, f.plus + f.times * ratio ** f.power);
    return { pointer: f.pointer, value: Number(value.toFixed(f.decimals)) };
  });
  return [...handle.first, ...follows] as Change[];
}

/** Where a handle stands in a document that has moved on since it was computed. */
function standing(handle: Handle, document: Design): number {
  const first = handle.follows[0];
  const value = first && at(document, first.pointer);
  if (first?.power !== 1 || typeof value !== "number" || !first.times) return handle.hz;
  return (handle.hz * (value - first.plus)) / first.times;
}

/** The flags of a design as it was computed. */
export const flagsOf = (document: Design, evaluation: Evaluation | undefined): Flag[] =>
  (evaluation?.handles ?? []).map((handle) => ({
    id: handle.id,
    label: handle.label,
    hz: standing(handle, document),
    range: [handle.lowest_hz, handle.highest_hz],
    to: (hz) => changesTo(handle, hz),
  }));
