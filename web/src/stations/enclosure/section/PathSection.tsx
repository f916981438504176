import { show } from "../../../lib/quantity";
import { useSettings } from "../../../app/settings";
import { useDocument, useEvaluation } from "../../../workbench/context";
import { Cone } from "./Cone";
import type { Moving } from "./motion";

const WIDTH = 288;
const HEIGHT = 128;
const MIDDLE = 52;

/** A line or horn unrolled: the root of its area over its length, fills hatched, the woofer where it looks in. */
export function PathSection({ moving }: { moving: Moving }) {
  const { enclosure } = useDocument();
  const path = useEvaluation()?.path;
  const { system } = useSettings();
  if (!path) return null;
  const length = path.at_mm.at(-1) ?? 1;
  const widest = Math.sqrt(Math.max(...path.area_cm2));
  const x = (mm: number) => 24 + (mm / length) * (WIDTH - 60);
  const r = (cm2: number) => Math.max(3, (Math.sqrt(cm2) / widest) * 38);
  const areaAt = (mm: number) => {
    const i = path.at_mm.findIndex((p) => p >= mm);
    const [a, b] = [path.at_mm[i - 1], path.at_mm[i]];
    const [s, t] = [path.area_cm2[i - 1], path.area_cm2[i]];
    if (a === undefined || b === undefined || s === undefined || t === undefined)
      return path.area_cm2[Math.max(i, 0)] ?? 1;
    return b === a ? t : s + ((t - s) * (mm - a)) / (b - a);
  };
  const points = path.at_mm.map((mm, i) => ({ x: x(mm), r: r(path.area_cm2[i] ?? 1) }));
  const upper = points.map((p) => `${p.x} ${MIDDLE - p.r}`).join("L");
  const lower = points
    .map((p) => `${p.x} ${MIDDLE + p.r}`)
    .reverse()
    .join("L");
  const horn = "horn" in enclosure ? enclosure.horn : undefined;
  const fills = (horn ? horn.fills : "fills" in enclosure ? enclosure.fills : undefined) ?? [];
  // a horn driven at its throat is open there to the woofer; a line and a tapped horn are closed
  const closed = enclosure.family === "transmission_line" || enclosure.family === "tapped_horn";
  const shown = show(Math.round(length), "mm", system);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full select-none"
      role="img"
      aria-label="The path unrolled"
      fontSize="10"
    >
      <defs>
        <pattern id="fill" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
          <path d="M0 0V6" stroke="var(--soft)" strokeWidth="0.8" />
        </pattern>
      </defs>
      <path d={`M${upper}L${lower}Z`} fill="var(--panel)" />
      {fills.map((f, i) => {
        const [a, b] = [x(f.from_mm), x(Math.min(f.to_mm, length))];
        const half = Math.min(r(areaAt(f.from_mm)), r(areaAt(f.to_mm)));
        return (
          <rect
            key={i}
            x={a}
            y={MIDDLE - half}
            width={Math.max(0, b - a)}
            height={2 * half}
            fill="url(#fill)"
          />
        );
      })}
      <path d={`M${upper}M${lower}`} fill="none" stroke="var(--ink)" strokeWidth="1.6" />
      {closed && points[0] && (
        <path
          d={`M${points[0].x} ${MIDDLE - points[0].r}V${MIDDLE + points[0].r}`}
          stroke="var(--ink)"
          strokeWidth="2.4"
        />
      )}
      {moving.motion?.path.map((p, i) => {
        const half = r(areaAt(p.at_mm)) - 1.5;
        const at = x(p.at_mm) + moving.offset(p.swing);
        return (
          <path
            key={i}
            d={`M${at} ${MIDDLE - half}V${MIDDLE + half}`}
            stroke="var(--verdigris)"
            strokeWidth="1"
          />
        );
      })}
      {path.taps_mm.map((mm, i) => {
        const throat = i === 0 && (!closed || mm < length * 0.03);
        const half = r(areaAt(mm));
        return throat ? (
          <Cone key={i} x={x(mm) - 2} y={MIDDLE} size={26} by={moving.offset(moving.motion?.cone)} turned />
        ) : (
          <g key={i} transform={`rotate(${i === 0 ? 90 : -90} ${x(mm)} ${MIDDLE + half})`}>
            {i === 0 && (
              <Cone x={x(mm)} y={MIDDLE + half} size={24} by={moving.offset(moving.motion?.cone)} turned />
            )}
          </g>
        );
      })}
      {path.taps_mm[1] !== undefined && path.taps_mm[0] !== undefined && (
        <path
          d={`M${x(path.taps_mm[0])} ${MIDDLE + r(areaAt(path.taps_mm[0])) + 14}V104H${x(path.taps_mm[1])}V${MIDDLE + r(areaAt(path.taps_mm[1]))}`}
          fill="none"
          stroke="var(--soft)"
          strokeDasharray="3 2"
        />
      )}
      <path
        d={`M${x(0)} 112H${x(length)}M${x(0)} 109v6M${x(length)} 109v6`}
        stroke="var(--soft)"
        strokeWidth="0.6"
      />
      <text x={(x(0) + x(length)) / 2} y={124} textAnchor="middle" fill="var(--soft)">
        {shown.text} {shown.unit} along the middle, width as the root of the area
      </text>
    </svg>
  );
}
