import { useEffect, useRef, useState } from "react";
import { api, get, Refused, type Measurement, type MeasurementRecord } from "../../api/client";
import { useSay } from "../../app/settings";

/** Saves a measurement, one save after another, each made from what the one before left; what went wrong in words. */
export function useSaving(record: MeasurementRecord, changed: () => Promise<void>) {
  const say = useSay();
  const [wrong, setWrong] = useState("");
  const now = useRef(record);
  const last = useRef(Promise.resolve());
  useEffect(() => {
    if (record.version >= now.current.version) now.current = record;
  }, [record]);
  const save = (change: (document: Measurement) => Measurement) => {
    const next = async () => {
      setWrong("");
      const { id, version, document } = now.current;
      try {
        const params = { path: { id } };
        const body = { base_version: version, document: change(document) };
        now.current = await get(api.PUT("/api/measurements/{id}", { params, body }));
      } catch (cause) {
        const problem = cause instanceof Refused ? cause.problem : undefined;
        const first = problem?.errors?.[0]?.message;
        if (problem?.status === 409)
          setWrong("It was changed elsewhere meanwhile; this is how it stands now.");
        else setWrong((first && say(first)) || problem?.detail || "Not kept: the server does not answer.");
      }
      await changed();
    };
    last.current = last.current.then(next, next);
    return last.current;
  };
  return { save, wrong };
}
