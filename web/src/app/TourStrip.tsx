import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { useNavigate, useParams } from "react-router";
import { useAnswer } from "../api/answer";
import { api, get } from "../api/client";
import { builds, buildsAway, tour } from "../api/queries";
import { Button } from "../ui/Button";
import { Say } from "../ui/Say";
import { useDocument, useWorkbench } from "../workbench/context";
import { TaskSound } from "./TaskSound";
import { again, lasted, leave, reached, useTour } from "./tour";
import { away, useBeginTask } from "./useBeginTask";

/** A task being tried: what to do now, what came of what was done. Looks at the design, never at which button was pressed. */
export function TourStrip() {
  const { trying } = useTour();
  const { id } = useParams();
  const list = useQuery({ ...tour(), enabled: trying?.build === id }).data?.tasks ?? [];
  const task = list.find((t) => t.id === trying?.task);
  const workbench = useWorkbench();
  const document = useDocument();
  const navigate = useNavigate();
  const client = useQueryClient();
  const { start, busy, wrong } = useBeginTask();
  const open =
    task !== undefined && trying !== undefined && trying.build === id && trying.done < task.steps.length;
  const [done, name] = [trying?.done ?? 0, trying?.task ?? ""];
  const seen = useAnswer(
    "tour",
    open ? [name, done, document] : undefined,
    async (signal) => ({
      of: JSON.stringify(document),
      ...(await get(api.POST("/api/tour/progress", { body: { task: name, done, document }, signal }))),
    }),
    200,
  );
  const steps = task?.steps.length ?? 0;
  useEffect(() => {
    // an answer about an older design says nothing of this one
    if (open && seen?.of === JSON.stringify(document)) reached(seen.done, seen.told, steps);
  }, [open, seen, document, steps]);

  if (!trying || trying.build !== id || !task) return null;
  const back = () => {
    workbench.set("", task.start);
    again();
  };
  const quit = async () => {
    leave();
    await navigate("/");
    await away(trying.build);
    await Promise.all([client.invalidateQueries(builds()), client.invalidateQueries(buildsAway())]);
  };
  const step = task.steps[trying.done];
  const next = list[list.indexOf(task) + 1];
  return (
    <section
      aria-label="Task"
      className="col-span-full flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-oak bg-selected px-4 py-1.5"
    >
      <div className="min-w-0 flex-1 basis-80" role="status">
        {trying.told.map((told, i) => (
          <p key={i} className="text-verdigris">
            ✓ <Say text={told} />
          </p>
        ))}
        {step ? (
          <p>
            <b className="font-display">
              {task.title} · {trying.done + 1} of {steps}:
            </b>{" "}
            <Say text={step} />
          </p>
        ) : (
          <p>
            <b className="font-display">Done</b>
            {trying.ended ? ` in ${lasted(Math.round((trying.ended - trying.began) / 1000))}. ` : ". "}
            {task.teaches}
          </p>
        )}
        {task.plays && <TaskSound piece={task.plays} start={task.start} now={document} />}
        {wrong && (
          <p role="alert" className="text-brick">
            {wrong}
          </p>
        )}
      </div>
      {!step && next && (
        <Button look="strong" disabled={busy} onClick={() => void start(next)}>
          Next: {next.title}
        </Button>
      )}
      <Button look="action" className="bg-panel" onClick={back}>
        Put it all back
      </Button>
      <Button look="action" className="bg-panel" onClick={() => void quit()}>
        Leave it
      </Button>
    </section>
  );
}
