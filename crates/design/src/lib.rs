//! The design document: what a builder decides, in one open, versioned JSON text.
//!
//! [`read`] takes a text to a [`Design`] (upgrading older versions, refusing what it does not know, naming the
//! place and the nearest right name); [`evaluate()`] takes a design to curves, figures, the air ledger and
//! [`findings`]. No interface, no I/O.
#![deny(missing_docs)]

pub mod airway;
pub mod analysis;
pub mod arrangement;
pub mod cabinet;
pub mod cost;
pub mod document;
pub mod evaluate;
pub mod findings;
pub mod ledger;
pub mod motion;
pub mod packed;
pub mod problem;
pub mod quiet;
pub mod read;
mod reader;
pub mod schema;
mod shaking;
pub mod tolerance;
pub mod upgrade;

pub use document::Design;

/// Every family of enclosures, in the order in which they are offered.
pub fn families() -> &'static [oak_drum_acoustics::families::Info] {
    oak_drum_acoustics::families::FAMILIES
}

/// The library of fill materials.
pub fn materials() -> &'static [oak_drum_acoustics::fill::MaterialInfo] {
    oak_drum_acoustics::fill::MATERIALS
}

/// Plastic pipes that ports are cut from.
pub fn pipes() -> &'static [oak_drum_acoustics::pipes::Pipe] {
    oak_drum_acoustics::pipes::PIPES
}

pub use evaluate::{Evaluation, evaluate, found, outline, suggest};
pub use problem::Problem;
pub use read::{read, read_value};
