// Axes of plots: where a value lies, which value lies there, and a curve's way between two of them.

export type Axis = {
  at: (value: number) => number;
  back: (place: number) => number;
  /** Whether a value lies between its bounds. */
  holds: (value: number) => boolean;
};

/** An axis on which values between two bounds lie between two places; what lies outside is drawn at the nearer bound. */
export function axis([low, high]: [number, number], [from, to]: [number, number], log = false): Axis {
  const flat = (v: number) => (log ? Math.log(Math.max(v, low * 1e-6)) : v);
  const span = flat(high) - flat(low) || 1;
  const held = (share: number) => Math.min(Math.max(share, 0), 1);
  return {
    at: (value) => from + held((flat(value) - flat(low)) / span) * (to - from),
    back: (place) => {
      const there = flat(low) + held((place - from) / (to - from)) * span;
      return log ? Math.exp(there) : there;
    },
    holds: (value) => value >= low && value <= high,
  };
}

/** A curve in a plot: only what lies along the axis, and of what leaves the plot above or below the first step outside. */
export function trace(
  x: readonly number[],
  values: readonly (number | null | undefined)[],
  [across, up]: [Axis, Axis],
  [low, high]: [number, number],
): string | undefined {
  let text = "";
  let pen = false;
  let before: string | undefined;
  values.forEach((v, i) => {
    const f = x[i];
    if (typeof v !== "number" || f === undefined || f < low || f > high) {
      pen = false;
      before = undefined;
      return;
    }
    const place = `${across.at(f).toFixed(1)} ${up.at(v).toFixed(1)}`;
    const inside = up.holds(v);
    if (inside && !pen && before) text += `M${before}`;
    if (inside) text += `${pen || before ? "L" : "M"}${place}`;
    else if (pen) text += `L${place}`;
    pen = inside;
    before = place;
  });
  return text || undefined;
}

/** The ground between two curves, held to the plot. */
export function ground(
  x: readonly number[],
  from: readonly number[],
  to: readonly number[],
  [across, up]: [Axis, Axis],
): string | undefined {
  const side = (values: readonly number[]) =>
    values.map((v, i) => `${across.at(x[i] ?? NaN).toFixed(1)} ${up.at(v).toFixed(1)}`);
  return x.length ? `M${[...side(from), ...side(to).reverse()].join("L")}Z` : undefined;
}

/** Places moved up where they would lie closer together than so much, in their order. */
export function apart(places: readonly number[], least: number): number[] {
  const moved = [...places];
  let below = Infinity;
  for (const i of places.map((_, i) => i).sort((a, b) => (places[b] ?? 0) - (places[a] ?? 0))) {
    below = Math.min(places[i] ?? 0, below - least);
    moved[i] = below;
  }
  return moved;
}

/** Where a frequency axis is marked, Hz. */
export const HERTZ = [10, 20, 30, 50, 100, 200, 300, 500, 1000];

/** A round number above a value: 1, 1.5, 2, 3, 5 or 7.5 times a power of ten. */
export function roundUp(value: number): number {
  if (!(value > 0)) return 1;
  const power = 10 ** Math.floor(Math.log10(value));
  const step = [1, 1.5, 2, 3, 5, 7.5, 10].find((s) => s * power >= value * 0.999) ?? 10;
  return Number((step * power).toPrecision(3));
}

/** Levels from a round five decibels above the highest, so far down. */
export function levels(highest: number, down: number): [number, number] {
  const top = Math.ceil((highest + 1) / 5) * 5;
  return [top - down, top];
}
