import { Popover } from "radix-ui";
import { useMemo } from "react";
import { type ShelfLine } from "../../../api/client";
import { COLUMNS } from "../../../lib/shelf";
import { Button } from "../../../ui/Button";
import { choose, narrow, useChoice } from "./filter";

import type { Open } from "./Rows";

/** What narrows the shelf, and what is done with all of it. */
export function Tools({ lines, open }: { lines: ShelfLine[]; open: Open }) {
  const { filter, columns, ranges } = useChoice();
  const tags = useMemo(() => [...new Set(lines.flatMap((l) => l.row.tags))].sort(), [lines]);
  const field = "rounded-sm border border-rule bg-panel px-2 py-1";
  return (
    <div className="flex shrink-0 flex-wrap items-center gap-2 pb-2">
      <input
        type="search"
        data-search
        aria-label="Search the shelf"
        placeholder="Name, maker, tag ( / )"
        value={filter.text}
        onChange={(e) => narrow({ text: e.target.value })}
        className={`${field} w-44`}
      />
      <button
        type="button"
        aria-pressed={filter.favourites}
        className={`${field} ${filter.favourites ? "border-oak font-semibold" : "text-soft"}`}
        onClick={() => narrow({ favourites: !filter.favourites })}
      >
        ★ only
      </button>
      {tags.length > 0 && (
        <select
          aria-label="Tag"
          value={filter.tag}
          onChange={(e) => narrow({ tag: e.target.value })}
          className={field}
        >
          <option value="">any tag</option>
          {tags.map((tag) => (
            <option key={tag}>{tag}</option>
          ))}
        </select>
      )}
      <button
        type="button"
        aria-pressed={ranges}
        className={`${field} ${ranges ? "border-oak font-semibold" : "text-soft"}`}
        onClick={() => choose({ ranges: !ranges })}
      >
        From – to
      </button>
      <Popover.Root>
        <Popover.Trigger className={`${field} text-soft`}>Columns</Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={4}
            className="z-40 grid grid-cols-2 gap-x-4 gap-y-1 rounded-sm border border-rule bg-panel p-3"
          >
            {COLUMNS.map((c) => (
              <label key={c.id} className="flex items-center gap-1.5" title={c.help}>
                <input
                  type="checkbox"
                  className="accent-oak"
                  checked={columns.includes(c.id)}
                  onChange={(e) =>
                    choose({
                      columns: e.target.checked ? [...columns, c.id] : columns.filter((x) => x !== c.id),
                    })
                  }
                />
                {c.title}
              </label>
            ))}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      <span className="flex-1" />
      <Button look="action" onClick={() => open({ file: "1" })}>
        Files in and out
      </Button>
      <Button look="strong" onClick={() => open({ sheet: "new" })}>
        New woofer
      </Button>
    </div>
  );
}
