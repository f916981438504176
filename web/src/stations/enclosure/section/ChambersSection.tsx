import { printUnit, show } from "../../../lib/quantity";
import { useSettings } from "../../../app/settings";
import { useDocument, useEvaluation } from "../../../workbench/context";
import { Cone, Slug } from "./Cone";
import type { Moving } from "./motion";

const WIDTH = 288;
const HEIGHT = 128;

/** Two chambers with the woofer in the wall between them; volumes in proportion, ports where they lead. */
export function ChambersSection({ moving }: { moving: Moving }) {
  const document = useDocument();
  const evaluation = useEvaluation();
  const { system } = useSettings();
  const [rear, front] = evaluation?.summary.chambers ?? [];
  const total = (rear?.net_l ?? 1) + (front?.net_l ?? 1);
  const [left, right, top, bottom] = [34, WIDTH - 34, 8, HEIGHT - 22];
  const wall = left + ((right - left) * (rear?.net_l ?? 1)) / total;
  const middle = (top + bottom) / 2;
  const size = Math.min(46, (right - wall) * 1.2, (wall - left) * 1.2);
  const ports = evaluation?.ports ?? [];
  const series = "leads" in document.enclosure && document.enclosure.leads === "front_chamber";
  const litres = (v: number | undefined) => {
    const shown = show(v ?? 0, "L", system, 3);
    return `${shown.text} ${printUnit(shown.unit)}`;
  };
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full select-none"
      role="img"
      aria-label="Two chambers in section"
      fontSize="10"
    >
      <g fill="none" stroke="var(--ink)" strokeWidth="2">
        <rect x={left} y={top} width={right - left} height={bottom - top} />
        <path d={`M${wall} ${top}V${middle - size / 2}M${wall} ${middle + size / 2}V${bottom}`} />
      </g>
      <Cone x={wall} y={middle} size={size} by={moving.offset(moving.motion?.cone)} turned />
      {ports.map((port, i) => {
        const isFront = port.pointer.includes("front");
        const inner = !isFront && series;
        const length = 30;
        const height = 12;
        const y = bottom - 8 - height;
        const x = isFront ? right - length : inner ? wall - length / 2 : left;
        const mine = moving.motion?.openings[isFront ? 0 : 1];
        return (
          <g key={port.pointer}>
            <rect
              x={isFront ? right - 1.5 : inner ? wall - 1.5 : left - 1.5}
              y={y}
              width={3}
              height={height}
              fill="var(--ground)"
            />
            <path
              d={`M${x} ${y}h${length}M${x} ${y + height}h${length}`}
              stroke="var(--ink)"
              strokeWidth="1.4"
            />
            {moving.motion && (
              <Slug
                x={x}
                y={y}
                width={length}
                height={height}
                by={moving.offset(mine?.swing)}
                turned={isFront || inner}
              />
            )}
            <title>{`port ${i + 1}: ${Math.round(port.length_mm)} mm long`}</title>
          </g>
        );
      })}
      <g fill="var(--soft)" textAnchor="middle">
        <text x={(left + wall) / 2} y={HEIGHT - 8}>
          rear {litres(rear?.net_l)}
        </text>
        <text x={(wall + right) / 2} y={HEIGHT - 8}>
          front {litres(front?.net_l)}
        </text>
      </g>
    </svg>
  );
}
