import type uPlot from "uplot";
import type { Curve } from "../workbench/workbench";
import type { LaneSpec } from "./specs";
import { csv, download, downloadText, fileName } from "../lib/download";
import { colour } from "./style";

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
    const { openings, ...lists } = c.evaluation.curves;
    for (const [key, values] of Object.entries(lists)) {
      if (key !== "frequency_hz" && values.length) columns.push([`${key}_${c.letter}`, values]);
    }
    for (const opening of openings ?? []) {
      const named = opening.name.replaceAll(" ", "_");
      if (opening.air_speed_m_per_s.length)
        columns.push([`air_speed_${named}_m_per_s_${c.letter}`, opening.air_speed_m_per_s]);
      if (opening.near_field_db.length)
        columns.push([`near_field_${named}_db_${c.letter}`, opening.near_field_db]);
    }
  }
  const rows = (columns[0]?.[1] ?? []).map((_, i) => columns.map(([, v]) => v[i]));
  downloadText(
    csv(
      columns.map(([key]) => key),
      rows,
    ),
    "text/csv",
    `${fileName(name || "curves")}.csv`,
  );
}
