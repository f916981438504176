import type { Cutting } from "../../api/client";
import { useSettings, useSize } from "../../app/settings";
import { tidy } from "../../lib/quantity";
import { SavedTable } from "../../ui/Saved";
import { Button } from "../../ui/Button";
import { SchemaForm } from "../../ui/SchemaForm";
import { useDocument, useWorkbench } from "../../workbench/context";
import { NoCabinet } from "../enclosure/NoCabinet";
import { SheetDrawing } from "./SheetDrawing";
import { useCutting } from "./useCabinet";
import { Say } from "../../ui/Say";
import { plain } from "../../lib/said";

/** How it is sawn, the cut list and the sheets it comes from. */
export function SawView() {
  const document = useDocument();
  const workbench = useWorkbench();
  const cutting = useCutting();
  if (!document.cabinet) return <NoCabinet then="and its boards are worked out." />;
  const sheet = (length: number, width: number) =>
    workbench.change([
      {
        pointer: "/cabinet/saw",
        value: { ...document.cabinet?.saw, sheet_length_mm: length, sheet_width_mm: width },
      },
    ]);
  return (
    <section aria-label="At the saw" className="grid min-h-0 flex-1 gap-6 lg:grid-cols-[306px_minmax(0,1fr)]">
      <div>
        <p className="flex flex-wrap gap-1 pb-1">
          {SHEETS.map(([length, width]) => (
            <Button key={`${length}`} onClick={() => sheet(length, width)}>
              {length} x {width}
            </Button>
          ))}
        </p>
        <SchemaForm pointer="/cabinet/saw" />
      </div>
      <div className="min-w-0 space-y-4">
        {!cutting && <p className="text-soft">Computing…</p>}
        {cutting && <CutList cutting={cutting} />}
        {cutting?.stocks.map((stock) => (
          <SheetDrawing key={`${stock.board} ${stock.thickness_mm}`} stock={stock} />
        ))}
        <p className="text-xs text-soft">
          Saw with guard and push sticks, eyes and ears protected, dust drawn off; MDF dust wants a mask. Move
          the fence as seldom as possible, label every piece, make a test cut for every hole. Who lifts a
          whole sheet is told in its step under Build.
        </p>
      </div>
    </section>
  );
}

/** Sheets as they are sold: whole, half across, quarter, small. */
const SHEETS: [number, number][] = [
  [2440, 1220],
  [1220, 1220],
  [1220, 610],
  [610, 610],
];

function CutList({ cutting }: { cutting: Cutting }) {
  const size = useSize();
  const { system } = useSettings();
  const inch = system === "inch";
  const oversize = cutting.parts.some((p) => p.rough_length_mm > p.length_mm + 0.01);
  return (
    <SavedTable
      title="Cut list"
      note={`${size(cutting.weight_kg, "kg")} of boards`}
      columns={[
        "label",
        "part",
        "count",
        "length_mm",
        "width_mm",
        "thickness_mm",
        "length_in",
        "width_in",
        "rounding_mm",
        "rough_length_mm",
        "rough_width_mm",
        "board",
        "edges",
        "weight_kg",
      ]}
      rows={() =>
        cutting.parts.map((p) => [
          p.label,
          p.name,
          p.count,
          p.length_mm,
          p.width_mm,
          p.thickness_mm,
          p.length_in,
          p.width_in,
          Number(p.rounding_mm.toFixed(2)),
          p.rough_length_mm,
          p.rough_width_mm,
          p.board,
          plain(p.edges),
          Number(p.weight_kg.toFixed(2)),
        ])
      }
    >
      <table className="w-full text-xs [&_td]:pl-2" data-testid="cut-list">
        <thead className="text-soft">
          <tr>
            <th className="pr-1 text-left font-normal">letter</th>
            <th className="text-left font-normal">part</th>
            <th className="text-right font-normal">pieces</th>
            <th className="text-right font-normal">length x width{inch ? "" : ", mm"}</th>
            {inch && (
              <th
                className="text-right font-normal"
                title="By how much the rounded inches are longer or shorter"
              >
                off, mm
              </th>
            )}
            {oversize && <th className="text-right font-normal">rough, mm</th>}
            <th className="text-right font-normal">of</th>
            <th className="text-right font-normal">kg each</th>
          </tr>
        </thead>
        <tbody className="font-mono tabular-nums">
          {cutting.parts.map((p) => (
            <tr key={p.label} className="border-t border-rule/60 align-top">
              <th scope="row" className="py-0.5 text-left font-display text-sm font-semibold">
                {p.label}
              </th>
              <td className="font-sans">
                {p.name}
                {p.edges.length > 0 && (
                  <span className="block text-[10.5px] text-soft">
                    <Say text={p.edges} />
                  </span>
                )}
              </td>
              <td className="text-right">{p.count}</td>
              <td className="text-right whitespace-nowrap">
                {inch ? `${p.length_in} x ${p.width_in}` : `${tidy(p.length_mm, 5)} x ${tidy(p.width_mm, 5)}`}
              </td>
              {inch && (
                <td className="text-right">
                  {p.rounding_mm < 0 ? "−" : "+"}
                  {Math.abs(p.rounding_mm).toFixed(2)}
                </td>
              )}
              {oversize && (
                <td className="text-right whitespace-nowrap">
                  {tidy(p.rough_length_mm, 5)} x {tidy(p.rough_width_mm, 5)}
                </td>
              )}
              <td className="text-right font-sans whitespace-nowrap">
                {tidy(p.thickness_mm, 3)} {p.board}
              </td>
              <td className="text-right">{p.weight_kg.toFixed(1)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </SavedTable>
  );
}
