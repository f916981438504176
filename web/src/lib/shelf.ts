// The shelf's woofers in the browser: how a record becomes a sheet, what the table shows, how it is filtered.

import type { ParameterSet, ShelfLine, ShelfRow, ShelfWoofer, Woofer, WooferRecord } from "../api/client";
import { definition, type Schema } from "./schema";

const SHEET: [string, Schema][] = Object.entries(definition("Woofer").properties ?? {});
const MEASURED = ["Small signal", "Physical", "Coil"];

/** Fields that belong to a parameter set. */
export const FIGURES = SHEET.filter(
  ([name, field]) => MEASURED.includes(field["x-group"] ?? "") && name !== "coils",
).map(([name]) => name);

/** Fields that belong to the woofer itself. */
export const FRAME = SHEET.map(([name]) => name).filter((name) => !FIGURES.includes(name));

/** The whole sheet with one of its sets: frame and figures never share a field. */
export function sheetWith(woofer: ShelfWoofer, index: number): Woofer {
  return { ...woofer.woofer, ...woofer.sets[index]?.figures };
}

/** The whole sheet of a record with the set in use. */
export function sheetInUse(record: WooferRecord): Woofer {
  return sheetWith(record.document, record.document.in_use ?? 0);
}

export function emptyWoofer(): ShelfWoofer {
  return {
    format: "oak-drum-woofer",
    version: 1,
    woofer: { name: "", maker: "" },
    sets: [{ provenance: "data_sheet", figures: {} }],
    in_use: 0,
  };
}

export const PROVENANCE: Record<ParameterSet["provenance"], string> = {
  data_sheet: "data sheet",
  measured_new: "measured new",
  measured_broken_in: "measured broken in",
  measured_after_change: "measured after a change",
};

/** A column of the table; `range` can be filtered by from and to. */
export type Column = {
  id: keyof ShelfRow;
  title: string;
  unit: string;
  help: string;
  digits?: number;
  range?: boolean;
  usual?: boolean;
};

export const COLUMNS: Column[] = [
  { id: "size_in", title: "size", unit: "in", help: "Nominal size.", range: true, usual: true },
  {
    id: "fs_hz",
    title: "fs",
    unit: "Hz",
    help: "Resonance in free air.",
    digits: 3,
    range: true,
    usual: true,
  },
  { id: "qts", title: "Qts", unit: "", help: "Total Q.", digits: 3, range: true, usual: true },
  {
    id: "vas_l",
    title: "Vas",
    unit: "L",
    help: "Air as stiff as the suspension.",
    digits: 3,
    range: true,
    usual: true,
  },
  { id: "xmax_mm", title: "Xmax", unit: "mm", help: "Stroke one way.", digits: 3, range: true, usual: true },
  { id: "power_w", title: "power", unit: "W", help: "Rated power.", digits: 3, range: true, usual: true },
  {
    id: "nominal_ohm",
    title: "coil",
    unit: "ohm",
    help: "Nominal impedance of each coil; 2x for two coils.",
    range: true,
    usual: true,
  },
  {
    id: "sensitivity_db",
    title: "level",
    unit: "dB",
    help: "Level at 1 m with 2.83 V, derived.",
    digits: 3,
    range: true,
    usual: true,
  },
  {
    id: "price",
    title: "price",
    unit: "",
    help: "What it costs, in the workshop's own money.",
    range: true,
    usual: true,
  },
  { id: "qes", title: "Qes", unit: "", help: "Electrical Q.", digits: 3 },
  { id: "qms", title: "Qms", unit: "", help: "Mechanical Q.", digits: 3 },
  { id: "sd_cm2", title: "Sd", unit: "cm2", help: "Cone area.", digits: 3 },
  { id: "re_ohm", title: "Re", unit: "ohm", help: "Resistance of each coil.", digits: 2 },
  { id: "ebp_hz", title: "fs/Qes", unit: "Hz", help: "Efficiency-bandwidth product.", digits: 3 },
  {
    id: "excursion_volume_cm3",
    title: "Sd·Xmax",
    unit: "cm3",
    help: "Air the full stroke moves.",
    digits: 3,
  },
  { id: "depth_mm", title: "depth", unit: "mm", help: "Depth behind the flange.", digits: 3 },
  { id: "weight_kg", title: "weight", unit: "kg", help: "Weight.", digits: 3 },
  { id: "sets", title: "sets", unit: "", help: "How many parameter sets are kept." },
  {
    id: "doubt_percent",
    title: "doubt",
    unit: "%",
    help: "Worst disagreement of the sheet with itself.",
    digits: 2,
  },
];

export type Filter = {
  text: string;
  favourites: boolean;
  tag: string;
  /** From and to, by column. */
  ranges: Partial<Record<keyof ShelfRow, [number | undefined, number | undefined]>>;
};

export const NO_FILTER: Filter = { text: "", favourites: false, tag: "", ranges: {} };

const number = (row: ShelfRow, id: keyof ShelfRow): number | undefined => {
  const value = row[id];
  return typeof value === "number" ? value : undefined;
};

/** Whether a line passes a filter; a figure that is not known does not pass a range of it. */
export function passes({ row }: ShelfLine, filter: Filter): boolean {
  if (filter.favourites && !row.favourite) return false;
  if (filter.tag && !row.tags.includes(filter.tag)) return false;
  const words = filter.text.trim().toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length) {
    const text = `${row.name} ${row.maker} ${row.tags.join(" ")} ${row.size_in ?? ""}in`.toLowerCase();
    if (!words.every((word) => text.includes(word))) return false;
  }
  return Object.entries(filter.ranges).every(([id, [from, to]]) => {
    if (from === undefined && to === undefined) return true;
    const value = number(row, id as keyof ShelfRow);
    return value !== undefined && (from === undefined || value >= from) && (to === undefined || value <= to);
  });
}

export type Order = { by: keyof ShelfRow; down: boolean };

/** Sorted by a column; what has no figure there comes last either way. */
export function sorted(lines: ShelfLine[], { by, down }: Order): ShelfLine[] {
  const sign = down ? -1 : 1;
  return [...lines].sort((a, b) => {
    if (by === "name") return sign * a.row.name.localeCompare(b.row.name);
    const [x, y] = [number(a.row, by), number(b.row, by)];
    if (x === undefined || y === undefined) return (x === undefined ? 1 : 0) - (y === undefined ? 1 : 0);
    return sign * (x - y) || a.row.name.localeCompare(b.row.name);
  });
}
