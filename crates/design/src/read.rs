//! From a text to a design, or to the list of what is wrong with it.

use crate::document::{Design, FORMAT, VERSION};
use crate::problem::{Code, Problem};
use crate::{schema, upgrade};
use jsonschema::error::{TypeKind, ValidationErrorKind};
use oak_drum_acoustics::air::Air;
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
    let mut problems: Vec<Problem> = Vec::new();
    for error in validator().iter_errors(&value).take(50) {
        for problem in explain(&error) {
            if !problems.contains(&problem) {
                problems.push(problem);
            }
        }
    }
    if !problems.is_empty() {
        // a misspelt name says more than the missing one it causes
        problems.sort_by_key(|p| p.code != Code::UnknownField);
        return Err(problems);
    }
    let design: Design = serde_json::from_value(value)
        .map_err(|e| vec![Problem::new(Code::WrongType, "", format!("cannot be read as a design: {e}"))])?;
    let problems = contradictions(&design);
    if problems.is_empty() { Ok(design) } else { Err(problems) }
}

fn validator() -> &'static jsonschema::Validator {
    static VALIDATOR: OnceLock<jsonschema::Validator> = OnceLock::new();
    VALIDATOR.get_or_init(|| {
        let mut schema = schema::design();
        schema::for_validation(&mut schema);
        jsonschema::validator_for(&schema).unwrap_or_else(|e| unreachable!("the generated schema is valid: {e}"))
    })
}

/// What a schema error means in words, at the field it is about.
fn explain(error: &jsonschema::ValidationError<'_>) -> Vec<Problem> {
    let at = error.instance_path().to_string();
    let one = |code, message: String| vec![Problem::new(code, at.clone(), message)];
    let value = error.instance();
    match error.kind() {
        ValidationErrorKind::AdditionalProperties { unexpected } => {
            let known = known_names(error);
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
fn known_names(error: &jsonschema::ValidationError<'_>) -> Vec<String> {
    let path = error.evaluation_path().to_string();
    let location = error.schema_path().to_string();
    for place in [location, path] {
        let parent = place.strip_suffix("/additionalProperties").unwrap_or(&place).to_owned();
        if let Some(properties) = validation_schema().pointer(&parent).and_then(|s| s.get("properties"))
            && let Some(object) = properties.as_object()
        {
            return object.keys().cloned().collect();
        }
    }
    // The path may run through a reference; then every name the format has is a candidate.
    let mut all = Vec::new();
    collect_names(validation_schema(), &mut all);
    all
}

fn validation_schema() -> &'static Value {
    static SCHEMA: OnceLock<Value> = OnceLock::new();
    SCHEMA.get_or_init(|| {
        let mut schema = schema::design();
        schema::for_validation(&mut schema);
        schema
    })
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

fn nearest(name: &str, known: &[String]) -> Option<String> {
    let lower = name.to_lowercase();
    known
        .iter()
        .map(|k| (strsim::jaro_winkler(&lower, k), k))
        .filter(|(likeness, _)| *likeness > 0.75)
        .max_by(|a, b| a.0.total_cmp(&b.0))
        .map(|(_, k)| k.clone())
}

/// What only several fields together can tell.
fn contradictions(design: &Design) -> Vec<Problem> {
    let mut list = Vec::new();
    let mut add = |pointer: &str, message: String| list.push(Problem::new(Code::Contradiction, pointer, message));
    let woofer = &design.woofer;
    if woofer.l2_mh.is_some() != woofer.r2_ohm.is_some() {
        let at = if woofer.l2_mh.is_some() { "/woofer/r2_ohm" } else { "/woofer/l2_mh" };
        add(at, "L2 and R2 belong together: state both or neither".into());
    }
    for (at, part) in [("/woofer/qms", woofer.qms), ("/woofer/qes", woofer.qes)] {
        if let Some((q, qts)) = part.zip(woofer.qts)
            && qts >= q
        {
            let name = &at[8..];
            add("/woofer/qts", format!("Qts {qts} must lie below {name} {q}: 1/Qts = 1/Qms + 1/Qes"));
        }
    }
    if let Err(undetermined) = woofer.resolve(&Air::from(&design.air)) {
        for field in &undetermined.missing {
            add(&format!("/woofer/{field}"), format!("missing, and not to be derived; {}", undetermined.hint));
        }
    }
    if design.array.wiring.in_series(design.array.count).is_none() {
        add("/array/wiring", format!("pairs in series need an even count, not {}", design.array.count));
    }
    if matches!(design.drive, crate::document::Drive::Power { .. }) && woofer.nominal_ohm.is_none() {
        add("/woofer/nominal_ohm", "a drive in watts needs the nominal impedance it refers to, for example 8".into());
    }
    if let Some(cabinet) = &design.cabinet
        && cabinet.inside_mm().iter().any(|side| *side <= 0.0)
    {
        add("/cabinet/panel_mm", "the boards are thicker than the box: nothing is left inside".into());
    }
    list
}
