// The published JSON Schemas of the design document, a work plan, a shelf's woofer and amplifier, as the forms read them.

import begin from "../../../docs/schema/begin.json";
import root from "../../../docs/schema/design.json";
import shelf from "../../../docs/schema/woofer.json";
import amplifier from "../../../docs/schema/amplifier.json";
import parts from "../../../docs/schema/parts.json";
import flatten from "../../../docs/schema/flatten.json";
import measurement from "../../../docs/schema/measurement.json";
import recording from "../../../docs/schema/recording.json";
import combining from "../../../docs/schema/combining.json";
import wooferWish from "../../../docs/schema/woofer-wish.json";
import work from "../../../docs/schema/work-plan.json";
import has from "../../../docs/schema/workshop-has.json";

export type Schema = {
  $ref?: string;
  type?: string | string[];
  title?: string;
  description?: string;
  properties?: Record<string, Schema>;
  required?: string[];
  items?: Schema;
  oneOf?: Schema[];
  anyOf?: Schema[];
  const?: unknown;
  default?: unknown;
  minimum?: number;
  maximum?: number;
  maxLength?: number;
  maxItems?: number;
  "x-unit"?: string;
  "x-group"?: string;
  "x-start"?: unknown;
  "x-rank"?: string;
  "x-lines"?: number;
  /** What an empty choice is called. */
  "x-empty"?: string;
};

type Root = Schema & { $defs: Record<string, Schema> };
export const designSchema = root as unknown as Root;
export const beginSchema = begin as unknown as Root;
export const shelfSchema = shelf as unknown as Root;
export const amplifierSchema = amplifier as unknown as Root;
export const workPlanSchema = work as unknown as Root;
export const workshopSchema = has as unknown as Root;
export const measurementSchema = measurement as unknown as Root;
export const recordingSchema = recording as unknown as Root;
export const combiningSchema = combining as unknown as Root;
export const wooferWishSchema = wooferWish as unknown as Root;
export const partsSchema = parts as unknown as Root;
export const flattenSchema = flatten as unknown as Root;
// all are made from the same types, so a name means the same in both
const definitions: Record<string, Schema> = {
  ...measurementSchema.$defs,
  ...recordingSchema.$defs,
  ...shelfSchema.$defs,
  ...amplifierSchema.$defs,
  ...workPlanSchema.$defs,
  ...workshopSchema.$defs,
  ...flattenSchema.$defs,
  ...partsSchema.$defs,
  ...beginSchema.$defs,
  ...designSchema.$defs,
};

/** A definition of the published schemas by its name. */
export const definition = (name: string): Schema => definitions[name] ?? {};

/** Follows a reference (or the one real member of an optional), keeping the words written beside it. */
export function resolve(schema: Schema): Schema {
  // the same answer each time, so that a field whose value stays need not be drawn again
  const known = resolved.get(schema);
  if (known) return known;
  const fresh = resolveAfresh(schema);
  resolved.set(schema, fresh);
  return fresh;
}

const resolved = new WeakMap<Schema, Schema>();

function resolveAfresh(schema: Schema): Schema {
  const real = schema.anyOf?.find((s) => s.type !== "null");
  if (real) return { ...resolve(real), ...words(schema) };
  if (!schema.$ref) return schema;
  const target = definitions[schema.$ref.replace("#/$defs/", "")];
  return target ? { ...resolve(target), ...words(schema) } : schema;
}

function words(schema: Schema): Schema {
  const { title, description, default: usual, "x-group": group, "x-empty": empty } = schema;
  return {
    ...(title !== undefined && { title }),
    ...(description !== undefined && { description }),
    ...(group !== undefined && { "x-group": group }),
    ...(empty !== undefined && { "x-empty": empty }),
    // null only says that an optional part is left out
    ...(usual !== undefined && usual !== null && { default: usual }),
  };
}

/** The schema of a place in the document; the variant of a tagged union is chosen by what stands there. */
export function schemaAt(pointer: string, document: unknown, top: Schema = designSchema): Schema | undefined {
  let schema: Schema | undefined = top;
  let here = document;
  for (const key of pointer.split("/").slice(1)) {
    schema = schema && property(resolve(schema), key, here);
    here = (here as Record<string, unknown> | undefined)?.[key];
  }
  return schema && resolve(schema);
}

function property(schema: Schema, key: string, value: unknown): Schema | undefined {
  if (schema.items) return schema.items;
  const variant = schema.oneOf ? variantOf(schema, value) : schema;
  return variant?.properties?.[key];
}

/** The property that tells the variants of a union apart; undefined for a plain choice of words. */
export function tagOf(schema: Schema): string | undefined {
  const properties = schema.oneOf?.[0]?.properties;
  return properties && Object.keys(properties).find((name) => properties[name]?.const !== undefined);
}

export function variantOf(schema: Schema, value: unknown): Schema | undefined {
  const tag = tagOf(schema);
  const given = tag && (value as Record<string, unknown> | undefined)?.[tag];
  return schema.oneOf?.find((v) => tag && v.properties?.[tag]?.const === given);
}

/** A value to begin with, from the schema's own starting values. */
export function start(schema: Schema): unknown {
  const s = resolve(schema);
  if (s["x-start"] !== undefined) return s["x-start"];
  if (s.const !== undefined) return s.const;
  if (s.default !== undefined) return s.default;
  if (s.oneOf) return start(s.oneOf[0] ?? {});
  if (s.properties) {
    const names = s.required ?? [];
    return Object.fromEntries(names.map((name) => [name, start(s.properties?.[name] ?? {})]));
  }
  return s.minimum ?? "";
}

/** Another variant of a union, keeping what both have in common. */
export function switchTo(schema: Schema, variant: Schema, old: unknown): unknown {
  const fresh = start(variant) as Record<string, unknown>;
  const before = (old ?? {}) as Record<string, unknown>;
  const tag = tagOf(schema);
  for (const name of Object.keys(variant.properties ?? {})) {
    if (name !== tag && before[name] !== undefined) fresh[name] = before[name];
  }
  return fresh;
}
