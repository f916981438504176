import type { Text } from "../api/client";
import { useSay } from "../app/settings";

/** A text that carries quantities, said as this browser is set. */
export function Say({ text }: { text: Text }) {
  return useSay()(text);
}
