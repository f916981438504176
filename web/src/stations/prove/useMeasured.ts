import { useQuery } from "@tanstack/react-query";
import { useEffect, useSyncExternalStore } from "react";
import { useAnswer } from "../../api/answer";
import { api, get, type MeasurementRecord, type Proof } from "../../api/client";
import { measurements } from "../../api/queries";
import { RESTED_MS } from "../../workbench/asker";
import { useDocument, usePart } from "../../workbench/context";

/** Most that are held against the design at once. */
export const AT_ONCE = 12;

// which measurements are left out, by their keys: what is new is laid on
let leftOut: ReadonlySet<string> = new Set();
const listeners = new Set<() => void>();

/** Lays a measurement on the prediction, or takes it off. */
export function lay(id: string, on: boolean) {
  const next = new Set(leftOut);
  if (on) next.delete(id);
  else next.add(id);
  leftOut = next;
  listeners.forEach((listener) => listener());
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};
const useLeftOut = () => useSyncExternalStore(subscribe, () => leftOut);

// whether the box is fitted with its woofer
let wooferToo = false;

/** Fits the box with its woofer, or with the woofer held. */
export function fitWooferToo(on: boolean) {
  wooferToo = on;
  listeners.forEach((listener) => listener());
}

export const useWooferToo = () => useSyncExternalStore(subscribe, () => wooferToo);

// how far each was off when it was held against the model last, dB rms
let lastOff: ReadonlyMap<string, number> = new Map();

/** How far a measurement was off when it was held against the model last, dB rms; nothing before. */
export const useLastOff = (id: string | undefined) =>
  useSyncExternalStore(subscribe, () => (id === undefined ? undefined : lastOff.get(id)));

const NONE: MeasurementRecord[] = [];

/** What was measured at this build, and which of it is laid on the prediction. */
export function useMeasured() {
  const build = usePart((b) => b.build.id);
  const { data, isPending, error } = useQuery(measurements(build));
  const off = useLeftOut();
  const list = data ?? NONE;
  const laid = list.filter((m) => !off.has(m.id)).slice(-AT_ONCE);
  return { build, list, laid, isPending, error };
}

/** What is laid on held against the current design: how far off, why, what to do. */
export function useProof(): Proof | undefined {
  const { laid } = useMeasured();
  const document = useDocument();
  const ids = laid.map((m) => m.id);
  // what was done to a measurement is part of the question
  const woofer_too = useWooferToo();
  const about = ids.length ? { document, ids, versions: laid.map((m) => m.version), woofer_too } : undefined;
  const ask = (signal: AbortSignal) =>
    get(
      api.POST("/api/prove", { body: { document, measurements: ids, woofer_too }, signal }),
    ) as Promise<Proof>;
  const proof = useAnswer("proof", about, ask, RESTED_MS);
  const answered = ids.length && proof?.measured.length === ids.length ? proof : undefined;
  useEffect(() => {
    if (!answered) return;
    const next = new Map(lastOff);
    for (const { id, deviation } of answered.measured) if (deviation) next.set(id, deviation.rms_db);
    lastOff = next;
    listeners.forEach((listener) => listener());
  }, [answered]);
  return answered;
}
