import type { Panel, Panels } from "../../api/client";
import { tidy } from "../../lib/quantity";
import { useFigure, useSize } from "../../app/settings";
import { Button } from "../../ui/Button";
import { Saved, SavedTable } from "../../ui/Saved";
import { SchemaForm } from "../../ui/SchemaForm";
import { useDocument, useWorkbench } from "../../workbench/context";
import { NoCabinet } from "../enclosure/NoCabinet";
import { useQuiet } from "./useQuiet";
import { Say } from "../../ui/Say";
import { plain } from "../../lib/said";
import { Head, Heads, Name, Row, Value } from "../../ui/Table";

const FIELDS = ["board", "baffle_board", "inner_layer", "clear_by", "panel_mm", "baffle_mm", "braces"];

/** The panels with their lowest modes, and where braces do most. */
export function PanelsView() {
  const size = useSize();
  const figure = useFigure();
  const quiet = useQuiet();
  const document = useDocument();
  if (!document.cabinet) return <NoCabinet then="and its panels are worked out." />;
  const panels = quiet?.panels;
  if (!panels) return <p className="text-soft">Computing…</p>;
  return (
    <section aria-label="Panels" className="grid min-h-0 flex-1 gap-6 lg:grid-cols-[306px_minmax(0,1fr)]">
      <div>
        <SchemaForm pointer="/brief" only={["plays_to_hz"]} />
        <SchemaForm pointer="/cabinet" only={FIELDS} open={["Panels", "Braces"]} />
        <details className="text-xs text-soft">
          <summary className="cursor-pointer py-1">Where the figures come from</summary>
          <ul className="space-y-1">
            {panels.sources.map((s) => (
              <li key={s}>{s}</li>
            ))}
            <li>
              Edges clamped or supported: Leissa, NASA SP-160; glued edges lie between (geometric mean, an
              estimate).
            </li>
          </ul>
        </details>
      </div>
      <div className="min-w-0 space-y-4">
        <p className="text-soft">
          Wanted above {Math.round(panels.wanted_hz)} Hz: what it is sent, times{" "}
          {tidy(document.cabinet.clear_by ?? 1.5, 3)}. Boards and braces weigh {size(panels.weight_kg, "kg")}.
        </p>
        <PanelDrawings panels={panels.panels} />
        <SavedTable
          title="Lowest modes"
          columns={[
            "panel",
            "side_a_mm",
            "side_b_mm",
            "thickness_mm",
            "board",
            "supported_hz",
            "clamped_hz",
            "between_hz",
            "clears",
          ]}
          rows={() =>
            panels.panels.map((p) => [
              p.title,
              ...p.sides_mm,
              p.thickness_mm,
              p.board,
              p.supported_hz,
              p.clamped_hz,
              p.between_hz,
              String(p.clears),
            ])
          }
        >
          <table className="w-full text-xs [&_td]:pl-2 [&_th+th]:pl-2" data-testid="panels">
            <Heads>
              <Head left>panel</Head>
              <Head unit="mm">inside</Head>
              <Head>of</Head>
              <Head className="max-sm:hidden">supported, Hz</Head>
              <Head className="max-sm:hidden">clamped, Hz</Head>
              <Head>between, Hz</Head>
            </Heads>
            <tbody className="font-mono tabular-nums">
              {panels.panels.map((p) => (
                <Row key={p.id}>
                  <Name>{p.title}</Name>
                  <Value className="whitespace-nowrap">
                    {p.sides_mm.map((s) => figure(Math.round(s), "mm", 4)).join(" x ")}
                  </Value>
                  <td className="text-right font-sans">
                    {size(p.thickness_mm, "mm")} {p.board}
                  </td>
                  <Value className="max-sm:hidden">{Math.round(p.supported_hz)}</Value>
                  <Value className="max-sm:hidden">{Math.round(p.clamped_hz)}</Value>
                  <Value className={`font-semibold ${p.clears ? "text-verdigris" : "text-brick"}`}>
                    {Math.round(p.between_hz)} {p.clears ? "✓" : "✗"}
                  </Value>
                </Row>
              ))}
            </tbody>
          </table>
        </SavedTable>
        <Plans plans={panels.plans} />
        <p className="text-xs text-soft">
          Saw and router: guards on, push sticks, hearing and eyes protected, dust drawn off; MDF dust wants a
          mask.
        </p>
      </div>
    </section>
  );
}

/** Height of a panel's longest side, and of what is written under it, px. */
const LONGEST = 110;
const WRITTEN = 58;

/** Each panel in its proportions, with the lines and points braces hold it at. */
function PanelDrawings({ panels }: { panels: Panel[] }) {
  const scale = LONGEST / Math.max(...panels.flatMap((p) => p.sides_mm));
  const tallest = Math.max(...panels.map((p) => p.sides_mm[1] ?? 1)) * scale;
  return (
    <Saved title="Panels from inside" note="lines and points: where braces hold them">
      <div className="flex flex-wrap">
        {panels.map((p) => (
          <PanelDrawing key={p.id} panel={p} scale={scale} tallest={tallest} />
        ))}
      </div>
    </Saved>
  );
}

function PanelDrawing({ panel: p, scale, tallest }: { panel: Panel; scale: number; tallest: number }) {
  const figure = useFigure();
  const [w, h] = [(p.sides_mm[0] ?? 1) * scale, (p.sides_mm[1] ?? 1) * scale];
  const sides = p.sides_mm.map((s) => figure(Math.round(s), "mm", 4)).join(" x ");
  const total = Math.max(w, sides.length * 5.6) + 22;
  const grain = `panel-grain-${p.id}`;
  return (
    <svg
      data-drawing
      width={total}
      height={tallest + WRITTEN}
      viewBox={`${(w - total) / 2} ${h - tallest - 8} ${total} ${tallest + WRITTEN}`}
      className="max-w-full"
      fontSize="10"
      role="img"
      aria-label={`${p.title}, ${Math.round(p.between_hz)} Hz`}
    >
      <pattern id={grain} width="7" height="7" patternUnits="userSpaceOnUse">
        <path d="M0 3.5H7" stroke="var(--oak)" strokeWidth="0.4" />
      </pattern>
      <rect
        width={w}
        height={h}
        fill={`url(#${grain})`}
        stroke={p.clears ? "var(--ink)" : "var(--brick)"}
        strokeWidth="1.2"
      />
      {p.holds.map((hold, i) => {
        const cx = (hold.across ?? 0) * w;
        const cy = h - (hold.up ?? 0) * h;
        if (hold.across != null && hold.up != null)
          return <circle key={i} cx={cx} cy={cy} r="3" fill="var(--oak)" />;
        return hold.up == null ? (
          <path key={i} d={`M${cx} 0V${h}`} stroke="var(--oak)" strokeWidth="3" />
        ) : (
          <path key={i} d={`M0 ${cy}H${w}`} stroke="var(--oak)" strokeWidth="3" />
        );
      })}
      <g textAnchor="middle" fill="var(--soft)">
        <text x={w / 2} y={h + 13}>
          {sides}
        </text>
        <text x={w / 2} y={h + 26} fill="var(--ink)" fontWeight="600">
          {p.title.split(",")[0]}
        </text>
        <text x={w / 2} y={h + 39} fill={p.clears ? "var(--verdigris)" : "var(--brick)"}>
          {Math.round(p.between_hz)} Hz
        </text>
      </g>
    </svg>
  );
}

function Plans({ plans }: { plans: Panels["plans"] }) {
  const size = useSize();
  const workbench = useWorkbench();
  if (!plans.length) return null;
  return (
    <section aria-label="Where braces do most">
      <h2 className="font-display text-base font-semibold">
        Where braces do most{" "}
        <span className="font-sans text-xs font-normal text-soft">
          windows, open enough for the air, clear of the magnet; in place of those there are
        </span>
      </h2>
      <ul className="space-y-1 pt-1">
        {plans.map((plan) => (
          <li key={plain(plan.title)}>
            <Button
              look="action"
              className="bg-panel"
              onClick={() => workbench.take(plan.title, plan.changes)}
            >
              <Say text={plan.title} />
              <span className="block text-xs font-normal text-soft">
                lowest panel {Math.round(plan.lowest_hz)} Hz ({plan.lowest_panel.toLowerCase()})
                {plan.clears ? ", clears the band" : ""}; takes {size(plan.litres, "L", 2)}, weighs{" "}
                {size(plan.weight_kg, "kg", 2)}
              </span>
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
