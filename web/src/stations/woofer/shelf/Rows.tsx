import { useQueryClient } from "@tanstack/react-query";
import { useVirtualizer } from "@tanstack/react-virtual";
import { memo, useRef } from "react";
import { api, get, type ShelfLine } from "../../../api/client";
import { woofer, woofers } from "../../../api/queries";
import { printUnit, read, show, tidy, type System } from "../../../lib/quantity";
import { sheetInUse, type Column } from "../../../lib/shelf";
import { useSettings } from "../../../app/settings";
import { useDocument, useWorkbench } from "../../../workbench/context";
import { choose, narrow, useChoice } from "./filter";

const ROW = 28;
const NAME = "minmax(180px,1fr)";
const NARROW = "63px";

/** Opens another part of the shelf, named in the address. */
export type Open = (what: Record<string, string>) => void;

type RowsProps = {
  list: ShelfLine[];
  columns: Column[];
  chosen: string[];
  toggle: (id: string) => void;
  open: Open;
  ranges: boolean;
};

/** The woofers of the shelf, only those in view being drawn. */
export function Rows({ list, columns, chosen, toggle, open, ranges }: RowsProps) {
  const scroll = useRef<HTMLDivElement>(null);
  const { system } = useSettings();
  const { order } = useChoice();
  // eslint-disable-next-line react-hooks/incompatible-library -- the rows are memoised by their own line
  const rows = useVirtualizer({
    count: list.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const grid = `24px 24px ${NAME} ${columns.map(() => NARROW).join(" ")} 40px`;
  const least = 24 + 24 + 180 + columns.length * 63 + 40;
  const sortBy = (by: Column["id"]) => choose({ order: { by, down: order.by === by ? !order.down : false } });
  const arrow = (by: string) => (order.by === by ? (order.down ? " ↓" : " ↑") : "");
  const sort = (by: string) => (order.by === by ? (order.down ? "descending" : "ascending") : "none");
  return (
    <div
      ref={scroll}
      tabIndex={0}
      aria-label="Woofers"
      className="min-h-56 flex-1 overflow-auto border-y border-rule"
    >
      <div role="table" aria-rowcount={list.length} style={{ minWidth: least }}>
        <div role="rowgroup" className="sticky top-0 z-10 bg-ground">
          <div
            role="row"
            className="grid items-end border-b border-rule text-xs text-soft"
            style={{ gridTemplateColumns: grid }}
          >
            <span role="columnheader">
              <span className="sr-only">Picked</span>
            </span>
            <span role="columnheader">
              <span className="sr-only">Favourite</span>
            </span>
            <span role="columnheader" aria-sort={sort("name")}>
              <button type="button" className="py-1 hover:text-ink" onClick={() => sortBy("name")}>
                name{arrow("name")}
              </button>
            </span>
            {columns.map((c) => (
              <span key={c.id} role="columnheader" aria-sort={sort(c.id)} className="text-right">
                <button
                  type="button"
                  title={c.help}
                  className="py-1 hover:text-ink"
                  onClick={() => sortBy(c.id)}
                >
                  {c.title} <span className="text-soft">{printUnit(c.unit)}</span>
                  {arrow(c.id)}
                </button>
              </span>
            ))}
            <span role="columnheader">
              <span className="sr-only">Into the build</span>
            </span>
          </div>
          {ranges && (
            <div role="row" className="grid border-b border-rule pb-1" style={{ gridTemplateColumns: grid }}>
              <span role="cell" className="col-span-3 text-xs text-soft">
                from, to
              </span>
              {columns.map((c) => (
                <span role="cell" key={c.id} className="flex flex-col items-end gap-0.5">
                  {c.range && <Range column={c} />}
                </span>
              ))}
            </div>
          )}
        </div>
        <div role="rowgroup" className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map((item) => {
            const line = list[item.index];
            return (
              line && (
                <Row
                  key={line.id}
                  line={line}
                  top={item.start}
                  index={item.index}
                  grid={grid}
                  columns={columns}
                  picked={chosen.includes(line.id)}
                  toggle={toggle}
                  open={open}
                  system={system}
                />
              )
            );
          })}
        </div>
      </div>
      {list.length === 0 && (
        <p className="p-3 text-soft">
          Nothing on the shelf fits. Widen the ranges, or read a file of woofers in.
        </p>
      )}
    </div>
  );
}

/** From and to of one column, in its unit; what is no number stays as typed and narrows nothing. */
function Range({ column }: { column: Column }) {
  const { filter } = useChoice();
  const range = filter.ranges[column.id] ?? [undefined, undefined];
  return (["from", "to"] as const).map((end, i) => (
    <input
      key={end}
      aria-label={`${column.title} ${end}`}
      placeholder={end}
      defaultValue={range[i] ?? ""}
      className="w-[56px] rounded-sm border border-rule bg-panel px-1 text-right font-mono text-xs"
      onChange={(e) => {
        const text = e.target.value.trim();
        const found = text === "" ? { value: undefined } : read(text, column.unit);
        const wrong = "error" in found;
        e.target.setAttribute("aria-invalid", String(wrong));
        e.target.classList.toggle("text-brick", wrong);
        if (wrong) return;
        const next: [number | undefined, number | undefined] = [range[0], range[1]];
        next[i] = found.value;
        narrow({ ranges: { ...filter.ranges, [column.id]: next } });
      }}
    />
  ));
}

function cell({ row }: ShelfLine, column: Column, system: System): string {
  const value = row[column.id];
  if (typeof value !== "number") return "";
  if (column.id === "nominal_ohm") return `${row.coils > 1 ? `${row.coils}x` : ""}${tidy(value, 3)}`;
  return column.id === "size_in" ? tidy(value, 3) : show(value, column.unit, system, column.digits ?? 4).text;
}

type RowProps = {
  line: ShelfLine;
  top: number;
  index: number;
  grid: string;
  columns: Column[];
  picked: boolean;
  toggle: (id: string) => void;
  open: Open;
  system: System;
};

const Row = memo(function Row({ line, top, index, grid, columns, picked, toggle, open, system }: RowProps) {
  const { row } = line;
  const client = useQueryClient();
  const workbench = useWorkbench();
  const here = useDocument().woofer.name === row.name;
  const favour = async () => {
    const params = { path: { id: line.id } };
    await get(api.PUT("/api/woofers/{id}/favourite", { params, body: { favourite: !row.favourite } }));
    await client.invalidateQueries(woofers());
  };
  const take = async () => {
    const sheet = sheetInUse(await client.fetchQuery({ ...woofer(line.id), staleTime: 0 }));
    workbench.take(`${row.name} taken from the shelf`, [{ pointer: "/woofer", value: sheet }]);
  };
  return (
    <div
      role="row"
      aria-rowindex={index + 1}
      className={`absolute inset-x-0 grid items-center border-b border-rule/60 font-mono text-xs tabular-nums ${
        here ? "bg-selected" : "hover:bg-panel"
      }`}
      style={{ transform: `translateY(${top}px)`, height: ROW, gridTemplateColumns: grid }}
    >
      <span role="cell">
        <input
          type="checkbox"
          aria-label={`Pick ${row.name}`}
          checked={picked}
          onChange={() => toggle(line.id)}
          className="accent-oak align-middle"
        />
      </span>
      <span role="cell">
        <button
          type="button"
          aria-pressed={row.favourite}
          aria-label={`Favourite: ${row.name}`}
          className={`font-sans text-base leading-none ${row.favourite ? "text-oak" : "text-soft hover:text-oak"}`}
          onClick={() => void favour()}
        >
          {row.favourite ? "★" : "☆"}
        </button>
      </span>
      <span role="cell" className="min-w-0">
        <button
          type="button"
          title={`${row.maker}${row.tags.length ? ` — ${row.tags.join(", ")}` : ""}`}
          className="block w-full truncate text-left font-sans text-[13px] hover:underline"
          onClick={() => open({ sheet: line.id })}
        >
          {row.name}
          {row.sets > 1 && <span className="text-xs text-verdigris"> {row.sets} sets</span>}
          {row.doubt_percent !== null && row.doubt_percent !== undefined && (
            <span
              className="text-xs text-ochre"
              title={`contradicts itself by ${tidy(row.doubt_percent, 2)} %`}
            >
              {" "}
              doubtful
            </span>
          )}
          <span className="text-xs text-soft"> {row.maker}</span>
        </button>
      </span>
      {columns.map((c) => (
        <span key={c.id} role="cell" className="text-right">
          {cell(line, c, system)}
        </span>
      ))}
      <span role="cell" className="text-right">
        <button
          type="button"
          aria-label={here ? `${row.name} is in` : `Take ${row.name}`}
          aria-pressed={here}
          title="Puts its figures into the revision being edited"
          className="font-sans text-oak hover:underline"
          onClick={() => void take()}
        >
          {here ? "in" : "take"}
        </button>
      </span>
    </div>
  );
});
