//! What a program knows of a build's days by itself: what of a design became another, in words.

use oak_drum_text::{Quantity, Text, Unit};
use serde_json::Value;

/// How many changes are told of a day; the rest is counted.
const TOLD: usize = 5;

/// A place of a document that holds another value.
#[derive(Clone, Debug, PartialEq)]
pub struct Difference {
    /// Place, a JSON pointer.
    pub pointer: String,
    /// What was there; `None` where nothing was.
    pub before: Option<Value>,
    /// What is there now; `None` where nothing is.
    pub after: Option<Value>,
}

/// Every place that holds another value, in the order of the newer document. An object or a list that is there in only one of the two
/// is told whole; a list with more or fewer members, too.
pub fn differences(before: &Value, after: &Value) -> Vec<Difference> {
    let mut list = Vec::new();
    walk(before, after, "", &mut list);
    list
}

fn walk(before: &Value, after: &Value, at: &str, list: &mut Vec<Difference>) {
    match (before, after) {
        (Value::Object(a), Value::Object(b)) => {
            for (key, value) in b {
                let here = format!("{at}/{}", key.replace('~', "~0").replace('/', "~1"));
                match a.get(key) {
                    Some(old) => walk(old, value, &here, list),
                    None => list.push(Difference { pointer: here, before: None, after: Some(value.clone()) }),
                }
            }
            for (key, value) in a.iter().filter(|(key, _)| !b.contains_key(*key)) {
                list.push(Difference { pointer: format!("{at}/{key}"), before: Some(value.clone()), after: None });
            }
        }
        (Value::Array(a), Value::Array(b)) if a.len() == b.len() => {
            a.iter().zip(b).enumerate().for_each(|(i, (x, y))| walk(x, y, &format!("{at}/{i}"), list));
        }
        _ if before == after => {}
        _ => list.push(Difference { pointer: at.to_owned(), before: Some(before.clone()), after: Some(after.clone()) }),
    }
}

/// Units at the end of a field's name: their place in the name, how a text carries them.
const UNITS: [(&str, Option<Unit>, &str); 17] = [
    ("_mm", Some(Unit::Mm), ""),
    ("_cm2", Some(Unit::Cm2), ""),
    ("_m2", Some(Unit::M2), ""),
    ("_l", Some(Unit::L), ""),
    ("_kg", Some(Unit::Kg), ""),
    ("_m", Some(Unit::M), ""),
    ("_hz", None, "Hz"),
    ("_db", None, "dB"),
    ("_w", None, "W"),
    ("_v", None, "V"),
    ("_ohm", None, "ohm"),
    ("_mh", None, "mH"),
    ("_uf", None, "uF"),
    ("_ms", None, "ms"),
    ("_g", None, "g"),
    ("_percent", None, "%"),
    ("_deg", None, "degrees"),
];

fn words_of(pointer: &str) -> (String, Option<Unit>, &'static str) {
    let name = pointer.rsplit('/').find(|s| s.parse::<usize>().is_err()).unwrap_or_default();
    let found = UNITS.iter().find(|(end, ..)| name.ends_with(end));
    let (stem, unit, sign) = match found {
        Some((end, unit, sign)) => (name.trim_end_matches(end), *unit, *sign),
        None => (name, None, ""),
    };
    // what it belongs to, where the name alone says little
    let parent = pointer.trim_end_matches(name).trim_end_matches('/').rsplit('/').find(|s| s.parse::<usize>().is_err());
    let own = stem.replace('_', " ");
    let told = match parent {
        Some(parent) if !["", "enclosure", "sizing", "cabinet", "brief", "drive"].contains(&parent) => {
            format!("{} {own}", parent.replace('_', " "))
        }
        _ => own,
    };
    (told, unit, sign)
}

fn value_in_words(value: Option<&Value>, unit: Option<Unit>, sign: &str) -> String {
    match value {
        None | Some(Value::Null) => "nothing".into(),
        Some(Value::Number(n)) => {
            let value = n.as_f64().unwrap_or_default();
            // four digits: it was set by hand, or dragged
            let digits = if value == 0.0 { 0 } else { 3 - (value.abs().log10().floor() as i32) };
            let by = 10f64.powi(digits);
            let rounded = (value * by).round() / by;
            match unit {
                Some(unit) => Quantity { values: vec![rounded], unit }.to_string(),
                None => format!("{rounded} {sign}").trim_end().to_owned(),
            }
        }
        Some(Value::Bool(b)) => (if *b { "yes" } else { "no" }).into(),
        Some(Value::String(s)) if s.is_empty() => "nothing".into(),
        Some(Value::String(s)) => s.replace('_', " "),
        Some(Value::Array(list)) => format!("{} of them", list.len()),
        Some(Value::Object(o)) => ["name", "kind", "family", "shape"]
            .iter()
            .find_map(|key| o.get(*key).and_then(Value::as_str))
            .map_or_else(|| "stated".to_owned(), |s| s.replace('_', " ")),
    }
}

/// Differences in words: "tuning 32 Hz, now 28 Hz; net volume 90 L, now 85 L; and 3 more". Empty where nothing is another.
pub fn in_words(list: &[Difference]) -> Text {
    // what the woofer's sheet holds follows from which woofer it is
    let other_woofer = list.iter().find(|d| d.pointer == "/woofer/name");
    let told: Vec<&Difference> = list
        .iter()
        .filter(|d| d.pointer != "/version" && d.pointer != "/name")
        .filter(|d| other_woofer.is_none() || !d.pointer.starts_with("/woofer/") || d.pointer == "/woofer/name")
        .collect();
    let mut words: Vec<String> = told
        .iter()
        .take(TOLD)
        .map(|d| {
            let (name, unit, sign) = words_of(&d.pointer);
            let (before, after) = (d.before.as_ref(), d.after.as_ref());
            let now = value_in_words(after, unit, sign);
            match before {
                None => format!("{name} {now}"),
                Some(_) if after.is_none() => format!("{name} left open"),
                Some(_) => {
                    let then = value_in_words(before, unit, sign);
                    if then == now { format!("{name} changed") } else { format!("{name} {then}, now {now}") }
                }
            }
        })
        .collect();
    if told.len() > TOLD {
        words.push(format!("and {} more", told.len() - TOLD));
    }
    words.join("; ").into()
}

#[cfg(test)]
mod tests {
    use super::*;
    use oak_drum_text::System;
    use serde_json::json;

    /// Applied to the older document, the differences give the newer one; and what they say is told in both systems.
    #[test]
    fn differences_lead_from_one_to_the_other() {
        let before = json!({"enclosure": {"family": "vented", "net_volume_l": 90, "port": {"sizing": {"tuning_hz": 32}}},
            "brief": {"level_db": 105}, "braces": [1, 2], "cabinet": {"width_mm": 400}});
        let after = json!({"enclosure": {"family": "vented", "net_volume_l": 85.04999, "port": {"sizing": {"tuning_hz": 28}}},
            "brief": {}, "braces": [1, 2, 3], "cabinet": {"width_mm": 400, "height_mm": 620}});
        let list = differences(&before, &after);
        let text = in_words(&list);
        assert_eq!(
            text.said(System::Metric),
            "net volume 90 L, now 85.05 L; tuning 32 Hz, now 28 Hz; level left open; braces 2 of them, now 3 of them; height 620 mm"
        );
        assert!(text.said(System::Inch).contains("height 24 13/32 in"), "{}", text.said(System::Inch));
        let mut made = before.clone();
        let changes: Vec<crate::Change> = list
            .into_iter()
            .map(|d| crate::Change { pointer: d.pointer, value: d.after.unwrap_or(Value::Null) })
            .collect();
        crate::apply(&mut made, &changes);
        assert_eq!(made, after);
        assert!(differences(&after, &after).is_empty());
        assert_eq!(in_words(&[]).said(System::Metric), "");
    }

    #[test]
    fn another_woofer_is_one_change() {
        let list = differences(
            &json!({"woofer": {"name": "Kelda 10", "fs_hz": 28, "qms": 4}}),
            &json!({"woofer": {"name": "Marl 12", "fs_hz": 24, "qms": 5}}),
        );
        assert_eq!(in_words(&list).said(System::Metric), "woofer name Kelda 10, now Marl 12");
        let many = json!({"a": 1, "b": 2, "c": 3, "d": 4, "e": 5, "f": 6, "g": 7});
        assert!(in_words(&differences(&json!({}), &many)).said(System::Metric).ends_with("; and 2 more"));
    }
}
