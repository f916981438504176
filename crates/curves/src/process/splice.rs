//! A near field below, a far field above, joined at a frequency.

use crate::curve::Curve;
use num_complex::Complex64;
use std::f64::consts::{PI, SQRT_2, TAU};

/// Two curves joined.
#[derive(Clone, Debug)]
pub struct Spliced {
    /// What came of it.
    pub curve: Curve,
    /// By how much the near field was moved, dB.
    pub moved_db: f64,
    /// By how much the near field was delayed to meet the far one, s; 0 without phases.
    pub delayed: f64,
}

/// Joins a near field below a frequency (Hz) to a far field above it: over one octave about it the mean difference in dB moves the
/// near curve (the far one rules), a linear phase fitted there is taken off it, and a half-cosine in ln f leads over. Phases are
/// kept where both have one. `None` where the two have no whole octave in common there.
pub fn splice(near: &Curve, far: &Curve, at: f64) -> Option<Spliced> {
    let (low, high) = (at / SQRT_2, at * SQRT_2);
    let band: Vec<f64> = (0..=48).map(|i| low * 2f64.powf(f64::from(i) / 48.0)).collect();
    // the ends are taken a hair inside, for rounding
    let inside = |f: f64| f.clamp(low * (1.0 + 1e-12), high * (1.0 - 1e-12));
    let pairs: Option<Vec<(Complex64, Complex64)>> =
        band.iter().map(|f| near.at(inside(*f)).zip(far.at(inside(*f)))).collect();
    let pairs = pairs?;
    let moved_db = pairs.iter().map(|(n, f)| 20.0 * (f.norm() / n.norm()).log10()).sum::<f64>() / pairs.len() as f64;
    let phases = near.has_phase && far.has_phase;
    let (mut delayed, mut turn) = (0.0, 0.0);
    if phases {
        // unwrapped difference over the octave, a line through it
        let mut difference: Vec<f64> = pairs.iter().map(|(n, f)| (f / n).arg()).collect();
        for i in 1..difference.len() {
            difference[i] += TAU * ((difference[i - 1] - difference[i]) / TAU).round();
        }
        let n = band.len() as f64;
        let (mf, md) = (band.iter().sum::<f64>() / n, difference.iter().sum::<f64>() / n);
        let slope = band.iter().zip(&difference).map(|(f, d)| (f - mf) * (d - md)).sum::<f64>()
            / band.iter().map(|f| (f - mf).powi(2)).sum::<f64>();
        delayed = -slope / TAU;
        turn = md - slope * mf;
    }
    let gain = 10f64.powf(moved_db / 20.0);
    let shifted = |f: f64, v: Complex64| v * Complex64::from_polar(gain, turn - TAU * f * delayed);
    let mut out = Curve { has_phase: phases, ..far.empty() };
    let below = near.frequency.iter().copied().filter(|f| *f <= high);
    let mut frequency: Vec<f64> = below.chain(far.frequency.iter().copied().filter(|f| *f > high)).collect();
    frequency.dedup();
    for f in frequency {
        let share = if f <= low {
            0.0
        } else if f >= high {
            1.0
        } else {
            0.5 - 0.5 * (PI * (f / low).ln() / std::f64::consts::LN_2).cos()
        };
        let n = if share < 1.0 { near.at(f).map(|v| shifted(f, v)) } else { Some(Complex64::default()) };
        let w = if share > 0.0 { far.at(f) } else { Some(Complex64::default()) };
        let Some((n, w)) = n.zip(w) else { continue };
        let joined = if phases {
            n * (1.0 - share) + w * share
        } else if share == 0.0 {
            n.norm().into()
        } else if share == 1.0 {
            w.norm().into()
        } else {
            Complex64::from(n.norm().powf(1.0 - share) * w.norm().powf(share))
        };
        out.frequency.push(f);
        out.value.push(joined);
    }
    Some(Spliced { curve: out, moved_db, delayed })
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;
    use oak_drum_acoustics::level::log_frequencies;

    /// A curve cut in two, its lower part moved, delayed and turned, comes back whole.
    #[test]
    fn the_two_halves_of_one_curve_meet() {
        let whole = |f: f64| {
            let s = Complex64::new(0.0, f / 40.0);
            s * s / (s * s + s * 1.2 + 1.0)
        };
        let make = |from: f64, to: f64, by: &dyn Fn(f64) -> Complex64| {
            let frequency = log_frequencies(from, to, 200);
            let value = frequency.iter().map(|f| whole(*f) * by(*f)).collect();
            Curve { frequency, value, has_phase: true, ..Curve::default() }
        };
        let near = make(10.0, 250.0, &|f| -Complex64::from_polar(5.0, TAU * f * 2.7e-3));
        let far = make(60.0, 1000.0, &|_| Complex64::new(1.0, 0.0));
        let made = splice(&near, &far, 120.0).unwrap();
        assert_relative_eq!(made.moved_db, -20.0 * 5f64.log10(), epsilon = 1e-4);
        assert_relative_eq!(made.delayed, 2.7e-3, max_relative = 1e-4);
        assert!(made.curve.frequency.windows(2).all(|w| w[1] > w[0]));
        assert_relative_eq!(made.curve.frequency[0], 10.0, max_relative = 1e-9);
        assert_relative_eq!(*made.curve.frequency.last().unwrap(), 1000.0, max_relative = 1e-9);
        for (f, v) in made.curve.frequency.iter().zip(&made.curve.value) {
            assert!((v / whole(*f) - 1.0).norm() < 2e-3, "{f} Hz: {}", v / whole(*f));
        }
        assert!(splice(&near, &far, 30.0).is_none(), "no octave in common about 30 Hz");
    }
}
