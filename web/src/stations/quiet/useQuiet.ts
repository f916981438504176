import { api, get, type Quiet } from "../../api/client";
import { postJson } from "../../api/courier";
import { useDocumentQuery, type Question } from "../../workbench/documentQuery";
import { RESTED_MS } from "../../workbench/asker";

const waves: Question<Quiet> = (body, signal) => postJson<Quiet>("/api/quiet?waves_alone=true", body, signal);
const whole: Question<Quiet> = (body, signal) => get(api.POST("/api/quiet", { body, signal }));

/** Standing waves and proportions of the revision being edited: they follow the hand. */
export const useWaves = (): Quiet | undefined => useDocumentQuery(waves);

/** Standing waves, fill, panels and leaks, once the hand rests. */
export const useQuiet = (): Quiet | undefined => useDocumentQuery(whole, RESTED_MS);

/** What a lining begins with: that of the lined school. */
export const liningSeed = (quiet: Quiet) => (pointer: string) =>
  quiet.fills?.schools.flatMap((s) => s.changes).find((c) => c.pointer === pointer && c.value !== null)
    ?.value;
