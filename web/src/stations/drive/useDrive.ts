import { api, get, type DriveView } from "../../api/client";
import { postJson } from "../../api/courier";
import { READ_EVERY_MS, RESTED_MS } from "../../workbench/asker";
import { useDocumentQuery, type Question } from "../../workbench/documentQuery";

const alone: Question<DriveView> = (body, signal) =>
  postJson<DriveView>("/api/drive?without_low_cut=true", body, signal);
const whole: Question<DriveView> = (body, signal) => get(api.POST("/api/drive", { body, signal }));

const READ = { everyMs: READ_EVERY_MS };

/** The chain of the revision being edited, member by member: as often as one reads while something is pulled at. */
export const useDrive = (): DriveView | undefined => useDocumentQuery(alone, READ);

/** The low cuts that save the cone, once the hand rests. */
export const useLowCut = () => useDocumentQuery(whole, RESTED_MS)?.low_cut;
