import { api, get, type Cutting } from "../../api/client";
import { useSettings } from "../../app/settings";
import { tidy } from "../../lib/quantity";
import { SavedTable } from "../../ui/Plot";
import { useAsked, type Question } from "../../workbench/asked";
import { useDocument } from "../../workbench/context";
import { SheetDrawing } from "./SheetDrawing";

const question: Question<Cutting | undefined> = (body, signal) =>
  body.cabinet ? get(api.POST("/api/cutting", { body, signal })) : Promise.resolve(undefined);

/** The cut list and the sheets it comes from. */
export function CabinetPicture() {
  const document = useDocument();
  const cutting = useAsked(question);
  if (!document.cabinet) return null;
  if (!cutting) return <p className="text-soft">Computing…</p>;
  return (
    <div className="space-y-4">
      <CutList cutting={cutting} />
      {cutting.stocks.map((stock) => (
        <SheetDrawing key={`${stock.board} ${stock.thickness_mm}`} stock={stock} />
      ))}
      <p className="text-xs text-soft">
        Saw with guard and push sticks, eyes and ears protected, dust drawn off; MDF dust wants a mask. Move
        the fence as seldom as possible, label every piece, make a test cut for every hole. Over 25 kg two
        lift it.
      </p>
    </div>
  );
}

function CutList({ cutting }: { cutting: Cutting }) {
  const { system } = useSettings();
  const inch = system === "inch";
  const oversize = cutting.parts.some((p) => p.rough_length_mm > p.length_mm + 0.01);
  return (
    <SavedTable
      title="Cut list"
      note={`${tidy(cutting.weight_kg, 3)} kg of boards`}
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
          p.edges,
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
                {p.edges && <span className="block text-[10.5px] text-soft">{p.edges}</span>}
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
