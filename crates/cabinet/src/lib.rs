//! A cabinet as what is sawn: its boards as solids that meet in joints, folded paths, the cut list in millimetres and inches,
//! and layouts on sheets that a panel saw can cut.
//!
//! Lengths are in millimetres throughout, as at the saw. Axes: across, up, and back from the baffle's face. The crate has no
//! interface and does no I/O.
#![deny(missing_docs)]

pub mod board;
pub mod bodies;
pub mod carcass;
pub mod drawing;
pub mod fold;
pub mod laps;
pub mod parts;
pub mod sheets;
