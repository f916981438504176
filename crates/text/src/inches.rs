//! Millimetres as inches with a fraction, and what the rounding costs.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::fmt;

/// An inch, mm.
pub const INCH: f64 = 25.4;

/// A length in inches with a fraction in lowest terms.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Inches {
    /// Whole inches.
    pub whole: u32,
    /// Numerator of the fraction; 0 for none.
    pub numerator: u32,
    /// Its denominator, a power of two; 1 for none.
    pub denominator: u32,
    /// By how much it is longer than asked, mm; shorter is negative.
    pub error_mm: f64,
}

/// The nearest fraction of an inch to a length (mm, at least 0) in steps of one over `denominator` (16, 32 or 64).
pub fn nearest(mm: f64, denominator: u32) -> Inches {
    let steps = (mm.max(0.0) / INCH * f64::from(denominator)).round();
    let error_mm = steps * INCH / f64::from(denominator) - mm;
    let steps = steps as u32;
    let (mut numerator, mut below) = (steps % denominator, denominator);
    while numerator != 0 && numerator % 2 == 0 {
        numerator /= 2;
        below /= 2;
    }
    if numerator == 0 {
        below = 1;
    }
    Inches { whole: steps / denominator, numerator, denominator: below, error_mm }
}

impl fmt::Display for Inches {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match (self.whole, self.numerator) {
            (whole, 0) => write!(f, "{whole} in"),
            (0, n) => write!(f, "{n}/{} in", self.denominator),
            (whole, n) => write!(f, "{whole} {n}/{} in", self.denominator),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    /// Common practice: 288 mm is just under 11 11/32 in; two layers of plywood that are each 1/32 in under 3/4 in come
    /// out 1/16 in short.
    #[test]
    fn facts_of_the_trade() {
        let hole = nearest(288.0, 32);
        assert_eq!(hole.to_string(), "11 11/32 in");
        assert!(hole.error_mm > 0.0 && hole.error_mm < 0.2, "{hole:?}");
        let two = 2.0 * (0.75 - 1.0 / 32.0) * INCH;
        assert_eq!(nearest(1.5 * INCH - two, 32).to_string(), "1/16 in");
        assert_eq!(nearest(0.0, 16).to_string(), "0 in");
        assert_eq!(nearest(609.6, 16).to_string(), "24 in");
    }

    proptest! {
        /// Against exact rational arithmetic in whole micrometres: 1/d in is 25400/d µm, no other step is nearer, and the
        /// fraction is in lowest terms.
        #[test]
        fn no_other_step_is_nearer(um in 0u64..6_000_000, sixteenths in any::<bool>()) {
            let d: i128 = if sixteenths { 16 } else { 32 };
            let found = nearest(um as f64 * 1e-3, d as u32);
            let steps = i128::from(found.whole) * d
                + i128::from(found.numerator) * d / i128::from(found.denominator);
            // distances times d, exact
            let off = |k: i128| (k * 25_400 - i128::from(um) * d).abs();
            prop_assert!(off(steps) <= off(steps - 1) && off(steps) <= off(steps + 1));
            prop_assert!(found.numerator == 0 || found.numerator % 2 == 1);
            let error = (steps * 25_400 - i128::from(um) * d) as f64 / d as f64 * 1e-3;
            prop_assert!((found.error_mm - error).abs() < 1e-9);
        }
    }
}
