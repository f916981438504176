import { useState } from "react";
import type { Measurement, MeasurementRecord, Problem } from "../../api/client";
import { QuantityField } from "../../ui/QuantityField";
import { Select } from "../../ui/Select";
import { isImpedance } from "./places";

export type Step = NonNullable<Measurement["steps"]>[number];
type Save = (change: (document: Measurement) => Measurement) => Promise<void>;

const SMOOTH = [0, 1, 3, 6, 12, 24, 48];

/** The one step of a kind, where there is one. */
export const stepOf = <K extends Step["kind"]>(record: MeasurementRecord, kind: K) =>
  record.document.steps?.find((s): s is Extract<Step, { kind: K }> => s.kind === kind);

/** Puts a step in the place of those of its kind, or takes them out. */
export const withStep =
  (kind: Step["kind"], step: Step | undefined) =>
  (document: Measurement): Measurement => {
    const steps = document.steps ?? [];
    const at = steps.findIndex((s) => s.kind === kind);
    const others = steps.filter((s) => s.kind !== kind);
    if (!step) return { ...document, steps: others };
    return { ...document, steps: at < 0 ? [...others, step] : others.toSpliced(at, 0, step) };
  };

/** What is done to a measurement's untouched data, step by step. */
export function Done({ record, save }: { record: MeasurementRecord; save: Save }) {
  const [wrong, setWrong] = useState("");
  const about = record.document.about;
  const name = about?.name || "without a name";
  const set = (kind: Step["kind"], step: Step | undefined) => void save(withStep(kind, step));
  const trim = stepOf(record, "trim");
  const calibration = stepOf(record, "calibration");
  const levels = !isImpedance(about?.taken);
  const band = (from: number | undefined, to: number | undefined) =>
    set(
      "trim",
      from === undefined && to === undefined
        ? undefined
        : { kind: "trim", from_hz: from ?? 0.1, to_hz: to ?? 100000 },
    );
  const calibrate = async (file: File) => {
    setWrong("");
    try {
      const answer = await fetch(`/api/curves/calibration?name=${encodeURIComponent(file.name)}`, {
        method: "POST",
        body: file,
        headers: { "content-type": "text/plain" },
      });
      const step = (await answer.json()) as Step & Problem;
      if (answer.ok) set("calibration", step);
      else setWrong(`${file.name}: ${step.detail}`);
    } catch {
      setWrong("The server does not answer; nothing was read.");
    }
  };
  return (
    <div className="text-xs">
      <p className="flex flex-wrap items-baseline gap-2 py-1">
        <span>Smoothed over</span>
        <Select
          label={`Smoothing of ${name}`}
          value={String(stepOf(record, "smooth")?.per_octave ?? 0)}
          onChange={(v) => set("smooth", Number(v) ? { kind: "smooth", per_octave: Number(v) } : undefined)}
          choices={SMOOTH.map((n) => [String(n), n ? `1/${n} octave` : "nothing"])}
        />
      </p>
      <QuantityField
        label="Kept from"
        unit="Hz"
        empty="the first point"
        value={trim && trim.from_hz > 0.1 ? trim.from_hz : undefined}
        optional
        min={0.1}
        max={100000}
        onChange={(v) => band(v, trim && trim.to_hz < 100000 ? trim.to_hz : undefined)}
      />
      <QuantityField
        label="Kept to"
        unit="Hz"
        empty="the last"
        value={trim && trim.to_hz < 100000 ? trim.to_hz : undefined}
        optional
        min={0.1}
        max={100000}
        onChange={(v) => band(trim && trim.from_hz > 0.1 ? trim.from_hz : undefined, v)}
      />
      {levels && (
        <>
          <QuantityField
            label="Moved by"
            unit="dB"
            empty="0"
            value={stepOf(record, "offset")?.db}
            optional
            min={-200}
            max={200}
            onChange={(db) => set("offset", db ? { kind: "offset", db } : undefined)}
          />
          <p className="flex flex-wrap items-baseline gap-2 py-1">
            <span>Phase</span>
            <Select
              label={`Phase of ${name}`}
              value={stepOf(record, "minimum_phase") ? "minimum" : "measured"}
              onChange={(v) => set("minimum_phase", v === "minimum" ? { kind: "minimum_phase" } : undefined)}
              choices={[
                ["measured", "as measured"],
                ["minimum", "minimum phase"],
              ]}
            />
          </p>
          <p className="flex flex-wrap items-baseline gap-2 py-1">
            {calibration ? (
              <>
                <span>{calibration.name} taken off.</span>
                <button
                  type="button"
                  className="text-oak underline"
                  onClick={() => set("calibration", undefined)}
                >
                  Leave it on
                </button>
              </>
            ) : (
              <label>
                Calibration file to take off{" "}
                <input
                  type="file"
                  aria-label={`Calibration of ${name}`}
                  className="max-w-52"
                  onChange={(e) => {
                    const file = e.target.files?.[0];
                    e.target.value = "";
                    if (file) void calibrate(file);
                  }}
                />
              </label>
            )}
          </p>
        </>
      )}
      {wrong && (
        <p role="alert" className="text-brick">
          {wrong}
        </p>
      )}
    </div>
  );
}
