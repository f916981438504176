// The open build: its revisions, undo and redo, saving that survives a server that is away and another tab, and
// evaluation that keeps up with a drag. Plain TypeScript; React listens through `subscribe`.

import { api, get, Refused } from "../api/client";
import type { BuildDetail, Design, Evaluation, Finding, Problem, Revision } from "../api/client";
import { curves } from "../api/curves";
import { apply, at, set, type Change } from "../lib/pointer";
import { moved } from "../lib/traced";
import { Asker, RESTED_MS } from "./asker";

export type SaveState = "saved" | "waiting" | "saving" | "away" | "refused" | "conflict";

export type OpenRevision = {
  id: string;
  letter: string;
  /** The version the document was made from. */
  version: number;
  document: Design;
  undo: Design[];
  redo: Design[];
  save: SaveState;
  savedAt: string;
  evaluation?: Evaluation;
  /** What was found last, and the document it was found in: they come once the hand rests. */
  found?: { in: Design; list: Finding[] };
  /** What the server says is wrong with the document. */
  problem?: Problem;
  /** What another tab saved, while this one had changes. */
  theirs?: { version: number; document: Design };
};

export type Taken = { revision: string; title: string; before: Design; after: Design };

export type Bench = {
  build: { id: string; name: string };
  revisions: OpenRevision[];
  /** Letter of the revision being edited. */
  current: string;
  /** Letters of the revisions laid under it. */
  shown: string[];
  /** The remedy taken last, as long as it can be taken back. */
  taken?: Taken;
  /** The untouched revision, kept as a ghost while a drag holds it. */
  ghost?: Evaluation;
  /** What the lanes draw; another list only when a curve is another. */
  curves: Curve[];
};

export type Curve = { letter: string; evaluation: Evaluation; current: boolean; ghost?: boolean };

function curvesOf(bench: Bench): Curve[] {
  const evaluated = (letter: string) => bench.revisions.find((r) => r.letter === letter)?.evaluation;
  const list: Curve[] = [];
  for (const letter of [bench.current, ...bench.shown]) {
    const evaluation = evaluated(letter);
    if (evaluation) list.push({ letter, evaluation, current: letter === bench.current });
  }
  if (bench.ghost) list.push({ letter: "ghost", evaluation: bench.ghost, current: false, ghost: true });
  const old = bench.curves;
  const unchanged =
    old.length === list.length &&
    list.every(
      (c, i) =>
        c.letter === old[i]?.letter && c.evaluation === old[i].evaluation && c.current === old[i].current,
    );
  return unchanged ? old : list;
}

const SAVE_AFTER_MS = 500;
/** How much of a long gesture a tab that is killed may lose. */
const WRITE_EVERY_MS = 500;
const RETRY_AFTER_MS = 1500;
/** How often figures change while something moves: nobody reads them faster. */
const READ_EVERY_MS = 120;

type Unsent = { version: number; document: Design };
const leftKey = (id: string) => `oak-drum.left.${id}`;
const unsentKey = (id: string) => `oak-drum.unsent.${id}`;
const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

export class Workbench {
  private bench: Bench;
  private listeners = new Set<() => void>();
  private live = new Set<() => void>();
  private timers = new Map<string, ReturnType<typeof setTimeout>>();
  private askers = new Map<
    string,
    { curves: Asker<Design, Evaluation>; findings: Asker<Design, Finding[]> }
  >();
  /** Revisions with changes the browser's store does not have yet. */
  private unwritten = new Set<string>();
  private closed = false;

  constructor(detail: BuildDetail) {
    this.bench = {
      build: { id: detail.id, name: detail.name },
      revisions: detail.revisions.map((r) => this.open(r)),
      current: detail.revisions[0]?.letter ?? "",
      shown: [],
      curves: [],
      ...this.left(detail),
    };
  }

  /** Which revisions were shown when this build was left. */
  private left(detail: BuildDetail): Partial<Bench> {
    try {
      const text = localStorage.getItem(leftKey(detail.id));
      const { current, shown } = JSON.parse(text ?? "{}") as Partial<Bench>;
      const letters = detail.revisions.map((r) => r.letter);
      if (!current || !letters.includes(current)) return {};
      return { current, shown: (shown ?? []).filter((l) => letters.includes(l) && l !== current) };
    } catch {
      return {};
    }
  }

  /** Computes what is open and sends what this browser had not sent yet. */
  begin() {
    this.closed = false;
    window.addEventListener("pagehide", this.write);
    for (const r of this.bench.revisions) {
      this.evaluate(r.id, r.document);
      if (r.save === "waiting") this.schedule(r.id, 0);
    }
  }

  /** A revision as the server has it, with what this browser had not sent yet. */
  private open(r: Revision): OpenRevision {
    const fresh: OpenRevision = {
      id: r.id,
      letter: r.letter,
      version: r.version,
      document: r.document,
      undo: [],
      redo: [],
      save: "saved",
      savedAt: r.updated_at,
    };
    const text = localStorage.getItem(unsentKey(r.id));
    if (!text) return fresh;
    try {
      const unsent = JSON.parse(text) as Unsent;
      if (same(unsent.document, r.document)) {
        localStorage.removeItem(unsentKey(r.id));
        return fresh;
      }
      if (unsent.version === r.version) return { ...fresh, document: unsent.document, save: "waiting" };
      const theirs = { version: r.version, document: r.document };
      return { ...fresh, version: unsent.version, document: unsent.document, save: "conflict", theirs };
    } catch {
      return fresh;
    }
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  /** For what follows a hand with every frame. */
  subscribeLive = (listener: () => void) => {
    this.live.add(listener);
    return () => this.live.delete(listener);
  };
  snapshot = () => this.bench;

  private early = new Set<() => void>();
  /** For who asks the server about a document: told of it at once, while what is drawn may still wait for its curves. */
  subscribeEarly = (listener: () => void) => {
    this.early.add(listener);
    return () => this.early.delete(listener);
  };

  /** Stops timers and calls; what is not saved stays in the browser's store. */
  close() {
    this.closed = true;
    this.timers.forEach((t) => clearTimeout(t));
    clearTimeout(this.rest);
    this.askers.forEach(({ curves, findings }) => {
      curves.stop();
      findings.stop();
    });
    this.askers.clear();
    this.write();
    window.removeEventListener("pagehide", this.write);
  }

  private frame = 0;
  private waiting = new Set<() => void>();

  /** Draws with the next frame, once however often it is asked for by then. */
  paint(draw: () => void) {
    this.waiting.add(draw);
    this.frame ||= requestAnimationFrame(() => {
      this.frame = 0;
      const all = [...this.waiting];
      this.waiting.clear();
      all.forEach((one) => one());
    });
  }

  private notify = () => {
    this.waiting.delete(this.notify);
    this.waiting.delete(this.notifyLive);
    clearTimeout(this.rest);
    this.rest = undefined;
    this.live.forEach((listener) => listener());
    this.listeners.forEach((listener) => listener());
  };

  private rest: ReturnType<typeof setTimeout> | undefined;
  /** What follows the hand now, the rest of the page when a figure could be read again. */
  private notifyLive = () => {
    this.live.forEach((listener) => listener());
    this.rest ??= setTimeout(() => this.paint(this.notify), READ_EVERY_MS);
  };

  private update(change: Partial<Bench>, soon = false) {
    const next = { ...this.bench, ...change };
    this.bench = { ...next, curves: curvesOf(next) };
    this.early.forEach((listener) => listener());
    if ("current" in change || "shown" in change) {
      const { build, current, shown } = this.bench;
      localStorage.setItem(leftKey(build.id), JSON.stringify({ current, shown }));
    }
    if (soon) this.paint(this.notifyLive);
    else this.notify();
  }

  private patch(id: string, change: Partial<OpenRevision>, soon = false) {
    this.update(
      { revisions: this.bench.revisions.map((r) => (r.id === id ? { ...r, ...change } : r)) },
      soon,
    );
  }

  private find(id: string): OpenRevision | undefined {
    return this.bench.revisions.find((r) => r.id === id);
  }

  get current(): OpenRevision | undefined {
    return this.bench.revisions.find((r) => r.letter === this.bench.current);
  }

  // -- editing ------------------------------------------------------------------------------------------------

  private gesture: { id: string; name: string } | undefined;

  /** Changes the current revision. Changes of one gesture (a drag, a run of key presses) undo together. */
  change(changes: Change[], gesture?: string) {
    const r = this.current;
    if (!r) return;
    if (changes.every((c) => same(at(r.document, c.pointer), c.value ?? undefined))) return;
    const document = apply(r.document, changes);
    moved(document);
    const goesOn = gesture !== undefined && this.gesture?.id === r.id && this.gesture.name === gesture;
    this.gesture = gesture === undefined ? undefined : { id: r.id, name: gesture };
    const undo = goesOn ? r.undo : [...r.undo, r.document];
    this.replace(r.id, document, { undo, redo: [] });
  }

  set(pointer: string, value: unknown, gesture?: string) {
    this.change([{ pointer, value }], gesture);
  }

  /** Ends a gesture: the next change is a new step to undo. */
  endGesture() {
    this.gesture = undefined;
    this.write();
  }

  private written = 0;
  /** What is not sent yet goes into the browser's store: at the end of a gesture and now and then in a long one, not on each move. */
  private write = () => {
    this.written = performance.now();
    for (const id of this.unwritten) {
      const r = this.find(id);
      if (!r) continue;
      const unsent: Unsent = { version: r.version, document: r.document };
      localStorage.setItem(unsentKey(id), JSON.stringify(unsent));
    }
    this.unwritten.clear();
  };

  undo() {
    const r = this.current;
    const before = r?.undo.at(-1);
    if (!r || !before) return;
    this.endGesture();
    this.replace(r.id, before, { undo: r.undo.slice(0, -1), redo: [...r.redo, r.document] });
  }

  redo() {
    const r = this.current;
    const after = r?.redo.at(-1);
    if (!r || !after) return;
    this.endGesture();
    this.replace(r.id, after, { undo: [...r.undo, r.document], redo: r.redo.slice(0, -1) });
  }

  /** Takes a remedy; it can be taken back with one press. */
  take(title: string, changes: Change[]) {
    const r = this.current;
    if (!r) return;
    this.endGesture();
    const before = r.document;
    this.change(changes);
    const after = this.find(r.id)?.document;
    if (after && after !== before) this.update({ taken: { revision: r.id, title, before, after } });
  }

  takeBack() {
    const taken = this.bench.taken;
    const r = taken && this.find(taken.revision);
    if (!taken || !r || r.document !== taken.after) return;
    this.replace(r.id, taken.before, { undo: [...r.undo, r.document], redo: [] });
    this.update({ taken: undefined });
  }

  private replace(id: string, document: Design, change: Partial<OpenRevision>) {
    const r = this.find(id);
    if (!r) return;
    const save = r.save === "conflict" || r.save === "away" || r.save === "saving" ? r.save : "waiting";
    // asked for first, so that the answer is on its way while the page is drawn
    this.evaluate(id, document);
    this.unwritten.add(id);
    this.patch(id, { ...change, document, save }, this.gesture !== undefined);
    if (!this.gesture || performance.now() - this.written > WRITE_EVERY_MS) this.write();
    if (this.bench.taken?.revision === id && this.bench.taken.after !== document)
      this.update({ taken: undefined });
    if (save === "waiting") this.schedule(id, SAVE_AFTER_MS);
  }

  /** Keeps the untouched curves as a ghost, or lets them go. */
  holdGhost(on: boolean) {
    this.update({ ghost: on ? this.current?.evaluation : undefined });
  }

  // -- revisions ----------------------------------------------------------------------------------------------

  select(letter: string) {
    if (!this.bench.revisions.some((r) => r.letter === letter)) return;
    this.endGesture();
    this.update({ current: letter, shown: this.bench.shown.filter((l) => l !== letter) });
  }

  step(by: 1 | -1) {
    const letters = this.bench.revisions.map((r) => r.letter);
    const next = letters[(letters.indexOf(this.bench.current) + by + letters.length) % letters.length];
    if (next) this.select(next);
  }

  toggleShown(letter: string) {
    const shown = this.bench.shown;
    this.update({ shown: shown.includes(letter) ? shown.filter((l) => l !== letter) : [...shown, letter] });
  }

  /** Copies the current revision under the next letter and goes on with the copy, the original laid under it. */
  async copy(document?: Design) {
    const r = this.current;
    if (!r) return;
    await this.saveNow(r.id);
    const name = `Copy of ${r.letter}`;
    const made = await this.add(document ?? set(r.document, "/name", name));
    this.update({ current: made.letter, shown: [r.letter] });
  }

  /** Opens a design of its own as the next revision, the present one laid under it. */
  async openAsRevision(document: Design) {
    const r = this.current;
    if (!r) return;
    await this.saveNow(r.id);
    const made = await this.add(document);
    this.update({ current: made.letter, shown: [r.letter] });
  }

  private async add(document: Design): Promise<OpenRevision> {
    const path = { id: this.bench.build.id };
    const made = await get(api.POST("/api/builds/{id}/revisions", { params: { path }, body: { document } }));
    const opened = this.open(made);
    this.update({ revisions: [...this.bench.revisions, opened] });
    this.evaluate(opened.id, opened.document);
    return opened;
  }

  async remove(id: string) {
    const r = this.find(id);
    if (!r || this.bench.revisions.length < 2) return;
    await get(api.DELETE("/api/revisions/{id}", { params: { path: { id } } }));
    localStorage.removeItem(unsentKey(id));
    const revisions = this.bench.revisions.filter((x) => x.id !== id);
    const current = this.bench.current === r.letter ? (revisions[0]?.letter ?? "") : this.bench.current;
    this.update({
      revisions,
      current,
      shown: this.bench.shown.filter((l) => l !== r.letter && l !== current),
    });
  }

  // -- saving -------------------------------------------------------------------------------------------------

  private schedule(id: string, after: number) {
    clearTimeout(this.timers.get(id));
    if (this.closed) return;
    this.timers.set(
      id,
      setTimeout(() => void this.saveNow(id), after),
    );
  }

  async saveNow(id: string): Promise<void> {
    const r = this.find(id);
    if (!r || !["waiting", "away"].includes(r.save)) return;
    clearTimeout(this.timers.get(id));
    this.write();
    const { document, version } = r;
    if (r.save === "waiting") this.patch(id, { save: "saving" });
    try {
      const body = { base_version: version, document };
      const saved = await get(api.PUT("/api/revisions/{id}", { params: { path: { id } }, body }));
      const now = this.find(id);
      if (!now) return;
      const done = same(now.document, document);
      if (done) localStorage.removeItem(unsentKey(id));
      else
        localStorage.setItem(
          unsentKey(id),
          JSON.stringify({ version: saved.version, document: now.document }),
        );
      this.patch(id, {
        version: saved.version,
        save: done ? "saved" : "waiting",
        savedAt: saved.updated_at,
        problem: undefined,
      });
      if (!done) this.schedule(id, SAVE_AFTER_MS);
    } catch (cause) {
      const problem = cause instanceof Refused ? cause.problem : undefined;
      if (problem?.status === 409 && problem.current) {
        this.conflict(id, problem.version ?? 0, problem.current as unknown as Design);
      } else if (problem && problem.status < 500) {
        this.patch(id, { save: "refused", problem });
      } else {
        this.patch(id, { save: "away" });
        this.schedule(id, RETRY_AFTER_MS);
      }
    }
  }

  /** A save that was lost on its way back comes again as a conflict with oneself: then nothing is wrong. */
  private conflict(id: string, version: number, document: Design) {
    const r = this.find(id);
    if (!r) return;
    if (same(document, r.document)) {
      localStorage.removeItem(unsentKey(id));
      this.patch(id, { version, save: "saved" });
      return;
    }
    this.patch(id, { save: "conflict", theirs: { version, document } });
  }

  /** Keeps both: theirs stays under this letter, mine becomes a new revision. */
  async keepBoth(id: string) {
    const r = this.find(id);
    if (!r?.theirs) return;
    const mine = r.document;
    const made = await this.add(set(mine, "/name", `${mine.name || "Mine"} (from this tab)`));
    this.takeTheirs(id);
    this.update({ current: made.letter, shown: [r.letter] });
  }

  /** Mine replaces theirs; theirs stays in the history. */
  keepMine(id: string) {
    const r = this.find(id);
    if (!r?.theirs) return;
    this.patch(id, { version: r.theirs.version, theirs: undefined, save: "waiting" });
    this.schedule(id, 0);
  }

  /** Theirs replaces mine; mine stays one undo away. */
  takeTheirs(id: string) {
    const r = this.find(id);
    if (!r?.theirs) return;
    localStorage.removeItem(unsentKey(id));
    this.patch(id, {
      version: r.theirs.version,
      document: r.theirs.document,
      undo: [...r.undo, r.document],
      redo: [],
      theirs: undefined,
      save: "saved",
    });
    this.evaluate(id, r.theirs.document);
  }

  // -- evaluation ---------------------------------------------------------------------------------------------

  /** Curves at once, findings when the document rests. */
  private evaluate(id: string, document: Design) {
    const asker = this.askers.get(id) ?? this.askersOf(id);
    this.askers.set(id, asker);
    asker.curves.want(document);
    asker.findings.want(document);
  }

  private askersOf(id: string) {
    return {
      curves: new Asker<Design, Evaluation>({
        ask: curves,
        got: (evaluation) => {
          const r = this.find(id);
          // what a save was refused for stays until it is saved
          if (r) this.patch(id, { evaluation, problem: r.save === "refused" ? r.problem : undefined }, true);
        },
        refused: (problem) => this.patch(id, { problem }),
      }),
      findings: new Asker<Design, Finding[]>({
        ask: async (body, signal) => (await get(api.POST("/api/findings", { body, signal }))).findings,
        got: (list, about) => this.patch(id, { found: { in: about, list } }, true),
        restMs: RESTED_MS,
      }),
    };
  }
}
