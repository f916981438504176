import type { Taken } from "../../api/client";
import { QuantityField } from "../../ui/QuantityField";
import { amountOf } from "./places";

/** How much it is of what belongs to a place: a mass, a volume, a distance. */
export function Amount({ taken, onChange }: { taken: Taken; onChange: (taken: Taken) => void }) {
  const amount = amountOf(taken);
  if (!amount) return null;
  const { label, unit, value, min, max, at } = amount;
  return (
    <div className="max-w-60">
      <QuantityField
        label={label}
        unit={unit}
        value={value}
        min={min}
        max={max}
        onChange={(v) => v !== undefined && onChange({ ...taken, [at]: v })}
      />
    </div>
  );
}
