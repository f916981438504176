//! What a kind of part at the terminals is to the rest of the program.

use super::component::Joined;
pub use crate::info::Info;

/// A kind of part.
pub trait Kind {
    /// What it says about itself.
    const INFO: Info;
    /// The components it is made of.
    fn made_of(&self) -> Joined;
}
