// Packed curves (docs/curves.md): a header in JSON, then lists of 32-bit floats.

import type { Design, Evaluation } from "./client";
import { post } from "./courier";

type Header = { result: Evaluation; lists: [string, number][]; limiting_factors: Evaluation["curves"]["max_level_ruled_by"] };

/** Takes packed curves apart. */
export function unpack(bytes: ArrayBuffer): Evaluation {
  const view = new DataView(bytes);
  if (bytes.byteLength < 8 || view.getUint32(0) !== 0x4f444331) throw new Error("not packed curves");
  const length = view.getUint32(4, true);
  const text = new TextDecoder().decode(new Uint8Array(bytes, 8, length));
  const { result, lists, limiting_factors } = JSON.parse(text) as Header;
  const curves = result.curves as unknown as Record<string, unknown> & Evaluation["curves"];
  let at = 8 + length;
  for (const [name, many] of lists) {
    const values = Array.from(new Float32Array(bytes, at, many));
    at += 4 * many;
    const [, index, own] = /^openings\/(\d+)\/(.*)$/.exec(name) ?? [];
    if (index !== undefined && own !== undefined) {
      const opening = curves.openings[Number(index)] as unknown as Record<string, unknown> | undefined;
      if (opening) opening[own] = values;
    } else if (name === "max_level_db") curves.max_level_db = values.map((v) => (Number.isNaN(v) ? null : v));
    else if (name === "max_level_ruled_by")
      curves.max_level_ruled_by = values.map((v) => limiting_factors[v] ?? "none");
    else curves[name] = values;
  }
  return result;
}

/** Curves and figures of a design, without findings. */
export async function curves(document: Design, signal: AbortSignal): Promise<Evaluation> {
  const sent = { ...document };
  delete sent.frequencies_hz;
  return unpack(await post("/api/curves", sent, signal));
}
