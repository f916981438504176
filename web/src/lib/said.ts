// Texts that carry quantities, said in millimetres or in inches. How each is said comes from the core.

import type { Text } from "../api/client";
import type { System } from "./quantity";

export const said = (text: Text, system: System): string =>
  text.map((part) => (typeof part === "string" ? part : part[system])).join("");

/** The text as part of a sentence: its words without capitals. */
export const lowered = (text: Text): Text =>
  text.map((part) => (typeof part === "string" ? part.toLowerCase() : part));

/** The same text whatever the page is set to: for keys and names of files. */
export const plain = (text: Text): string => said(text, "metric");
