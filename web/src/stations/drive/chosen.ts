// Which filter of the chain is taken hold of: the sketch and the pegs on the lane say the same.

import { useSyncExternalStore } from "react";

let chosen: number | null = null;
const listeners = new Set<() => void>();

/** Takes hold of a filter by its place, or lets go. */
export function choose(index: number | null) {
  if (index === chosen) return;
  chosen = index;
  listeners.forEach((listener) => listener());
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

export const useChosen = () => useSyncExternalStore(subscribe, () => chosen);
