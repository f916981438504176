//! What can be wrong with a file, a column and a cell.

use thiserror::Error;

/// Why a file as a whole cannot be read.
#[derive(Debug, Error)]
pub enum FileError {
    /// Nothing is in it.
    #[error("the file is empty")]
    Empty,
    /// It has no rows.
    #[error("the file has a header and nothing under it")]
    NoRows,
    /// It is written in two bytes a character.
    #[error("the file is in UTF-16; save it as UTF-8 and try again")]
    Utf16,
    /// It is not UTF-8.
    #[error("line {line} holds a byte (0x{byte:02X}) that is not UTF-8; save the file as UTF-8 and try again")]
    NotUtf8 {
        /// The line, from 1.
        line: usize,
        /// The first byte that does not fit.
        byte: u8,
    },
    /// It has more rows than are taken.
    #[error("the file has more than {most} rows; at most so many are taken at once")]
    TooManyRows {
        /// How many are taken.
        most: usize,
    },
    /// A quotation mark swallows the rest.
    #[error("a quotation mark is opened and never closed: is the file cut off?")]
    OpenQuote,
    /// Its header has more columns than are taken.
    #[error("the header has more than {most} columns")]
    TooManyColumns {
        /// How many are taken.
        most: usize,
    },
    /// Its header is no row of CSV.
    #[error("the header cannot be read: {0}")]
    Header(csv::Error),
    /// A row is none of CSV.
    #[error("the file cannot be read further: {0}")]
    Row(csv::Error),
    /// No column says what the woofers are called.
    #[error("no column holds the names of the woofers; its header should be \"name\"")]
    NoNames,
    /// It is no JSON.
    #[error("this is not JSON, or it is cut off: {0}")]
    NotJson(serde_json::Error),
    /// It is JSON of another shape.
    #[error("{0}")]
    Shape(serde_json::Error),
    /// It names no format that is read here.
    #[error("expected \"format\": \"{expected}\" and \"version\": 1")]
    UnknownFormat {
        /// The name of the format that is read.
        expected: &'static str,
    },
    /// It has no list of woofers.
    #[error("\"woofers\" is missing, or is no list")]
    NoList,
    /// It has no list of amplifiers.
    #[error("\"amplifiers\" is missing, or is no list")]
    NoAmplifiers,
}

/// Why a column is left out.
#[derive(Debug, PartialEq, Error)]
pub enum ColumnError {
    /// Its header names a unit that is none of its quantity's.
    #[error("\"{unit}\" is no unit known for it; {known} are")]
    UnknownUnit {
        /// What the header names.
        unit: String,
        /// The known ones.
        known: String,
    },
    /// Its header is not known.
    #[error("not known, left out{}", nearest.as_ref().map_or(String::new(), |n| format!("; did you mean \"{n}\"?")))]
    Unknown {
        /// A known one that is written much the same.
        nearest: Option<String>,
    },
    /// Another column says the same.
    #[error("stands twice; the first column counts")]
    Twice,
}

/// Why a cell holds no figure for its column.
#[derive(Debug, PartialEq, Error)]
pub enum CellError {
    /// It is no number.
    #[error("\"{0}\" is not a number, for example 12.5 or 12,5")]
    NotANumber(String),
    /// It is below its range.
    #[error("{cell} is too small; at least {least} is expected")]
    TooSmall {
        /// What stands in it.
        cell: String,
        /// The least, in the field's unit.
        least: f64,
    },
    /// It is above its range.
    #[error("{cell} is too large; at most {most} is expected")]
    TooLarge {
        /// What stands in it.
        cell: String,
        /// The most, in the field's unit.
        most: f64,
    },
}
