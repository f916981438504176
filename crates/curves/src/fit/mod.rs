//! Models fitted to curves: least squares with ranges, a woofer from its impedance.

pub mod closed_form;
pub mod features;
pub mod least_squares;
pub mod woofer;
