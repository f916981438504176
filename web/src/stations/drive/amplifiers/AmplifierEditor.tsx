import { useQueryClient } from "@tanstack/react-query";
import { api, get, type AmplifierRecord, type ShelfAmplifier } from "../../../api/client";
import { amplifiers } from "../../../api/queries";
import { amplifierSchema } from "../../../lib/schema";
import { Button } from "../../../ui/Button";
import { FormContext } from "../../../ui/form";
import { Theirs, useKept } from "../../../ui/kept";
import { SchemaForm } from "../../../ui/SchemaForm";

const EMPTY: ShelfAmplifier = {
  format: "oak-drum-amplifier",
  version: 1,
  amplifier: { name: "", maker: "", power_w: 300, load_ohm: 8, minimum_load_ohm: 4 },
};

const FIRST = ["name", "maker", "power_w", "load_ohm", "minimum_load_ohm", "second", "output_resistance_ohm"];
const SIGNAL = ["always", "equaliser", "low_cut", "low_pass", "longest_delay_ms", "polarity"];

/** One amplifier of the shelf, or a new one. */
export function AmplifierEditor({
  record,
  onBack,
  onTakenOff,
}: {
  record: AmplifierRecord | undefined;
  onBack: () => void;
  onTakenOff: (record: AmplifierRecord) => void;
}) {
  const client = useQueryClient();
  const kept = useKept<ShelfAmplifier>({
    key: `oak-drum.amplifier.${record?.id ?? "new"}`,
    schema: amplifierSchema,
    begin: record?.document ?? EMPTY,
    version: record?.version ?? 0,
    what: "amplifier",
    send: async (document, base_version) => {
      const made = record
        ? await get(
            api.PUT("/api/amplifiers/{id}", {
              params: { path: { id: record.id } },
              body: { base_version, document },
            }),
          )
        : await get(api.POST("/api/amplifiers", { body: { document } }));
      await client.invalidateQueries(amplifiers());
      return { name: made.document.amplifier.name ?? "", version: made.version };
    },
  });
  const takeOff = async () => {
    if (!record) return;
    await get(api.DELETE("/api/amplifiers/{id}", { params: { path: { id: record.id } } }));
    await client.invalidateQueries(amplifiers());
    onTakenOff(record);
  };
  const keep = async () => {
    if ((await kept.keep()) && !record) onBack();
  };
  const { amplifier } = kept.document;
  return (
    <FormContext value={kept.draft}>
      <div className="flex shrink-0 flex-wrap items-center gap-2 pb-2">
        <Button onClick={onBack}>Back to the amplifiers</Button>
        <h2 className="flex-1 truncate font-display text-xl font-semibold">
          {amplifier.name || "A new amplifier"}{" "}
          <span className="font-sans text-sm font-normal text-soft">{amplifier.maker}</span>
        </h2>
        <span role="status" className="max-w-80 text-xs text-soft">
          {kept.said}
        </span>
        {record && (
          <Button onClick={() => void takeOff()} title="Builds keep their own copy of its sheet">
            Take off the shelf
          </Button>
        )}
        <Button look="strong" onClick={() => void keep()}>
          Keep
        </Button>
      </div>
      <Theirs kept={kept} />
      <div className="grid min-h-0 flex-1 content-start gap-x-5 md:grid-cols-3 lg:overflow-y-auto">
        <section aria-label="What it gives">
          <SchemaForm pointer="/amplifier" only={FIRST} open={["What it gives"]} />
        </section>
        <section aria-label="What it can do">
          <SchemaForm pointer="/amplifier" only={SIGNAL} open={["What it can do to the signal"]} />
        </section>
        <section aria-label="The rest">
          <SchemaForm
            pointer="/amplifier"
            skip={[...FIRST, ...SIGNAL]}
            open={["What it takes", "Built in"]}
          />
          <SchemaForm pointer="" only={["notes"]} />
        </section>
      </div>
    </FormContext>
  );
}
