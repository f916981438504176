//! Changes to a document: a list of places and their new values.

use serde_json::Value;

/// One change to a design.
#[derive(Clone, Debug, PartialEq, serde::Serialize, serde::Deserialize, schemars::JsonSchema)]
pub struct Change {
    /// Place (JSON pointer); an absent member of an object is added.
    pub pointer: String,
    /// New value; null takes the member away.
    pub value: Value,
}

impl Change {
    /// Sets the value at a place.
    pub fn set(pointer: impl Into<String>, value: impl Into<Value>) -> Change {
        Change { pointer: pointer.into(), value: value.into() }
    }
}

/// Applies changes to a document; a pointer whose parent does not exist is passed over.
pub fn apply(document: &mut Value, changes: &[Change]) {
    for change in changes {
        let Some((parent, key)) = change.pointer.rsplit_once('/') else { continue };
        let Some(Value::Object(object)) = document.pointer_mut(parent) else { continue };
        if change.value.is_null() {
            object.shift_remove(key);
        } else {
            object.insert(key.to_owned(), change.value.clone());
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::json;

    fn after(changes: &[Change]) -> Value {
        let mut document =
            json!({"name": "A", "enclosure": {"family": "vented", "net_volume_l": 90, "port": {"count": 1}}});
        apply(&mut document, changes);
        document
    }

    /// A member is set, added or taken away; what stands beside it keeps its value and its place.
    #[test]
    fn members_are_set_added_and_taken_away() {
        let made = after(&[
            Change::set("/enclosure/net_volume_l", 80),
            Change::set("/enclosure/port/wall_mm", 3.5),
            Change::set("/name", Value::Null),
        ]);
        let expected = r#"{"enclosure":{"family":"vented","net_volume_l":80,"port":{"count":1,"wall_mm":3.5}}}"#;
        assert_eq!(made.to_string(), expected);
    }

    /// One after the other: a whole that is set first is changed in its parts by what follows, and replaced by what sets it again.
    #[test]
    fn order_counts() {
        let port = json!({"count": 2, "wall_mm": 4});
        let whole_first = [Change::set("/enclosure/port", port.clone()), Change::set("/enclosure/port/count", 3)];
        assert_eq!(after(&whole_first)["enclosure"]["port"], json!({"count": 3, "wall_mm": 4}));
        let part_first = [Change::set("/enclosure/port/count", 3), Change::set("/enclosure/port", port.clone())];
        assert_eq!(after(&part_first)["enclosure"]["port"], port);
    }

    /// What has no parent there is passed over; taking away what is not there is nothing.
    #[test]
    fn what_has_no_place_is_passed_over() {
        let same = after(&[]);
        for pointer in ["/cabinet/depth_mm", "/name/length", "/enclosure/port/count/x", "name", ""] {
            assert_eq!(after(&[Change::set(pointer, 1)]), same, "{pointer}");
        }
        assert_eq!(after(&[Change::set("/enclosure/leads", Value::Null)]), same);
    }
}
