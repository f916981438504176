import { useQueryClient } from "@tanstack/react-query";
import { useAnswer } from "../../../api/answer";
import { api, get, type Derived, type ShelfWoofer, type WooferRecord } from "../../../api/client";
import { woofer as wooferQuery, woofers } from "../../../api/queries";
import { shelfSchema } from "../../../lib/schema";
import { emptyWoofer, FIGURES, sheetWith } from "../../../lib/shelf";
import { useKept, type Kept } from "../../../ui/kept";
import type { Assumed } from "../../../ui/SchemaForm";

/** A woofer of the shelf being typed, or a new one; `made` hears of what is kept. */
export function useKeptWoofer(
  id: string,
  record: WooferRecord | undefined,
  made?: (record: WooferRecord) => void,
): Kept<ShelfWoofer> {
  const client = useQueryClient();
  return useKept<ShelfWoofer>({
    key: `oak-drum.sheet.${id}`,
    schema: shelfSchema,
    begin: record?.document ?? emptyWoofer(),
    version: record?.version ?? 0,
    what: "woofer",
    send: async (document, base_version) => {
      const kept = record
        ? await get(
            api.PUT("/api/woofers/{id}", {
              params: { path: { id: record.id } },
              body: { base_version, document },
            }),
          )
        : await get(api.POST("/api/woofers", { body: { document } }));
      client.setQueryData(wooferQuery(kept.id).queryKey, kept);
      await client.invalidateQueries(woofers());
      made?.(kept);
      return kept;
    },
  });
}

/** What follows from a woofer's sheet with one of its sets. */
export function useDerived(document: ShelfWoofer, index: number): Derived | undefined {
  const sheet = sheetWith(document, index);
  const ask = (signal: AbortSignal) => get(api.POST("/api/woofers/derive", { body: { sheet }, signal }));
  return useAnswer("derived", sheet, ask, 120);
}

/** What empty fields of a sheet are taken for. */
export function assumedOf(derived: Derived | undefined, set: number): Assumed {
  const assumed: Assumed = {};
  const known = (derived?.woofer ?? {}) as Record<string, number>;
  for (const name of FIGURES) {
    const value = known[name];
    if (value !== undefined) assumed[`/sets/${set}/figures/${name}`] = { value, words: "derived" };
  }
  if (derived?.displacement_estimated)
    assumed["/woofer/displacement_l"] = { value: derived.displacement_l ?? 0, words: "estimated" };
  if (derived?.xmech_mm) assumed["/woofer/xmech_mm"] = { value: derived.xmech_mm, words: "estimated" };
  return assumed;
}
