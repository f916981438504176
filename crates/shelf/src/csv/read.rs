//! Reading CSV.

use super::columns::{self, Kind, Meaning};
use crate::error::{CellError, ColumnError, FileError};
use crate::import::MOST_ROWS;
use crate::record::{FORMAT, ParameterSet, ShelfWoofer, VERSION};
use crate::report::{ColumnReport, ImportedRow, RowProblem};
use crate::units::{number, shorten};
use oak_drum_acoustics::driver::Woofer;
use serde_json::{Map, Value, json};
use std::cell::Cell;
use std::collections::BTreeMap;
use std::io::Read;
use std::sync::OnceLock;

/// A file, read.
#[derive(Clone, Debug)]
pub struct Reading {
    /// The columns, in the file's order.
    pub columns: Vec<ColumnReport>,
    /// The rows, in the file's order.
    pub rows: Vec<ImportedRow>,
}

/// Most columns of a file: several times as many as there are meanings.
const MOST_COLUMNS: usize = 250;
/// Longest row, bytes: every column filled stays far under it.
const LONGEST_ROW: usize = 256 << 10;
/// Most problems told of one row.
const MOST_PROBLEMS: usize = 12;

/// A text that is given out only so far ahead of the rows already read.
struct Rowwise<'a> {
    text: &'a [u8],
    given: usize,
    allowed: &'a Cell<usize>,
}

impl Read for Rowwise<'_> {
    fn read(&mut self, into: &mut [u8]) -> std::io::Result<usize> {
        if self.given > self.allowed.get() + into.len() {
            return Err(std::io::Error::other(format!("a row is longer than {} kB", LONGEST_ROW >> 10)));
        }
        let length = into.len().min(self.text.len() - self.given);
        into[..length].copy_from_slice(&self.text[self.given..self.given + length]);
        self.given += length;
        Ok(length)
    }
}

/// Reads a CSV text (without byte-order mark).
///
/// # Errors
/// Where the file as a whole cannot be read.
pub fn read(text: &str) -> Result<Reading, FileError> {
    // a quote that is never closed swallows the rest of the file
    if text.matches('"').count() % 2 == 1 {
        return Err(FileError::OpenQuote);
    }
    let first = text.lines().next().unwrap_or_default();
    let separator = [b',', b';', b'\t']
        .into_iter()
        .max_by_key(|s| (first.bytes().filter(|b| b == s).count(), std::cmp::Reverse(*s)))
        .unwrap_or(b',');
    if first.bytes().filter(|b| *b == separator).count() >= MOST_COLUMNS {
        return Err(FileError::TooManyColumns { most: MOST_COLUMNS });
    }
    let allowed = Cell::new(LONGEST_ROW);
    let source = Rowwise { text: text.as_bytes(), given: 0, allowed: &allowed };
    let mut reader = csv::ReaderBuilder::new().delimiter(separator).flexible(true).from_reader(source);
    let headers = reader.headers().map_err(FileError::Header)?.clone();
    let mut meanings: Vec<Option<Meaning>> = Vec::new();
    let mut reports = Vec::new();
    for header in &headers {
        let mut found = columns::meaning(header);
        if let Ok(m) = &found
            && meanings.iter().flatten().any(|other| other.field == m.field)
        {
            found = Err(ColumnError::Twice);
        }
        reports.push(ColumnReport {
            header: shorten(header),
            field: found.as_ref().ok().map(|m| m.field.to_owned()),
            unit: found.as_ref().ok().map(|m| m.unit.clone()).filter(|u| !u.is_empty()),
            note: found.as_ref().map_or_else(|e| Some(e.to_string()), |m| m.note.clone()),
        });
        meanings.push(found.ok());
    }
    if !meanings.iter().flatten().any(|m| m.field == "name") {
        return Err(FileError::NoNames);
    }
    let mut rows: Vec<ImportedRow> = Vec::new();
    let mut bad = 0;
    let mut record = csv::StringRecord::new();
    loop {
        allowed.set(reader.position().byte() as usize + LONGEST_ROW);
        if !reader.read_record(&mut record).map_err(FileError::Row)? {
            break;
        }
        let line = record.position().map_or(0, csv::Position::line);
        if record.iter().all(|cell| cell.trim().is_empty()) {
            continue;
        }
        if rows.len() >= MOST_ROWS {
            return Err(FileError::TooManyRows { most: MOST_ROWS });
        }
        let mut made = row(line, &record, &meanings);
        bad += usize::from(made.woofer.is_none());
        made.keep_told(bad);
        rows.push(made);
    }
    Ok(Reading { columns: reports, rows })
}

/// Least and greatest value of every number, from the published schema.
fn ranges() -> &'static BTreeMap<String, (f64, f64)> {
    static RANGES: OnceLock<BTreeMap<String, (f64, f64)>> = OnceLock::new();
    RANGES.get_or_init(|| {
        let of = |schema: Value| {
            let properties = schema["properties"].as_object().cloned().unwrap_or_default();
            properties
                .into_iter()
                .filter_map(|(name, p)| Some((name, (p["minimum"].as_f64()?, p["maximum"].as_f64()?))))
        };
        of(oak_drum_document::schema::of::<Woofer>())
            .chain(of(oak_drum_document::schema::of::<ParameterSet>()))
            .collect()
    })
}

fn row(line: u64, record: &csv::StringRecord, meanings: &[Option<Meaning>]) -> ImportedRow {
    let mut problems = Vec::new();
    let (mut woofer, mut set) = (Map::new(), Map::new());
    let (mut tags, mut notes) = (Vec::new(), String::new());
    if record.len() != meanings.len() {
        problems.push(RowProblem {
            column: String::new(),
            message: format!("{} cells where the header has {}: is the row cut off?", record.len(), meanings.len()),
        });
    }
    for (cell, meaning) in record.iter().zip(meanings) {
        let Some(meaning) = meaning else { continue };
        let Some(column) = columns::of(meaning.field) else { continue };
        // a quote before a formula sign is how this program writes it, so that a spreadsheet leaves it alone
        let cell = cell.trim();
        let cell = match cell.strip_prefix('\'') {
            Some(rest) if rest.starts_with(['=', '+', '-', '@']) => rest,
            _ => cell,
        };
        if cell.is_empty() {
            continue;
        }
        let mut refuse = |message: String| {
            if problems.len() < MOST_PROBLEMS {
                problems.push(RowProblem { column: meaning.field.into(), message });
            }
        };
        let longest = if column.kind == Kind::Notes { 4000 } else { 120 };
        if cell.chars().count() > longest || cell.contains('\0') {
            refuse(format!("at most {longest} characters, and no zero character"));
            continue;
        }
        let numeric = |factor: f64| -> Result<f64, CellError> {
            let value = number(cell)? * factor;
            // 12 digits are more than any sheet has, and hide the factor's last bit
            let value = format!("{value:.11e}").parse().unwrap_or(value);
            match ranges().get(meaning.field) {
                Some((low, _)) if value < *low => Err(CellError::TooSmall { cell: cell.into(), least: *low }),
                Some((_, high)) if value > *high => Err(CellError::TooLarge { cell: cell.into(), most: *high }),
                _ => Ok(value),
            }
        };
        match column.kind {
            Kind::Text => {
                woofer.insert(meaning.field.into(), json!(cell));
            }
            Kind::SetText => {
                set.insert(meaning.field.into(), json!(cell));
            }
            Kind::Number(_) => match numeric(meaning.factor) {
                Ok(value) => {
                    woofer.insert(meaning.field.into(), json!(value));
                }
                Err(wrong) => refuse(wrong.to_string()),
            },
            Kind::SetNumber(_) => match numeric(meaning.factor) {
                Ok(value) => {
                    set.insert(meaning.field.into(), json!(value));
                }
                Err(wrong) => refuse(wrong.to_string()),
            },
            Kind::Whole => match numeric(1.0) {
                Ok(value) if value.fract() == 0.0 => {
                    woofer.insert(meaning.field.into(), json!(value as u32));
                }
                Ok(_) => refuse(format!("{cell} is not a whole number, for example 8")),
                Err(wrong) => refuse(wrong.to_string()),
            },
            Kind::Coils => match columns::coils(cell) {
                Some(coils) => {
                    woofer.insert("coils".into(), json!(coils));
                }
                None => refuse(format!("\"{}\" is neither single nor dual", shorten(cell))),
            },
            Kind::Provenance => match columns::provenance(cell) {
                Some(provenance) => {
                    set.insert("provenance".into(), json!(provenance));
                }
                None => refuse(format!(
                    "\"{}\" is none of data_sheet, measured_new, measured_broken_in, measured_after_change",
                    shorten(cell)
                )),
            },
            Kind::Tags => {
                tags =
                    cell.split([',', ';', '|']).map(str::trim).filter(|t| !t.is_empty()).map(str::to_owned).collect();
                if tags.len() > 40 || tags.iter().any(|t| t.chars().count() > 40) {
                    refuse("at most 40 tags of 40 characters".into());
                }
            }
            Kind::Notes => notes = cell.to_owned(),
        }
    }
    let name = woofer.get("name").and_then(Value::as_str).unwrap_or_default().to_owned();
    let made = assemble(woofer, set, tags, notes);
    if problems.is_empty() {
        problems.extend(made.iter().flat_map(ShelfWoofer::problems).map(|p| RowProblem {
            column: p.pointer.rsplit('/').next().unwrap_or_default().into(),
            message: p.message.metric(),
        }));
    }
    ImportedRow { line, name, woofer: made.filter(|_| problems.is_empty()).map(Box::new), problems }
}

fn assemble(
    woofer: Map<String, Value>,
    mut set: Map<String, Value>,
    tags: Vec<String>,
    notes: String,
) -> Option<ShelfWoofer> {
    let sheet: Woofer = serde_json::from_value(Value::Object(woofer)).ok()?;
    set.entry("provenance").or_insert(json!("data_sheet"));
    set.insert("figures".into(), json!({}));
    let set: ParameterSet = serde_json::from_value(Value::Object(set)).ok()?;
    Some(ShelfWoofer {
        format: FORMAT.into(),
        version: VERSION,
        woofer: sheet.without_figures(),
        sets: vec![ParameterSet { figures: sheet.figures(), ..set }],
        in_use: 0,
        tags,
        favourite: false,
        notes,
    })
}
