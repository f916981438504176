import { useEffect, useSyncExternalStore } from "react";
import { api, get, type Design, type FlattenResult } from "../../api/client";
import { tidy } from "../../lib/quantity";
import { useWorkbench } from "../../workbench/context";
import { begun, wishOf, type Wish } from "./target";
import { Wished } from "./Wished";

const ask = (document: Design, flatten: Wish): Promise<FlattenResult> =>
  get(api.POST("/api/drive/flatten", { body: { document, flatten } }));

/** Bands that bring the level near a target: asked for, looked at, taken with one press. */
export function FlattenPanel() {
  const draft = wishOf(useWorkbench());
  const wish = useSyncExternalStore(draft.subscribe, draft.document);
  const drawn = wish.target.kind === "drawn";
  const places = wish.target.kind === "drawn" ? wish.target.points : undefined;
  useEffect(() => {
    if (drawn && !(Array.isArray(places) && places.length)) draft.set("/target/points", begun(wish));
  }, [drawn, places, draft, wish]);
  return (
    <Wished
      title="Flatten it"
      draft={draft}
      from="/flatten"
      find="Find bands"
      ask={ask}
      take="Take them"
      taken="Flattened"
      testid="flattened"
      note={
        drawn &&
        "Pull the line on the level lane; press it for a further place, Delete takes one out. Its shape counts, not where it lies."
      }
    >
      {(found) => (
        <>
          <p>
            Off by <b>{found.before_db.toFixed(1)} dB</b> rms now, <b>{found.after_db.toFixed(1)} dB</b> with{" "}
            {found.bands.length === 1 ? "this band" : `these ${found.bands.length} bands`}
            {typeof found.fuller_db === "number" && found.fuller_db < found.after_db - 0.1
              ? `; an equaliser without its bounds would reach ${found.fuller_db.toFixed(1)} dB`
              : ""}
            .
          </p>
          <ul className="font-mono">
            {found.bands.map((b, i) => (
              <li key={i}>
                {tidy(b.frequency_hz, 3)} Hz {b.level_db > 0 ? "+" : ""}
                {b.level_db.toFixed(1)} dB, Q {tidy(b.q, 2)}
              </li>
            ))}
          </ul>
        </>
      )}
    </Wished>
  );
}
