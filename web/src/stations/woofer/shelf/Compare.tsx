import { useQueries } from "@tanstack/react-query";
import { useState } from "react";
import { useAnswer } from "../../../api/answer";
import { api, get, type Evaluation, type Woofer } from "../../../api/client";
import { woofer } from "../../../api/queries";
import { useSettings } from "../../../app/settings";
import { printUnit, show, tidy } from "../../../lib/quantity";
import { sheetInUse } from "../../../lib/shelf";
import { Lane } from "../../../lanes/Lane";
import { LANES } from "../../../lanes/specs";
import { look } from "../../../lanes/style";
import { Button } from "../../../ui/Button";
import { useDocument } from "../../../workbench/context";
import type { Curve } from "../../../workbench/workbench";
import { Name, Row, Value } from "../../../ui/Table";

const SHOWN = ["level", "stroke", "delay", "impedance"];

type Line = [title: string, unit: string, of: (e: Evaluation, w: Woofer) => number | null | undefined];

const LINES: Line[] = [
  ["size", "in", (_, w) => w.size_in],
  ["fs", "Hz", (e) => e.summary.woofer.fs_hz],
  ["Qts", "", (e) => e.summary.woofer.qts],
  ["Qes", "", (e) => e.summary.woofer.qes],
  ["Qms", "", (e) => e.summary.woofer.qms],
  ["Vas", "L", (e) => e.summary.woofer.vas_l],
  ["Sd", "cm2", (e) => e.summary.woofer.sd_cm2],
  ["Xmax", "travel", (_, w) => w.xmax_mm],
  ["Mms", "g", (e) => e.summary.woofer.mms_g],
  ["Bl", "T·m", (e) => e.summary.woofer.bl_t_m],
  ["level, 2.83 V", "dB", (e) => e.summary.woofer.sensitivity_db],
  ["fs/Qes", "Hz", (e) => e.summary.woofer.efficiency_bandwidth_hz],
  ["power", "W", (_, w) => w.power_w],
  ["depth", "mm", (_, w) => w.depth_mm],
  ["weight", "kg", (_, w) => w.weight_kg],
  ["price", "", (_, w) => w.price],
  ["f3 in this box", "Hz", (e) => e.summary.f3_hz],
  ["highest level", "dB", (e) => e.summary.peak_level_db],
];

/** Two to four woofers side by side: their figures, and their curves in the box of the revision being edited. */
export function Compare({ ids, onBack }: { ids: string[]; onBack: () => void }) {
  const records = useQueries({ queries: ids.map((id) => woofer(id)) });
  const document = useDocument();
  const { system } = useSettings();
  const lanes = LANES[system].filter((l) => SHOWN.includes(l.id));
  const sheets = records.map((r) => r.data && sheetInUse(r.data));
  const [cursor, setCursor] = useState<number | null>(null);
  const ready = sheets.every(Boolean);
  const ask = (signal: AbortSignal) =>
    Promise.all(
      sheets.map((sheet) =>
        get(
          api.POST("/api/evaluate", {
            params: { query: { detail: "lanes" } },
            body: { ...document, woofer: sheet as Woofer },
            signal,
          }),
        ).catch(() => undefined),
      ),
    );
  const found = useAnswer("compare", ready ? [sheets, document] : undefined, ask) ?? [];
  const letters = ["1", "2", "3", "4"];
  const curves: Curve[] = found.flatMap((evaluation, i) =>
    evaluation ? [{ letter: letters[i] ?? "", evaluation, current: i === 0 }] : [],
  );
  return (
    <div className="grid min-h-0 flex-1 gap-4 lg:grid-cols-[400px_minmax(0,1fr)]">
      <div className="min-h-0 overflow-y-auto">
        <Button onClick={onBack}>Back to the shelf</Button>
        <table className="mt-2 w-full font-mono text-xs tabular-nums">
          <thead>
            <tr>
              <td />
              {sheets.map((sheet, i) => (
                <th
                  key={ids[i]}
                  className="px-1 pb-1 text-right font-sans text-[13px] font-semibold"
                  style={{ color: `var(${look(i - 1, i === 0).colour})` }}
                >
                  {letters[i]} {sheet?.name ?? "…"}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {LINES.map(([title, unit, of]) => (
              <Row key={title}>
                <Name className="py-[3px] pr-2 text-soft">
                  {title} {printUnit(unit)}
                </Name>
                {sheets.map((sheet, i) => {
                  const evaluation = found[i];
                  const value = evaluation && sheet ? of(evaluation, sheet) : undefined;
                  return (
                    <Value key={ids[i]} className="px-1">
                      {typeof value !== "number"
                        ? "–"
                        : unit === "in"
                          ? tidy(value, 3)
                          : show(value, unit, system, 3).text}
                    </Value>
                  );
                })}
              </Row>
            ))}
          </tbody>
        </table>
        <p className="pt-2 text-xs text-soft">
          The curves show each of them in the box of the revision being edited, at the same drive. The hatched
          ground is what woofer 1 cannot reach there.
        </p>
      </div>
      <div className="flex min-h-[420px] flex-col">
        {curves.length > 0 ? (
          lanes.map((spec) => (
            <Lane
              key={spec.id}
              spec={spec}
              curves={curves}
              xmax={undefined}
              marks={[]}
              last={spec.id === SHOWN.at(-1)}
              folded={false}
              onFold={() => undefined}
              cursor={cursor}
              onCursor={setCursor}
              onPlot={() => undefined}
            />
          ))
        ) : (
          <p className="text-soft">Computing…</p>
        )}
      </div>
    </div>
  );
}
