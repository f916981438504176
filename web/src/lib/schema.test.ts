import { describe, expect, it } from "vitest";
import { definition, resolve, schemaAt, start, switchTo, tagOf, variantOf, type Schema } from "./schema";

const section = definition("Section");

describe("the published schema", () => {
  it("is read at a place, the kind being what stands there", () => {
    const slot = {
      enclosure: { family: "vented", port: { section: { shape: "slot", width_mm: 300, height_mm: 40 } } },
    };
    const width = schemaAt("/enclosure/port/section/width_mm", slot);
    expect([width?.["x-unit"], width?.type]).toEqual(["mm", "number"]);
    // a slot has no diameter, and a sealed box no port
    expect(schemaAt("/enclosure/port/section/diameter_mm", slot)).toBeUndefined();
    expect(schemaAt("/enclosure/port", { enclosure: { family: "sealed" } })).toBeUndefined();
    expect(schemaAt("/nothing/of/it", slot)).toBeUndefined();
  });

  it("follows a reference once and gives the same answer again", () => {
    const reference: Schema = { $ref: "#/$defs/Section", title: "Mouth" };
    const read = resolve(reference);
    expect(read.title).toBe("Mouth");
    expect(read.oneOf).toBe(section.oneOf);
    expect(resolve(reference)).toBe(read);
    expect(resolve({ $ref: "#/$defs/NoSuchThing" }).$ref).toBe("#/$defs/NoSuchThing");
  });

  it("an optional part is its real member with the words beside it; null is no usual value", () => {
    const read = resolve({
      anyOf: [{ $ref: "#/$defs/Section" }, { type: "null" }],
      title: "Way out",
      default: null,
    });
    expect([read.title, read.default, tagOf(read)]).toEqual(["Way out", undefined, "shape"]);
  });

  it("tells kinds apart by what they hold fixed, and plain words have no such thing", () => {
    expect(tagOf(section)).toBe("shape");
    expect(tagOf({ oneOf: [{ const: "a" }, { const: "b" }] })).toBeUndefined();
    expect(variantOf(section, { shape: "round" })?.properties).toHaveProperty("diameter_mm");
    expect(variantOf(section, { shape: "star" })).toBeUndefined();
    expect(variantOf(section, undefined)).toBeUndefined();
  });

  it("every kind of an opening begins with all it needs, within its bounds", () => {
    for (const kind of section.oneOf ?? []) {
      const begin = start(kind) as Record<string, unknown>;
      expect(Object.keys(begin).sort()).toEqual([...(kind.required ?? [])].sort());
      for (const [name, value] of Object.entries(begin)) {
        const field = resolve(kind.properties?.[name] ?? {});
        if (typeof value !== "number") continue;
        expect(value).toBeGreaterThanOrEqual(field.minimum ?? -Infinity);
        expect(value).toBeLessThanOrEqual(field.maximum ?? Infinity);
      }
    }
  });

  it("another kind keeps what both have in common, and nothing else", () => {
    const a: Schema = {
      properties: { by: { const: "a" }, both: { minimum: 1 }, own: { minimum: 2 } },
      required: ["by", "both", "own"],
    };
    const b: Schema = {
      properties: { by: { const: "b" }, both: { minimum: 1 }, other: { minimum: 3 } },
      required: ["by", "both", "other"],
    };
    expect(switchTo({ oneOf: [a, b] }, b, { by: "a", both: 7, own: 9 })).toEqual({
      by: "b",
      both: 7,
      other: 3,
    });
    expect(switchTo({ oneOf: [a, b] }, a, undefined)).toEqual({ by: "a", both: 1, own: 2 });
  });

  it("what is stated to begin with comes before what is fixed, usual or least", () => {
    expect(start({ "x-start": 5, default: 4, minimum: 1 })).toBe(5);
    expect(start({ const: "a", default: "b" })).toBe("a");
    expect(start({ default: 4, minimum: 1 })).toBe(4);
    expect(start({ minimum: 1 })).toBe(1);
    expect(start({ oneOf: [{ const: "x" }, { const: "y" }] })).toBe("x");
    expect(start({})).toBe("");
  });
});
