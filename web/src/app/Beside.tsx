import { Suspense } from "react";
import { Link, useParams } from "react-router";
import { Lanes } from "../lanes/Lanes";
import { STATIONS, type Station } from "../stations/stations";
import { Guarded } from "../ui/Guarded";
import { Select } from "../ui/Select";
import { Live } from "../workbench/context";
import { change, useSettings } from "./settings";

const CURVES = "curves";
const NOTHING = "nothing";

/** What stands beside a station on a wide page: the curves, another station, or nothing; the curves not twice. */
export function useBeside(here: Station): string {
  const { beside } = useSettings();
  const curvesAlready = !here.Picture || here.withCurves;
  if (beside === here.id || (beside === CURVES && curvesAlready)) return NOTHING;
  return beside === CURVES || STATIONS.some((s) => s.id === beside) ? beside : NOTHING;
}

/** A second station, or the curves, beside the one that is worked at. */
export function Beside({ what }: { what: string }) {
  const station = STATIONS.find((s) => s.id === what);
  return (
    <section
      aria-label={station ? `Beside it: ${station.title}` : "Curves"}
      className="flex min-h-0 min-w-0 flex-col border-l border-rule px-3 py-2 contain-content"
    >
      <BesideChoice station={station} />
      <div className="min-h-0 flex-1 overflow-y-auto">
        <Guarded what={station?.title ?? "The curves"}>
          <Suspense fallback={<p className="p-2 text-soft">Opening…</p>}>
            <Live>{station ? station.Picture ? <station.Picture /> : <station.Inputs /> : <Lanes />}</Live>
          </Suspense>
        </Guarded>
      </div>
    </section>
  );
}

/** Chooses what stands there. */
export function BesideChoice({ station }: { station?: Station | undefined }) {
  const { beside } = useSettings();
  const { id } = useParams();
  return (
    <p className="flex items-baseline gap-2 pb-1 text-soft">
      <span>Beside it</span>
      <Select
        label="Beside it"
        value={beside}
        choices={[
          [CURVES, "the curves"],
          ...STATIONS.map((s): [string, string] => [s.id, s.title]),
          [NOTHING, "nothing"],
        ]}
        onChange={(v) => change({ beside: v })}
      />
      <span className="flex-1" />
      {station && (
        <Link to={`/builds/${id}/${station.id}`} className="text-oak underline">
          go there
        </Link>
      )}
    </p>
  );
}
