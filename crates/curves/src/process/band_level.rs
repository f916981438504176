//! The level of a recording within a band: what a microphone heard while noise was played.
//!
//! The mean square between two frequencies is the sum of a windowed signal's power over those of its frequencies (Parseval's theorem,
//! one-sided), divided by the window's own power. A Hann window keeps what lies outside of the band out of it.

use crate::formats::wav::Recording;
use crate::sweep::transform::{fast_length, forward};
use std::f64::consts::TAU;

/// A level within a band.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct BandLevel {
    /// Root of the mean square, dB of full scale: a full-scale sine is -3.01 dB.
    pub level_db: f64,
    /// How far it stands over the quiet before it, dB; absent where there was none.
    pub over_quiet_db: Option<f64>,
    /// Whether samples stand at full scale.
    pub clipped: bool,
}

/// A sample that is as good as full scale.
const FULL: f64 = 0.9985;
/// So many periods of the lower frequency make a level.
const PERIODS: f64 = 6.0;

/// Mean square of a signal between two frequencies.
fn mean_square(signal: &[f64], rate: f64, [low, high]: [f64; 2]) -> f64 {
    let n = signal.len();
    let window = |i: usize| 0.5 - 0.5 * (TAU * (i as f64 + 0.5) / n as f64).cos();
    let windowed: Vec<f64> = signal.iter().enumerate().map(|(i, x)| x * window(i)).collect();
    let power: f64 = (0..n).map(|i| window(i).powi(2)).sum();
    let length = fast_length(n);
    let spectrum = forward(&windowed, length);
    let step = rate / length as f64;
    let within = spectrum.iter().enumerate().filter(|(k, _)| (low..=high).contains(&(*k as f64 * step)));
    2.0 * within.map(|(_, v)| v.norm_sqr()).sum::<f64>() / (power * length as f64)
}

/// The level of a recording's first channel within a band (Hz), after so many seconds of quiet; `None` where it is too short to tell.
pub fn level_in_band(recording: &Recording, band: [f64; 2], quiet_s: f64) -> Option<BandLevel> {
    let channel = recording.channels.first()?;
    let rate = recording.rate;
    let quiet = ((quiet_s * rate) as usize).min(channel.len());
    let (before, heard) = channel.split_at(quiet);
    let least = (PERIODS / band[0] * rate) as usize;
    if heard.len() < least || !(band[0] > 0.0 && band[0] < band[1] && band[1] < rate / 2.0) {
        return None;
    }
    let db = |square: f64| 10.0 * square.max(1e-20).log10();
    let level_db = db(mean_square(heard, rate, band));
    // a short quiet tells little of the lowest frequencies, but enough to warn
    let over_quiet_db = (before.len() >= least / 2).then(|| level_db - db(mean_square(before, rate, band)));
    Some(BandLevel { level_db, over_quiet_db, clipped: recording.peak(0) >= FULL })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn recording(rate: f64, seconds: f64, of: impl Fn(f64) -> f64) -> Recording {
        let channel = (0..(seconds * rate) as usize).map(|i| of(i as f64 / rate)).collect();
        Recording { rate, channels: vec![channel] }
    }

    /// A sine of amplitude A has A/root 2 (definition of rms), within the band all of it, outside next to nothing.
    #[test]
    fn a_sine_is_heard_within_its_band_alone() {
        for (rate, f) in [(48_000.0, 60.3), (44_100.0, 41.7), (96_000.0, 100.0)] {
            let heard = recording(rate, 8.0, |t| 0.5 * (TAU * f * t).sin());
            let read = level_in_band(&heard, [30.0, 120.0], 0.0).unwrap();
            assert!((read.level_db - 20.0 * (0.5 / 2f64.sqrt()).log10()).abs() < 0.01, "{read:?}");
            let beside = level_in_band(&heard, [130.0, 400.0], 0.0).unwrap();
            assert!(beside.level_db < read.level_db - 60.0, "{beside:?}");
            assert!(!read.clipped && read.over_quiet_db.is_none());
        }
    }

    /// White noise has its variance times the share of the band (Parseval), and stands over what was before it.
    #[test]
    fn noise_has_the_share_of_its_band() {
        let (rate, mut state) = (48_000.0, 0x2545_f491_4f6c_dd1d_u64);
        let mut uniform = move || {
            // xorshift (Marsaglia 2003)
            state ^= state << 13;
            state ^= state >> 7;
            state ^= state << 17;
            (state >> 11) as f64 / (1u64 << 53) as f64 - 0.5
        };
        let channel: Vec<f64> = (0..(40.0 * rate) as usize).map(|_| uniform()).collect();
        let heard = Recording { rate, channels: vec![channel] };
        // a uniform number from -1/2 to 1/2 has the variance 1/12
        let expected = 10.0 * (1.0 / 12.0 * (1000.0 - 100.0) / (rate / 2.0)).log10();
        let read = level_in_band(&heard, [100.0, 1000.0], 0.0).unwrap();
        assert!((read.level_db - expected).abs() < 0.15, "{} {expected}", read.level_db);
        let mut louder = heard.clone();
        louder.channels[0].iter_mut().skip(48_000).for_each(|x| *x *= 10.0);
        let read = level_in_band(&louder, [100.0, 1000.0], 1.0).unwrap();
        assert!((read.over_quiet_db.unwrap() - 20.0).abs() < 1.0 && read.clipped, "{read:?}");
    }

    #[test]
    fn what_is_too_short_is_not_read() {
        let short = recording(48_000.0, 0.1, |t| (TAU * 60.0 * t).sin());
        assert_eq!(level_in_band(&short, [30.0, 120.0], 0.0), None);
        assert_eq!(level_in_band(&Recording::default(), [30.0, 120.0], 0.0), None);
        assert_eq!(
            level_in_band(&recording(200.0, 9.0, |_| 0.0), [30.0, 120.0], 0.0),
            None,
            "no such frequencies in it"
        );
    }
}
