import { useFigure, useSize } from "../../app/settings";
import type { RadiatorDesign } from "../../api/client";
import { tidy } from "../../lib/quantity";
import { SavedTable } from "../../ui/Saved";
import { Button } from "../../ui/Button";
import { useDocument, useWorkbench } from "../../workbench/context";
import { at } from "../../lib/pointer";
import { Head, Heads, Name, Row, Value } from "../../ui/Table";

/** What the radiators must move, which size does, and the weights with the tuning of each. */
export function RadiatorSizing({ sizing }: { sizing: RadiatorDesign }) {
  const workbench = useWorkbench();
  const size = useSize();
  const figure = useFigure();
  const document = useDocument();
  const now = at(document, "/enclosure/radiators/added_mass_g") ?? 0;
  const { needed_cm3: needed, can_cm3: can } = sizing;
  const short = needed && can && needed > can;
  return (
    <div className="space-y-3">
      <dl className="grid grid-cols-3 gap-4" data-testid="radiator-figures">
        {(
          [
            ["Move at this drive", size(sizing.at_drive_cm3, "cm3"), "all together, one way"],
            [
              "Must move at most",
              needed ? size(needed, "cm3") : "–",
              needed
                ? `near ${tidy(sizing.at_hz, 3)} Hz, where cone, coil or amplifier end`
                : "no limits stated",
            ],
            [
              "Can move",
              can ? size(can, "cm3") : "–",
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
          columns={["weights", "mass_g", "tuning_hz", "excursion_mm"]}
          rows={() => sizing.weights.map((w) => [w.title, w.mass_g, w.tuning_hz, w.excursion_mm])}
        >
          <table className="w-full text-xs">
            <Heads>
              <Head left>screwed on</Head>
              <Head>g</Head>
              <Head>tuning, Hz</Head>
              <Head unit="travel">stroke</Head>
              <td />
            </Heads>
            <tbody className="font-mono tabular-nums">
              {sizing.weights.map((w) => (
                <Row key={w.title}>
                  <Name>{w.title}</Name>
                  <Value>{tidy(w.mass_g, 3)}</Value>
                  <Value>{tidy(w.tuning_hz, 3)}</Value>
                  <Value>{figure(w.excursion_mm, "travel")}</Value>
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
                </Row>
              ))}
            </tbody>
          </table>
        </SavedTable>
        <SavedTable
          title="Which size"
          note="usual areas (common practice)"
          columns={["size_in", "sd_cm2", "excursion_of_one_mm", "excursion_of_two_mm", "mass_of_one_g"]}
          rows={() =>
            sizing.sizes.map((s) => [
              s.size_in,
              s.sd_cm2,
              s.excursion_of_one_mm,
              s.excursion_of_two_mm,
              s.mass_of_one_g,
            ])
          }
        >
          <table className="w-full text-xs">
            <Heads>
              <Head left>size</Head>
              <Head unit="cm2">area</Head>
              <Head unit="travel">one: stroke</Head>
              <Head unit="travel">two</Head>
              <Head>one weighs, g</Head>
            </Heads>
            <tbody className="font-mono tabular-nums">
              {sizing.sizes.map((s) => (
                <Row key={s.size_in}>
                  <Name>{s.size_in} in</Name>
                  <Value>{figure(s.sd_cm2, "cm2")}</Value>
                  <Value>{figure(s.excursion_of_one_mm, "travel")}</Value>
                  <Value>{figure(s.excursion_of_two_mm, "travel")}</Value>
                  <Value>{tidy(s.mass_of_one_g, 3)}</Value>
                </Row>
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
