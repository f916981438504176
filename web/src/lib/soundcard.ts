// This computer's own sound card, as the browser gives it: devices, levels, a recording while something is played. What is recorded
// is taken apart by the server's core, like any file.

import tapeUrl from "./tape.worklet.ts?worker&url";

/** Samples of each channel that came in, full scale being 1. */
export type Samples = Float32Array<ArrayBuffer>[];
type Block = { from: number; channels: Samples };

/** Recorded before what is played begins, and after it ended, s. */
const BEFORE = 0.5;
/** An input that was just opened settles for so long, s: what came in until then is left out. */
const SETTLES = 0.2;
const AFTER = 0.6;

/** Time in which a level comes up or down, s. */
const FADES = 0.15;

const LOST = "Samples were lost on the way in: close other programs and take it again.";
const SILENT = "The sound output stopped: is the device there, and not in use by another program?";

/** Why no input can be had, in words one can act on; nothing where it may be tried. */
export function noInputs(): string | undefined {
  // absent where the page is not served securely, whatever the types say
  if ("mediaDevices" in navigator && "AudioWorkletNode" in window) return undefined;
  return window.isSecureContext
    ? "This browser gives a page no sound inputs. Save the sweep as a file, and bring the recording back."
    : "A browser gives its inputs only to a page served by this same computer (localhost) or over https. Open the program so, or save the sweep as a file and bring the recording back.";
}

/** What the browser said when it gave no input, in words. */
export function refusal(cause: unknown): string {
  const name = cause instanceof DOMException ? cause.name : "";
  if (name === "NotAllowedError")
    return "The browser was not allowed to listen. Allow the microphone for this page (beside its address), then try again.";
  if (name === "NotFoundError" || name === "OverconstrainedError")
    return "No sound input was found. Is it plugged in, and not in use by another program?";
  if (name === "NotReadableError")
    return "The input is in use by another program, or the system does not give it.";
  return cause instanceof Error ? cause.message : "The input could not be opened.";
}

export type Device = { id: string; name: string };

/** Inputs or outputs, by name; names are known once an input was opened. */
export async function devices(kind: "audioinput" | "audiooutput"): Promise<Device[]> {
  const all = await navigator.mediaDevices.enumerateDevices();
  return all
    .filter((d) => d.kind === kind)
    .map((d, i) => ({
      id: d.deviceId,
      name: d.label || `${kind === "audioinput" ? "Input" : "Output"} ${i + 1}`,
    }));
}

/** The largest sample of a block, in dB of full scale. */
export const peakDb = (channel: Float32Array) =>
  20 * Math.log10(channel.reduce((most, x) => Math.max(most, Math.abs(x)), 1e-6));

/** Blocks one after another as whole channels. @throws where samples are missing between two. */
export function joined(blocks: Block[]): Samples {
  const first = blocks[0];
  if (!first) throw new Error("Nothing came in from the input.");
  const width = Math.min(...blocks.map((b) => b.channels.length));
  const lengths = blocks.map((b) => b.channels[0]?.length ?? 0);
  blocks.forEach((b, i) => {
    const before = blocks[i - 1];
    if (before && b.from !== before.from + (lengths[i - 1] ?? 0)) throw new Error(LOST);
  });
  const total = lengths.reduce((sum, n) => sum + n, 0);
  return Array.from({ length: width }, (_, k) => {
    const whole = new Float32Array(total);
    let at = 0;
    blocks.forEach((b, i) => {
      const channel = b.channels[k];
      if (channel) whole.set(channel, at);
      at += lengths[i] ?? 0;
    });
    return whole;
  });
}

/** What goes round: its level can be changed, and it can be ended. */
export type Loop = { set: (db: number) => void; stop: () => void };

/** Plays a file round and round at a level (dB of full scale), faded in. */
async function looped(context: AudioContext, wav: ArrayBuffer, db: number): Promise<Loop> {
  const player = context.createBufferSource();
  player.buffer = await context.decodeAudioData(wav);
  player.loop = true;
  const gain = context.createGain();
  gain.gain.value = 0;
  player.connect(gain).connect(context.destination);
  player.start();
  const to = (level: number) => gain.gain.setTargetAtTime(level, context.currentTime, FADES);
  to(10 ** (db / 20));
  return {
    set: (next) => to(10 ** (next / 20)),
    stop: () => {
      to(0);
      player.stop(context.currentTime + 6 * FADES);
    },
  };
}

/** Plays a file round and round without any input; ended, its output is given back. */
export async function playAlone(wav: ArrayBuffer, rate: number, db: number): Promise<Loop> {
  const context = new AudioContext({ sampleRate: rate });
  const loop = await looped(context, wav, db);
  await context.resume();
  return {
    set: loop.set,
    stop: () => {
      loop.stop();
      setTimeout(() => void context.close(), 8000 * FADES);
    },
  };
}

/** What newer browsers count of themselves. */
type Counting = { totalFrames: number; deliveredFrames: number };
type Playback = { underrunEvents?: number; fallbackFramesEvents?: number };

/** An opened input with its context. */
export class SoundCard {
  private stream: MediaStream | undefined;
  private source: MediaStreamAudioSourceNode | undefined;
  private blocks: Block[] | undefined;

  private constructor(
    private readonly context: AudioContext,
    private readonly tape: AudioWorkletNode,
    private readonly input: string,
    onLevels: (peaks: number[]) => void,
  ) {
    tape.port.onmessage = ({ data }: MessageEvent<Block>) => {
      this.blocks?.push(data);
      onLevels(data.channels.map(peakDb));
    };
  }

  /** Opens an input ("" is the usual one) at a rate, without any processing. */
  static async open(
    input: string,
    output: string,
    rate: number,
    onLevels: (peaks: number[]) => void,
  ): Promise<SoundCard> {
    const context = new AudioContext({ sampleRate: rate });
    try {
      await context.audioWorklet.addModule(tapeUrl);
      const tape = new AudioWorkletNode(context, "tape", {
        numberOfOutputs: 1,
        channelCountMode: "max",
        channelInterpretation: "discrete",
      });
      // drawn on only while it leads somewhere; what it lets out is silence
      tape.connect(context.destination);
      const card = new SoundCard(context, tape, input, onLevels);
      await card.listen();
      await context.resume();
      if (output && "setSinkId" in context)
        await (context as unknown as { setSinkId: (id: string) => Promise<void> }).setSinkId(output);
      return card;
    } catch (cause) {
      await context.close();
      throw cause;
    }
  }

  private async listen() {
    this.deaf();
    const plain = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };
    const wish = { ...plain, channelCount: { ideal: 2 }, sampleRate: { ideal: this.context.sampleRate } };
    this.stream = await navigator.mediaDevices.getUserMedia({
      audio: this.input ? { ...wish, deviceId: { exact: this.input } } : wish,
    });
    this.source = this.context.createMediaStreamSource(this.stream);
    this.source.connect(this.tape);
  }

  /** What was lost so far, on the way in or on the way out, where the browser counts it. */
  private lost(): number {
    const track = this.stream?.getAudioTracks?.()[0] as { stats?: Counting } | undefined;
    const { playbackStats } = this.context as { playbackStats?: Playback };
    const into = track?.stats ? track.stats.totalFrames - track.stats.deliveredFrames : 0;
    return into + (playbackStats?.underrunEvents ?? playbackStats?.fallbackFramesEvents ?? 0);
  }

  private deaf() {
    this.source?.disconnect();
    this.stream?.getTracks().forEach((track) => track.stop());
  }

  /** Plays a file once, its samples as they are, and gives back what came in meanwhile. Stops when it is told to. */
  async record(
    wav: ArrayBuffer,
    { signal, onShare }: { signal: AbortSignal; onShare: (share: number) => void },
  ): Promise<Samples> {
    const buffer = await this.context.decodeAudioData(wav);
    // opened afresh: what was in the browser's buffers belongs to the time before
    await this.listen();
    const player = this.context.createBufferSource();
    player.buffer = buffer;
    player.connect(this.context.destination);
    this.blocks = [];
    const whole = BEFORE + buffer.duration + AFTER;
    const began = this.context.currentTime;
    let before: number | undefined;
    player.start(began + BEFORE);
    try {
      await new Promise<void>((done, stopped) => {
        const look = setInterval(() => {
          if (this.context.state !== "running") {
            clearInterval(look);
            stopped(new Error(SILENT));
            return;
          }
          const share = (this.context.currentTime - began) / whole;
          // what is lost while the input settles is not heard
          if (before === undefined && share * whole >= SETTLES) before = this.lost();
          onShare(Math.min(share, 1));
          if (share >= 1) {
            clearInterval(look);
            done();
          }
        }, 100);
        signal.addEventListener("abort", () => {
          clearInterval(look);
          stopped(new DOMException("stopped", "AbortError"));
        });
      });
      if (this.lost() > (before ?? 0)) throw new Error(LOST);
      const settled = (began + SETTLES) * this.context.sampleRate;
      return joined(this.blocks.filter((b) => b.from >= settled));
    } finally {
      this.blocks = undefined;
      player.stop();
      player.disconnect();
    }
  }

  /** Plays a file round and round at a level (dB of full scale). */
  loop(wav: ArrayBuffer, db: number) {
    return looped(this.context, wav, db);
  }

  get rate() {
    return this.context.sampleRate;
  }

  async close() {
    this.deaf();
    this.tape.port.onmessage = null;
    await this.context.close();
  }
}
