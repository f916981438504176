import type { Spent } from "../../api/client";

/** What was paid against what was planned, what is still to come, and what the next one would cost. */
export function SpentSoFar({ spent, currency }: { spent: Spent; currency: string | undefined }) {
  const money = (value: number) => `${value.toFixed(2)}${currency ? ` ${currency}` : ""}`;
  // a line without a plan is not dearer than it
  const off = spent.lines.reduce((sum, l) => (l.planned == null ? sum : sum + l.paid - l.planned), 0);
  const lines: [string, number][] = [
    ["paid so far", spent.paid],
    ["planned for those lines", spent.planned],
    ["still to come, as planned", spent.to_come],
    ["worth of what is left over", spent.left_worth],
    ["the next one, with what is left over", spent.next],
  ];
  return (
    <dl className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-3 text-xs" data-testid="spent">
      {lines.map(([what, value]) => (
        <div key={what} className="contents">
          <dt className="text-soft">{what}</dt>
          <dd className="text-right tabular-nums">{money(value)}</dd>
        </div>
      ))}
      {spent.planned > 0 && Math.abs(off) >= 0.005 && (
        <dt className="col-span-2 pt-1">
          {money(Math.abs(off))} {off > 0 ? "more" : "less"} than was planned for what had a price.
        </dt>
      )}
    </dl>
  );
}
