//! CSV with a header whose names carry the units.
//!
//! `vas_l`, `Vas (L)`, `Vas [ft³]` and `vas ft3` are all understood; an unknown column is reported and left out; a
//! quantity without a unit is read in the canonical one, and that is said. Comma, semicolon or tab separate.

pub mod columns;
mod read;
mod write;

pub use read::{Reading, read};
pub use write::write;
