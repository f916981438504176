// Quantities as builders type them: a number with a unit, a fraction, a sum. "3/4 in", "18+18", "1.68 ft3".

type Kind = Record<string, number>;

const LENGTH: Kind = { mm: 1, cm: 10, m: 1000, in: 25.4, '"': 25.4, ft: 304.8 };
const VOLUME: Kind = {
  L: 1,
  l: 1,
  litre: 1,
  litres: 1,
  ft3: 28.316846592,
  cuft: 28.316846592,
  in3: 0.016387064,
  cm3: 0.001,
  m3: 1000,
};
const AREA: Kind = { cm2: 1, mm2: 0.01, m2: 10000, in2: 6.4516 };
const MASS: Kind = { g: 1, kg: 1000, oz: 28.349523125, lb: 453.59237 };

function rebased(kind: Kind, unit: string): Kind {
  const base = kind[unit] ?? 1;
  return Object.fromEntries(Object.entries(kind).map(([name, factor]) => [name, factor / base]));
}

/** Units a field of a given unit understands, each as its factor to the field's unit. */
function unitsFor(unit: string): Kind {
  switch (unit) {
    case "mm":
    case "m":
    case "in":
      return rebased(LENGTH, unit);
    case "L":
      return VOLUME;
    case "cm2":
      return AREA;
    case "g":
    case "kg":
      return rebased(MASS, unit);
    case "Hz":
      return { Hz: 1, hz: 1, kHz: 1000 };
    case "ohm":
      return { ohm: 1, ohms: 1, Ω: 1, mohm: 0.001 };
    case "mH":
      return { mH: 1, uH: 0.001, µH: 0.001, H: 1000 };
    case "V":
      return { V: 1, mV: 0.001 };
    case "W":
      return { W: 1, kW: 1000, mW: 0.001 };
    case "mm/N":
      return { "mm/N": 1, "um/N": 0.001, "µm/N": 0.001, "m/N": 1000 };
    case "N·s/m":
      return { "N·s/m": 1, "Ns/m": 1, "N*s/m": 1, "kg/s": 1 };
    case "h":
      return { h: 1, min: 1 / 60 };
    case "T·m":
      return { "T·m": 1, Tm: 1, "T*m": 1, "N/A": 1 };
    case "":
      return { "%": 0.01 };
    default:
      return { [unit]: 1 };
  }
}

export type Reading = { value: number; changed: boolean } | { error: string };

const NUMBER =
  /^\s*(?:(\d+)\s+(\d+)\s*\/\s*(\d+)|(\d+(?:[.,]\d+)?|[.,]\d+)((?:\s*[*/]\s*(?:\d+(?:[.,]\d+)?|[.,]\d+))*))\s*(.*?)\s*$/;

function plain(text: string): number {
  return Number(text.replace(",", "."));
}

/** Reads one term, "11 11/32 in" or "3*18 mm": its number and the unit's name (or none). */
function term(text: string): { number: number; unit: string } | null {
  const found = NUMBER.exec(text);
  if (!found) return null;
  const [, whole, above, below, first, rest, unit] = found;
  if (whole !== undefined) {
    return { number: Number(whole) + Number(above) / Number(below), unit: unit ?? "" };
  }
  let number = plain(first ?? "");
  for (const step of (rest ?? "").matchAll(/([*/])\s*([\d.,]+)/g)) {
    number = step[1] === "*" ? number * plain(step[2] ?? "") : number / plain(step[2] ?? "");
  }
  return { number, unit: unit ?? "" };
}

/** Reads what was typed into a field of the given unit. */
export function read(text: string, unit: string): Reading {
  const units = unitsFor(unit);
  const wrong = (what: string): Reading => ({ error: `${what}; try ${example(unit)}` });
  const parts = text
    .trim()
    .replace(/−/g, "-")
    .split(/(?<=[^-+*/\s(])\s*([+-])\s*/);
  let sum = 0;
  let sign = 1;
  const terms: { number: number; unit: string; sign: number }[] = [];
  for (const part of parts) {
    if (part === "+" || part === "-") {
      sign = part === "-" ? -1 : 1;
      continue;
    }
    const negative = part.trim().startsWith("-");
    const found = term(negative ? part.trim().slice(1) : part);
    if (!found || !Number.isFinite(found.number)) return wrong(`"${text.trim()}" is not a number`);
    terms.push({ ...found, sign: negative ? -sign : sign });
    sign = 1;
  }
  const named = terms.findLast((t) => t.unit !== "")?.unit ?? "";
  for (const t of terms) {
    const name = (t.unit || named).replace("³", "3").replace("²", "2").replace("cu ft", "cuft");
    const factor = name === "" ? 1 : units[name];
    if (factor === undefined) return wrong(`the unit "${t.unit || named}" is not known here`);
    sum += t.sign * t.number * factor;
  }
  const value = Number(sum.toPrecision(12));
  return { value, changed: terms.length > 1 || named !== "" || /[*/]/.test(text) };
}

function example(unit: string): string {
  switch (unit) {
    case "mm":
      return '"100 mm" or "3/4 in"';
    case "L":
      return '"95 L" or "1.68 ft3"';
    case "Hz":
      return '"26 Hz"';
    default:
      return `"12.5${unit ? ` ${unit}` : ""}"`;
  }
}

export type System = "metric" | "inch";

/** The same as a page of that system has it: what is typed without a unit is meant in the unit shown. */
export function readIn(text: string, unit: string, system: System): Reading {
  const shown = inSystem(unit, system).unit;
  return read(shown !== unit && /^[\d\s/.,+*-]+$/.test(text) ? `${text} ${shown}` : text, unit);
}

/** The nearest 1/32 inch as text: "11 11/32". */
export function inchFraction(inches: number): string {
  const parts = Math.round(Math.abs(inches) * 32);
  const whole = Math.floor(parts / 32);
  let above = parts % 32;
  let below = 32;
  while (above > 0 && above % 2 === 0) {
    above /= 2;
    below /= 2;
  }
  const sign = inches < 0 ? "-" : "";
  if (above === 0) return `${sign}${whole}`;
  return `${sign}${whole > 0 ? `${whole} ` : ""}${above}/${below}`;
}

/** A number with at most `digits` significant digits, without trailing zeros. */
export function tidy(value: number, digits = 4): string {
  if (!Number.isFinite(value)) return "–";
  return String(Number(value.toPrecision(digits)));
}

const INCH: Record<string, { times: number; unit: string }> = {
  travel: { times: 1 / 25.4, unit: "in" },
  mm: { times: 1 / 25.4, unit: "in" },
  L: { times: 1 / 28.316846592, unit: "ft3" },
  cm2: { times: 1 / 6.4516, unit: "in2" },
  cm3: { times: 1 / 16.387064, unit: "in3" },
  mm2: { times: 1 / 645.16, unit: "in2" },
  m: { times: 1 / 0.3048, unit: "ft" },
  kg: { times: 1 / 0.45359237, unit: "lb" },
};

/** What values of a unit are multiplied by to be told in a system, and the unit they are told in. */
export function inSystem(unit: string, system: System): { times: number; unit: string } {
  const inch = system === "inch" ? INCH[unit] : undefined;
  return inch ?? { times: 1, unit: unit === "travel" ? "mm" : unit };
}

/** How a value of the document is shown: its text and unit in the chosen system. Millimetres that a cone travels are "travel". */
export function show(
  value: number,
  unit: string,
  system: System,
  digits = 4,
): { text: string; unit: string } {
  const { times, unit: told } = inSystem(unit, system);
  if (told === unit || system === "metric") return { text: tidy(value, digits), unit: told };
  const inches = unit === "travel" ? (value * times).toFixed(3) : inchFraction(value * times);
  return { text: told === "in" ? inches : tidy(value * times, 3), unit: told };
}

/** The same in one: "95 L", "3.35 ft³". */
export function size(value: number, unit: string, system: System, digits = 3): string {
  const shown = show(value, unit, system, digits);
  return `${shown.text} ${printUnit(shown.unit)}`;
}

/** The unit as print has it: cm², ft³, Ω. */
export function printUnit(unit: string): string {
  return unit.replace("2", "²").replace("3", "³").replace("ohm", "Ω");
}

/** The step an arrow key makes: one, ten times and a tenth of a hundredth of the value's power of ten. */
export function nudge(value: number, direction: 1 | -1, size: "usual" | "coarse" | "fine"): number {
  const power = 10 ** (Math.floor(Math.log10(Math.max(Math.abs(value), 1e-6))) - 1);
  const step = size === "coarse" ? power * 10 : size === "fine" ? power / 10 : power;
  return Number(((Math.round(value / step) + direction) * step).toPrecision(8));
}
