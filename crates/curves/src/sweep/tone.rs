//! Steady signals: a tone for setting levels and for breaking a woofer in, periodic noise in a band, and the level of a recorded tone.

use crate::sweep::transform::{backward, fast_length};
use num_complex::Complex64;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::{PI, TAU};

/// Length of what repeats, s, about.
const LOOP: f64 = 4.0;

/// Half-cosine a tone begins and ends with, s.
const FADE: f64 = 0.2;

/// A signal that goes on for as long as one wants it.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[schemars(title = "Steady signal")]
pub enum Steady {
    /// One frequency.
    #[schemars(title = "Tone")]
    Tone {
        /// Which.
        #[schemars(title = "Frequency", range(min = 1.0, max = 20000.0), extend("x-unit" = "Hz"))]
        hz: f64,
    },
    /// Noise with equal power in each octave of a band.
    #[schemars(title = "Noise")]
    Noise {
        /// From.
        #[schemars(title = "From", range(min = 1.0, max = 20000.0), extend("x-unit" = "Hz"))]
        from_hz: f64,
        /// To.
        #[schemars(title = "To", range(min = 1.0, max = 20000.0), extend("x-unit" = "Hz"))]
        to_hz: f64,
    },
}

impl Steady {
    /// A stretch of it (full scale being 1) that goes on where it began: a whole number of periods, so that a tone is off by less than
    /// a sample in its length.
    ///
    /// # Errors
    /// In words, where there is no such signal at this rate (samples a second).
    pub fn repeating(&self, amplitude: f64, rate: f64) -> Result<Vec<f64>, String> {
        let most = rate * 0.45;
        match *self {
            Steady::Tone { hz } if hz <= most => {
                let periods = (hz * LOOP).round().max(1.0);
                let count = (periods / hz * rate).round();
                Ok((0..count as usize).map(|i| amplitude * (TAU * periods * i as f64 / count).sin()).collect())
            }
            Steady::Noise { from_hz, to_hz } if to_hz <= most && to_hz >= from_hz * 1.1 => {
                Ok(pink_band(from_hz, to_hz, amplitude, LOOP, rate, 1))
            }
            Steady::Noise { from_hz, to_hz } if to_hz < from_hz * 1.1 => {
                Err("a band has to end at least a tenth above where it begins".into())
            }
            _ => Err(format!("at this rate there is nothing above {most:.0} Hz")),
        }
    }
}

/// A tone of an amplitude, faded in and out.
pub fn tone(frequency: f64, amplitude: f64, seconds: f64, rate: f64) -> Vec<f64> {
    let n = (seconds * rate).round() as usize;
    let fade = (FADE * rate).min(n as f64 / 4.0).max(1.0);
    let rise = |x: f64| 0.5 - 0.5 * (PI * x.clamp(0.0, 1.0)).cos();
    (0..n)
        .map(|i| {
            let whole = rise(i as f64 / fade) * rise((n - 1 - i) as f64 / fade);
            amplitude * whole * (TAU * frequency * i as f64 / rate).sin()
        })
        .collect()
}

/// Noise with equal power in each octave of a band (Hz), that repeats after its length, of an amplitude at its peak. It begins and
/// ends where it repeats, so that a level read over its length does not waver.
pub fn pink_band(from: f64, to: f64, amplitude: f64, seconds: f64, rate: f64, seed: u64) -> Vec<f64> {
    let mut random = fastrand::Rng::with_seed(seed);
    let length = fast_length((seconds * rate).round() as usize);
    let step = rate / length as f64;
    let mut spectrum = vec![Complex64::default(); length / 2 + 1];
    for (i, slot) in spectrum.iter_mut().enumerate().skip(1) {
        let f = i as f64 * step;
        if (from..=to).contains(&f) {
            *slot = Complex64::from_polar(1.0 / f.sqrt(), TAU * random.f64());
        }
    }
    let mut made = backward(&mut spectrum, length);
    let top = made.iter().fold(1e-300, |m: f64, x| m.max(x.abs()));
    made.iter_mut().for_each(|x| *x *= amplitude / top);
    made
}

/// The rms of a tone in a recording: projected on sine and cosine under a Hann window, which asks for no whole number of periods.
pub fn tone_rms(samples: &[f64], frequency: f64, rate: f64) -> f64 {
    let n = samples.len() as f64;
    let (mut sum, mut weight) = (Complex64::default(), 0.0);
    for (i, x) in samples.iter().enumerate() {
        let hann = 0.5 - 0.5 * (TAU * (i as f64 + 0.5) / n).cos();
        sum += Complex64::from_polar(x * hann, -TAU * frequency * i as f64 / rate);
        weight += hann;
    }
    2.0 * sum.norm() / weight / 2f64.sqrt()
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    #[test]
    fn what_repeats_goes_on_where_it_began() {
        for rate in [44_100.0, 48_000.0, 96_000.0] {
            let tone = Steady::Tone { hz: 31.5 }.repeating(0.25, rate).unwrap();
            let twice = tone.repeat(2);
            assert_relative_eq!(tone_rms(&twice, 31.5, rate), 0.25 / 2f64.sqrt(), max_relative = 1e-4);
            let step = twice.windows(2).map(|w| (w[1] - w[0]).abs()).fold(0.0, f64::max);
            assert!(step <= 0.25 * TAU * 31.5 / rate * 1.001, "a jump of {step}");
            let noise = Steady::Noise { from_hz: 30.0, to_hz: 60.0 }.repeating(0.25, rate).unwrap();
            assert_relative_eq!(noise.iter().fold(0.0, |m: f64, x| m.max(x.abs())), 0.25, max_relative = 1e-9);
        }
        let no = |signal: Steady| signal.repeating(0.1, 44_100.0).unwrap_err();
        assert!(no(Steady::Tone { hz: 20_000.0 }).contains("19845 Hz"));
        assert!(no(Steady::Noise { from_hz: 50.0, to_hz: 40.0 }).contains("above where it begins"));
    }

    #[test]
    fn a_tone_is_read_as_it_was_made() {
        let made = tone(31.7, 0.4, 3.0, 48_000.0);
        let steady = &made[12_000..132_000];
        assert_relative_eq!(tone_rms(steady, 31.7, 48_000.0), 0.4 / 2f64.sqrt(), max_relative = 1e-4);
        assert!(made[0].abs() < 1e-9 && made.last().unwrap().abs() < 1e-6);
    }

    #[test]
    fn noise_keeps_to_its_band() {
        let rate = 48_000.0;
        let made = pink_band(30.0, 120.0, 0.5, 4.0, rate, 3);
        let top = made.iter().fold(0.0, |m: f64, x| m.max(x.abs()));
        assert_relative_eq!(top, 0.5, max_relative = 1e-9);
        // power in two octaves of the band is equal, outside there is none
        let spectrum = crate::sweep::transform::forward(&made, made.len());
        let step = rate / made.len() as f64;
        let power = |from: f64, to: f64| {
            spectrum
                .iter()
                .enumerate()
                .filter(|(i, _)| (from..to).contains(&(*i as f64 * step)))
                .map(|(_, v)| v.norm_sqr())
                .sum::<f64>()
        };
        assert_relative_eq!(power(30.0, 60.0), power(60.0, 120.0), max_relative = 0.02);
        assert!(power(150.0, 20_000.0) < 1e-12 * power(30.0, 60.0));
    }
}
