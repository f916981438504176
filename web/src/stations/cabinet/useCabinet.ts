import { api, get, type Building, type CabinetView, type Cutting, type DrawingSheet } from "../../api/client";
import { postJson } from "../../api/courier";
import { useDocumentQuery, useQueryAbout, type Question } from "../../workbench/documentQuery";
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

/** How the cabinet stands: boards, faces, mounted_parts, clearances. */
export const useCabinet = () => useDocumentQuery(cabinet);
/** Cut list and sheets. */
export const useCutting = () => useDocumentQuery(cutting);
/** Steps, materials, cost. */
export const useBuilding = () => useQueryAbout(building, pricedOf);
/** Every drawing. */
export const useDrawings = () => useDocumentQuery(drawings);
