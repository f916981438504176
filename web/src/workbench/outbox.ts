// What is written into logs, kept in this browser until the server has it: entries with their photos, one after another, none twice
// (their keys are made here) and none lost by a tab that is closed, a phone that is out of reach or a server that is away.

import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import { api, get, Refused, type LogEntry, type LogRecord, type Problem } from "../api/client";

export type Waiting = {
  id: string;
  build: string;
  /** Its place in the row. */
  order: number;
  base_version: number;
  entry: LogEntry;
  /** Photos that are not sent yet; those that are stand in the entry. */
  photos: Blob[];
  written_at: string;
  /** Why the server refused it; it waits until it is changed or taken away. */
  problem?: Problem;
};

interface Kept extends DBSchema {
  waiting: { key: string; value: Waiting };
}

/** What sends; another one in tests. */
export type Post = {
  photo: (photo: Blob) => Promise<{ digest: string; width: number; height: number }>;
  entry: (waiting: Waiting) => Promise<LogRecord>;
};

const RETRY_MS = 3000;
/** Largest photo that is sent, as the server has it. */
export const LARGEST_PHOTO = 48 << 20;

/** A key that no other browser makes: time first, so that keys sort; made by hand, since browsers make none over plain HTTP. */
export function newKey(now = Date.now()): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  for (let i = 0; i < 6; i++) bytes[i] = Math.floor(now / 2 ** (8 * (5 - i))) & 0xff;
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x70;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = [...bytes].map((b) => b.toString(16).padStart(2, "0")).join("");
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})/, "$1-$2-$3-$4-");
}

async function sendPhoto(photo: Blob) {
  const answer = await fetch("/api/photos", {
    method: "POST",
    headers: { "content-type": photo.type || "application/octet-stream" },
    body: photo,
  }).catch(() => undefined);
  const told: unknown = await answer?.json().catch(() => undefined);
  if (!answer?.ok) throw new Refused(told as Problem | undefined);
  return told as { digest: string; width: number; height: number };
}

const sendEntry = ({ id, build, base_version, entry, written_at }: Waiting) =>
  get(
    api.PUT("/api/builds/{id}/log/{entry}", {
      params: { path: { id: build, entry: id } },
      body: { base_version, entry, written_at, sent_at: new Date().toISOString() },
    }),
  );

export class Outbox {
  private readonly base: Promise<IDBPDatabase<Kept>>;
  private list: Waiting[] = [];
  private listeners = new Set<() => void>();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private going: Promise<void> | undefined;
  /** The one that is on its way just now. */
  private sending: string | undefined;
  private read: Promise<void>;

  constructor(
    private readonly post: Post = { photo: sendPhoto, entry: sendEntry },
    name = "oak-drum-outbox",
  ) {
    const upgrade = (base: IDBPDatabase<Kept>) => void base.createObjectStore("waiting", { keyPath: "id" });
    this.base = Promise.resolve().then(() => openDB<Kept>(name, 1, { upgrade }));
    this.read = this.base
      .then((base) => base.getAll("waiting"))
      .then((list) => {
        this.set([...list.sort((a, b) => a.order - b.order), ...this.list]);
        this.later(0);
      })
      // no store in this browser: what is written waits in this tab alone
      .catch(() => undefined);
    globalThis.addEventListener?.("online", () => this.later(0));
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  snapshot = () => this.list;

  /** Told of an entry the server has. */
  delivered: (record: LogRecord) => void = () => undefined;

  private set(list: Waiting[]) {
    this.list = list;
    this.listeners.forEach((listener) => listener());
  }

  /** Takes an entry in; settled once it is safe in this browser. */
  async put(wanted: Omit<Waiting, "order" | "written_at"> & { written_at?: string }): Promise<void> {
    await this.read;
    const written_at = wanted.written_at ?? new Date().toISOString();
    const order = Math.max(0, ...this.list.map((w) => w.order)) + 1;
    const waiting: Waiting = { ...wanted, written_at, order, problem: undefined };
    this.set([...this.list.filter((w) => w.id !== waiting.id), waiting]);
    await this.keep(waiting);
    this.later(0);
  }

  private async keep(waiting: Waiting) {
    await this.base.then((base) => base.put("waiting", waiting)).catch(() => undefined);
  }

  private async forget(id: string) {
    await this.base.then((base) => base.delete("waiting", id)).catch(() => undefined);
    this.set(this.list.filter((w) => w.id !== id));
  }

  /** Takes back what is not sent; whether there was something. What is on its way just now is waited for. */
  async takeBack(id: string): Promise<boolean> {
    await this.read;
    if (this.sending === id) await this.going;
    const there = this.list.some((w) => w.id === id);
    if (there) await this.forget(id);
    return there;
  }

  private later(after: number) {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), after);
  }

  /** Sends what waits, the oldest first; who asks while it is being sent waits for the same. */
  flush(): Promise<void> {
    this.going ??= this.sendAll().finally(() => {
      this.going = undefined;
    });
    return this.going;
  }

  private async sendAll(): Promise<void> {
    await this.read;
    for (;;) {
      const next = this.list.find((w) => !w.problem);
      if (!next) return;
      this.sending = next.id;
      try {
        await this.send(next);
      } catch (cause) {
        const problem = cause instanceof Refused ? cause.problem : undefined;
        if (!problem || problem.status >= 500) return this.later(RETRY_MS);
        const standing = this.list.find((w) => w.id === next.id) ?? next;
        await this.change({ ...standing, problem });
      } finally {
        this.sending = undefined;
      }
    }
  }

  private async send(first: Waiting) {
    let now = first;
    for (let photo = now.photos[0]; photo; photo = now.photos[0]) {
      const kept = await this.post.photo(photo);
      const entry = { ...now.entry, photos: [...(now.entry.photos ?? []), kept] };
      now = { ...now, entry, photos: now.photos.slice(1) };
      if (!(await this.change(now))) return;
    }
    const record = await this.post.entry(now);
    const standing = this.list.find((w) => w.id === now.id);
    if (standing && standing.order !== now.order) {
      // what was written over it meanwhile is sent next, over what is kept now
      await this.change({ ...standing, base_version: record.version });
      return;
    }
    this.delivered(record);
    await this.forget(now.id);
  }

  /** Puts a waiting one in the place of its like; not where another was written over it, or it was taken back. */
  private async change(now: Waiting): Promise<boolean> {
    if (!this.list.some((w) => w.id === now.id && w.order === now.order)) return false;
    this.set(this.list.map((w) => (w.id === now.id ? now : w)));
    await this.keep(now);
    return true;
  }
}

export const outbox = new Outbox();
