//! Measured against predicted, in a band: how far apart, and where most.

use crate::prove::evidence::DB;
use oak_drum_curves::curve::Curve;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// How far a measured curve is from a predicted one.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Deviation {
    /// Where the band begins, Hz.
    pub from_hz: f64,
    /// Where it ends, Hz.
    pub to_hz: f64,
    /// Mean of measured less predicted, dB.
    pub offset_db: f64,
    /// Root of the mean square of what is left once the offset is taken off, dB.
    pub rms_db: f64,
    /// The same with the offset, dB.
    pub rms_with_offset_db: f64,
    /// The worst deviation once the offset is taken off, dB.
    pub worst_db: f64,
    /// Where that is, Hz.
    pub worst_hz: f64,
}

/// Holds two curves against each other over a band (Hz), evenly over ln f (trapezoid weights), at the measured one's points. `None` with
/// less than three points in common.
pub fn deviation(measured: &Curve, predicted: &Curve, from: f64, to: f64) -> Option<Deviation> {
    let points: Vec<(f64, f64)> = measured
        .frequency
        .iter()
        .zip(&measured.value)
        .filter(|(f, _)| (from..=to).contains(*f))
        .filter_map(|(f, v)| predicted.at(*f).map(|p| (*f, DB * (v.norm() / p.norm()).ln())))
        .filter(|(_, db)| db.is_finite())
        .collect();
    if points.len() < 3 {
        return None;
    }
    let weights: Vec<f64> = (0..points.len())
        .map(|i| {
            let before = points[i.saturating_sub(1)].0;
            let after = points[(i + 1).min(points.len() - 1)].0;
            (after / before).ln() / 2.0
        })
        .collect();
    let total: f64 = weights.iter().sum();
    let mean = |f: &dyn Fn(f64) -> f64| points.iter().zip(&weights).map(|(p, w)| w * f(p.1)).sum::<f64>() / total;
    let offset = mean(&|d| d);
    let worst = points.iter().max_by(|a, b| (a.1 - offset).abs().total_cmp(&(b.1 - offset).abs()))?;
    Some(Deviation {
        from_hz: points[0].0,
        to_hz: points[points.len() - 1].0,
        offset_db: offset,
        rms_db: mean(&|d| (d - offset).powi(2)).sqrt(),
        rms_with_offset_db: mean(&|d| d * d).sqrt(),
        worst_db: worst.1 - offset,
        worst_hz: worst.0,
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    #[test]
    fn an_offset_is_told_apart_from_a_difference() {
        let f: Vec<f64> = (0..=48).map(|i| 20.0 * 2f64.powf(f64::from(i) / 16.0)).collect();
        let flat = Curve::of_level(f.clone(), &[90.0; 49], None);
        let moved = Curve::of_level(f.clone(), &[93.0; 49], None);
        let d = deviation(&moved, &flat, 0.0, 1e9).unwrap();
        assert_relative_eq!(d.offset_db, 3.0, epsilon = 1e-9);
        assert!(d.rms_db < 1e-9);
        assert_relative_eq!(d.rms_with_offset_db, 3.0, epsilon = 1e-9);
        // a square wave of 2 dB over ln f: half of it up, half down
        let levels: Vec<f64> = (0..49)
            .map(|i| {
                if i < 24 {
                    92.0
                } else if i == 24 {
                    90.0
                } else {
                    88.0
                }
            })
            .collect();
        let d = deviation(&Curve::of_level(f, &levels, None), &flat, 0.0, 1e9).unwrap();
        assert_relative_eq!(d.offset_db, 0.0, epsilon = 1e-9);
        assert_relative_eq!(d.rms_db, (4.0f64 * 47.0 / 48.0).sqrt(), epsilon = 1e-9);
        assert!(deviation(&moved, &flat, 500.0, 600.0).is_none());
    }
}
