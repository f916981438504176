import { Tooltip } from "radix-ui";
import { useRef, useState, type ReactNode } from "react";
import { useSettings } from "../app/settings";
import type { Term } from "../lib/glossary";
import { TermDrawing } from "./TermDrawing";

/** How long a finger rests where a mouse would hover. */
const LONG_PRESS_MS = 450;

/**
 * An explanation on hover, on focus and under a finger that rests: a sentence of the place, the term that stands there, and what that does,
 * drawn. Nothing where help is closed.
 */
export function Tip({
  text,
  term,
  side = "bottom",
  children,
}: {
  text?: string | undefined;
  term?: Term | undefined;
  /** Where it opens; not over what the hand goes to next. */
  side?: "bottom" | "left";
  children: ReactNode;
}) {
  const { help } = useSettings();
  const [open, setOpen] = useState(false);
  const resting = useRef<ReturnType<typeof setTimeout>>(undefined);
  // opened by a finger it stays until the next touch: the end of this one would close it
  const held = useRef(false);
  if (!help || !(text || term)) return children;
  const release = () => clearTimeout(resting.current);
  return (
    <Tooltip.Root open={open} onOpenChange={(now) => (now || !held.current) && setOpen(now)}>
      <Tooltip.Trigger
        asChild
        onPointerDown={(e) => {
          release();
          held.current = false;
          if (e.pointerType !== "touch") return;
          resting.current = setTimeout(() => {
            held.current = true;
            setOpen(true);
          }, LONG_PRESS_MS);
        }}
        onPointerUp={release}
        onPointerCancel={release}
        onPointerMove={(e) => {
          if (e.pointerType === "touch" && Math.hypot(e.movementX, e.movementY) > 6) release();
        }}
        // a finger that rested asked for the words, not for what a press does
        onClickCapture={(e) => {
          if (!held.current) return;
          held.current = false;
          e.preventDefault();
          e.stopPropagation();
        }}
        onContextMenu={(e) => held.current && e.preventDefault()}
      >
        {children}
      </Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          side={side}
          align="start"
          sideOffset={4}
          collisionPadding={8}
          onPointerDownOutside={() => {
            held.current = false;
            setOpen(false);
          }}
          className="z-50 max-w-72 space-y-1 rounded-sm border border-rule bg-panel px-2 py-1.5 text-xs text-ink"
        >
          {text && <p>{text}</p>}
          {term && (
            <p>
              <b className="font-display">{term.name}</b> {term.says}
            </p>
          )}
          {term?.drawing && <TermDrawing drawing={term.drawing} />}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
