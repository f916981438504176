// What the workshop's list is searched, sorted and thinned by.

import type { BuildSummary } from "../api/client";

export type Order = "oldest" | "newest" | "name" | "woofer";

/** Whether a build is one of those looked for: every word stands somewhere in what its card says. */
export function fits(b: BuildSummary, words: string): boolean {
  const text = [b.name, b.woofer_name, b.family.replaceAll("_", " "), b.purpose, ...b.tags]
    .join(" ")
    .toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}

/** The list, which comes oldest first, in another order. */
export function ordered(list: BuildSummary[], order: Order): BuildSummary[] {
  const by = (of: (b: BuildSummary) => string) =>
    list.toSorted((a, b) => of(a).localeCompare(of(b), undefined, { numeric: true }));
  if (order === "newest") return list.toReversed();
  if (order === "name") return by((b) => b.name);
  return order === "woofer" ? by((b) => `${b.woofer_name} ${b.name}`) : list;
}

/** The tags of all builds, each once whatever its capitals, in the order of the alphabet. */
export function tagsOf(list: BuildSummary[]): string[] {
  const once = new Map(list.flatMap((b) => b.tags).map((tag) => [tag.toLowerCase(), tag]));
  return [...once.values()].sort((a, b) => a.localeCompare(b));
}

/** Tags as they are typed, by commas. */
export const tagsIn = (text: string): string[] =>
  text
    .split(",")
    .map((tag) => tag.trim())
    .filter(Boolean);
