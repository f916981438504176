import { useQueryClient } from "@tanstack/react-query";
import type { CookedCurve, Measurement, MeasurementRecord } from "../../api/client";
import { measurements } from "../../api/queries";
import { roundUp } from "../../lib/axis";
import { Button } from "../../ui/Button";
import { Plot } from "../../ui/Plot";
import { QuantityField } from "../../ui/QuantityField";
import { Saved } from "../../ui/Saved";
import { stepOf, withStep } from "./Done";
import { useSaving } from "./useSaving";

const MS = [-20, 0, 50, 100, 150, 200, 250, 300];
const TICKS = [5, 10, 20, 50, 100, 200, 500, 1000];
const COLOURS = ["var(--oak)", "var(--verdigris)", "var(--ochre)", "var(--soft)"];
const DASHES = [undefined, "7 3", "3 3", "1 3"];
/** A gate to begin with, ms: the box's ringing is in it, most of a room is not. */
const FRESH = { kind: "gate", from_ms: -5, to_ms: 300 } as const;

/** What is inside a measurement with an impulse response: the response itself, the part of it that counts, distortion by order. */
export function Inside({ record, cooked }: { record: MeasurementRecord; cooked: CookedCurve }) {
  const client = useQueryClient();
  const { save, wrong } = useSaving(record, () => client.invalidateQueries(measurements(record.build_id)));
  const gate = stepOf(record, "gate");
  const { impulse, excess } = cooked;
  const set = (step: typeof gate) => void save(withStep("gate", step));
  return (
    <div className="max-w-3xl pb-2">
      {impulse.length > 1 && (
        <Saved
          title="Impulse response"
          note={gate ? "what lies outside the gate does not count" : "all of it counts"}
        >
          <Plot
            x={impulse.map(([ms]) => ms ?? 0)}
            across={[-20, 300]}
            title="share of its top"
            unit=""
            told
            log={false}
            range={[-1, 1]}
            height={110}
            ticks={MS}
            xUnit="ms"
            curves={[
              { values: impulse.map(([, share]) => share), colour: "var(--oak)" },
              ...(gate
                ? [{ values: impulse.map(([, , weight]) => weight), dash: "4 3", colour: "var(--ink)" }]
                : []),
            ]}
          />
        </Saved>
      )}
      {impulse.length > 1 && (
        <div className="flex flex-wrap items-end gap-3 text-xs">
          {gate ? (
            <>
              <QuantityField
                label="Gate from"
                unit="ms"
                value={gate.from_ms}
                min={-500}
                max={5000}
                onChange={(v) => v !== undefined && set({ ...gate, from_ms: v })}
              />
              <QuantityField
                label="Gate to"
                unit="ms"
                value={gate.to_ms}
                min={0.5}
                max={5000}
                onChange={(v) => v !== undefined && set({ ...gate, to_ms: v })}
              />
              <Button onClick={() => set(undefined)}>No gate</Button>
            </>
          ) : (
            <Button onClick={() => set(FRESH)}>Gate it</Button>
          )}
        </div>
      )}
      {wrong && (
        <p role="alert" className="text-brick">
          {wrong}
        </p>
      )}
      {excess && (
        <p className="py-1 text-xs" data-testid="excess">
          Its delay is {excess.delay_ms.toFixed(2)} ms
          {excess.turned && ", its polarity turned: plus and minus are exchanged somewhere"}. What is neither
          that nor minimum phase reaches {Math.abs(excess.most_deg).toFixed(0)}° at {excess.at_hz.toFixed(0)}{" "}
          Hz
          {Math.abs(excess.most_deg) > 20 ? ": there an equaliser cannot mend it." : "."}
        </p>
      )}
      <Distortion harmonics={record.document.harmonics ?? []} />
    </div>
  );
}

function Distortion({ harmonics }: { harmonics: NonNullable<Measurement["harmonics"]> }) {
  const first = harmonics[0];
  if (!first || first.frequency_hz.length < 2) return null;
  // the lowest notes are heard through noise: the range is that of nine in ten points
  const all = harmonics.flatMap((h) => h.percent).sort((a, b) => a - b);
  const top = all[Math.floor(all.length * 0.9)] ?? 1;
  return (
    <Saved
      title="Distortion by order"
      note={harmonics
        .map((h, i) => `${h.order}: ${["full line", "long dashes", "short dashes", "dots"][i]}`)
        .join(", ")}
    >
      <Plot
        x={first.frequency_hz}
        title="share of the tone that makes it"
        unit="%"
        told
        range={[0, roundUp(Math.max(top, 0.1))]}
        height={110}
        ticks={TICKS}
        xUnit="Hz"
        curves={harmonics.map((h, i) => ({
          x: h.frequency_hz,
          values: h.percent.map((p) => (p > roundUp(Math.max(top, 0.1)) ? null : p)),
          colour: COLOURS[i],
          dash: DASHES[i],
        }))}
      />
    </Saved>
  );
}
