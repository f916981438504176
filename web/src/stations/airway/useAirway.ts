import { api, get, type Airway } from "../../api/client";
import { useAsked, type Question } from "../../workbench/asked";

const question: Question<Airway> = (body, signal) => get(api.POST("/api/airway", { body, signal }));

/** Everything about ports and radiators of the revision being edited. */
export const useAirway = (): Airway | undefined => useAsked(question);

/** A port by where it stands in the document. */
export const portName = (pointer: string) =>
  pointer.includes("front") ? "Front port" : pointer.includes("rear") ? "Rear port" : "Port";
