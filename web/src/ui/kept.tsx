import { useState, useSyncExternalStore } from "react";
import { Refused } from "../api/client";
import { useSay } from "../app/settings";
import type { Schema } from "../lib/schema";
import { Draft } from "./form";

type Unsaved<T> = { version: number; document: T };

function read<T>(key: string): Unsaved<T> | undefined {
  try {
    return JSON.parse(localStorage.getItem(key) ?? "null") as Unsaved<T> | undefined;
  } catch {
    return undefined;
  }
}

export type Kept<T> = {
  draft: Draft<T>;
  document: T;
  /** What is to be said about it now. */
  said: string;
  /** What another saved in the meantime. */
  theirs: Unsaved<T> | null;
  keep: (base?: number) => Promise<boolean>;
  takeTheirs: () => void;
};

/**
 * A record of the shelf being edited: what is typed stays in the browser until it is kept, a save names the version it was made
 * from, and where another came first one chooses.
 */
export function useKept<T>({
  key,
  schema,
  begin,
  version: stored,
  what,
  send,
}: {
  key: string;
  schema: Schema;
  begin: T;
  version: number;
  /** What it is, in a word. */
  what: string;
  /** Sends it, made from a version; answers with its name and its new version. */
  send: (document: T, base: number) => Promise<{ name: string; version: number }>;
}): Kept<T> {
  const say = useSay();
  const [version, setVersion] = useState(() => read<T>(key)?.version ?? stored);
  const [draft] = useState(
    () =>
      new Draft<T>(schema, read<T>(key)?.document ?? begin, version, (document, base) =>
        localStorage.setItem(key, JSON.stringify({ version: base, document } satisfies Unsaved<T>)),
      ),
  );
  const document = useSyncExternalStore(draft.subscribe, draft.document);
  const [said, setSaid] = useState<string | null>(null);
  const [theirs, setTheirs] = useState<Unsaved<T> | null>(null);
  const keep = async (base = version): Promise<boolean> => {
    try {
      const made = await send(document, base);
      localStorage.removeItem(key);
      draft.say(undefined);
      setTheirs(null);
      setVersion(made.version);
      draft.rebase(made.version);
      setSaid(`${made.name} is kept.`);
      return true;
    } catch (cause) {
      const problem = cause instanceof Refused ? cause.problem : undefined;
      if (problem?.status === 409 && problem.current) {
        setTheirs({ version: problem.version ?? 0, document: problem.current as unknown as T });
        setSaid(`This ${what} was saved elsewhere in the meantime.`);
      } else {
        draft.say(problem?.errors);
        const first = problem?.errors?.[0]?.message;
        setSaid(
          first
            ? `Not kept: ${say(first)}`
            : "Not kept: the server does not answer. What you typed stays here.",
        );
      }
      return false;
    }
  };
  const takeTheirs = () => {
    if (!theirs) return;
    draft.rebase(theirs.version);
    draft.replace(theirs.document);
    setVersion(theirs.version);
    setTheirs(null);
    localStorage.removeItem(key);
  };
  return {
    draft,
    document,
    said: said ?? (read(key) ? "changed, not kept yet" : ""),
    theirs,
    keep,
    takeTheirs,
  };
}

/** The choice between what another saved and what is typed here. */
export function Theirs<T>({ kept }: { kept: Kept<T> }) {
  const { theirs, keep, takeTheirs } = kept;
  if (!theirs) return null;
  return (
    <p role="alert" className="mb-2 border-l-2 border-brick pl-2">
      Version {theirs.version} was saved elsewhere.{" "}
      <button type="button" className="text-oak underline" onClick={takeTheirs}>
        Take what stands there
      </button>{" "}
      or{" "}
      <button type="button" className="text-oak underline" onClick={() => void keep(theirs.version)}>
        keep mine over it
      </button>
      .
    </p>
  );
}
