//! Whether what was recorded goes up as the sweep does: a sweep of other settings still leaves something that looks like a response.

use crate::sweep::log_sweep::LogSweep;
use crate::sweep::transform::forward;
use std::f64::consts::TAU;

/// Frequencies that are looked at, evenly over the logarithm.
const LOOKS: usize = 12;
/// Longest frame, samples at 48 kHz, and as a share of the time in which the sweep's frequency grows e-fold.
const FRAME: (f64, f64) = (4096.0 / 48_000.0, 0.15);
/// How far the loudest frequency of a frame may lie from the sweep's, as a ratio's logarithm.
const NEAR: f64 = 0.12;
/// Frames this far (dB) below the loudest tell nothing: there noise or hum may rule.
const LOUD: f64 = 20.0;

/// Whether the loud stretches of a recorded channel have the frequency the sweep has there; it begins at a time (s). True where too
/// little is loud to say.
pub fn follows(recorded: &[f64], sweep: &LogSweep, begins: f64) -> bool {
    let (rate, l) = (sweep.rate_hz, sweep.growth());
    let length = ((FRAME.0.min(FRAME.1 * l) * rate) as usize).max(64) / 2 * 2;
    let step = rate / length as f64;
    // four bins up a frame tells one frequency from another
    let low = sweep.from_hz.max(4.0 * step);
    let ratio = (sweep.to_hz / low).powf(1.0 / (LOOKS as f64 + 1.0));
    if ratio <= 1.0 {
        return true;
    }
    let frames: Vec<(f64, f64)> = (1..=LOOKS)
        .filter_map(|i| {
            let f = low * ratio.powi(i as i32);
            let middle = ((begins + l * (f / sweep.from_hz).ln()) * rate) as isize;
            let from = usize::try_from(middle - length as isize / 2).ok()?;
            let part = recorded.get(from..from + length)?;
            let hann = |i: usize| 0.5 - 0.5 * (TAU * (i as f64 + 0.5) / length as f64).cos();
            let framed: Vec<f64> = part.iter().enumerate().map(|(i, x)| x * hann(i)).collect();
            let spectrum = forward(&framed, length);
            let top = spectrum.iter().enumerate().skip(1).max_by(|a, b| a.1.norm_sqr().total_cmp(&b.1.norm_sqr()))?;
            let off = (top.0 as f64 * step / f).ln().abs() - (1.0 + 0.5 * step / f).ln();
            Some((10.0 * top.1.norm_sqr().max(1e-300).log10(), off))
        })
        .collect();
    let loudest = frames.iter().map(|f| f.0).fold(f64::NEG_INFINITY, f64::max);
    let loud: Vec<f64> = frames.iter().filter(|f| f.0 > loudest - LOUD).map(|f| f.1).collect();
    let astray = loud.iter().filter(|off| **off > NEAR).count();
    loud.len() < 3 || 2 * astray <= loud.len()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_sweep_is_told_from_those_of_other_settings() {
        let sweep = LogSweep { from_hz: 10.0, to_hz: 500.0, seconds: 4.0, ..LogSweep::default() };
        let begins = sweep.silence_s;
        assert!(follows(&sweep.played(), &sweep, begins));
        for other in [
            LogSweep { seconds: 3.0, ..sweep },
            LogSweep { seconds: 6.0, ..sweep },
            LogSweep { from_hz: 40.0, ..sweep },
            LogSweep { to_hz: 2000.0, ..sweep },
        ] {
            let played = other.played();
            let begins = |s: &LogSweep| s.silence_s;
            assert!(follows(&played, &other, begins(&other)));
            // wherever one takes it to begin
            for shift in [-0.3, -0.1, 0.0, 0.1, 0.3] {
                let astray = !follows(&played, &sweep, begins(&sweep) + shift);
                assert!(astray, "{other:?} shifted by {shift} s");
            }
        }
        // too little to say
        assert!(follows(&[0.0; 100], &sweep, 0.0));
    }
}
