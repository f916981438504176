import type { ReactNode } from "react";
import { useSettings } from "../app/settings";
import { apart, axis, ground, roundUp, trace, type Axis } from "../lib/axis";
import { useDrag } from "../lib/drag";
import { inSystem, printUnit, tidy } from "../lib/quantity";
import { useWidth } from "../lib/width";

export type PlotCurve = {
  values: readonly (number | null | undefined)[];
  /** Its own places along the axis, where they are not the plot's. */
  x?: readonly number[] | undefined;
  colour?: string | undefined;
  dash?: string | undefined;
  width?: number | undefined;
  /** What stands at its end. */
  letter?: string | undefined;
};

/** Where values lie in a plot: along the axis and up it. */
export type Places = { x: Axis["at"]; y: Axis["at"]; bottom: number };

type PlotProps = {
  x: readonly number[];
  /** Where the axis begins and ends; where `x` does if it is not said. */
  across?: [number, number];
  curves: PlotCurve[];
  title: string;
  /** Unit of the values: millimetres and what a cone travels are told as the page is set. */
  unit: string;
  /** Whether the values are told in it already, to the very range. */
  told?: boolean;
  /** What else stands beside the unit. */
  note?: string;
  /** From and to in that unit; what begins at 0 ends at the next round number. */
  range: [number, number];
  /** How wide it is drawn where there is room for it. */
  width?: number;
  height?: number;
  log?: boolean;
  /** Where the axis is marked: round numbers of the unit it is told in, or places of their own where `tick` says what is written. */
  ticks: readonly number[];
  tick?: (value: number) => string;
  showTicks?: boolean;
  xUnit?: string;
  /** From and to of ground that is good, by x. */
  good?: [number, number][];
  /** A shaded band. */
  band?: { x: readonly number[]; low: readonly number[]; high: readonly number[] } | undefined;
  /** Above this it is out of bounds. */
  limit?: { value: number; label?: string; line?: boolean } | undefined;
  /** Where the present design stands. */
  at?: number | undefined;
  onPick?: (x: number) => void;
  onDone?: () => void;
  pickLabel?: string;
  /** What lies over it. */
  children?: (places: Places) => ReactNode;
};

const LEFT = 40;
/** Above this is the name of the plot. */
const TOP = 17;

/** One plot as SVG; several with the same x stand over one another. What moves under a hand all day is a lane. */
export function Plot(props: PlotProps) {
  const {
    x,
    across = [x[0] ?? 1, x.at(-1) ?? 10],
    curves,
    title,
    unit,
    told: already = false,
    note,
    range: [from, to],
    width: most = 620,
    height = 104,
    log = true,
    ticks,
    tick,
    showTicks = true,
    xUnit = "",
    good = [],
    band,
    limit,
    at,
    onPick,
    onDone,
    pickLabel,
    children,
  } = props;
  const { system } = useSettings();
  const [drawing, width] = useWidth<SVGSVGElement>(most);
  const told = already ? { times: 1, unit } : inSystem(unit, system);
  // what begins at nothing ends at a number that is round in the unit it is told in
  const range: [number, number] =
    from === 0 && !already ? [0, roundUp(to * told.times) / told.times] : [from, to];
  const [low, high] = across;
  const lettered = curves.some((c) => c.letter);
  const right = width - (lettered ? 16 : 8);
  const horizontal = axis(across, [LEFT, right], log);
  const vertical = axis(range, [height, TOP]);
  const [px, py] = [horizontal.at, vertical.at];
  const path = (c: PlotCurve) => trace(c.x ?? x, c.values, [horizontal, vertical], across);
  const within = (f: number) => f >= low && f <= high;
  const held = {
    x: band?.x.filter(within) ?? [],
    low: band?.low.filter((_, i) => within(band.x[i] ?? NaN)) ?? [],
    high: band?.high.filter((_, i) => within(band.x[i] ?? NaN)) ?? [],
  };
  const last = (c: PlotCurve) => c.values.findLast((v, i) => v !== null && within((c.x ?? x)[i] ?? NaN));
  const ends = apart(
    curves.map((c) => py(last(c) ?? from)),
    11,
  );
  const acrossTold = inSystem(xUnit, system);
  const marks = ticks
    .map((t) => (tick ? { at: t, text: tick(t) } : { at: t / acrossTold.times, text: String(t) }))
    .filter(({ at: t }) => within(t));
  // what has no room beside the one before it, or beside the unit, is marked without its figure
  const unitWide = xUnit ? 8 + 7 * printUnit(acrossTold.unit).length : 10;
  const written = marks.reduce<{ upTo: number; at: Set<number> }>(
    (so, { at: t, text }) => {
      const half = text.length * 2.9;
      const fits = px(t) - half > so.upTo + 3 && px(t) < right - unitWide;
      return fits ? { upTo: px(t) + half, at: so.at.add(t) } : so;
    },
    { upTo: -Infinity, at: new Set() },
  ).at;
  const pick = (event: { clientX: number }, box: DOMRect) =>
    onPick?.(horizontal.back(((event.clientX - box.left) / box.width) * width));
  const drag = useDrag<DOMRect, SVGSVGElement>({
    begin: (event) => {
      const box = event.currentTarget.getBoundingClientRect();
      pick(event, box);
      return box;
    },
    move: pick,
    end: () => onDone?.(),
  });
  const bottom = height + (showTicks ? 16 : 4);
  return (
    <svg
      ref={drawing}
      data-drawing
      viewBox={`0 0 ${width} ${bottom}`}
      className={`block w-full select-none ${onPick ? "cursor-ew-resize touch-none" : ""}`}
      fontSize="10"
      role={onPick ? "slider" : children ? "group" : "img"}
      aria-label={pickLabel ?? title}
      {...(onPick && {
        tabIndex: 0,
        "aria-valuemin": low,
        "aria-valuemax": high,
        "aria-valuenow": at ?? low,
        ...drag,
        onKeyDown: (e: React.KeyboardEvent) => {
          const by = ["ArrowRight", "ArrowUp"].includes(e.key)
            ? 1.07
            : ["ArrowLeft", "ArrowDown"].includes(e.key)
              ? 1 / 1.07
              : 0;
          if (!by || at === undefined) return;
          e.preventDefault();
          onPick(Math.min(Math.max(at * by, low), high));
        },
        onBlur: () => onDone?.(),
      })}
    >
      <rect
        x={LEFT}
        y={TOP}
        width={right - LEFT}
        height={height - TOP}
        fill="var(--panel)"
        stroke="var(--rule)"
      />
      {good.map(([a, b]) => (
        <rect
          key={a}
          x={px(a)}
          y={TOP}
          width={Math.max(px(b) - px(a), 1)}
          height={height - TOP}
          fill="var(--verdigris)"
          opacity="0.13"
        />
      ))}
      {marks.map(({ at: t, text }) => (
        <g key={t}>
          <path d={`M${px(t)} ${TOP}V${height}`} stroke="var(--rule)" strokeWidth="0.6" />
          {showTicks && written.has(t) && (
            <text x={px(t)} y={height + 12} textAnchor="middle" fill="var(--soft)">
              {text}
            </text>
          )}
        </g>
      ))}
      {showTicks && (
        <text x={right} y={height + 12} textAnchor="end" fill="var(--soft)">
          {printUnit(acrossTold.unit)}
        </text>
      )}
      <text x={LEFT - 4} y={TOP + 8} textAnchor="end" fill="var(--soft)">
        {tidy(range[1] * told.times, 3)}
      </text>
      <text x={LEFT - 4} y={height} textAnchor="end" fill="var(--soft)">
        {tidy(range[0] * told.times, 3)}
      </text>
      {limit && limit.value < range[1] && (
        <g>
          {!limit.line && (
            <rect
              x={LEFT}
              y={TOP}
              width={right - LEFT}
              height={Math.max(py(limit.value) - TOP, 0)}
              fill="var(--brick)"
              opacity="0.09"
            />
          )}
          <path d={`M${LEFT} ${py(limit.value)}H${right}`} stroke="var(--brick)" strokeDasharray="5 3" />
        </g>
      )}
      {band && (
        <path
          d={ground(held.x, held.low, held.high, [horizontal, vertical])}
          fill="var(--verdigris)"
          opacity="0.22"
        />
      )}
      {curves.map((c, i) => (
        <g key={i}>
          <path
            d={path(c)}
            fill="none"
            stroke={c.colour ?? "var(--ink)"}
            strokeWidth={c.width ?? 1.6}
            strokeDasharray={c.dash}
          />
          {c.letter && ends[i] !== undefined && (
            <text x={right + 4} y={ends[i] + 4} fill={c.colour ?? "var(--ink)"}>
              {c.letter}
            </text>
          )}
        </g>
      ))}
      {limit?.label && limit.value < range[1] && (
        <text
          x={right - 4}
          y={py(limit.value) - 3}
          textAnchor="end"
          fill="var(--brick)"
          stroke="var(--panel)"
          strokeWidth="3"
          paintOrder="stroke"
        >
          {limit.label}
        </text>
      )}
      {at !== undefined && at >= low && at <= high && (
        <path d={`M${px(at)} ${TOP}V${height}`} stroke="var(--oak)" strokeWidth="1.6" />
      )}
      <text x={LEFT} y="11" fill="var(--ink)" fontWeight="600" fontSize="11">
        {title}
        <tspan fill="var(--soft)" fontWeight="400">
          {" "}
          {[printUnit(told.unit), note].filter(Boolean).join(" ")}
        </tspan>
      </text>
      {children?.({ x: px, y: py, bottom: height })}
    </svg>
  );
}
