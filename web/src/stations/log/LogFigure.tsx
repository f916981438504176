import { useInfiniteQuery } from "@tanstack/react-query";
import { log } from "../../api/queries";
import { usePart } from "../../workbench/context";
import { EVERYTHING } from "./filter";
import { useWaiting } from "./useLog";

/** What the rail tells of a log: how many entries, or how many still wait in this browser. */
export function LogFigure() {
  const build = usePart((b) => b.build.id);
  const count = useInfiniteQuery(log(build, EVERYTHING)).data?.pages[0]?.count;
  const waiting = useWaiting().length;
  if (waiting) return `${waiting} to be sent`;
  if (count === undefined) return "";
  return count ? `${count} ${count === 1 ? "entry" : "entries"}` : "not begun";
}
