import { Popover } from "radix-ui";
import type { Bill } from "../../api/client";
import { useSay, useSettings } from "../../app/settings";
import { inSystem, printUnit } from "../../lib/quantity";
import { useCurrentPart, useWorkbench } from "../../workbench/context";
import { paidFor, type Bought } from "../../workbench/plan";

type Item = Bill["items"][number];

/** What was paid for a line: pressed, it asks for the sum, how much was bought, what is left, and where. */
export function Paid({ item }: { item: Item }) {
  const workbench = useWorkbench();
  const line = useCurrentPart((r) => r.work.bought?.find((b) => b.item === item.id));
  const keep = (change: Partial<Bought>) => workbench.changeWork((plan) => paidFor(plan, item.id, change));
  const what = useSay()(item.what);
  // typed and told as the page is set, kept as the list has it
  const { times, unit: told } = inSystem(item.unit, useSettings().system);
  const unit = printUnit(told);
  const shown = (value: number | null | undefined) =>
    value == null ? value : Number((value * times).toPrecision(4));
  const typed = (value: number | undefined) =>
    value === undefined ? value : Number((value / times).toPrecision(6));
  return (
    <Popover.Root>
      <Popover.Trigger
        className="tabular-nums text-oak underline decoration-dotted"
        aria-label={line?.paid == null ? `Paid for ${what}` : `Paid for ${what}: ${line.paid.toFixed(2)}`}
      >
        {line?.paid == null ? "…" : line.paid.toFixed(2)}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          collisionPadding={8}
          className="z-50 w-64 space-y-1.5 rounded-sm border border-rule bg-panel p-3 text-sm"
        >
          <p className="font-semibold">{what}</p>
          <Amount label="Paid altogether" value={line?.paid} set={(paid) => keep({ paid })} />
          <Amount
            label={unit ? `Bought, ${unit}` : "Bought"}
            value={shown(line?.quantity)}
            empty={shown(item.quantity) ?? undefined}
            set={(quantity) => keep({ quantity: typed(quantity) })}
          />
          <Amount
            label={unit ? `Left over, ${unit}` : "Left over"}
            value={shown(line?.left)}
            set={(left) => keep({ left: typed(left) })}
          />
          <label className="grid grid-cols-[minmax(0,1fr)_7rem] items-center gap-2">
            <span className="text-soft">Shop</span>
            <input
              className="h-7 min-w-0 rounded-sm border border-rule bg-ground px-2"
              maxLength={200}
              value={line?.shop ?? ""}
              onChange={(e) => keep({ shop: e.target.value })}
            />
          </label>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Amount({
  label,
  value,
  empty,
  set,
}: {
  label: string;
  value: number | null | undefined;
  empty?: number;
  set: (value: number | undefined) => void;
}) {
  return (
    <label className="grid grid-cols-[minmax(0,1fr)_7rem] items-center gap-2">
      <span className="text-soft">{label}</span>
      <input
        type="number"
        min={0}
        max={100000}
        step="any"
        className="h-7 min-w-0 rounded-sm border border-rule bg-ground px-2 text-right"
        placeholder={empty === undefined ? "" : String(Number(empty.toPrecision(4)))}
        value={value ?? ""}
        onChange={(e) => {
          const typed = e.target.valueAsNumber;
          set(Number.isFinite(typed) && typed >= 0 ? Math.min(typed, 100000) : undefined);
        }}
      />
    </label>
  );
}
