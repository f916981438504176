import { useQuery } from "@tanstack/react-query";
import { api, get } from "../../api/client";
import type { Draft } from "./plan";

/** What brings what is heard to one level, by the model or by measurements, as the draft has it. */
export function useLevels(draft: Draft, revisions: { letter: string; document: object; savedAt: string }[]) {
  const chosen = draft.candidates.map((c) => revisions.find((r) => r.letter === c.revision));
  const documents = chosen.flatMap((r) => (r ? [r.document] : []));
  const measurements = draft.candidates.flatMap((_, i) => draft.measured?.[i] || []);
  const byModel = draft.match === "model";
  const all = byModel ? documents : measurements;
  return useQuery({
    queryKey: ["match", byModel, all],
    queryFn: () =>
      byModel
        ? get(api.POST("/api/listening/match", { body: { documents: documents as never } }))
        : get(api.POST("/api/listening/match/measured", { body: { measurements } })),
    enabled: (byModel || draft.match === "measurement") && all.length === draft.candidates.length,
    staleTime: Infinity,
    retry: false,
  });
}

export type Levels = ReturnType<typeof useLevels>;
