import { useEffect, useRef } from "react";
import type { DriveView } from "../../api/client";
import type { Scale } from "../../lanes/Lane";
import { useSize } from "../../app/settings";
import { useDrag } from "../../lib/drag";
import { tidy } from "../../lib/quantity";
import { useEvaluation, usePartOfDocument, useWorkbench } from "../../workbench/context";
import { filtersOf, told, type Filter } from "./chain";
import { choose, useChosen } from "./chosen";
import {
  boundsOf,
  halfOctaves,
  HIGH,
  hzAt,
  hzOf,
  levelAt,
  levelOf,
  LOW,
  pegsOf,
  pulled,
  qOf,
  qOfHalf,
  xOf,
  yOf,
} from "./pull";
import { useDrive } from "./useDrive";

/** Pegs under the level line: pulled up and down they change a level, sideways a frequency, their arms a width. */
export function Pegs({ scale }: { scale: Scale }) {
  const filters = usePartOfDocument(filtersOf);
  const evaluation = useEvaluation();
  const drive = useDrive();
  const chosen = useChosen();
  if (!evaluation) return null;
  const { frequency_hz: hz, level_db: level } = evaluation.curves;
  const list = pegsOf(filters);
  const seen = list.find((p) => p.index === chosen);
  return (
    <svg
      className="pointer-events-none absolute inset-0 h-full w-full overflow-visible"
      fontSize="10.5"
      role="group"
      aria-label="Filters on the level line"
    >
      {seen && (
        <Dimensions
          filter={seen.filter}
          scale={scale}
          level={levelAt(hzOf(seen.filter) ?? LOW, hz, level)}
          price={drive?.filters[seen.index]?.price}
        />
      )}
      {list.map((p) => {
        const at = hzOf(p.filter) ?? LOW;
        if (at < LOW || at > HIGH) return null;
        return (
          <Peg
            key={p.index}
            index={p.index}
            filter={p.filter}
            scale={scale}
            at={at}
            level={levelAt(at, hz, level) ?? scale.low}
            ranges={drive?.filters[p.index]?.ranges}
            chosen={p.index === chosen}
          />
        );
      })}
    </svg>
  );
}

type PegProps = {
  index: number;
  filter: Filter;
  scale: Scale;
  at: number;
  level: number;
  ranges: DriveView["filters"][number]["ranges"] | undefined;
  chosen: boolean;
};

function Peg({ index, filter, scale, at, level, ranges, chosen }: PegProps) {
  const workbench = useWorkbench();
  const bounds = boundsOf(ranges);
  const pointer = `/chain/filters/${index}`;
  const gain = levelOf(filter);
  const q = qOf(filter);
  const x = xOf(at, scale);
  const y = Math.min(Math.max(yOf(level, scale), scale.top + 2), scale.top + scale.height - 16);
  const to = (wanted: Parameters<typeof pulled>[3], gesture: string) =>
    workbench.change(pulled(pointer, filter, bounds, wanted), `${gesture}-${index}`);
  const drag = useDrag<{ x: number; y: number; gain: number | undefined }, SVGGElement>({
    begin: (event) => {
      choose(index);
      return { x: event.clientX - x, y: event.clientY, gain };
    },
    move: (event, from) => {
      const perPixel = (scale.high - scale.low) / scale.height;
      const hz = hzAt(event.clientX - from.x, scale);
      const level = from.gain === undefined ? {} : { level: from.gain + (from.y - event.clientY) * perPixel };
      to({ hz, ...level }, "peg");
    },
    end: () => workbench.endGesture(),
  });
  const arm = useDrag<{ left: number }, SVGRectElement>({
    begin: (event) => {
      const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
      return box ? { left: box.left } : null;
    },
    move: (event, from) => {
      const octaves = Math.abs(Math.log2(hzAt(event.clientX - from.left, scale) / at));
      to({ q: qOfHalf(octaves) }, "width");
    },
    end: () => workbench.endGesture(),
  });
  // a wheel over a peg changes its width; the page does not scroll meanwhile
  const held = useRef<SVGGElement>(null);
  const turn = useRef<(by: number) => void>(() => undefined);
  useEffect(() => {
    turn.current = (by) => q !== undefined && to({ q: q * by }, "wheel");
  });
  useEffect(() => {
    const element = held.current;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      turn.current(event.deltaY > 0 ? 1 / 1.08 : 1.08);
    };
    element?.addEventListener("wheel", wheel, { passive: false });
    return () => element?.removeEventListener("wheel", wheel);
  }, []);
  const armX = q === undefined ? undefined : xOf(at * 2 ** halfOctaves(q), scale);
  return (
    <>
      <g
        ref={held}
        role="slider"
        tabIndex={0}
        aria-label={`${filter.kind.replaceAll("_", " ")} ${told(filter)}`}
        aria-valuemin={gain === undefined ? bounds.hz[0] : bounds.level[0]}
        aria-valuemax={gain === undefined ? bounds.hz[1] : bounds.level[1]}
        aria-valuenow={gain ?? at}
        aria-valuetext={told(filter)}
        data-peg={index}
        className={`pointer-events-auto touch-none outline-offset-4 ${gain === undefined ? "cursor-ew-resize" : "cursor-move"}`}
        {...drag}
        onFocus={() => choose(index)}
        onBlur={() => workbench.endGesture()}
        onKeyDown={(e) => {
          const fine = e.altKey ? 0.2 : e.shiftKey ? 4 : 1;
          const side = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
          const up = { ArrowDown: -1, ArrowUp: 1 }[e.key];
          const wide = { PageDown: -1, PageUp: 1 }[e.key];
          if (!side && !up && !wide) return;
          e.preventDefault();
          e.stopPropagation();
          if (side) to({ hz: at * 2 ** ((side * fine) / 24) }, "peg-keys");
          if (up && gain !== undefined) to({ level: gain + up * fine * 0.5 }, "peg-keys");
          if (up && gain === undefined) to({ hz: at * 2 ** ((up * fine) / 24) }, "peg-keys");
          if (wide && q !== undefined) to({ q: q * 1.08 ** -wide }, "peg-keys");
        }}
      >
        <title>
          {told(filter)} — pull it
          {gain === undefined ? " sideways" : " up, down and sideways; turn the wheel for its width"}
        </title>
        <rect x={x - 11} y={y - 3} width="22" height="22" fill="transparent" />
        <path
          d={`M${x} ${y + 1}l5 5v9h-10v-9z`}
          fill={chosen ? "var(--oak)" : "var(--panel)"}
          stroke="var(--oak)"
          strokeWidth="1.3"
        />
      </g>
      {chosen && armX !== undefined && (
        <rect
          x={armX - 5}
          y={y + 20}
          width="10"
          height="14"
          rx="1"
          fill="var(--panel)"
          stroke="var(--oak)"
          className="pointer-events-auto cursor-ew-resize touch-none"
          data-arm={index}
          {...arm}
        >
          <title>Pull for the width</title>
        </rect>
      )}
    </>
  );
}

/** Depth and width of the peg that is held, as dimension lines, and what it costs. */
function Dimensions({
  filter,
  scale,
  level,
  price,
}: {
  filter: Filter;
  scale: Scale;
  level: number | undefined;
  price: DriveView["filters"][number]["price"];
}) {
  const size = useSize();
  const hz = hzOf(filter);
  if (hz === undefined || level === undefined) return null;
  const x = xOf(hz, scale);
  const held = (y: number) => Math.min(Math.max(y, scale.top), scale.top + scale.height);
  const gain = levelOf(filter);
  const q = qOf(filter);
  const [y, from] = [held(yOf(level, scale)), held(yOf(level - (gain ?? 0), scale))];
  const flip = x > scale.left + scale.width - 130;
  const beside = flip ? x - 9 : x + 9;
  const anchor = flip ? "end" : "start";
  const ends = (a: number, b: number) => (Math.abs(a - b) > 9 ? 4 : 2);
  const arms =
    q === undefined
      ? undefined
      : [xOf(hz * 2 ** -halfOctaves(q), scale), xOf(hz * 2 ** halfOctaves(q), scale)];
  const under = Math.min(Math.max(y, scale.top + 2), scale.top + scale.height - 16) + 27;
  return (
    <g stroke="var(--oak)" fill="var(--oak)" strokeWidth="1" data-testid="peg-dimensions">
      {gain !== undefined && Math.abs(y - from) > 3 && (
        <path
          fill="none"
          d={`M${x} ${y}V${from}M${x - 3} ${y + Math.sign(from - y) * ends(y, from)}L${x} ${y}l3 ${Math.sign(from - y) * ends(y, from)}M${x - 3} ${from - Math.sign(from - y) * ends(y, from)}L${x} ${from}l3 ${-Math.sign(from - y) * ends(y, from)}`}
        />
      )}
      {arms?.[0] !== undefined && arms[1] !== undefined && (
        <path
          fill="none"
          d={`M${arms[0]} ${under}H${arms[1]}M${arms[0] + 4} ${under - 3}L${arms[0]} ${under}l4 3M${arms[1] - 4} ${under - 3}L${arms[1]} ${under}l-4 3`}
        />
      )}
      <g stroke="var(--panel)" strokeWidth="3" paintOrder="stroke" textAnchor={anchor}>
        <text x={beside} y={Math.max(y - 6, scale.top + 10)}>
          {gain === undefined
            ? told(filter)
            : `${gain > 0 ? "+" : ""}${gain.toFixed(1)} dB at ${tidy(hz, 3)} Hz`}
          {price && (
            <tspan x={beside} dy="12" fill="var(--ink)">
              {tidy(price.watts, 3)} W, {size(price.excursion_mm, "travel", 2)}
              {typeof price.level_cost_db === "number" && price.level_cost_db > 0.05
                ? `, ${price.level_cost_db.toFixed(1)} dB off the loudest`
                : ""}
            </tspan>
          )}
        </text>
        {q !== undefined && arms?.[0] !== undefined && (
          <text x={arms[0] - 5} y={under + 4} textAnchor="end">
            {tidy(2 * halfOctaves(q), 2)} oct
          </text>
        )}
      </g>
    </g>
  );
}
