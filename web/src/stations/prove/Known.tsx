import { useState } from "react";
import type { Measurement, MeasurementRecord } from "../../api/client";
import { measurementSchema } from "../../lib/schema";
import { Draft, FormContext } from "../../ui/form";
import { SchemaForm } from "../../ui/SchemaForm";

type Save = (change: (document: Measurement) => Measurement) => Promise<void>;

/** What is known about a measurement: who, when, with what, where, how loud; each field is saved as it is left. */
export function Known({ record, save }: { record: MeasurementRecord; save: Save }) {
  const [form] = useState(
    () =>
      new Draft(
        measurementSchema,
        { about: record.document.about ?? {} },
        0,
        ({ about }) => void save((document) => ({ ...document, about })),
      ),
  );
  return (
    <FormContext value={form}>
      <SchemaForm pointer="/about" />
    </FormContext>
  );
}
