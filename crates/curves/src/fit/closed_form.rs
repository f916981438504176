//! A woofer's figures read off the magnitude of its impedance, as one does by hand: where a fit begins, and what it is held against.
//!
//! fs at the peak, f1 and f2 where |Z| = √(Re·Rmax): Qms = fs·√(Rmax/Re)/(f2 - f1), Qes = Qms/(Rmax/Re - 1) (Small 1972).

use crate::curve::Curve;

/// What is read off.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct ByHand {
    /// Resonance, Hz.
    pub fs: f64,
    /// Mechanical Q.
    pub qms: f64,
    /// Electrical Q.
    pub qes: f64,
    /// Coil resistance, Ω: as stated, or the least magnitude of all.
    pub re: f64,
    /// Magnitude at the peak, Ω.
    pub peak: f64,
}

/// Why nothing can be read off.
#[derive(Clone, Copy, Debug, PartialEq, thiserror::Error)]
pub enum Unreadable {
    /// Too few points.
    #[error("{0} points are too few; 20 at least are needed")]
    Few(usize),
    /// No resonance.
    #[error(
        "there is no resonance peak between {from:.0} and {to:.0} Hz: is the woofer connected, and does the range reach below its fs?"
    )]
    NoPeak {
        /// Where the curve begins, Hz.
        from: f64,
        /// Where it ends, Hz.
        to: f64,
    },
    /// The peak's flank is not in the curve.
    #[error("the curve begins too close to the peak at {peak:.1} Hz: measure from {from:.0} Hz")]
    FlankMissing {
        /// The peak, Hz.
        peak: f64,
        /// Where to begin, Hz.
        from: f64,
    },
    /// Another peak.
    #[error(
        "there are two peaks, at {0:.1} and {1:.1} Hz, as of a vented box: a woofer in free air or on a closed box has one"
    )]
    TwoPeaks(f64, f64),
}

/// Reads the figures off; Re may be stated from a meter.
///
/// # Errors
/// [`Unreadable`] with the reason in words.
pub fn read(curve: &Curve, re: Option<f64>) -> Result<ByHand, Unreadable> {
    let n = curve.len();
    if n < 20 {
        return Err(Unreadable::Few(n));
    }
    let thin = curve.thinned(400);
    let (f, z) = (&thin.frequency, thin.magnitude());
    let no_peak = Unreadable::NoPeak { from: f[0], to: f[f.len() - 1] };
    // the coil rises toward the top: a peak has lower ground on both sides
    let peaks = peaks(f, &z);
    let Some(&top) = peaks.iter().max_by(|a, b| z[**a].total_cmp(&z[**b])) else { return Err(no_peak) };
    let lowest = z.iter().copied().fold(f64::MAX, f64::min);
    let base = re.unwrap_or(lowest);
    if z[top] < base * 1.3 {
        return Err(no_peak);
    }
    if let Some(other) = peaks.iter().find(|i| **i != top && z[**i] > base + 0.3 * (z[top] - base)) {
        let (a, b) = (f[top].min(f[*other]), f[top].max(f[*other]));
        return Err(Unreadable::TwoPeaks(a, b));
    }
    let flank = (base * z[top]).sqrt();
    let cross = |mut i: usize, step: isize| -> Option<f64> {
        loop {
            let next = i.checked_add_signed(step).filter(|n| *n < f.len())?;
            if z[next] <= flank {
                let share = (z[i] - flank) / (z[i] - z[next]);
                return Some(f[i] * (f[next] / f[i]).powf(share));
            }
            i = next;
        }
    };
    let missing = Unreadable::FlankMissing { peak: f[top], from: f[top] / 4.0 };
    let f1 = cross(top, -1).ok_or(missing)?;
    // seen from the lower flank alone where the coil hides the upper one
    let f2 = cross(top, 1).unwrap_or(f[top] * f[top] / f1);
    let ratio = z[top] / base;
    let qms = f[top] * ratio.sqrt() / (f2 - f1);
    Ok(ByHand { fs: f[top], qms, qes: qms / (ratio - 1.0), re: base, peak: z[top] })
}

/// Indices of the peaks of a magnitude: higher than all about them for a fifth of an octave, and a twentieth above the ground between
/// them and any higher one.
pub fn peaks(frequency: &[f64], magnitude: &[f64]) -> Vec<usize> {
    let width = 2f64.powf(0.1);
    let n = frequency.len();
    let mut list = Vec::new();
    for i in 1..n.saturating_sub(1) {
        let from = frequency.partition_point(|f| *f < frequency[i] / width);
        let to = frequency.partition_point(|f| *f <= frequency[i] * width);
        if to <= from + 2 || from == i || to == i + 1 {
            continue;
        }
        let higher = (from..to).any(|k| magnitude[k] > magnitude[i] || (magnitude[k] == magnitude[i] && k < i));
        if higher {
            continue;
        }
        let ground = |range: &mut dyn Iterator<Item = usize>| {
            let mut least = magnitude[i];
            for k in range {
                if magnitude[k] > magnitude[i] {
                    break;
                }
                least = least.min(magnitude[k]);
            }
            least
        };
        let (left, right) = (ground(&mut (0..i).rev()), ground(&mut (i + 1..n)));
        if magnitude[i] > 1.05 * left.max(right) {
            list.push(i);
        }
    }
    list
}

#[cfg(test)]
mod tests {
    use super::*;
    use num_complex::Complex64;
    use oak_drum_acoustics::level::log_frequencies;

    fn curve(from: f64, z: impl Fn(f64) -> Complex64) -> Curve {
        let frequency = log_frequencies(from, 1000.0, 400);
        let ohm: Vec<f64> = frequency.iter().map(|f| z(*f).norm()).collect();
        Curve::of_impedance(frequency, &ohm, None)
    }

    /// Without inductance the closed form is exact.
    #[test]
    fn figures_are_read_off_the_peak() {
        let z = |f: f64| {
            let x = Complex64::new(0.0, f / 30.0);
            5.6 + 14.0 / (x + 0.2 + 1.0 / x)
        };
        let hand = read(&curve(5.0, z), Some(5.6)).unwrap();
        for (is, should) in [(hand.fs, 30.0), (hand.qms, 5.0), (hand.qes, 0.4), (hand.peak, 75.6)] {
            assert!((is / should - 1.0).abs() < 0.01, "{is} against {should}");
        }
        // without a meter the least magnitude stands in for Re
        let without = read(&curve(2.0, z), None).unwrap();
        assert!((without.re / 5.6 - 1.0).abs() < 0.02, "{}", without.re);
    }

    #[test]
    fn peaks_are_told_from_wiggles() {
        let f = log_frequencies(10.0, 1000.0, 300);
        let hump = |f: f64, at: f64, high: f64, wide: f64| high / (1.0 + ((f / at).ln() / wide).powi(2));
        let z: Vec<f64> = f.iter().map(|f| 6.0 + hump(*f, 20.0, 30.0, 0.1) + hump(*f, 60.0, 20.0, 0.1)).collect();
        let found: Vec<f64> = peaks(&f, &z).into_iter().map(|i| f[i].round()).collect();
        assert_eq!(found, [20.0, 60.0]);
        let wiggly: Vec<f64> = z.iter().enumerate().map(|(i, z)| z * (1.0 + 0.004 * (i as f64).sin())).collect();
        assert_eq!(peaks(&f, &wiggly).len(), 2, "noise makes no peaks");
        assert!(peaks(&f, &vec![8.0; 300]).is_empty());
        let rising: Vec<f64> = f.iter().map(|f| 6.0 + f / 100.0).collect();
        assert!(peaks(&f, &rising).is_empty(), "a coil is no resonance");
    }
}
