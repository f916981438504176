//! What is wrong with a document, and where.

use oak_drum_text::Text;
use serde::Serialize;

/// One thing wrong, at one place.
#[derive(Clone, Debug, PartialEq, Serialize)]
pub struct Problem {
    /// Stable name of the kind of problem.
    pub code: Code,
    /// JSON pointer of the field (RFC 6901); empty for the whole document.
    pub pointer: String,
    /// A sentence: what is wrong and what was expected, with an example where that helps.
    pub message: Text,
}

/// The kinds of problems.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
pub enum Code {
    /// The text is not JSON.
    NotJson,
    /// The document is of another format or of a version this program does not know.
    UnknownFormat,
    /// A field the format does not have.
    UnknownField,
    /// A field that must be there is not.
    Missing,
    /// A value of the wrong type.
    WrongType,
    /// A number outside its range, a text or list too long or too short.
    OutOfRange,
    /// A word that is none of those allowed.
    UnknownChoice,
    /// Values that exclude one another.
    Contradiction,
}

impl Problem {
    /// A problem from its parts.
    pub fn new(code: Code, pointer: impl Into<String>, message: impl Into<Text>) -> Problem {
        Problem { code, pointer: pointer.into(), message: message.into() }
    }
}

impl std::fmt::Display for Problem {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        let place = if self.pointer.is_empty() { "the document" } else { &self.pointer };
        write!(f, "{place}: {}", self.message.metric())
    }
}
