//! Files of many woofers, in and out.

use crate::csv;
use crate::error::FileError;
use crate::record::{self, ShelfWoofer};
use crate::report::{ColumnReport, ImportedRow, RowProblem};
use schemars::JsonSchema;
use serde::de::{SeqAccess, Visitor};
use serde::{Deserialize, Deserializer, Serialize};
use serde_json::value::RawValue;
use serde_json::{Value, json};
use std::collections::{HashMap, HashSet};
use std::fmt::Formatter;

/// The format of a JSON file of woofers.
pub const COLLECTION: &str = "oak-drum-shelf";
/// Most rows a file may hold.
pub const MOST_ROWS: usize = 20_000;

/// How a file is written.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Format {
    /// Rows and columns.
    Csv,
    /// This program's own JSON.
    Json,
}

/// A file as it was understood; nothing is stored yet.
#[derive(Clone, Debug)]
pub struct Import {
    /// The columns of a CSV file.
    pub columns: Vec<ColumnReport>,
    /// Every row.
    pub rows: Vec<ImportedRow>,
}

impl Import {
    /// The woofers of the rows without problems.
    pub fn woofers(&self) -> impl Iterator<Item = &ShelfWoofer> {
        self.rows.iter().filter_map(|r| r.woofer.as_deref())
    }
    /// The rows with problems.
    pub fn bad(&self) -> impl Iterator<Item = &ImportedRow> {
        self.rows.iter().filter(|r| !r.problems.is_empty())
    }
}

/// Reads a file.
///
/// # Errors
/// Where the file as a whole cannot be read: wrong encoding, cut off, no names, too many rows.
pub fn import(bytes: &[u8], format: Format) -> Result<Import, FileError> {
    let text = decode(bytes)?;
    if text.trim().is_empty() {
        return Err(FileError::Empty);
    }
    let mut import = match format {
        Format::Csv => {
            let csv::Reading { columns, rows } = csv::read(text)?;
            Import { columns, rows }
        }
        Format::Json => Import { columns: Vec::new(), rows: json_rows(text)? },
    };
    if import.rows.is_empty() {
        return Err(FileError::NoRows);
    }
    mark_repeated(&mut import.rows);
    Ok(import)
}

/// UTF-8, with or without byte-order mark.
pub(crate) fn decode(bytes: &[u8]) -> Result<&str, FileError> {
    if bytes.starts_with(&[0xFF, 0xFE]) || bytes.starts_with(&[0xFE, 0xFF]) {
        return Err(FileError::Utf16);
    }
    let bytes = bytes.strip_prefix(&[0xEF, 0xBB, 0xBF]).unwrap_or(bytes);
    std::str::from_utf8(bytes).map_err(|error| {
        let at = error.valid_up_to();
        let line = bytes[..at].iter().filter(|b| **b == b'\n').count() + 1;
        let byte = bytes.get(at).copied().unwrap_or_default();
        FileError::NotUtf8 { line, byte }
    })
}

/// Longest entry of a JSON file, bytes: a woofer with a hundred sets stays under it.
const LONGEST_ENTRY: usize = 1 << 20;
/// Most problems told of one entry.
const MOST_PROBLEMS: usize = 12;

/// What of a JSON file says which it is, its list read entry by entry.
#[derive(Default, Deserialize)]
#[serde(default)]
struct Outer {
    format: Value,
    version: Value,
    woofers: Option<Entries>,
}

/// Entries that were read one after another, none of them held longer than its turn.
struct Entries(Vec<ImportedRow>);

impl<'de> Deserialize<'de> for Entries {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Entries, D::Error> {
        struct Each;
        impl<'de> Visitor<'de> for Each {
            type Value = Vec<ImportedRow>;
            fn expecting(&self, f: &mut Formatter) -> std::fmt::Result {
                f.write_str("a list of woofers")
            }
            fn visit_seq<A: SeqAccess<'de>>(self, mut list: A) -> Result<Self::Value, A::Error> {
                let mut rows: Vec<ImportedRow> = Vec::new();
                let mut bad = 0;
                while let Some(text) = list.next_element::<&RawValue>()? {
                    if rows.len() >= MOST_ROWS {
                        return Err(serde::de::Error::custom(FileError::TooManyRows { most: MOST_ROWS }));
                    }
                    let mut made = entry(rows.len() as u64 + 1, text.get());
                    bad += usize::from(made.woofer.is_none());
                    made.keep_told(bad);
                    rows.push(made);
                }
                Ok(rows)
            }
        }
        deserializer.deserialize_seq(Each).map(Entries)
    }
}

fn entry(line: u64, text: &str) -> ImportedRow {
    let refused = |name: String, problems: Vec<RowProblem>| ImportedRow { line, name, woofer: None, problems };
    let one = |message: String| vec![RowProblem { column: String::new(), message }];
    if text.len() > LONGEST_ENTRY {
        return refused(String::new(), one(format!("longer than {} kB", LONGEST_ENTRY >> 10)));
    }
    let value: Value = match serde_json::from_str(text) {
        Ok(value) => value,
        Err(error) => return refused(String::new(), one(format!("this is not JSON: {error}"))),
    };
    let name = value.pointer("/woofer/name").and_then(Value::as_str).unwrap_or_default();
    let name: String = name.chars().take(120).collect();
    match record::read_value(value) {
        Ok(woofer) => ImportedRow { line, name, woofer: Some(Box::new(woofer)), problems: Vec::new() },
        Err(problems) => {
            let told = problems.into_iter().take(MOST_PROBLEMS);
            refused(name, told.map(|p| RowProblem { column: p.pointer, message: p.message.metric() }).collect())
        }
    }
}

fn json_rows(text: &str) -> Result<Vec<ImportedRow>, FileError> {
    // which of both it is stands in the words of the reader
    let outer: Outer = serde_json::from_str(text)
        .map_err(|e| if e.is_data() { FileError::Shape(e) } else { FileError::NotJson(e) })?;
    match (outer.format.as_str(), outer.version.as_u64()) {
        (Some(record::FORMAT), _) => Ok(vec![entry(1, text)]),
        (Some(COLLECTION), Some(1)) => outer.woofers.map(|entries| entries.0).ok_or(FileError::NoList),
        _ => Err(FileError::UnknownFormat { expected: COLLECTION }),
    }
}

/// The same woofers, each with a maker and name of its own.
fn numbered(woofers: &[ShelfWoofer]) -> Vec<ShelfWoofer> {
    let mut seen: HashSet<(String, String)> = woofers.iter().map(ShelfWoofer::key).collect();
    let mut once: HashSet<(String, String)> = HashSet::new();
    let mut list = woofers.to_vec();
    for woofer in &mut list {
        if once.insert(woofer.key()) {
            continue;
        }
        let name = woofer.woofer.name.clone();
        for n in 2.. {
            let number = format!(" ({n})");
            let kept: String = name.chars().take(120 - number.len()).collect();
            woofer.woofer.name = kept + &number;
            if seen.insert(woofer.key()) {
                once.insert(woofer.key());
                break;
            }
        }
    }
    list
}

/// Two rows of one maker and name: the later one is a problem.
fn mark_repeated(rows: &mut [ImportedRow]) {
    let mut seen: HashMap<(String, String), u64> = HashMap::new();
    for row in rows {
        let Some(woofer) = &row.woofer else { continue };
        let key = woofer.key();
        if let Some(first) = seen.get(&key) {
            let message = format!("the same maker and name as line {first}");
            row.problems.push(RowProblem { column: "name".into(), message });
            row.woofer = None;
        } else {
            seen.insert(key, row.line);
        }
    }
}

/// Writes woofers: CSV with the set in use of each, JSON with everything. Of several with one maker and name the later ones are
/// numbered, so that the file can be read back.
pub fn export(woofers: &[ShelfWoofer], format: Format) -> String {
    let woofers = numbered(woofers);
    match format {
        Format::Csv => csv::write(&woofers),
        Format::Json => {
            let collection = json!({"format": COLLECTION, "version": 1, "woofers": woofers});
            format!("{collection:#}\n")
        }
    }
}
