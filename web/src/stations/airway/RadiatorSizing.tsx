import type { RadiatorDesign } from "../../api/client";
import { tidy } from "../../lib/quantity";
import { SavedTable } from "../../ui/Saved";
import { Button } from "../../ui/Button";
import { useDocument, useWorkbench } from "../../workbench/context";
import { at } from "../../lib/pointer";

/** What the radiators must move, which size does, and the weights with the tuning of each. */
export function RadiatorSizing({ sizing }: { sizing: RadiatorDesign }) {
  const workbench = useWorkbench();
  const document = useDocument();
  const now = at(document, "/enclosure/radiators/added_mass_g") ?? 0;
  const { needed_cm3: needed, can_cm3: can } = sizing;
  const short = needed && can && needed > can;
  return (
    <div className="space-y-3">
      <dl className="grid grid-cols-3 gap-4" data-testid="radiator-figures">
        {(
          [
            ["Move at this drive", `${tidy(sizing.at_drive_cm3, 3)} cm³`, "all together, one way"],
            [
              "Must move at most",
              needed ? `${tidy(needed, 3)} cm³` : "–",
              needed
                ? `near ${tidy(sizing.at_hz, 3)} Hz, where cone, coil or amplifier end`
                : "no limits stated",
            ],
            [
              "Can move",
              can ? `${tidy(can, 3)} cm³` : "–",
              can ? (short ? `${sizing.count_needed} like these would do` : "enough") : "state their Xmax",
            ],
          ] as const
        ).map(([label, value, note]) => (
          <div key={label}>
            <dt className="text-xs text-soft">{label}</dt>
            <dd
              className={`font-display text-lg leading-tight font-semibold ${label === "Can move" && short ? "text-brick" : ""}`}
            >
              {value}
            </dd>
            <dd className="text-xs text-soft">{note}</dd>
          </div>
        ))}
      </dl>
      <div className="grid gap-4 xl:grid-cols-2">
        <SavedTable
          title="Weights"
          note="on each radiator, nut counted"
          columns={["weights", "mass_g", "tuning_hz", "stroke_mm"]}
          rows={() => sizing.weights.map((w) => [w.title, w.mass_g, w.tuning_hz, w.stroke_mm])}
        >
          <table className="w-full text-xs">
            <thead className="text-soft">
              <tr>
                <th className="text-left font-normal">screwed on</th>
                <th className="text-right font-normal">g</th>
                <th className="text-right font-normal">tuning, Hz</th>
                <th className="text-right font-normal">stroke, mm</th>
                <td />
              </tr>
            </thead>
            <tbody className="font-mono tabular-nums">
              {sizing.weights.map((w) => (
                <tr key={w.title} className="border-t border-rule/60">
                  <th scope="row" className="py-0.5 text-left font-sans font-normal">
                    {w.title}
                  </th>
                  <td className="text-right">{tidy(w.mass_g, 3)}</td>
                  <td className="text-right">{tidy(w.tuning_hz, 3)}</td>
                  <td className="text-right">{tidy(w.stroke_mm, 3)}</td>
                  <td className="pl-2 text-right font-sans">
                    {w.mass_g === now ? (
                      "now"
                    ) : (
                      <Button
                        look="action"
                        className="px-1.5 py-0"
                        onClick={() => workbench.take(w.title, w.changes)}
                      >
                        take
                      </Button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </SavedTable>
        <SavedTable
          title="Which size"
          note="usual areas (common practice)"
          columns={["size_in", "sd_cm2", "stroke_of_one_mm", "stroke_of_two_mm", "mass_of_one_g"]}
          rows={() =>
            sizing.sizes.map((s) => [
              s.size_in,
              s.sd_cm2,
              s.stroke_of_one_mm,
              s.stroke_of_two_mm,
              s.mass_of_one_g,
            ])
          }
        >
          <table className="w-full text-xs">
            <thead className="text-soft">
              <tr>
                <th className="text-left font-normal">size</th>
                <th className="text-right font-normal">cm²</th>
                <th className="text-right font-normal">one: stroke, mm</th>
                <th className="text-right font-normal">two, mm</th>
                <th className="text-right font-normal">one weighs, g</th>
              </tr>
            </thead>
            <tbody className="font-mono tabular-nums">
              {sizing.sizes.map((s) => (
                <tr key={s.size_in} className="border-t border-rule/60">
                  <th scope="row" className="py-0.5 text-left font-normal">
                    {s.size_in} in
                  </th>
                  <td className="text-right">{s.sd_cm2}</td>
                  <td className="text-right">{tidy(s.stroke_of_one_mm, 3)}</td>
                  <td className="text-right">{tidy(s.stroke_of_two_mm, 3)}</td>
                  <td className="text-right">{tidy(s.mass_of_one_g, 3)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </SavedTable>
      </div>
      <p className="text-xs text-soft">
        Tighten weights with a lock nut: loose ones rattle. Two radiators on opposite sides cancel each
        other's shake.
      </p>
    </div>
  );
}
