// Every field of a document, found by walking its published schema beside what stands in it.

import { designSchema, resolve, tagOf, variantOf, type Schema } from "./schema";

/** A field: where it is, what it is called, and the names of what it lies in, from the outside in. */
export type FieldOf = { pointer: string; title: string; within: string[]; help?: string };

/** All that can be typed or chosen in this document, in the order of its schema. */
export function fieldsOf(document: unknown, schema: Schema = designSchema): FieldOf[] {
  const list: FieldOf[] = [];
  walk(resolve(schema), document, "", [], list);
  return list;
}

function walk(schema: Schema, value: unknown, pointer: string, within: string[], list: FieldOf[]) {
  const variant = schema.oneOf ? variantOf(schema, value) : schema;
  const tag = tagOf(schema);
  const inside = (value ?? {}) as Record<string, unknown>;
  for (const [name, raw] of Object.entries(variant?.properties ?? {})) {
    if (name === tag) continue;
    const part = resolve(raw);
    const here = `${pointer}/${name}`;
    const title = part.title ?? "";
    if (part.items) {
      const items = resolve(part.items);
      const entries = Array.isArray(inside[name]) ? (inside[name] as unknown[]) : [];
      entries.forEach((entry, i) => {
        const called = `${items.title ?? title} ${i + 1}`;
        walk(items, entry, `${here}/${i}`, [...within, called], list);
      });
    } else if (part.properties || tagOf(part)) {
      if (inside[name] === undefined) {
        if (title) list.push(field(here, title, within, part));
      } else walk(part, inside[name], here, title ? [...within, title] : within, list);
    } else if (title) list.push(field(here, title, within, part));
  }
}

const field = (pointer: string, title: string, within: string[], { description }: Schema): FieldOf => ({
  pointer,
  title,
  within,
  ...(description && { help: description }),
});
