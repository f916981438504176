//! Why a file holds no curve.

use thiserror::Error;

/// Why a file could not be read.
#[derive(Debug, Error, PartialEq)]
pub enum CurveError {
    /// Nothing in it.
    #[error("the file is empty")]
    Empty,
    /// Another text encoding.
    #[error("the file is in UTF-16; save it as UTF-8 or plain text and try again")]
    Utf16,
    /// No text at all.
    #[error("this is no text: line {line} holds a byte 0x{byte:02X}")]
    NotText {
        /// Where, from 1.
        line: usize,
        /// The byte.
        byte: u8,
    },
    /// No line of numbers.
    #[error(
        "no two lines begin with numbers; a frequency, a level or an impedance, and perhaps a phase are expected on each"
    )]
    NoNumbers,
    /// Only one column.
    #[error("line {line}: only one column of numbers; a level or an impedance is expected beside the frequency")]
    OneColumn {
        /// Where, from 1.
        line: usize,
    },
    /// A cell that is no number.
    #[error("line {line}, column {column}: \"{cell}\" is no number")]
    NotANumber {
        /// Line, from 1.
        line: usize,
        /// Column, from 1.
        column: usize,
        /// What stands there.
        cell: String,
    },
    /// A column that is missing.
    #[error("line {line}: column {column} is missing")]
    NoColumn {
        /// Line, from 1.
        line: usize,
        /// Column, from 1.
        column: usize,
    },
    /// A value that cannot be.
    #[error("line {line}, column {column}: {what}")]
    Impossible {
        /// Line, from 1.
        line: usize,
        /// Column, from 1.
        column: usize,
        /// What is wrong with it.
        what: String,
    },
    /// The columns were told so that no curve comes of them.
    #[error("{0}")]
    Roles(&'static str),
    /// Too many points.
    #[error("more than {most} points")]
    TooMany {
        /// Most points.
        most: usize,
    },
    /// Not JSON, or cut off.
    #[error("this is not JSON, or it is cut off: {0}")]
    NotJson(String),
    /// JSON, but not of this format.
    #[error("{pointer}: {message}")]
    Shape {
        /// JSON pointer of the place.
        pointer: String,
        /// What is wrong there.
        message: String,
    },
    /// A recording that cannot be read.
    #[error("this recording cannot be read: {0}")]
    Wav(String),
}
