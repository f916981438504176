// One record kept by the server under versions: saved when it rests, tried again while the server is away, never lost by a tab that
// is closed or killed, and never written over what somebody else saved.

import { Refused, type Problem } from "../api/client";

/**
 * Saved; changed and to be sent; being sent; no server, tried again; refused with a problem; somebody else saved meanwhile and one
 * has to choose.
 */
export type SaveState = "saved" | "waiting" | "saving" | "away" | "refused" | "conflict";

export type Kept<T> = {
  /** The version the value was made from. */
  version: number;
  value: T;
  save: SaveState;
  savedAt: string;
  /** Why the server refused it. */
  problem?: Problem;
  /** What somebody else saved, while this one had changes. */
  theirs?: { version: number; value: T };
};

export type Saved = { version: number; updated_at: string };

type Told<T> = {
  /** Its place in the browser's store. */
  key: string;
  put: (base: number, value: T) => Promise<Saved>;
  /** Told of what becomes another by itself: saved, refused, joined with what somebody else saved. */
  changed: (kept: Kept<T>) => void;
  /** Joins what two have made of one base; without it the two are kept apart until one chooses. */
  merge?: (base: T, mine: T, theirs: T) => T;
};

type Unsent<T> = { version: number; document: T; base?: T };

const SAVE_AFTER_MS = 500;
const RETRY_AFTER_MS = 1500;
/** How much of a long gesture a tab that is killed may lose. */
const WRITE_EVERY_MS = 500;

export const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

export class Saver<T> {
  kept: Kept<T>;
  /** What the server had at `kept.version`. */
  private base: T;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private dirty = false;
  private written = 0;
  private closed = true;
  /** A save on its way. */
  private going: Promise<void> | undefined;

  /** A record as the server has it, with what this browser had not sent yet. */
  constructor(
    version: number,
    value: T,
    savedAt: string,
    private readonly told: Told<T>,
  ) {
    this.kept = { version, value, save: "saved", savedAt };
    this.base = value;
    const unsent = this.unsent();
    if (!unsent) return;
    if (same(unsent.document, value)) localStorage.removeItem(told.key);
    else if (unsent.version === version)
      this.kept = { ...this.kept, value: unsent.document, save: "waiting" };
    else if (told.merge && unsent.base !== undefined) {
      this.kept = { ...this.kept, value: told.merge(unsent.base, unsent.document, value), save: "waiting" };
    } else {
      const theirs = { version, value };
      this.kept = { version: unsent.version, value: unsent.document, save: "conflict", savedAt, theirs };
    }
  }

  private unsent(): Unsent<T> | undefined {
    try {
      const unsent = JSON.parse(localStorage.getItem(this.told.key) ?? "null") as Unsent<T> | null;
      return unsent?.document ? unsent : undefined;
    } catch {
      return undefined;
    }
  }

  /** Sends what this browser had not sent yet. */
  begin() {
    this.closed = false;
    if (this.kept.save === "waiting") this.schedule(0);
  }

  /** Stops timers; what is not saved stays in the browser's store. */
  close() {
    this.closed = true;
    clearTimeout(this.timer);
    this.write();
  }

  /** Another value; while a hand still moves it is written into the browser's store only now and then. Told in the answer only. */
  set(value: T, moving = false): Kept<T> {
    const { save } = this.kept;
    const next = save === "conflict" || save === "away" || save === "saving" ? save : "waiting";
    this.dirty = true;
    this.kept = { ...this.kept, value, save: next };
    if (!moving || performance.now() - this.written > WRITE_EVERY_MS) this.write();
    if (next === "waiting") this.schedule(SAVE_AFTER_MS);
    return this.kept;
  }

  /** Puts what is not sent yet into the browser's store. */
  write() {
    this.written = performance.now();
    if (!this.dirty) return;
    this.dirty = false;
    this.store(this.kept.value);
  }

  private store(document: T) {
    const unsent: Unsent<T> = { version: this.kept.version, document };
    if (this.told.merge) unsent.base = this.base;
    localStorage.setItem(this.told.key, JSON.stringify(unsent));
  }

  /** Lets go of what is not sent: the record is no more. */
  forget() {
    clearTimeout(this.timer);
    this.closed = true;
    this.dirty = false;
    localStorage.removeItem(this.told.key);
  }

  private change(change: Partial<Kept<T>>) {
    this.kept = { ...this.kept, ...change };
    this.told.changed(this.kept);
  }

  private schedule(after: number) {
    clearTimeout(this.timer);
    if (!this.closed) this.timer = setTimeout(() => void this.saveNow(), after);
  }

  /** Sends what is not saved; what is being sent just now is waited for, and what has changed since then sent after it. */
  async saveNow(): Promise<void> {
    if (this.going) await this.going;
    this.going = this.send();
    await this.going;
    this.going = undefined;
  }

  private async send(): Promise<void> {
    const { save, value, version } = this.kept;
    if (save !== "waiting" && save !== "away") return;
    clearTimeout(this.timer);
    this.write();
    if (save === "waiting") this.change({ save: "saving" });
    try {
      const saved = await this.told.put(version, value);
      this.base = value;
      const now = this.kept.value;
      const done = same(now, value);
      this.change({
        version: saved.version,
        save: done ? "saved" : "waiting",
        savedAt: saved.updated_at,
        problem: undefined,
      });
      if (done) localStorage.removeItem(this.told.key);
      else {
        this.store(now);
        this.schedule(SAVE_AFTER_MS);
      }
    } catch (cause) {
      const problem = cause instanceof Refused ? cause.problem : undefined;
      if (problem?.status === 409 && problem.current) {
        this.met(problem.version ?? 0, problem.current as unknown as T);
      } else if (problem && problem.status < 500) {
        this.change({ save: "refused", problem });
      } else {
        this.change({ save: "away" });
        this.schedule(RETRY_AFTER_MS);
      }
    }
  }

  /** Somebody else saved. A save that was lost on its way back comes again as a conflict with oneself: then nothing is wrong. */
  private met(version: number, theirs: T) {
    const mine = this.kept.value;
    if (same(theirs, mine)) {
      localStorage.removeItem(this.told.key);
      this.base = theirs;
      this.change({ version, save: "saved", problem: undefined });
    } else if (this.told.merge) {
      const value = this.told.merge(this.base, mine, theirs);
      this.base = theirs;
      this.change({ version, value, save: "waiting" });
      this.store(value);
      this.schedule(0);
    } else this.change({ save: "conflict", theirs: { version, value: theirs } });
  }

  /** Mine replaces theirs; theirs stays in the server's history. */
  keepMine() {
    const { theirs } = this.kept;
    if (!theirs) return;
    this.change({ version: theirs.version, theirs: undefined, save: "waiting" });
    this.schedule(0);
  }

  /** Theirs replaces mine. */
  takeTheirs() {
    const { theirs } = this.kept;
    if (!theirs) return;
    localStorage.removeItem(this.told.key);
    this.dirty = false;
    this.base = theirs.value;
    this.change({ ...theirs, theirs: undefined, save: "saved", problem: undefined });
  }
}
