//! What a builder writes down: an entry of a build's log.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Most photos of one entry.
pub const MOST_PHOTOS: usize = 12;

/// An entry of a build's log.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Log entry")]
pub struct LogEntry {
    /// What kind it is.
    #[schemars(title = "Kind")]
    #[serde(default)]
    pub kind: EntryKind,
    /// What is written.
    #[schemars(title = "Text", length(max = 20000))]
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub text: String,
    /// What it is about.
    #[schemars(title = "About")]
    #[serde(default, skip_serializing_if = "Tied::is_empty")]
    pub tied: Tied,
    /// Photos, in their order.
    #[schemars(title = "Photos", length(max = 12))]
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub photos: Vec<PhotoOf>,
}

/// What kind an entry is.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
#[schemars(title = "Kind of entry")]
pub enum EntryKind {
    /// What was done or seen.
    #[default]
    Note,
    /// What went wrong, and what was done about it.
    Mistake,
    /// What would be done better next time.
    Better,
    /// A remedy that was taken; written by the program.
    Remedy,
}

/// What an entry is about.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "About")]
pub struct Tied {
    /// The revision, by its letter.
    #[schemars(title = "Revision", length(max = 8))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub revision: Option<String>,
    /// The step of the building, by its stable name.
    #[schemars(title = "Step", length(max = 60))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub step: Option<String>,
    /// The part, by its letter in the cut list.
    #[schemars(title = "Part", length(max = 60))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub part: Option<String>,
    /// The measurement, by its name.
    #[schemars(title = "Measurement", length(max = 120))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub measurement: Option<String>,
    /// The finding, by its stable name.
    #[schemars(title = "Finding", length(max = 120))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub finding: Option<String>,
}

impl Tied {
    fn is_empty(&self) -> bool {
        *self == Tied::default()
    }
}

/// A photo that is kept beside the entries.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Photo")]
pub struct PhotoOf {
    /// Digest of what is kept, 64 hexadecimal letters.
    #[schemars(title = "Digest", length(min = 64, max = 64), regex(pattern = "^[0-9a-f]{64}$"))]
    pub digest: String,
    /// Width, pixels.
    #[schemars(title = "Width", range(min = 1, max = 20000))]
    pub width: u32,
    /// Height, pixels.
    #[schemars(title = "Height", range(min = 1, max = 20000))]
    pub height: u32,
}

impl LogEntry {
    /// Whether nothing was written or shown.
    pub fn says_nothing(&self) -> bool {
        self.text.trim().is_empty() && self.photos.is_empty()
    }
}
