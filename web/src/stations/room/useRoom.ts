import { api, get, type Design, type RoomView } from "../../api/client";
import { postJson } from "../../api/courier";
import { RESTED_MS } from "../../workbench/asker";
import { useDocumentQuery, type Question } from "../../workbench/documentQuery";

/** Nothing is asked about a build that stands in no room. */
const unless = (ask: Question<RoomView>): Question<RoomView | undefined> => {
  return async (body: Design, signal) => (body.room ? ask(body, signal) : undefined);
};

const quick = unless((body, signal) => postJson<RoomView>("/api/room?curves_alone=true", body, signal));
const whole = unless((body, signal) => get(api.POST("/api/room", { body, signal })));

/** What is heard at every seat, as things are moved: it follows the hand. */
export const useHeard = (): RoomView | undefined => useDocumentQuery(quick);

/** The same with standing waves and the neighbour, once the hand rests. */
export const useRoom = (): RoomView | undefined => useDocumentQuery(whole, RESTED_MS);
