//! Files of many woofers, in and out.

use crate::csv;
use crate::record::{self, ShelfWoofer};
use crate::report::{ColumnReport, ImportedRow, RowProblem};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};
use std::collections::HashMap;

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
        self.rows.iter().filter_map(|r| r.woofer.as_ref())
    }
    /// The rows with problems.
    pub fn bad(&self) -> impl Iterator<Item = &ImportedRow> {
        self.rows.iter().filter(|r| !r.problems.is_empty())
    }
}

/// Reads a file.
///
/// # Errors
/// One sentence where the file as a whole cannot be read: wrong encoding, cut off, no names, too many rows.
pub fn import(bytes: &[u8], format: Format) -> Result<Import, String> {
    let text = decode(bytes)?;
    if text.trim().is_empty() {
        return Err("the file is empty".into());
    }
    let mut import = match format {
        Format::Csv => {
            let csv::Reading { columns, rows } = csv::read(text)?;
            Import { columns, rows }
        }
        Format::Json => Import { columns: Vec::new(), rows: json_rows(text)? },
    };
    if import.rows.len() > MOST_ROWS {
        return Err(format!("{} rows; at most {MOST_ROWS} are taken at once", import.rows.len()));
    }
    if import.rows.is_empty() {
        return Err("the file has a header and nothing under it".into());
    }
    mark_repeated(&mut import.rows);
    Ok(import)
}

/// UTF-8, with or without byte-order mark.
fn decode(bytes: &[u8]) -> Result<&str, String> {
    if bytes.starts_with(&[0xFF, 0xFE]) || bytes.starts_with(&[0xFE, 0xFF]) {
        return Err("the file is in UTF-16; save it as UTF-8 and try again".into());
    }
    let bytes = bytes.strip_prefix(&[0xEF, 0xBB, 0xBF]).unwrap_or(bytes);
    std::str::from_utf8(bytes).map_err(|error| {
        let at = error.valid_up_to();
        let line = bytes[..at].iter().filter(|b| **b == b'\n').count() + 1;
        let byte = bytes.get(at).copied().unwrap_or_default();
        format!("line {line} holds a byte (0x{byte:02X}) that is not UTF-8; save the file as UTF-8 and try again")
    })
}

fn json_rows(text: &str) -> Result<Vec<ImportedRow>, String> {
    let value: Value = serde_json::from_str(text).map_err(|e| format!("this is not JSON, or it is cut off: {e}"))?;
    let list = match (value.get("format").and_then(Value::as_str), value.get("version").and_then(Value::as_u64)) {
        (Some(record::FORMAT), _) => vec![value],
        (Some(COLLECTION), Some(1)) => match value.get("woofers") {
            Some(Value::Array(list)) => list.clone(),
            _ => return Err("\"woofers\" is missing, or is no list".into()),
        },
        _ => return Err(format!("expected \"format\": \"{COLLECTION}\" and \"version\": 1")),
    };
    let row = |(index, value): (usize, Value)| {
        let name = value.pointer("/woofer/name").and_then(Value::as_str).unwrap_or_default().to_owned();
        let line = index as u64 + 1;
        match record::read_value(value) {
            Ok(woofer) => ImportedRow { line, name, woofer: Some(woofer), problems: Vec::new() },
            Err(problems) => {
                let problems =
                    problems.into_iter().map(|p| RowProblem { column: p.pointer, message: p.message }).collect();
                ImportedRow { line, name, woofer: None, problems }
            }
        }
    };
    Ok(list.into_iter().enumerate().map(row).collect())
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

/// Writes woofers: CSV with the set in use of each, JSON with everything.
pub fn export(woofers: &[ShelfWoofer], format: Format) -> String {
    match format {
        Format::Csv => csv::write(woofers),
        Format::Json => {
            let collection = json!({"format": COLLECTION, "version": 1, "woofers": woofers});
            format!("{collection:#}\n")
        }
    }
}
