import { useSyncExternalStore } from "react";

/** From here on two pictures stand side by side. */
const WIDE = "(min-width: 1700px)";

/** Whether the page is wide enough for two pictures beside each other; an enlarged page counts as the narrower one it is. */
export function useWide(): boolean {
  return useSyncExternalStore(
    (changed) => {
      if (typeof matchMedia !== "function") return () => undefined;
      const query = matchMedia(WIDE);
      query.addEventListener("change", changed);
      return () => query.removeEventListener("change", changed);
    },
    () => typeof matchMedia === "function" && matchMedia(WIDE).matches,
  );
}
