//! What a build's file says.

use crate::tags::{LONGEST_TAG, MOST_TAGS};
use chrono::{DateTime, Utc};
use oak_drum_curves::measurement::Measurement;
use oak_drum_document::{Design, LogEntry, WorkPlan};
use oak_drum_listening::session::{Session, Slip};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value;

/// The value of `format`.
pub const FORMAT: &str = "oak-drum-build";
/// The version this program writes.
pub const VERSION: u32 = 1;
/// Most revisions of a build.
pub const MOST_REVISIONS: usize = 2_000;
/// Most saved states of a revision that go with it, the newest.
pub const MOST_STATES: usize = 200;
/// Most entries of a log.
pub const MOST_ENTRIES: usize = 20_000;
/// Most listening sessions.
pub const MOST_SESSIONS: usize = 500;

/// A build with all that belongs to it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Oak Drum build")]
pub struct BuildFile {
    /// Always `oak-drum-build`.
    #[schemars(extend("const" = FORMAT))]
    pub format: String,
    /// Version of this format.
    #[schemars(extend("const" = VERSION))]
    pub version: u32,
    /// What it is recognised by when it comes back: 32 hexadecimal letters. It opens nothing.
    #[schemars(length(min = 32, max = 32), regex(pattern = "^[0-9a-f]{32}$"))]
    pub key: String,
    /// Its name.
    #[schemars(length(min = 1, max = 120))]
    pub name: String,
    /// When it was begun, RFC 3339.
    #[schemars(with = "String", length(max = 40))]
    pub created_at: DateTime<Utc>,
    /// Words it is sorted by.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[schemars(length(max = MOST_TAGS), inner(length(min = 1, max = LONGEST_TAG)))]
    pub tags: Vec<String>,
    /// Its revisions, in their order.
    #[schemars(length(min = 1, max = MOST_REVISIONS))]
    pub revisions: Vec<RevisionFile>,
    /// What was measured.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[schemars(length(max = oak_drum_curves::measurement::MOST))]
    pub measurements: Vec<MeasurementFile>,
    /// What was written down, the oldest first.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[schemars(length(max = MOST_ENTRIES))]
    pub log: Vec<EntryFile>,
    /// Listening sessions that have ended, the oldest first: one that runs is sealed and stays where it is.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[schemars(length(max = MOST_SESSIONS))]
    pub listening: Vec<SessionFile>,
}

/// A revision.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct RevisionFile {
    /// Its letter: A, B, C and so on.
    #[schemars(length(min = 1, max = 8), regex(pattern = "^[A-Z]+$"))]
    pub letter: String,
    /// When it was begun, RFC 3339.
    #[schemars(with = "String", length(max = 40))]
    pub created_at: DateTime<Utc>,
    /// When it was last saved, RFC 3339.
    #[schemars(with = "String", length(max = 40))]
    pub updated_at: DateTime<Utc>,
    /// The design document.
    #[schemars(with = "Design")]
    pub document: Value,
    /// What the workshop keeps beside it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[schemars(with = "Option<WorkPlan>")]
    pub work: Option<Value>,
    /// What it was before, the oldest first; the newest state is the document.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[schemars(length(max = MOST_STATES))]
    pub before: Vec<StateFile>,
}

/// What a revision once was.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct StateFile {
    /// When it became so, RFC 3339.
    #[schemars(with = "String", length(max = 40))]
    pub saved_at: DateTime<Utc>,
    /// The design document then.
    #[schemars(with = "Design")]
    pub document: Value,
}

/// A measurement; its samples lie beside it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct MeasurementFile {
    /// When it came, RFC 3339.
    #[schemars(with = "String", length(max = 40))]
    pub created_at: DateTime<Utc>,
    /// The revision it was taken of, by its letter.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[schemars(length(max = 8))]
    pub revision: Option<String>,
    /// SHA-256 of its samples, 64 hexadecimal letters; they are `samples/` and this.
    #[schemars(length(min = 64, max = 64), regex(pattern = "^[0-9a-f]{64}$"))]
    pub samples: String,
    /// The measurement.
    #[schemars(with = "Measurement")]
    pub document: Value,
}

/// An entry of the log; its photos lie beside it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct EntryFile {
    /// When it was written, RFC 3339.
    #[schemars(with = "String", length(max = 40))]
    pub written_at: DateTime<Utc>,
    /// The entry. Its photos are `photos/`, their digest and `.jpg`.
    #[schemars(with = "LogEntry")]
    pub document: Value,
}

/// A listening session that has ended.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct SessionFile {
    /// When it began, RFC 3339.
    #[schemars(with = "String", length(max = 40))]
    pub created_at: DateTime<Utc>,
    /// When its order was first shown to a helper, RFC 3339.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[schemars(with = "Option<String>", length(max = 40))]
    pub shown_at: Option<DateTime<Utc>>,
    /// When it ended, RFC 3339.
    #[schemars(with = "String", length(max = 40))]
    pub ended_at: DateTime<Utc>,
    /// The session.
    #[schemars(with = "Session")]
    pub document: Value,
    /// Who listened, in the order in which they joined.
    #[schemars(length(max = oak_drum_listening::session::MOST_LISTENERS))]
    pub listeners: Vec<ListenerFile>,
}

/// A listener.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct ListenerFile {
    /// Name.
    #[schemars(length(min = 1, max = 120))]
    pub name: String,
    /// What was answered, by hearing.
    #[schemars(length(max = 2000))]
    pub slips: Vec<SlipFile>,
}

/// An answer.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct SlipFile {
    /// Which hearing, from 0.
    pub hearing: u32,
    /// The answer.
    #[schemars(with = "Slip")]
    pub document: Value,
}

impl BuildFile {
    /// Digests of the samples it names, each once.
    pub fn samples(&self) -> Vec<&str> {
        once(self.measurements.iter().map(|m| m.samples.as_str()))
    }

    /// Digests of the photos it names, each once.
    pub fn photos(&self) -> Vec<&str> {
        once(self.log.iter().flat_map(|e| digests(&e.document)))
    }
}

/// Digests of the photos an entry shows.
pub(crate) fn digests(entry: &Value) -> impl Iterator<Item = &str> {
    entry.get("photos").and_then(Value::as_array).into_iter().flatten().filter_map(|p| p.get("digest")?.as_str())
}

fn once<'a>(list: impl Iterator<Item = &'a str>) -> Vec<&'a str> {
    let mut list: Vec<&str> = list.collect();
    list.sort_unstable();
    list.dedup();
    list
}
