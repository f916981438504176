// How a revision's curves are drawn: colour, dash and a letter at the end, so that colour is never the only code.

export type Look = { colour: string; dash: number[]; width: number };

const UNDER: Omit<Look, "width">[] = [
  { colour: "--verdigris", dash: [7, 4] },
  { colour: "--oak", dash: [2, 3] },
  { colour: "--ochre", dash: [9, 3, 2, 3] },
  { colour: "--brick", dash: [4, 2] },
];

/** The look of the revision at `index` among those laid under; the one being edited is solid ink. */
export function look(index: number, current: boolean): Look {
  if (current) return { colour: "--ink", dash: [], width: 1.8 };
  return { ...(UNDER[index % UNDER.length] ?? { colour: "--soft", dash: [] }), width: 1.2 };
}

const known = new Map<string, string>();

/** A colour of the present theme; asking the page each time would cost a style pass a stroke. */
export function colour(name: string): string {
  const key = `${document.documentElement.dataset.theme}${name}`;
  const found = known.get(key);
  if (found) return found;
  const value = getComputedStyle(document.documentElement).getPropertyValue(name).trim();
  known.set(key, value);
  return value;
}
