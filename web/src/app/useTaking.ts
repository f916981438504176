import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useRef } from "react";
import { useParams } from "react-router";
import { api, type Finding, type Remedy } from "../api/client";
import { useWorkbench } from "../workbench/context";
import { newKey, outbox } from "../workbench/outbox";
import { said } from "../lib/said";
import { useSettings } from "./settings";

/** Takes remedies and takes them back: one that is taken stands in the log, one that is taken back does not. */
export function useTaking() {
  const workbench = useWorkbench();
  const client = useQueryClient();
  const { id: build = "" } = useParams();
  const { system } = useSettings();
  const written = useRef<string>(undefined);
  const take = useCallback(
    (f: Finding, r: Remedy) => {
      const revision = workbench.current?.letter;
      workbench.take(r.title, r.changes);
      const key = newKey();
      written.current = key;
      const entry = {
        kind: "remedy" as const,
        text: said(r.title, system),
        tied: { revision, finding: f.kind },
      };
      void outbox.put({ id: key, build, base_version: 0, entry, photos: [] });
    },
    [workbench, build, system],
  );
  const takeBack = useCallback(async () => {
    workbench.takeBack();
    const key = written.current;
    written.current = undefined;
    if (!key || (await outbox.takeBack(key))) return;
    await api.DELETE("/api/log/{id}", { params: { path: { id: key } } }).catch(() => undefined);
    await client.invalidateQueries({ queryKey: ["log", build] });
  }, [workbench, client, build]);
  return { take, takeBack };
}
