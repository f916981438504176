import { Lanes } from "../../lanes/Lanes";
import type { Scale } from "../../lanes/Lane";
import { Pegs } from "./Pegs";
import { TargetLine } from "./TargetLine";

const over = (scale: Scale) => (
  <>
    <TargetLine scale={scale} />
    <Pegs scale={scale} />
  </>
);

/** The lanes, with what can be pulled of the chain on the level lane. */
export function DrivePicture() {
  return <Lanes station="drive" over={over} />;
}
