import { memo, type ReactNode } from "react";
import { termOfField, type Term } from "../lib/glossary";
import { at } from "../lib/pointer";
import { resolve, schemaAt, start, switchTo, tagOf, variantOf, type Schema } from "../lib/schema";
import { useForm, useFormPart, useFormProblem, useFormValue } from "./form";
import { QuantityField, type Empty } from "./QuantityField";
import { Tip } from "./Tip";
import { Disclosure } from "./Disclosure";

import { Select } from "./Select";
const NOTHING: string[] = [];

/** What an empty field is taken for, by pointer. */
export type Assumed = Record<string, Empty>;

type Common = {
  assumed?: Assumed;
  seed?: (pointer: string) => unknown;
  /** Narrower bounds of a number than the schema's, by pointer. */
  within?: (pointer: string) => [number, number] | undefined;
  /** Groups that are open from the start. */
  open?: string[];
};

/**
 * Fields for a place of the current design (or of the form's own document), made from the published schema: a new parameter or family needs no
 * change here.
 */
export const SchemaForm = memo(function SchemaForm({
  pointer,
  only,
  skip = NOTHING,
  ...common
}: { pointer: string; only?: string[]; skip?: string[] } & Common) {
  const form = useForm();
  // drawn again only when another variant stands there, not when a value changes
  const schema = useFormPart((document) => schemaAt(pointer, document, form.schema));
  const object = useFormPart((document) =>
    schema?.oneOf ? variantOf(schema, at(document, pointer)) : schema,
  );
  if (!schema) return null;
  const tag = schema.oneOf ? tagOf(schema) : undefined;
  const names = Object.keys(object?.properties ?? {}).filter(
    (name) => name !== tag && !skip.includes(name) && (!only || only.includes(name)),
  );
  return <Fields parent={object ?? {}} pointer={pointer} names={names} {...common} />;
});

function Fields({
  parent,
  pointer,
  names,
  ...common
}: { parent: Schema; pointer: string; names: string[] } & Common) {
  const loose: ReactNode[] = [];
  const groups = new Map<string, ReactNode[]>();
  for (const name of names) {
    const schema = resolve(parent.properties?.[name] ?? {});
    const field = (
      <Field
        {...common}
        key={name}
        schema={schema}
        pointer={`${pointer}/${name}`}
        optional={!parent.required?.includes(name)}
        nullable={!!parent.properties?.[name]?.anyOf?.some((s) => s.type === "null")}
      />
    );
    const group = schema["x-group"];
    if (group) groups.set(group, [...(groups.get(group) ?? []), field]);
    else loose.push(field);
  }
  return (
    <>
      {loose}
      {[...groups].map(([title, fields]) => (
        <Disclosure title={title} indented key={title} open={common.open?.includes(title)}>
          {fields}
        </Disclosure>
      ))}
    </>
  );
}

type FieldProps = { schema: Schema; pointer: string; optional: boolean; nullable?: boolean } & Common;

/** One field, by what its schema says it is. */
const Field = memo(function Field(props: FieldProps) {
  const { schema } = props;
  const types = typesOf(schema);
  if (types.includes("number") || types.includes("integer")) return <NumberField {...props} />;
  if (schema.items) return <ListField {...props} />;
  if (types.includes("boolean")) return <SwitchField {...props} />;
  if (types.includes("string")) return <TextField {...props} />;
  if (schema.oneOf) return tagOf(schema) ? <KindField {...props} /> : <ChoiceField {...props} />;
  return schema.properties ? <GroupField {...props} /> : null;
});

const typesOf = (schema: Schema) => [schema.type ?? []].flat();
const nameOf = (schema: Schema, pointer: string) => schema.title ?? pointer.split("/").at(-1) ?? "";

/** A number with its unit. */
function NumberField({ schema, pointer, optional, ...common }: FieldProps) {
  const value = useFormValue(pointer);
  const found = useFormProblem(pointer);
  const form = useForm();
  const name = nameOf(schema, pointer);
  const types = typesOf(schema);
  const bounds = common.within?.(pointer);
  return (
    <QuantityField
      label={name}
      help={schema.description}
      unit={schema["x-unit"] ?? ""}
      value={typeof value === "number" ? value : undefined}
      empty={common.assumed?.[pointer] ?? (optional ? usual(schema) : undefined)}
      optional={optional && types.includes("null")}
      min={bounds?.[0] ?? schema.minimum}
      max={bounds?.[1] ?? schema.maximum}
      whole={types.includes("integer")}
      large={schema["x-rank"] === "main"}
      problem={found}
      pointer={pointer}
      onChange={(v, gesture) => form.set(pointer, v, gesture)}
      onDone={() => form.endGesture()}
    />
  );
}

/** Entries that are added and removed. */
function ListField({ schema, pointer, optional, ...common }: FieldProps) {
  const value = useFormValue(pointer);
  const found = useFormProblem(pointer);
  const form = useForm();
  const name = nameOf(schema, pointer);
  const items = resolve(schema.items ?? {});
  const list = Array.isArray(value) ? (value as unknown[]) : [];
  const replace = (next: unknown[]) => form.set(pointer, next.length || !optional ? next : undefined);
  return (
    <fieldset className="border-b border-rule/70 py-[5px]">
      <legend className="float-left flex-1 text-soft" title={schema.description}>
        {name}
      </legend>
      <span className="flex justify-end">
        <button
          type="button"
          className="text-oak underline decoration-dotted"
          aria-label={`Add to ${name}`}
          disabled={list.length >= (schema.maxItems ?? 100)}
          onClick={() => replace([...list, list.length ? next(items, list.at(-1)) : start(items)])}
        >
          add
        </button>
      </span>
      {list.map((_, i) => (
        <div key={i} className="mt-1 clear-both border-l-2 border-oak/60 pl-2">
          <div className="flex justify-between text-xs text-soft">
            <span>
              {items.title ?? "Entry"} {i + 1}
            </span>
            <button
              type="button"
              className="underline decoration-dotted"
              aria-label={`Remove ${items.title ?? "entry"} ${i + 1}`}
              onClick={() => replace(list.filter((_, k) => k !== i))}
            >
              remove
            </button>
          </div>
          {items.oneOf ? (
            <Field
              schema={{ ...items, title: "Kind" }}
              pointer={`${pointer}/${i}`}
              optional={false}
              {...common}
            />
          ) : (
            <Fields
              parent={items}
              pointer={`${pointer}/${i}`}
              names={Object.keys(items.properties ?? {})}
              {...common}
            />
          )}
        </div>
      ))}
      {found && (
        <span role="alert" className="text-xs text-brick">
          {found}
        </span>
      )}
    </fieldset>
  );
}

/** Yes or no. */
function SwitchField({ schema, pointer }: FieldProps) {
  const value = useFormValue(pointer);
  const form = useForm();
  const name = nameOf(schema, pointer);
  return (
    <Row label={name} help={schema.description} term={termOfField(pointer)}>
      <input
        type="checkbox"
        aria-label={name}
        checked={value === true}
        onChange={(e) => form.set(pointer, e.target.checked)}
        className="accent-oak"
      />
    </Row>
  );
}

/** Words, on one line or several. */
function TextField({ schema, pointer }: FieldProps) {
  const value = useFormValue(pointer);
  const found = useFormProblem(pointer);
  const form = useForm();
  const name = nameOf(schema, pointer);
  const shared = {
    "aria-label": name,
    "data-pointer": pointer,
    maxLength: schema.maxLength,
    value: typeof value === "string" ? value : "",
    onBlur: () => form.endGesture(),
    className: "w-full rounded-sm border border-rule bg-panel px-2 py-1",
  };
  return (
    <label className="block py-1">
      <span className="text-soft">{name}</span>
      {schema["x-lines"] ? (
        <textarea
          {...shared}
          rows={schema["x-lines"]}
          onChange={(e) => form.set(pointer, e.target.value, `${pointer}-typing`)}
        />
      ) : (
        <input {...shared} onChange={(e) => form.set(pointer, e.target.value, `${pointer}-typing`)} />
      )}
      {found && (
        <span role="alert" className="text-xs text-brick">
          {found}
        </span>
      )}
    </label>
  );
}

/** One of several words. */
function ChoiceField({ schema, pointer, nullable = false }: FieldProps) {
  const value = useFormValue(pointer);
  const form = useForm();
  const name = nameOf(schema, pointer);
  return (
    <Row label={name} help={schema.description} term={termOfField(pointer)}>
      <Select
        label={name}
        pointer={pointer}
        value={String(value ?? (nullable ? "" : start(schema)))}
        choices={[
          ...(nullable ? [["", schema["x-empty"] ?? "the same"] as [string, string]] : []),
          ...(schema.oneOf ?? []).map((v): [string, string, string?] => [
            String(v.const),
            v.title ?? words(String(v.const)),
            v.description,
          ]),
        ]}
        onChange={(v) => form.set(pointer, v === "" ? undefined : v)}
      />
    </Row>
  );
}

/** One of several kinds, each with fields of its own. */
function KindField({ schema, pointer, ...common }: FieldProps) {
  const value = useFormValue(pointer);
  const form = useForm();
  const name = nameOf(schema, pointer);
  const tag = tagOf(schema) ?? "";
  const here = value ?? start(schema);
  const variant = variantOf(schema, here);
  const rest = Object.keys(variant?.properties ?? {}).filter((n) => n !== tag);
  return (
    <>
      <Row label={name} help={schema.description} term={termOfField(pointer)}>
        <Select
          label={name}
          pointer={pointer}
          value={String((here as Record<string, unknown>)[tag])}
          choices={(schema.oneOf ?? []).map((v) => [
            String(v.properties?.[tag]?.const),
            v.title ?? String(v.properties?.[tag]?.const),
            v.description,
          ])}
          onChange={(word) => {
            const next = schema.oneOf?.find((v) => v.properties?.[tag]?.const === word);
            if (!next) return;
            const fresh = switchTo(schema, next, here) as Record<string, unknown>;
            for (const n of Object.keys(next.properties ?? {})) {
              const seeded = common.seed?.(`${pointer}/${n}`);
              if (seeded !== undefined && (here as Record<string, unknown>)[n] === undefined)
                fresh[n] = seeded;
            }
            form.set(pointer, fresh);
          }}
        />
      </Row>
      {variant && <Fields parent={variant} pointer={pointer} names={rest} {...common} />}
    </>
  );
}

/** Fields that belong together, stated or left out as one. */
function GroupField({ schema, pointer, optional, nullable = false, ...common }: FieldProps) {
  const value = useFormValue(pointer);
  const form = useForm();
  const name = nameOf(schema, pointer);
  if (value === undefined && optional) {
    return (
      <Row label={name} help={schema.description} term={termOfField(pointer)}>
        <button
          type="button"
          className="text-oak underline decoration-dotted"
          onClick={() => form.set(pointer, common.seed?.(pointer) ?? start(schema))}
        >
          state it
        </button>
      </Row>
    );
  }
  return (
    <>
      {nullable && (
        <Row label={name} help={schema.description} term={termOfField(pointer)}>
          <button
            type="button"
            className="text-soft underline decoration-dotted"
            aria-label={`Leave out ${name}`}
            onClick={() => form.set(pointer, undefined)}
          >
            leave out
          </button>
        </Row>
      )}
      <Fields parent={schema} pointer={pointer} names={Object.keys(schema.properties ?? {})} {...common} />
    </>
  );
}

function next(items: Schema, last: unknown): unknown {
  const fresh = { ...(start(items) as object), ...(last as object) } as Record<string, unknown>;
  if (typeof fresh.from_mm === "number" && typeof fresh.to_mm === "number") {
    const length = fresh.to_mm - fresh.from_mm;
    fresh.from_mm = fresh.to_mm;
    fresh.to_mm = (fresh.from_mm as number) + length;
  } else if (typeof fresh.at_mm === "number") {
    fresh.at_mm += 500;
  }
  return fresh;
}

/** What an empty field stands for, by the schema. */
const usual = (schema: Schema): Empty => (typeof schema.default === "number" ? schema.default : "none");

function words(text: string): string {
  const plain = text.replaceAll("_", " ");
  return plain.charAt(0).toUpperCase() + plain.slice(1);
}

function Row({
  label,
  help,
  term,
  children,
}: {
  label: string;
  help?: string | undefined;
  term?: Term | undefined;
  children: ReactNode;
}) {
  return (
    <div className="flex items-baseline gap-2 border-b border-rule/70 py-[5px]">
      <Tip text={help} term={term}>
        <span className="min-w-0 flex-1 text-soft">{label}</span>
      </Tip>
      {children}
    </div>
  );
}
