//! Proving a build: what was measured held against what the model says, what explains the difference, what to do about it.
//!
//! The model of every comparison is the network itself: a design is frozen as it was built (ports by their lengths, the woofer by its
//! figures) and varied in what could be off ([`unknown`]).

pub mod as_built;
pub mod bench;
pub mod box_fit;
pub mod break_in;
pub mod causes;
pub mod combined;
pub mod comparison;
pub mod cures;
pub mod evidence;
pub mod habits;
pub mod hidden;
pub mod openings;
pub mod practice;
pub mod predicted;
pub mod ripples;
pub mod unknown;
pub mod view;
pub mod woofer_fit;
