// Plays one piece through several ways of treating it, all in step, and fades from one to the other.

import type { PlayedThrough } from "../api/client";

/** Samples a second at which the sections are made. */
export const RATE = 48_000;
const FADE_S = 0.04;

export class Player {
  private readonly context: AudioContext;
  private source: AudioBufferSourceNode | undefined;
  private ways: GainNode[] = [];
  private readonly pieces = new Map<string, AudioBuffer>();

  constructor() {
    this.context = new AudioContext({ sampleRate: RATE });
  }

  /** A piece that ships, fetched once. */
  async shipped(id: string): Promise<AudioBuffer> {
    const there = this.pieces.get(id);
    if (there) return there;
    const answer = await fetch(`/api/programme/${encodeURIComponent(id)}`);
    if (!answer.ok) throw new Error("The piece could not be fetched.");
    const made = await this.context.decodeAudioData(await answer.arrayBuffer());
    this.pieces.set(id, made);
    return made;
  }

  /** A file of one's own: it stays in this browser. */
  async own(file: Blob): Promise<AudioBuffer> {
    return this.context.decodeAudioData(await file.arrayBuffer());
  }

  /** Plays a piece over and over, heard through one of the ways. */
  async begin(piece: AudioBuffer, through: PlayedThrough[], first: number) {
    this.stop();
    await this.context.resume();
    const source = this.context.createBufferSource();
    source.buffer = piece;
    source.loop = true;
    this.ways = through.map(({ gain, sections }, i) => {
      let last: AudioNode = source;
      for (const [b0, b1, b2, a1, a2] of sections) {
        const section = this.context.createIIRFilter([b0 ?? 1, b1 ?? 0, b2 ?? 0], [1, a1 ?? 0, a2 ?? 0]);
        last = last.connect(section);
      }
      const level = this.context.createGain();
      level.gain.value = gain;
      const open = this.context.createGain();
      open.gain.value = i === first ? 1 : 0;
      last.connect(level).connect(open).connect(this.context.destination);
      return open;
    });
    source.start();
    this.source = source;
  }

  /** Fades over to another way while the piece goes on. */
  turnTo(which: number) {
    const now = this.context.currentTime;
    this.ways.forEach((way, i) => {
      way.gain.cancelScheduledValues(now);
      way.gain.setTargetAtTime(i === which ? 1 : 0, now, FADE_S / 3);
    });
  }

  stop() {
    this.source?.stop();
    this.source?.disconnect();
    this.source = undefined;
    this.ways = [];
  }

  close() {
    this.stop();
    void this.context.close();
  }
}
