//! Standing waves of lines and horns: the odd quarter waves along the path.

use crate::analysis::Analysis;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::PI;

/// Under this share of its greatest a wave is all but missed.
const MISSED: f64 = 0.15;

/// One wave along a path.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PathWave {
    /// How many quarter waves: 1, 3, 5.
    pub quarters: u32,
    /// Where a straight path of this length has it, Hz: taper, fill and coupling chamber move it.
    pub frequency_hz: f64,
    /// How much the woofer drives it from where it sits: 1 is all, 0 not at all.
    pub woofer: f64,
    /// Whether it is all but missed from there.
    pub missed: bool,
    /// How far the level swings around it, from half a wave's distance below to above, dB; what the fill leaves.
    pub swing_db: f64,
    /// Whether that lies in the band.
    pub in_band: bool,
}

/// The waves of a path closed at its beginning; empty in families without one.
pub fn waves(analysis: &Analysis) -> Vec<PathWave> {
    let Some(report) = &analysis.wired.path else { return Vec::new() };
    let path = &report.path;
    let mouth = (path.area(path.length()) / PI).sqrt();
    let effective = path.length() + 0.6133 * mouth;
    let first = analysis.context.air.c / (4.0 * effective);
    let tap = report.taps.first().map_or(0.0, |t| t.0);
    let plays_to = analysis.design.brief.plays_to();
    (0..6)
        .map(|k| {
            let quarters = 2 * k + 1;
            let frequency = first * f64::from(quarters);
            let (low, high) = (frequency - first, frequency + first);
            let levels: Vec<f64> =
                (0..24).map(|i| low.max(first * 0.5) + (high - low.max(first * 0.5)) * f64::from(i) / 23.0).collect();
            let curve = analysis.on_places(&[], &levels).map_or_else(Vec::new, |a| a.curves.level_db);
            let most = curve.iter().copied().fold(f64::MIN, f64::max);
            let least = curve.iter().copied().fold(f64::MAX, f64::min);
            let woofer = (f64::from(quarters) * PI / 2.0 * tap / effective).cos().abs();
            PathWave {
                quarters,
                frequency_hz: frequency,
                woofer,
                missed: woofer < MISSED,
                swing_db: if curve.is_empty() { 0.0 } else { most - least },
                in_band: frequency <= plays_to * super::modes::REACH,
            }
        })
        .collect()
}
