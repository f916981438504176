import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { learnedEnds, pipes } from "../../api/queries";
import { useSettings } from "../../app/settings";
import { at } from "../../lib/pointer";
import { printUnit, show, tidy } from "../../lib/quantity";
import { Button } from "../../ui/Button";
import { SchemaForm } from "../../ui/SchemaForm";
import { useDocument, useEvaluation, usePart, useValue, useWorkbench } from "../../workbench/context";
import { Steps } from "../enclosure/Figures";
import { portName } from "./useAirway";
import { Head, Heads, Row, Value } from "../../ui/Table";
import { Disclosure } from "../../ui/Disclosure";

/** The ports of the box, or its radiators, as fields. */
export function AirwayStation() {
  const document = useDocument();
  const evaluation = useEvaluation();
  const ports = evaluation?.ports ?? [];
  if ("radiators" in document.enclosure)
    return (
      <>
        <SchemaForm pointer="/enclosure/radiators" />
        <Steps />
      </>
    );
  if (!ports.length)
    return (
      <p className="py-2 text-soft">
        {evaluation?.path
          ? "The air leaves through the mouth of the line or horn; its sizes are at the Box."
          : "Nothing leads the air out of this box. Take a vented box or passive radiators at the Box, and their way out is worked out here."}
      </p>
    );
  return ports.map((port) => (
    <PortForm key={port.pointer} pointer={port.pointer} alone={ports.length === 1} />
  ));
}

/** What other boxes of the workshop measured about the ends of their ports, for this one to begin with. */
function Learned({ pointer }: { pointer: string }) {
  const workbench = useWorkbench();
  const build = usePart((b) => b.build.id);
  const own = useValue(`${pointer}/end_factor`);
  const { data } = useQuery(learnedEnds(build));
  if (!data?.builds.length || typeof own === "number") return null;
  const title = `Ends act ${data.factor} times as reckoned`;
  const take = () => workbench.take(title, [{ pointer: `${pointer}/end_factor`, value: data.factor }]);
  return (
    <div className="my-2 border-l-3 border-rule pl-2.5" data-testid="learned">
      <p>{data.sentence}</p>
      <Button look="action" className="mt-1 bg-panel" onClick={take}>
        Reckon with {data.factor} here
      </Button>
    </div>
  );
}

function PortForm({ pointer, alone }: { pointer: string; alone: boolean }) {
  const evaluation = useEvaluation();
  const [seed] = useState(() => (at: string) => {
    const port = evaluation?.ports.find((p) => at.startsWith(p.pointer));
    if (at.endsWith("/length_mm") && port) return Math.round(port.length_mm);
    if (at.endsWith("/tuning_hz") && port) return Number(port.tuning_hz.toPrecision(3));
    return undefined;
  });
  return (
    <section aria-label={portName(pointer)}>
      {!alone && <h2 className="pt-1 font-display text-base font-semibold">{portName(pointer)}</h2>}
      <SchemaForm
        pointer={pointer}
        seed={seed}
        open={["Ends and walls of the port", "Course and parts of the port"]}
      />
      <Learned pointer={pointer} />
      <Pipes pointer={pointer} />
      <SchemaForm pointer="/brief" only={["port_air_m_per_s"]} />
    </section>
  );
}

/** Plastic pipes by the published standards; one press takes its inside diameter and wall. */
function Pipes({ pointer }: { pointer: string }) {
  const workbench = useWorkbench();
  const document = useDocument();
  const { system } = useSettings();
  const [open, setOpen] = useState(false);
  const list = useQuery({ ...pipes(), enabled: open }).data ?? [];
  const now = at(document, `${pointer}/section/diameter_mm`);
  const size = (mm: number) => {
    const shown = show(mm, "mm", system, 4);
    return system === "inch" ? `${shown.text} ${printUnit(shown.unit)}` : tidy(mm, 4);
  };
  return (
    <Disclosure title="Take a plastic pipe" offers onOpen={setOpen}>
      <table className="w-full text-xs" data-testid="pipes">
        <Heads>
          <Head left>size</Head>
          <Head>inside</Head>
          <Head>outside{system === "metric" && ", mm"}</Head>
        </Heads>
        <tbody>
          {list.map((p, i) => (
            <Row key={p.size} title={p.standard}>
              <td className="py-0.5">
                <button
                  type="button"
                  aria-pressed={typeof now === "number" && Math.abs(now - p.inside_mm) < 0.06}
                  className="text-oak underline decoration-dotted aria-pressed:font-semibold"
                  onClick={() =>
                    workbench.take(`${p.size} pipe`, [
                      {
                        pointer: `${pointer}/section`,
                        value: { shape: "round", diameter_mm: Number(p.inside_mm.toFixed(1)) },
                      },
                      { pointer: `${pointer}/wall_mm`, value: Number(p.wall_mm.toFixed(1)) },
                    ])
                  }
                >
                  {p.size}
                </button>
                {p.standard !== list[i - 1]?.standard && (
                  <span className="block text-[10.5px] leading-tight text-soft">{p.standard}</span>
                )}
              </td>
              <Value>{size(p.inside_mm)}</Value>
              <Value>{size(p.outside_mm)}</Value>
            </Row>
          ))}
        </tbody>
      </table>
    </Disclosure>
  );
}
