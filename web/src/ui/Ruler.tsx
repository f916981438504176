import { useWidth } from "../lib/width";
import { Saved } from "./Saved";

export type Mark = {
  name: string;
  at: number;
  range?: [number, number] | undefined;
  /** Single marks beside it, small. */
  dots?: number[];
  /** What stands at its end. */
  says: string;
};

const LEFT = 120;
const WIDE = 640;
const ROW = 24;

/** Marks on a ruler: one line each, with its range, and what chance alone would give hatched. */
export function Ruler({
  title,
  from,
  to,
  step,
  marks,
  line,
  note,
}: {
  title: string;
  from: number;
  to: number;
  step: number;
  marks: Mark[];
  line?: { at: number; says: string };
  note?: string;
}) {
  const [drawing, wide] = useWidth<SVGSVGElement>(WIDE);
  const x = (v: number) =>
    LEFT + ((Math.min(Math.max(v, from), to) - from) / (to - from)) * (wide - LEFT - 70);
  const high = marks.length * ROW + 34;
  const ticks = Array.from({ length: Math.round((to - from) / step) + 1 }, (_, i) => from + i * step);
  const words = marks
    .map(
      (m) =>
        `${m.name} ${m.says}${m.range ? `, from ${m.range[0].toFixed(1)} to ${m.range[1].toFixed(1)}` : ""}`,
    )
    .join("; ");
  return (
    <Saved
      title={title}
      note={note}
      table={{
        columns: ["name", "value", "from", "to"],
        rows: () => marks.map((m) => [m.name, m.at, m.range?.[0], m.range?.[1]]),
      }}
    >
      <svg
        ref={drawing}
        data-drawing
        viewBox={`0 0 ${wide} ${high}`}
        className="w-full max-w-3xl"
        role="img"
        aria-label={`${title}: ${words}`}
        fontFamily="Instrument Sans Variable"
        fontSize="11"
        fill="var(--ink)"
      >
        {line && (
          <>
            <line
              x1={x(line.at)}
              x2={x(line.at)}
              y1={14}
              y2={high - 16}
              stroke="var(--soft)"
              strokeDasharray="3 3"
            />
            <text x={x(line.at)} y={10} textAnchor="middle" fill="var(--soft)" fontSize="10">
              {line.says}
            </text>
          </>
        )}
        {marks.map((m, i) => {
          const y = 26 + i * ROW;
          return (
            <g key={`${m.name}${i}`}>
              <text x={LEFT - 10} y={y + 4} textAnchor="end">
                {m.name.length > 18 ? `${m.name.slice(0, 17)}…` : m.name}
              </text>
              {m.range && (
                <line
                  x1={x(m.range[0])}
                  x2={x(m.range[1])}
                  y1={y}
                  y2={y}
                  stroke="var(--verdigris)"
                  strokeWidth="3"
                />
              )}
              {m.dots?.map((d, k) => (
                <line key={k} x1={x(d)} x2={x(d)} y1={y - 6} y2={y + 6} stroke="var(--soft)" />
              ))}
              <path d={`M${x(m.at)} ${y - 7} l5 7 l-5 7 l-5 -7 z`} fill="var(--oak)" />
              <text x={wide - 62} y={y + 4} className="tabular-nums">
                {m.says}
              </text>
            </g>
          );
        })}
        <line x1={x(from)} x2={x(to)} y1={high - 16} y2={high - 16} stroke="var(--ink)" />
        {ticks.map((t) => (
          <g key={t}>
            <line x1={x(t)} x2={x(t)} y1={high - 16} y2={high - 11} stroke="var(--ink)" />
            <text x={x(t)} y={high - 1} textAnchor="middle" fontSize="10" fill="var(--soft)">
              {Number(t.toFixed(2))}
            </text>
          </g>
        ))}
      </svg>
    </Saved>
  );
}
