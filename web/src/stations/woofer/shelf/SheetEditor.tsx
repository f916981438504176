import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, get, type WooferRecord } from "../../../api/client";
import { woofer as wooferQuery, woofers } from "../../../api/queries";
import { FIGURES, FRAME, PROVENANCE, sheetWith } from "../../../lib/shelf";
import { Button } from "../../../ui/Button";
import { FormContext } from "../../../ui/form";
import { Theirs } from "../../../ui/kept";
import { SchemaForm } from "../../../ui/SchemaForm";
import { useWorkbench } from "../../../workbench/context";
import { Disclosure } from "../../../ui/Disclosure";

import { assumedOf, useDerived, useKeptWoofer } from "./keptWoofer";
import { Follows } from "./Follows";
import { Tags } from "./Tags";

const ORIGIN = ["provenance", "date", "by", "method", "drive_v", "hours", "note"];
const CARRIED = ["re_ohm", "sd_cm2", "le_mh", "l2_mh", "r2_ohm", "semi_inductance_k", "semi_inductance_n"];

/** One woofer of the shelf, or a new one: frame once, figures in parameter sets, what follows beside them. */
type Ways = { id: string; onBack: () => void; onTakenOff: (record: WooferRecord) => void };

export function SheetEditor({ id, onBack, onTakenOff }: Ways) {
  const { data, error } = useQuery({ ...wooferQuery(id), enabled: id !== "new", staleTime: 0 });
  if (id === "new") return <Editor id={id} record={undefined} onBack={onBack} onTakenOff={onTakenOff} />;
  if (error && !data)
    return (
      <p role="alert" className="text-brick">
        This woofer is not on the shelf.{" "}
        <button type="button" className="underline" onClick={onBack}>
          Back to the shelf
        </button>
      </p>
    );
  if (!data) return <p className="text-soft">Fetching the woofer…</p>;
  return <Editor key={data.id} id={id} record={data} onBack={onBack} onTakenOff={onTakenOff} />;
}

function Editor({ id, record, onBack, onTakenOff }: Ways & { record: WooferRecord | undefined }) {
  const client = useQueryClient();
  const workbench = useWorkbench();
  const kept = useKeptWoofer(id, record);
  const { draft, document, said } = kept;
  const [index, setIndex] = useState(document.in_use ?? 0);
  const derived = useDerived(document, index);
  const shown = document.sets[index] ? index : 0;
  const keep = async () => {
    if ((await kept.keep()) && !record) onBack();
  };
  const takeOff = async () => {
    if (!record) return;
    await get(api.DELETE("/api/woofers/{id}", { params: { path: { id: record.id } } }));
    await client.invalidateQueries(woofers());
    onTakenOff(record);
  };
  const addSet = () => {
    const from: Record<string, unknown> = document.sets[shown]?.figures ?? {};
    const figures = Object.fromEntries(CARRIED.filter((f) => from[f] !== undefined).map((f) => [f, from[f]]));
    const date = new Date().toISOString().slice(0, 10);
    draft.replace({
      ...document,
      sets: [...document.sets, { provenance: "measured_new", date, figures }],
    });
    setIndex(document.sets.length);
  };
  const dropSet = () => {
    const sets = document.sets.filter((_, i) => i !== shown);
    const used = document.in_use ?? 0;
    draft.replace({ ...document, sets, in_use: used > shown ? used - 1 : Math.min(used, sets.length - 1) });
    setIndex(0);
  };

  const assumed = assumedOf(derived, shown);
  return (
    <FormContext value={draft}>
      <div className="flex shrink-0 flex-wrap items-center gap-2 pb-2">
        <Button onClick={onBack}>Back to the shelf</Button>
        <h2 className="flex-1 truncate font-display text-xl font-semibold">
          {document.woofer.name || "A new woofer"}{" "}
          <span className="font-sans text-sm font-normal text-soft">{document.woofer.maker}</span>
        </h2>
        <span role="status" className="max-w-80 text-xs text-soft">
          {said}
        </span>
        {record && (
          <Button onClick={() => void takeOff()} title="Builds keep their own copy of its figures">
            Take off the shelf
          </Button>
        )}
        <Button
          look="action"
          disabled={!derived?.woofer}
          onClick={() =>
            workbench.take(`${document.woofer.name || "new woofer"} taken`, [
              { pointer: "/woofer", value: sheetWith(document, shown) },
            ])
          }
        >
          Put into the build
        </Button>
        <Button look="strong" onClick={() => void keep()}>
          Keep
        </Button>
      </div>
      <Theirs kept={kept} />
      <div className="grid min-h-0 flex-1 gap-x-5 md:grid-cols-3 lg:overflow-y-auto">
        <section aria-label="Woofer" className="[&_details:first-of-type]:mt-1">
          <SchemaForm pointer="/woofer" only={FRAME} assumed={assumed} open={["Limits", "Frame", "Coil"]} />
          <Tags document={document} draft={draft} />
          <SchemaForm pointer="" only={["notes"]} />
        </section>
        <section aria-label="Parameter sets">
          <div className="flex flex-wrap gap-1 pb-1">
            <div role="tablist" aria-label="Parameter sets" className="contents">
              {document.sets.map((set, i) => (
                <button
                  key={i}
                  type="button"
                  role="tab"
                  aria-selected={i === shown}
                  className={`rounded-sm border px-2 py-0.5 text-xs ${
                    i === shown ? "border-ink bg-selected" : "border-rule text-soft"
                  }`}
                  onClick={() => setIndex(i)}
                >
                  {PROVENANCE[set.provenance]}
                  {i === (document.in_use ?? 0) && <b className="text-verdigris"> in use</b>}
                </button>
              ))}
            </div>
            <button
              type="button"
              className="rounded-sm border border-dashed border-rule px-2 py-0.5 text-xs text-oak hover:border-oak"
              onClick={addSet}
            >
              Add a measurement
            </button>
          </div>
          <p className="flex gap-3 pb-1 text-xs">
            {shown !== (document.in_use ?? 0) && (
              <button
                type="button"
                className="text-oak underline"
                onClick={() => draft.replace({ ...document, in_use: shown })}
              >
                Use this set
              </button>
            )}
            {document.sets.length > 1 && (
              <button type="button" className="text-soft underline" onClick={dropSet}>
                Drop this set
              </button>
            )}
          </p>
          <SchemaForm
            key={shown}
            pointer={`/sets/${shown}/figures`}
            only={FIGURES}
            assumed={assumed}
            open={["Small signal", "Physical"]}
          />
          <Disclosure
            title="Where it comes from"
            indented
            open={document.sets[shown]?.provenance !== "data_sheet"}
          >
            <SchemaForm pointer={`/sets/${shown}`} only={ORIGIN} />
          </Disclosure>
        </section>
        <Follows document={document} index={shown} derived={derived} />
      </div>
    </FormContext>
  );
}
