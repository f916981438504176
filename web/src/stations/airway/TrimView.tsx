import { useState } from "react";
import { api, get, Refused, type Trim } from "../../api/client";
import { useSay, useSettings } from "../../app/settings";
import { printUnit, show, tidy } from "../../lib/quantity";
import { Button } from "../../ui/Button";
import { QuantityField } from "../../ui/QuantityField";
import { Select } from "../../ui/Select";
import { useDocument, useEvaluation, useWorkbench } from "../../workbench/context";
import { portName } from "./useAirway";
import { Say } from "../../ui/Say";
import { plain } from "../../lib/said";

/** From the tuning that was measured to what to cut, add, fill or screw on. */
export function TrimView() {
  const document = useDocument();
  const evaluation = useEvaluation();
  const workbench = useWorkbench();
  const { system } = useSettings();
  const places = [
    ...(evaluation?.ports.map((p) => p.pointer) ?? []),
    ...("radiators" in document.enclosure ? ["/enclosure/radiators"] : []),
  ];
  const [chosen, setChosen] = useState<string>();
  const pointer = chosen && places.includes(chosen) ? chosen : places[0];
  const port = evaluation?.ports.find((p) => p.pointer === pointer);
  const [measured, setMeasured] = useState<number>();
  const [wanted, setWanted] = useState<number>();
  const [built, setBuilt] = useState<number>();
  const [found, setFound] = useState<Trim>();
  const [wrong, setWrong] = useState<{ field?: string; message: string }>();
  const say = useSay();
  if (!pointer) return <p className="text-soft">There is no port and no radiator to trim in this box.</p>;
  const expected = port?.tuning_hz ?? evaluation?.summary.figures.find((f) => f.id === "fb_hz")?.value;
  const ask = async () => {
    setWrong(undefined);
    if (measured === undefined) {
      setWrong({ field: "measured_hz", message: "the tuning you measured is expected, for example 28.5 Hz" });
      return;
    }
    try {
      const trim = { pointer, measured_hz: measured, wanted_hz: wanted ?? null, built_mm: built ?? null };
      setFound(await get(api.POST("/api/trim", { body: { document, trim } })));
    } catch (cause) {
      setFound(undefined);
      const problem = cause instanceof Refused ? cause.problem : undefined;
      const first = problem?.errors?.[0];
      setWrong({
        ...(first && { field: first.pointer.split("/").at(-1) ?? "" }),
        message: (first && say(first.message)) ?? problem?.detail ?? "That did not work.",
      });
    }
  };
  const length = port && show(Math.round(port.length_mm), "mm", system);
  const problem = (field: string) => (wrong?.field === field ? wrong.message : undefined);
  const field = (
    label: string,
    help: string,
    unit: string,
    value: number | undefined,
    empty: string,
    set: (v: number | undefined) => void,
    name: string,
  ) => (
    <QuantityField
      label={label}
      help={help}
      unit={unit}
      value={value}
      empty={empty}
      optional
      min={unit === "mm" ? 1 : 4}
      max={unit === "mm" ? 6000 : 400}
      problem={problem(name)}
      pointer={`/trim/${name}`}
      onChange={set}
      onDone={() => undefined}
    />
  );
  return (
    <section aria-label="Trim" className="grid min-h-0 flex-1 gap-6 lg:grid-cols-[306px_minmax(0,1fr)]">
      <div>
        {places.length > 1 && (
          <div className="flex items-baseline gap-2 border-b border-rule/70 py-[5px]">
            <span className="flex-1 text-soft">Trim</span>
            <Select
              label="Which port"
              value={pointer}
              choices={places.map((p): [string, string] => [
                p,
                p.endsWith("radiators") ? "Radiators" : portName(p),
              ])}
              onChange={(p) => {
                setChosen(p);
                setFound(undefined);
              }}
            />
          </div>
        )}
        {field(
          "Measured tuning",
          "The tuning found at the built box: where the cone moves least, or between the two impedance peaks.",
          "Hz",
          measured,
          expected ? `expected ${tidy(expected, 3)}` : "",
          setMeasured,
          "measured_hz",
        )}
        {field(
          "Wanted",
          "The tuning you want after trimming; empty is that of the design.",
          "Hz",
          wanted,
          expected ? `design: ${tidy(expected, 3)}` : "",
          setWanted,
          "wanted_hz",
        )}
        {port &&
          field(
            "Built with",
            "The length the port has now, flares counted; empty is that of the design.",
            "mm",
            built,
            length ? `design: ${length.text} ${length.unit}` : "",
            setBuilt,
            "built_mm",
          )}
        <Button look="strong" className="mt-3" onClick={() => void ask()}>
          What to do
        </Button>
        {wrong && !wrong.field && (
          <p role="alert" className="pt-2 text-brick">
            {wrong.message}
          </p>
        )}
        <p className="pt-3 text-xs text-soft">
          Measure quietly: below its tuning a woofer is soon past its stroke. Trim before you glue; saws and
          files want glasses and a mask.
        </p>
      </div>
      <div>
        {!found ? (
          <p className="max-w-prose text-soft">
            A built box usually lands a little below its modelled tuning. Measure it, say what you found, and
            what to cut, add, fill or screw on is worked out; what the measurement says about this port&apos;s
            ends is kept for every later change.
          </p>
        ) : (
          <section aria-label="What to do" className="max-w-2xl space-y-3" data-testid="trim">
            <p>
              Expected {tidy(found.expected_hz, 3)} Hz, measured {tidy(measured ?? 0, 3)} Hz, wanted{" "}
              {tidy(found.wanted_hz, 3)} Hz. {port ? "The ends count" : "The bare radiators weigh"}{" "}
              <b className="font-mono">{found.factor.toFixed(2)}</b> times what{" "}
              {port ? "theory gives them" : "their sheet says"}.
            </p>
            {found.doubtful && (
              <p role="alert" className="border-l-3 border-ochre pl-2">
                {found.doubtful}
              </p>
            )}
            <ul className="space-y-2">
              {found.ways.map((way) => (
                <li key={plain(way.title)}>
                  <Button
                    look="action"
                    className="bg-panel"
                    onClick={() => workbench.take(way.title, way.changes)}
                  >
                    <Say text={way.title} />
                    <span className="block text-xs font-normal text-soft">
                      <Say text={way.sentence} />
                    </span>
                  </Button>
                </li>
              ))}
              <li>
                <Button look="plain" onClick={() => workbench.take("The box as it measures", found.keep)}>
                  Keep it as it is
                  <span className="block text-xs text-soft">
                    The curves then show the box as it measures, {tidy(measured ?? 0, 3)} {printUnit("Hz")}.
                  </span>
                </Button>
              </li>
            </ul>
          </section>
        )}
      </div>
    </section>
  );
}
