import type { Cutting } from "../../api/client";
import { useFigure, useSettings, useSize } from "../../app/settings";
import { tidy } from "../../lib/quantity";
import { SavedTable } from "../../ui/Saved";
import { Button } from "../../ui/Button";
import { SchemaForm } from "../../ui/SchemaForm";
import { useDocument, useWorkbench } from "../../workbench/context";
import { NoCabinet } from "../enclosure/NoCabinet";
import { Rack } from "./Rack";
import { SheetDrawing } from "./SheetDrawing";
import { useCutting } from "./useCabinet";
import { Say } from "../../ui/Say";
import { plain } from "../../lib/said";
import { Head, Heads, Row, Value } from "../../ui/Table";

/** How it is sawn, the cut list and the sheets it comes from. */
export function SawView() {
  const figure = useFigure();
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
              {figure(length, "mm")} x {figure(width, "mm")}
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
        {cutting && <Rack cutting={cutting} />}
        <p className="text-xs text-soft">
          Saw with guard and push sticks, eyes and ears protected, dust drawn off; MDF dust wants a mask. Move
          the fence as seldom as possible, label every piece, make a test cut for every hole.{" "}
          {cutting?.lifting && <Say text={cutting.lifting} />}
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
  const figure = useFigure();
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
        <Heads>
          <Head left className="pr-1">
            letter
          </Head>
          <Head left>part</Head>
          <Head>pieces</Head>
          <Head {...(!inch && { unit: "mm" })}>length x width</Head>
          {inch && (
            <Head unit="travel" title="By how much the rounded inches are longer or shorter">
              off
            </Head>
          )}
          {oversize && <Head unit="mm">rough</Head>}
          <Head>of</Head>
          <Head unit="kg">each</Head>
        </Heads>
        <tbody className="font-mono tabular-nums">
          {cutting.parts.map((p) => (
            <Row key={p.label} className="align-top">
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
              <Value>{p.count}</Value>
              <Value className="whitespace-nowrap">
                {inch ? `${p.length_in} x ${p.width_in}` : `${tidy(p.length_mm, 5)} x ${tidy(p.width_mm, 5)}`}
              </Value>
              {inch && (
                <Value>
                  {p.rounding_mm < 0 ? "−" : "+"}
                  {figure(Math.abs(p.rounding_mm), "travel")}
                </Value>
              )}
              {oversize && (
                <Value className="whitespace-nowrap">
                  {figure(p.rough_length_mm, "mm", 5)} x {figure(p.rough_width_mm, "mm", 5)}
                </Value>
              )}
              <td className="text-right font-sans whitespace-nowrap">
                {size(p.thickness_mm, "mm")} {p.board}
              </td>
              <Value>{figure(p.weight_kg, "kg", 2)}</Value>
            </Row>
          ))}
        </tbody>
      </table>
    </SavedTable>
  );
}
