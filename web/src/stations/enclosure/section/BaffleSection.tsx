import { useDocument } from "../../../workbench/context";
import { Cone } from "./Cone";
import type { Moving } from "./motion";

const WIDTH = 288;
const HEIGHT = 128;

/** The woofer in a wall or on a board, from the side. */
export function BaffleSection({ moving }: { moving: Moving }) {
  const { enclosure } = useDocument();
  const open = enclosure.family === "open_baffle";
  const share = open ? enclosure.woofer_up_mm / enclosure.height_mm : 0.5;
  const [top, bottom] = open ? [14, 110] : [0, HEIGHT];
  const y = bottom - (bottom - top) * share;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full select-none"
      role="img"
      aria-label="The baffle from the side"
      fontSize="10"
    >
      <path
        d={`M${WIDTH / 2} ${top}V${y - 20}M${WIDTH / 2} ${y + 20}V${bottom}`}
        stroke="var(--ink)"
        strokeWidth={open ? 3 : 8}
      />
      <Cone x={WIDTH / 2} y={y} size={40} by={moving.offset(moving.motion?.cone)} />
      <text x={WIDTH / 2 + 46} y={y + 4} fill="var(--soft)">
        {open ? "open behind" : "another room"}
      </text>
      {open && (
        <text x={WIDTH / 2} y={124} textAnchor="middle" fill="var(--soft)">
          {enclosure.width_mm} x {enclosure.height_mm} mm board
        </text>
      )}
    </svg>
  );
}
