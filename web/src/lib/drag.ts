import { Lens } from "./lens";
import { useCallback, useEffect, useRef, type PointerEvent as ReactPointerEvent } from "react";

type Drag<From, E extends Element> = {
  /** What is held when the pointer goes down; nothing to hold ends it there. */
  begin: (event: ReactPointerEvent<E>) => From | null;
  move: (event: { clientX: number; clientY: number }, from: From, element: E) => void;
  end?: () => void;
};

// Moves are taken as they come where the browser tells of them, not once before each frame: the answer is then on its way while
// the frame before is still being drawn.
const MOVE = "onpointerrawupdate" in window ? "pointerrawupdate" : "pointermove";

/** Handlers of something that is pulled at, however quickly the hand moves. */
export function useDrag<From, E extends Element>({ begin, move, end }: Drag<From, E>) {
  const latest = useRef({ move, end });
  useEffect(() => {
    latest.current = { move, end };
  });
  const release = useRef<(() => void) | null>(null);
  const done = useCallback(() => {
    release.current?.();
    release.current = null;
    latest.current.end?.();
  }, []);
  useEffect(() => () => release.current?.(), []);
  return {
    onPointerDown: (event: ReactPointerEvent<E>) => {
      const from = begin(event);
      if (from === null) return;
      release.current?.();
      const element = event.currentTarget;
      element.setPointerCapture(event.pointerId);
      // a finger hides what it pulls at
      const lens = event.pointerType === "touch" ? new Lens(element) : undefined;
      lens?.follow(event);
      const follow = (e: Event) => {
        latest.current.move(e as PointerEvent, from, element);
        lens?.follow(e as PointerEvent);
      };
      element.addEventListener(MOVE, follow);
      // a finger on a part of a drawing would scroll the page all the same: browsers do not heed its touch-action everywhere
      const stay = (e: Event) => e.preventDefault();
      element.addEventListener("touchmove", stay, { passive: false });
      release.current = () => {
        element.removeEventListener(MOVE, follow);
        element.removeEventListener("touchmove", stay);
        lens?.close();
      };
    },
    onPointerUp: done,
    onPointerCancel: done,
  };
}
