// What can be undone and redone of a document: a list of earlier states and one of later ones.

export type Trail<T> = { undo: T[]; redo: T[] };
export type Stepped<T> = Trail<T> & { document: T };

/** After a change of `before`; one that goes on with the last gesture undoes together with it. */
export function recorded<T>(trail: Trail<T>, before: T, goesOn: boolean): Trail<T> {
  return { undo: goesOn ? trail.undo : [...trail.undo, before], redo: [] };
}

/** One step back from `now`; undefined where there is none. */
export function undone<T>({ undo, redo }: Trail<T>, now: T): Stepped<T> | undefined {
  if (!undo.length) return undefined;
  return { document: undo[undo.length - 1] as T, undo: undo.slice(0, -1), redo: [...redo, now] };
}

/** One step forward from `now`; undefined where there is none. */
export function redone<T>({ undo, redo }: Trail<T>, now: T): Stepped<T> | undefined {
  if (!redo.length) return undefined;
  return { document: redo[redo.length - 1] as T, undo: [...undo, now], redo: redo.slice(0, -1) };
}
