import type { ComponentProps, ReactNode } from "react";
import { useSettings } from "../app/settings";
import { inSystem, printUnit } from "../lib/quantity";

/** The head of a column; figures stand right, words left. A unit is told as the page is set. */
export function Head({
  left = false,
  unit,
  className = "",
  children,
  ...rest
}: ComponentProps<"th"> & { left?: boolean; unit?: string }) {
  const { system } = useSettings();
  return (
    <th scope="col" className={`font-normal ${left ? "text-left" : "text-right"} ${className}`} {...rest}>
      {children}
      {unit && <>, {printUnit(inSystem(unit, system).unit)}</>}
    </th>
  );
}

/** The row of heads. */
export function Heads({ children }: { children: ReactNode }) {
  return (
    <thead className="text-soft">
      <tr>{children}</tr>
    </thead>
  );
}

/** A row under a rule. */
export function Row({ className = "", children, ...rest }: ComponentProps<"tr">) {
  return (
    <tr className={`border-t border-rule/60 ${className}`} {...rest}>
      {children}
    </tr>
  );
}

/** What a row is about. */
export function Name({ className = "", children, ...rest }: ComponentProps<"th">) {
  return (
    <th scope="row" className={`py-0.5 text-left font-sans font-normal ${className}`} {...rest}>
      {children}
    </th>
  );
}

/** A figure in a row. */
export function Value({ className = "", children, ...rest }: ComponentProps<"td">) {
  return (
    <td className={`text-right font-mono tabular-nums ${className}`} {...rest}>
      {children}
    </td>
  );
}
