import { api, get, type Quiet } from "../../api/client";
import { useAsked, type Question } from "../../workbench/asked";

const question: Question<Quiet> = (body, signal) => get(api.POST("/api/quiet", { body, signal }));

/** Standing waves, fill, panels and leaks of the revision being edited. */
export const useQuiet = (): Quiet | undefined => useAsked(question);

/** What a lining begins with: that of the lined school. */
export const liningSeed = (quiet: Quiet) => (pointer: string) =>
  quiet.fills?.schools.flatMap((s) => s.changes).find((c) => c.pointer === pointer && c.value !== null)
    ?.value;
