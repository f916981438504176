import { useSyncExternalStore } from "react";
import { Refused, type Design } from "../api/client";
import { useWorkbench } from "./context";
import type { Workbench } from "./workbench";

const RETRY_AFTER_MS = 1500;

export type Question<T> = (document: Design, signal: AbortSignal) => Promise<T>;

/** A question kept up with the current document, for everybody on the page who shows its answer. */
class Asked<T> {
  private listeners = new Set<() => void>();
  private answer: T | undefined;
  private asked: Design | undefined;
  private stop: (() => void) | undefined;

  constructor(
    private readonly workbench: Workbench,
    private readonly question: Question<T>,
  ) {}

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    this.stop ??= this.begin();
    return () => {
      this.listeners.delete(listener);
      if (this.listeners.size) return;
      this.stop?.();
      this.stop = undefined;
    };
  };
  snapshot = () => this.answer;

  /** One question is under way at a time; the document as it is then is asked about next. */
  private begin() {
    const abort = new AbortController();
    let busy = false;
    const next = async () => {
      if (busy) return;
      busy = true;
      for (;;) {
        const about = this.workbench.current?.document;
        if (!about || about === this.asked || abort.signal.aborted) break;
        this.asked = about;
        try {
          const found = await this.question(about, abort.signal);
          if (abort.signal.aborted) break;
          this.answer = found;
          this.listeners.forEach((listener) => listener());
        } catch (cause) {
          if (abort.signal.aborted) break;
          // no answer at all is asked for again; a refusal keeps the last and waits for another document
          if (cause instanceof Refused && !cause.problem) {
            await new Promise((done) => setTimeout(done, RETRY_AFTER_MS));
            this.asked = undefined;
          }
        }
      }
      busy = false;
    };
    const unsubscribe = this.workbench.subscribeEarly(() => void next());
    void next();
    return () => {
      unsubscribe();
      abort.abort();
      this.asked = undefined;
    };
  }
}

const known = new WeakMap<Workbench, Map<Question<unknown>, Asked<unknown>>>();

/** What the server answers to a question (one function, the same each time) about the current document. */
export function useAsked<T>(question: Question<T>): T | undefined {
  const workbench = useWorkbench();
  const questions = known.get(workbench) ?? new Map<Question<unknown>, Asked<unknown>>();
  known.set(workbench, questions);
  const asked = (questions.get(question) ?? new Asked(workbench, question)) as Asked<T>;
  questions.set(question, asked);
  return useSyncExternalStore(asked.subscribe, asked.snapshot);
}
