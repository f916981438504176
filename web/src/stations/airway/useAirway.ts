import { api, get, type Airway } from "../../api/client";
import { postJson } from "../../api/courier";
import { useDocumentQuery, type Question } from "../../workbench/documentQuery";
import { RESTED_MS } from "../../workbench/asker";

const alone: Question<Airway> = (body, signal) =>
  postJson<Airway>("/api/airway?without_trade=true", body, signal);
const whole: Question<Airway> = (body, signal) => get(api.POST("/api/airway", { body, signal }));

/** Ports and radiators of the revision being edited, the trade-offs aside: they follow the hand. */
export const useAirway = (): Airway | undefined => useDocumentQuery(alone);

/** The trade-off of a port, once the hand rests. */
export const useTrade = (pointer: string) =>
  useDocumentQuery(whole, RESTED_MS)?.ports.find((p) => p.pointer === pointer)?.trade ?? undefined;

/** A port by where it stands in the document. */
export const portName = (pointer: string) =>
  pointer.includes("front") ? "Front port" : pointer.includes("rear") ? "Rear port" : "Port";
