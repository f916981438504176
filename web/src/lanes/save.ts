import type uPlot from "uplot";
import type { Curve } from "../workbench/workbench";
import type { LaneSpec } from "./specs";
import { csv, download, downloadText, fileName } from "../lib/download";
import { colour, look } from "./style";

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

const [W, AXIS, TITLE, HIGH_LANE] = [720, 44, 18, 90];
const TICKS = [10, 20, 30, 50, 100, 200, 300, 500, 1000];

/** The open lanes as a drawing: each curve with its revision's letter, each lane in the scale it has on the page. */
export function saveSvg(plots: Map<string, uPlot>, lanes: LaneSpec[], curves: Curve[], name: string) {
  const x = (f: number) => AXIS + (Math.log(f / 10) / Math.log(100)) * (W - AXIS - 24);
  const parts: string[] = [];
  const under = curves.filter((c) => !c.current && !c.ghost);
  let top = 0;
  for (const lane of lanes) {
    const scale = plots.get(lane.id)?.scales.y;
    const [low, high] = [scale?.min ?? 0, scale?.max ?? 1];
    const height = HIGH_LANE * lane.weight;
    const from = top + TITLE;
    const y = (v: number) =>
      from + height - ((Math.min(Math.max(v, low), high) - low) / (high - low)) * height;
    parts.push(
      `<text x="${AXIS}" y="${top + 13}" font-weight="600" font-size="12">${lane.title}, ${lane.unit}</text>`,
      `<rect x="${AXIS}" y="${from}" width="${W - AXIS - 24}" height="${height}" fill="none" stroke="${colour("--rule")}"/>`,
      ...TICKS.map(
        (f) => `<path d="M${x(f)} ${from}v${height}" stroke="${colour("--rule")}" stroke-width="0.6"/>`,
      ),
      `<text x="${AXIS - 4}" y="${from + 10}" text-anchor="end" font-size="10">${high.toPrecision(3)}</text>`,
      `<text x="${AXIS - 4}" y="${from + height}" text-anchor="end" font-size="10">${low.toPrecision(3)}</text>`,
    );
    for (const c of curves.filter((c) => !c.ghost)) {
      const style = look(under.indexOf(c), c.current);
      const points = c.evaluation.curves.frequency_hz
        .map((f, i) => [f, lane.values(c.evaluation)[i]] as const)
        .filter(
          (p): p is readonly [number, number] => typeof p[1] === "number" && p[0] >= 10 && p[0] <= 1000,
        );
      const last = points.at(-1);
      if (!last) continue;
      const path = points.map(([f, v]) => `${x(f).toFixed(1)} ${y(v).toFixed(1)}`).join("L");
      parts.push(
        `<path d="M${path}" fill="none" stroke="${colour(style.colour)}" stroke-width="${style.width}" stroke-dasharray="${style.dash.join(" ")}"/>`,
        `<text x="${x(last[0]) + 4}" y="${y(last[1]) + 4}" font-size="10">${c.letter}</text>`,
      );
    }
    top = from + height + 6;
  }
  const ticks = TICKS.map(
    (f) => `<text x="${x(f)}" y="${top + 10}" text-anchor="middle" font-size="10">${f}</text>`,
  );
  const text = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${W} ${top + 18}" width="${W}" height="${top + 18}" font-family="Instrument Sans, Helvetica, Arial, sans-serif" fill="${colour("--ink")}"><rect width="100%" height="100%" fill="${colour("--panel")}"/>${parts.join("")}${ticks.join("")}<text x="${W - 20}" y="${top + 10}" font-size="10">Hz</text></svg>`;
  downloadText(text, "image/svg+xml", `${fileName(name || "lanes")}.svg`);
}
