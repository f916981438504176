//! What can go wrong with printing.

/// Why nothing could be printed.
#[derive(Debug, PartialEq, Eq)]
pub struct Unprinted(pub String);

impl std::fmt::Display for Unprinted {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "the pages could not be written: {}", self.0)
    }
}

impl std::error::Error for Unprinted {}
