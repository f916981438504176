import { openPalette } from "./Palette";
import { change, useSettings } from "./settings";

/** What is set for every page: units, light; and the way to all the rest. */
export function Preferences() {
  const { system, theme } = useSettings();
  return (
    <div className="flex items-center gap-2 whitespace-nowrap text-soft">
      <button
        type="button"
        title="Go to, do or set anything by its name ( Ctrl K )"
        onClick={openPalette}
        className="hover:text-ink"
      >
        Find
      </button>
      <button
        type="button"
        title="Units"
        onClick={() => change({ system: system === "metric" ? "inch" : "metric" })}
        className="hover:text-ink"
      >
        <span className={system === "metric" ? "font-semibold text-ink" : ""}>mm</span> |{" "}
        <span className={system === "inch" ? "font-semibold text-ink" : ""}>inch</span>
      </button>
      <button
        type="button"
        aria-label={theme === "dark" ? "Day light" : "Evening light"}
        title={theme === "dark" ? "Day light" : "Evening light"}
        onClick={() => change({ theme: theme === "dark" ? "light" : "dark" })}
        className="hover:text-ink"
      >
        {theme === "dark" ? "☀" : "☾"}
      </button>
    </div>
  );
}
