import type { CabinetView, FaceView, MountedPart } from "../../api/client";
import { useSize } from "../../app/settings";
import { useWorkbench } from "../../workbench/context";
import { useDrag } from "../../lib/drag";
import { at } from "../../lib/pointer";
import { placed, type Spot } from "./placing";

const STEP: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** A face seen from outside with what sits on it; things are dragged to their places, or moved with the arrow keys. */
export function FaceDrawing({
  cabinet,
  face,
  large = false,
}: {
  cabinet: CabinetView;
  face: FaceView;
  large?: boolean;
}) {
  const pad = Math.max(face.width_mm, face.height_mm) * 0.03;
  const mounted_parts = cabinet.mounted_parts
    .map((part, i) => ({ part, i }))
    .filter(({ part }) => part.face === face.face);
  const text = (large ? 0.038 : 0.075) * Math.max(face.width_mm, face.height_mm);
  return (
    <figure className="min-w-0">
      <figcaption className="text-xs text-soft">
        {face.title}
        {large && mounted_parts.some(({ part }) => part.pointer) && " – drag what sits on it"}
      </figcaption>
      <svg
        data-drawing
        data-face={face.face}
        viewBox={`${-pad} ${-pad} ${face.width_mm + 2 * pad} ${face.height_mm + 2 * pad}`}
        className={`block w-full ${large ? "max-h-[310px]" : "max-h-[130px]"}`}
        fontSize={text}
        role="group"
        aria-label={face.title}
      >
        {face.disc ? (
          <circle
            cx={face.width_mm / 2}
            cy={face.height_mm / 2}
            r={face.width_mm / 2}
            fill="var(--panel)"
            stroke="var(--ink)"
            vectorEffect="non-scaling-stroke"
          />
        ) : (
          <rect
            width={face.width_mm}
            height={face.height_mm}
            fill="var(--panel)"
            stroke="var(--ink)"
            vectorEffect="non-scaling-stroke"
          />
        )}
        {mounted_parts.map(({ part, i }) => (
          <PartOn key={i} cabinet={cabinet} face={face} part={part} index={i} text={text} />
        ))}
      </svg>
    </figure>
  );
}

function PartOn({
  cabinet,
  face,
  part,
  index,
  text,
}: {
  cabinet: CabinetView;
  face: FaceView;
  part: MountedPart;
  index: number;
  text: number;
}) {
  const workbench = useWorkbench();
  const near = cabinet.clearances.filter((c) => c.mm < -0.5 && (c.part === index || c.other_part === index));
  const wrong = near.length > 0;
  const movable = !!part.pointer;
  const size = useSize();
  const [x, y] = [part.across_mm, face.height_mm - part.up_mm];
  const round = part.opening.shape === "round" ? part.opening.diameter_mm / 2 : undefined;
  // of a triangle the legs have a direction: right and up from its right angle
  const [hw, hh] =
    part.opening.shape === "round"
      ? ([part.opening.diameter_mm / 2, part.opening.diameter_mm / 2] as const)
      : ([part.opening.width_mm / 2, part.opening.length_mm / 2] as const);
  const corners = [
    [x - hw, y + hh],
    [x + hw, y + hh],
    ...(part.opening.shape === "triangle" ? [] : [[x + hw, y - hh]]),
    [x - hw, y - hh],
  ];
  const move = (across: number, up: number, gesture: string) => {
    const clamp = (v: number, most: number) => Math.round(Math.min(Math.max(v, 0), most));
    const current = workbench.current?.document;
    const change =
      current &&
      placed(current, cabinet, part, clamp(across, face.width_mm), clamp(up, face.height_mm), face.word);
    if (change) workbench.set(change.pointer, change.value, gesture);
  };
  // where it is by the document: the server's answer may be a few moves behind
  const now = () => {
    const spot = part.pointer && (at(workbench.current?.document, part.pointer) as Partial<Spot> | undefined);
    return spot && spot.face === face.word && spot.across_mm !== undefined && spot.up_mm !== undefined
      ? [spot.across_mm, spot.up_mm]
      : [part.across_mm, part.up_mm];
  };
  const drag = useDrag<{ x: number; y: number; across: number; up: number; perPixel: number }, SVGGElement>({
    begin: (e) => {
      const box = movable && e.currentTarget.ownerSVGElement?.getScreenCTM();
      const [across = 0, up = 0] = now();
      return box ? { x: e.clientX, y: e.clientY, across, up, perPixel: 1 / box.a } : null;
    },
    move: (e, from) =>
      move(
        from.across + (e.clientX - from.x) * from.perPixel,
        from.up - (e.clientY - from.y) * from.perPixel,
        "part-drag",
      ),
    end: () => workbench.endGesture(),
  });
  const colour = wrong ? "var(--brick)" : "var(--ink)";
  return (
    <g
      role={movable ? "slider" : undefined}
      tabIndex={movable ? 0 : undefined}
      aria-label={movable ? `${part.name} on ${face.title}` : undefined}
      aria-valuenow={movable ? Math.round(part.up_mm) : undefined}
      aria-valuemin={movable ? 0 : undefined}
      aria-valuemax={movable ? Math.round(face.height_mm) : undefined}
      aria-valuetext={
        movable
          ? `${size(Math.round(part.across_mm), "mm", 4)} across, ${size(Math.round(part.up_mm), "mm", 4)} up${wrong ? ", in the way" : ""}`
          : undefined
      }
      className={movable ? "cursor-move touch-none" : undefined}
      stroke={colour}
      {...drag}
      onKeyDown={(e) => {
        const step = STEP[e.key];
        if (!step || !movable) return;
        e.preventDefault();
        const size = e.shiftKey ? 20 : e.altKey ? 1 : 5;
        const [across = 0, up = 0] = now();
        move(across + step[0] * size, up + step[1] * size, "part-keys");
      }}
      onBlur={() => workbench.endGesture()}
    >
      {part.frame_mm && round !== undefined && (
        <circle
          cx={x}
          cy={y}
          r={part.frame_mm / 2}
          fill="transparent"
          strokeDasharray="4 3"
          vectorEffect="non-scaling-stroke"
        />
      )}
      {round !== undefined ? (
        <circle
          cx={x}
          cy={y}
          r={round}
          fill="var(--ground)"
          strokeWidth={wrong ? 2.2 : 1.4}
          vectorEffect="non-scaling-stroke"
        />
      ) : (
        <polygon
          points={corners.map((p) => p.join(",")).join(" ")}
          fill="var(--ground)"
          strokeWidth={wrong ? 2.2 : 1.4}
          vectorEffect="non-scaling-stroke"
        />
      )}
      <path
        d={`M${x - text} ${y}h${2 * text}M${x} ${y - text}v${2 * text}`}
        strokeWidth="0.7"
        stroke="var(--soft)"
        vectorEffect="non-scaling-stroke"
      />
      <text
        x={x}
        y={y + 2.1 * text}
        textAnchor="middle"
        fill={wrong ? "var(--brick)" : "var(--soft)"}
        stroke="none"
      >
        {wrong ? `${part.name}: in ${near[0]?.part === index ? near[0].other : near[0]?.name}` : part.name}
      </text>
    </g>
  );
}
