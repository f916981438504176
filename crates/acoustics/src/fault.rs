//! What is wrong with a part of a document that only several of its fields together can tell.

/// Something wrong with a part of the document that only several fields together can tell.
#[derive(Clone, Debug, PartialEq)]
pub struct Fault {
    /// Place in that part of the document (JSON pointer).
    pub pointer: String,
    /// What is wrong and what would do.
    pub message: String,
}

impl Fault {
    /// A fault at a place.
    pub fn new(pointer: impl Into<String>, message: String) -> Fault {
        Fault { pointer: pointer.into(), message }
    }
}
