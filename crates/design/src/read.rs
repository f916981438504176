//! From a text to a design, or to the list of what is wrong with it.

use crate::document::{Design, FORMAT, VERSION};
use crate::problem::{Code, Problem};
use crate::{schema, upgrade};
use jsonschema::error::{TypeKind, ValidationErrorKind};
use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::driver::Woofer;
use serde_json::Value;
use std::sync::OnceLock;

/// Reads a design from JSON text.
///
/// # Errors
/// Every problem found, at most 50, each with its place.
pub fn read(text: &str) -> Result<Design, Vec<Problem>> {
    let value: Value = serde_json::from_str(text)
        .map_err(|e| vec![Problem::new(Code::NotJson, "", format!("this is not JSON: {e}"))])?;
    read_value(value)
}

/// Reads a design from parsed JSON.
///
/// # Errors
/// As [`read`].
pub fn read_value(mut value: Value) -> Result<Design, Vec<Problem>> {
    let only = |code, pointer: &str, message: String| Err(vec![Problem::new(code, pointer, message)]);
    if !value.is_object() {
        return only(Code::WrongType, "", "a design is a JSON object".into());
    }
    match value.get("format").and_then(Value::as_str) {
        Some(FORMAT) => {}
        _ => return only(Code::UnknownFormat, "/format", format!("expected \"{FORMAT}\"")),
    }
    match value.get("version").and_then(Value::as_u64) {
        Some(v) if (1..=u64::from(VERSION)).contains(&v) => {}
        _ => return only(Code::UnknownFormat, "/version", format!("expected a whole number from 1 to {VERSION}")),
    }
    upgrade::upgrade(&mut value);
    let problems = reader().problems(&value);
    if !problems.is_empty() {
        return Err(problems);
    }
    let design: Design = serde_json::from_value(value)
        .map_err(|e| vec![Problem::new(Code::WrongType, "", format!("cannot be read as a design: {e}"))])?;
    let problems = contradictions(&design);
    if problems.is_empty() { Ok(design) } else { Err(problems) }
}

/// What a design made by this program would be told on being read: nothing where it may stand.
///
/// # Errors
/// As [`read`].
pub fn check(design: &Design) -> Result<(), Vec<Problem>> {
    let value = serde_json::to_value(design)
        .map_err(|e| vec![Problem::new(Code::WrongType, "", format!("cannot be written: {e}"))])?;
    let mut problems = reader().problems(&value);
    problems.extend(contradictions(design));
    if problems.is_empty() { Ok(()) } else { Err(problems) }
}

fn reader() -> &'static Reader {
    static READER: OnceLock<Reader> = OnceLock::new();
    READER.get_or_init(|| Reader::new(schema::design()))
}

/// Says what is wrong with a value by a published schema, in words and at the field.
pub struct Reader {
    schema: Value,
    validator: jsonschema::Validator,
}

impl Reader {
    /// A reader for a schema generated from this program's types (see [`schema`]).
    pub fn new(mut schema: Value) -> Reader {
        schema::for_validation(&mut schema);
        let validator =
            jsonschema::validator_for(&schema).unwrap_or_else(|e| unreachable!("the generated schema is valid: {e}"));
        Reader { schema, validator }
    }

    /// Every problem found, at most 50, misspelt names first (they say more than the missing ones they cause).
    pub fn problems(&self, value: &Value) -> Vec<Problem> {
        let mut problems: Vec<Problem> = Vec::new();
        for error in self.validator.iter_errors(value).take(50) {
            for problem in explain(&error, &self.schema) {
                if !problems.contains(&problem) {
                    problems.push(problem);
                }
            }
        }
        problems.sort_by_key(|p| p.code != Code::UnknownField);
        problems
    }
}

/// What a schema error means in words, at the field it is about.
fn explain(error: &jsonschema::ValidationError<'_>, schema: &Value) -> Vec<Problem> {
    let at = error.instance_path().to_string();
    let one = |code, message: String| vec![Problem::new(code, at.clone(), message)];
    let value = error.instance();
    match error.kind() {
        ValidationErrorKind::AdditionalProperties { unexpected } => {
            let known = known_names(error, schema);
            unexpected
                .iter()
                .map(|name| {
                    let hint = nearest(name, &known).map_or(String::new(), |n| format!("; did you mean \"{n}\"?"));
                    Problem::new(
                        Code::UnknownField,
                        format!("{at}/{}", name.replace('~', "~0").replace('/', "~1")),
                        format!("the format has no field \"{name}\" here{hint}"),
                    )
                })
                .collect()
        }
        ValidationErrorKind::Required { property } => {
            let name = property.as_str().unwrap_or_default();
            vec![Problem::new(Code::Missing, format!("{at}/{name}"), format!("\"{name}\" is missing"))]
        }
        ValidationErrorKind::Minimum { limit } => {
            one(Code::OutOfRange, format!("{value} is too small; at least {limit} is expected"))
        }
        ValidationErrorKind::Maximum { limit } => {
            one(Code::OutOfRange, format!("{value} is too large; at most {limit} is expected"))
        }
        ValidationErrorKind::MaxItems { limit } => {
            one(Code::OutOfRange, format!("the list is too long; at most {limit} entries"))
        }
        ValidationErrorKind::MinItems { limit } => {
            one(Code::OutOfRange, format!("the list is too short; at least {limit} entries"))
        }
        ValidationErrorKind::MaxLength { limit } => {
            one(Code::OutOfRange, format!("the text is too long; at most {limit} characters"))
        }
        ValidationErrorKind::Enum { options } => {
            let words: Vec<String> =
                options.as_array().into_iter().flatten().filter_map(Value::as_str).map(str::to_owned).collect();
            let hint = value
                .as_str()
                .and_then(|given| nearest(given, &words))
                .map_or(String::new(), |n| format!("; did you mean \"{n}\"?"));
            one(Code::UnknownChoice, format!("{value} is none of {}{hint}", words.join(", ")))
        }
        ValidationErrorKind::Type { kind } => {
            let wanted = match kind {
                TypeKind::Single(t) => t.to_string(),
                TypeKind::Multiple(list) => {
                    list.iter().map(|t| t.to_string()).filter(|t| t != "null").collect::<Vec<_>>().join(" or ")
                }
            };
            one(Code::WrongType, format!("{} is not what is expected here: {wanted}", shorten(value)))
        }
        _ => one(Code::WrongType, shorten_text(&error.to_string())),
    }
}

fn shorten(value: &Value) -> String {
    shorten_text(&value.to_string())
}

fn shorten_text(text: &str) -> String {
    if text.chars().count() > 80 { text.chars().take(80).chain(['…']).collect() } else { text.to_owned() }
}

/// The property names the schema knows at the place of an "additional property" error.
fn known_names(error: &jsonschema::ValidationError<'_>, schema: &Value) -> Vec<String> {
    let path = error.evaluation_path().to_string();
    let location = error.schema_path().to_string();
    for place in [location, path] {
        let parent = place.strip_suffix("/additionalProperties").unwrap_or(&place).to_owned();
        if let Some(properties) = schema.pointer(&parent).and_then(|s| s.get("properties"))
            && let Some(object) = properties.as_object()
        {
            return object.keys().cloned().collect();
        }
    }
    // The path may run through a reference; then every name the format has is a candidate.
    let mut all = Vec::new();
    collect_names(schema, &mut all);
    all
}

fn collect_names(schema: &Value, into: &mut Vec<String>) {
    match schema {
        Value::Object(object) => {
            if let Some(Value::Object(properties)) = object.get("properties") {
                into.extend(properties.keys().cloned());
            }
            object.values().for_each(|v| collect_names(v, into));
        }
        Value::Array(list) => list.iter().for_each(|v| collect_names(v, into)),
        _ => {}
    }
}

/// The known name most like another, if any is like it.
pub fn nearest(name: &str, known: &[String]) -> Option<String> {
    let lower = name.to_lowercase();
    known
        .iter()
        .map(|k| (strsim::jaro_winkler(&lower, k), k))
        .filter(|(likeness, _)| *likeness > 0.75)
        .max_by(|a, b| a.0.total_cmp(&b.0))
        .map(|(_, k)| k.clone())
}

/// What is wrong with a woofer's sheet that only several fields together can tell; `at` is its place.
pub fn sheet_problems(woofer: &Woofer, air: &Air, at: &str) -> Vec<Problem> {
    let mut list = Vec::new();
    let mut add = |field: &str, message: String| {
        list.push(Problem::new(Code::Contradiction, format!("{at}/{field}"), message));
    };
    if woofer.l2_mh.is_some() != woofer.r2_ohm.is_some() {
        let field = if woofer.l2_mh.is_some() { "r2_ohm" } else { "l2_mh" };
        add(field, "L2 and R2 belong together: state both or neither".into());
    }
    if woofer.semi_inductance_k.is_some() != woofer.semi_inductance_n.is_some() {
        let field = if woofer.semi_inductance_k.is_some() { "n" } else { "k" };
        add(&format!("semi_inductance_{field}"), "K and n belong together: state both or neither".into());
    }
    for (name, part) in [("qms", woofer.qms), ("qes", woofer.qes)] {
        if let Some((q, qts)) = part.zip(woofer.qts)
            && qts >= q
        {
            add("qts", format!("Qts {qts} must lie below {name} {q}: 1/Qts = 1/Qms + 1/Qes"));
        }
    }
    if let Err(undetermined) = woofer.resolve(air) {
        for field in &undetermined.missing {
            add(field, format!("missing, and not to be derived; {}", undetermined.hint));
        }
    }
    list
}

/// What only several fields of a design together can tell.
fn contradictions(design: &Design) -> Vec<Problem> {
    let woofer = &design.woofer;
    let mut list = sheet_problems(woofer, &design.air.of_sheets(), "/woofer");
    let mut add = |pointer: &str, message: String| list.push(Problem::new(Code::Contradiction, pointer, message));
    let array = &design.array;
    let (count, in_series) = (array.count, array.woofers_in_series);
    if !array.arrangement().possible() {
        if array.isobaric.is_some() && !count.is_multiple_of(2) {
            add("/array/count", format!("isobaric pairs need an even number of woofers, not {count}"));
        } else {
            let message = format!("{count} woofers cannot be wired in equal strings of {in_series}");
            add("/array/woofers_in_series", message);
        }
    }
    for fault in design.enclosure.problems() {
        add(&format!("/enclosure{}", fault.pointer), fault.message);
    }
    if matches!(design.drive, crate::document::Drive::Power { .. }) && woofer.nominal_ohm.is_none() {
        add("/woofer/nominal_ohm", "a drive in watts needs the nominal impedance it refers to, for example 8".into());
    }
    for (field, message) in design.cabinet.iter().flat_map(|cabinet| cabinet.problems()) {
        add(&format!("/cabinet/{field}"), message);
    }
    list
}
