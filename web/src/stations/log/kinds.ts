import type { LogEntry } from "../../api/client";

export type Kind = NonNullable<LogEntry["kind"]>;

/** What a builder writes: its name, what it is called, and what to write there. What the program writes is none of these. */
export const KINDS: [Kind, string, string][] = [
  ["note", "Note", "What was done, seen, changed"],
  ["mistake", "Mistake", "What went wrong, and what was done about it"],
  ["better", "Next time", "What you would do better"],
];

export const titleOf = (kind: Kind) =>
  kind === "remedy" ? "Remedy taken" : (KINDS.find(([id]) => id === kind)?.[1] ?? kind);
