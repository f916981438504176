import { api, get, type Building, type CabinetView, type Cutting, type DrawingSheet } from "../../api/client";
import { postJson } from "../../api/courier";
import { useAsked, useAskedAbout, type Question } from "../../workbench/asked";
import type { OpenRevision, Priced } from "../../workbench/workbench";

const cabinet: Question<CabinetView | undefined> = (body, signal) =>
  body.cabinet ? postJson<CabinetView>("/api/cabinet", body, signal) : Promise.resolve(undefined);
const cutting: Question<Cutting | undefined> = (body, signal) =>
  body.cabinet ? get(api.POST("/api/cutting", { body, signal })) : Promise.resolve(undefined);
const building: Question<Building | undefined, Priced> = (body, signal) =>
  body.document.cabinet ? get(api.POST("/api/building", { body, signal })) : Promise.resolve(undefined);
const drawings: Question<DrawingSheet[] | undefined> = (body, signal) =>
  body.cabinet ? get(api.POST("/api/drawings", { body, signal })) : Promise.resolve(undefined);

const pricedOf = (revision: OpenRevision) => revision.priced;

/** How the cabinet stands: boards, faces, seats, clearances. */
export const useCabinet = () => useAsked(cabinet);
/** Cut list and sheets. */
export const useCutting = () => useAsked(cutting);
/** Steps, materials, cost. */
export const useBuilding = () => useAskedAbout(building, pricedOf);
/** Every drawing. */
export const useDrawings = () => useAsked(drawings);
