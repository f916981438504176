//! JSON Schemas, generated from the Rust types.

use crate::design::Design;
use schemars::generate::SchemaSettings;
use serde_json::{Map, Value, json};

/// JSON Schema (2020-12) of a design.
pub fn design() -> Value {
    of::<Design>()
}

/// JSON Schema (2020-12) of any other type of this program that a file may hold.
pub fn of<T: schemars::JsonSchema>() -> Value {
    finish(SchemaSettings::draft2020_12().into_generator().into_root_schema_for::<T>().to_value())
}

fn finish(mut schema: Value) -> Value {
    let definitions = schema.get("$defs").cloned().unwrap_or_else(|| json!({}));
    inline_tagged(&mut schema, &definitions);
    schema
}

/// In a tagged union whose variant is a reference, the tag must be one of the variant's own properties (its
/// schema refuses others): writes the referenced definition out in place.
fn inline_tagged(schema: &mut Value, definitions: &Value) {
    match schema {
        Value::Object(object) => {
            for value in object.values_mut() {
                inline_tagged(value, definitions);
            }
            if object.contains_key("properties")
                && let Some(reference) = object.get("$ref").and_then(Value::as_str)
                && let Some(target) = reference.strip_prefix("#/$defs/").and_then(|name| definitions.get(name))
            {
                let mut merged = target.clone();
                inline_tagged(&mut merged, definitions);
                let tag = object.remove("properties").unwrap_or_default();
                let required = object.remove("required").unwrap_or_default();
                prepend(&mut merged, "properties", tag);
                if let (Some(into), Value::Array(first)) =
                    (merged.get_mut("required").and_then(Value::as_array_mut), required)
                {
                    into.splice(0..0, first);
                }
                if let Value::Object(merged) = merged {
                    *object = merged;
                }
            }
        }
        Value::Array(list) => list.iter_mut().for_each(|value| inline_tagged(value, definitions)),
        _ => {}
    }
}

fn prepend(schema: &mut Value, key: &str, first: Value) {
    let (Some(Value::Object(rest)), Value::Object(mut first)) = (schema.get(key).cloned(), first) else { return };
    first.extend(rest);
    schema[key] = Value::Object(first);
}

/// The schemas of a design and of what `more` adds to the generator, with everything they refer to, as the components of an
/// OpenAPI document.
pub fn components(more: impl FnOnce(&mut schemars::SchemaGenerator)) -> Map<String, Value> {
    let mut generator = SchemaSettings::draft2020_12().into_generator();
    generator.subschema_for::<Design>();
    more(&mut generator);
    let mut definitions = Value::Object(generator.take_definitions(true));
    let all = definitions.clone();
    inline_tagged(&mut definitions, &all);
    let text = definitions.to_string().replace("#/$defs/", "#/components/schemas/");
    match serde_json::from_str(&text) {
        Ok(Value::Object(map)) => map,
        _ => Map::new(),
    }
}
