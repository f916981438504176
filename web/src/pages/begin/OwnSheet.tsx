import type { ShelfWoofer } from "../../api/client";
import { FormContext } from "../../ui/form";
import type { Kept } from "../../ui/kept";
import { SchemaForm } from "../../ui/SchemaForm";
import { assumedOf, useDerived } from "../../stations/woofer/shelf/keptWoofer";

const FRAME = ["name", "maker", "size_in", "xmax_mm", "power_w", "nominal_ohm"];
const FIGURES = ["fs_hz", "qms", "qes", "qts", "vas_l", "re_ohm", "sd_cm2"];

/** A woofer's sheet as far as a first box needs it; what follows from the rest need not be typed. */
export function OwnSheet({ kept }: { kept: Kept<ShelfWoofer> }) {
  const assumed = assumedOf(useDerived(kept.document, 0), 0);
  return (
    <FormContext value={kept.draft}>
      <div className="grid gap-x-6 md:grid-cols-2">
        <div>
          <SchemaForm pointer="/woofer" only={FRAME} open={["Limits"]} />
        </div>
        <div>
          <SchemaForm
            pointer="/sets/0/figures"
            only={FIGURES}
            assumed={assumed}
            open={["Small signal", "Physical"]}
          />
        </div>
      </div>
      <p role="status" className="text-xs text-soft empty:hidden">
        {kept.said}
      </p>
      <p className="text-xs text-soft">
        Of Qms, Qes and Qts two are enough. It is put on the shelf as it is typed; sizes, inductance and
        measurements are added there.
      </p>
    </FormContext>
  );
}
