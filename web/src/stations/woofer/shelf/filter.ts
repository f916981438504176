// What the shelf is narrowed to and how it is shown: one choice for the shelf and for trying it, kept in this browser.

import { useSyncExternalStore } from "react";
import type { ShelfRow } from "../../../api/client";
import { COLUMNS, NO_FILTER, type Filter, type Order } from "../../../lib/shelf";

export type ShelfChoice = { filter: Filter; order: Order; columns: (keyof ShelfRow)[]; ranges: boolean };

const KEY = "oak-drum.shelf";
const FRESH: ShelfChoice = {
  filter: NO_FILTER,
  order: { by: "size_in", down: false },
  columns: COLUMNS.filter((c) => c.usual).map((c) => c.id),
  ranges: false,
};

function stored(): ShelfChoice {
  try {
    return { ...FRESH, ...(JSON.parse(localStorage.getItem(KEY) ?? "{}") as Partial<ShelfChoice>) };
  } catch {
    return FRESH;
  }
}

let choice = stored();
const listeners = new Set<() => void>();

export function choose(change: Partial<ShelfChoice>) {
  choice = { ...choice, ...change };
  localStorage.setItem(KEY, JSON.stringify(choice));
  listeners.forEach((listener) => listener());
}

export const narrow = (change: Partial<Filter>) => choose({ filter: { ...choice.filter, ...change } });

export function useChoice(): ShelfChoice {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => choice,
  );
}

/** Whether anything narrows the shelf. */
export function narrowed({ text, favourites, tag, ranges }: Filter): boolean {
  const open = Object.values(ranges).some((r) => r?.some((x) => x !== undefined && x !== null));
  return text.trim() !== "" || favourites || tag !== "" || open;
}
