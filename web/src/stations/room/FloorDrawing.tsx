import { useId, type ReactNode } from "react";
import { useSize } from "../../app/settings";
import { useDrag } from "../../lib/drag";
import { useWidth } from "../../lib/width";
import { centimetre, toWall, type Which } from "./places";

/** A thing on the drawing: its middle and its size along both axes, m. A seat is a point. */
export type Thing = Which & {
  at: [number, number];
  long: [number, number];
  name: string;
  label: string;
  wrong: boolean;
  /** Where its front looks, along both axes. */
  looks?: [number, number] | undefined;
};

export type Area = { name: string; at: [number, number]; long: [number, number] };

type FloorDrawingProps = {
  title: string;
  /** Length and breadth of what is drawn, m. */
  sides: [number, number];
  things: Thing[];
  areas?: Area[];
  /** Whether its sides are walls; else only the left one is where `leftWall`, and the lower one is the ground where `ground`. */
  walled?: boolean;
  leftWall?: boolean;
  ground?: boolean;
  /** Names of the walls: left, right, lower, upper. */
  walls: [string, string, string, string];
  chosen?: Which | undefined;
  onChoose?: (which: Which) => void;
  onMove?: (thing: Thing, at: [number, number], gesture: string, exact: boolean) => void;
  onEnd?: () => void;
  /** A rectangle is being drawn by hand: told when it is done, m. */
  onDrawn?: ((area: { at: [number, number]; long: [number, number] }) => void) | undefined;
  width?: number;
  height?: number;
  /** What lies under the things, in the drawing's own measure: places (m) are told by the two functions. */
  children?: (x: (m: number) => number, y: (m: number) => number) => ReactNode;
};

const STEP: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
const WALL = 9;
const PAD = 16;

/** A floor plan or a section at true scale: hatched walls, cabinets and seats to be pulled about, how far they are from the walls. */
export function FloorDrawing(props: FloorDrawingProps) {
  const { title, sides, things, areas = [], walled = true, leftWall = walled, ground = walled } = props;
  const { width: most = 560, height = 300, chosen, onDrawn, children } = props;
  const [drawing, width] = useWidth<SVGSVGElement>(most);
  const id = useId();
  const [length, breadth] = sides;
  const scale = Math.min((width - 2 * PAD) / length, (height - 2 * PAD) / breadth);
  const [w, h] = [length * scale, breadth * scale];
  const x = (m: number) => m * scale;
  const y = (m: number) => h - m * scale;
  const shown = things.find((t) => t.kind === chosen?.kind && t.index === chosen.index);
  const labels = together(things, scale);
  return (
    <svg
      ref={drawing}
      data-drawing
      viewBox={`${-PAD} ${-PAD} ${w + 2 * PAD} ${h + 2 * PAD}`}
      className="block w-full"
      style={{ maxHeight: h + 2 * PAD }}
      fontSize="10"
      role="group"
      aria-label={title}
    >
      <defs>
        <pattern
          id={`${id}hatch`}
          width="5"
          height="5"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <path d="M0 0V5" stroke="var(--soft)" strokeWidth="0.8" />
        </pattern>
        <pattern
          id={`${id}free`}
          width="7"
          height="7"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(-45)"
        >
          <path d="M0 0V7" stroke="var(--rule)" strokeWidth="1.4" />
        </pattern>
      </defs>
      <rect width={w} height={h} fill="var(--panel)" />
      {children?.(x, y)}
      {walled ? (
        <path
          d={`M${-WALL} ${-WALL}H${w + WALL}V${h + WALL}H${-WALL}ZM0 0V${h}H${w}V0Z`}
          fill={`url(#${id}hatch)`}
          fillRule="evenodd"
        />
      ) : (
        <>
          {leftWall && <rect x={-WALL} y={0} width={WALL} height={h} fill={`url(#${id}hatch)`} />}
          {ground && <rect x={0} y={h} width={w} height={WALL} fill={`url(#${id}hatch)`} />}
        </>
      )}
      <rect
        width={w}
        height={h}
        fill="none"
        stroke="var(--ink)"
        strokeDasharray={walled ? undefined : "5 4"}
      />
      {areas.map((area, i) => (
        <g key={i}>
          <rect
            x={x(area.at[0] - area.long[0] / 2)}
            y={y(area.at[1] + area.long[1] / 2)}
            width={area.long[0] * scale}
            height={area.long[1] * scale}
            fill={`url(#${id}free)`}
            stroke="var(--soft)"
            strokeDasharray="3 3"
          />
          <text
            x={x(area.at[0])}
            y={y(area.at[1]) + 3}
            textAnchor="middle"
            fill="var(--soft)"
            stroke="var(--panel)"
            strokeWidth="2.5"
            paintOrder="stroke"
          >
            {area.name}
          </text>
        </g>
      ))}
      {onDrawn && <Pencil width={w} height={h} scale={scale} onDrawn={onDrawn} />}
      {shown && <Distances thing={shown} sides={sides} x={x} y={y} />}
      {things.map((thing, i) => (
        <Placed
          key={`${thing.kind}${thing.index}`}
          {...props}
          thing={thing}
          label={labels[i] ?? ""}
          scale={scale}
          x={x}
          y={y}
        />
      ))}
    </svg>
  );
}

/** Letters nearer than this, px, would stand in each other. */
const NEAR = 10;

/** What is written at each thing: seats that one sees behind each other are named together, at the first of them. */
function together(things: Thing[], scale: number): string[] {
  const meet = (a: Thing, b: Thing) =>
    a.kind === "seat" &&
    b.kind === "seat" &&
    [0, 1].every((axis) => Math.abs((a.at[axis] ?? 0) - (b.at[axis] ?? 0)) * scale < NEAR);
  const labels = things.map(() => "");
  const written: number[] = [];
  things.forEach((thing, i) => {
    const at = written.find((k) => {
      const other = things[k];
      return other && meet(other, thing);
    });
    if (at === undefined) {
      written.push(i);
      labels[i] = thing.label;
    } else labels[at] += ` ${thing.label}`;
  });
  return labels;
}

const same = (a: Which | undefined, b: Which) => a?.kind === b.kind && a.index === b.index;

function Placed({
  thing,
  label,
  scale,
  x,
  y,
  title,
  chosen,
  onChoose,
  onMove,
  onEnd,
  sides,
  walls,
}: FloorDrawingProps & {
  thing: Thing;
  label: string;
  scale: number;
  x: (m: number) => number;
  y: (m: number) => number;
}) {
  const size = useSize();
  const drag = useDrag<{ x: number; y: number; at: [number, number]; perPixel: number }, SVGGElement>({
    begin: (e) => {
      const box = onMove && e.currentTarget.ownerSVGElement?.getScreenCTM();
      onChoose?.(thing);
      return box ? { x: e.clientX, y: e.clientY, at: thing.at, perPixel: 1 / (box.a * scale) } : null;
    },
    move: (e, from) =>
      onMove?.(
        thing,
        [
          from.at[0] + (e.clientX - from.x) * from.perPixel,
          from.at[1] - (e.clientY - from.y) * from.perPixel,
        ],
        "room-drag",
        "altKey" in e && !!(e as MouseEvent).altKey,
      ),
    end: () => onEnd?.(),
  });
  const is = same(chosen, thing);
  const colour = thing.wrong ? "var(--brick)" : thing.kind === "cabinet" ? "var(--ink)" : "var(--verdigris)";
  const [px, py] = [x(thing.at[0]), y(thing.at[1])];
  const [hw, hh] = [(thing.long[0] * scale) / 2, (thing.long[1] * scale) / 2];
  const far = [0, 1].map((axis) => toWall(thing.at[axis] ?? 0, thing.long[axis] ?? 0, sides[axis] ?? 1));
  const said = far.map((f, axis) => {
    const wall = walls[axis * 2 + (f.from === 0 ? 0 : 1)];
    return `${size(Math.max(centimetre(f.metres), 0), "m")} from the ${wall}`;
  });
  return (
    <g
      role={onMove ? "slider" : "img"}
      tabIndex={onMove ? 0 : undefined}
      aria-label={`${thing.name}, ${title}`}
      aria-valuenow={onMove ? Number(thing.at[0].toFixed(2)) : undefined}
      aria-valuemin={onMove ? 0 : undefined}
      aria-valuemax={onMove ? sides[0] : undefined}
      aria-valuetext={onMove ? `${said.join(", ")}${thing.wrong ? ", cannot stand there" : ""}` : undefined}
      className={onMove ? "cursor-move touch-none" : undefined}
      stroke={colour}
      onFocus={() => onChoose?.(thing)}
      {...drag}
      onKeyDown={(e) => {
        const step = STEP[e.key];
        if (!step || !onMove) return;
        e.preventDefault();
        const by = e.shiftKey ? 0.1 : 0.01;
        onMove(thing, [thing.at[0] + step[0] * by, thing.at[1] + step[1] * by], "room-keys", true);
      }}
      onBlur={() => onEnd?.()}
    >
      {thing.kind === "cabinet" ? (
        <>
          <rect
            x={px - hw}
            y={py - hh}
            width={2 * hw}
            height={2 * hh}
            fill={is ? "var(--selected)" : "var(--ground)"}
            strokeWidth={is ? 2 : 1.4}
          />
          {thing.looks && <Front px={px} py={py} hw={hw} hh={hh} looks={thing.looks} />}
        </>
      ) : (
        <>
          <circle cx={px} cy={py} r="11" fill="transparent" stroke="none" />
          <circle
            cx={px}
            cy={py}
            r="6"
            fill={is ? "var(--selected)" : "var(--ground)"}
            strokeWidth={is ? 2 : 1.4}
          />
          <circle cx={px} cy={py} r="1.6" fill={colour} stroke="none" />
        </>
      )}
      <text
        x={px}
        y={thing.kind === "cabinet" ? py + 3.5 : py - 9}
        textAnchor="middle"
        fill={colour}
        stroke="none"
        fontWeight="600"
      >
        {label}
      </text>
    </g>
  );
}

/** The front of a cabinet: a heavy edge. */
function Front({
  px,
  py,
  hw,
  hh,
  looks: [dx, dy],
}: {
  px: number;
  py: number;
  hw: number;
  hh: number;
  looks: [number, number];
}) {
  const [cx, cy] = [px + dx * hw, py - dy * hh];
  const along = dx ? `V${cy + hh}` : `H${cx + hw}`;
  return (
    <path d={`M${dx ? cx : cx - hw} ${dx ? cy - hh : cy}${along}`} strokeWidth="3.5" stroke="var(--oak)" />
  );
}

/** A dimension shorter than this has its figure beyond the thing, in the drawing's own measure. */
const SHORT = 44;

/** Dimension lines from a thing to the nearer walls. */
function Distances({
  thing,
  sides,
  x,
  y,
}: {
  thing: Thing;
  sides: [number, number];
  x: (m: number) => number;
  y: (m: number) => number;
}) {
  const size = useSize();
  const [along, up] = [0, 1].map((axis) =>
    toWall(thing.at[axis] ?? 0, thing.long[axis] ?? 0, sides[axis] ?? 1),
  );
  if (!along || !up) return null;
  const [px, py] = [x(thing.at[0]), y(thing.at[1])];
  const [right, top] = [x(thing.at[0] + thing.long[0] / 2), y(thing.at[1] + thing.long[1] / 2)];
  const told = (metres: number) => size(centimetre(metres), "m");
  const wide = x(along.to) - x(along.from) > SHORT;
  const high = y(up.from) - y(up.to) > 14;
  // what has no room between thing and wall stands on the thing's other side
  const beside = along.from === 0 ? right + SHORT / 2 + 2 : x(along.from) - SHORT / 2 - (right - px) * 2 - 2;
  return (
    <g stroke="var(--oak)" strokeWidth="0.9" fill="none" aria-hidden>
      {along.metres > 0.02 && (
        <>
          <path
            d={`M${x(along.from)} ${py}H${x(along.to)}${tick(x(along.from), py)}${tick(x(along.to), py)}`}
          />
          <Label
            x={wide ? (x(along.from) + x(along.to)) / 2 : beside}
            y={wide ? py - 4 : py + 3.5}
            text={told(along.metres)}
          />
        </>
      )}
      {up.metres > 0.02 && (
        <>
          <path d={`M${px} ${y(up.from)}V${y(up.to)}${tick(px, y(up.from))}${tick(px, y(up.to))}`} />
          <Label
            x={high ? px + SHORT / 2 + 4 : px}
            y={
              high
                ? (y(up.from) + y(up.to)) / 2 + 3
                : up.from === 0
                  ? top - 5
                  : y(up.from) + (py - top) * 2 + 12
            }
            text={told(up.metres)}
          />
        </>
      )}
    </g>
  );
}

/** The slanted stroke at the end of a dimension line. */
const tick = (x: number, y: number) => `M${x - 3} ${y + 3}L${x + 3} ${y - 3}`;

const Label = ({ x, y, text }: { x: number; y: number; text: string }) => (
  <text
    x={x}
    y={y}
    textAnchor="middle"
    fill="var(--oak)"
    stroke="var(--panel)"
    strokeWidth="3"
    paintOrder="stroke"
    className="tabular-nums"
  >
    {text}
  </text>
);

/** Draws a rectangle from where it is pressed to where it is let go. */
function Pencil({
  width,
  height,
  scale,
  onDrawn,
}: {
  width: number;
  height: number;
  scale: number;
  onDrawn: (area: { at: [number, number]; long: [number, number] }) => void;
}) {
  const place = (e: { clientX: number; clientY: number }, element: SVGRectElement): [number, number] => {
    const box = element.getBoundingClientRect();
    const part = (v: number, from: number, long: number) => Math.min(Math.max((v - from) / long, 0), 1);
    return [
      (part(e.clientX, box.left, box.width) * width) / scale,
      ((1 - part(e.clientY, box.top, box.height)) * height) / scale,
    ];
  };
  return (
    <rect
      width={width}
      height={height}
      fill="transparent"
      className="cursor-crosshair touch-none"
      data-testid="pencil"
      onPointerDown={(e) => {
        const from = place(e, e.currentTarget);
        const element = e.currentTarget;
        element.setPointerCapture(e.pointerId);
        const done = (up: PointerEvent) => {
          element.removeEventListener("pointerup", done);
          const to = place(up, element);
          const middle = (axis: 0 | 1) => (from[axis] + to[axis]) / 2;
          const long = (axis: 0 | 1) => Math.abs(from[axis] - to[axis]);
          if (long(0) > 0.05 && long(1) > 0.05)
            onDrawn({ at: [middle(0), middle(1)], long: [long(0), long(1)] });
        };
        element.addEventListener("pointerup", done);
      }}
    />
  );
}
