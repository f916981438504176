// Lines of equal height over a map of a floor: what d3-contour draws, laid over the room's own measure.

import { contours } from "d3-contour";
import type { RoomMap } from "../../api/client";

export type Shading = "uneven" | "loud" | "low";

/** What a shading tells, and whether much of it is bad. */
export const SHADINGS: Record<
  Shading,
  { title: string; of: (map: RoomMap) => (number | null | undefined)[]; muchIsBad: boolean }
> = {
  uneven: { title: "how uneven", of: (map) => map.uneven_db, muchIsBad: true },
  loud: { title: "how loud", of: (map) => map.loud_db, muchIsBad: false },
  low: { title: "how loud the lowest octave", of: (map) => map.low_db, muchIsBad: false },
};

export type Height = {
  value: number;
  rings: [number, number][][];
  label?: { at: [number, number]; text: string };
};

/** At most so many lines. */
const LINES = 6;

/** Round steps through a stretch of values. */
export function heights(values: readonly (number | null | undefined)[]): number[] {
  const known = values.filter((v): v is number => typeof v === "number");
  if (!known.length) return [];
  const [low, high] = [Math.min(...known), Math.max(...known)];
  const step = [0.1, 0.2, 0.5, 1, 2, 3, 5, 10].find((s) => (high - low) / s <= LINES) ?? 20;
  const list: number[] = [];
  for (let v = Math.ceil(low / step) * step; v < high; v += step) list.push(Number(v.toFixed(1)));
  return list;
}

/** The lines of a map, in metres; where nothing can stand there are none. */
export function lines(map: RoomMap, shading: Shading): Height[] {
  const { of, muchIsBad } = SHADINGS[shading];
  const [columns, rows] = [map.x_m.length, map.y_m.length];
  const sign = muchIsBad ? 1 : -1;
  const values = filled(of(map), columns).map((v) => v * sign);
  const [dx, dy] = [step(map.x_m), step(map.y_m)];
  const place = ([c = 0, r = 0]: number[]): [number, number] => [
    (map.x_m[0] ?? 0) + (c - 0.5) * dx,
    (map.y_m[0] ?? 0) + (r - 0.5) * dy,
  ];
  const labels: [number, number][] = map.best.map((b) => [b.x_m, b.y_m]);
  const apart = 0.06 * ((map.x_m.at(-1) ?? 1) + (map.y_m.at(-1) ?? 1));
  const at = heights(of(map)).map((v) => v * sign);
  at.sort((a, b) => a - b);
  return contours()
    .size([columns, rows])
    .thresholds(at)(values)
    .map(({ value, coordinates }) => {
      const rings = coordinates.flatMap((polygon) => polygon.map((ring) => ring.map(place)));
      const longest = rings.reduce<[number, number][]>((best, r) => (r.length > best.length ? r : best), []);
      const middle = longest
        .filter((at) => clear(map, at) && labels.every(([a, b]) => Math.hypot(a - at[0], b - at[1]) > apart))
        .at(longest.length / 3 > 1 ? Math.floor(longest.length / 7) : 0);
      if (middle) labels.push(middle);
      const text = Math.abs(value).toFixed(Number.isInteger(value) ? 0 : 1);
      return {
        value: value * sign,
        rings,
        ...(middle && { label: { at: middle, text: value * sign < 0 ? `−${text}` : text } }),
      };
    });
}

const step = (places: readonly number[]) => (places[1] ?? 1) - (places[0] ?? 0);

/** The same with every gap as its nearest neighbours are, so that lines run on under what is left blank. */
export function filled(values: readonly (number | null | undefined)[], columns: number): number[] {
  let known = values.map((v) => (typeof v === "number" ? v : undefined));
  if (known.every((v) => v === undefined)) return values.map(() => 0);
  while (known.some((v) => v === undefined))
    known = known.map((v, i) => {
      if (v !== undefined) return v;
      const beside = [
        i % columns ? known[i - 1] : undefined,
        (i + 1) % columns ? known[i + 1] : undefined,
        known[i - columns],
        known[i + columns],
      ].filter((n) => n !== undefined);
      return beside.length ? beside.reduce((a, b) => a + b, 0) / beside.length : undefined;
    });
  return known as number[];
}

/** Whether a label has room there: something can stand all around, and no wall is near. */
function clear(map: RoomMap, [px, py]: [number, number]): boolean {
  const [columns, rows] = [map.x_m.length, map.y_m.length];
  const c = Math.round((px - (map.x_m[0] ?? 0)) / step(map.x_m));
  const r = Math.round((py - (map.y_m[0] ?? 0)) / step(map.y_m));
  for (let dr = -1; dr <= 1; dr++)
    for (let dc = -2; dc <= 2; dc++) {
      const [row, column] = [r + dr, c + dc];
      if (row < 0 || row >= rows || column < 0 || column >= columns) return false;
      if (typeof map.uneven_db[row * columns + column] !== "number") return false;
    }
  return true;
}

/** Where nothing can stand: stretches of fields, row by row, m. */
export function blanks(map: RoomMap): { at: [number, number]; long: [number, number] }[] {
  const columns = map.x_m.length;
  const [dx, dy] = [step(map.x_m), step(map.y_m)];
  return map.y_m.flatMap((y, r) => {
    const list: { at: [number, number]; long: [number, number] }[] = [];
    let from = -1;
    for (let c = 0; c <= columns; c++) {
      const blank = c < columns && typeof map.uneven_db[r * columns + c] !== "number";
      if (blank && from < 0) from = c;
      if (!blank && from >= 0) {
        const low = (map.x_m[from] ?? 0) - dx / 2;
        list.push({ at: [low, y + dy / 2], long: [(c - from) * dx, dy] });
        from = -1;
      }
    }
    return list;
  });
}
