import { api, get, type Quiet } from "../../api/client";
import { useAsked } from "../../workbench/asked";

/** Standing waves, fill, panels and leaks of the revision being edited. */
export const useQuiet = (): Quiet | undefined =>
  useAsked((body, signal) => get(api.POST("/api/quiet", { body, signal })));
