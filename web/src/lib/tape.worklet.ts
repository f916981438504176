// Runs in the browser's audio thread: hands on what comes in, some thousand samples at a time, with the frame it began at.

declare const currentFrame: number;
declare function registerProcessor(name: string, made: new () => object): void;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}

/** Quanta of the audio thread that are handed on together. */
const TOGETHER = 16;

class Tape extends AudioWorkletProcessor {
  private held: Float32Array[][] = [];
  private from = 0;

  process([input]: Float32Array[][]) {
    const first = input?.[0];
    if (!input || !first) {
      // nothing is connected: what was begun has no end
      this.held = [];
      return true;
    }
    if (!this.held.length) this.from = currentFrame;
    this.held.push(input.map((channel) => channel.slice()));
    if (this.held.length < TOGETHER) return true;
    const length = first.length;
    const channels = input.map((_, k) => {
      const whole = new Float32Array(length * this.held.length);
      this.held.forEach((quantum, i) => whole.set(quantum[k] ?? new Float32Array(length), i * length));
      return whole;
    });
    this.port.postMessage({ from: this.from, channels });
    this.held = [];
    return true;
  }
}

registerProcessor("tape", Tape);
