import { useState } from "react";
import type { Begin, PurposeInfo } from "../../api/client";
import { beginSchema } from "../../lib/schema";
import { Draft } from "../../ui/form";

export type Purpose = PurposeInfo["purpose"];

/** The figures of a beginning: what the amplifier gives, the space, the money, the tools. */
export type Limits = Pick<Begin, "gives" | "space" | "budget" | "sawn_by">;

/** What was said so far of a build that is about to begin. */
export type Thought = {
  name: string;
  purpose?: Purpose | undefined;
  /** Where the woofer comes from: the shelf, its sheet typed in, a file. */
  from: "shelf" | "sheet" | "file";
  /** Of the shelf. */
  woofer: string;
  /** Of the shelf, or known by its power alone. */
  amplifier: string;
  /** What an empty bench begins with. */
  family: string;
  limits: Limits;
};

/** An amplifier of which the power alone is known. */
export const BY_POWER = "by its power";

const KEY = "oak-drum.begin";
const FRESH: Thought = { name: "", from: "shelf", woofer: "", amplifier: "", family: "vented", limits: {} };

function read(): Thought {
  try {
    return { ...FRESH, ...(JSON.parse(localStorage.getItem(KEY) ?? "{}") as Partial<Thought>) };
  } catch {
    return FRESH;
  }
}

/** What is said stays in the browser until a build has come of it, closed or not. */
export function useThought() {
  const [thought, set] = useState(read);
  const put = (part: Partial<Thought>) =>
    set((before) => {
      const after = { ...before, ...part };
      localStorage.setItem(KEY, JSON.stringify(after));
      return after;
    });
  const [limits] = useState(
    () => new Draft<Limits>(beginSchema, thought.limits, 0, (l) => put({ limits: l })),
  );
  const forget = () => localStorage.removeItem(KEY);
  return { thought, put, limits, forget };
}
