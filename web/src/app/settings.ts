import { useSyncExternalStore } from "react";
import type { System } from "../lib/quantity";

/** What belongs to this browser: units and theme. */
export type Settings = { system: System; theme: "light" | "dark" };

const KEY = "oak-drum.settings";
const listeners = new Set<() => void>();

function load(): Settings {
  const dark = typeof matchMedia === "function" && matchMedia("(prefers-color-scheme: dark)").matches;
  const usual: Settings = { system: "metric", theme: dark ? "dark" : "light" };
  try {
    return { ...usual, ...(JSON.parse(localStorage.getItem(KEY) ?? "{}") as Partial<Settings>) };
  } catch {
    return usual;
  }
}

let settings = load();

function paint() {
  document.documentElement.dataset.theme = settings.theme;
}
paint();

export function change(part: Partial<Settings>) {
  settings = { ...settings, ...part };
  localStorage.setItem(KEY, JSON.stringify(settings));
  paint();
  listeners.forEach((listener) => listener());
}

export function useSettings(): Settings {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => settings,
  );
}
