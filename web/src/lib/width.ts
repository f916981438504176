import { useLayoutEffect, useRef, useState, type RefObject } from "react";

/**
 * How wide something stands on the page, px, at most as given: what is drawn to it keeps its letters readable where there is little
 * room, and grows as a whole where there is more.
 */
export function useWidth<E extends Element>(most: number): [RefObject<E | null>, number] {
  const element = useRef<E>(null);
  const [width, setWidth] = useState(most);
  useLayoutEffect(() => {
    const seen = element.current;
    if (!seen || typeof ResizeObserver !== "function") return;
    const measure = () => {
      const now = Math.round(seen.getBoundingClientRect().width);
      if (now > 0) setWidth(Math.min(now, most));
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(seen);
    return () => observer.disconnect();
  }, [most]);
  return [element, width];
}
