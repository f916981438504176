import { useLayoutEffect, useRef, useState, type ReactNode } from "react";

/** What may be wider than the page: it is moved sideways in its own place, by a finger or, where it is too wide, by the keys. */
export function Sideways({ label, children }: { label: string; children: ReactNode }) {
  const place = useRef<HTMLDivElement>(null);
  const [wide, setWide] = useState(false);
  useLayoutEffect(() => {
    const seen = place.current;
    if (!seen || typeof ResizeObserver !== "function") return;
    const measure = () => setWide(seen.scrollWidth > seen.clientWidth + 1);
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(seen);
    for (const child of seen.children) observer.observe(child);
    return () => observer.disconnect();
  }, [children]);
  return (
    <div
      ref={place}
      className="overflow-x-auto"
      {...(wide && { tabIndex: 0, role: "region", "aria-label": `${label}, moved sideways` })}
    >
      {children}
    </div>
  );
}
