//! Levels, solid angles and drive.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::PI;

/// Reference sound pressure, Pa rms.
pub const P_REF: f64 = 20e-6;

/// The solid angle a box radiates into.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum SolidAngle {
    /// 4π sr: free air.
    Full,
    /// 2π sr: on a floor or in a wall.
    #[default]
    Half,
    /// π sr: on the floor along a wall.
    Quarter,
    /// π/2 sr: in a corner.
    Eighth,
}

impl SolidAngle {
    /// The angle in steradians.
    pub fn steradians(self) -> f64 {
        match self {
            SolidAngle::Full => 4.0 * PI,
            SolidAngle::Half => 2.0 * PI,
            SolidAngle::Quarter => PI,
            SolidAngle::Eighth => PI / 2.0,
        }
    }
}

/// 20·log10 of a pressure (Pa rms) over 20 µPa.
pub fn pressure_level_db(pressure: f64) -> f64 {
    20.0 * (pressure / P_REF).log10()
}

/// A ratio of amplitudes from decibels.
pub fn ratio_from_db(db: f64) -> f64 {
    10f64.powf(db / 20.0)
}

/// Frequencies spaced evenly on a logarithmic axis, Hz; both ends included. `count` of 1 gives `low`.
pub fn log_frequencies(low: f64, high: f64, count: usize) -> Vec<f64> {
    let step = if count > 1 { (high / low).ln() / (count - 1) as f64 } else { 0.0 };
    (0..count).map(|i| low * (step * i as f64).exp()).collect()
}
