import { useState, useSyncExternalStore } from "react";
import { api, get, type MeasurementRecord } from "../../api/client";
import { combiningSchema } from "../../lib/schema";
import { Button } from "../../ui/Button";
import { Disclosure } from "../../ui/Disclosure";
import { Draft, FormContext } from "../../ui/form";
import { SchemaForm } from "../../ui/SchemaForm";
import { useCurrentPart, useDocument } from "../../workbench/context";
import { Kept, useKeeping } from "./useKeeping";

const HOW = { properties: { how: { ...combiningSchema, title: "As" } }, required: ["how"] };

/** Makes one measurement of those that are laid on. */
export function Combine({ build, laid }: { build: string; laid: MeasurementRecord[] }) {
  const document = useDocument();
  const revision = useCurrentPart((r) => r.id);
  const keeping = useKeeping();
  const [form] = useState(() => new Draft(HOW, { how: { kind: "sum", distance_m: 1 } }, 0));
  const { how } = useSyncExternalStore(form.subscribe, form.document);
  if (laid.length < 2) return null;
  const combine = () =>
    keeping.keep(() => {
      const body = { document, measurements: laid.map((m) => m.id), how: how as never, revision };
      return get(
        api.POST("/api/builds/{id}/measurements/combined", { params: { path: { id: build } }, body }),
      );
    });
  return (
    <Disclosure title="Combine what is laid on" offers indented>
      <FormContext value={form}>
        <SchemaForm pointer="" />
      </FormContext>
      <p className="py-1">
        <Button look="action" disabled={keeping.busy} onClick={() => void combine()}>
          Combine {laid.length} measurements
        </Button>
      </p>
      <Kept keeping={keeping} build={build} />
    </Disclosure>
  );
}
