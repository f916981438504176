import { useQueries } from "@tanstack/react-query";
import { useState } from "react";
import type { CookedCurve, Drawn, MeasurementRecord, Proof, Proved } from "../../api/client";
import { measuredCurve } from "../../api/queries";
import { useSettings } from "../../app/settings";
import { roundUp } from "../../lib/axis";
import { size } from "../../lib/quantity";
import { Button } from "../../ui/Button";
import { Disclosure } from "../../ui/Disclosure";
import { Plot, type Places } from "../../ui/Plot";
import { Say } from "../../ui/Say";
import { Saved } from "../../ui/Saved";
import { Inside } from "./Inside";
import { isImpedance, placeWords } from "./places";
import { useAsRevision } from "./useAsRevision";
import { fitWooferToo, useMeasured, useProof, useWooferToo } from "./useMeasured";

const TICKS = [5, 10, 20, 50, 100, 200, 500, 1000];

/** Each measurement laid on what the model says, why they differ, and what to do about it. */
export function ProvePicture() {
  const { laid } = useMeasured();
  const proof = useProof();
  const curves = useQueries({ queries: laid.map((m) => measuredCurve(m.id, m.version)) });
  const [shown, setShown] = useState<string>();
  if (!laid.length) return <Begin />;
  const cure = proof?.cures.find((c) => c.id === shown);
  return (
    <div className="min-h-0 flex-1 overflow-y-auto pr-2" data-testid="prove">
      <div className="grid gap-x-6 gap-y-2 2xl:grid-cols-2">
        {laid.map((m, i) => (
          <Laid
            key={m.id}
            record={m}
            cooked={curves[i]?.data}
            proved={proof?.measured.find((p) => p.id === m.id)}
            fitted={proof?.fitted_box?.id === m.id ? proof.fitted_box.fitted : undefined}
            then={cure?.then[proof?.measured.findIndex((p) => p.id === m.id) ?? -1] ?? undefined}
          />
        ))}
      </div>
      {!proof && <p className="text-soft">Holding them against the model…</p>}
      {proof && <Why proof={proof} />}
      {proof?.openings && (
        <section aria-label="Cone and port" className="max-w-3xl pt-3" data-testid="openings">
          <h2 className="font-display text-base font-semibold">Cone and port</h2>
          <p>
            <Say text={proof.openings.sentence} />
          </p>
        </section>
      )}
      {proof && <Box proof={proof} />}
      {proof && <WhatToDo proof={proof} shown={shown} show={setShown} />}
    </div>
  );
}

function Begin() {
  return (
    <div className="max-w-xl pt-6">
      <h2 className="font-display text-lg font-semibold">Measured against predicted</h2>
      <p className="py-2">
        Lay what you measured on what the model says. The difference is told in decibels, explained by what
        could be off (the port, the volume, a leak, the woofer), and turned into what to cut, to add or to
        leave.
      </p>
      <p className="py-2">
        Begin with the impedance at the box&apos;s terminals: it needs no microphone and no quiet room, and
        tells box and woofer apart. Without a sound card, the simulated bench gives samples to learn on.
      </p>
    </div>
  );
}

function Laid({
  record,
  cooked: fresh,
  proved,
  fitted,
  then,
}: {
  record: MeasurementRecord;
  cooked: CookedCurve | undefined;
  proved: Proved | undefined;
  fitted: Drawn | undefined;
  then: Drawn | undefined;
}) {
  // until the next curve comes the last one stands
  const [cooked, setCooked] = useState(fresh);
  if (fresh && fresh !== cooked) setCooked(fresh);
  if (!cooked) return <div className="h-32" />;
  const { curve: measured, remarks } = cooked;
  const { about } = record.document;
  const ohms = isImpedance(about?.taken);
  const own = about?.absolute && typeof about.volts === "number";
  const offset = !ohms && !own ? (proved?.deviation?.offset_db ?? 0) : 0;
  const values = measured.magnitude.map((v) => v - offset);
  const all = [...values, ...(proved?.predicted?.magnitude ?? []), ...(then?.magnitude ?? [])].filter(
    Number.isFinite,
  );
  const top = Math.max(...all, 1);
  const range: [number, number] = ohms
    ? [0, roundUp(top * 1.05)]
    : [
        Math.max(Math.ceil(top / 5) * 5 - 45, Math.floor(Math.min(...all) / 5) * 5),
        Math.ceil(top / 5) * 5 + 2,
      ];
  const low = Math.max(measured.frequency_hz[0] ?? 5, 5);
  const high = Math.min(measured.frequency_hz.at(-1) ?? 500, 1000);
  const title = about?.name || placeWords(about?.taken);
  const faint = measured.snr_db;
  return (
    <section aria-label={title}>
      <Saved
        title={title}
        note={`${placeWords(about?.taken)}${offset ? `, moved by ${(-offset).toFixed(1)} dB` : ""}`}
      >
        <Plot
          x={measured.frequency_hz}
          across={[low, high]}
          title={ohms ? "impedance" : "level"}
          unit={ohms ? "ohm" : "dB"}
          told
          {...(proved?.deviation && {
            note: `off by ${(ohms || own ? proved.deviation.rms_with_offset_db : proved.deviation.rms_db).toFixed(1)} dB rms`,
          })}
          range={range}
          height={190}
          ticks={TICKS}
          xUnit="Hz"
          curves={[
            ...(proved?.predicted
              ? [{ x: proved.predicted.frequency_hz, values: proved.predicted.magnitude, width: 1.8 }]
              : []),
            ...(fitted
              ? [
                  {
                    x: fitted.frequency_hz,
                    values: fitted.magnitude,
                    colour: "var(--soft)",
                    dash: "1 3",
                    width: 1.4,
                  },
                ]
              : []),
            ...(then
              ? [
                  {
                    x: then.frequency_hz,
                    values: then.magnitude,
                    colour: "var(--verdigris)",
                    dash: "7 3",
                    width: 1.8,
                  },
                ]
              : []),
            {
              values: values.map((v, i) => ((faint?.[i] ?? 99) < 10 ? null : v)),
              colour: "var(--oak)",
              width: 1.3,
            },
            ...(faint
              ? [
                  {
                    values: values.map((v, i) => ((faint[i] ?? 99) < 10 ? v : null)),
                    colour: "var(--oak)",
                    dash: "1.5 2.5",
                    width: 1,
                  },
                ]
              : []),
          ]}
        >
          {(places) =>
            proved?.predicted && (
              <Between
                places={places}
                x={measured.frequency_hz}
                values={values}
                said={proved.predicted}
                range={range}
                across={[
                  Math.max(proved.deviation?.from_hz ?? low, low),
                  Math.min(proved.deviation?.to_hz ?? high, high),
                ]}
              />
            )
          }
        </Plot>
      </Saved>
      {remarks.map((r) => (
        <p key={r} className="text-xs text-soft">
          {r}.
        </p>
      ))}
      {!ohms && (cooked.excess || cooked.impulse.length > 1) && (
        <Disclosure title="What is inside it">
          <Inside record={record} cooked={cooked} />
        </Disclosure>
      )}
    </section>
  );
}

/** The hatched ground between measured and predicted. */
function Between({
  places,
  x,
  values,
  said,
  range,
  across,
}: {
  places: Places;
  x: readonly number[];
  values: readonly number[];
  said: Drawn;
  range: [number, number];
  across: [number, number];
}) {
  const held = (v: number) => Math.min(Math.max(v, range[0]), range[1]);
  const at = (f: number) => {
    const i = said.frequency_hz.findIndex((g) => g >= f);
    if (i <= 0) return said.magnitude[0] ?? 0;
    const [a, b] = [said.frequency_hz[i - 1] ?? f, said.frequency_hz[i] ?? f];
    const share = Math.log(f / a) / Math.log(b / a || 2);
    return (said.magnitude[i - 1] ?? 0) * (1 - share) + (said.magnitude[i] ?? 0) * share;
  };
  const points = x
    .map((f, i) => ({ f, m: held(values[i] ?? NaN), p: held(at(f)) }))
    .filter(({ f, m, p }) => f >= across[0] && f <= across[1] && Number.isFinite(m) && Number.isFinite(p));
  // hatching: an upright stroke every few pixels from one curve to the other
  const strokes: string[] = [];
  let last = -Infinity;
  for (const { f, m, p } of points) {
    const here = places.x(f);
    if (here - last < 5) continue;
    last = here;
    strokes.push(`M${here.toFixed(1)} ${places.y(m).toFixed(1)}V${places.y(p).toFixed(1)}`);
  }
  return <path d={strokes.join("")} stroke="var(--oak)" strokeWidth="0.7" opacity="0.6" />;
}

function Why({ proof }: { proof: Proof }) {
  const { causes } = proof;
  if (!causes) return null;
  return (
    <section aria-label="Why" className="max-w-3xl pt-3">
      <h2 className="font-display text-base font-semibold">Why</h2>
      <p data-testid="why">
        <Say text={causes.sentence} />
      </p>
      <ul className="pt-1">
        {causes.each.slice(0, 5).map((c) => (
          <li
            key={c.unknown}
            className="grid grid-cols-[9rem_1fr] items-baseline gap-x-3 py-0.5 sm:grid-cols-[9rem_8rem_1fr]"
          >
            <span>{c.title}</span>
            <span
              className="relative h-2 self-center bg-rule"
              role="img"
              aria-label={`explains ${c.explains_percent.toFixed(0)} %`}
            >
              <span
                className="absolute inset-y-0 left-0 bg-oak"
                style={{ width: `${Math.min(Math.max(c.explains_percent, 0), 100)}%` }}
              />
            </span>
            <span className="col-span-2 text-xs text-soft sm:col-span-1">
              explains {c.explains_percent.toFixed(0)} % alone: <Say text={c.sentence} />
            </span>
          </li>
        ))}
      </ul>
      {causes.undecided.map((t, i) => (
        <p key={i} className="border-l-2 border-ochre pl-2 text-xs">
          <Say text={t} />
        </p>
      ))}
    </section>
  );
}

const FIGURES: Record<string, { label: string; unit: string }> = {
  net_volume_l: { label: "Net volume", unit: "L" },
  fb_hz: { label: "Tuning fb", unit: "Hz" },
  fc_hz: { label: "Resonance fc", unit: "Hz" },
  qtc: { label: "Qtc", unit: "" },
  leak_q: { label: "QL", unit: "" },
  tuning_hz: { label: "Tuning", unit: "Hz" },
  fs_hz: { label: "fs", unit: "Hz" },
  qes: { label: "Qes", unit: "" },
  vas_l: { label: "Vas", unit: "L" },
  radiator_mass: { label: "Radiators' mass, times", unit: "" },
  re_ohm: { label: "Re", unit: "ohm" },
};

function Box({ proof }: { proof: Proof }) {
  const { system } = useSettings();
  const wooferToo = useWooferToo();
  const { fitted_box: box, no_fit } = proof;
  if (no_fit) return <p className="pt-3 text-ochre">{no_fit}</p>;
  if (!box) return null;
  return (
    <section aria-label="The box by its impedance" className="max-w-3xl pt-3">
      <h2 className="font-display text-base font-semibold">The box by its impedance</h2>
      <label className="block text-xs">
        <input type="checkbox" checked={wooferToo} onChange={(e) => fitWooferToo(e.target.checked)} /> the
        woofer fitted with it, for one that may be off its sheet
      </label>
      <p className="flex flex-wrap gap-x-6">
        {box.figures.map((f, i) => {
          const { label, unit } = FIGURES[f.id] ?? { label: f.id, unit: "" };
          const expected = box.expected[i];
          const text = (v: number) => [`${Number(v.toPrecision(4))}`, unit].filter(Boolean).join(" ");
          return (
            <span key={f.id}>
              <span className="text-soft">{label}</span>{" "}
              <b>{unit === "L" ? size(f.value, "L", system, 4) : text(f.value)}</b>{" "}
              <span className="text-xs text-soft">
                {f.high / f.low < 3 && `±${(((f.high / f.low) ** 0.5 - 1) * 100).toFixed(1)} %`}
                {typeof expected === "number" &&
                  `, planned ${unit === "L" ? size(expected, "L", system, 4) : text(expected)}`}
              </span>
            </span>
          );
        })}
      </p>
      <p className="text-xs text-soft">
        {box.turns.map((t) => `${t.peak ? "peak" : "dip"} ${t.frequency_hz.toFixed(1)} Hz`).join(", ")}
        {box.expected_turns.length > 0 &&
          ` (planned ${box.expected_turns.map((t) => t.frequency_hz.toFixed(1)).join(", ")})`}
        . {box.left_percent.toFixed(1)} % of the impedance is left over by the fit.
      </p>
      {[...box.remarks, ...box.ripples.map((r) => r.sentence)].map((t, i) => (
        <p key={i} className="text-xs">
          <Say text={t} />
        </p>
      ))}
    </section>
  );
}

function WhatToDo({
  proof,
  shown,
  show,
}: {
  proof: Proof;
  shown: string | undefined;
  show: (id: string | undefined) => void;
}) {
  const { said, take } = useAsRevision();
  if (!proof.cures.length) return null;
  return (
    <section aria-label="What to do" className="max-w-3xl pt-3 pb-4">
      <h2 className="font-display text-base font-semibold">What to do</h2>
      <ul>
        {proof.cures.map((cure) => (
          <li key={cure.id} className="border-b border-rule py-1.5" data-testid={`cure-${cure.id}`}>
            <div className="flex flex-wrap items-baseline gap-3">
              <b className="flex-1 font-semibold">
                <Say text={cure.title} />
              </b>
              {cure.then.some(Boolean) && (
                <button
                  type="button"
                  aria-pressed={shown === cure.id}
                  className="text-oak underline"
                  onClick={() => show(shown === cure.id ? undefined : cure.id)}
                >
                  {shown === cure.id ? "Hide its curve" : "Show its curve"}
                </button>
              )}
              {cure.changes.length > 0 && (
                <Button look="action" onClick={() => void take(cure.title, cure.changes)}>
                  Take as a revision
                </Button>
              )}
            </div>
            <p className="text-xs">
              <Say text={cure.sentence} />
            </p>
          </li>
        ))}
      </ul>
      <p role="status" className="text-xs text-soft">
        {said}
      </p>
    </section>
  );
}
