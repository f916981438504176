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
