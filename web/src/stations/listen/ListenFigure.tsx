import { useQuery } from "@tanstack/react-query";
import { listening } from "../../api/queries";
import { usePart } from "../../workbench/context";

/** What the rail tells of listening: the code of the session that runs, or how many there were. */
export function ListenFigure() {
  const build = usePart((b) => b.build.id);
  const list = useQuery(listening(build)).data;
  if (!list) return "";
  const running = list.find((s) => !s.ended_at);
  if (running) return `runs: ${running.code}`;
  return list.length ? `${list.length} ${list.length === 1 ? "session" : "sessions"}` : "not begun";
}
