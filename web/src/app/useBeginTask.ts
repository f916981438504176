import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { api, get, Refused, type TourTask } from "../api/client";
import { builds, buildsAway } from "../api/queries";
import { begin, tourState } from "./tour";

/** Puts a practice build away; one that is gone already is no fault. */
export const away = (id: string) =>
  get(api.DELETE("/api/builds/{id}", { params: { path: { id } } })).catch(() => undefined);

/** Begins a task in a practice build of its own, so that nothing of the builder's is touched. */
export function useBeginTask() {
  const navigate = useNavigate();
  const client = useQueryClient();
  const [busy, setBusy] = useState(false);
  const [wrong, setWrong] = useState("");
  const start = async (task: TourTask) => {
    setBusy(true);
    setWrong("");
    try {
      const made = await get(
        api.POST("/api/builds", { body: { name: `Practice: ${task.title}`, document: task.start } }),
      );
      const before = tourState().trying?.build;
      begin(made.id, task.id);
      await navigate(`/builds/${made.id}/${task.station}`);
      // one practice build at a time stands on the bench
      if (before) await away(before);
      await Promise.all([client.invalidateQueries(builds()), client.invalidateQueries(buildsAway())]);
    } catch (cause) {
      setWrong(cause instanceof Refused ? cause.message : "That did not work.");
    }
    setBusy(false);
  };
  return { start, busy, wrong };
}
