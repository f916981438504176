import { createContext, createElement, useContext, useSyncExternalStore, type ReactNode } from "react";
import type { Design } from "../api/client";
import { at } from "../lib/pointer";
import type { BuildState, OpenRevision, Workbench } from "./workbench";

export const WorkbenchContext = createContext<Workbench | null>(null);

export function useWorkbench(): Workbench {
  const workbench = useContext(WorkbenchContext);
  if (!workbench) throw new Error("outside of a build");
  return workbench;
}

const LiveContext = createContext(false);

/** What is in here follows a hand with every frame; everything else on the page some times a second, as fast as figures are read. */
export const Live = ({ when = true, children }: { when?: boolean; children: ReactNode }) =>
  createElement(LiveContext, { value: when }, children);

/** A part of the open build; the component renders again only when that part is another. */
export function usePart<T>(select: (build: BuildState) => T): T {
  return useSnapshot(select, useContext(LiveContext));
}

function useSnapshot<T>(select: (build: BuildState) => T, live: boolean): T {
  const workbench = useWorkbench();
  return useSyncExternalStore(live ? workbench.subscribeLive : workbench.subscribe, () =>
    select(workbench.snapshot()),
  );
}

function currentOf(build: BuildState): OpenRevision {
  const current = build.revisions.find((r) => r.letter === build.current);
  if (!current) throw new Error("a build without revisions");
  return current;
}

/** A part of the revision being edited. */
export const useCurrentPart = <T>(select: (revision: OpenRevision) => T): T =>
  usePart((b) => select(currentOf(b)));
export const useDocument = () => usePart((b) => currentOf(b).document);
/** What of the current document is told; drawn again only when that is another, then at once: a held key goes on from it. */
export const usePartOfDocument = <T>(select: (document: Design) => T): T =>
  useSnapshot((b) => select(currentOf(b).document), true);
/** One value of the current document. */
export const useValue = (pointer: string) => usePartOfDocument((document) => at(document, pointer));
export const useEvaluation = () => usePart((b) => currentOf(b).evaluation);
/** What was found last, in which document, and whether that has moved on since. */
export const useFound = () => {
  const found = usePart((b) => currentOf(b).found);
  const document = useDocument();
  return { list: found?.list, of: found?.in, behind: found?.in !== document };
};
/** Whether something of one of these kinds was found. */
export const useFoundAny = (kinds: string[]) =>
  usePart((b) => currentOf(b).found?.list.some((f) => kinds.includes(f.kind)) ?? false);
export const useProblem = () => usePart((b) => currentOf(b).problem);

export function useBuild(): BuildState {
  return usePart((b) => b);
}

/** The revision being edited; a build always has one. */
export function useCurrent(): OpenRevision {
  return usePart(currentOf);
}
