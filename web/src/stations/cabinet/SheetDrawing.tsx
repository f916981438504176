import type { Stock } from "../../api/client";
import { tidy } from "../../lib/quantity";
import { Saved } from "../../ui/Plot";

const W = 560;

/** Where the pieces lie on their sheets, with the cuts in the order of sawing. */
export function SheetDrawing({ stock }: { stock: Stock }) {
  const { layout } = stock;
  const scale = W / stock.sheet_length_mm;
  const high = stock.sheet_width_mm * scale;
  const name = `${tidy(stock.thickness_mm, 3)} mm ${stock.board}`;
  const counted = layout.sheets === 1 ? "1 sheet" : `${layout.sheets} sheets`;
  return (
    <Saved
      title={`Sheets, ${name}`}
      note={`${counted} (at least ${layout.bound}), ${Math.round(layout.waste * 100)} % left over, ${layout.settings} settings of the fence`}
      table={{
        columns: ["sheet", "label", "x_mm", "y_mm", "length_mm", "width_mm", "turned"],
        rows: () =>
          layout.placed.map((p) => [
            p.sheet + 1,
            p.label,
            p.x_mm,
            p.y_mm,
            p.length_mm,
            p.width_mm,
            String(p.turned),
          ]),
      }}
    >
      {layout.too_large.length > 0 && (
        <p role="alert" className="text-brick">
          Larger than the sheet: {layout.too_large.join(", ")}. Take a larger sheet, or let pieces be turned.
        </p>
      )}
      <div className="grid gap-3 xl:grid-cols-2">
        {Array.from({ length: layout.sheets }, (_, sheet) => (
          <svg
            key={sheet}
            data-drawing
            viewBox={`-1 -1 ${W + 2} ${high + 2}`}
            className="block w-full"
            fontSize="15"
            role="img"
            aria-label={`Sheet ${sheet + 1} of ${name}`}
          >
            <rect width={W} height={high} fill="var(--panel)" stroke="var(--ink)" />
            {layout.placed
              .filter((p) => p.sheet === sheet)
              .map((p, i) => {
                const [x, y, w, h] = [p.x_mm, p.y_mm, p.length_mm, p.width_mm].map((v) => v * scale) as [
                  number,
                  number,
                  number,
                  number,
                ];
                return (
                  <g key={i}>
                    <rect x={x} y={y} width={w} height={h} fill="var(--selected)" stroke="var(--oak)" />
                    <text
                      x={x + w / 2}
                      y={y + h / 2 + 1}
                      textAnchor="middle"
                      fontWeight="600"
                      fill="var(--ink)"
                    >
                      {p.label}
                    </text>
                    {h > 34 && w > 90 && (
                      <text
                        x={x + w / 2}
                        y={y + h / 2 + 15}
                        textAnchor="middle"
                        fontSize="11"
                        fill="var(--soft)"
                      >
                        {tidy(p.length_mm, 4)} x {tidy(p.width_mm, 4)}
                      </text>
                    )}
                  </g>
                );
              })}
            {layout.cuts
              .filter((c) => c.sheet === sheet)
              .map((c, i) => {
                const [x, y, l] = [c.x_mm, c.y_mm, c.length_mm].map((v) => v * scale) as [
                  number,
                  number,
                  number,
                ];
                return (
                  <g key={i} fill="var(--brick)" fontSize="10">
                    <path
                      d={c.rip ? `M${x} ${y}h${l}` : `M${x} ${y}v${l}`}
                      stroke="var(--brick)"
                      strokeWidth="1.2"
                      strokeDasharray="6 3"
                    />
                    <text x={c.rip ? x + 3 : x + 3} y={c.rip ? y + 10 : y + 10}>
                      {i + 1}
                    </text>
                  </g>
                );
              })}
          </svg>
        ))}
      </div>
    </Saved>
  );
}
