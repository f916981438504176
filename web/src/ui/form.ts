import { createContext, useContext, useMemo, useSyncExternalStore } from "react";
import type { FieldProblem } from "../api/client";
import { useSay } from "../app/settings";
import { at, set } from "../lib/pointer";
import { designSchema, type Schema } from "../lib/schema";
import { WorkbenchContext } from "../workbench/context";
import type { Workbench } from "../workbench/workbench";

/** What a form made from a schema edits: a document, what is wrong with it, and a way to change it. */
export type FormSource = {
  schema: Schema;
  subscribe: (listener: () => void) => () => void;
  document: () => unknown;
  problems: () => FieldProblem[] | undefined;
  set: (pointer: string, value: unknown, gesture?: string) => void;
  endGesture: () => void;
};

/** The form's own document, where it is not the build's current revision. */
export const FormContext = createContext<FormSource | null>(null);

function ofWorkbench(workbench: Workbench): FormSource {
  return {
    schema: designSchema,
    subscribe: workbench.subscribeLive,
    document: () => workbench.current?.document,
    problems: () => workbench.current?.problem?.errors,
    set: (pointer, value, gesture) => workbench.set(pointer, value, gesture),
    endGesture: () => workbench.endGesture(),
  };
}

export function useForm(): FormSource {
  const own = useContext(FormContext);
  const workbench = useContext(WorkbenchContext);
  const source = useMemo(() => own ?? (workbench && ofWorkbench(workbench)), [own, workbench]);
  if (!source) throw new Error("a form without a document");
  return source;
}

/** What a document says about something; drawn again only when that is another thing. */
export function useFormPart<T>(select: (document: unknown) => T): T {
  const form = useForm();
  return useSyncExternalStore(form.subscribe, () => select(form.document()));
}

/** One value of the form's document. */
export const useFormValue = (pointer: string): unknown => useFormPart((document) => at(document, pointer));

/** What is wrong with one field, in words. */
export function useFormProblem(pointer: string): string | undefined {
  const form = useForm();
  const say = useSay();
  const message = useSyncExternalStore(
    form.subscribe,
    () => form.problems()?.find((e) => e.pointer === pointer)?.message,
  );
  return message && say(message);
}

/** A document of its own, for forms outside of a build's revision. */
export class Draft<T> implements FormSource {
  private listeners = new Set<() => void>();
  private wrong: FieldProblem[] | undefined;

  constructor(
    readonly schema: Schema,
    private value: T,
    /** The saved version it was made from. */
    private base: number,
    private readonly changed?: (value: T, base: number) => void,
  ) {}

  /** What is changed from now on is made from this version. */
  rebase(version: number) {
    this.base = version;
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  document = (): T => this.value;
  problems = () => this.wrong;
  set = (pointer: string, value: unknown) => this.replace(set(this.value, pointer, value));
  endGesture = () => undefined;

  replace(value: T) {
    this.value = value;
    this.changed?.(value, this.base);
    this.listeners.forEach((listener) => listener());
  }

  say(problems: FieldProblem[] | undefined) {
    this.wrong = problems;
    this.listeners.forEach((listener) => listener());
  }
}
