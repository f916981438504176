import type { ComponentProps } from "react";
import type { RoomView } from "../../api/client";
import { FloorDrawing } from "./FloorDrawing";
import { useThings, type Up } from "./useThings";

const TITLE: Record<Up, string> = { plan: "plan", side: "side view" };
const WALLS: Record<Up, [string, string, string, string]> = {
  plan: ["left wall", "right wall", "lower wall", "upper wall"],
  side: ["left wall", "right wall", "floor", "ceiling"],
};

/** The room from above or from the side, with what stands in it; nothing of a cabin, where no place is known. */
export function RoomDrawing({
  view,
  up,
  still = false,
  ...rest
}: {
  view: RoomView | undefined;
  up: Up;
  /** Whether things are looked at alone. */
  still?: boolean;
} & Pick<
  ComponentProps<typeof FloorDrawing>,
  "chosen" | "onChoose" | "onDrawn" | "width" | "height" | "children"
>) {
  const drawn = useThings(view, up);
  if (!drawn) return null;
  const { space } = drawn.room.room;
  const walled = space.kind === "room";
  return (
    <FloorDrawing
      {...rest}
      title={TITLE[up]}
      walls={WALLS[up]}
      sides={drawn.sides}
      things={drawn.things}
      areas={drawn.areas}
      walled={walled}
      leftWall={walled || (space.kind === "outdoors" && space.wall_takes != null)}
      ground={walled || up === "side"}
      {...(!still && { onMove: drawn.move, onEnd: drawn.end })}
    />
  );
}
