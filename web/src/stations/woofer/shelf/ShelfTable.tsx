import { useDeferredValue, useMemo, useState } from "react";
import { type ShelfLine } from "../../../api/client";
import { COLUMNS, NO_FILTER, passes, sorted } from "../../../lib/shelf";
import { Button } from "../../../ui/Button";
import { choose, narrowed, useChoice } from "./filter";

import { Rows, type Open } from "./Rows";
import { Tools } from "./Tools";

const MOST_COMPARED = 4;

/** The shelf as a table. */
export function ShelfTable({ lines, open }: { lines: ShelfLine[]; open: Open }) {
  const choice = useChoice();
  const filter = useDeferredValue(choice.filter);
  const [chosen, setChosen] = useState<string[]>([]);
  const list = useMemo(
    () =>
      sorted(
        lines.filter((line) => passes(line, filter)),
        choice.order,
      ),
    [lines, filter, choice.order],
  );
  const columns = COLUMNS.filter((c) => choice.columns.includes(c.id));
  const toggle = (id: string) =>
    setChosen((old) => (old.includes(id) ? old.filter((x) => x !== id) : [...old, id].slice(-MOST_COMPARED)));
  return (
    <>
      <Tools lines={lines} open={open} />
      <Rows
        list={list}
        columns={columns}
        chosen={chosen}
        toggle={toggle}
        open={open}
        ranges={choice.ranges}
      />
      <footer className="flex h-8 shrink-0 items-center gap-3 pt-1 text-soft">
        <span role="status">
          {list.length} of {lines.length} woofers
        </span>
        {narrowed(choice.filter) && (
          <button type="button" className="text-oak underline" onClick={() => choose({ filter: NO_FILTER })}>
            show all
          </button>
        )}
        <span className="flex-1" />
        {chosen.length > 0 && <span>{chosen.length} picked, at most 4</span>}
        <Button
          look="action"
          disabled={chosen.length < 2}
          onClick={() => open({ compare: chosen.join(",") })}
        >
          Lay side by side
        </Button>
      </footer>
    </>
  );
}
