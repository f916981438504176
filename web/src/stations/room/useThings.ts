import type { RoomView } from "../../api/client";
import { useDocument, useWorkbench } from "../../workbench/context";
import type { Area, Thing } from "./FloorDrawing";
import { footprintOf, heightOf, LOOKS, sidesOf, snapped, stuck, type InRoom } from "./places";

/** Which axis of the room runs up a drawing: its width on the plan, its height on the side view. */
export type Up = "plan" | "side";

/** What stands in the room, for a drawing, and what moves it. */
export function useThings(view: RoomView | undefined, up: Up) {
  const room = useDocument().room;
  const workbench = useWorkbench();
  if (!room) return undefined;
  const sides = sidesOf(room.room.space);
  if (!sides) return undefined;
  const breadth = up === "plan" ? sides[1] : sides[2];
  const move = (thing: Thing, [h, v]: [number, number], gesture: string, exact: boolean) => {
    const put = (at: number, long: number, side: number) =>
      exact || room.room.space.kind === "outdoors" ? Number(at.toFixed(4)) : snapped(at, long, side);
    const list = thing.kind === "cabinet" ? "cabinets" : "seats";
    const upper = thing.kind === "cabinet" ? "raised_m" : "ears_m";
    const height = thing.kind === "cabinet" ? thing.long[1] / 2 : 0;
    workbench.change(
      [
        { pointer: `/room/${list}/${thing.index}/x_m`, value: put(h, thing.long[0], sides[0]) },
        up === "plan"
          ? { pointer: `/room/${list}/${thing.index}/y_m`, value: put(v, thing.long[1], sides[1]) }
          : {
              pointer: `/room/${list}/${thing.index}/${upper}`,
              value: Math.max(Number((put(v, thing.long[1], sides[2]) - height).toFixed(4)), 0),
            },
      ],
      gesture,
    );
  };
  return {
    room,
    sides: [sides[0], breadth] as [number, number],
    things: things(room, view, up),
    areas: up === "plan" ? areas(room) : [],
    move,
    end: () => workbench.endGesture(),
  };
}

function areas(room: InRoom): Area[] {
  return (room.room.kept_free ?? []).map((free) => ({
    name: free.name ?? "",
    at: [free.x_m, free.y_m],
    long: [free.length_m, free.width_m],
  }));
}

function things(room: InRoom, view: RoomView | undefined, up: Up): Thing[] {
  const plan = up === "plan";
  const cabinets = room.cabinets.map((cabinet, index): Thing => {
    const [along, across] = footprintOf(view, index);
    const height = heightOf(view, index);
    const [dx = 0, dy = 0] = LOOKS[cabinet.faces ?? "right"] ?? [];
    return {
      kind: "cabinet",
      index,
      at: [cabinet.x_m, plan ? cabinet.y_m : (cabinet.raised_m ?? 0) + height / 2],
      long: [along, plan ? across : height],
      name: `Cabinet ${index + 1}`,
      label: String(index + 1),
      wrong: stuck(view, { kind: "cabinet", index }),
      looks: plan ? [dx, dy] : dx ? [dx, 0] : undefined,
    };
  });
  const seats = room.seats.map((seat, index): Thing => ({
    kind: "seat",
    index,
    at: [seat.x_m, plan ? seat.y_m : (seat.ears_m ?? 1.2)],
    long: [0, 0],
    name: seat.name || `Seat ${index + 1}`,
    label: letter(index),
    wrong: stuck(view, { kind: "seat", index }),
  }));
  return [...cabinets, ...seats];
}

/** Seats go by letters, as cabinets go by numbers. */
export const letter = (index: number) => String.fromCharCode(97 + index);
