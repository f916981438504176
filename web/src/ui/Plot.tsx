import { useRef, type ReactNode } from "react";
import { useDrag } from "../lib/drag";
import { saveDrawings, saveTable, type Cell } from "../lib/download";

/** A drawing or plot with its name and what it can be saved as. */
export function Saved({
  title,
  note,
  table,
  children,
  className = "",
}: {
  title: string;
  note?: ReactNode;
  table?: { columns: string[]; rows: () => Cell[][] } | undefined;
  children: ReactNode;
  className?: string;
}) {
  const figure = useRef<HTMLElement>(null);
  return (
    <figure ref={figure} className={`m-0 ${className}`} aria-label={title}>
      <figcaption className="flex items-baseline gap-2 pb-0.5">
        <b className="font-display text-base font-semibold">{title}</b>
        <span className="min-w-0 flex-1 truncate text-xs text-soft">{note}</span>
        <button
          type="button"
          className="text-xs text-soft hover:text-ink"
          aria-label={`Save ${title} as SVG`}
          onClick={() => {
            const drawings = figure.current?.querySelectorAll<SVGSVGElement>("svg[data-drawing]");
            if (drawings?.length) saveDrawings(title, [...drawings]);
          }}
        >
          SVG
        </button>
        {table && (
          <button
            type="button"
            className="text-xs text-soft hover:text-ink"
            aria-label={`Save ${title} as CSV`}
            onClick={() => saveTable(title, table.columns, table.rows())}
          >
            CSV
          </button>
        )}
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
        <button
          type="button"
          className="text-xs text-soft hover:text-ink"
          aria-label={`Save ${title} as CSV`}
          onClick={() => saveTable(title, columns, rows())}
        >
          CSV
        </button>
      </h2>
      {children}
    </section>
  );
}

export type PlotCurve = {
  values: (number | null | undefined)[];
  colour?: string;
  dash?: string;
  label?: string;
};

type PlotProps = {
  x: number[];
  curves: PlotCurve[];
  title: string;
  unit: string;
  range: [number, number];
  width?: number;
  height?: number;
  log?: boolean;
  logY?: boolean;
  ticks: number[];
  showTicks?: boolean;
  xUnit?: string;
  /** From and to of ground that is good, by x. */
  good?: [number, number][];
  /** Above this it is out of bounds. */
  limit?: { value: number; label: string; line?: boolean } | undefined;
  /** Where the present design stands. */
  at?: number | undefined;
  onPick?: (x: number) => void;
  onDone?: () => void;
  pickLabel?: string;
};

const LEFT = 40;
/** Above this is the name of the plot. */
const TOP = 17;

/** One plot as SVG; several with the same x stand over one another. */
export function Plot(props: PlotProps) {
  const {
    x,
    curves,
    title,
    unit,
    range,
    width = 620,
    height = 104,
    log = true,
    logY = false,
    ticks,
    showTicks = true,
    xUnit = "",
    good = [],
    limit,
    at,
    onPick,
    onDone,
    pickLabel,
  } = props;
  const [low, high] = [x[0] ?? 1, x.at(-1) ?? 10];
  const right = width - 8;
  const share = (v: number) => (log ? Math.log(v / low) / Math.log(high / low) : (v - low) / (high - low));
  const px = (v: number) => LEFT + share(v) * (right - LEFT);
  const ratio = (v: number) =>
    logY
      ? Math.log(Math.max(v, range[0]) / range[0]) / Math.log(range[1] / range[0])
      : (v - range[0]) / (range[1] - range[0]);
  const py = (v: number) => TOP + (1 - Math.min(Math.max(ratio(v), 0), 1)) * (height - TOP);
  const path = (values: PlotCurve["values"]) => {
    let text = "";
    let pen = false;
    values.forEach((v, i) => {
      const f = x[i];
      if (typeof v !== "number" || f === undefined) {
        pen = false;
        return;
      }
      text += `${pen ? "L" : "M"}${px(f).toFixed(1)} ${py(v).toFixed(1)}`;
      pen = true;
    });
    return text;
  };
  const pick = (event: { clientX: number }, box: DOMRect) => {
    const t = ((event.clientX - box.left) / box.width) * width;
    const s = Math.min(Math.max((t - LEFT) / (right - LEFT), 0), 1);
    onPick?.(log ? low * (high / low) ** s : low + (high - low) * s);
  };
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
      data-drawing
      viewBox={`0 0 ${width} ${bottom}`}
      className={`block w-full select-none ${onPick ? "cursor-ew-resize touch-none" : ""}`}
      fontSize="10"
      role={onPick ? "slider" : "img"}
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
      {ticks
        .filter((t) => t > low && t < high)
        .map((t) => (
          <g key={t}>
            <path d={`M${px(t)} ${TOP}V${height}`} stroke="var(--rule)" strokeWidth="0.6" />
            {showTicks && px(t) < right - (xUnit ? 36 : 10) && (
              <text x={px(t)} y={height + 12} textAnchor="middle" fill="var(--soft)">
                {t}
              </text>
            )}
          </g>
        ))}
      {showTicks && (
        <text x={right} y={height + 12} textAnchor="end" fill="var(--soft)">
          {xUnit}
        </text>
      )}
      <text x={LEFT - 4} y={TOP + 8} textAnchor="end" fill="var(--soft)">
        {range[1]}
      </text>
      <text x={LEFT - 4} y={height} textAnchor="end" fill="var(--soft)">
        {range[0]}
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
          <text x={right - 4} y={py(limit.value) - 3} textAnchor="end" fill="var(--brick)">
            {limit.label}
          </text>
        </g>
      )}
      {curves.map((c, i) => (
        <path
          key={i}
          d={path(c.values)}
          fill="none"
          stroke={c.colour ?? "var(--ink)"}
          strokeWidth="1.6"
          strokeDasharray={c.dash}
        />
      ))}
      {at !== undefined && at >= low && at <= high && (
        <path d={`M${px(at)} ${TOP}V${height}`} stroke="var(--oak)" strokeWidth="1.6" />
      )}
      <text x={LEFT} y="11" fill="var(--ink)" fontWeight="600" fontSize="11">
        {title}
        <tspan fill="var(--soft)" fontWeight="400">
          {" "}
          {unit}
        </tspan>
      </text>
    </svg>
  );
}

/** A round number above a value: 1, 1.5, 2, 3, 5 or 7.5 times a power of ten. */
export function roundUp(value: number): number {
  if (!(value > 0)) return 1;
  const power = 10 ** Math.floor(Math.log10(value));
  const step = [1, 1.5, 2, 3, 5, 7.5, 10].find((s) => s * power >= value * 0.999) ?? 10;
  return Number((step * power).toPrecision(3));
}
