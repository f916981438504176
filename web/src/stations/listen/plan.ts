// What is typed into the form of a session, and the session that comes of it.

import type { LevelMatch, ListeningSession, ListeningTest } from "../../api/client";

export type Kind = "abx" | "duo_trio" | "triangle" | "scores" | "pairs";

/** Whether a kind of test asks for a difference, and so is of two. */
export const isOfTwo = (kind: Kind): kind is "abx" | "duo_trio" | "triangle" =>
  kind === "abx" || kind === "duo_trio" || kind === "triangle";

export type Draft = {
  title: string;
  kind: Kind;
  trials: number;
  scales: string;
  times: number;
  candidates: { name: string; revision: string; setting: string }[];
  pieces: string[];
  /** Names of the listeners' own recordings, one a line. */
  own: string;
  switching: "program" | "helper";
  match: "model" | "measurement" | "noise" | "ear" | "none";
  /** The measurement of each, by its key. */
  measured?: string[];
  /** Of noise the readings, of the ear the trims, dB, as typed. */
  readings: string[];
  band: [number, number];
  tolerance: number;
  level: string;
};

export const KINDS: { id: Kind; title: string; asks: string }[] = [
  { id: "abx", title: "X is one of two: which?", asks: "Are they different?" },
  { id: "duo_trio", title: "One first, then two: which is it?", asks: "Are they different?" },
  { id: "triangle", title: "One of three is another: which?", asks: "Are they different?" },
  { id: "scores", title: "Scores on your own scales", asks: "Which is better?" },
  { id: "pairs", title: "Two at a time: which is better?", asks: "Which is better?" },
];

/** How a small field looks. */
export const box = "h-7 min-w-0 rounded-sm border border-rule bg-panel px-2";

export type Changes = { draft: Draft; change: (part: Partial<Draft>) => void };

export const SCALES = "deep, tight, loud, boomy, lively, overall";

export function fresh(revisions: { letter: string; name: string }[]): Draft {
  const two = [...revisions.slice(0, 2), ...revisions.slice(0, 1)].slice(0, 2);
  return {
    title: "",
    kind: "abx",
    trials: 16,
    scales: SCALES,
    times: 2,
    candidates: two.map((r, i) => ({
      name: revisions.length > 1 ? r.name || `Revision ${r.letter}` : ["As it is", "With a change"][i] || "",
      revision: r.letter,
      setting: "",
    })),
    pieces: ["walk", "drum"],
    own: "",
    switching: "helper",
    match: "model",
    readings: ["", ""],
    band: [0, 0],
    tolerance: 0.1,
    level: "",
  };
}

const number = (text: string | undefined) => (text?.trim() ? Number(text.replace(",", ".")) : NaN);

/** The level match that was typed, or found by the model or by measurements; what is missing in words. */
export function matched(
  draft: Draft,
  found: { band_hz: number[]; levels_db: number[]; trims_db: number[] } | undefined,
): LevelMatch | undefined | string {
  const count = draft.candidates.length;
  if (draft.match === "none") return undefined;
  if (draft.match === "model" || draft.match === "measurement") {
    if (!found)
      return draft.match === "model"
        ? "the model has not told the levels yet"
        : "a measurement of each is expected, all taken at one place";
    const { band_hz, levels_db, trims_db } = found;
    return {
      by: draft.match,
      band_hz: [band_hz[0] ?? 30, band_hz[1] ?? 120],
      levels_db,
      trims_db,
      tolerance_db: draft.tolerance,
    };
  }
  const read = Array.from({ length: count }, (_, i) => number(draft.readings[i]));
  if (read.some((v) => !Number.isFinite(v)))
    return draft.match === "noise" ? "a reading is expected for each" : "a trim is expected for each";
  if (draft.match === "ear") {
    // level to the ear: what each was turned by is what it was louder
    const levels_db = read.map((v) => (v === 0 ? 0 : -v));
    return { by: "ear", band_hz: [40, 40], levels_db, trims_db: read, tolerance_db: draft.tolerance };
  }
  const softest = Math.min(...read);
  const band_hz: [number, number] = [30, 120];
  return {
    by: "noise",
    band_hz,
    levels_db: read,
    trims_db: read.map((v) => softest - v),
    tolerance_db: draft.tolerance,
  };
}

/** The session a draft comes to, or what is missing. */
export function session(
  draft: Draft,
  match: LevelMatch | undefined,
  seed: number,
): ListeningSession | string {
  const scales = draft.scales
    .split(/[,\n]/)
    .map((s) => s.trim())
    .filter(Boolean);
  const own = draft.own
    .split("\n")
    .map((name) => name.trim())
    .filter(Boolean);
  if (draft.kind === "scores" && !scales.length) return "at least one scale is expected";
  if (!draft.pieces.length && !own.length) return "something to play is expected";
  if (isOfTwo(draft.kind) && draft.candidates.length !== 2)
    return "whether they are different is asked of two";
  const level = number(draft.level);
  return {
    title: draft.title.trim() || draft.candidates.map((c) => c.name).join(" against "),
    test: isOfTwo(draft.kind)
      ? { kind: "difference", method: draft.kind, trials: draft.trials }
      : draft.kind === "scores"
        ? { kind: "scores", scales }
        : { kind: "pairs", times: draft.times },
    candidates: draft.candidates.map((c) => ({
      name: c.name.trim(),
      ...(c.revision && { revision: c.revision }),
      ...(c.setting.trim() && { setting: c.setting.trim() }),
    })),
    pieces: [
      ...draft.pieces.map((id) => ({ kind: "shipped" as const, id })),
      ...own.map((name) => ({ kind: "own" as const, name })),
    ],
    switching: draft.switching,
    ...(match && { matched: match }),
    ...(Number.isFinite(level) && { level_db: level }),
    seed,
  };
}

/** Letters on the envelopes of a hearing, by the kind of trial where it is one of right and wrong. */
export function letters(method: string | undefined, count: number): string[] {
  if (method === "abx") return ["A", "B", "X"];
  if (method === "duo_trio") return ["R", "1", "2"];
  if (method === "triangle") return ["1", "2", "3"];
  return ["P", "Q", "R", "S", "T", "U"].slice(0, count);
}

/** The kind of trial of a session of right and wrong. */
export const methodOf = ({ test }: { test: ListeningTest }) =>
  test.kind === "difference" ? test.method : undefined;
