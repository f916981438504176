//! What a whole workshop's file says. Its builds lie beside it, each as [`crate::BuildFile`] has it.

use chrono::{DateTime, Utc};
use oak_drum_document::{Room, Workshop};
use oak_drum_shelf::{ShelfAmplifier, ShelfWoofer};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value;

/// The value of `format`.
pub const FORMAT: &str = "oak-drum-workshop";
/// The version this program writes.
pub const VERSION: u32 = 2;
/// Most builds of a workshop that go into a file.
pub const MOST_BUILDS: usize = 5_000;
/// Most sheets of each kind.
pub const MOST_SHEETS: usize = 100_000;

/// A workshop without its builds.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Oak Drum workshop")]
pub struct WorkshopFile {
    /// Always `oak-drum-workshop`.
    #[schemars(extend("const" = FORMAT))]
    pub format: String,
    /// Version of this format.
    #[schemars(extend("const" = VERSION))]
    pub version: u32,
    /// Its name.
    #[schemars(length(min = 1, max = 120))]
    pub name: String,
    /// How many builds lie beside it.
    pub builds: u32,
    /// What it has beside them: currency, tools, pieces on the rack. Not in version 1.
    #[serde(default, skip_serializing_if = "Value::is_null")]
    pub has: Value,
    /// The woofers of the shelf.
    #[schemars(length(max = MOST_SHEETS))]
    pub woofers: Vec<Kept<Value>>,
    /// The amplifiers of the shelf.
    #[schemars(length(max = MOST_SHEETS))]
    pub amplifiers: Vec<Kept<Value>>,
    /// The rooms.
    #[schemars(length(max = MOST_SHEETS))]
    pub rooms: Vec<Kept<Value>>,
}

/// A sheet and when it came.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Kept<T> {
    /// When it came, RFC 3339.
    #[schemars(with = "String", length(max = 40))]
    pub created_at: DateTime<Utc>,
    /// The sheet.
    pub document: T,
}

/// A workshop's sheets, looked at.
#[derive(Clone, Debug, PartialEq)]
pub struct Sheets {
    /// What it has beside its builds.
    pub has: Workshop,
    /// The woofers.
    pub woofers: Vec<Kept<ShelfWoofer>>,
    /// The amplifiers.
    pub amplifiers: Vec<Kept<ShelfAmplifier>>,
    /// The rooms.
    pub rooms: Vec<Kept<Room>>,
}
