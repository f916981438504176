import { useEffect, useState } from "react";
import { useAnswer } from "../../../api/answer";
import { api, get, type Motion } from "../../../api/client";
import { useDocument } from "../../../workbench/context";

export type Swing = Motion["cone"];

/** Everything in a section that moves, at one instant: displacements turned into offsets on the drawing. */
export type Moving = {
  /** Offset of a displacement, in units of the drawing. */
  offset: (swing: Swing | undefined) => number;
  motion: Motion | undefined;
};

export const STILL: Moving = { offset: () => 0, motion: undefined };

const LARGEST = 9;
const SECONDS_A_CYCLE = 2.4;

export const prefersStillness = () => matchMedia("(prefers-reduced-motion: reduce)").matches;

/** What moves at a frequency, computed by the server; asked for again when the design or the frequency is another. */
export function useMotion(frequency: number, on: boolean): Motion | undefined {
  const document = useDocument();
  const body = { document, frequency_hz: frequency };
  const ask = (signal: AbortSignal) => get(api.POST("/api/motion", { body, signal }));
  const motion = useAnswer("motion", on ? body : undefined, ask, 80);
  return on ? motion : undefined;
}

/** The phase of a slow cycle, in turns; stands still unless it runs. */
export function usePhase(running: boolean): [number, (turns: number) => void] {
  const [phase, setPhase] = useState(0);
  useEffect(() => {
    if (!running) return;
    let frame = 0;
    let before: number | undefined;
    const step = (now: number) => {
      const passed = before === undefined ? 0 : (now - before) / 1000;
      before = now;
      setPhase((p) => (p + passed / SECONDS_A_CYCLE) % 1);
      frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, [running]);
  return [phase, setPhase];
}

const size = (s: Swing) => Math.hypot(s.re_mm, s.im_mm);

/** The largest displacement of all that is drawn, mm. */
export function largest(motion: Motion): number {
  const all = [motion.cone, ...motion.openings.map((o) => o.swing), ...motion.path.map((p) => p.swing)];
  return Math.max(...all.map(size), 1e-9);
}

/** All displacements at a phase (turns), on one scale: the largest of them swings by nine units of the drawing. */
export function moving(motion: Motion | undefined, phase: number): Moving {
  if (!motion) return STILL;
  const scale = LARGEST / largest(motion);
  const [cos, sin] = [Math.cos(2 * Math.PI * phase), Math.sin(2 * Math.PI * phase)];
  return {
    motion,
    offset: (s) => (s ? (s.re_mm * cos - s.im_mm * sin) * scale : 0),
  };
}

export const strokeOf = (s: Swing | undefined) => (s ? size(s) : 0);
