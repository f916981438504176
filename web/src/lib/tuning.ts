// What can be pulled at on the frequency axis: each flag's place, and the change that takes it elsewhere.

import type { Design, Evaluation } from "../api/client";
import { at, type Change } from "./pointer";

export type Flag = {
  id: string;
  label: string;
  hz: number;
  /** The changes that move it to another frequency; undefined where nothing can be pulled. */
  to: (hz: number) => Change[];
};

const number = (document: Design, pointer: string): number | undefined => {
  const value = at(document, pointer);
  return typeof value === "number" ? value : undefined;
};

/** Scales a path and what lies along it: woofer, taps, fills, bends. */
function stretched(value: unknown, ratio: number): unknown {
  if (Array.isArray(value)) return value.map((v) => stretched(v, ratio));
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, v]) => [
      key,
      typeof v === "number" && /(^length|_at|_tap|^from|^to|^at)_mm$/.test(key)
        ? Math.round(v * ratio)
        : stretched(v, ratio),
    ]),
  );
}

/** The flags of a design as it was computed. */
export function flagsOf(document: Design, evaluation: Evaluation | undefined): Flag[] {
  if (!evaluation) return [];
  const flags = evaluation.ports.map((port, i): Flag => {
    const sizing = `${port.pointer}/sizing`;
    const wanted = number(document, `${sizing}/tuning_hz`);
    const name = port.pointer.includes("front") ? "front" : port.pointer.includes("rear") ? "rear" : "tune";
    return {
      id: `port-${i}`,
      label: name,
      hz: wanted ?? port.tuning_hz,
      to: (hz) => [{ pointer: sizing, value: { by: "tuning", tuning_hz: round(hz) } }],
    };
  });
  const figure = (id: string) => evaluation.summary.figures.find((f) => f.id === id)?.value;
  const tuning = figure("fb_hz");
  const mass = figure("radiator_mass_g");
  const added = number(document, "/enclosure/radiators/added_mass_g") ?? 0;
  if (tuning && mass) {
    // the tuning falls as the root of the moving mass
    const to = (hz: number) => {
      const value = Math.max(0, Number((added + mass * ((tuning / hz) ** 2 - 1)).toPrecision(3)));
      return [{ pointer: "/enclosure/radiators/added_mass_g", value }];
    };
    flags.push({ id: "radiator", label: "tune", hz: tuning, to });
  }
  const quarter = figure("quarter_hz") ?? tuning;
  if (evaluation.path && quarter && !mass) {
    const to = (hz: number): Change[] => {
      const enclosure = stretched(document.enclosure, quarter / hz);
      return [{ pointer: "/enclosure", value: enclosure }];
    };
    const fixed = at(document, "/enclosure/horn/profile/shape") === "tractrix";
    if (!fixed) flags.push({ id: "path", label: "λ/4", hz: quarter, to });
  }
  return flags;
}

const round = (hz: number) => Number(Math.min(Math.max(hz, 5), 300).toFixed(1));
