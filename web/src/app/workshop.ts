// What belongs to the workshop and to no single build: its currency, its tools, the pieces of board on its rack. One record for every
// page of this browser, saved and joined like a work plan.

import { useEffect, useSyncExternalStore } from "react";
import { api, get, type FieldProblem, type Workshop } from "../api/client";
import { set as put } from "../lib/pointer";
import { workshopSchema } from "../lib/schema";
import type { FormSource } from "../ui/form";
import { Saver, type SaveState } from "../workbench/saver";

export type Owned = NonNullable<Workshop["has"]>[number];
export type RackPiece = NonNullable<Workshop["rack"]>[number];

const text = (value: unknown) => JSON.stringify(value);

/** What two have made of one list: theirs, less what I took off, and what I put to it. */
function joinedLists<T>(base: T[], mine: T[], theirs: T[]): T[] {
  const without = (list: T[], less: T[]) => {
    const left = less.map(text);
    return list.filter((one) => {
      const at = left.indexOf(text(one));
      if (at >= 0) left.splice(at, 1);
      return at < 0;
    });
  };
  return [...without(theirs, without(base, mine)), ...without(mine, base)];
}

/** What two have made of one workshop, joined. */
export function joined(base: Workshop, mine: Workshop, theirs: Workshop): Workshop {
  const currency = mine.currency !== base.currency ? mine.currency : theirs.currency;
  const has = joinedLists(base.has ?? [], mine.has ?? [], theirs.has ?? []);
  const rack = joinedLists(base.rack ?? [], mine.rack ?? [], theirs.rack ?? []);
  return { ...(currency && { currency }), ...(has.length && { has }), ...(rack.length && { rack }) };
}

const KEY = "oak-drum.workshop";

class Keeper implements FormSource {
  readonly schema = workshopSchema;
  private saver: Saver<Workshop> | undefined;
  private fetching = false;
  private readonly listeners = new Set<() => void>();

  /** Fetches it once; until then nothing of it can be changed. */
  async open() {
    if (this.saver || this.fetching) return;
    this.fetching = true;
    try {
      const { document, version, updated_at } = await get(api.GET("/api/workshop"));
      this.saver = new Saver<Workshop>(version, document, updated_at, {
        key: KEY,
        put: (base_version, workshop) => get(api.PUT("/api/workshop", { body: { base_version, workshop } })),
        changed: () => this.tell(),
        merge: joined,
      });
      this.saver.begin();
      this.tell();
    } catch {
      // asked for again by whoever shows it next
    } finally {
      this.fetching = false;
    }
  }

  /** Fetches it again, as another test or another workshop would want. */
  close() {
    this.saver?.close();
    this.saver = undefined;
    this.tell();
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  private tell() {
    this.listeners.forEach((listener) => listener());
  }

  document = (): Workshop | undefined => this.saver?.kept.value;
  state = (): SaveState | undefined => this.saver?.kept.save;
  problems = (): FieldProblem[] | undefined =>
    this.saver?.kept.problem?.errors?.map((e) => ({ ...e, pointer: e.pointer.replace(/^\/workshop/, "") }));
  set = (pointer: string, value: unknown) => this.change((w) => put(w, pointer, value));
  endGesture = () => undefined;

  change(how: (now: Workshop) => Workshop) {
    if (!this.saver) return;
    this.saver.set(how(this.saver.kept.value));
    this.tell();
  }
}

export const workshop = new Keeper();

/** What the workshop has; nothing until it is fetched. */
export function useWorkshop(): Workshop | undefined {
  useEffect(() => void workshop.open(), []);
  return useSyncExternalStore(workshop.subscribe, workshop.document);
}

/** Whether it is saved. */
export const useWorkshopState = () => useSyncExternalStore(workshop.subscribe, workshop.state);

/** The same workshop with a tool, or so many of a size, put to what it has. */
export const withOwned = (now: Workshop, one: Owned): Workshop => ({
  ...now,
  has: [...(now.has ?? []), one],
});

/** The same workshop without any of a kind and size; of clamps all that open so far go. */
export function withoutOwned(now: Workshop, thing: string, size: number | null | undefined): Workshop {
  const same = (o: Owned) =>
    o.thing === thing &&
    (thing === "clamp" ? (o.size_mm ?? 0) >= (size ?? 0) - 0.5 : (o.size_mm ?? null) === (size ?? null));
  const has = (now.has ?? []).filter((o) => !same(o));
  const made = { ...now };
  delete made.has;
  return has.length ? { ...made, has } : made;
}
