//! What is done to a curve once it is there: averages, smoothing, phases, sums. Each leaves its input untouched.

pub mod average;
pub mod band_level;
pub mod near_field;
pub mod phase;
pub mod recipe;
pub mod smoothing;
pub mod splice;
