import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

export function Modal({
  title,
  open,
  onOpenChange,
  wide = false,
  children,
}: {
  title: string;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  /** As wide as the page lets it be. */
  wide?: boolean;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/30" />
        <Dialog.Content
          aria-describedby={undefined}
          // in a figure's field Escape takes back what is being typed there
          onEscapeKeyDown={(e) => {
            const field = document.activeElement;
            if (field instanceof HTMLInputElement && field.dataset.pointer) e.preventDefault();
          }}
          className={`fixed top-1/2 left-1/2 z-50 max-h-[90vh] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-sm border border-rule bg-panel p-5 ${
            wide ? "w-[min(72rem,96vw)]" : "w-[min(30rem,92vw)]"
          }`}
        >
          <Dialog.Title className="mb-3 font-display text-xl font-semibold">{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
