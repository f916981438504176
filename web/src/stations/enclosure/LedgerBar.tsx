import type { Ledger } from "../../api/client";
import { useSay, useSize } from "../../app/settings";
import { useWidth } from "../../lib/width";

const MOST = 460;
const HIGH = 22;
/** Room a letter takes, px. */
const LETTER = 6;

export type Piece = { name: string; litres: number; from: number; to: number };

/** Where the litres of an outside lie on a bar from 0 to 1: what is left for the air first, then each thing that takes some. */
export function pieces(
  ledger: Pick<Ledger, "lines" | "net_l">,
  named: (label: Ledger["lines"][number]["label"]) => string,
): Piece[] {
  const taking = ledger.lines.filter((l) => l.litres < 0);
  const air = Math.max(ledger.net_l, 0);
  const all = taking.reduce((sum, l) => sum - l.litres, air);
  if (!(all > 0)) return [];
  const parts = [
    { name: "net", litres: air },
    ...taking.map((l) => ({ name: named(l.label), litres: -l.litres })),
  ];
  return parts.map((part, i) => {
    const before = parts.slice(0, i).reduce((sum, p) => sum + p.litres, 0);
    return { ...part, from: before / all, to: (before + part.litres) / all };
  });
}

/** The ledger as a bar at scale, with the air that is wanted. */
export function LedgerBar({ ledger }: { ledger: Ledger }) {
  const say = useSay();
  const size = useSize();
  const [drawing, width] = useWidth<SVGSVGElement>(MOST);
  const list = pieces(ledger, say);
  const total = list.reduce((sum, p) => sum + p.litres, 0);
  const wanted = Math.min(ledger.wanted_net_l / total, 1) * width;
  const words = list.map((p) => `${p.name} ${size(p.litres, "L")}`).join(", ");
  return (
    <svg
      ref={drawing}
      data-drawing
      viewBox={`0 0 ${width} ${HIGH + 16}`}
      className="block w-full"
      fontSize="10"
      role="img"
      aria-label={`Where the litres go: ${words}; wanted ${size(ledger.wanted_net_l, "L")}`}
    >
      {list.map((p, i) => {
        const [from, wide] = [p.from * width, (p.to - p.from) * width];
        const short = p.name.split(",")[0] ?? "";
        const written = short.length * LETTER < wide - 6;
        return (
          <g key={i}>
            <title>{`${p.name}: ${size(p.litres, "L")}`}</title>
            <rect
              x={from}
              width={Math.max(wide, 0.5)}
              height={HIGH}
              fill={i ? "var(--selected)" : "var(--verdigris)"}
              fillOpacity={i ? 1 : 0.22}
              stroke="var(--ink)"
              strokeWidth="0.6"
            />
            {written && (
              <text x={from + 4} y={HIGH / 2 + 3.5} fill="var(--ink)">
                {short}
              </text>
            )}
          </g>
        );
      })}
      <path d={`M${wanted} 0V${HIGH + 4}`} stroke="var(--oak)" strokeWidth="1.6" />
      <text
        x={Math.min(Math.max(wanted, 24), width - 24)}
        y={HIGH + 14}
        textAnchor="middle"
        fill="var(--oak)"
      >
        wanted
      </text>
    </svg>
  );
}
