// @vitest-environment jsdom

import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { devices, joined, noInputs, peakDb, refusal, SoundCard } from "./soundcard";

/** A context that runs as fast as it is looked at. */
class FakeContext {
  static last: FakeContext;
  state = "running";
  sampleRate: number;
  time = 0;
  stopped = 0;
  played: { start: number; loop: boolean }[] = [];
  gains: number[] = [];
  destination = {};
  audioWorklet = { addModule: () => Promise.resolve() };
  constructor({ sampleRate }: { sampleRate: number }) {
    this.sampleRate = sampleRate;
    FakeContext.last = this;
  }
  get currentTime() {
    return this.time;
  }
  createMediaStreamSource = () => ({ connect: () => undefined, disconnect: () => undefined });
  createBufferSource = () => {
    const one = { loop: false, buffer: null };
    return {
      ...one,
      connect: (to: unknown) => to,
      disconnect: () => undefined,
      start: (at = 0) => this.played.push({ start: at, loop: one.loop }),
      stop: () => this.stopped++,
    };
  };
  createGain = () => ({
    gain: { value: 1, setTargetAtTime: (v: number) => this.gains.push(v) },
    connect: () => undefined,
  });
  decodeAudioData = () => Promise.resolve({ duration: 1 });
  resume = () => Promise.resolve();
  close = () => {
    this.state = "closed";
    return Promise.resolve();
  };
}

let port: { onmessage: ((m: { data: unknown }) => void) | null };
const getUserMedia = vi.fn();

beforeEach(() => {
  vi.useFakeTimers();
  port = { onmessage: null };
  vi.stubGlobal("AudioContext", FakeContext);
  vi.stubGlobal(
    "AudioWorkletNode",
    class {
      port = port;
      connect() {}
    },
  );
  getUserMedia.mockReset().mockResolvedValue({ getTracks: () => [{ stop: () => undefined }] });
  Object.defineProperty(navigator, "mediaDevices", {
    configurable: true,
    value: {
      getUserMedia,
      enumerateDevices: () =>
        Promise.resolve([
          { kind: "audioinput", deviceId: "a", label: "Line in" },
          { kind: "audioinput", deviceId: "b", label: "" },
          { kind: "audiooutput", deviceId: "c", label: "Out" },
        ]),
    },
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
  Reflect.deleteProperty(navigator, "mediaDevices");
});

const block = (from: number, ...channels: number[][]) => ({
  from,
  channels: channels.map((c) => new Float32Array(c)),
});

describe("what came in", () => {
  it("is put together channel by channel, and a gap is told", () => {
    const whole = joined([block(10, [1, 2], [5, 6]), block(12, [3], [7])]);
    expect(whole.map((c) => [...c])).toEqual([
      [1, 2, 3],
      [5, 6, 7],
    ]);
    expect(() => joined([block(10, [1, 2]), block(13, [3])])).toThrow(/lost/);
    expect(() => joined([])).toThrow(/Nothing came in/);
    expect(peakDb(new Float32Array([0.1, -0.5]))).toBeCloseTo(-6.02, 2);
  });

  it("comes from devices by their names", async () => {
    expect(await devices("audioinput")).toEqual([
      { id: "a", name: "Line in" },
      { id: "b", name: "Input 2" },
    ]);
  });

  it("is refused in words one can act on", () => {
    expect(noInputs()).toBeUndefined();
    expect(refusal(new DOMException("", "NotAllowedError"))).toContain("Allow the microphone");
    expect(refusal(new DOMException("", "NotReadableError"))).toContain("another program");
    expect(refusal(new Error("as it is"))).toBe("as it is");
    Reflect.deleteProperty(navigator, "mediaDevices");
    vi.stubGlobal("isSecureContext", false);
    expect(noInputs()).toContain("localhost");
    vi.stubGlobal("isSecureContext", true);
    expect(noInputs()).toContain("no sound inputs");
  });
});

describe("the card", () => {
  const open = async () => {
    const levels: number[][] = [];
    const card = await SoundCard.open("a", "", 44100, (peaks) => levels.push(peaks));
    return { card, levels, context: FakeContext.last };
  };

  it("is asked for its input without any processing, and its levels are told", async () => {
    const { levels } = await open();
    expect(getUserMedia.mock.calls[0]?.[0]).toMatchObject({
      audio: {
        echoCancellation: false,
        noiseSuppression: false,
        autoGainControl: false,
        deviceId: { exact: "a" },
      },
    });
    port.onmessage?.({ data: block(0, [0.5], [0]) });
    expect(levels[0]?.[0]).toBeCloseTo(-6.02, 2);
  });

  it("records from before the sweep to after it, what came while it settled left out", async () => {
    const { card, context } = await open();
    const shares: number[] = [];
    const { signal } = new AbortController();
    const recording = card.record(new ArrayBuffer(8), { signal, onShare: (s) => shares.push(s) });
    await vi.advanceTimersByTimeAsync(0);
    expect(context.played[0]?.start).toBeCloseTo(0.5);
    port.onmessage?.({ data: block(100, [9]) });
    port.onmessage?.({ data: block(44100 * 0.3, [0.1, 0.2]) });
    context.time = 1.05;
    await vi.advanceTimersByTimeAsync(100);
    expect(shares.at(-1)).toBeCloseTo(0.5);
    port.onmessage?.({ data: block(44100 * 0.3 + 2, [0.3]) });
    context.time = 2.2;
    await vi.advanceTimersByTimeAsync(100);
    expect([...((await recording)[0] ?? [])].map((x) => x.toFixed(1))).toEqual(["0.1", "0.2", "0.3"]);
  });

  it("throws away a recording in which the browser itself counted a loss", async () => {
    const stats = { totalFrames: 100, deliveredFrames: 90 };
    getUserMedia.mockResolvedValue({
      getTracks: () => [{ stop: () => undefined }],
      getAudioTracks: () => [{ stats }],
    });
    const { card, context } = await open();
    const { signal } = new AbortController();
    const take = async () => {
      context.time = 0;
      const recording = card.record(new ArrayBuffer(8), { signal, onShare: () => undefined });
      const outcome = recording.then(
        () => "kept",
        (cause: Error) => cause.message,
      );
      await vi.advanceTimersByTimeAsync(0);
      port.onmessage?.({ data: block(44100, [0.1]) });
      context.time = 0.3;
      await vi.advanceTimersByTimeAsync(100);
      context.time = 2.2;
      return { outcome };
    };
    // what was lost before it began does not count
    const first = await take();
    await vi.advanceTimersByTimeAsync(100);
    expect(await first.outcome).toBe("kept");
    const second = await take();
    stats.totalFrames += 48;
    await vi.advanceTimersByTimeAsync(100);
    expect(await second.outcome).toContain("Samples were lost");
  });

  it("stops when it is told to, and when the output does", async () => {
    const { card, context } = await open();
    const stop = new AbortController();
    const first = card.record(new ArrayBuffer(8), { signal: stop.signal, onShare: () => undefined });
    const told = expect(first).rejects.toThrow("stopped");
    await vi.advanceTimersByTimeAsync(150);
    stop.abort();
    await told;
    expect(context.stopped).toBe(1);
    const { signal } = new AbortController();
    const second = card.record(new ArrayBuffer(8), { signal, onShare: () => undefined });
    const silent = expect(second).rejects.toThrow(/output stopped/);
    context.state = "suspended";
    await vi.advanceTimersByTimeAsync(150);
    await silent;
  });

  it("plays round and round at a level, and ends in silence", async () => {
    const { card, context } = await open();
    const loop = await card.loop(new ArrayBuffer(8), -40);
    loop.set(-20);
    loop.stop();
    expect(context.gains.map((g) => g.toFixed(3))).toEqual(["0.010", "0.100", "0.000"]);
    await card.close();
    expect(context.state).toBe("closed");
  });

  it("that cannot be opened leaves nothing behind", async () => {
    getUserMedia.mockRejectedValue(new DOMException("", "NotFoundError"));
    await expect(SoundCard.open("", "", 48000, () => undefined)).rejects.toThrow();
    expect(FakeContext.last.state).toBe("closed");
  });
});
