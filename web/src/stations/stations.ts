// The stations that exist, in the order in which builders work. One entry a station.

import type { ComponentType } from "react";
import { show, printUnit, type System } from "../lib/quantity";
import type { OpenRevision } from "../workbench/workbench";
import { BoxStation } from "./box/BoxStation";
import { BriefStation } from "./brief/BriefStation";
import { ShelfView } from "./woofer/shelf/ShelfView";
import { TryView } from "./woofer/try/TryView";
import { WooferStation } from "./woofer/WooferStation";

export type Station = {
  id: string;
  title: string;
  /** Its one telling figure. */
  tells: (r: OpenRevision, system: System) => string;
  Inputs: ComponentType;
  /** Further views, in place of inputs and lanes. */
  views?: View[];
};

export type View = { id: string; title: string; Wide: ComponentType };

export const STATIONS: Station[] = [
  {
    id: "brief",
    title: "Brief",
    tells: ({ document: { brief } }) =>
      brief?.lowest_note_hz
        ? `${brief.level_db ? `${brief.level_db} dB at ` : ""}${brief.lowest_note_hz} Hz`
        : "not begun",
    Inputs: BriefStation,
  },
  {
    id: "woofer",
    title: "Woofer",
    tells: ({ document: { woofer, array } }) =>
      `${(array?.count ?? 1) > 1 ? `${array?.count} x ` : ""}${woofer.name || "own figures"}`,
    Inputs: WooferStation,
    views: [
      { id: "shelf", title: "Shelf", Wide: ShelfView },
      { id: "try", title: "Try the shelf", Wide: TryView },
    ],
  },
  {
    id: "box",
    title: "Box",
    tells: ({ document, evaluation }, system) => {
      const volume = show(document.enclosure.net_volume_l, "L", system, 3);
      const figure = evaluation?.summary.figures[0];
      const first = figure
        ? `${figure.unit ? "" : `${figure.label} `}${Number(figure.value.toPrecision(3))} ${figure.unit}`
        : "";
      return `${first.trim()}, ${volume.text} ${printUnit(volume.unit)}`;
    },
    Inputs: BoxStation,
  },
];
