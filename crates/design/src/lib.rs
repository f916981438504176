//! A design worked out and judged.
//!
//! From the ground up: [`analysis`] wires a design of `oak-drum-document` and lays its cabinet out; [`finding`] is what a rule says
//! and [`trial`] tries its remedies; one folder a station holds its reckoning and its rules; [`evaluation`] joins them all.
//! [`evaluate()`] takes a design to curves, figures, the air ledger and findings. No interface, no I/O.
#![deny(missing_docs)]

pub mod airway;
pub mod analysis;
pub mod brief;
pub mod cabinet;
pub mod drive;
pub mod enclosure;
pub mod evaluation;
pub mod finding;
pub mod quiet;
pub mod trial;
pub mod woofer;

pub use evaluation::{Evaluation, evaluate, found, outline, suggest};
