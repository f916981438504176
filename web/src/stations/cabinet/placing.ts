import type { CabinetView, Design, MountedPart } from "../../api/client";
import { at } from "../../lib/pointer";

export type Spot = { face: string; across_mm: number; up_mm: number };

const WORDS = ["baffle", "back", "side", "side", "top", "floor"];

/**
 * The change that puts a part to a place of its face: into the list of places, where those before it are written down as they
 * stand, or at its own place.
 */
export function placed(
  document: Design,
  cabinet: CabinetView,
  part: MountedPart,
  across_mm: number,
  up_mm: number,
  face: string,
): { pointer: string; value: unknown } | undefined {
  const pointer = part.pointer;
  if (!pointer) return undefined;
  const spot: Spot = { face, across_mm, up_mm };
  const list = /^(.*)\/(\d+)$/.exec(pointer);
  if (!list) return { pointer, value: spot };
  const [, parent = "", index = "0"] = list;
  const spots = [...((at(document, parent) as Spot[] | undefined) ?? [])];
  for (let i = spots.length; i < Number(index); i++) {
    const there = cabinet.mounted_parts.find((s) => s.pointer === `${parent}/${i}`);
    if (!there) return undefined;
    spots.push({
      face: WORDS[there.face ?? 0] ?? "baffle",
      across_mm: Math.round(there.across_mm),
      up_mm: Math.round(there.up_mm),
    });
  }
  spots[Number(index)] = spot;
  return { pointer: parent, value: spots };
}
