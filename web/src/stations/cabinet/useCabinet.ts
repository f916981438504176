import { api, get, type Bench, type CabinetView, type Cutting, type DrawingSheet } from "../../api/client";
import { postJson } from "../../api/courier";
import { useAsked, type Question } from "../../workbench/asked";

const cabinet: Question<CabinetView | undefined> = (body, signal) =>
  body.cabinet ? postJson<CabinetView>("/api/cabinet", body, signal) : Promise.resolve(undefined);
const cutting: Question<Cutting | undefined> = (body, signal) =>
  body.cabinet ? get(api.POST("/api/cutting", { body, signal })) : Promise.resolve(undefined);
const bench: Question<Bench | undefined> = (body, signal) =>
  body.cabinet ? get(api.POST("/api/bench", { body, signal })) : Promise.resolve(undefined);
const drawings: Question<DrawingSheet[] | undefined> = (body, signal) =>
  body.cabinet ? get(api.POST("/api/drawings", { body, signal })) : Promise.resolve(undefined);

/** How the cabinet stands: boards, faces, seats, clearances. */
export const useCabinet = () => useAsked(cabinet);
/** Cut list and sheets. */
export const useCutting = () => useAsked(cutting);
/** Steps, materials, cost. */
export const useBench = () => useAsked(bench);
/** Every drawing. */
export const useDrawings = () => useAsked(drawings);
