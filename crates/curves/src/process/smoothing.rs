//! Smoothing by fractions of an octave, as power.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | b | bands an octave | 1 |
//! | G | octave ratio 10^0.3 (IEC 61260-1) | 1 |

use crate::curve::Curve;
use num_complex::Complex64;

/// Fractions of an octave a curve is smoothed over: 1/b of these.
pub const FRACTIONS: [u32; 6] = [1, 3, 6, 12, 24, 48];

/// Octave ratio G of IEC 61260-1.
pub fn octave_ratio() -> f64 {
    10f64.powf(0.3)
}

/// Edges of the band of 1/b octave about a frequency, Hz: f·G^(∓1/2b) (IEC 61260-1).
pub fn band_edges(frequency: f64, b: u32) -> (f64, f64) {
    let half = octave_ratio().powf(0.5 / f64::from(b));
    (frequency / half, frequency * half)
}

/// The curve smoothed over 1/b octave: at each point the mean of |H|² over ln f within the band's edges, |H|² being linear in ln f
/// between points and the band cut where the curve ends. The phase is left as it is.
pub fn smoothed(curve: &Curve, b: u32) -> Curve {
    if curve.len() < 2 {
        return curve.clone();
    }
    let x: Vec<f64> = curve.frequency.iter().map(|f| f.ln()).collect();
    let power: Vec<f64> = curve.value.iter().map(Complex64::norm_sqr).collect();
    // integral of the power from the first point to each
    let mut area = vec![0.0; x.len()];
    for i in 1..x.len() {
        area[i] = area[i - 1] + (x[i] - x[i - 1]) * (power[i] + power[i - 1]) / 2.0;
    }
    let to = |at: f64, i: usize| {
        // at lies between the points i-1 and i
        let (x0, x1) = (x[i - 1], x[i]);
        let share = (at - x0) / (x1 - x0);
        let there = power[i - 1] + (power[i] - power[i - 1]) * share;
        area[i - 1] + (at - x0) * (power[i - 1] + there) / 2.0
    };
    let half = octave_ratio().ln() * 0.5 / f64::from(b);
    let last = x.len() - 1;
    let (mut low, mut high) = (1, 1);
    let value = curve
        .value
        .iter()
        .enumerate()
        .map(|(i, v)| {
            let (from, until) = ((x[i] - half).max(x[0]), (x[i] + half).min(x[last]));
            while low < last && x[low] < from {
                low += 1;
            }
            while high < last && x[high] < until {
                high += 1;
            }
            let mean = (to(until, high) - to(from, low)) / (until - from);
            let turn = if v.norm() > 0.0 { *v / v.norm() } else { Complex64::new(1.0, 0.0) };
            turn * mean.max(0.0).sqrt()
        })
        .collect();
    Curve { value, ..curve.clone() }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    /// Edges of the third octave about 31.623 Hz as IEC 61260-1 gives them.
    #[test]
    fn edges_are_those_of_the_standard() {
        let (low, high) = band_edges(10f64.powf(1.5), 3);
        assert_relative_eq!(low, 28.1838, max_relative = 2e-6);
        assert_relative_eq!(high, 35.4813, max_relative = 2e-6);
    }

    /// 0 0 12 0 0 dB half octaves apart over one octave: computed by two routes outside this program.
    #[test]
    fn a_peak_is_spread_as_power() {
        let f: Vec<f64> = (0..5).map(|k| 100.0 * 2f64.powf(f64::from(k) / 2.0)).collect();
        let curve = Curve::of_level(f, &[0.0, 0.0, 12.0, 0.0, 0.0], None);
        let made = smoothed(&curve, 1).magnitude();
        for (is, should) in made.iter().zip([0.0, 6.72055, 9.26850]) {
            assert!((is - should).abs() < 5e-5, "{is} against {should}");
        }
    }

    #[test]
    fn a_flat_curve_stays_flat_to_its_ends() {
        let f: Vec<f64> = (0..400).map(|i| 5.0 * 1.015f64.powi(i)).collect();
        let phase: Vec<f64> = (0..400).map(|i| -f64::from(i) * 0.02).collect();
        let curve = Curve::of_level(f, &[85.0; 400], Some(&phase));
        let made = smoothed(&curve, 3);
        for (a, b) in made.value.iter().zip(&curve.value) {
            assert_relative_eq!(a.norm(), b.norm(), max_relative = 1e-9);
            assert_relative_eq!(a.arg(), b.arg(), epsilon = 1e-9);
        }
    }
}
