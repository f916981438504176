// What the palettes of all pages offer alike.

import { TERMS } from "../lib/glossary";
import type { Entry } from "./Palette";
import { change, type Settings } from "./settings";

type Go = (path: string) => () => void;

/** Units, light and help. */
export const settingEntries = ({
  system,
  theme,
  help,
}: Pick<Settings, "system" | "theme" | "help">): Entry[] => [
  {
    key: "units",
    words: system === "metric" ? "Sizes in inches" : "Sizes in millimetres",
    also: ["units", "metric", "imperial"],
    run: () => change({ system: system === "metric" ? "inch" : "metric" }),
  },
  {
    key: "theme",
    words: theme === "dark" ? "Day light" : "Evening light",
    also: ["theme", "dark"],
    run: () => change({ theme: theme === "dark" ? "light" : "dark" }),
  },
  {
    key: "help",
    words: help ? "Close the help: explain no words" : "Explain words where they stand",
    also: ["help", "explanations"],
    run: () => change({ help: !help }),
  },
];

/** The page of all terms. */
export const termsEntry = (go: Go): Entry => ({
  key: "terms",
  words: "Terms",
  beside: "every word explained",
  also: ["glossary"],
  run: go("/terms"),
});

/** Every term. */
export const termEntries = (go: Go): Entry[] =>
  TERMS.map((t) => ({
    key: `term ${t.id}`,
    words: t.name,
    beside: t.says,
    also: t.also,
    run: go(`/terms#${t.id}`),
  }));

/** What can be pressed on the page, by what it says. */
export function pressable(where: string): Entry[] {
  const seen = new Set<string>();
  const list: Entry[] = [];
  for (const element of document.querySelectorAll<HTMLElement>(where)) {
    const words = (element.getAttribute("aria-label") ?? element.textContent ?? "")
      .replace(/\s+/g, " ")
      .trim();
    const off = element.hasAttribute("disabled") || element.closest("[hidden]");
    if (!words || off || seen.has(words) || words.length > 80) continue;
    seen.add(words);
    list.push({ key: `press ${words}`, words, run: () => element.click() });
  }
  return list;
}
