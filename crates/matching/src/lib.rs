//! Tries woofers against a brief.
//!
//! A [`Candidate`] is a woofer, how many of it, and a family of enclosures. [`search()`] finds its best box for a
//! [`Goal`]; what "best" means is the sum of the [`rules`], each a documented function in decibels. [`run`] does many
//! on all cores. The same candidates and goal give the same outcomes, whatever the order and the number of cores.
//!
//! ```
//! use oak_drum_matching::{Seek, seek};
//! let design = oak_drum_document::read(r#"{"format": "oak-drum-design", "version": 6,
//!     "woofer": {"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "xmax_mm": 9},
//!     "enclosure": {"family": "sealed", "net_volume_l": 90}}"#).unwrap();
//! let wish: Seek = serde_json::from_str(r#"{"reach": "lowest_f3", "lowest_note_hz": 30, "volume_l": 60}"#).unwrap();
//! let best = seek(&design, &wish).best.unwrap();
//! assert!(best.measures.volume_l <= 60.0 + 1e-6, "{}", best.measures.volume_l);
//! ```
#![deny(missing_docs)]

pub mod begin;
mod evaluator;
pub mod goal;
pub mod outcome;
pub mod rules;
mod search;
pub mod seek;

pub use evaluator::{Evaluator, TriedBox, outside_l};
pub use goal::{Goal, PortAir};
pub use outcome::{Outcome, Verdict};
pub use rules::{RULES, Rule};
pub use search::search;
pub use seek::{Seek, Sought, seek, seek_telling};

use oak_drum_acoustics::driver::Woofer;
use oak_drum_acoustics::halt;
use rayon::prelude::*;

/// A woofer, how many of it, and a family.
#[derive(Clone, Copy, Debug)]
pub struct Candidate<'a> {
    /// The woofer's whole sheet.
    pub woofer: &'a Woofer,
    /// How many.
    pub count: u32,
    /// The family's id.
    pub family: &'a str,
}

/// Searches every count and family of one woofer, on all cores, in the order counts x families.
pub fn run(goal: &Goal, woofer: &Woofer, counts: &[u32], families: &[String]) -> Vec<Outcome> {
    let candidates: Vec<Candidate> = counts
        .iter()
        .flat_map(|&count| families.iter().map(move |family| Candidate { woofer, count, family }))
        .collect();
    candidates.par_iter().map(halt::carried(|c| search(goal, c))).collect()
}
