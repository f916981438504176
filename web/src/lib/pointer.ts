// JSON pointers (RFC 6901) into design documents, without changing the document that is there.

export type Json = null | boolean | number | string | Json[] | { [key: string]: Json | undefined };
export type Change = { pointer: string; value: unknown };

function parts(pointer: string): string[] {
  return pointer === ""
    ? []
    : pointer
        .slice(1)
        .split("/")
        .map((p) => p.replaceAll("~1", "/").replaceAll("~0", "~"));
}

export function at(document: unknown, pointer: string): unknown {
  let here = document;
  for (const key of parts(pointer)) {
    if (typeof here !== "object" || here === null) return undefined;
    here = (here as Record<string, unknown>)[key];
  }
  return here;
}

/** A copy with one place set; undefined or null takes a member away. Parents that are missing are made. */
export function set<T>(document: T, pointer: string, value: unknown): T {
  const [key, ...rest] = parts(pointer);
  if (key === undefined) return value as T;
  const copy = (Array.isArray(document) ? [...(document as unknown[])] : { ...document }) as Record<
    string,
    unknown
  >;
  const inner = rest.length ? set(copy[key], `/${rest.join("/")}`, value) : value;
  if (inner === undefined || inner === null) {
    if (Array.isArray(copy)) copy.splice(Number(key), 1);
    else delete copy[key];
  } else copy[key] = inner;
  return copy as T;
}

export function apply<T>(document: T, changes: Change[]): T {
  return changes.reduce((doc, change) => set(doc, change.pointer, change.value), document);
}
