//! Cabinets played equally loud: levels over a band, and how well a meter reads them.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// How far levels may differ before what is heard may be the level, dB (common practice).
pub const TOLERANCE_DB: f64 = 0.1;

/// Level of pink noise limited to a band, dB, from a curve: mean of |p|² over the logarithm of frequency. Between points the curve
/// is a straight line in dB over the logarithm of frequency, which is integrated exactly; `None` where the points do not cover the
/// band, ascend and hold numbers.
pub fn pink_db(frequencies_hz: &[f64], level_db: &[f64], band_hz: [f64; 2]) -> Option<f64> {
    let [low, high] = band_hz;
    let sound = frequencies_hz.windows(2).all(|w| w[0] < w[1]) && frequencies_hz.len() == level_db.len();
    let (first, last) = (*frequencies_hz.first()?, *frequencies_hz.last()?);
    if !(sound && low > 0.0 && low < high) || first > low || last < high {
        return None;
    }
    let mut sum = 0.0;
    for (f, l) in frequencies_hz.windows(2).zip(level_db.windows(2)) {
        let (from, to) = (f[0].max(low), f[1].min(high));
        if from >= to {
            continue;
        }
        let slope = (l[1] - l[0]) / (f[1] / f[0]).ln();
        let at = |x: f64| 10f64.powf((l[0] + slope * (x / f[0]).ln()) / 10.0);
        let (a, b) = (at(from), at(to));
        // the mean of an exponential between its ends
        let mean = if (b / a - 1.0).abs() < 1e-9 { (a + b) / 2.0 } else { (b - a) / (b / a).ln() };
        sum += mean * (to / from).ln();
    }
    let level = 10.0 * (sum / (high / low).ln()).log10();
    level.is_finite().then_some(level)
}

/// The band that all of some curves (Hz, dB) play: each within 10 dB of its own top between 20 and 200 Hz, up to 120 Hz or an octave
/// above where all have begun, as far as all were taken. `None` where that is less than half an octave.
pub fn common_band(curves: &[(&[f64], &[f64])]) -> Option<[f64; 2]> {
    let (mut low, mut end) = (20f64, f64::INFINITY);
    for (hz, db) in curves {
        let within = || hz.iter().zip(*db).filter(|(f, _)| (20.0..=200.0).contains(*f));
        let top = within().map(|(_, l)| *l).fold(f64::NEG_INFINITY, f64::max);
        let begins = within().find(|(_, l)| **l >= top - 10.0).map(|(f, _)| *f)?;
        low = low.max(begins).max(*hz.first()?);
        end = end.min(*hz.last()?);
    }
    let high = 120f64.max(2.0 * low).min(end);
    // rounded inwards, so that every curve covers it
    let (low, high) = ((low * 10.0).ceil() / 10.0, (high * 10.0).floor() / 10.0);
    (high >= low * std::f64::consts::SQRT_2).then_some([low, high])
}

/// How well random noise tells a level: standard deviation, dB, of noise `bandwidth_hz` wide averaged over `seconds`
/// (4.343/sqrt(B T); for B T well above 1).
pub fn noise_error_db(bandwidth_hz: f64, seconds: f64) -> f64 {
    10.0 / std::f64::consts::LN_10 / (bandwidth_hz * seconds).sqrt()
}

/// How long random noise so wide is averaged until two standard deviations are `within_db`.
pub fn seconds_needed(bandwidth_hz: f64, within_db: f64) -> f64 {
    (2.0 * 10.0 / std::f64::consts::LN_10 / within_db).powi(2) / bandwidth_hz
}

/// What each is turned by, so that all play as loud as the softest.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Trims {
    /// What each is turned by, dB; none is turned up.
    pub trims_db: Vec<f64>,
    /// How far apart they were, dB.
    pub apart_db: f64,
}

/// The trims that bring levels down to the softest; `None` of no level, or one that is no number.
pub fn trims(levels_db: &[f64]) -> Option<Trims> {
    let softest = levels_db.iter().copied().fold(f64::INFINITY, f64::min);
    let loudest = levels_db.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    if levels_db.is_empty() || levels_db.iter().any(|l| !l.is_finite()) {
        return None;
    }
    Some(Trims { trims_db: levels_db.iter().map(|l| softest - l).collect(), apart_db: loudest - softest })
}
