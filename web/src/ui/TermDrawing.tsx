import type { Drawing } from "../lib/glossary";

const LOOK: Record<string, { stroke: string; width: number; dash?: string }> = {
  ink: { stroke: "var(--ink)", width: 1.4 },
  soft: { stroke: "var(--soft)", width: 1, dash: "3 2.5" },
  cone: { stroke: "var(--oak)", width: 1.7 },
  air: { stroke: "var(--verdigris)", width: 1.7 },
};

/** What a term does, drawn as the core has it. */
export function TermDrawing({ drawing }: { drawing: Drawing }) {
  return (
    <svg
      viewBox={`0 0 ${drawing.width} ${drawing.height}`}
      role="img"
      aria-label={drawing.tells}
      className="block w-full max-w-72"
    >
      {drawing.lines.map(({ d, look }, i) => {
        const { stroke, width, dash } = LOOK[look] ?? { stroke: "var(--ink)", width: 1 };
        return <path key={i} d={d} fill="none" stroke={stroke} strokeWidth={width} strokeDasharray={dash} />;
      })}
      {drawing.words.map(({ x, y, anchor, text }) => (
        <text
          key={text + x}
          x={x}
          y={y}
          textAnchor={anchor as "start"}
          fontSize="9.5"
          fill="var(--ink)"
          className="font-sans"
        >
          {text}
        </text>
      ))}
    </svg>
  );
}
