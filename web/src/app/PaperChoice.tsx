import { change, useSettings } from "./settings";

/** What is printed on: chosen once, kept for every print of this browser. */
export function PaperChoice() {
  const { paper } = useSettings();
  return (
    <fieldset className="flex gap-3">
      <legend className="float-left mr-3 text-soft">Paper</legend>
      {(["a4", "letter"] as const).map((p) => (
        <label key={p} className="flex items-center gap-1">
          <input
            type="radio"
            name="paper"
            className="accent-oak"
            checked={paper === p}
            onChange={() => change({ paper: p })}
          />
          {p === "a4" ? "A4" : "Letter"}
        </label>
      ))}
    </fieldset>
  );
}
