import { useSettings } from "../../app/settings";
import { printUnit, show } from "../../lib/quantity";
import { SchemaForm } from "../../ui/SchemaForm";
import { useDocument } from "../../workbench/context";
import { AirLedger } from "../enclosure/AirLedger";
import { MakeCabinet } from "../enclosure/MakeCabinet";
import { NoCabinet } from "../enclosure/NoCabinet";
import { Disclosure } from "../../ui/Disclosure";
import { useCabinet } from "./useCabinet";

const SIZES = ["held", "width_mm", "height_mm", "depth_mm", "panel_mm", "baffle_mm", "baffle_layers"];
const MORE = [
  "shape",
  "fold",
  "strips_mm",
  "bracing_l",
  "amplifier",
  "terminals",
  "recess_mm",
  "feet_mm",
  "round_over_mm",
  "veneer_mm",
];
const ASSUMED = { "/cabinet/fold/board_mm": "as the walls" };
const PATHS = ["transmission_line", "front_horn", "back_horn", "tapped_horn"];
const WORDS: Record<string, string> = { width_mm: "Width", height_mm: "Height", depth_mm: "Depth" };

/** The cabinet's outside, what of it is held, its shape and what sits in it. */
export function CabinetStation() {
  const document = useDocument();
  if (!document.cabinet) return <NoCabinet then="and its boards are worked out." />;
  const more = PATHS.includes(document.enclosure.family) ? MORE : MORE.filter((f) => f !== "fold");
  return (
    <>
      <SchemaForm pointer="/cabinet" only={SIZES} />
      <Follows />
      <SchemaForm pointer="/cabinet" only={more} assumed={ASSUMED} />
      <AirLedger sizes={false} />
      <Disclosure title="Another form">
        <div className="py-2">
          <MakeCabinet />
        </div>
      </Disclosure>
    </>
  );
}

/** What follows from what is held, in figures. */
function Follows() {
  const cabinet = useCabinet();
  const { system } = useSettings();
  if (!cabinet?.follows.length) return null;
  const words = cabinet.follows.map((name) => {
    if (name === "volume") {
      const litres = show(cabinet.wanted_net_l, "L", system, 4);
      return `Net volume follows: ${litres.text} ${printUnit(litres.unit)}`;
    }
    const side = cabinet.outside_mm[["width_mm", "height_mm", "depth_mm"].indexOf(name)] ?? 0;
    const shown = show(side, "mm", system);
    return `${WORDS[name]} follows: ${shown.text} ${printUnit(shown.unit)}`;
  });
  return (
    <p className="border-b border-rule/70 py-[5px] text-verdigris" data-testid="follows">
      {words.join("; ")}. The field above keeps what was typed.
    </p>
  );
}
