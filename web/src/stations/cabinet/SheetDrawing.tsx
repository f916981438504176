import type { Stock } from "../../api/client";
import { show } from "../../lib/quantity";
import { useSettings, useSize } from "../../app/settings";
import { useWidth } from "../../lib/width";
import { Saved } from "../../ui/Saved";

/** How wide a sheet is drawn at most, px. */
const MOST = 560;

/** Where the pieces lie on their sheets, with the cuts in the order of sawing. */
export function SheetDrawing({ stock }: { stock: Stock }) {
  const { layout } = stock;
  const longest = Math.max(...layout.bins.map((b) => b.length_mm), 1);
  const size = useSize();
  const name = `${size(stock.thickness_mm, "mm")} ${stock.board}`;
  const counted = stock.sheets === 1 ? "1 sheet" : `${stock.sheets} sheets`;
  const shop = stock.shop;
  return (
    <Saved
      title={`Sheets, ${name}`}
      note={`${counted} (at least ${stock.bound}), ${Math.round(layout.waste * 100)} % left over, ${layout.settings} settings of the fence`}
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
      {shop && (
        <p className="pb-1 text-soft">
          First cuts for the shop: every sheet into {shop.along * shop.across} pieces of{" "}
          {size(shop.length_mm, "mm", 5)} x {size(shop.width_mm, "mm", 5)}; below are those pieces.
        </p>
      )}
      <div className="grid gap-3 xl:grid-cols-2">
        {layout.bins.map((bin, sheet) => (
          <Sheet
            key={sheet}
            layout={layout}
            sheet={sheet}
            longest={longest}
            label={bin.own ? `Own piece ${sheet + 1} of ${name}` : `Sheet ${sheet + 1} of ${name}`}
          />
        ))}
      </div>
    </Saved>
  );
}

/** One sheet with its pieces and cuts; all sheets of a board are drawn to one scale. */
function Sheet({
  layout,
  sheet,
  longest,
  label,
}: {
  layout: Stock["layout"];
  sheet: number;
  longest: number;
  label: string;
}) {
  const { system } = useSettings();
  const [drawing, width] = useWidth<SVGSVGElement>(MOST);
  const bin = layout.bins[sheet];
  if (!bin) return null;
  const scale = width / longest;
  const bare = (mm: number) => show(mm, "mm", system).text;
  return (
    <svg
      ref={drawing}
      data-drawing
      viewBox={`-1 -1 ${width + 2} ${bin.width_mm * scale + 2}`}
      className="block w-full"
      fontSize="15"
      role="img"
      aria-label={label}
    >
      <rect
        width={bin.length_mm * scale}
        height={bin.width_mm * scale}
        fill="var(--panel)"
        stroke={bin.own ? "var(--verdigris)" : "var(--ink)"}
      />
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
              <text x={x + w / 2} y={y + h / 2 + 1} textAnchor="middle" fontWeight="600" fill="var(--ink)">
                {p.label}
              </text>
              {h > 34 && w > 90 && (
                <text x={x + w / 2} y={y + h / 2 + 15} textAnchor="middle" fontSize="11" fill="var(--soft)">
                  {bare(p.length_mm)} x {bare(p.width_mm)}
                </text>
              )}
            </g>
          );
        })}
      {layout.cuts
        .filter((c) => c.sheet === sheet)
        .map((c, i) => {
          const [x, y, l] = [c.x_mm, c.y_mm, c.length_mm].map((v) => v * scale) as [number, number, number];
          return (
            <g key={i} fill="var(--brick)" fontSize="10">
              <path
                d={c.rip ? `M${x} ${y}h${l}` : `M${x} ${y}v${l}`}
                stroke="var(--brick)"
                strokeWidth="1.2"
                strokeDasharray="6 3"
              />
              <text x={Math.min(x + 3, width - 13)} y={Math.min(y + 10, bin.width_mm * scale - 2)}>
                {i + 1}
              </text>
            </g>
          );
        })}
    </svg>
  );
}
