import { createContext, useContext, useSyncExternalStore } from "react";
import type { Bench, OpenRevision, Workbench } from "./workbench";

export const WorkbenchContext = createContext<Workbench | null>(null);

export function useWorkbench(): Workbench {
  const workbench = useContext(WorkbenchContext);
  if (!workbench) throw new Error("outside of a build");
  return workbench;
}

export function useBench(): Bench {
  const workbench = useWorkbench();
  return useSyncExternalStore(workbench.subscribe, workbench.snapshot);
}

/** The revision being edited; a build always has one. */
export function useCurrent(): OpenRevision {
  const bench = useBench();
  const current = bench.revisions.find((r) => r.letter === bench.current);
  if (!current) throw new Error("a build without revisions");
  return current;
}
