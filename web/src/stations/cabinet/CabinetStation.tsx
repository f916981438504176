import { SchemaForm } from "../../ui/SchemaForm";
import { useDocument } from "../../workbench/context";
import { AirLedger } from "../box/AirLedger";
import { NoCabinet } from "../box/NoCabinet";

const SIZES = ["width_mm", "height_mm", "depth_mm", "panel_mm", "baffle_mm"];

/** The cabinet's outside, how its boards meet, and the sheets it is sawn from. */
export function CabinetStation() {
  const document = useDocument();
  if (!document.cabinet) return <NoCabinet then="and its boards are worked out." />;
  return (
    <>
      <SchemaForm pointer="/cabinet" only={SIZES} />
      <h2 className="pt-2 font-display text-base font-semibold">At the saw</h2>
      <SchemaForm pointer="/cabinet/saw" />
      <AirLedger sizes={false} />
    </>
  );
}
