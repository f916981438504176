import { Tooltip } from "radix-ui";
import type { ReactNode } from "react";

/** A one-sentence explanation on hover and focus. */
export function Tip({ text, children }: { text: string | undefined; children: ReactNode }) {
  if (!text) return children;
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          side="bottom"
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className="z-50 max-w-72 rounded-sm border border-rule bg-panel px-2 py-1.5 text-xs text-ink"
        >
          {text}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
