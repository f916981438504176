//! What is wrong with a JSON value by one of this program's own schemas, in words and at the field.
//!
//! The schemas are generated from Rust types ([`crate::schema`]) and use few of JSON Schema's keywords; this follows those and
//! writes a builder's sentence where a value does not hold, a problem in a variant of a tagged union told inside that variant.
//! A library that knows all of JSON Schema is held against it in the tests (tests/suite/reader.rs).

use crate::problem::{Code, Problem};
use oak_drum_text::{Quantity, Unit};
use serde_json::{Map, Value};
use std::borrow::Cow;
use std::fmt::Write;

/// Most problems told of one document.
pub const MOST_PROBLEMS: usize = 50;

/// Says what is wrong with a value by a published schema.
#[derive(Debug)]
pub struct Reader {
    schema: Value,
}

impl Reader {
    /// A reader for a schema generated from this program's types (see [`crate::schema`]).
    pub fn new(schema: Value) -> Reader {
        Reader { schema }
    }

    /// Every problem found, at most [`MOST_PROBLEMS`], misspelt names first (they say more than the missing ones they cause).
    pub fn problems(&self, value: &Value) -> Vec<Problem> {
        let definitions = self.schema.get("$defs").and_then(Value::as_object);
        let mut walk = Walk { definitions, at: String::new(), problems: Vec::new() };
        walk.check(value, &self.schema);
        let mut problems = walk.problems;
        problems.sort_by_key(|p| p.code != Code::UnknownField);
        problems
    }
}

struct Walk<'a> {
    definitions: Option<&'a Map<String, Value>>,
    /// Where it is (JSON pointer).
    at: String,
    problems: Vec<Problem>,
}

impl<'a> Walk<'a> {
    fn tell(&mut self, code: Code, message: String) {
        if self.problems.len() < MOST_PROBLEMS {
            self.problems.push(Problem::new(code, self.at.clone(), message));
        }
    }

    /// The same at a member of this place.
    fn within(&mut self, key: &dyn std::fmt::Display, work: impl FnOnce(&mut Self)) {
        if self.problems.len() >= MOST_PROBLEMS {
            return;
        }
        let length = self.at.len();
        let _ = write!(self.at, "/{key}");
        work(self);
        self.at.truncate(length);
    }

    fn check(&mut self, value: &Value, schema: &'a Value) {
        let Some(schema) = schema.as_object() else { return };
        if let Some(name) = schema.get("$ref").and_then(Value::as_str)
            && let Some(target) = self.definitions.and_then(|d| d.get(name.strip_prefix("#/$defs/")?))
        {
            self.check(value, target);
        }
        if let Some(Value::Array(choices)) = schema.get("anyOf") {
            // an optional part is itself or null: its problems are told inside it, not as "neither fits"
            let part = choices.iter().find(|c| c.get("type").and_then(Value::as_str) != Some("null"));
            if let Some(part) = part.filter(|_| !value.is_null()) {
                self.check(value, part);
            }
        }
        if let Some(Value::Array(variants)) = schema.get("oneOf") {
            self.one_of(value, variants);
        }
        if let Some(wanted) = schema.get("const")
            && value != wanted
        {
            self.tell(Code::UnknownChoice, format!("{} is not {wanted}", shorten(value)));
        }
        if let Some(wanted) = schema.get("type") {
            let names: Vec<&str> = match wanted {
                Value::Array(list) => list.iter().filter_map(Value::as_str).collect(),
                one => one.as_str().into_iter().collect(),
            };
            if !names.iter().any(|name| is_a(value, name)) {
                let words: Vec<&str> = names.into_iter().filter(|name| *name != "null").collect();
                let words = words.join(" or ");
                return self.tell(Code::WrongType, format!("{} is not what is expected here: {words}", shorten(value)));
            }
        }
        match value {
            Value::Number(_) => self.number(value, schema),
            Value::String(text) => self.text(text, schema),
            Value::Array(list) => self.list(list, schema),
            Value::Object(object) => self.object(object, schema),
            Value::Null | Value::Bool(_) => {}
        }
    }

    /// One of some words, or the variant its tag names.
    fn one_of(&mut self, value: &Value, variants: &'a [Value]) {
        let words: Option<Vec<&Value>> = variants.iter().map(|v| v.get("const")).collect();
        if let Some(words) = words {
            return self.choice(value, &words);
        }
        let Some(tag) = tag_of(variants) else { return };
        let word = |variant: &'a Value| variant.get("properties")?.get(tag)?.get("const");
        let Value::Object(object) = value else {
            let message = format!("{} is not what is expected here: object", shorten(value));
            return self.tell(Code::WrongType, message);
        };
        match object.get(tag) {
            None => self.missing(tag),
            Some(given) => match variants.iter().find(|variant| word(variant) == Some(given)) {
                Some(variant) => self.check(value, variant),
                None => {
                    let words: Vec<&Value> = variants.iter().filter_map(word).collect();
                    self.within(&tag, |walk| walk.choice(given, &words));
                }
            },
        }
    }

    fn choice(&mut self, value: &Value, words: &[&Value]) {
        if words.contains(&value) {
            return;
        }
        let words: Vec<String> = words.iter().filter_map(|w| w.as_str()).map(str::to_owned).collect();
        let near = value.as_str().and_then(|given| nearest(given, &words));
        let hint = near.map_or(String::new(), |n| format!("; did you mean \"{n}\"?"));
        self.tell(Code::UnknownChoice, format!("{} is none of {}{hint}", shorten(value), words.join(", ")));
    }

    fn missing(&mut self, name: &str) {
        self.within(&escaped(name), |walk| walk.tell(Code::Missing, format!("\"{name}\" is missing")));
    }

    fn number(&mut self, value: &Value, schema: &Map<String, Value>) {
        let given = value.as_f64().unwrap_or(f64::NAN);
        let bound = |name: &str| schema.get(name).and_then(|limit| Some((limit, limit.as_f64()?)));
        // in the field's own unit, where that is said otherwise in inches
        let unit = schema.get("x-unit").and_then(Value::as_str).and_then(Unit::named);
        let words = |limit: &Value, number: f64| match unit {
            Some(unit) => Quantity { values: vec![number], unit }.to_string(),
            None => limit.to_string(),
        };
        if let Some((limit, least)) = bound("minimum").filter(|(_, least)| given < *least) {
            let limit = words(limit, least);
            self.tell(Code::OutOfRange, format!("{} is too small; at least {limit} is expected", words(value, given)));
        }
        if let Some((limit, most)) = bound("maximum").filter(|(_, most)| given > *most) {
            let limit = words(limit, most);
            self.tell(Code::OutOfRange, format!("{} is too large; at most {limit} is expected", words(value, given)));
        }
    }

    fn text(&mut self, text: &str, schema: &Map<String, Value>) {
        if text.contains('\0') {
            // no store keeps it
            self.tell(Code::OutOfRange, "a text cannot hold the zero character (U+0000)".into());
        }
        let length = || text.chars().count() as u64;
        if let Some(limit) = bound(schema, "maxLength").filter(|most| length() > *most) {
            self.tell(Code::OutOfRange, format!("the text is too long; at most {limit} characters"));
        }
        if let Some(limit) = bound(schema, "minLength").filter(|least| length() < *least) {
            self.tell(Code::OutOfRange, format!("the text is too short; at least {limit} characters"));
        }
    }

    fn list(&mut self, list: &[Value], schema: &'a Map<String, Value>) {
        let length = list.len() as u64;
        if let Some(limit) = bound(schema, "maxItems").filter(|most| length > *most) {
            // what is in it need not be looked at then
            return self.tell(Code::OutOfRange, format!("the list is too long; at most {limit} entries"));
        }
        if let Some(limit) = bound(schema, "minItems").filter(|least| length < *least) {
            self.tell(Code::OutOfRange, format!("the list is too short; at least {limit} entries"));
        }
        if let Some(items) = schema.get("items") {
            for (i, item) in list.iter().enumerate() {
                self.within(&i, |walk| walk.check(item, items));
            }
        }
    }

    fn object(&mut self, object: &Map<String, Value>, schema: &'a Map<String, Value>) {
        let Some(properties) = schema.get("properties").and_then(Value::as_object) else { return };
        for name in schema.get("required").and_then(Value::as_array).into_iter().flatten().filter_map(Value::as_str) {
            if !object.contains_key(name) {
                self.missing(name);
            }
        }
        let closed = schema.get("additionalProperties") == Some(&Value::Bool(false));
        for (name, inner) in object {
            if self.problems.len() >= MOST_PROBLEMS {
                return;
            }
            match properties.get(name) {
                Some(property) => self.within(&escaped(name), |walk| walk.check(inner, property)),
                None if closed => {
                    let known: Vec<String> = properties.keys().cloned().collect();
                    let hint = nearest(name, &known).map_or(String::new(), |n| format!("; did you mean \"{n}\"?"));
                    let message = format!("the format has no field \"{}\" here{hint}", shorten_text(name));
                    self.within(&escaped(name), |walk| walk.tell(Code::UnknownField, message));
                }
                None => {}
            }
        }
    }
}

fn bound(schema: &Map<String, Value>, name: &str) -> Option<u64> {
    schema.get(name).and_then(Value::as_u64)
}

/// Whether a value is of a type; a whole number is one that is written as such.
fn is_a(value: &Value, name: &str) -> bool {
    match name {
        "null" => value.is_null(),
        "boolean" => value.is_boolean(),
        "integer" => value.is_i64() || value.is_u64(),
        "number" => value.is_number(),
        "string" => value.is_string(),
        "array" => value.is_array(),
        _ => value.is_object(),
    }
}

/// The member whose value tells the variants of a union apart.
fn tag_of(variants: &[Value]) -> Option<&str> {
    let properties = variants.first()?.get("properties")?.as_object()?;
    properties.iter().find(|(_, p)| p.get("const").is_some()).map(|(name, _)| name.as_str())
}

/// A member's name as a JSON pointer has it.
fn escaped(name: &str) -> Cow<'_, str> {
    if name.contains(['~', '/']) { name.replace('~', "~0").replace('/', "~1").into() } else { name.into() }
}

fn shorten(value: &Value) -> String {
    match value {
        // not written out as a whole to be cut off then
        Value::Array(list) if list.len() > 20 => format!("a list of {}", list.len()),
        Value::Object(object) if object.len() > 20 => format!("an object of {} members", object.len()),
        Value::String(text) if text.len() > 400 => format!("\"{}", shorten_text(text)),
        other => shorten_text(&other.to_string()),
    }
}

fn shorten_text(text: &str) -> String {
    if text.chars().count() > 80 { text.chars().take(80).chain(['…']).collect() } else { text.to_owned() }
}

/// The known name most like another, if any is like it.
pub fn nearest(name: &str, known: &[String]) -> Option<String> {
    if name.len() > 80 {
        return None;
    }
    let lower = name.to_lowercase();
    known
        .iter()
        .map(|k| (strsim::jaro_winkler(&lower, k), k))
        .filter(|(likeness, _)| *likeness > 0.75)
        .max_by(|a, b| a.0.total_cmp(&b.0))
        .map(|(_, k)| k.clone())
}
