// The stations that exist, in the order in which builders work. One entry a station.

import type { ComponentType } from "react";
import { show, printUnit, type System } from "../lib/quantity";
import type { OpenRevision } from "../workbench/workbench";
import { AirwayPicture } from "./airway/AirwayPicture";
import { AirwayStation } from "./airway/AirwayStation";
import { TrimView } from "./airway/TrimView";
import { BoxStation } from "./enclosure/BoxStation";
import { CompareView } from "./enclosure/compare/CompareView";
import { SchoolsView } from "./enclosure/schools/SchoolsView";
import { SeekView } from "./enclosure/seek/SeekView";
import { BriefStation } from "./brief/BriefStation";
import { CabinetPicture } from "./cabinet/CabinetPicture";
import { BuildView } from "./cabinet/BuildView";
import { CabinetStation } from "./cabinet/CabinetStation";
import { DrawingsView } from "./cabinet/DrawingsView";
import { SawView } from "./cabinet/SawView";
import { SolidView } from "./cabinet/SolidView";
import { FillView } from "./quiet/FillView";
import { LeaksView } from "./quiet/LeaksView";
import { PanelsView } from "./quiet/PanelsView";
import { QuietPicture } from "./quiet/QuietPicture";
import { QuietStation } from "./quiet/QuietStation";
import { ShelfView } from "./woofer/shelf/ShelfView";
import { TryView } from "./woofer/try/TryView";
import { WooferStation } from "./woofer/WooferStation";

export type Station = {
  id: string;
  title: string;
  /** Its one telling figure. */
  tells: (r: OpenRevision, system: System) => string;
  Inputs: ComponentType;
  /** What stands beside the inputs in place of the lanes. */
  Picture?: ComponentType;
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
      const litres = evaluation?.summary.chambers.reduce((sum, c) => sum + c.net_l, 0) ?? 0;
      const volume = show(litres, "L", system, 3);
      const figure = evaluation?.summary.figures[0];
      const first = figure
        ? `${figure.unit ? "" : `${figure.label} `}${Number(figure.value.toPrecision(3))} ${figure.unit}`
        : "";
      if (!evaluation) return document.enclosure.family.replaceAll("_", " ");
      return litres ? `${first.trim()}, ${volume.text} ${printUnit(volume.unit)}` : first.trim();
    },
    Inputs: BoxStation,
    views: [
      { id: "schools", title: "Schools", Wide: SchoolsView },
      { id: "compare", title: "Compare", Wide: CompareView },
      { id: "seek", title: "Seek", Wide: SeekView },
    ],
  },
  {
    id: "airway",
    title: "Airway",
    tells: ({ evaluation }, system) => {
      if (!evaluation) return "";
      const { fastest_air_m_per_s: air, steps } = evaluation.summary;
      const port = evaluation.ports[0];
      if (port && air) {
        const length = show(Math.round(port.length_mm), "mm", system);
        return `${length.text} ${length.unit}, ${Math.round(air)} m/s`;
      }
      if (steps.length) {
        const stroke = Math.max(...evaluation.curves.radiator_stroke_mm.filter(Number.isFinite), 0);
        return `radiators, ${stroke.toPrecision(2)} mm`;
      }
      return evaluation.path ? "a mouth" : "no opening";
    },
    Inputs: AirwayStation,
    Picture: AirwayPicture,
    views: [{ id: "trim", title: "Trim", Wide: TrimView }],
  },
  {
    id: "quiet",
    title: "Quiet",
    tells: ({ evaluation }) => {
      if (!evaluation) return "";
      const { lowest_wave_hz: wave, lowest_panel_hz: panel } = evaluation.summary;
      if (!wave && !panel) return evaluation.path ? "along the path" : "no chamber";
      // the lower of the two
      return (panel ?? Infinity) < (wave ?? Infinity)
        ? `panel ${Math.round(panel ?? 0)} Hz`
        : `wave ${Math.round(wave ?? 0)} Hz`;
    },
    Inputs: QuietStation,
    Picture: QuietPicture,
    views: [
      { id: "fill", title: "Fill", Wide: FillView },
      { id: "panels", title: "Panels", Wide: PanelsView },
      { id: "leaks", title: "Leaks", Wide: LeaksView },
    ],
  },
  {
    id: "cabinet",
    title: "Cabinet",
    tells: ({ document: { cabinet } }, system) => {
      if (!cabinet) return "no boards yet";
      const sides = [cabinet.width_mm, cabinet.height_mm, cabinet.depth_mm];
      return `${sides.map((s) => show(s, "mm", system).text).join(" x ")}${system === "inch" ? " in" : ""}`;
    },
    Inputs: CabinetStation,
    Picture: CabinetPicture,
    views: [
      { id: "solid", title: "Solid", Wide: SolidView },
      { id: "saw", title: "Saw", Wide: SawView },
      { id: "drawings", title: "Drawings", Wide: DrawingsView },
      { id: "build", title: "Build", Wide: BuildView },
    ],
  },
];
