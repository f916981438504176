// The field's terms, made from the core's list.

import list from "../../../docs/glossary.json";

export type Drawing = {
  width: number;
  height: number;
  lines: { d: string; look: string }[];
  words: { x: number; y: number; anchor: string; text: string }[];
  tells: string;
};

export type Term = {
  id: string;
  name: string;
  also: string[];
  says: string;
  source: string;
  families: string[];
  fields: string[];
  figures: string[];
  findings: string[];
  drawing?: Drawing;
  /** Where it is met. */
  station: string;
};

export const TERMS: Term[] = list.stations.flatMap((s) =>
  s.terms.map((t): Term => ({ ...t, station: s.station })),
);

const by = (names: (t: Term) => string[]) => new Map(TERMS.flatMap((t) => names(t).map((n) => [n, t])));
const byFamily = by((t) => t.families);
const byField = by((t) => t.fields);
const byFigure = by((t) => t.figures);
const byFinding = by((t) => t.findings);
const byId = by((t) => [t.id]);

/** The term that explains a field, by the last part of its pointer. */
export const termOfField = (pointer: string | undefined): Term | undefined =>
  pointer === undefined ? undefined : byField.get(pointer.slice(pointer.lastIndexOf("/") + 1));

/** The term that explains an enclosure family. */
export const termOfFamily = (id: string): Term | undefined => byFamily.get(id);

/** The term that explains a figure or a lane. */
export const termOfFigure = (id: string): Term | undefined => byFigure.get(id);

/** The term a finding is about, by the rule that found it. */
export const termOfFinding = (kind: string): Term | undefined => byFinding.get(kind);

export const termOf = (id: string): Term | undefined => byId.get(id);

/** Whether every word stands somewhere in a term; whole names before parts of sentences when they are ordered by this. */
export function termFits(t: Term, words: string): boolean {
  const text = `${t.name} ${t.also.join(" ")} ${t.says}`.toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}

/** Those that fit, the ones called so first. */
export function termsFor(words: string): Term[] {
  const wanted = words.trim().toLowerCase();
  const called = (t: Term) => [t.name, ...t.also].some((n) => n.toLowerCase().startsWith(wanted));
  const found = TERMS.filter((t) => termFits(t, wanted));
  return wanted ? [...found.filter(called), ...found.filter((t) => !called(t))] : found;
}
