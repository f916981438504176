import type { SectionResult } from "../../../api/client";
import { useSettings } from "../../../app/settings";
import { useDrag } from "../../../lib/drag";
import { nudge, printUnit, show } from "../../../lib/quantity";
import { useDocument, useEvaluation, useFoundAny, useWorkbench } from "../../../workbench/context";
import { Slug } from "./Cone";
import type { Moving } from "./motion";

const WIDTH = 288;
const HEIGHT = 128;

/** A box of one chamber in section, to scale; its back wall is dragged to change the net volume. */
export function BoxSection({ section, moving }: { section: SectionResult; moving: Moving }) {
  const workbench = useWorkbench();
  const document = useDocument();
  const evaluation = useEvaluation();
  const { system } = useSettings();

  const volume = "net_volume_l" in document.enclosure ? document.enclosure.net_volume_l : section.net_l;
  const { panel_mm: panel, baffle_mm: baffle } = section;
  const inside = { h: section.height_mm };
  // the volume at hand may be newer than the answer
  const newer = section.follows ? (volume - section.net_l) / section.l_per_mm : 0;
  const depth = Math.max(section.depth_mm + newer, 1);
  const outside = { h: inside.h + 2 * panel, d: depth + panel + baffle };
  const scale = Math.min((HEIGHT - 26) / outside.h, (WIDTH - 110) / outside.d);
  const left = Math.max(12, (WIDTH - 90 - outside.d * scale) / 2);
  const top = 6;
  const mm = (x: number) => x * scale;
  const right = left + mm(outside.d);
  const bottom = top + mm(outside.h);
  const x0 = left + mm(baffle);

  const sd = evaluation?.summary.woofer.sd_cm2 ?? 500;
  const cone = Math.min(Math.sqrt((sd * 100) / Math.PI) * 2, inside.h * 0.8);
  const port = evaluation?.ports[0];
  const design = "port" in document.enclosure ? document.enclosure.port : undefined;
  const opening = design?.section;
  const radiators = "radiators" in document.enclosure ? document.enclosure.radiators : undefined;
  const conePush = moving.offset(moving.motion?.cone);
  const openingPush = moving.offset(moving.motion?.openings[0]?.swing);
  const radiatorSize = radiators
    ? Math.min(Math.sqrt((radiators.sd_cm2 * 100) / Math.PI) * 2, inside.h * 0.45)
    : 0;
  const portHeight = radiators
    ? radiatorSize
    : !opening
      ? 0
      : opening.shape === "round"
        ? opening.diameter_mm
        : opening.shape === "square"
          ? opening.side_mm
          : opening.shape === "triangle"
            ? opening.leg_mm
            : opening.height_mm;
  const along = (design?.walls_alongside ?? 0) > 0;
  const portTop = along
    ? bottom - mm(panel) - mm(portHeight)
    : bottom - mm(panel) - mm(portHeight) - mm(inside.h * 0.06);
  const coneMiddle = top + mm(panel) + mm((inside.h - (port || radiators ? portHeight * 1.15 : 0)) / 2);
  const misfit = useFoundAny(["port_will_not_fit"]);

  const set = (litres: number, gesture: string) => {
    const value = Number(Math.min(Math.max(litres, 0.5), 5000).toPrecision(3));
    workbench.set("/enclosure/net_volume_l", value, gesture);
  };
  const drag = useDrag<{ x: number; volume: number; scale: number }, SVGRectElement>({
    begin: (event) => {
      const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
      return { x: event.clientX, volume, scale: scale * ((box?.width ?? WIDTH) / WIDTH) };
    },
    move: (event, from) => {
      const moved = (event.clientX - from.x) / from.scale;
      set(from.volume + moved * section.l_per_mm, "volume-drag");
    },
    end: () => workbench.endGesture(),
  });
  const shown = show(volume, "L", system, 3);
  const depthShown = show(Math.round(outside.d), "mm", system);
  const length = port && show(Math.round(port.length_mm), "mm", system);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full select-none"
      role="group"
      aria-label="The box in section"
      fontSize="10"
    >
      <defs>
        <pattern id="board" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V5" stroke="var(--oak)" strokeWidth="1" />
        </pattern>
      </defs>
      <path
        fillRule="evenodd"
        fill="url(#board)"
        stroke="var(--ink)"
        strokeWidth="1"
        d={`M${left} ${top}H${right}V${bottom}H${left}Z M${x0} ${top + mm(panel)}V${bottom - mm(panel)}H${right - mm(panel)}V${top + mm(panel)}Z`}
      />
      {/* the woofer's opening, cone and magnet */}
      <rect
        x={left - 1}
        y={coneMiddle - mm(cone) / 2}
        width={mm(baffle) + 2}
        height={mm(cone)}
        fill="var(--ground)"
      />
      <path
        transform={`translate(${-conePush} 0)`}
        d={`M${left} ${coneMiddle - mm(cone) / 2}L${left + mm(cone * 0.3)} ${coneMiddle - mm(cone * 0.16)}V${coneMiddle + mm(cone * 0.16)}L${left} ${coneMiddle + mm(cone) / 2}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.6"
      />
      <rect
        x={left + mm(cone * 0.3)}
        y={coneMiddle - mm(cone * 0.2)}
        width={mm(cone * 0.16)}
        height={mm(cone * 0.4)}
        fill="none"
        stroke="var(--ink)"
      />
      {port && (
        <g stroke={misfit ? "var(--brick)" : "var(--ink)"}>
          <rect
            x={left - 1}
            y={portTop}
            width={mm(port.length_mm) + 1}
            height={mm(portHeight)}
            fill="var(--ground)"
            stroke="none"
          />
          <path
            d={`M${left} ${portTop}h${mm(port.length_mm)}M${left} ${portTop + mm(portHeight)}h${mm(port.length_mm)}`}
            strokeWidth="1.6"
          />
          <path
            d={`M${left} ${portTop - 5}h${mm(port.length_mm)}m0 -3v6M${left} ${portTop - 8}v6`}
            strokeWidth="0.6"
          />
          {moving.motion && (
            <Slug x={left} y={portTop} width={mm(port.length_mm)} height={mm(portHeight)} by={openingPush} />
          )}
          <text x={right + 8} y={portTop + mm(portHeight) / 2 + 3} fill="currentColor" stroke="none">
            port {length?.text} {length?.unit}
          </text>
        </g>
      )}
      {radiators && (
        <g stroke="var(--ink)" fill="none">
          <rect
            x={left - 1}
            y={portTop}
            width={mm(baffle) + 2}
            height={mm(radiatorSize)}
            fill="var(--ground)"
            stroke="none"
          />
          <g transform={`translate(${-openingPush} 0)`}>
            <path
              d={`M${left} ${portTop}l${mm(radiatorSize * 0.12)} ${mm(radiatorSize * 0.25)}v${mm(radiatorSize * 0.5)}l${-mm(radiatorSize * 0.12)} ${mm(radiatorSize * 0.25)}`}
              strokeWidth="1.6"
            />
            <rect
              x={left + mm(radiatorSize * 0.12)}
              y={portTop + mm(radiatorSize * 0.4)}
              width={6}
              height={mm(radiatorSize * 0.2)}
              fill="var(--ink)"
            />
          </g>
          <text x={right + 8} y={portTop + mm(portHeight) / 2 + 3} fill="currentColor" stroke="none">
            {radiators.count > 1 ? `${radiators.count} radiators` : "radiator"}
          </text>
        </g>
      )}
      <path
        d={`M${left} ${bottom + 8}H${right}M${left} ${bottom + 5}v6M${right} ${bottom + 5}v6`}
        stroke="var(--soft)"
        strokeWidth="0.6"
      />
      <text x={(left + right) / 2} y={bottom + 18} textAnchor="middle" fill="var(--soft)">
        {section.follows && `${depthShown.text} ${depthShown.unit} deep holds `}
        {shown.text} {printUnit(shown.unit)} net
      </text>
      <rect
        role="slider"
        tabIndex={0}
        aria-label="Net volume"
        aria-valuemin={0.5}
        aria-valuemax={5000}
        aria-valuenow={volume}
        aria-valuetext={`${shown.text} ${shown.unit}`}
        x={right - mm(panel) - 3}
        y={top}
        width={mm(panel) + 10}
        height={mm(outside.h)}
        fill="transparent"
        className="cursor-ew-resize touch-none"
        {...drag}
        onKeyDown={(e) => {
          const by = ["ArrowRight", "ArrowUp"].includes(e.key)
            ? 1
            : ["ArrowLeft", "ArrowDown"].includes(e.key)
              ? -1
              : 0;
          if (!by) return;
          e.preventDefault();
          set(nudge(volume, by, e.shiftKey ? "coarse" : e.altKey ? "fine" : "usual"), "volume-keys");
        }}
        onBlur={() => workbench.endGesture()}
      >
        <title>Drag the back wall: net volume</title>
      </rect>
      <path
        d={`M${right + 6} ${top + mm(outside.h) * 0.3}m4 -5l5 5l-5 5`}
        fill="none"
        stroke="var(--verdigris)"
        strokeWidth="1.6"
        pointerEvents="none"
      />
    </svg>
  );
}
