// Boards come from the core as outlines with holes; here they are only lifted into the library's meshes.

import { BufferGeometry, Float32BufferAttribute, ShapeUtils, Vector2, Vector3 } from "three";
import type { CabinetBoard } from "../../api/client";

type P2 = [number, number];

const ARC = 48;

const circle = (at: P2, diameter: number): P2[] =>
  Array.from({ length: ARC }, (_, i) => {
    const a = (i / ARC) * 2 * Math.PI;
    return [at[0] + (diameter / 2) * Math.cos(a), at[1] + (diameter / 2) * Math.sin(a)];
  });

const rectangle = (at: P2, length: number, width: number): P2[] => [
  [at[0] - length / 2, at[1] - width / 2],
  [at[0] + length / 2, at[1] - width / 2],
  [at[0] + length / 2, at[1] + width / 2],
  [at[0] - length / 2, at[1] + width / 2],
];

/** Rings of a board's face and back, holes included. */
function rings(board: CabinetBoard): { face: P2[]; back: P2[]; holes: P2[][] } {
  const outline = board.outline;
  const [face, back] =
    outline.kind === "disc"
      ? [circle([0, 0], outline.diameter_mm), circle([0, 0], outline.diameter_mm)]
      : [outline.face as P2[], outline.back as P2[]];
  const holes = board.holes.map((h) =>
    h.opening.shape === "round"
      ? circle(h.at as P2, h.opening.diameter_mm)
      : // a triangle lacks the corner opposite its right angle
        rectangle(h.at as P2, h.opening.length_mm, h.opening.width_mm).filter(
          (_, i) => h.opening.shape === "rectangle" || i !== 2,
        ),
  );
  return { face, back, holes };
}

const anticlockwise = (ring: P2[]) =>
  ring.reduce((sum, p, i) => {
    const q = ring[(i + 1) % ring.length] as P2;
    return sum + p[0] * q[1] - q[0] * p[1];
  }, 0) > 0;

/** A board as triangles, its holes open. */
export function geometry(board: CabinetBoard): BufferGeometry {
  const { face, back, holes } = rings(board);
  const [u, v] = [
    new Vector3(...(board.u as [number, number, number])),
    new Vector3(...(board.v as [number, number, number])),
  ];
  const n = new Vector3().crossVectors(u, v);
  const at = new Vector3(...(board.at as [number, number, number]));
  // the eye's axes are right-handed: back is away from it
  const place = (p: P2, below: number) => {
    const q = at.clone().addScaledVector(u, p[0]).addScaledVector(v, p[1]).addScaledVector(n, below);
    return [q.x, q.y, -q.z];
  };
  const positions: number[] = [];
  const triangle = (a: number[], b: number[], c: number[]) => positions.push(...a, ...b, ...c);
  const turned = (ring: P2[], wanted: boolean) =>
    anticlockwise(ring) === wanted ? ring : [...ring].reverse();
  const flat = (ring: P2[], below: number) => {
    const outer = turned(ring, true).map((p) => new Vector2(p[0], p[1]));
    const inner = holes.map((h) => turned(h, false).map((p) => new Vector2(p[0], p[1])));
    const all = [outer, ...inner].flat().map((p) => place([p.x, p.y], below));
    for (const [a = 0, b = 0, c = 0] of ShapeUtils.triangulateShape(outer, inner))
      triangle(all[a] as number[], all[b] as number[], all[c] as number[]);
  };
  flat(face, 0);
  flat(back, board.thickness_mm);
  const wall = (a: P2[], b: P2[]) =>
    a.forEach((p, i) => {
      const k = (i + 1) % a.length;
      const [p1, p2] = [place(p, 0), place(a[k] as P2, 0)];
      const [q1, q2] = [place(b[i] as P2, board.thickness_mm), place(b[k] as P2, board.thickness_mm)];
      triangle(p1, p2, q2);
      triangle(p1, q2, q1);
    });
  wall(face, back);
  holes.forEach((h) => wall(h, h));
  const made = new BufferGeometry();
  made.setAttribute("position", new Float32BufferAttribute(positions, 3));
  made.computeVertexNormals();
  return made;
}
