import { useSyncExternalStore } from "react";
import type { Design } from "../api/client";
import { Asker } from "./asker";
import { useWorkbench } from "./context";
import type { Workbench } from "./workbench";

export type Question<T> = (document: Design, signal: AbortSignal) => Promise<T>;

/** A question kept up with the current document, for everybody on the page who shows its answer. */
class Asked<T> {
  private listeners = new Set<() => void>();
  private answer: T | undefined;
  private leave: (() => void) | undefined;
  private readonly asker: Asker<Design, T>;

  constructor(
    private readonly workbench: Workbench,
    ask: Question<T>,
    restMs: number,
  ) {
    this.asker = new Asker({
      ask,
      restMs,
      got: (answer) => {
        this.answer = answer;
        workbench.paint(() => this.listeners.forEach((listener) => listener()));
      },
    });
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    if (!this.leave) {
      const want = () => {
        const about = this.workbench.current?.document;
        if (about) this.asker.want(about);
      };
      this.leave = this.workbench.subscribeEarly(want);
      want();
    }
    return () => {
      this.listeners.delete(listener);
      if (this.listeners.size) return;
      this.leave?.();
      this.leave = undefined;
      this.asker.stop();
    };
  };
  snapshot = () => this.answer;
}

const known = new WeakMap<Workbench, Map<Question<unknown>, unknown>>();

/**
 * What the server answers to a question (one function, the same each time) about the current document, at once or when that has
 * rested.
 */
export function useAsked<T>(question: Question<T>, restMs = 0): T | undefined {
  const workbench = useWorkbench();
  const questions = known.get(workbench) ?? new Map<Question<unknown>, unknown>();
  known.set(workbench, questions);
  const asked = (questions.get(question) ?? new Asked(workbench, question, restMs)) as Asked<T>;
  questions.set(question, asked);
  return useSyncExternalStore(asked.subscribe, asked.snapshot);
}
