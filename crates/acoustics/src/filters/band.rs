//! The parametric band: a rise or a dip about one frequency.

use super::contract::{Info, Kind, Place, Section};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::{LN_2, SQRT_2};

/// A rise or a dip about one frequency; a level of zero does nothing.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Band", rename = "ParametricBand")]
pub struct Band {
    /// Its middle.
    #[schemars(title = "Frequency", range(min = 1.0, max = 20000.0), extend("x-unit" = "Hz", "x-start" = 40.0))]
    pub frequency_hz: f64,
    /// How much it lifts or cuts there; zero does nothing.
    #[schemars(title = "Level", range(min = -24.0, max = 24.0), extend("x-unit" = "dB", "x-start" = -3.0))]
    pub level_db: f64,
    /// Its width: Q 1.41 is an octave between the points of half the level in decibels. Devices count Q differently; see the
    /// width in octaves beside it.
    #[schemars(title = "Q", range(min = 0.1, max = 30.0), extend("x-start" = 1.414))]
    pub q: f64,
}

impl Kind for Band {
    const INFO: Info = Info {
        id: "band",
        title: "Band",
        summary: "Lifts or cuts about one frequency: first to cut a peak, last to lift.",
        source: "Bristow-Johnson, Cookbook formulae for audio EQ biquad filter coefficients (peakingEQ), from memory",
    };
    /// (x² + x·A/Q + 1)/(x² + x/(A·Q) + 1), A = 10^(G/40): a cut is exactly one over the boost.
    fn sections(&self) -> Vec<Section> {
        let a = 10f64.powf(self.level_db / 40.0);
        vec![Section::new(self.frequency_hz, [1.0, a / self.q, 1.0], [1.0, 1.0 / (a * self.q), 1.0])]
    }
    fn place(&self) -> Place {
        Place { hz: Some(self.frequency_hz), level_db: Some(self.level_db) }
    }
}

/// Octaves between the points of half the level in decibels: 1/Q = 2 sinh(N·ln2/2).
pub fn octaves_of(q: f64) -> f64 {
    2.0 / LN_2 * (0.5 / q).asinh()
}

/// Q of a band so many octaves wide between the points of half its level in decibels.
pub fn q_of(octaves: f64) -> f64 {
    0.5 / (0.5 * octaves * LN_2).sinh()
}

/// Q of a boost (dB, over 3.01) whose points 3.01 dB under its top lie so many octaves apart, as some devices count; `None` for a
/// boost too small to have them.
pub fn q_of_three_db(octaves: f64, level_db: f64) -> Option<f64> {
    let a = 10f64.powf(level_db / 40.0);
    let under = a.powi(4) - 2.0;
    (under > 0.0).then(|| a / under.sqrt() * q_of(octaves))
}

/// Octaves between the points 3.01 dB under the top of a boost (dB, over 3.01); `None` for one too small to have them.
pub fn three_db_octaves_of(q: f64, level_db: f64) -> Option<f64> {
    let a = 10f64.powf(level_db / 40.0);
    let under = a.powi(4) - 2.0;
    (under > 0.0).then(|| octaves_of(q * under.sqrt() / a))
}

/// What a device with a "constant" Q shows for a band.
pub fn constant_of(q: f64, level_db: f64) -> f64 {
    q * 10f64.powf(level_db.abs() / 40.0)
}

/// Q of a band of a device with a "constant" Q, whose denominator is x/Q' in a boost: Q = Q'/A, in a cut Q'·A.
pub fn q_of_constant(constant: f64, level_db: f64) -> f64 {
    constant / 10f64.powf(level_db.abs() / 40.0)
}

/// An octave, as Q.
pub const OCTAVE: f64 = SQRT_2;

#[cfg(test)]
mod tests {
    use super::*;

    /// The three ways devices count width, by the cookbook's bandwidth relation.
    #[test]
    fn widths() {
        assert!((q_of(1.0) - OCTAVE).abs() < 1e-12);
        assert!((octaves_of(2.0) - 0.714_037).abs() < 1e-6);
        assert!((octaves_of(q_of(0.37)) - 0.37).abs() < 1e-12);
        assert!((q_of_three_db(1.0, 6.0).unwrap() - 1.419_270).abs() < 1e-6);
        assert_eq!((q_of_three_db(1.0, 3.0), three_db_octaves_of(1.0, 3.0)), (None, None));
        assert!((three_db_octaves_of(q_of_three_db(0.7, 5.0).unwrap(), 5.0).unwrap() - 0.7).abs() < 1e-12);
        assert!((constant_of(q_of_constant(2.0, -6.0), -6.0) - 2.0).abs() < 1e-12);
        // at the points 3.01 dB under the top: |H|² is half of what it is there
        let band = Band { frequency_hz: 30.0, level_db: 6.0, q: q_of_three_db(1.0, 6.0).unwrap() };
        let there = band.sections()[0].response::<num_complex::Complex64>(std::f64::consts::TAU * 30.0 * SQRT_2);
        assert!((20.0 * there.norm().log10() - (6.0 - 10.0 * 2f64.log10())).abs() < 1e-9);
        // a constant Q' stands in the denominator as it is
        let q = q_of_constant(2.0, 6.0);
        let band = Band { frequency_hz: 30.0, level_db: 6.0, q };
        assert!((band.sections()[0].below[1] - 0.5).abs() < 1e-12);
    }
}
