//! One amplifier of the shelf, and files of many.

use crate::error::FileError;
use oak_drum_acoustics::amplifier::Amplifier;
use oak_drum_document::{Code, Problem, Reader, amplifier_faults};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};
use std::collections::HashSet;
use std::sync::OnceLock;

/// The value of `format`.
pub const FORMAT: &str = "oak-drum-amplifier";
/// The version this program writes.
pub const VERSION: u32 = 1;
/// The format of a file of amplifiers.
pub const COLLECTION: &str = "oak-drum-amplifiers";
/// Most amplifiers a file may hold, and a shelf.
pub const MOST: usize = 500;

/// An amplifier on the shelf.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Oak Drum amplifier")]
pub struct ShelfAmplifier {
    /// Always `oak-drum-amplifier`.
    #[schemars(extend("const" = FORMAT))]
    pub format: String,
    /// Version of this format.
    #[schemars(extend("const" = VERSION))]
    pub version: u32,
    /// Its sheet.
    pub amplifier: Amplifier,
    /// Notes.
    #[schemars(title = "Notes", length(max = 4000), extend("x-lines" = 3))]
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub notes: String,
}

impl ShelfAmplifier {
    /// One by its sheet.
    pub fn from_sheet(amplifier: Amplifier) -> ShelfAmplifier {
        ShelfAmplifier { format: FORMAT.into(), version: VERSION, amplifier, notes: String::new() }
    }

    /// Whether another is the same make: maker and name alike, capitals and spaces aside.
    pub fn key(&self) -> (String, String) {
        let plain = |text: &str| text.split_whitespace().collect::<Vec<_>>().join(" ").to_lowercase();
        (plain(&self.amplifier.maker), plain(&self.amplifier.name))
    }

    /// What only several fields together can tell.
    fn problems(&self) -> Vec<Problem> {
        let mut list = Vec::new();
        if self.amplifier.name.trim().is_empty() {
            let message = "an amplifier on the shelf needs a name, for example \"Cellar 300\"";
            list.push(Problem::new(Code::Missing, "/amplifier/name", message));
        }
        let faults = amplifier_faults(&self.amplifier).into_iter();
        list.extend(faults.map(|f| Problem::new(Code::Contradiction, format!("/amplifier{}", f.pointer), f.message)));
        list
    }
}

/// JSON Schema (2020-12) of an amplifier of the shelf.
pub fn schema() -> Value {
    oak_drum_document::schema::of::<ShelfAmplifier>()
}

/// Reads an amplifier of the shelf from parsed JSON.
///
/// # Errors
/// Every problem found, each with its place.
pub fn read_value(value: Value) -> Result<ShelfAmplifier, Vec<Problem>> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let only = |code, pointer: &str, message: String| Err(vec![Problem::new(code, pointer, message)]);
    if value.get("format").and_then(Value::as_str) != Some(FORMAT) {
        return only(Code::UnknownFormat, "/format", format!("expected \"{FORMAT}\""));
    }
    if value.get("version").and_then(Value::as_u64) != Some(u64::from(VERSION)) {
        return only(Code::UnknownFormat, "/version", format!("expected {VERSION}"));
    }
    let problems = READER.get_or_init(|| Reader::new(schema())).problems(&value);
    if !problems.is_empty() {
        return Err(problems);
    }
    let amplifier: ShelfAmplifier = serde_json::from_value(value)
        .map_err(|e| vec![Problem::new(Code::WrongType, "", format!("cannot be read as an amplifier: {e}"))])?;
    let problems = amplifier.problems();
    if problems.is_empty() { Ok(amplifier) } else { Err(problems) }
}

/// Why a file of amplifiers is not taken in.
#[derive(Debug, thiserror::Error)]
pub enum NotRead {
    /// The file as a whole cannot be read.
    #[error(transparent)]
    File(#[from] FileError),
    /// What is wrong with some of its amplifiers, each with its place in the file.
    #[error("some of the file's amplifiers have problems")]
    Amplifiers(Vec<Problem>),
}

/// Reads a file: one amplifier, or a list of them. It is taken whole or not at all.
///
/// # Errors
/// What is wrong with it, or with each of its amplifiers.
pub fn read_file(bytes: &[u8]) -> Result<Vec<ShelfAmplifier>, NotRead> {
    let text = crate::import::decode(bytes)?;
    if text.trim().is_empty() {
        return Err(FileError::Empty.into());
    }
    let mut file: Value = serde_json::from_str(text).map_err(FileError::NotJson)?;
    if file.get("format").and_then(Value::as_str) == Some(FORMAT) {
        return read_value(file).map(|one| vec![one]).map_err(NotRead::Amplifiers);
    }
    if (file["format"].as_str(), file["version"].as_u64()) != (Some(COLLECTION), Some(1)) {
        return Err(FileError::UnknownFormat { expected: COLLECTION }.into());
    }
    let Value::Array(list) = file["amplifiers"].take() else { return Err(FileError::NoAmplifiers.into()) };
    if list.is_empty() {
        return Err(FileError::NoRows.into());
    }
    if list.len() > MOST {
        return Err(FileError::TooManyRows { most: MOST }.into());
    }
    let (mut made, mut problems): (Vec<ShelfAmplifier>, Vec<Problem>) = (Vec::new(), Vec::new());
    let mut seen = HashSet::new();
    for (i, value) in list.into_iter().enumerate() {
        let at = format!("/amplifiers/{i}");
        match read_value(value) {
            Ok(one) if seen.insert(one.key()) => made.push(one),
            Ok(_) => {
                let message = "the same maker and name as one before it";
                problems.push(Problem::new(Code::Contradiction, format!("{at}/amplifier/name"), message));
            }
            Err(list) => {
                problems.extend(list.into_iter().map(|p| Problem { pointer: format!("{at}{}", p.pointer), ..p }))
            }
        }
    }
    if problems.is_empty() { Ok(made) } else { Err(NotRead::Amplifiers(problems)) }
}

/// Writes amplifiers as a file that reads back.
pub fn write_file(list: &[ShelfAmplifier]) -> String {
    format!("{:#}\n", json!({"format": COLLECTION, "version": 1, "amplifiers": list}))
}
