import { useRef, type ReactNode } from "react";
import { Sideways } from "./Sideways";
import { saveDrawings, saveTable, type Cell } from "../lib/download";

/** A drawing or plot with its name and what it can be saved as. */
export function Saved({
  title,
  note,
  table,
  quiet = false,
  children,
  className = "",
}: {
  title: string;
  note?: ReactNode;
  /** Where its name stands above it already. */
  quiet?: boolean;
  table?: { columns: string[]; rows: () => Cell[][] } | undefined;
  children: ReactNode;
  className?: string;
}) {
  const figure = useRef<HTMLElement>(null);
  return (
    <figure ref={figure} className={`m-0 ${className}`} aria-label={title}>
      <figcaption className="flex flex-wrap items-baseline gap-x-2 pb-0.5">
        {!quiet && <b className="font-display text-base font-semibold">{title}</b>}
        <span className="min-w-24 flex-1 text-xs text-soft">{note}</span>
        <Save
          title={title}
          as="SVG"
          save={() => {
            const drawings = figure.current?.querySelectorAll<SVGSVGElement>("svg[data-drawing]");
            if (drawings?.length) saveDrawings(title, [...drawings]);
          }}
        />
        {table && <Save title={title} as="CSV" save={() => saveTable(title, table.columns, table.rows())} />}
      </figcaption>
      {children}
    </figure>
  );
}

/** A table with its name, saved as CSV. */
export function SavedTable({
  title,
  note,
  columns,
  rows,
  children,
}: {
  title: string;
  note?: ReactNode;
  columns: string[];
  rows: () => Cell[][];
  children: ReactNode;
}) {
  return (
    <section aria-label={title}>
      <h2 className="flex items-baseline gap-2">
        <span className="font-display text-base font-semibold">{title}</span>
        <span className="min-w-0 flex-1 text-xs text-soft">{note}</span>
        <Save title={title} as="CSV" save={() => saveTable(title, columns, rows())} />
      </h2>
      <Sideways label={title}>{children}</Sideways>
    </section>
  );
}

/** Saves a table that has a heading of its own. */
export const SaveCsv = ({
  title,
  columns,
  rows,
}: {
  title: string;
  columns: string[];
  rows: () => Cell[][];
}) => <Save title={title} as="CSV" save={() => saveTable(title, columns, rows())} />;

function Save({ title, as, save }: { title: string; as: "SVG" | "CSV"; save: () => void }) {
  return (
    <button
      type="button"
      className="text-xs text-soft hover:text-ink"
      aria-label={`Save ${title} as ${as}`}
      onClick={save}
    >
      {as}
    </button>
  );
}
