//! Peaks and dips of a smooth impedance: of a fitted model, not of raw points.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A place where a magnitude turns.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Turn {
    /// Where, Hz.
    pub frequency_hz: f64,
    /// The impedance there, Ω.
    pub ohm: f64,
    /// Whether it is a peak; else it is a dip.
    pub peak: bool,
}

/// The turns of a magnitude over rising frequencies, each placed by a parabola through three points in ln f.
pub fn turns(frequency: &[f64], magnitude: &[f64]) -> Vec<Turn> {
    (1..frequency.len().saturating_sub(1))
        .filter_map(|i| {
            let [a, b, c] = [magnitude[i - 1], magnitude[i], magnitude[i + 1]];
            let peak = b > a && b >= c;
            let dip = b < a && b <= c;
            (peak || dip).then(|| {
                let x = [i - 1, i, i + 1].map(|k| frequency[k].ln());
                let (d1, d2) = ((b - a) / (x[1] - x[0]), (c - b) / (x[2] - x[1]));
                let curvature = (d2 - d1) / (x[2] - x[0]);
                let slope = d1 + curvature * (x[1] - x[0]);
                let step = (-slope / (2.0 * curvature)).clamp(x[0] - x[1], x[2] - x[1]);
                let ohm = b + slope * step + curvature * step * step;
                Turn { frequency_hz: (x[1] + step).exp(), ohm, peak }
            })
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;
    use oak_drum_acoustics::level::log_frequencies;

    #[test]
    fn turns_lie_between_points() {
        let f = log_frequencies(10.0, 100.0, 60);
        let z: Vec<f64> = f.iter().map(|f| 20.0 - 30.0 * (f / 31.62).ln().powi(2)).collect();
        let found = turns(&f, &z);
        assert_eq!(found.len(), 1);
        assert_relative_eq!(found[0].frequency_hz, 31.62, max_relative = 1e-6);
        assert_relative_eq!(found[0].ohm, 20.0, max_relative = 1e-9);
        assert!(found[0].peak);
    }
}
