import { useState } from "react";
import { api, get, type MeasurementRecord } from "../../api/client";
import { Button } from "../../ui/Button";
import { Disclosure } from "../../ui/Disclosure";
import { QuantityField } from "../../ui/QuantityField";
import { Select } from "../../ui/Select";
import { useCurrentPart, useDocument } from "../../workbench/context";
import { Kept, useKeeping } from "./useKeeping";

const HOW: [string, string, string][] = [
  [
    "sum",
    "near fields summed",
    "Cone, port and passive radiator, each with its area, as the far field in front of the box.",
  ],
  ["splice", "near and far spliced", "The near field below, the far field above a frequency."],
  ["repeats", "mean of repeats", "The same thing measured again and again: signal over noise comes of it."],
  ["average", "average of places", "The mean power of several places, without a phase."],
];

/** Makes one measurement of those that are laid on. */
export function Combine({ build, laid }: { build: string; laid: MeasurementRecord[] }) {
  const document = useDocument();
  const revision = useCurrentPart((r) => r.id);
  const keeping = useKeeping();
  const [kind, setKind] = useState("sum");
  const [distance, setDistance] = useState(1);
  const [at, setAt] = useState(200);
  if (laid.length < 2) return null;
  const combine = () =>
    keeping.keep(() => {
      const how = {
        kind,
        ...(kind === "sum" && { distance_m: distance }),
        ...(kind === "splice" && { at_hz: at }),
      };
      const body = { document, measurements: laid.map((m) => m.id), how: how as never, revision };
      return get(
        api.POST("/api/builds/{id}/measurements/combined", { params: { path: { id: build } }, body }),
      );
    });
  return (
    <Disclosure title="Combine what is laid on" offers indented>
      <p className="flex flex-wrap items-baseline gap-2 py-1">
        <Select label="How they are combined" value={kind} choices={HOW} onChange={setKind} />
      </p>
      <p className="text-xs text-soft">{HOW.find(([id]) => id === kind)?.[2]}</p>
      {kind === "sum" && (
        <QuantityField
          label="Told for"
          unit="m"
          value={distance}
          min={0.1}
          max={100}
          onChange={(v) => setDistance(v ?? 1)}
        />
      )}
      {kind === "splice" && (
        <QuantityField
          label="At"
          unit="Hz"
          value={at}
          min={20}
          max={5000}
          onChange={(v) => setAt(v ?? 200)}
        />
      )}
      <p className="py-1">
        <Button look="action" disabled={keeping.busy} onClick={() => void combine()}>
          Combine {laid.length} measurements
        </Button>
      </p>
      <Kept keeping={keeping} build={build} />
    </Disclosure>
  );
}
