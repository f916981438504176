//! Means over several curves.

use crate::curve::Curve;
use num_complex::Complex64;

/// The mean of the power of several curves, on the first one's frequencies where all have a value; the phase is lost. Empty
/// without curves.
pub fn power_mean(curves: &[Curve]) -> Curve {
    let Some(first) = curves.first() else { return Curve::default() };
    let mut out = Curve { has_phase: curves.len() == 1 && first.has_phase, ..first.empty() };
    for (i, f) in first.frequency.iter().enumerate() {
        let others: Option<Vec<Complex64>> = curves[1..].iter().map(|c| c.at(*f)).collect();
        let Some(others) = others else { continue };
        let power =
            (first.value[i].norm_sqr() + others.iter().map(Complex64::norm_sqr).sum::<f64>()) / curves.len() as f64;
        out.frequency.push(*f);
        out.value.push(if out.has_phase { first.value[i] } else { power.sqrt().into() });
    }
    out
}

/// Mean of repeats of one measurement with its signal over noise: SNR = 10·log10((|mean|² - var)/var), var = Σ|Yᵢ - mean|²/(N(N-1))
/// the variance of the mean. `None` unless there are two or more on the same frequencies, with phases.
pub fn repeats(curves: &[Curve]) -> Option<Curve> {
    let first = curves.first()?;
    let n = curves.len() as f64;
    let fit = curves.iter().all(|c| c.frequency == first.frequency && c.has_phase && c.quantity == first.quantity);
    if curves.len() < 2 || !fit {
        return None;
    }
    let mut out = Curve { frequency: first.frequency.clone(), ..first.empty() };
    for i in 0..first.len() {
        let mean = curves.iter().map(|c| c.value[i]).sum::<Complex64>() / n;
        let variance = curves.iter().map(|c| (c.value[i] - mean).norm_sqr()).sum::<f64>() / (n * (n - 1.0));
        let ratio = (mean.norm_sqr() - variance) / variance.max(mean.norm_sqr() * 1e-14);
        out.value.push(mean);
        out.snr_db.push(10.0 * ratio.max(1e-3).log10());
    }
    Some(out)
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    #[test]
    fn averages_are_of_power() {
        let a = Curve::of_level(vec![20.0, 40.0, 80.0], &[90.0, 90.0, 90.0], None);
        let b = Curve::of_level(vec![20.0, 60.0], &[96.0, 96.0], None);
        let mean = power_mean(&[a, b]);
        assert_eq!(mean.frequency, [20.0, 40.0]);
        let should = 10.0 * ((10f64.powf(9.0) + 10f64.powf(9.6)) / 2.0).log10();
        assert_relative_eq!(mean.magnitude()[1], should, epsilon = 1e-9);
    }

    /// Twice the repeats bring 3 dB; a known noise is found.
    #[test]
    fn repeats_tell_signal_from_noise() {
        let mut state = 12345u64;
        let mut random = || {
            state = state.wrapping_mul(6364136223846793005).wrapping_add(1442695040888963407);
            (state >> 11) as f64 / (1u64 << 53) as f64
        };
        let mut gauss = || (0..12).map(|_| random()).sum::<f64>() - 6.0;
        let f: Vec<f64> = (0..2000).map(|i| 10.0 + f64::from(i)).collect();
        let mut make = |n: usize| -> f64 {
            let takes: Vec<Curve> = (0..n)
                .map(|_| {
                    let value = f.iter().map(|_| Complex64::new(1.0 + 0.05 * gauss(), 0.05 * gauss())).collect();
                    Curve { frequency: f.clone(), value, has_phase: true, ..Curve::default() }
                })
                .collect();
            let snr = repeats(&takes).unwrap().snr_db;
            snr.iter().map(|s| 10f64.powf(-s / 10.0)).sum::<f64>() / snr.len() as f64
        };
        // noise power of the mean 2·0.05²/n: the mean of its estimate is it
        for n in [8, 16] {
            let share = make(n);
            assert_relative_eq!(share, 2.0 * 0.05f64.powi(2) / n as f64, max_relative = 0.06);
        }
        assert!(repeats(&[]).is_none());
    }
}
