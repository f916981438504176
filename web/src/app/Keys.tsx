import { useEffect, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { STATIONS } from "../stations/stations";
import { Modal } from "../ui/Modal";
import { soon } from "./focus";
import { useWorkbench } from "../workbench/context";

/** Keys of the stations, as they lie on a keyboard. */
const ROW = "1234567890-";

const SHEET: [string, string][] = [
  ["1 to 9, 0, -", "stations"],
  ["[ and ]", "the revision before, the one after"],
  ["C", "copy this revision and go on with the copy"],
  ["/", "search the shelf"],
  ["Ctrl Z, Ctrl Shift Z", "undo, redo"],
  ["Arrow up, down in a number", "nudge; Shift coarse, Alt fine"],
  ["Arrow left, right on the lanes", "move the reading line"],
  ["G while dragging", "keep the old curves as a ghost"],
  ["Ctrl K", "go to, do or set anything by its name"],
  ["?", "this sheet"],
];

function focusSearch(): boolean {
  const field = document.querySelector<HTMLElement>("[data-search]");
  field?.focus();
  return Boolean(field);
}

/** Opens the sheet from elsewhere, as its key does. */
export const openKeys = () => dispatchEvent(new Event("oak-drum.keys"));

/** The keys that work everywhere in a build. */
export function Keys() {
  const workbench = useWorkbench();
  const navigate = useNavigate();
  const { id } = useParams();
  const [open, setOpen] = useState(false);

  useEffect(() => {
    const typing = (e: KeyboardEvent) =>
      e.target instanceof HTMLElement && e.target.closest("input, textarea, select, [role=dialog]") !== null;
    const down = (e: KeyboardEvent) => {
      if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === "z") {
        const field =
          e.target instanceof HTMLTextAreaElement ||
          (e.target instanceof HTMLInputElement && e.target.type === "search");
        if (field) return;
        e.preventDefault();
        if (e.shiftKey) workbench.redo();
        else workbench.undo();
        return;
      }
      if (e.ctrlKey || e.metaKey || e.altKey || typing(e)) return;
      const station = STATIONS[ROW.indexOf(e.key)];
      if (station) void navigate(`/builds/${id}/${station.id}`);
      else if (e.key === "[") workbench.step(-1);
      else if (e.key === "]") workbench.step(1);
      else if (e.key === "c") void workbench.copy().catch(() => undefined);
      else if (e.key === "?") setOpen(true);
      else if (e.key === "g" && !e.repeat) workbench.holdGhost(true);
      else if (e.key === "/") {
        e.preventDefault();
        if (!focusSearch())
          void Promise.resolve(navigate(`/builds/${id}/woofer/shelf`)).then(() => soon(focusSearch));
      }
    };
    const up = (e: KeyboardEvent) => {
      if (e.key === "g") workbench.holdGhost(false);
    };
    addEventListener("keydown", down);
    const sheet = () => setOpen(true);
    addEventListener("keyup", up);
    addEventListener("oak-drum.keys", sheet);
    return () => {
      removeEventListener("keydown", down);
      removeEventListener("keyup", up);
      removeEventListener("oak-drum.keys", sheet);
    };
  }, [workbench, navigate, id]);

  return (
    <Modal title="Keys" open={open} onOpenChange={setOpen}>
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
        {SHEET.map(([key, does]) => (
          <div key={key} className="contents">
            <dt className="font-mono">{key}</dt>
            <dd className="text-soft">{does}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-3">
        <Link to="/terms" className="text-oak underline">
          Every term, explained and drawn
        </Link>
      </p>
    </Modal>
  );
}
