//! An enclosure's path made longer or shorter, and what lies along it with it.

use serde_json::Value;

/// Fields that are lengths along a path: its own, and the places of what lies along it.
const ALONG: [&str; 8] =
    ["length_mm", "woofer_at_mm", "inner_tap_mm", "outer_tap_mm", "from_mm", "to_mm", "at_mm", "step_at_mm"];
/// Parts of an enclosure whose lengths do not lie along its path.
const BESIDE: [&str; 5] = ["port", "rear_port", "front_port", "inside", "rear_inside"];

/// Every length along the path of an enclosure (a document, or its family's part of one), with its JSON pointer.
pub fn lengths_along(enclosure: &Value) -> Vec<(String, f64)> {
    let mut list = Vec::new();
    walk(enclosure, String::new(), &mut list);
    list
}

fn walk(value: &Value, at: String, list: &mut Vec<(String, f64)>) {
    match value {
        Value::Array(entries) => {
            entries.iter().enumerate().for_each(|(i, entry)| walk(entry, format!("{at}/{i}"), list));
        }
        Value::Object(object) => {
            for (name, entry) in object.iter().filter(|(name, _)| !BESIDE.contains(&name.as_str())) {
                match entry.as_f64() {
                    Some(mm) if ALONG.contains(&name.as_str()) => list.push((format!("{at}/{name}"), mm)),
                    _ => walk(entry, format!("{at}/{name}"), list),
                }
            }
        }
        _ => {}
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::json;

    /// The line and what lies along it, not its port, its areas or its inside.
    #[test]
    fn what_lies_along_is_found() {
        let line = json!({"family": "x", "length_mm": 1800, "area_cm2": 300, "port": {"sizing": {"length_mm": 90}},
            "fills": [{"from_mm": 0, "to_mm": 600}], "inside": {"width_mm": 300}});
        let found = lengths_along(&line);
        assert_eq!(
            found,
            [("/length_mm".into(), 1800.0), ("/fills/0/from_mm".into(), 0.0), ("/fills/0/to_mm".into(), 600.0)]
        );
    }
}
