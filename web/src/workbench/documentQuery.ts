import { useSyncExternalStore } from "react";
import type { Design } from "../api/client";
import { Asker } from "./asker";
import { useWorkbench } from "./context";
import type { OpenRevision, Workbench } from "./workbench";

/** What the server is asked about something of the current revision: its document, or that with more. */
export type Question<T, A extends object = Design> = (about: A, signal: AbortSignal) => Promise<T>;

/** When it is asked: once what it is about has rested, or so often at most. A number is how long it rests. */
type Pace = { restMs?: number; everyMs?: number };

/** A question kept up with the current document, for everybody on the page who shows its answer. */
class DocumentQuery<T, A extends object> {
  private listeners = new Set<() => void>();
  private answer: T | undefined;
  private leave: (() => void) | undefined;
  private readonly asker: Asker<A, T>;

  constructor(
    private readonly workbench: Workbench,
    ask: Question<T, A>,
    private readonly about: (revision: OpenRevision) => A,
    pace: Pace,
  ) {
    this.asker = new Asker({
      ask,
      ...pace,
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
        const revision = this.workbench.current;
        if (revision) this.asker.want(this.about(revision));
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

const known = new WeakMap<Workbench, Map<unknown, unknown>>();

/**
 * What the server answers to a question (one function, the same each time) about the current document, at once or when that has
 * rested.
 */
export const useDocumentQuery = <T>(question: Question<T>, pace: Pace | number = 0): T | undefined =>
  useQueryAbout(question, documentOf, pace);

const documentOf = (revision: OpenRevision) => revision.document;

/** The same about another part of the current revision, which is the same object as long as it says the same. */
export function useQueryAbout<T, A extends object>(
  question: Question<T, A>,
  about: (revision: OpenRevision) => A,
  pace: Pace | number = 0,
): T | undefined {
  const workbench = useWorkbench();
  const questions = known.get(workbench) ?? new Map<unknown, unknown>();
  known.set(workbench, questions);
  const asked = (questions.get(question) ??
    new DocumentQuery(
      workbench,
      question,
      about,
      typeof pace === "number" ? { restMs: pace } : pace,
    )) as DocumentQuery<T, A>;
  questions.set(question, asked);
  return useSyncExternalStore(asked.subscribe, asked.snapshot);
}
