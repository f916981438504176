// Files handed to the browser: text of any kind, tables as CSV, drawings as SVG that stand alone.

export function download(url: string, name: string) {
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
}

export function downloadText(text: string | Blob, type: string, name: string) {
  const url = URL.createObjectURL(new Blob([text], { type }));
  download(url, name);
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}

/** A name as a file may have it. */
export const fileName = (name: string) => name.replace(/[^\w-]+/g, "-").toLowerCase() || "oak-drum";

export type Cell = string | number | null | undefined;

const quoted = (cell: Cell) => {
  const text = String(cell ?? "");
  return /[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
};

/** A table as CSV; units belong in the names of the columns. */
export function csv(columns: string[], rows: Cell[][]): string {
  return `${[columns, ...rows].map((row) => row.map(quoted).join(",")).join("\n")}\n`;
}

export const saveTable = (name: string, columns: string[], rows: Cell[][]) =>
  downloadText(csv(columns, rows), "text/csv", `${fileName(name)}.csv`);

const NAMESPACE = "http://www.w3.org/2000/svg";

/** Drawings of the page as one file of their own, as they stand to one another: the theme's colours are written into it. */
export function standAlone(drawings: SVGSVGElement[]): string {
  const style = getComputedStyle(document.documentElement);
  const boxes = drawings.map((d) => d.getBoundingClientRect());
  const left = Math.min(...boxes.map((b) => b.left));
  const top = Math.min(...boxes.map((b) => b.top));
  const width = Math.max(...boxes.map((b) => b.right)) - left;
  const height = Math.max(...boxes.map((b) => b.bottom)) - top;
  const sheet = document.createElementNS(NAMESPACE, "svg");
  const write = (element: Element, attributes: Record<string, string | number>) => {
    for (const [name, value] of Object.entries(attributes)) element.setAttribute(name, String(value));
  };
  write(sheet, {
    viewBox: `0 0 ${width} ${height}`,
    width,
    height,
    "font-family": "Instrument Sans, Helvetica, Arial, sans-serif",
    color: style.getPropertyValue("--ink").trim(),
  });
  const ground = document.createElementNS(NAMESPACE, "rect");
  write(ground, { width: "100%", height: "100%", fill: "var(--panel)" });
  sheet.append(ground);
  drawings.forEach((drawing, i) => {
    const box = boxes[i];
    if (!box) return;
    const copy = drawing.cloneNode(true) as SVGSVGElement;
    copy.removeAttribute("class");
    write(copy, { x: box.left - left, y: box.top - top, width: box.width, height: box.height });
    sheet.append(copy);
  });
  const text = new XMLSerializer().serializeToString(sheet);
  return text.replace(/var\((--[\w-]+)\)/g, (_, name: string) => style.getPropertyValue(name).trim());
}

export const saveDrawings = (name: string, drawings: SVGSVGElement[]) =>
  downloadText(standAlone(drawings), "image/svg+xml", `${fileName(name)}.svg`);
