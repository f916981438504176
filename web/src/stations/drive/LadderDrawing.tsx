import type { KeyboardEvent } from "react";
import { tidy } from "../../lib/quantity";
import type { ChainPart } from "./ladder";
import { layout, type Placed, valuesOf } from "./ladder";

type Props = {
  parts: ChainPart[];
  chosen: number | null;
  onChoose: (index: number) => void;
  /** The next preferred value up or down of a part's first value. */
  onStep: (index: number, by: 1 | -1) => void;
  onInsert: (index: number) => void;
  amplifier: string;
  woofers: string;
};

const TOP = 66;
const BOTTOM = 186;

/** The parts as a circuit, from the amplifier on the left to the woofers on the right; a part that is pressed is edited below. */
export function LadderDrawing({ parts, chosen, onChoose, onStep, onInsert, amplifier, woofers }: Props) {
  const { placed, gaps, width } = layout(parts);
  return (
    <svg
      data-drawing
      viewBox={`0 0 ${width} 226`}
      className="block max-h-[260px] w-full"
      style={{ maxWidth: `${width * 1.35}px`, minWidth: `${Math.round(width * 0.85)}px` }}
      fontSize="11"
      role="group"
      aria-label="Circuit of the parts at the terminals"
    >
      <g fill="none" stroke="var(--ink)" strokeWidth="1">
        <path d={`M60 ${TOP}H${width - 70}M60 ${BOTTOM}H${width - 70}`} />
        <path d={`M26 ${TOP}H60M26 ${BOTTOM}H60M26 ${TOP}V${BOTTOM}`} />
        <path d={`M${width - 70} ${TOP}H${width - 40}M${width - 70} ${BOTTOM}H${width - 40}`} />
        <rect x="14" y={TOP + 34} width="24" height="54" fill="var(--panel)" />
        <path d={`M${width - 40} ${TOP}V${TOP + 36}M${width - 40} ${BOTTOM}V${TOP + 86}`} />
        <rect x={width - 50} y={TOP + 36} width="12" height="50" fill="var(--panel)" />
        <path d={`M${width - 38} ${TOP + 40}l16 -14v70l-16 -14`} />
      </g>
      <text x="26" y={TOP + 64} textAnchor="middle" fontSize="13" fill="var(--ink)">
        ~
      </text>
      <text x="4" y={BOTTOM + 30} fill="var(--soft)">
        {amplifier}
      </text>
      <text x={width - 4} y={BOTTOM + 30} textAnchor="end" fill="var(--soft)">
        {woofers}
      </text>
      {placed.map((p) => (
        <PartDrawn key={p.index} placed={p} chosen={p.index === chosen} onChoose={onChoose} onStep={onStep} />
      ))}
      {gaps.map((x, i) => (
        <g
          key={i}
          role="button"
          tabIndex={0}
          aria-label={`Insert a part at place ${i + 1}`}
          className="cursor-pointer"
          onClick={() => onInsert(i)}
          onKeyDown={(e) => (e.key === "Enter" || e.key === " ") && onInsert(i)}
        >
          <circle cx={x} cy={TOP} r="7" fill="var(--panel)" stroke="var(--oak)" strokeDasharray="2 2" />
          <path d={`M${x - 3} ${TOP}h6M${x} ${TOP - 3}v6`} stroke="var(--oak)" />
        </g>
      ))}
    </svg>
  );
}

function PartDrawn({
  placed,
  chosen,
  onChoose,
  onStep,
}: {
  placed: Placed;
  chosen: boolean;
  onChoose: (index: number) => void;
  onStep: (index: number, by: 1 | -1) => void;
}) {
  const { part, index, x, width } = placed;
  const values = valuesOf(part.part);
  const inLine = part.placement === "in_line";
  const middle = x + width / 2;
  const keys = (e: KeyboardEvent) => {
    const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[e.key] as 1 | -1 | undefined;
    if (by) onStep(index, by);
    else if (e.key === "Enter" || e.key === " ") onChoose(index);
    else return;
    e.preventDefault();
  };
  const box = inLine
    ? { x, y: TOP - (values.length > 2 ? 58 : 38), width, height: values.length > 2 ? 80 : 62 }
    : { x: middle - 20, y: TOP + 8, width: 74, height: BOTTOM - TOP - 16 };
  return (
    <g
      role="button"
      tabIndex={0}
      aria-pressed={chosen}
      aria-label={`${placed.title}, ${values.map((v) => `${tidy(v.value, 3)} ${v.unit}`).join(", ")}`}
      data-part={index}
      className="cursor-pointer"
      opacity={part.off ? 0.4 : 1}
      onClick={() => onChoose(index)}
      onKeyDown={keys}
    >
      <title>Press to edit; arrow keys step through preferred values</title>
      <rect
        {...box}
        fill={chosen ? "var(--selected)" : "var(--panel)"}
        stroke={chosen ? "var(--oak)" : "none"}
      />
      {inLine ? <InLine placed={placed} /> : <Across placed={placed} />}
      {values.map((v, i) => (
        <text
          key={v.field}
          x={inLine ? middle : middle + 12}
          y={
            inLine
              ? TOP - (values.length > 2 ? 46 : 26) + 11 * i
              : TOP + 36 + (i * 90) / Math.max(values.length, 1)
          }
          textAnchor={inLine ? "middle" : "start"}
          fill="var(--ink)"
          fontSize={values.length > 2 ? 9.5 : 11}
        >
          {tidy(v.value, 3)} {v.unit}
        </text>
      ))}
      {part.off && (
        <text
          x={middle}
          y={inLine ? TOP + 22 : BOTTOM - 4}
          textAnchor="middle"
          fill="var(--brick)"
          fontSize="9.5"
        >
          off
        </text>
      )}
    </g>
  );
}

const pen = { fill: "none", stroke: "var(--ink)", strokeWidth: 1.2 };

/** A coil as arcs, a capacitor as two plates, a resistor as a box, along a line. */
function Symbol({
  sort,
  at,
  turned,
}: {
  sort: "coil" | "capacitor" | "resistor";
  at: [number, number];
  turned?: boolean;
}) {
  const turn = `translate(${at[0]} ${at[1]})${turned ? " rotate(90)" : ""}`;
  return (
    <g transform={turn} {...pen}>
      {sort === "coil" && (
        <>
          <path d="M-16 0h32" stroke="var(--panel)" strokeWidth="3" />
          <path d="M-16 0a4 4 0 0 1 8 0a4 4 0 0 1 8 0a4 4 0 0 1 8 0a4 4 0 0 1 8 0" />
        </>
      )}
      {sort === "capacitor" && (
        <>
          <path d="M-2.5 0h5" stroke="var(--panel)" strokeWidth="3" />
          <path d="M-2.5 -9v18M2.5 -9v18" />
        </>
      )}
      {sort === "resistor" && <rect x="-13" y="-4.5" width="26" height="9" fill="var(--panel)" />}
    </g>
  );
}

function InLine({ placed }: { placed: Placed }) {
  const { x, width, sorts, side } = placed;
  if (!side) {
    const step = width / sorts.length;
    return (
      <>
        <path d={`M${x} ${TOP}h${width}`} {...pen} />
        {sorts.map((sort, i) => (
          <Symbol key={i} sort={sort} at={[x + step * (i + 0.5), TOP]} />
        ))}
      </>
    );
  }
  // side by side: one above another between two ends
  return (
    <>
      <path
        d={`M${x} ${TOP}h8M${x + width - 8} ${TOP}h8M${x + 8} ${TOP - 10}V${TOP + 16}M${x + width - 8} ${TOP - 10}V${TOP + 16}`}
        {...pen}
      />
      {sorts.map((sort, i) => (
        <g key={i}>
          <path d={`M${x + 8} ${TOP - 10 + 13 * i}H${x + width - 8}`} {...pen} />
          <Symbol sort={sort} at={[x + width / 2, TOP - 10 + 13 * i]} />
        </g>
      ))}
    </>
  );
}

function Across({ placed }: { placed: Placed }) {
  const { x, width, sorts } = placed;
  const middle = x + width / 2;
  const step = (BOTTOM - TOP) / sorts.length;
  return (
    <>
      <path d={`M${middle} ${TOP}V${BOTTOM}`} {...pen} />
      <circle cx={middle} cy={TOP} r="2" fill="var(--ink)" />
      <circle cx={middle} cy={BOTTOM} r="2" fill="var(--ink)" />
      {sorts.map((sort, i) => (
        <Symbol key={i} sort={sort} at={[middle, TOP + step * (i + 0.5)]} turned />
      ))}
    </>
  );
}
