import { describe, expect, it } from "vitest";
import { Vector3, type BufferGeometry } from "three";
import type { CabinetBoard } from "../../api/client";
import { geometry } from "./mesh";

type Part = {
  at?: number[];
  u?: number[];
  v?: number[];
  outline: object;
  holes?: object[];
  thickness_mm?: number;
};

/** A board that lies as a baffle does: across, up, its face to the front. */
const board = ({
  at = [0, 0, 0],
  u = [1, 0, 0],
  v = [0, 1, 0],
  outline,
  holes = [],
  thickness_mm = 18,
}: Part) => ({ at, u, v, outline, holes, thickness_mm }) as unknown as CabinetBoard;
const flat = (w: number, h: number) => {
  const ring = [
    [0, 0],
    [w, 0],
    [w, h],
    [0, h],
  ];
  return { kind: "straight", face: ring, back: ring };
};

function triangles(made: BufferGeometry): [Vector3, Vector3, Vector3][] {
  const p = made.getAttribute("position");
  return Array.from({ length: p.count / 3 }, (_, i) => {
    const corner = (k: number) => new Vector3(p.getX(3 * i + k), p.getY(3 * i + k), p.getZ(3 * i + k));
    return [corner(0), corner(1), corner(2)];
  });
}

/** Area of everything, and how much lies square to each axis. */
function area(made: BufferGeometry) {
  let all = 0;
  const square = [0, 0, 0];
  for (const [a, b, c] of triangles(made)) {
    const n = b.clone().sub(a).cross(c.clone().sub(a)).multiplyScalar(0.5);
    all += n.length();
    n.toArray().forEach((x, i) => (square[i] = (square[i] ?? 0) + Math.abs(x)));
  }
  return { all, square };
}

/** Every edge belongs to two triangles: nothing is open, nothing hangs over. */
function closed(made: BufferGeometry): boolean {
  const edges = new Map<string, number>();
  const name = (p: Vector3) =>
    p
      .toArray()
      .map((x) => x.toFixed(3))
      .join();
  for (const t of triangles(made))
    for (let i = 0; i < 3; i++) {
      const key = [name(t[i]!), name(t[(i + 1) % 3]!)].sort().join(" ");
      edges.set(key, (edges.get(key) ?? 0) + 1);
    }
  return [...edges.values()].every((n) => n === 2);
}

describe("a board in space", () => {
  it("has the faces, edges and place it was given", () => {
    const made = geometry(board({ at: [20, 30, 40], outline: flat(400, 600) }));
    made.computeBoundingBox();
    // back from the baffle's face is away from the eye
    expect(made.boundingBox?.min.toArray()).toEqual([20, 30, -58]);
    expect(made.boundingBox?.max.toArray()).toEqual([420, 630, -40]);
    const { all, square } = area(made);
    expect(all).toBeCloseTo(2 * (400 * 600 + 18 * 400 + 18 * 600), 1);
    expect(square[2]).toBeCloseTo(2 * 400 * 600, 1);
    expect(closed(made)).toBe(true);
  });

  it("is open where its holes are, and walled around them", () => {
    const holes = [
      { at: [150, 200], opening: { shape: "round", diameter_mm: 200 } },
      { at: [320, 500], opening: { shape: "rectangle", length_mm: 80, width_mm: 60 } },
      { at: [80, 520], opening: { shape: "triangle", length_mm: 100, width_mm: 100 } },
    ];
    const made = geometry(board({ outline: flat(400, 600), holes }));
    // a circle is drawn with 48 corners
    const round = 0.5 * 48 * 100 ** 2 * Math.sin((2 * Math.PI) / 48);
    const open = round + 80 * 60 + 0.5 * 100 * 100;
    expect(area(made).square[2]! / 2).toBeCloseTo(400 * 600 - open, 0);
    const one = geometry(board({ outline: flat(400, 600), holes: holes.slice(0, 1) }));
    expect(closed(one)).toBe(true);
  });

  it("with bevelled ends is as long inside as it is stated", () => {
    const face = [
      [0, 0],
      [400, 0],
      [400, 600],
      [0, 600],
    ];
    const back = face.map(([x = 0, y = 0]) => [x === 0 ? 18 : 382, y]);
    const made = geometry(board({ outline: { kind: "straight", face, back } }));
    // seen from the front: the face once, and the back with what slopes away beside it
    expect(area(made).square[2]).toBeCloseTo(2 * 400 * 600, 1);
    const level = triangles(made).filter((t) => t.every((p) => p.z === -18));
    const xs = level.flatMap((t) => t.map((p) => p.x));
    expect([Math.min(...xs), Math.max(...xs)]).toEqual([18, 382]);
    expect(closed(made)).toBe(true);
  });

  it("that is round is a disc about its place", () => {
    const made = geometry(board({ at: [200, 200, 0], outline: { kind: "disc", diameter_mm: 300 } }));
    made.computeBoundingBox();
    const { min, max } = made.boundingBox!;
    expect([min.x, max.x, min.y, max.y].map(Math.round)).toEqual([50, 350, 50, 350]);
    expect(closed(made)).toBe(true);
  });

  it("standing sideways keeps its area whichever way it is turned", () => {
    const side = geometry(board({ at: [0, 0, 400], u: [0, 0, -1], v: [0, 1, 0], outline: flat(400, 600) }));
    expect(area(side).square[0]).toBeCloseTo(2 * 400 * 600, 1);
    expect(closed(side)).toBe(true);
  });
});
