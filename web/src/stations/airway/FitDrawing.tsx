import type { PortDesign } from "../../api/client";
import { useSettings } from "../../app/settings";
import { show } from "../../lib/quantity";
import { Saved } from "../../ui/Saved";

const H = 190;

/** The port in its course through the inside, seen across its bends, with what must stay free at its end. */
export function FitDrawing({ port }: { port: PortDesign }) {
  const { system } = useSettings();
  const { inside_mm, through_mm, line_mm, outside_mm, free_mm, from_baffle } = port.course;
  const [along = 1, other = 1] = inside_mm;
  // what runs out of the box is drawn too
  const reach = Math.max(along + 20, ...line_mm.map((p) => (p[0] ?? 0) + 20));
  const scale = Math.min(280 / (reach + through_mm + 20), (H - 34) / (other + 40));
  const x = (mm: number) => 24 + (mm + through_mm) * scale;
  const W = Math.max(x(reach) + 70, 200);
  const y = (mm: number) => H - 24 - (mm + 20) * scale;
  const points = line_mm.map((p) => [x(p[0] ?? 0), y(p[1] ?? 0)] as const);
  const end = line_mm.at(-1) ?? [0, 0];
  const before = line_mm.at(-2) ?? [0, 0];
  const [ex = 0, ey = 0] = end;
  const way = [Math.sign(ex - (before[0] ?? 0)), Math.sign(ey - (before[1] ?? 0))];
  const ok = port.fit.checks.find((c) => c.id === "length")?.passed;
  const ink = ok ? "var(--ink)" : "var(--brick)";
  const half = (outside_mm / 2) * scale;
  const sizes = [along, other].map((mm) => {
    const s = show(Math.round(mm), "mm", system);
    return `${s.text} ${s.unit}`;
  });
  const length = show(Math.round(port.length_mm), "mm", system);
  const path = points.map(([a, b], i) => `${i ? "L" : "M"}${a.toFixed(1)} ${b.toFixed(1)}`).join("");
  const wall = Math.max(through_mm * scale, 4);
  return (
    <Saved title="In the box" note={`${length.text} ${length.unit} along the centre line`}>
      <svg
        data-drawing
        viewBox={`0 0 ${W} ${H}`}
        className="block w-full"
        fontSize="10"
        role="img"
        aria-label="The port inside the box"
      >
        <defs>
          <pattern
            id="grain"
            width="5"
            height="5"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <path d="M0 0V5" stroke="var(--oak)" strokeWidth="1" />
          </pattern>
          <pattern
            id="keep-free"
            width="6"
            height="6"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(-45)"
          >
            <path d="M0 0V6" stroke="var(--ochre)" strokeWidth="1" />
          </pattern>
        </defs>
        <path
          fillRule="evenodd"
          fill="url(#grain)"
          stroke="var(--ink)"
          d={`M${x(0) - wall} ${y(other) - wall}H${x(along) + wall}V${y(0) + wall}H${x(0) - wall}Z M${x(0)} ${y(other)}V${y(0)}H${x(along)}V${y(other)}Z`}
        />
        <rect
          x={x(Math.min(ex, ex + (way[0] ?? 0) * free_mm)) - ((way[0] ?? 0) === 0 ? half : 0)}
          y={y(Math.max(ey, ey + (way[1] ?? 0) * free_mm)) - ((way[1] ?? 0) === 0 ? half : 0)}
          width={(way[0] ?? 0) === 0 ? 2 * half : free_mm * scale}
          height={(way[1] ?? 0) === 0 ? 2 * half : free_mm * scale}
          fill="url(#keep-free)"
          stroke="var(--ochre)"
          strokeWidth="0.6"
        />
        <path d={path} fill="none" stroke={ink} strokeWidth={2 * half + 2} strokeLinejoin="miter" />
        <path
          d={path}
          fill="none"
          stroke="var(--ground)"
          strokeWidth={Math.max(2 * half - 1, 1)}
          strokeLinejoin="miter"
        />
        <path d={path} fill="none" stroke="var(--soft)" strokeWidth="0.7" strokeDasharray="8 3 2 3" />
        <path
          d={`M${x(0)} ${H - 12}H${x(along)}m0 -3v6M${x(0)} ${H - 15}v6`}
          stroke="var(--soft)"
          strokeWidth="0.7"
        />
        <text x={24} y={H - 2} fill="var(--soft)">
          {sizes[0]} inside{from_baffle ? ", behind the baffle" : ""}
        </text>
        <text x={x(along) + wall + 4} y={y(other / 2)} fill="var(--soft)">
          {sizes[1]}
        </text>
      </svg>
    </Saved>
  );
}
