import type uPlot from "uplot";
import type { Curve } from "../workbench/workbench";
import type { LaneSpec } from "./specs";
import { colour } from "./style";

function download(url: string, name: string) {
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
}

/** The open lanes, one under the other, as a picture. */
export function savePng(plots: Map<string, uPlot>, lanes: LaneSpec[]) {
  const shown = lanes.flatMap((lane) => {
    const plot = plots.get(lane.id);
    return plot ? [{ lane, canvas: plot.ctx.canvas }] : [];
  });
  const ratio = devicePixelRatio;
  const title = 18 * ratio;
  const sheet = document.createElement("canvas");
  sheet.width = Math.max(...shown.map((s) => s.canvas.width));
  sheet.height = shown.reduce((sum, s) => sum + s.canvas.height + title, 0);
  const pen = sheet.getContext("2d");
  if (!pen) return;
  pen.fillStyle = colour("--ground");
  pen.fillRect(0, 0, sheet.width, sheet.height);
  let y = 0;
  for (const { lane, canvas } of shown) {
    pen.fillStyle = colour("--ink");
    pen.font = `600 ${12 * ratio}px "Bricolage Grotesque Variable"`;
    pen.fillText(`${lane.title}, ${lane.unit}`, 44 * ratio, y + 13 * ratio);
    pen.drawImage(canvas, 0, y + title);
    y += canvas.height + title;
  }
  sheet.toBlob((blob) => {
    if (!blob) return;
    const url = URL.createObjectURL(blob);
    download(url, "lanes.png");
    setTimeout(() => URL.revokeObjectURL(url), 1000);
  });
}

/** All curves of the revisions shown; units in the names, the revision's letter behind them. */
export function saveCsv(curves: Curve[], name: string) {
  const shown = curves.filter((c) => !c.ghost);
  const columns: [string, readonly (string | number | null)[]][] = [
    ["frequency_hz", shown[0]?.evaluation.curves.frequency_hz ?? []],
  ];
  for (const c of shown) {
    for (const [key, values] of Object.entries(c.evaluation.curves)) {
      if (key !== "frequency_hz" && values.length) columns.push([`${key}_${c.letter}`, values]);
    }
  }
  const rows = (columns[0]?.[1] ?? []).map((_, i) => columns.map(([, v]) => String(v[i] ?? "")).join(","));
  const text = [columns.map(([key]) => key).join(","), ...rows].join("\n");
  const url = URL.createObjectURL(new Blob([`${text}\n`], { type: "text/csv" }));
  download(url, `${name.replace(/[^\w-]+/g, "-").toLowerCase() || "curves"}.csv`);
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}
