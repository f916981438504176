import { useState } from "react";
import { api, get, Refused, type FlattenResult } from "../../api/client";
import { flattenSchema } from "../../lib/schema";
import { tidy } from "../../lib/quantity";
import { Button } from "../../ui/Button";
import { Disclosure } from "../../ui/Disclosure";
import { Draft, FormContext } from "../../ui/form";
import { SchemaForm } from "../../ui/SchemaForm";
import { useDocument, useWorkbench } from "../../workbench/context";

type Wish = {
  bands: number;
  from_hz: number;
  to_hz: number;
  target: { kind: "flat" };
  stage: "line" | "amplifier" | "player";
};

/** Bands that bring the level near a target: asked for, looked at, taken with one press. */
export function FlattenPanel() {
  const document = useDocument();
  const workbench = useWorkbench();
  const [draft] = useState(
    () =>
      new Draft<Wish>(
        flattenSchema,
        {
          bands: document.chain?.amplifier?.equaliser?.bands ?? 1,
          from_hz: document.brief?.lowest_note_hz ?? 25,
          to_hz: document.brief?.plays_to_hz ?? 120,
          target: { kind: "flat" },
          stage: document.chain?.amplifier?.equaliser ? "amplifier" : "line",
        },
        0,
      ),
  );
  const [found, setFound] = useState<FlattenResult | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const find = async () => {
    setBusy(true);
    setWrong(null);
    try {
      const flatten = draft.document() as never;
      setFound(await get(api.POST("/api/drive/flatten", { body: { document, flatten } })));
      draft.say(undefined);
    } catch (cause) {
      setFound(null);
      if (cause instanceof Refused) {
        const errors = cause.problem?.errors ?? [];
        draft.say(errors.map((e) => ({ ...e, pointer: e.pointer.replace(/^\/flatten/, "") })));
        setWrong(cause.message);
      } else setWrong("That did not work.");
    } finally {
      setBusy(false);
    }
  };
  return (
    <Disclosure title="Flatten it" indented>
      <FormContext value={draft}>
        <SchemaForm pointer="" />
      </FormContext>
      <div className="flex items-baseline gap-2 pt-1">
        <Button look="action" disabled={busy} onClick={() => void find()}>
          {busy ? "Looking…" : "Find bands"}
        </Button>
        {wrong && (
          <span role="alert" className="text-xs text-brick">
            {wrong}
          </span>
        )}
      </div>
      {found && (
        <div className="pt-1 text-xs" data-testid="flattened">
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
          <Button look="action" onClick={() => workbench.take("Flattened", found.changes)}>
            Take them
          </Button>
        </div>
      )}
    </Disclosure>
  );
}
