import { useSyncExternalStore } from "react";
import type { Scale } from "../../lanes/Lane";
import { useDrag } from "../../lib/drag";
import { tidy } from "../../lib/quantity";
import { useEvaluation, useWorkbench } from "../../workbench/context";
import { HIGH, hzAt, LOW, xOf, yOf } from "./pull";
import { baseOf, movedPlace, placeAdded, placeDropped, wishOf, type Place } from "./target";

/** The target drawn by hand, on the level lane: places that are pulled, a line that is pressed for a further one. */
export function TargetLine({ scale }: { scale: Scale }) {
  const draft = wishOf(useWorkbench());
  const wish = useSyncExternalStore(draft.subscribe, draft.document);
  const evaluation = useEvaluation();
  if (wish.target.kind !== "drawn" || !Array.isArray(wish.target.points) || !evaluation) return null;
  const places = wish.target.points;
  if (places.length < 2) return null;
  const { frequency_hz: hz, level_db: level } = evaluation.curves;
  const base = baseOf(wish, hz, level);
  const x = (place: Place) => xOf(Math.min(Math.max(place.hz, LOW), HIGH), scale);
  const y = (place: Place) =>
    Math.min(Math.max(yOf(base + place.db, scale), scale.top), scale.top + scale.height);
  const put = (points: Place[]) => draft.set("/target/points", points);
  const line = places.map((p) => `${x(p)},${y(p)}`).join(" ");
  return (
    <svg
      className="pointer-events-none absolute inset-0 h-full w-full overflow-visible"
      role="group"
      aria-label="Target"
      data-testid="target-line"
    >
      <polyline
        points={line}
        fill="none"
        stroke="var(--verdigris)"
        strokeWidth="1.6"
        strokeDasharray="7 3 2 3"
      />
      <polyline
        points={line}
        fill="none"
        stroke="transparent"
        strokeWidth="13"
        className="pointer-events-auto cursor-copy"
        data-target-line
        onPointerDown={(event) => {
          const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
          if (box) put(placeAdded(places, hzAt(event.clientX - box.left, scale)).places);
        }}
      >
        <title>Press for a further place</title>
      </polyline>
      {places.map((place, i) => (
        <Dot
          key={i}
          index={i}
          place={place}
          places={places}
          x={x(place)}
          y={y(place)}
          scale={scale}
          put={put}
        />
      ))}
    </svg>
  );
}

function Dot({
  index,
  place,
  places,
  x,
  y,
  scale,
  put,
}: {
  index: number;
  place: Place;
  places: Place[];
  x: number;
  y: number;
  scale: Scale;
  put: (places: Place[]) => void;
}) {
  const perPixel = (scale.high - scale.low) / scale.height;
  const drag = useDrag<{ dx: number; y: number; db: number }, SVGGElement>({
    begin: (event) => ({ dx: event.clientX - x, y: event.clientY, db: place.db }),
    move: (event, from) =>
      put(
        movedPlace(places, index, {
          hz: hzAt(event.clientX - from.dx, scale),
          db: from.db + (from.y - event.clientY) * perPixel,
        }),
      ),
  });
  const words = `${tidy(place.hz, 3)} Hz, ${place.db > 0 ? "+" : ""}${place.db.toFixed(1)} dB`;
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={`Place of the target, ${words}`}
      aria-valuenow={place.db}
      aria-valuemin={-60}
      aria-valuemax={60}
      aria-valuetext={words}
      data-place={index}
      className="pointer-events-auto cursor-move touch-none outline-offset-4"
      {...drag}
      onKeyDown={(e) => {
        const fine = e.altKey ? 0.2 : e.shiftKey ? 4 : 1;
        const side = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
        const up = { ArrowDown: -1, ArrowUp: 1 }[e.key];
        const out = e.key === "Delete" || e.key === "Backspace";
        if (!side && !up && !out) return;
        e.preventDefault();
        e.stopPropagation();
        if (out) put(placeDropped(places, index));
        if (side) put(movedPlace(places, index, { hz: place.hz * 2 ** ((side * fine) / 24) }));
        if (up) put(movedPlace(places, index, { db: place.db + up * fine * 0.5 }));
      }}
    >
      <title>{words} — pull it; Delete takes it out</title>
      <rect x={x - 10} y={y - 10} width="20" height="20" fill="transparent" />
      <rect
        x={x - 3.5}
        y={y - 3.5}
        width="7"
        height="7"
        fill="var(--panel)"
        stroke="var(--verdigris)"
        strokeWidth="1.4"
      />
    </g>
  );
}
