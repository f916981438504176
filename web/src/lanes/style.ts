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

export function colour(name: string): string {
  return getComputedStyle(document.documentElement).getPropertyValue(name).trim();
}
