import { useSyncExternalStore } from "react";
import {
  Refused,
  type MeasurementRecord,
  type Problem,
  type RecordingWish,
  type Taken,
} from "../../api/client";
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

const sweepAddress = (wish: RecordingWish, stereo: boolean) =>
  `/api/sweep?stereo=${stereo}&sweep=${encodeURIComponent(JSON.stringify(wish.sweep))}`;

/** The sweep, in one channel or two; what is wrong with it is said at its fields. */
export async function fetchSweep(wish: RecordingWish, stereo: boolean, signal?: AbortSignal) {
  try {
    const sound = await fetchSound(sweepAddress(wish, stereo), signal);
    setting.say(undefined);
    return sound;
  } catch (cause) {
    if (cause instanceof Refused)
      setting.say(cause.problem?.errors?.map((e) => ({ ...e, pointer: `/wish${e.pointer}` })));
    throw cause;
  }
}

/** Where a steady sound is fetched. */
export const steadyAddress = (signal: object, rate: number) =>
  `/api/steady?rate_hz=${rate}&signal=${encodeURIComponent(JSON.stringify(signal))}`;

/** Channels as a place wants them: by the jig two, the voltage before its resistor first, where the builder said nothing else. */
export const channelsFor = (wish: RecordingWish, jig: boolean): RecordingWish =>
  jig && !wish.loopback ? { ...wish, channel: 2, loopback: 1 } : wish;

/** Fetches sound the server makes. */
export async function fetchSound(address: string, signal?: AbortSignal): Promise<ArrayBuffer> {
  const answer = await fetch(address, signal ? { signal } : {});
  if (!answer.ok) throw new Refused((await answer.json()) as Problem);
  return answer.arrayBuffer();
}

/** Sends a recording to be taken apart and kept; what is wrong with it is said at the fields too. */
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
  setting.say(answer.ok ? undefined : made.errors);
  if (!answer.ok) throw new Refused(made);
  return made;
}
