import { memo } from "react";
import { useAnswer } from "../../api/answer";
import { api, get, type ChamberModes, type ModePicture as Picture, type ModeRow } from "../../api/client";
import { useDrag } from "../../lib/drag";
import { Saved } from "../../ui/Saved";
import { useDocument, useWorkbench } from "../../workbench/context";
import { useSize } from "../../app/settings";

const H = 210;

/** The pressure of a standing wave in the box from the front and from the side, woofer and port to be pulled at. */
export function ModePicture({ chamber, row }: { chamber: ChamberModes; row: ModeRow }) {
  const picture = usePicture(chamber, row);
  const { inside } = chamber;
  const gap = 14;
  const widths = inside.width_mm + inside.depth_mm;
  const scale = Math.min((H - 30) / inside.height_mm, (380 - gap - 12) / widths);
  const w = inside.width_mm * scale;
  const d = inside.depth_mm * scale;
  const h = inside.height_mm * scale;
  const total = w + d + gap + 12;
  return (
    <Saved title={`${row.name}, ${Math.round(row.filled_hz)} Hz`} note="pull woofer and port about">
      <svg
        data-drawing
        viewBox={`0 0 ${total.toFixed(1)} ${(h + 30).toFixed(1)}`}
        className="block max-h-72 w-full"
        fontSize="11"
        data-testid="mode-picture"
        role="group"
        aria-label="Pressure in the box"
      >
        <g transform="translate(6 6)">
          {picture && <Field values={picture.front} width={w} height={h} />}
          <rect width={w} height={h} fill="none" stroke="var(--ink)" />
          <Places chamber={chamber} scale={scale} height={h} view="front" />
          <text x={w / 2} y={h + 12} textAnchor="middle" fill="var(--soft)">
            front
          </text>
        </g>
        <g transform={`translate(${6 + w + gap} 6)`}>
          {picture && <Field values={picture.side} width={d} height={h} />}
          <rect width={d} height={h} fill="none" stroke="var(--ink)" />
          <Places chamber={chamber} scale={scale} height={h} view="side" />
          <text x={d / 2} y={h + 12} textAnchor="middle" fill="var(--soft)">
            side
          </text>
        </g>
      </svg>
    </Saved>
  );
}

function usePicture(chamber: ChamberModes, row: ModeRow): Picture | undefined {
  const document = useDocument();
  const { width_mm, height_mm, depth_mm } = chamber.inside;
  // the pattern follows the sides and the order, not where woofer and port stand
  const parts = [chamber.pointer, row.order, width_mm, height_mm, depth_mm];
  const body = { document, pointer: chamber.pointer, order: row.order };
  return useAnswer("mode", parts, (signal) => get(api.POST("/api/mode", { body, signal })));
}

/** Pressure as cells, with its signs and the lines where it rests. */
const Field = memo(function Field({
  values,
  width,
  height,
}: {
  values: number[][];
  width: number;
  height: number;
}) {
  const rows = values.length - 1;
  const columns = (values[0]?.length ?? 1) - 1;
  const at = (r: number, c: number) => values[r]?.[c] ?? 0;
  const cells = [];
  const nodes: string[] = [];
  const signs = [];
  const x = (c: number) => (c / columns) * width;
  const y = (r: number) => height - (r / rows) * height;
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < columns; c++) {
      const mean = (at(r, c) + at(r + 1, c) + at(r, c + 1) + at(r + 1, c + 1)) / 4;
      if (Math.abs(mean) > 0.03)
        cells.push(
          <rect
            key={`${r}-${c}`}
            x={x(c)}
            y={y(r + 1)}
            width={width / columns}
            height={height / rows}
            shapeRendering="crispEdges"
            fill={mean > 0 ? "var(--verdigris)" : "var(--oak)"}
            opacity={Math.abs(mean) * 0.6}
          />,
        );
      // where the sign turns between neighbours
      if (at(r, c) * at(r, c + 1) < 0) {
        const t = at(r, c) / (at(r, c) - at(r, c + 1));
        nodes.push(`M${x(c + t).toFixed(1)} ${y(r).toFixed(1)}V${y(r + 1).toFixed(1)}`);
      }
      if (at(r, c) * at(r + 1, c) < 0) {
        const t = at(r, c) / (at(r, c) - at(r + 1, c));
        nodes.push(`M${x(c).toFixed(1)} ${y(r + t).toFixed(1)}H${x(c + 1).toFixed(1)}`);
      }
    }
  }
  for (const r of [2, Math.round(rows / 2), rows - 2])
    for (const c of [2, Math.round(columns / 2), columns - 2])
      if (Math.abs(at(r, c)) > 0.7)
        signs.push(
          <text key={`${r}-${c}`} x={x(c)} y={y(r) + 4} textAnchor="middle" fontSize="13" fill="var(--ink)">
            {at(r, c) > 0 ? "+" : "−"}
          </text>,
        );
  return (
    <g>
      {cells}
      <path d={nodes.join("")} stroke="var(--ink)" strokeWidth="0.8" strokeDasharray="3 2" fill="none" />
      {signs}
    </g>
  );
});

type Grip = { x: number; y: number; across: number; up: number; scale: number };

type Seen = { chamber: ChamberModes; scale: number; height: number; view: "front" | "side" };

/** Woofer and opening where they stand; pulled at, the inside is stated. */
function Places(seen: Seen) {
  const { woofer_radius_mm: woofer, opening_radius_mm: opening } = seen.chamber;
  return (
    <>
      <Place which="woofer" radius={woofer} {...seen} />
      {opening ? <Place which="opening" radius={opening} {...seen} /> : null}
    </>
  );
}

function Place({
  which,
  radius,
  chamber,
  scale,
  height,
  view,
}: { which: "woofer" | "opening"; radius: number } & Seen) {
  const size = useSize();
  const workbench = useWorkbench();
  const { inside } = chamber;
  const move = (first: number, up: number, gesture: string) => {
    const clamp = (v: number, most: number) => Math.round(Math.min(Math.max(v, 0), most));
    const across = which === "woofer" || view === "front" ? `${which}_across_mm` : "opening_behind_mm";
    const most = across === "opening_behind_mm" ? inside.depth_mm : inside.width_mm;
    const next = {
      [`${which}_up_mm`]: clamp(up, inside.height_mm),
      ...(view === "front" || which === "opening" ? { [across]: clamp(first, most) } : {}),
    };
    if (chamber.stated)
      workbench.change(
        Object.entries(next).map(([name, value]) => ({
          pointer: `${chamber.inside_pointer}/${name}`,
          value,
        })),
        gesture,
      );
    else workbench.set(chamber.inside_pointer, { ...inside, ...next }, gesture);
  };
  const across =
    view === "front"
      ? inside[`${which}_across_mm`]
      : which === "woofer"
        ? 0
        : (inside.opening_behind_mm ?? 0);
  const first = across ?? 0;
  const up = inside[`${which}_up_mm`] ?? 0;
  const name = which === "woofer" ? "Woofer" : "Port";
  const label = view === "front" ? `${name}'s place` : `${name}'s place, from the side`;
  const drag = useDrag<Grip, SVGGElement>({
    begin: (e) => {
      const box = e.currentTarget.ownerSVGElement?.getBoundingClientRect();
      const wide = e.currentTarget.ownerSVGElement?.viewBox.baseVal.width ?? 1;
      const high = e.currentTarget.ownerSVGElement?.viewBox.baseVal.height ?? 1;
      const drawn = Math.min((box?.width ?? wide) / wide, (box?.height ?? high) / high);
      return { x: e.clientX, y: e.clientY, across: first, up, scale: scale * drawn };
    },
    move: (e, from) =>
      move(
        from.across + (e.clientX - from.x) / from.scale,
        from.up - (e.clientY - from.y) / from.scale,
        `${which}-place-drag`,
      ),
    end: () => workbench.endGesture(),
  });
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={inside.height_mm}
      aria-valuenow={up}
      aria-valuetext={`${size(Math.round(first), "mm")} ${view === "front" ? "across" : "behind"}, ${size(Math.round(up), "mm")} up`}
      className="cursor-move touch-none"
      {...drag}
      onKeyDown={(e) => {
        const step = e.shiftKey ? 20 : e.altKey ? 1 : 5;
        const by: Record<string, [number, number]> = {
          ArrowLeft: [-step, 0],
          ArrowRight: [step, 0],
          ArrowUp: [0, step],
          ArrowDown: [0, -step],
        };
        const way = by[e.key];
        if (!way) return;
        e.preventDefault();
        move(first + way[0], up + way[1], `${which}-place-keys`);
      }}
      onBlur={() => workbench.endGesture()}
    >
      {view === "front" ? (
        <>
          <circle
            cx={first * scale}
            cy={height - up * scale}
            r={radius * scale}
            fill="var(--ground)"
            fillOpacity="0.55"
            stroke="var(--ink)"
            strokeWidth="1.4"
          />
          {which === "woofer" && (
            <circle
              cx={first * scale}
              cy={height - up * scale}
              r={radius * scale * 0.3}
              fill="none"
              stroke="var(--ink)"
            />
          )}
        </>
      ) : which === "woofer" ? (
        <path
          d={`M0 ${height - (up + radius) * scale}L${radius * 0.5 * scale} ${height - (up + radius * 0.35) * scale}V${height - (up - radius * 0.35) * scale}L0 ${height - (up - radius) * scale}Z`}
          fill="var(--ground)"
          fillOpacity="0.7"
          stroke="var(--ink)"
          strokeWidth="1.4"
        />
      ) : (
        <rect
          x={0}
          y={height - (up + radius) * scale}
          width={Math.max(first * scale, 5)}
          height={2 * radius * scale}
          fill="var(--ground)"
          fillOpacity="0.7"
          stroke="var(--ink)"
          strokeWidth="1.4"
        />
      )}
      <title>Pull it to another place</title>
    </g>
  );
}
