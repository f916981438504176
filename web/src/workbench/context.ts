import { createContext, useContext, useSyncExternalStore } from "react";
import { at } from "../lib/pointer";
import type { Bench, OpenRevision, Workbench } from "./workbench";

export const WorkbenchContext = createContext<Workbench | null>(null);

export function useWorkbench(): Workbench {
  const workbench = useContext(WorkbenchContext);
  if (!workbench) throw new Error("outside of a build");
  return workbench;
}

/** A part of the bench; the component renders again only when that part is another. */
export function usePart<T>(select: (bench: Bench) => T): T {
  const workbench = useWorkbench();
  return useSyncExternalStore(workbench.subscribe, () => select(workbench.snapshot()));
}

function currentOf(bench: Bench): OpenRevision {
  const current = bench.revisions.find((r) => r.letter === bench.current);
  if (!current) throw new Error("a build without revisions");
  return current;
}

export const useDocument = () => usePart((b) => currentOf(b).document);
/** One value of the current document. */
export const useValue = (pointer: string) => usePart((b) => at(currentOf(b).document, pointer));
export const useEvaluation = () => usePart((b) => currentOf(b).evaluation);
export const useProblem = () => usePart((b) => currentOf(b).problem);

export function useBench(): Bench {
  const workbench = useWorkbench();
  return useSyncExternalStore(workbench.subscribe, workbench.snapshot);
}

/** The revision being edited; a build always has one. */
export function useCurrent(): OpenRevision {
  return usePart(currentOf);
}
