//! Writing CSV: the set in use of each woofer.

use super::columns::{COLUMNS, Kind, as_objects};
use crate::record::ShelfWoofer;
use serde_json::Value;

/// A CSV text with every column this program knows. A text that a spreadsheet would take for a formula gets a quote
/// before it.
pub fn write(woofers: &[ShelfWoofer]) -> String {
    let mut writer = csv::Writer::from_writer(Vec::new());
    // writing to memory cannot fail
    let _ = writer.write_record(COLUMNS.iter().map(|c| c.field));
    for woofer in woofers {
        let set = woofer.sets.get(woofer.in_use as usize).cloned().unwrap_or_default();
        let (sheet, set) = as_objects(&woofer.in_use(), &set);
        let text = |value: Option<&Value>| match value {
            None | Some(Value::Null) => String::new(),
            Some(Value::String(text)) => harmless(text),
            Some(other) => other.to_string(),
        };
        let _ = writer.write_record(COLUMNS.iter().map(|column| match column.kind {
            Kind::Tags => harmless(&woofer.tags.join("; ")),
            Kind::Notes => harmless(&woofer.notes),
            Kind::SetText | Kind::SetNumber(_) | Kind::Provenance => text(set.get(column.field)),
            _ => text(sheet.get(column.field)),
        }));
    }
    String::from_utf8(writer.into_inner().unwrap_or_default()).unwrap_or_default()
}

/// A text no spreadsheet computes.
fn harmless(text: &str) -> String {
    if text.starts_with(['=', '+', '-', '@', '\t', '\r']) { format!("'{text}") } else { text.to_owned() }
}
