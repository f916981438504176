// One question kept up with something that changes: one asking is under way at a time, what is newest then is asked about next.

import { Refused, type Problem } from "../api/client";
import { answers } from "../lib/traced";

const RETRY_AFTER_MS = 1500;
/** How often figures change while something moves: nobody reads them faster. */
export const READ_EVERY_MS = 120;
/** What takes longer is asked when the hand has rested for so long. */
export const RESTED_MS = 150;

type Told<Q, T> = {
  ask: (about: Q, signal: AbortSignal) => Promise<T>;
  got: (answer: T, about: Q) => void;
  refused?: (problem: Problem, about: Q) => void;
  /** How long what is asked about has to rest first. */
  restMs?: number;
  /** How often it is asked at most: what is only read need not follow every frame. */
  everyMs?: number;
};

export class Asker<Q extends object, T> {
  private newest: Q | undefined;
  /** What was asked about last. */
  private asked: Q | undefined;
  private busy = false;
  private abort = new AbortController();
  private timer: ReturnType<typeof setTimeout> | undefined;
  /** Whether the newest has rested long enough. */
  private rested = true;

  constructor(private readonly told: Told<Q, T>) {}

  /** Asks about this as soon as it can; the same as before is not asked about again. */
  want(about: Q) {
    if (about === this.newest) return;
    this.newest = about;
    const ask = () => {
      this.rested = true;
      void this.next();
    };
    if (!this.told.restMs || !this.asked) return ask();
    this.rested = false;
    clearTimeout(this.timer);
    this.timer = setTimeout(ask, this.told.restMs);
  }

  /** Lets go of everything; a later want begins anew. */
  stop() {
    this.abort.abort();
    clearTimeout(this.timer);
    this.abort = new AbortController();
    this.newest = this.asked = undefined;
    this.busy = false;
  }

  private async next() {
    if (this.busy) return;
    this.busy = true;
    const { signal } = this.abort;
    while (this.rested && this.newest && this.newest !== this.asked) {
      const about = (this.asked = this.newest);
      const begun = performance.now();
      try {
        const answer = await this.told.ask(about, signal);
        if (signal.aborted) return;
        if (typeof answer === "object" && answer) answers(about, answer);
        this.told.got(answer, about);
        const left = (this.told.everyMs ?? 0) - (performance.now() - begun);
        if (left > 0) {
          await new Promise((done) => setTimeout(done, left));
          if (signal.aborted) return;
        }
      } catch (cause) {
        if (signal.aborted) return;
        if (!(cause instanceof Refused)) throw cause;
        if (cause.problem && cause.problem.status < 500) {
          // a refusal keeps the last answer and waits for something else to ask about
          this.told.refused?.(cause.problem, about);
        } else {
          await new Promise((done) => setTimeout(done, RETRY_AFTER_MS));
          if (signal.aborted) return;
          this.asked = undefined;
        }
      }
    }
    this.busy = false;
  }
}
