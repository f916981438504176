import { useEffect, useLayoutEffect, useRef, useState, type ReactNode } from "react";
import uPlot from "uplot";
import { useSettings } from "../app/settings";
import { termOfFigure } from "../lib/glossary";
import { printUnit } from "../lib/quantity";
import { Tip } from "../ui/Tip";
import type { Curve } from "../workbench/workbench";
import { apart, HERTZ } from "../lib/axis";
import { limitWords, RULED_BY, type LaneSpec } from "./specs";
import { colour, look } from "./style";

export type Mark = { frequency: number; label: string; colour: string };

export const AXIS = 44;
const RIGHT = 20;

type Props = {
  spec: LaneSpec;
  curves: Curve[];
  xmax: number | undefined;
  marks: Mark[];
  last: boolean;
  folded: boolean;
  onFold: () => void;
  cursor: number | null;
  onCursor: (index: number | null) => void;
  onPlot: (plot: uPlot) => void;
  /** What lies over the plot, by where its values stand; drawn anew with every painting. */
  over?: ((scale: Scale) => ReactNode) | undefined;
};

/** Where a plot's values stand: its ground within the lane (CSS pixels), and its lowest and highest value. */
export type Scale = { left: number; top: number; width: number; height: number; low: number; high: number };

type Live = Pick<Props, "spec" | "curves" | "xmax" | "marks">;

/** Dashes of the further curves, in turn. */
const DASHES = [
  [5, 4],
  [2, 3],
  [9, 3, 2, 3],
];

/** The further curves of the revision being edited. */
function othersOf(spec: LaneSpec, curves: Curve[]) {
  const current = curves.find((c) => c.current);
  return current && spec.others ? spec.others(current.evaluation) : [];
}

function highest(spec: LaneSpec, curves: Curve[]): number {
  let top = -Infinity;
  for (const c of curves) {
    const others = c.current ? (spec.others?.(c.evaluation) ?? []) : [];
    for (const values of [spec.values(c.evaluation), ...others.map((o) => o.values)]) {
      for (const v of values) if (v !== null && v > top) top = v;
    }
  }
  return Number.isFinite(top) ? top : 1;
}

function limitOf({ spec, curves, xmax }: Live) {
  const current = curves.find((c) => c.current);
  return current && spec.limit?.(current.evaluation, xmax);
}

const tiles = new Map<string, HTMLCanvasElement>();

function hatch(context: CanvasRenderingContext2D, ink: string): CanvasPattern | string {
  const tile = tiles.get(ink) ?? hatchTile(ink);
  tiles.set(ink, tile);
  return context.createPattern(tile, "repeat") ?? ink;
}

function hatchTile(ink: string): HTMLCanvasElement {
  const tile = document.createElement("canvas");
  tile.width = tile.height = 8;
  const pen = tile.getContext("2d");
  if (!pen) return tile;
  pen.strokeStyle = ink;
  pen.globalAlpha = 0.38;
  pen.beginPath();
  pen.moveTo(-2, 10);
  pen.lineTo(10, -2);
  pen.moveTo(-2, 2);
  pen.lineTo(2, -2);
  pen.moveTo(6, 10);
  pen.lineTo(10, 6);
  pen.stroke();
  return tile;
}

/** What is out of bounds: above the limit, or above the highest level. */
function drawGround(u: uPlot, live: Live) {
  const { ctx, bbox } = u;
  const limit = limitOf(live);
  const current = live.curves.find((c) => c.current);
  ctx.save();
  ctx.beginPath();
  ctx.rect(bbox.left, bbox.top, bbox.width, bbox.height);
  ctx.clip();
  ctx.fillStyle = hatch(ctx, colour("--brick"));
  if (limit) {
    const y = u.valToPos(limit.value, "y", true);
    ctx.fillRect(bbox.left, bbox.top, bbox.width, Math.max(0, y - bbox.top));
    ctx.strokeStyle = colour("--brick");
    ctx.lineWidth = devicePixelRatio;
    ctx.beginPath();
    ctx.moveTo(bbox.left, y);
    ctx.lineTo(bbox.left + bbox.width, y);
    ctx.stroke();
    ctx.fillStyle = colour("--brick");
    ctx.font = `${11 * devicePixelRatio}px "Instrument Sans Variable"`;
    ctx.textAlign = "right";
    ctx.fillText(limitWords(limit), bbox.left + bbox.width - 6, y + 12 * devicePixelRatio);
  }
  if (live.spec.id === "level" && current) {
    const { frequency_hz: x, max_level_db: most } = current.evaluation.curves;
    ctx.beginPath();
    let begun = false;
    for (let i = 0; i < x.length; i++) {
      const level = most[i];
      if (level === null || level === undefined) continue;
      const [px, py] = [u.valToPos(x[i] ?? 0, "x", true), u.valToPos(level, "y", true)];
      if (!begun) ctx.moveTo(bbox.left, py);
      ctx.lineTo(px, py);
      begun = true;
    }
    if (begun) {
      ctx.lineTo(bbox.left + bbox.width, bbox.top - 50);
      ctx.lineTo(bbox.left, bbox.top - 50);
      ctx.closePath();
      ctx.fill();
    }
  }
  ctx.restore();
}

/** Marks at their frequency, and the letters at the curves' ends, kept apart from one another. */
function drawMarks(u: uPlot, live: Live) {
  const { ctx, bbox } = u;
  const ratio = devicePixelRatio;
  ctx.save();
  ctx.font = `${10.5 * ratio}px "Instrument Sans Variable"`;
  // a label that would lie over another one is set a line higher
  const rows: number[] = [];
  for (const mark of [...live.marks].sort((a, b) => a.frequency - b.frequency)) {
    const x = u.valToPos(mark.frequency, "x", true);
    if (x < bbox.left || x > bbox.left + bbox.width) continue;
    ctx.strokeStyle = ctx.fillStyle = colour(mark.colour);
    ctx.setLineDash([3 * ratio, 3 * ratio]);
    ctx.lineWidth = ratio;
    ctx.beginPath();
    ctx.moveTo(x, bbox.top);
    ctx.lineTo(x, bbox.top + bbox.height);
    ctx.stroke();
    ctx.setLineDash([]);
    const right = x > bbox.left + bbox.width * 0.7;
    ctx.textAlign = right ? "right" : "left";
    const width = ctx.measureText(mark.label).width + 10 * ratio;
    const [from, to] = right ? [x - width, x] : [x, x + width];
    let row = rows.findIndex((end) => end <= from);
    if (row < 0) row = rows.length;
    rows[row] = to;
    ctx.fillText(mark.label, x + (right ? -4 : 4) * ratio, bbox.top + bbox.height - (5 + 12 * row) * ratio);
  }
  ctx.font = `600 ${11 * ratio}px "Instrument Sans Variable"`;
  ctx.textAlign = "left";
  const ends = live.curves
    .map((c, i) => {
      const values = live.spec.values(c.evaluation);
      const value = values.at(-1);
      const y = value === null || value === undefined ? NaN : u.valToPos(value, "y", true);
      const held = Math.min(Math.max(y, bbox.top + 5 * ratio), bbox.top + bbox.height - 4 * ratio);
      return { letter: c.ghost ? "" : c.letter, y: held, ink: colour(look(i - 1, c.current).colour) };
    })
    .filter((e) => Number.isFinite(e.y));
  const places = apart(
    ends.map((e) => e.y),
    11 * ratio,
  );
  ends.forEach((end, i) => {
    ctx.fillStyle = end.ink;
    ctx.fillText(end.letter, bbox.left + bbox.width + 5 * ratio, (places[i] ?? end.y) + 4 * ratio);
  });
  ctx.restore();
}

/** One lane: a plot that lives as long as its set of curves stays the same; new data only repaints it. */
export function Lane(props: Props) {
  const { spec, curves, marks, xmax, last, folded, cursor } = props;
  const [scale, setScale] = useState<Scale | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const plot = useRef<uPlot | null>(null);
  const live = useRef<Live>({ spec, curves, xmax, marks });
  const handlers = useRef(props);
  const { theme } = useSettings();
  const others = othersOf(spec, curves);
  const names = others.map((o) => o.name).join();
  const shape = curves.map((c) => `${c.letter}${c.ghost ? "g" : ""}`).join() + names + theme + String(last);

  useEffect(() => {
    handlers.current = props;
  });

  useEffect(() => {
    const holder = box.current;
    if (!holder || folded) return;
    const now = () => live.current;
    const ink = colour("--soft");
    const grid = { stroke: colour("--rule"), width: 0.6 };
    const font = '10.5px "Spline Sans Mono Variable"';
    const series: uPlot.Series[] = [{}];
    handlers.current.curves.forEach((c, i) => {
      const l = look(i - 1, c.current);
      series.push({
        stroke: colour(c.ghost ? "--soft" : l.colour),
        width: l.width,
        dash: c.ghost ? [1, 3] : l.dash,
        points: { show: false },
      });
    });
    othersOf(spec, handlers.current.curves).forEach((_, i) => {
      series.push({
        stroke: colour("--ink"),
        width: 1.4,
        dash: DASHES[i % DASHES.length],
        points: { show: false },
      });
    });
    const u = new uPlot(
      {
        width: holder.clientWidth,
        height: Math.max(holder.clientHeight, 40),
        padding: [7, RIGHT, last ? 0 : 5, 0],
        legend: { show: false },
        cursor: {
          sync: { key: "lanes" },
          drag: { x: false, y: false },
          y: false,
          points: { size: 6, width: 0 },
        },
        scales: {
          x: { distr: 3, time: false, range: [10, 1000] },
          y: { range: () => spec.scale(highest(spec, now().curves), limitOf(now())) },
        },
        series,
        axes: [
          {
            show: true,
            size: last ? 22 : 0,
            stroke: ink,
            font,
            grid,
            ticks: { show: false },
            splits: () => HERTZ,
            filter: (_, splits) => splits,
            values: last ? (_, splits) => splits.map((s) => (s === 1000 ? "1k" : String(s))) : () => [],
          },
          { size: AXIS, stroke: ink, font, grid, ticks: { show: false }, space: 24, gap: 4 },
        ],
        hooks: {
          drawClear: [
            (p) => {
              const { ctx, bbox } = p;
              ctx.save();
              ctx.fillStyle = colour("--panel");
              ctx.fillRect(bbox.left, bbox.top, bbox.width, bbox.height);
              ctx.restore();
            },
          ],
          drawAxes: [(p) => drawGround(p, now())],
          draw: [
            (p) => {
              drawMarks(p, now());
              if (handlers.current.over) setScale((old) => scaleOf(p, old));
            },
          ],
          setCursor: [(p) => handlers.current.onCursor(p.cursor.idx ?? null)],
        },
      },
      data(now()),
      holder,
    );
    plot.current = u;
    handlers.current.onPlot(u);
    const observer = new ResizeObserver(() => {
      u.setSize({ width: holder.clientWidth, height: Math.max(holder.clientHeight, 40) });
      handlers.current.onPlot(u);
    });
    observer.observe(holder);
    return () => {
      observer.disconnect();
      u.destroy();
      plot.current = null;
    };
  }, [spec, shape, folded, last]);

  // before the page is painted, not after: a drag would lag a frame behind
  useLayoutEffect(() => {
    live.current = { spec, curves, xmax, marks };
    plot.current?.setData(data(live.current), true);
  }, [spec, curves, xmax, marks]);

  const at = (c: Curve) => {
    const values = spec.values(c.evaluation);
    const value = cursor === null ? undefined : values[cursor];
    return value === null || value === undefined ? "" : value.toFixed(spec.digits);
  };
  const current = curves.find((c) => c.current);
  const most =
    spec.id === "level" && cursor !== null ? current?.evaluation.curves.max_level_db[cursor] : null;
  const rule = cursor === null ? undefined : current?.evaluation.curves.max_level_ruled_by[cursor];
  return (
    <section
      className="flex min-h-0 flex-col contain-content"
      style={folded ? undefined : { flex: `${spec.weight} 1 ${70 * spec.weight}px` }}
      aria-label={spec.title}
      data-lane={spec.id}
    >
      <header className="flex h-[18px] items-baseline gap-3 overflow-hidden pl-[44px] text-xs whitespace-nowrap">
        <Tip text={spec.help} term={termOfFigure(spec.id)}>
          <button
            type="button"
            aria-expanded={!folded}
            onClick={props.onFold}
            className="font-display font-semibold"
          >
            {folded ? "▸ " : ""}
            {spec.title} <span className="font-sans font-normal text-soft">{printUnit(spec.unit)}</span>
          </button>
        </Tip>
        {!folded &&
          curves
            .filter((c) => !c.ghost)
            .map((c, i) => (
              <span
                key={c.letter}
                className="font-mono"
                style={{ color: `var(${look(i - 1, c.current).colour})` }}
              >
                {curves.length > 1 ? `${c.letter} ` : ""}
                {c.current && others.length > 0 && (
                  <span className="font-sans text-soft">{spec.named?.(c.evaluation)} </span>
                )}
                {at(c)}
              </span>
            ))}
        {!folded &&
          others.map((o) => (
            <span key={o.name} className="truncate text-soft">
              {o.name}{" "}
              <span className="font-mono">
                {cursor === null ? "" : (o.values[cursor]?.toFixed(spec.digits) ?? "")}
              </span>
            </span>
          ))}
        {!folded && most !== null && most !== undefined && (
          <span className="truncate text-brick">
            at most {most.toFixed(1)} ({RULED_BY[rule ?? "none"]})
          </span>
        )}
      </header>
      {!folded && (
        <div className="relative flex min-h-0 flex-1">
          <div ref={box} className="min-h-0 min-w-0 flex-1 overflow-hidden contain-strict" />
          {scale && props.over?.(scale)}
        </div>
      )}
    </section>
  );
}

/** The scale of a plot as it was painted; the same object as long as it says the same. */
function scaleOf(u: uPlot, old: Scale | null): Scale {
  const ratio = devicePixelRatio;
  const { left, top, width, height } = u.bbox;
  const { min, max } = u.scales.y ?? {};
  const next = {
    left: left / ratio,
    top: top / ratio,
    width: width / ratio,
    height: height / ratio,
    low: min ?? 0,
    high: max ?? 1,
  };
  const same = old && (Object.keys(next) as (keyof Scale)[]).every((key) => old[key] === next[key]);
  return same ? old : next;
}

function data({ spec, curves }: Live): uPlot.AlignedData {
  const first = curves[0];
  const x = first?.evaluation.curves.frequency_hz ?? [];
  const lists = curves.map((c) => {
    const values = spec.values(c.evaluation);
    return values.length === x.length ? values : x.map(() => null);
  });
  for (const { values } of othersOf(spec, curves)) {
    lists.push(values.length === x.length ? values : x.map(() => null));
  }
  return [x, ...lists];
}
