import { useSyncExternalStore } from "react";
import type { MeasurementRecord, Problem, RecordingWish, Taken } from "../../api/client";
import { recordingSchema } from "../../lib/schema";
import { Draft } from "../../ui/form";

const KEY = "oak-drum.tape";

/** How one plays and records here: the sweep, which channel is which, the jig. Kept in this browser. */
export type Setting = { wish: RecordingWish };

const FRESH: RecordingWish = {
  sweep: {
    from_hz: 5,
    to_hz: 1000,
    seconds: 6,
    rate_hz: 48000,
    amplitude: 0.5,
    silence_s: 0.5,
    tail_s: 1,
    times: 1,
  },
  channel: 1,
  loopback: null,
  reference_ohm: 22,
  leads_ohm: 0,
};

function stored(): RecordingWish {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? "{}") as Partial<RecordingWish>;
    return { ...FRESH, ...kept, sweep: { ...FRESH.sweep, ...kept.sweep } };
  } catch {
    return FRESH;
  }
}

export const setting = new Draft<Setting>(
  { properties: { wish: recordingSchema }, required: ["wish"] },
  { wish: stored() },
  0,
  ({ wish }) => localStorage.setItem(KEY, JSON.stringify(wish)),
);

export const useSetting = () => useSyncExternalStore(setting.subscribe, setting.document).wish;

/** Where the sweep is fetched, in one channel or two. */
export const sweepAddress = (wish: RecordingWish, stereo: boolean) =>
  `/api/sweep?stereo=${stereo}&sweep=${encodeURIComponent(JSON.stringify(wish.sweep))}`;

/** Channels as a place wants them: by the jig two, the voltage before its resistor first, where the builder said nothing else. */
export const channelsFor = (wish: RecordingWish, jig: boolean): RecordingWish =>
  jig && !wish.loopback ? { ...wish, channel: 2, loopback: 1 } : wish;

/** What is said of a refused recording: the sentence, and the fields it belongs to. */
export class Refusal extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

/** Sends a recording to be taken apart and kept. */
export async function keepRecording(
  build: string,
  revision: string,
  body: Blob,
  about: { name: string; taken: Taken },
  more: { wish: RecordingWish; file?: string; impulse?: boolean; signal?: AbortSignal },
): Promise<MeasurementRecord> {
  const { wish, file, impulse, signal } = more;
  const asked = { ...wish, ...(impulse && { sweep: null }), about };
  const query = new URLSearchParams({ wish: JSON.stringify(asked), revision, ...(file && { file }) });
  const answer = await fetch(`/api/builds/${build}/measurements/recording?${query}`, {
    method: "POST",
    body,
    headers: { "content-type": "audio/wav" },
    ...(signal && { signal }),
  });
  const made = (await answer.json()) as MeasurementRecord & Problem;
  if (!answer.ok) throw new Refusal(made);
  return made;
}
