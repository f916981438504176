import { start, schemaAt } from "../../lib/schema";
import { SchemaForm } from "../../ui/SchemaForm";
import { useDocument, useWorkbench } from "../../workbench/context";
import { AirLedger } from "../box/AirLedger";

const SIZES = ["width_mm", "height_mm", "depth_mm", "panel_mm", "baffle_mm"];

/** The cabinet's outside, how its boards meet, and the sheets it is sawn from. */
export function CabinetStation() {
  const document = useDocument();
  const workbench = useWorkbench();
  if (!document.cabinet)
    return (
      <p className="py-2 text-soft">
        No cabinet yet.{" "}
        <button
          type="button"
          className="text-oak underline decoration-dotted"
          onClick={() => workbench.set("/cabinet", start(schemaAt("/cabinet", {}) ?? {}))}
        >
          State its outside
        </button>{" "}
        and its boards are worked out.
      </p>
    );
  return (
    <>
      <SchemaForm pointer="/cabinet" only={SIZES} />
      <h2 className="pt-2 font-display text-base font-semibold">At the saw</h2>
      <SchemaForm pointer="/cabinet/saw" />
      <AirLedger sizes={false} />
    </>
  );
}
