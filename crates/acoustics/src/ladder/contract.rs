//! What a kind of part at the terminals is to the rest of the program.

use super::component::Joined;
use serde::Serialize;

/// What a kind says about itself.
#[derive(Clone, Copy, Debug, Serialize)]
pub struct Info {
    /// The tag in the document.
    pub id: &'static str,
    /// The field's name for it.
    pub title: &'static str,
    /// One sentence for a first-time builder.
    pub summary: &'static str,
    /// Its law.
    pub source: &'static str,
}

/// A kind of part.
pub trait Kind {
    /// What it says about itself.
    const INFO: Info;
    /// The components it is made of.
    fn made_of(&self) -> Joined;
}
