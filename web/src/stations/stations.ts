// The stations that exist, in the order in which builders work. One entry a station.

import { lazy, type ComponentType } from "react";
import { printUnit, show, size, tidy, type System } from "../lib/quantity";
import type { OpenRevision } from "../workbench/workbench";
import { BoxStation } from "./enclosure/BoxStation";
import { ListenFigure } from "./listen/ListenFigure";
import { LogFigure } from "./log/LogFigure";
import { ProveFigure } from "./prove/ProveFigure";
import { RoomFigure } from "./room/RoomFigure";

/** A part of a station that is fetched when it is first opened. */
function later<N extends string>(fetch: () => Promise<Record<N, ComponentType>>, name: N): ComponentType {
  return lazy<ComponentType>(async () => ({ default: (await fetch())[name] }));
}

export type Station = {
  id: string;
  title: string;
  /** Its one telling figure. */
  headline: (r: OpenRevision, system: System) => string;
  /** Whether there is anything to judge yet; undefined where its figure says so itself. */
  begun?: (r: OpenRevision) => boolean | undefined;
  /** The same, where it hangs on more than the revision. */
  Figure?: ComponentType;
  Inputs: ComponentType;
  /** What stands beside the inputs in place of the lanes. */
  Picture?: ComponentType;
  /** Whether the curves are part of that picture. */
  withCurves?: boolean;
  /** Further views, in place of inputs and lanes. */
  views?: View[];
};

export type View = { id: string; title: string; Wide: ComponentType };

export const STATIONS: Station[] = [
  {
    id: "brief",
    title: "Brief",
    headline: ({ document: { brief } }) =>
      brief?.lowest_note_hz
        ? `${brief.level_db ? `${brief.level_db} dB at ` : ""}${brief.lowest_note_hz} Hz`
        : "not begun",
    begun: ({ document: { brief } }) => !!(brief?.lowest_note_hz ?? brief?.level_db),
    Inputs: later(() => import("./brief/BriefStation"), "BriefStation"),
  },
  {
    id: "woofer",
    title: "Woofer",
    headline: ({ document: { woofer, array } }) =>
      `${(array?.count ?? 1) > 1 ? `${array?.count} x ` : ""}${woofer.name || "own figures"}`,
    begun: () => true,
    Inputs: later(() => import("./woofer/WooferStation"), "WooferStation"),
    views: [
      { id: "shelf", title: "Shelf", Wide: later(() => import("./woofer/shelf/ShelfView"), "ShelfView") },
      { id: "try", title: "Try the shelf", Wide: later(() => import("./woofer/try/TryView"), "TryView") },
    ],
  },
  {
    id: "box",
    title: "Box",
    headline: ({ document, evaluation }, system) => {
      const litres = evaluation?.summary.chambers.reduce((sum, c) => sum + c.net_l, 0) ?? 0;
      const volume = show(litres, "L", system, 3);
      const figure = evaluation?.summary.figures[0];
      const first = figure
        ? `${figure.unit ? "" : `${figure.label} `}${Number(figure.value.toPrecision(3))} ${figure.unit}`
        : "";
      if (!evaluation) return document.enclosure.family.replaceAll("_", " ");
      return litres ? `${first.trim()}, ${volume.text} ${printUnit(volume.unit)}` : first.trim();
    },
    begun: ({ evaluation }) => !!evaluation,
    Inputs: BoxStation,
    views: [
      {
        id: "schools",
        title: "Schools",
        Wide: later(() => import("./enclosure/schools/SchoolsView"), "SchoolsView"),
      },
      {
        id: "compare",
        title: "Compare",
        Wide: later(() => import("./enclosure/compare/CompareView"), "CompareView"),
      },
      { id: "seek", title: "Seek", Wide: later(() => import("./enclosure/seek/SeekView"), "SeekView") },
    ],
  },
  {
    id: "airway",
    title: "Airway",
    headline: ({ evaluation }, system) => {
      if (!evaluation) return "";
      const { fastest_air_m_per_s: air, steps } = evaluation.summary;
      const port = evaluation.ports[0];
      if (port && air) {
        const length = show(Math.round(port.length_mm), "mm", system);
        return `${length.text} ${length.unit}, ${Math.round(air)} m/s`;
      }
      if (steps.length) {
        const stroke = Math.max(...evaluation.curves.radiator_excursion_mm.filter(Number.isFinite), 0);
        return `radiators, ${size(stroke, "travel", system, 2)}`;
      }
      return evaluation.path ? "a mouth" : "no opening";
    },
    // a box without an opening has nothing there to be judged
    begun: ({ evaluation: e }) =>
      e && (e.ports.length || e.summary.steps.length || e.path) ? true : undefined,
    Inputs: later(() => import("./airway/AirwayStation"), "AirwayStation"),
    Picture: later(() => import("./airway/AirwayPicture"), "AirwayPicture"),
    views: [{ id: "trim", title: "Trim", Wide: later(() => import("./airway/TrimView"), "TrimView") }],
  },
  {
    id: "quiet",
    title: "Quiet",
    headline: ({ evaluation }) => {
      if (!evaluation) return "";
      const { lowest_wave_hz: wave, lowest_panel_hz: panel } = evaluation.summary;
      if (!wave && !panel) return evaluation.path ? "along the path" : "no chamber";
      // the lower of the two
      return (panel ?? Infinity) < (wave ?? Infinity)
        ? `panel ${Math.round(panel ?? 0)} Hz`
        : `wave ${Math.round(wave ?? 0)} Hz`;
    },
    // panels are those of a cabinet; waves alone are told of an inside that is only assumed
    begun: ({ evaluation: e }) =>
      e && !e.summary.lowest_wave_hz && !e.path ? undefined : !!e?.summary.lowest_panel_hz,
    Inputs: later(() => import("./quiet/QuietStation"), "QuietStation"),
    Picture: later(() => import("./quiet/QuietPicture"), "QuietPicture"),
    views: [
      { id: "fill", title: "Fill", Wide: later(() => import("./quiet/FillView"), "FillView") },
      { id: "panels", title: "Panels", Wide: later(() => import("./quiet/PanelsView"), "PanelsView") },
      { id: "leaks", title: "Leaks", Wide: later(() => import("./quiet/LeaksView"), "LeaksView") },
    ],
  },
  {
    id: "cabinet",
    title: "Cabinet",
    headline: ({ document: { cabinet } }, system) => {
      if (!cabinet) return "no boards yet";
      const sides = [cabinet.width_mm, cabinet.height_mm, cabinet.depth_mm];
      return `${sides.map((s) => show(s, "mm", system).text).join(" x ")}${system === "inch" ? " in" : ""}`;
    },
    begun: ({ document }) => !!document.cabinet,
    Inputs: later(() => import("./cabinet/CabinetStation"), "CabinetStation"),
    Picture: later(() => import("./cabinet/CabinetPicture"), "CabinetPicture"),
    views: [
      { id: "solid", title: "Solid", Wide: later(() => import("./cabinet/SolidView"), "SolidView") },
      { id: "saw", title: "Saw", Wide: later(() => import("./cabinet/SawView"), "SawView") },
      {
        id: "drawings",
        title: "Drawings",
        Wide: later(() => import("./cabinet/DrawingsView"), "DrawingsView"),
      },
      { id: "build", title: "Build", Wide: later(() => import("./cabinet/BuildView"), "BuildView") },
      { id: "days", title: "Days", Wide: later(() => import("./cabinet/DaysView"), "DaysView") },
    ],
  },
  {
    id: "drive",
    title: "Drive",
    headline: ({ evaluation }) => {
      const drive = evaluation?.summary.drive;
      if (!drive) return "";
      if (!drive.loudest) return `${tidy(drive.volts, 3)} V, no limit`;
      return `up to ${tidy(drive.loudest.volts, 3)} V`;
    },
    begun: ({ document }) => !!document.chain?.amplifier,
    Inputs: later(() => import("./drive/DriveStation"), "DriveStation"),
    Picture: later(() => import("./drive/DrivePicture"), "DrivePicture"),
    withCurves: true,
    views: [
      {
        id: "amplifiers",
        title: "Amplifiers",
        Wide: later(() => import("./drive/amplifiers/AmplifiersView"), "AmplifiersView"),
      },
      { id: "parts", title: "Parts", Wide: later(() => import("./drive/PartsView"), "PartsView") },
      { id: "power", title: "Power", Wide: later(() => import("./drive/PowerView"), "PowerView") },
      { id: "out", title: "Out", Wide: later(() => import("./drive/OutView"), "OutView") },
    ],
  },
  {
    id: "room",
    title: "Room",
    headline: ({ document: { room } }) => (room ? room.room.name : "in the open"),
    Figure: RoomFigure,
    begun: ({ document }) => !!document.room,
    Inputs: later(() => import("./room/RoomStation"), "RoomStation"),
    Picture: later(() => import("./room/RoomPicture"), "RoomPicture"),
    views: [
      { id: "where", title: "Where", Wide: later(() => import("./room/WhereView"), "WhereView") },
      { id: "waves", title: "Waves", Wide: later(() => import("./room/WavesView"), "WavesView") },
      { id: "families", title: "Families", Wide: later(() => import("./room/FamiliesView"), "FamiliesView") },
    ],
  },
  {
    id: "prove",
    title: "Prove",
    headline: () => "",
    Figure: ProveFigure,
    Inputs: later(() => import("./prove/ProveStation"), "ProveStation"),
    Picture: later(() => import("./prove/ProvePicture"), "ProvePicture"),
    views: [
      { id: "take", title: "Take", Wide: later(() => import("./prove/TakeView"), "TakeView") },
      { id: "file", title: "File", Wide: later(() => import("./prove/FileView"), "FileView") },
      { id: "alone", title: "Woofer", Wide: later(() => import("./prove/WooferView"), "WooferView") },
      {
        id: "practice",
        title: "Practice",
        Wide: later(() => import("./prove/PracticeView"), "PracticeView"),
      },
    ],
  },
  {
    id: "log",
    title: "Log",
    headline: () => "",
    Figure: LogFigure,
    Inputs: later(() => import("./log/LogStation"), "LogStation"),
    Picture: later(() => import("./log/LogPicture"), "LogPicture"),
    views: [
      { id: "habits", title: "Habits", Wide: later(() => import("./log/HabitsView"), "HabitsView") },
      { id: "out", title: "Out", Wide: later(() => import("./log/OutView"), "OutView") },
    ],
  },
  {
    id: "listen",
    title: "Listen",
    headline: () => "",
    Figure: ListenFigure,
    Inputs: later(() => import("./listen/ListenStation"), "ListenStation"),
    Picture: later(() => import("./listen/ListenPicture"), "ListenPicture"),
  },
];
