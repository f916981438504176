import { useSyncExternalStore } from "react";
import type { Text } from "../api/client";
import { show, size, type System } from "../lib/quantity";
import { said } from "../lib/said";

/**
 * What belongs to this browser: units, theme, paper, whether words are explained where they stand, and what stands beside a
 * station on a wide page.
 */
export type Settings = {
  system: System;
  theme: "light" | "dark";
  help: boolean;
  beside: string;
  paper: "a4" | "letter";
};

const KEY = "oak-drum.settings";
const listeners = new Set<() => void>();

function load(): Settings {
  const dark = typeof matchMedia === "function" && matchMedia("(prefers-color-scheme: dark)").matches;
  const usual: Settings = {
    system: "metric",
    theme: dark ? "dark" : "light",
    help: true,
    beside: "curves",
    paper: "a4",
  };
  try {
    return { ...usual, ...(JSON.parse(localStorage.getItem(KEY) ?? "{}") as Partial<Settings>) };
  } catch {
    return usual;
  }
}

let settings = load();

function paint() {
  document.documentElement.dataset.theme = settings.theme;
  // drawings carry their sizes in both, of which the page shows one
  document.documentElement.dataset.system = settings.system;
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

/** Says a text as this browser is set. */
export function useSay(): (text: Text) => string {
  const { system } = useSettings();
  return (text) => said(text, system);
}

/** Says a value with its unit as this browser is set. */
export function useSize(): (value: number, unit: string, digits?: number) => string {
  const { system } = useSettings();
  return (value, unit, digits) => size(value, unit, system, digits);
}

/** Says values of a unit without it, as this browser is set: for a column whose head names the unit. */
export function useFigure(): (value: number | null | undefined, unit: string, digits?: number) => string {
  const { system } = useSettings();
  return (value, unit, digits = 3) =>
    typeof value === "number" ? show(value, unit, system, digits).text : "–";
}
