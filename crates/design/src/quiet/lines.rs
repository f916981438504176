//! Standing waves of lines and horns: the resonances of the path from its closed beginning to its open end.

use crate::analysis::Analysis;
use oak_drum_acoustics::outputs::Sweep;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Under this share of its greatest a wave is all but missed.
const MISSED: f64 = 0.15;
/// How many are told.
const TOLD: usize = 6;

/// One wave along a path.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PathWave {
    /// How many quarter waves a straight path would have: 1, 3, 5.
    pub quarters: u32,
    /// Where the empty path has it, with its own areas, bends and open end, Hz: fill and a coupling chamber move it.
    pub frequency_hz: f64,
    /// How much the woofer drives it from where it sits: 1 is all, 0 not at all.
    pub woofer: f64,
    /// Whether it is all but missed from there.
    pub missed: bool,
    /// How far the level swings around it beside its own fall, dB: what the fill leaves. Absent of the lowest, which is the
    /// tuning.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub swing_db: Option<f64>,
    /// Whether that lies in the band.
    pub in_band: bool,
}

/// The waves of a path closed at its beginning; empty in families without one.
pub fn waves(analysis: &Analysis) -> Vec<PathWave> {
    let Some(report) = &analysis.wired.path else { return Vec::new() };
    let air = &analysis.context.air;
    let path = report.path.lossless();
    let found = path.quarter_waves(air, report.mouth, TOLD);
    let tap = report.taps.first().map_or(0.0, |t| t.0);
    let length = path.length();
    let plays_to = analysis.design.brief.plays_to();
    let mut sweep = Sweep::new(&analysis.wired.network, analysis.conditions);
    found
        .iter()
        .enumerate()
        .map(|(k, &frequency)| {
            let most = (0..=40)
                .map(|i| path.pressure_at(air, (length * f64::from(i) / 40.0).max(1e-6), frequency))
                .fold(1.0, f64::max);
            let woofer = if tap > 1e-6 { path.pressure_at(air, tap, frequency) } else { 1.0 } / most;
            let swing_db = k.checked_sub(1).map(|before| {
                let (low, high) = (0.5 * (found[before] + frequency), 1.5 * frequency - 0.5 * found[before]);
                let list: Vec<f64> = (0..64).map(|i| low + (high - low) * f64::from(i) / 63.0).collect();
                swing(&sweep.curves(&list).level_db)
            });
            PathWave {
                quarters: 2 * k as u32 + 1,
                frequency_hz: frequency,
                woofer,
                missed: woofer < MISSED,
                swing_db,
                in_band: frequency <= plays_to * super::modes::REACH,
            }
        })
        .collect()
}

/// Highest less lowest of what is left of evenly spaced levels (dB) when the parabola nearest to them is taken off: a fall and
/// its bend are no swing.
fn swing(level: &[f64]) -> f64 {
    let n = level.len();
    // Legendre polynomials of the first three orders, made orthogonal on these places
    let x: Vec<f64> = (0..n).map(|i| 2.0 * i as f64 / (n - 1) as f64 - 1.0).collect();
    let mean_square = x.iter().map(|x| x * x).sum::<f64>() / n as f64;
    let basis: [Vec<f64>; 3] = [vec![1.0; n], x.clone(), x.iter().map(|x| x * x - mean_square).collect()];
    let mut left = level.to_vec();
    for shape in &basis {
        let size: f64 = shape.iter().map(|b| b * b).sum();
        let part = shape.iter().zip(&left).map(|(b, l)| b * l).sum::<f64>() / size;
        left.iter_mut().zip(shape).for_each(|(l, b)| *l -= part * b);
    }
    let most = left.iter().copied().fold(f64::MIN, f64::max);
    most - left.iter().copied().fold(f64::MAX, f64::min)
}

#[cfg(test)]
mod tests {
    use super::swing;

    /// A fall that bends is no swing; a bump on it is.
    #[test]
    fn only_what_stands_out_swings() {
        let fall = |i: usize| 90.0 - 0.3 * i as f64 - 0.004 * (i * i) as f64;
        let smooth: Vec<f64> = (0..64).map(fall).collect();
        assert!(swing(&smooth) < 1e-9);
        let bump: Vec<f64> = (0..64).map(|i| fall(i) + 5.0 * (-((i as f64 - 30.0) / 2.0).powi(2)).exp()).collect();
        assert!((4.0..6.0).contains(&swing(&bump)), "{}", swing(&bump));
    }
}
