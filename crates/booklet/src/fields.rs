//! The fields of a document as rows of a table: names and units as its schema has them.

use oak_drum_text::{Quantity, Text, Unit};
use serde_json::{Map, Value};

/// Fields that say which kind of thing it is, by which the schema's alternatives are told apart.
const KINDS: [&str; 6] = ["family", "kind", "shape", "by", "model", "arrangement"];

/// The rows of a part of a document: what, and how much. What is absent or empty has none.
pub fn rows(schema: &Value, document: &Value, part: &str) -> Vec<Vec<Text>> {
    let Some(value) = document.pointer(part) else { return Vec::new() };
    let mut node = schema;
    for step in part.split('/').skip(1) {
        let Some(next) = resolved(schema, node).pointer(&format!("/properties/{step}")) else { return Vec::new() };
        node = next;
    }
    let mut list = Vec::new();
    walk(schema, node, value, "", &mut list);
    list
}

/// The node a reference leads to; of "this or nothing" this.
fn resolved<'a>(schema: &'a Value, node: &'a Value) -> &'a Value {
    let mut node = node;
    for _ in 0..8 {
        let to = node.get("$ref").and_then(Value::as_str).and_then(|r| schema.pointer(r.strip_prefix('#')?));
        let one = node.get("anyOf").and_then(Value::as_array).and_then(|l| l.iter().find(|n| n["type"] != "null"));
        match to.or(one) {
            Some(next) => node = next,
            None => break,
        }
    }
    node
}

/// Of alternatives the one the value is.
fn chosen<'a>(schema: &'a Value, node: &'a Value, value: &Value) -> &'a Value {
    let Some(list) = node.get("oneOf").and_then(Value::as_array) else { return node };
    let fits = |n: &&Value| {
        let properties = n.get("properties");
        KINDS.iter().any(|k| {
            let expected = properties.and_then(|p| p.get(*k)?.get("const"));
            expected.is_some() && expected == value.get(*k)
        }) || n.get("const").is_some_and(|c| c == value)
    };
    list.iter().map(|n| resolved(schema, n)).find(fits).unwrap_or(node)
}

fn walk(schema: &Value, node: &Value, value: &Value, under: &str, list: &mut Vec<Vec<Text>>) {
    let outer = node;
    let node = chosen(schema, resolved(schema, node), value);
    let title = |n: &Value| outer.get("title").or_else(|| n.get("title")).and_then(Value::as_str).map(str::to_owned);
    match value {
        Value::Object(fields) => object(schema, node, fields, under, list),
        Value::Array(items) => {
            let item = &node["items"];
            if items.iter().all(Value::is_number) && !items.is_empty() {
                let numbers: Vec<String> = items.iter().take(40).map(ToString::to_string).collect();
                list.push(vec![named(under, ""), numbers.join(", ").into()]);
                return;
            }
            for (i, one) in items.iter().enumerate() {
                walk(schema, item, one, &format!("{under} {}", i + 1), list);
            }
        }
        _ => list.extend(said(node, value, outer).map(|s| vec![named(under, &title(node).unwrap_or_default()), s])),
    }
}

fn object(schema: &Value, node: &Value, fields: &Map<String, Value>, under: &str, list: &mut Vec<Vec<Text>>) {
    let kind = KINDS.iter().find_map(|k| fields.get(*k)?.as_str());
    if let (Some(kind), Some(title)) = (kind, node.get("title").and_then(Value::as_str)) {
        let what = if under.is_empty() { "Kind".to_owned() } else { under.to_owned() };
        let title = if title.is_empty() { kind.replace('_', " ") } else { title.to_owned() };
        list.push(vec![oak_drum_text::capital(&what).into(), title.into()]);
    }
    for (name, value) in fields {
        let inner = &node["properties"][name];
        let fixed = inner.get("const").is_some() || ["format", "version"].contains(&name.as_str());
        let empty = value.is_null() || value == &Value::String(String::new());
        if fixed || empty || inner.is_null() {
            continue;
        }
        let own = inner.get("title").or_else(|| resolved(schema, inner).get("title")).and_then(Value::as_str);
        let own = own.map_or_else(|| name.replace('_', " "), str::to_owned);
        let path = if under.is_empty() { own } else { format!("{under}, {}", lower(&own)) };
        match value {
            Value::Object(_) | Value::Array(_) => walk(schema, inner, value, &path, list),
            _ => {
                let of = chosen(schema, resolved(schema, inner), value);
                list.extend(said(of, value, inner).map(|s| vec![oak_drum_text::capital(&path).into(), s]));
            }
        }
    }
}

/// A name that goes on: small letters, but for symbols such as QL.
fn lower(name: &str) -> String {
    let mut letters = name.chars();
    match (letters.next(), letters.next()) {
        (Some(a), Some(b)) if b.is_lowercase() || b == ' ' => format!("{}{}", a.to_lowercase(), &name[a.len_utf8()..]),
        _ => name.to_owned(),
    }
}

fn named(under: &str, title: &str) -> Text {
    let whole = match (under, title) {
        ("", t) => t.to_owned(),
        (u, "") => u.to_owned(),
        (u, t) => format!("{u}, {}", lower(t)),
    };
    oak_drum_text::capital(&whole).into()
}

/// A value in words, with its unit.
fn said(node: &Value, value: &Value, outer: &Value) -> Option<Text> {
    let unit = outer.get("x-unit").or_else(|| node.get("x-unit")).and_then(Value::as_str).unwrap_or("");
    Some(match value {
        Value::Bool(yes) => if *yes { "yes" } else { "no" }.into(),
        Value::Number(number) => {
            let number = number.as_f64()?;
            // no more digits than a hand typed
            let rounded = (number * 1e4).round() / 1e4;
            match Unit::named(unit) {
                Some(unit) => format!("{}", Quantity { values: vec![rounded], unit }).into(),
                None => format!("{rounded} {unit}").trim_end().into(),
            }
        }
        Value::String(word) => match node.get("title").and_then(Value::as_str) {
            Some(title) if node.get("const").is_some() => title.into(),
            _ if node.get("const").is_some() || node.get("enum").is_some() => word.replace('_', " ").into(),
            _ => word.as_str().into(),
        },
        _ => return None,
    })
}

/// The same as a table with its head; nothing where there are no rows.
pub fn table(schema: &Value, document: &Value, part: &str) -> Option<oak_drum_paper::Block> {
    let found = rows(schema, document, part);
    if found.is_empty() {
        return None;
    }
    let mut rows = vec![vec!["what".into(), "as it is stated".into()]];
    rows.extend(found);
    Some(oak_drum_paper::Block::Table { widths: vec![1.0, 1.4], rows })
}
