//! Minimum phase, delay, excess, polarity.
//!
//! Bode's integral (Bode, *Network Analysis and Feedback Amplifier Design*, 1945):
//! φ(f) = (1/π)·∫₀^∞ (ln|H(f·e^u)| - ln|H(f·e^-u)|)/sinh u du. The integrand is even in u, so that a plain midpoint rule
//! converges faster than any power of its step. Beyond the data the magnitude goes on with a slope of whole orders.

use crate::curve::Curve;
use num_complex::Complex64;
use std::f64::consts::{PI, TAU};

/// Step of the integral in ln f: 1/64 octave.
const STEP: f64 = std::f64::consts::LN_2 / 64.0;
/// Where it ends: sinh makes what lies beyond smaller than 1e-9 of it.
const REACH: f64 = 26.0;

/// Slopes of a magnitude beyond its ends, in orders (6.02 dB an octave each; a fourth-order high-pass has 4 at its low end).
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Ends {
    /// Below the first point.
    pub low: f64,
    /// Above the last point; falling is negative.
    pub high: f64,
}

/// The phase (rad) of a minimum-phase system at a frequency, from the logarithm of its magnitude over ln f.
pub fn bode(log_magnitude: impl Fn(f64) -> f64, frequency: f64) -> f64 {
    let x = frequency.ln();
    let count = (REACH / STEP) as usize;
    let sum: f64 = (0..count)
        .map(|k| {
            let u = (k as f64 + 0.5) * STEP;
            (log_magnitude(x + u) - log_magnitude(x - u)) / u.sinh()
        })
        .sum();
    sum * STEP / PI
}

/// Slope at the ends of a curve as whole orders, from its outer thirds of an octave (or its outer two points where those lie
/// farther apart).
pub fn ends_of(curve: &Curve) -> Ends {
    let order = |points: &[usize]| {
        let (Some(&a), Some(&b)) = (points.first(), points.last()) else { return 0.0 };
        let ratio = (curve.frequency[b] / curve.frequency[a]).ln();
        ((curve.value[b].norm().max(1e-30) / curve.value[a].norm().max(1e-30)).ln() / ratio).round()
    };
    let n = curve.len();
    if n < 2 {
        return Ends { low: 0.0, high: 0.0 };
    }
    let third = 2f64.powf(1.0 / 3.0);
    let inner = curve.frequency.partition_point(|f| *f <= curve.frequency[0] * third).clamp(2, n);
    let outer = curve.frequency.partition_point(|f| *f < curve.frequency[n - 1] / third).min(n - 2);
    Ends { low: order(&(0..inner).collect::<Vec<_>>()), high: order(&(outer..n).collect::<Vec<_>>()) }
}

/// The minimum phase (rad) that belongs to a curve's magnitude, at each of its points.
pub fn minimum_phase(curve: &Curve, ends: Ends) -> Vec<f64> {
    let n = curve.len();
    if n < 2 {
        return vec![0.0; n];
    }
    // on an even grid, so that a value between points is found at once
    let (low, high) = (curve.frequency[0].ln(), curve.frequency[n - 1].ln());
    let count = (((high - low) / (STEP / 2.0)).ceil() as usize).max(2);
    let step = (high - low) / count as f64;
    let x: Vec<f64> = curve.frequency.iter().map(|f| f.ln()).collect();
    let y: Vec<f64> = curve.value.iter().map(|v| v.norm().max(1e-30).ln()).collect();
    let slopes = natural_slopes(&x, &y);
    let mut at = 0;
    let grid: Vec<f64> = (0..=count)
        .map(|k| {
            let here = (low + step * k as f64).min(high);
            while at + 2 < n && x[at + 1] < here {
                at += 1;
            }
            hermite(&x[at..at + 2], &y[at..at + 2], &slopes[at..at + 2], here)
        })
        .collect();
    let log_magnitude = |u: f64| {
        if u <= low {
            return grid[0] + ends.low * (u - low);
        }
        if u >= high {
            return grid[count] + ends.high * (u - high);
        }
        let place = (u - low) / step;
        let i = (place as usize).min(count - 1);
        grid[i] + (grid[i + 1] - grid[i]) * (place - i as f64)
    };
    curve.frequency.iter().map(|f| bode(log_magnitude, *f)).collect()
}

/// Slopes at the points, each the parabola's through it and its neighbours.
fn natural_slopes(x: &[f64], y: &[f64]) -> Vec<f64> {
    let n = x.len();
    let rise = |i: usize| (y[i + 1] - y[i]) / (x[i + 1] - x[i]);
    (0..n)
        .map(|i| match i {
            0 => rise(0),
            i if i == n - 1 => rise(n - 2),
            i => {
                let (a, b) = (x[i] - x[i - 1], x[i + 1] - x[i]);
                (rise(i - 1) * b + rise(i) * a) / (a + b)
            }
        })
        .collect()
}

fn hermite(x: &[f64], y: &[f64], slope: &[f64], at: f64) -> f64 {
    let width = x[1] - x[0];
    let t = (at - x[0]) / width;
    let (t2, t3) = (t * t, t * t * t);
    y[0] * (2.0 * t3 - 3.0 * t2 + 1.0)
        + slope[0] * width * (t3 - 2.0 * t2 + t)
        + y[1] * (3.0 * t2 - 2.0 * t3)
        + slope[1] * width * (t3 - t2)
}

/// What of a phase is neither minimum phase nor delay.
#[derive(Clone, Debug, PartialEq)]
pub struct Excess {
    /// The delay that was taken off, s.
    pub delay: f64,
    /// Whether the polarity is turned.
    pub turned: bool,
    /// Excess phase at each point, rad, within half a turn.
    pub phase: Vec<f64>,
}

/// Takes minimum phase and delay off a phase. The delay is fitted over a band (Hz) where the level is worth it, weighted by power;
/// the polarity is the nearer of 0 and 180 degrees. `None` without a phase, or with less than three points in the band.
pub fn excess(curve: &Curve, ends: Ends, from: f64, to: f64) -> Option<Excess> {
    let measured = curve.phase_unwrapped()?;
    let minimum = minimum_phase(curve, ends);
    let rest: Vec<f64> = measured.iter().zip(&minimum).map(|(m, p)| m - p).collect();
    let within: Vec<usize> = (0..curve.len()).filter(|i| (from..=to).contains(&curve.frequency[*i])).collect();
    if within.len() < 3 {
        return None;
    }
    // a straight line through the rest, by weighted least squares, over frequency
    let weight = |i: usize| curve.value[i].norm_sqr();
    let total: f64 = within.iter().map(|i| weight(*i)).sum();
    let mean = |f: &dyn Fn(usize) -> f64| within.iter().map(|i| weight(*i) * f(*i)).sum::<f64>() / total;
    let (middle, level) = (mean(&|i| curve.frequency[i]), mean(&|i| rest[i]));
    let spread = mean(&|i| (curve.frequency[i] - middle).powi(2));
    let slope = mean(&|i| (curve.frequency[i] - middle) * (rest[i] - level)) / spread;
    let zero = level - slope * middle;
    let turned = (zero / PI).round() as i64 % 2 != 0;
    let held = if turned { PI } else { 0.0 };
    // again with the constant held at whole half turns, which a line cannot tell from a little more delay
    let whole = ((zero - held) / TAU).round() * TAU + held;
    let (fx, ff) = (mean(&|i| curve.frequency[i] * (rest[i] - whole)), mean(&|i| curve.frequency[i].powi(2)));
    let delay = -fx / ff / TAU;
    let phase = rest
        .iter()
        .zip(&curve.frequency)
        .map(|(r, f)| {
            let left = r - whole + TAU * f * delay;
            left - TAU * (left / TAU).round()
        })
        .collect();
    Some(Excess { delay, turned, phase })
}

/// The curve moved earlier by a time (s).
pub fn without_delay(curve: &Curve, delay: f64) -> Curve {
    curve.mapped(|f, v| v * Complex64::from_polar(1.0, TAU * f * delay))
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;
    use oak_drum_acoustics::level::log_frequencies;

    /// Butterworth high-pass 4 at 30 Hz and low-pass 2 at 300 Hz.
    fn band_pass(f: f64) -> Complex64 {
        let s = Complex64::new(0.0, f / 30.0);
        let (q1, q2) = (0.541_196_1, 1.306_563);
        let high = s.powi(4) / ((s * s + s / q1 + 1.0) * (s * s + s / q2 + 1.0));
        let z = Complex64::new(0.0, f / 300.0);
        high / (z * z + z * 2f64.sqrt() + 1.0)
    }

    /// Values of the exact transfer function; the check values given for it are -113.7003, 61.5468 and -36.9621 degrees.
    #[test]
    fn the_phase_of_a_minimum_phase_system_follows_from_its_magnitude() {
        for (f, degrees) in [(20.0, -113.7003), (60.0, 61.5468), (200.0, -36.9621)] {
            let found = bode(|x| band_pass(x.exp()).norm().ln(), f).to_degrees();
            let off = (found - degrees + 180.0).rem_euclid(360.0) - 180.0;
            assert!(off.abs() < 2e-3, "{f} Hz: {found} against {degrees}");
        }
    }

    #[test]
    fn a_curve_goes_on_beyond_its_ends() {
        let f = log_frequencies(5.0, 2000.0, 240);
        let value: Vec<Complex64> = f.iter().map(|f| band_pass(*f)).collect();
        let curve = Curve { frequency: f, value, has_phase: true, ..Curve::default() };
        let ends = ends_of(&curve);
        assert_eq!(ends, Ends { low: 4.0, high: -2.0 });
        let phase = minimum_phase(&curve, ends);
        for (i, f) in curve.frequency.iter().enumerate() {
            let off = (Complex64::from_polar(1.0, phase[i]) / curve.value[i]).arg().to_degrees();
            assert!(off.abs() < 0.6, "{f} Hz: {off}");
            if (10.0..1000.0).contains(f) {
                assert!(off.abs() < 0.1, "{f} Hz: {off}");
            }
        }
    }

    #[test]
    fn delay_polarity_and_excess_are_told_apart() {
        let f = log_frequencies(5.0, 1000.0, 300);
        // 3 ms of delay, turned, and an all-pass at 120 Hz that no minimum phase explains
        let all_pass = |f: f64| {
            let s = Complex64::new(0.0, f / 120.0);
            (1.0 - s) / (1.0 + s)
        };
        let with = |extra: bool| {
            let value = f
                .iter()
                .map(|f| {
                    let own = -band_pass(*f) * Complex64::from_polar(1.0, -TAU * f * 3e-3);
                    if extra { own * all_pass(*f) } else { own }
                })
                .collect();
            Curve { frequency: f.clone(), value, has_phase: true, ..Curve::default() }
        };
        let plain = with(false);
        let found = excess(&plain, ends_of(&plain), 30.0, 300.0).unwrap();
        assert!(found.turned);
        assert_relative_eq!(found.delay, 3e-3, max_relative = 5e-3);
        let inside = |list: &[f64]| {
            f.iter().zip(list).filter(|(f, _)| (20.0..400.0).contains(*f)).map(|(_, p)| p.abs()).fold(0.0, f64::max)
        };
        assert!(inside(&found.phase).to_degrees() < 2.0, "{}", inside(&found.phase).to_degrees());
        let odd = with(true);
        let found = excess(&odd, ends_of(&odd), 30.0, 300.0).unwrap();
        assert!(inside(&found.phase).to_degrees() > 20.0, "an all-pass is no delay");
        assert!(excess(&Curve { has_phase: false, ..plain }, Ends { low: 4.0, high: -2.0 }, 30.0, 300.0).is_none());
    }
}
