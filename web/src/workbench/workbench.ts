// The open build: its revisions, what is undone and redone of them, and evaluation that keeps up with a drag. Saving is the savers'.
// Plain TypeScript; React listens through `subscribe`.

import { api, get } from "../api/client";
import type {
  BuildDetail,
  Design,
  Evaluation,
  Finding,
  Problem,
  Revision,
  Text,
  WorkPlan,
} from "../api/client";
import { curves } from "../api/curves";
import { apply, at, set, type Change } from "../lib/pointer";
import { answers, moved } from "../lib/traced";
import { Asker, READ_EVERY_MS, RESTED_MS } from "./asker";
import { merged } from "./plan";
import { same, Saver, type Kept, type SaveState } from "./saver";
import { recorded, redone, undone, type Trail } from "./undo";

export type OpenRevision = {
  id: string;
  letter: string;
  document: Design;
  undo: Design[];
  redo: Design[];
  save: SaveState;
  savedAt: string;
  /** What the workshop keeps beside it, and how far that is saved. */
  work: WorkPlan;
  workSave: SaveState;
  /** What is wrong with that. */
  workProblem?: Problem;
  /** The document with the prices it is bought at; another only when one of the two is. */
  priced: Priced;
  evaluation?: Evaluation;
  /** What was found last, and the document it was found in: they come once the hand rests. */
  found?: { in: Design; list: Finding[] };
  /** What the server says is wrong with the document. */
  problem?: Problem;
  /** The version another tab saved, while this one had changes. */
  theirs?: number;
};

/** A design and what things cost where it is built, as the server is asked about it. */
export type Priced = { document: Design; work: Pick<WorkPlan, "prices" | "bought"> };

const pricedAt = (document: Design, work: WorkPlan): Priced => ({
  document,
  work: { ...(work.prices && { prices: work.prices }), ...(work.bought && { bought: work.bought }) },
});

export type Taken = { revision: string; title: Text; before: Design; after: Design };

export type BuildState = {
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

function curvesOf(state: BuildState): Curve[] {
  const evaluated = (letter: string) => state.revisions.find((r) => r.letter === letter)?.evaluation;
  const list: Curve[] = [];
  for (const letter of [state.current, ...state.shown]) {
    const evaluation = evaluated(letter);
    if (evaluation) list.push({ letter, evaluation, current: letter === state.current });
  }
  if (state.ghost) list.push({ letter: "ghost", evaluation: state.ghost, current: false, ghost: true });
  const old = state.curves;
  const unchanged =
    old.length === list.length &&
    list.every(
      (c, i) =>
        c.letter === old[i]?.letter && c.evaluation === old[i].evaluation && c.current === old[i].current,
    );
  return unchanged ? old : list;
}

const leftKey = (id: string) => `oak-drum.left.${id}`;
const unsentKey = (id: string) => `oak-drum.unsent.${id}`;
const unsentWorkKey = (id: string) => `oak-drum.unsent-work.${id}`;

type Savers = { design: Saver<Design>; work: Saver<WorkPlan> };
type Askers = { curves: Asker<Design, Evaluation>; findings: Asker<Priced, Finding[]> };

export class Workbench {
  private state: BuildState;
  private listeners = new Set<() => void>();
  private live = new Set<() => void>();
  private savers = new Map<string, Savers>();
  private askers = new Map<string, Askers>();
  private closed = true;

  constructor(detail: BuildDetail) {
    const planOf = (r: Revision) => detail.plans.find((p) => p.revision_id === r.id);
    this.state = {
      build: { id: detail.id, name: detail.name },
      revisions: detail.revisions.map((r) => {
        const plan = planOf(r);
        return this.open(r, plan?.document ?? {}, plan?.version ?? 0);
      }),
      current: detail.revisions[0]?.letter ?? "",
      shown: [],
      curves: [],
      ...this.left(detail),
    };
  }

  /** Which revisions were shown when this build was left. */
  private left(detail: BuildDetail): Partial<BuildState> {
    try {
      const text = localStorage.getItem(leftKey(detail.id));
      const { current, shown } = JSON.parse(text ?? "{}") as Partial<BuildState>;
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
    for (const r of this.state.revisions) this.evaluate(r.id, r.priced);
    for (const { design, work } of this.savers.values()) {
      design.begin();
      work.begin();
    }
  }

  /** A revision as the server has it, with what this browser had not sent yet. */
  private open(r: Revision, plan: WorkPlan, planVersion: number): OpenRevision {
    const path = { id: r.id };
    const design = new Saver<Design>(r.version, r.document, r.updated_at, {
      key: unsentKey(r.id),
      put: (base_version, document) =>
        get(api.PUT("/api/revisions/{id}", { params: { path }, body: { base_version, document } })),
      changed: (kept) => this.designChanged(r.id, kept),
    });
    const work = new Saver<WorkPlan>(planVersion, plan, r.updated_at, {
      key: unsentWorkKey(r.id),
      put: (base_version, work) =>
        get(api.PUT("/api/revisions/{id}/work", { params: { path }, body: { base_version, work } })),
      changed: (kept) => this.workChanged(r.id, kept),
      merge: merged,
    });
    this.savers.set(r.id, { design, work });
    return {
      id: r.id,
      letter: r.letter,
      undo: [],
      redo: [],
      work: work.kept.value,
      workSave: work.kept.save,
      priced: pricedAt(design.kept.value, work.kept.value),
      ...ofKept(design.kept),
    };
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
  snapshot = () => this.state;

  private early = new Set<() => void>();
  /** For who asks the server about a document: told of it at once, while what is drawn may still wait for its curves. */
  subscribeEarly = (listener: () => void) => {
    this.early.add(listener);
    return () => this.early.delete(listener);
  };

  /** Stops timers and calls; what is not saved stays in the browser's store. */
  close() {
    this.closed = true;
    clearTimeout(this.rest);
    this.askers.forEach(({ curves, findings }) => {
      curves.stop();
      findings.stop();
    });
    this.askers.clear();
    for (const { design, work } of this.savers.values()) {
      design.close();
      work.close();
    }
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

  private update(change: Partial<BuildState>, soon = false) {
    const next = { ...this.state, ...change };
    this.state = { ...next, curves: curvesOf(next) };
    this.early.forEach((listener) => listener());
    if ("current" in change || "shown" in change) {
      const { build, current, shown } = this.state;
      localStorage.setItem(leftKey(build.id), JSON.stringify({ current, shown }));
    }
    if (soon) this.paint(this.notifyLive);
    else this.notify();
  }

  private patch(id: string, change: Partial<OpenRevision>, soon = false) {
    this.update(
      { revisions: this.state.revisions.map((r) => (r.id === id ? { ...r, ...change } : r)) },
      soon,
    );
  }

  private find(id: string): OpenRevision | undefined {
    return this.state.revisions.find((r) => r.id === id);
  }

  get current(): OpenRevision | undefined {
    return this.state.revisions.find((r) => r.letter === this.state.current);
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
    this.replace(r.id, document, recorded(r, r.document, goesOn));
  }

  set(pointer: string, value: unknown, gesture?: string) {
    this.change([{ pointer, value }], gesture);
  }

  /** Whether the last move of a gesture left the curves unasked. */
  private unasked = false;

  /** Ends a gesture: the next change is a new step to undo. */
  endGesture() {
    const r = this.gesture && this.unasked ? this.find(this.gesture.id) : undefined;
    if (r) this.evaluate(r.id, r.priced);
    this.unasked = false;
    this.gesture = undefined;
    this.write();
  }

  /** What is not sent yet goes into the browser's store: at the end of a gesture and now and then in a long one, not on each move. */
  private write = () => {
    for (const { design, work } of this.savers.values()) {
      design.write();
      work.write();
    }
  };

  undo() {
    const r = this.current;
    if (r) this.go(r, undone(r, r.document));
  }

  redo() {
    const r = this.current;
    if (r) this.go(r, redone(r, r.document));
  }

  private go(r: OpenRevision, to: (Trail<Design> & { document: Design }) | undefined) {
    if (!to) return;
    this.endGesture();
    this.replace(r.id, to.document, { undo: to.undo, redo: to.redo });
  }

  /** Takes a remedy; it can be taken back with one press. */
  take(title: string | Text, changes: Change[]) {
    const r = this.current;
    if (!r) return;
    this.endGesture();
    const before = r.document;
    this.change(changes);
    const after = this.find(r.id)?.document;
    if (after && after !== before) {
      const words: Text = typeof title === "string" ? [title] : title;
      this.update({ taken: { revision: r.id, title: words, before, after } });
    }
  }

  takeBack() {
    const taken = this.state.taken;
    const r = taken && this.find(taken.revision);
    if (!taken || !r || r.document !== taken.after) return;
    this.replace(r.id, taken.before, recorded(r, r.document, false));
    this.update({ taken: undefined });
  }

  private replace(id: string, document: Design, trail: Trail<Design>) {
    const r = this.find(id);
    if (!r) return;
    const priced = pricedAt(document, r.work);
    answers(document, priced);
    const moving = this.gesture !== undefined;
    // asked for first, so that the answer is on its way while the page is drawn; no curve hangs on where things stand in a room, and
    // what is pulled about there is asked about when the hand lets go
    this.unasked = moving && roomAlone(r.document, document);
    this.evaluate(id, priced, !this.unasked);
    const kept = this.savers.get(id)?.design.set(document, moving);
    this.patch(id, { ...trail, document, priced, ...(kept && ofKept(kept)) }, moving);
    if (this.state.taken?.revision === id && this.state.taken.after !== document)
      this.update({ taken: undefined });
  }

  /** Keeps the untouched curves as a ghost, or lets them go. */
  holdGhost(on: boolean) {
    this.update({ ghost: on ? this.current?.evaluation : undefined });
  }

  // -- the work plan ------------------------------------------------------------------------------------------

  /** Changes what the workshop keeps beside the current revision: no step to undo, no version of the design. */
  changeWork(change: (plan: WorkPlan) => WorkPlan) {
    const r = this.current;
    const kept = r && this.savers.get(r.id)?.work.set(change(r.work));
    if (kept) this.workChanged(r.id, kept);
  }

  private workChanged(id: string, kept: Kept<WorkPlan>) {
    const r = this.find(id);
    if (!r) return;
    const work = kept.value;
    const priced =
      same(work.prices, r.work.prices) && same(work.bought, r.work.bought)
        ? r.priced
        : pricedAt(r.document, work);
    if (priced !== r.priced) this.evaluate(id, priced);
    this.patch(id, { work, workSave: kept.save, workProblem: kept.problem, priced });
  }

  // -- revisions ----------------------------------------------------------------------------------------------

  select(letter: string) {
    if (!this.state.revisions.some((r) => r.letter === letter)) return;
    this.endGesture();
    this.update({ current: letter, shown: this.state.shown.filter((l) => l !== letter) });
  }

  step(by: 1 | -1) {
    const letters = this.state.revisions.map((r) => r.letter);
    const next = letters[(letters.indexOf(this.state.current) + by + letters.length) % letters.length];
    if (next) this.select(next);
  }

  toggleShown(letter: string) {
    const shown = this.state.shown;
    this.update({ shown: shown.includes(letter) ? shown.filter((l) => l !== letter) : [...shown, letter] });
  }

  /** Copies the current revision under the next letter and goes on with the copy, the original laid under it. */
  async copy(document?: Design) {
    const r = this.current;
    if (r) await this.beside(r, document ?? set(r.document, "/name", `Copy of ${r.letter}`));
  }

  /** Opens a design of its own as the next revision, the present one laid under it. */
  async openAsRevision(document: Design) {
    const r = this.current;
    if (r) await this.beside(r, document);
  }

  /** Settled once everything is with the server; refused where something cannot be. */
  async saved() {
    const savers = [...this.savers.values()].flatMap(({ design, work }) => [design, work]);
    await Promise.all(savers.map((s) => s.saveNow()));
    if (savers.some((s) => s.kept.save !== "saved"))
      throw new Error("Not everything is saved yet: what stands in the top bar comes first.");
  }

  private async beside(r: OpenRevision, document: Design) {
    const savers = this.savers.get(r.id);
    await Promise.all([savers?.design.saveNow(), savers?.work.saveNow()]);
    const made = await this.add(document, r);
    this.update({ current: made.letter, shown: [r.letter] });
  }

  /** Another revision, made from one there is: what things cost goes with it. */
  private async add(document: Design, from: OpenRevision): Promise<OpenRevision> {
    const path = { id: this.state.build.id };
    const body = { document, copied_from: from.id };
    const made = await get(api.POST("/api/builds/{id}/revisions", { params: { path }, body }));
    const plan = await get(api.GET("/api/revisions/{id}/work", { params: { path: { id: made.id } } }));
    const opened = this.open(made, plan.document, plan.version);
    this.update({ revisions: [...this.state.revisions, opened] });
    this.evaluate(opened.id, opened.priced);
    if (!this.closed) {
      this.savers.get(opened.id)?.design.begin();
      this.savers.get(opened.id)?.work.begin();
    }
    return opened;
  }

  async remove(id: string) {
    const r = this.find(id);
    if (!r || this.state.revisions.length < 2) return;
    await get(api.DELETE("/api/revisions/{id}", { params: { path: { id } } }));
    this.savers.get(id)?.design.forget();
    this.savers.get(id)?.work.forget();
    this.savers.delete(id);
    const revisions = this.state.revisions.filter((x) => x.id !== id);
    const current = this.state.current === r.letter ? (revisions[0]?.letter ?? "") : this.state.current;
    this.update({
      revisions,
      current,
      shown: this.state.shown.filter((l) => l !== r.letter && l !== current),
    });
  }

  // -- saved elsewhere ----------------------------------------------------------------------------------------

  private designChanged(id: string, kept: Kept<Design>) {
    const r = this.find(id);
    if (!r) return;
    if (kept.value === r.document) this.patch(id, ofKept(kept));
    else {
      const priced = pricedAt(kept.value, r.work);
      this.patch(id, { ...ofKept(kept), priced });
      this.evaluate(id, priced);
    }
  }

  /** Keeps both: theirs stays under this letter, mine becomes a new revision. */
  async keepBoth(id: string) {
    const r = this.find(id);
    if (r?.save !== "conflict") return;
    const mine = r.document;
    const made = await this.add(set(mine, "/name", `${mine.name || "Mine"} (from this tab)`), r);
    this.takeTheirs(id);
    this.update({ current: made.letter, shown: [r.letter] });
  }

  /** Mine replaces theirs; theirs stays in the history. */
  keepMine(id: string) {
    this.savers.get(id)?.design.keepMine();
  }

  /** Theirs replaces mine; mine stays one undo away. */
  takeTheirs(id: string) {
    const r = this.find(id);
    if (r?.save !== "conflict") return;
    this.patch(id, recorded(r, r.document, false));
    this.savers.get(id)?.design.takeTheirs();
  }

  // -- evaluation ---------------------------------------------------------------------------------------------

  /** Curves at once, findings when the document rests. */
  private evaluate(id: string, priced: Priced, withCurves = true) {
    const asker = this.askers.get(id) ?? this.askersOf(id);
    this.askers.set(id, asker);
    if (withCurves) asker.curves.want(priced.document);
    asker.findings.want(priced);
  }

  private askersOf(id: string): Askers {
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
      findings: new Asker<Priced, Finding[]>({
        ask: async (body, signal) => (await get(api.POST("/api/findings", { body, signal }))).findings,
        got: (list, about) => this.patch(id, { found: { in: about.document, list } }, true),
        restMs: RESTED_MS,
      }),
    };
  }
}

/** Whether two designs, the one made from the other, differ in their room alone. */
function roomAlone(before: Design, after: Design): boolean {
  const keys = new Set([...Object.keys(before), ...Object.keys(after)]) as Set<keyof Design>;
  return [...keys].every((key) => key === "room" || before[key] === after[key]);
}

/** What a revision shows of how its design is kept. What is wrong with it stays until it is saved. */
function ofKept({ value, save, savedAt, theirs, problem }: Kept<Design>) {
  const told = save === "saved" || save === "refused" ? { problem } : {};
  return { document: value, save, savedAt, theirs: theirs?.version, ...told };
}
