import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { Refused, type MeasurementRecord } from "../../api/client";
import { measurements } from "../../api/queries";
import { useSay } from "../../app/settings";
import { usePart } from "../../workbench/context";

export type Keeping = {
  busy: boolean;
  /** What was kept last. */
  made: MeasurementRecord | undefined;
  wrong: string;
  keep: (take: () => Promise<MeasurementRecord>) => Promise<void>;
};

/** Something that takes its time and becomes a measurement, or says why not. */
export function useKeeping(): Keeping {
  const build = usePart((b) => b.build.id);
  const client = useQueryClient();
  const say = useSay();
  const [busy, setBusy] = useState(false);
  const [made, setMade] = useState<MeasurementRecord>();
  const [wrong, setWrong] = useState("");
  const keep = async (take: () => Promise<MeasurementRecord>) => {
    setBusy(true);
    setWrong("");
    setMade(undefined);
    try {
      const kept = await take();
      await client.invalidateQueries(measurements(build));
      setMade(kept);
    } catch (cause) {
      const problem = cause instanceof Refused ? cause.problem : undefined;
      const first = problem?.errors?.[0]?.message;
      const stopped = cause instanceof DOMException && cause.name === "AbortError";
      const unreached = cause instanceof TypeError || (cause instanceof Refused && !problem);
      if (stopped) setWrong("Stopped; nothing was kept.");
      else if (unreached) setWrong("The server does not answer; nothing was kept.");
      else setWrong((first && say(first)) ?? problem?.detail ?? (cause as Error).message);
    } finally {
      setBusy(false);
    }
  };
  return { busy, made, wrong, keep };
}

/** What came of it. */
export function Kept({ keeping, build }: { keeping: Keeping; build: string }) {
  const { made, wrong } = keeping;
  return (
    <>
      <p role="status">
        {made && (
          <>
            {made.document.about?.name || "It"}: kept.{" "}
            {made.document.peak_dbfs !== undefined && made.document.peak_dbfs !== null && (
              <>Its peak is {made.document.peak_dbfs.toFixed(1)} dB of full scale. </>
            )}
            <Link className="text-oak underline" to={`/builds/${build}/prove`}>
              See it on the prediction
            </Link>
          </>
        )}
      </p>
      {wrong && (
        <p role="alert" className="border-l-2 border-brick pl-2 text-brick">
          {wrong}
        </p>
      )}
    </>
  );
}
