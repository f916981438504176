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
