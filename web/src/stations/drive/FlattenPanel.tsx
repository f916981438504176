import { useState } from "react";
import { api, get, type Design, type FlattenResult } from "../../api/client";
import { flattenSchema } from "../../lib/schema";
import { tidy } from "../../lib/quantity";
import { Draft } from "../../ui/form";
import { useWorkbench } from "../../workbench/context";
import { Wished } from "./Wished";

/** What a design asks for first: the bands its amplifier has, over what it plays. */
function first(document: Design | undefined) {
  const own = document?.chain?.amplifier?.equaliser;
  return {
    bands: own?.bands ?? 1,
    from_hz: document?.brief?.lowest_note_hz ?? 25,
    to_hz: document?.brief?.plays_to_hz ?? 120,
    target: { kind: "flat" as const },
    stage: own ? ("amplifier" as const) : ("line" as const),
  };
}

type Wish = ReturnType<typeof first>;

const ask = (document: Design, flatten: Wish): Promise<FlattenResult> =>
  get(api.POST("/api/drive/flatten", { body: { document, flatten } }));

/** Bands that bring the level near a target: asked for, looked at, taken with one press. */
export function FlattenPanel() {
  const workbench = useWorkbench();
  const [draft] = useState(() => new Draft<Wish>(flattenSchema, first(workbench.current?.document), 0));
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
