import { useLayoutEffect } from "react";
import type { PortDesign } from "../../api/client";
import { useSay, useSettings } from "../../app/settings";
import { painted } from "../../lib/traced";
import { printUnit, show, tidy } from "../../lib/quantity";
import { Figure } from "../../ui/Figure";
import { FitDrawing } from "./FitDrawing";
import { RadiatorSizing } from "./RadiatorSizing";
import { TradeOff } from "./TradeOff";
import { portName, useAirway, useTrade } from "./useAirway";
import { Say } from "../../ui/Say";

/** What comes of the port: its figures, whether it goes in, and what a larger or smaller one would cost. */
export function AirwayPicture() {
  const airway = useAirway();
  // for who measures how soon a pull is seen
  useLayoutEffect(() => {
    if (airway) painted("airway", airway);
  }, [airway]);
  if (!airway) return <p className="text-soft">Computing…</p>;
  return (
    <div className="space-y-3">
      {airway.ports.map((port) => (
        <section key={port.pointer} aria-label={`${portName(port.pointer)} worked out`}>
          {airway.ports.length > 1 && (
            <h2 className="font-display text-base font-semibold">{portName(port.pointer)}</h2>
          )}
          <Figures port={port} />
          <div className="grid gap-3 pt-2 xl:grid-cols-[minmax(0,1fr)_minmax(0,1.15fr)]">
            <FitDrawing port={port} />
            <Checks port={port} />
          </div>
          <Trading port={port} />
        </section>
      ))}
      {airway.radiators && <RadiatorSizing sizing={airway.radiators} />}
    </div>
  );
}

function Trading({ port }: { port: PortDesign }) {
  const trade = useTrade(port.pointer);
  return trade ? <TradeOff port={port} trade={trade} /> : null;
}

function Figures({ port }: { port: PortDesign }) {
  const say = useSay();
  const { system } = useSettings();
  const { air, port_volume } = port;
  const mm = (value: number) => {
    const shown = show(Math.round(value), "mm", system);
    return `${shown.text} ${printUnit(shown.unit)}`;
  };
  const litres = (value: number) => {
    const shown = show(value, "L", system, 3);
    return `${shown.text} ${printUnit(shown.unit)}`;
  };
  const fast = air && air.at_drive_m_per_s > air.limit_m_per_s;
  return (
    <div data-testid="port-figures">
      <dl className="grid grid-cols-2 gap-x-4 gap-y-1 md:grid-cols-4">
        <Figure
          label="Length"
          value={mm(port.length_mm)}
          note={`ends count as ${mm(port.inner_correction_mm + port.outer_correction_mm - port.flares_mm)} more${
            port.flares_mm > 0
              ? `; half of each flare counted (common practice): ${mm(port.by_custom_mm)}`
              : ""
          }`}
          bad={!port.fit.fits}
        />
        {air && (
          <Figure
            label="Air at this drive"
            value={`${tidy(air.at_drive_m_per_s, 3)} m/s`}
            note={`at ${tidy(air.at_drive_hz, 3)} Hz; ${air.own_limit ? "your limit" : "quiet to"} ${tidy(air.limit_m_per_s, 3)} m/s`}
            bad={!!fast}
          />
        )}
        {air && (
          <Figure
            label="Air at most"
            value={air.at_most_m_per_s ? `${tidy(air.at_most_m_per_s, 3)} m/s` : "–"}
            note={
              air.at_most_m_per_s
                ? `where cone, coil or amplifier end; costs ${(air.lost_at_most_db ?? 0).toFixed(1)} dB (an estimate)`
                : "no limits of woofer or amplifier stated"
            }
          />
        )}
        {port_volume && (
          <Figure
            label={port_volume.by_cabinet ? "Cabinet holds" : "Port takes"}
            value={
              port_volume.by_cabinet
                ? port_volume.exists
                  ? litres(port_volume.net_l)
                  : `${litres(port_volume.short_by_l)} short`
                : litres(port_volume.displaced_l)
            }
            note={
              port_volume.by_cabinet
                ? port_volume.exists
                  ? `with ${mm(port_volume.length_mm)} of port, which takes ${litres(port_volume.displaced_l)}`
                  : "no volume and length go port_volume here"
                : `${litres(port_volume.room_l)} for air and port`
            }
            bad={!port_volume.exists}
          />
        )}
      </dl>
      <p className="pt-1 text-xs text-soft">
        Rings like a pipe from {tidy(port.pipe_hz, 3)} Hz.{" "}
        {port.hole_mm ? `Hole ${mm(port.hole_mm)}` : `In the board: ${say(port.opening)}`}
        {port.flange_mm ? `, flange ${mm(port.flange_mm)}` : ""}; make a test cut first. Router and saw throw
        dust and chips: mask, glasses, both hands.
      </p>
    </div>
  );
}

function Checks({ port }: { port: PortDesign }) {
  return (
    <section aria-label="Does it fit">
      <h2 className="font-display text-base font-semibold">
        {port.fit.fits ? "It fits" : "It does not fit"}
        {port.fit.assumed && (
          <span className="font-sans text-xs font-normal text-soft">
            {" "}
            in a box of 3 : 4 : 3.5, as none is stated
          </span>
        )}
      </h2>
      <ul className="space-y-0.5 text-xs" data-testid="fit">
        {port.fit.checks.map((c) => (
          <li key={c.id} className="flex gap-1.5">
            <span
              className={c.passed ? "text-verdigris" : "text-brick"}
              aria-label={c.passed ? "fits" : "does not fit"}
            >
              {c.passed ? "✓" : "✗"}
            </span>
            <span className="first-letter:uppercase">
              <Say text={c.sentence} />.
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
