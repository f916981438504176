//! The exponential sweep.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::{PI, TAU};

/// Rates a sweep is made at, samples a second.
pub const RATES: [f64; 3] = [44_100.0, 48_000.0, 96_000.0];
/// Longest it may be with all its repeats, samples: two channels of floats of it fit into 48 MB.
pub const MOST_SAMPLES: usize = 6_000_000;
/// Length of the half-cosine a sweep begins with, as periods of its first frequency: short enough to leave the lowest octave alone.
const FADE_IN: f64 = 0.5;
/// Length of the half-cosine it ends with, s.
const FADE_OUT: f64 = 0.01;

/// An exponential sweep that is asked for.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Sweep")]
pub struct LogSweep {
    /// Where it begins.
    #[schemars(title = "From", range(min = 1.0, max = 2000.0), extend("x-unit" = "Hz"))]
    pub from_hz: f64,
    /// Where it ends.
    #[schemars(title = "To", range(min = 20.0, max = 40000.0), extend("x-unit" = "Hz"))]
    pub to_hz: f64,
    /// How long it is asked to be; it is made so that its harmonics begin in step.
    #[schemars(title = "Length", range(min = 0.5, max = 60.0), extend("x-unit" = "s"))]
    pub seconds: f64,
    /// Samples a second: 44 100, 48 000 or 96 000.
    #[schemars(title = "Rate", range(min = 44100.0, max = 96000.0), extend("x-unit" = "1/s"))]
    pub rate_hz: f64,
    /// Amplitude, full scale being 1.
    #[schemars(title = "Amplitude", range(min = 0.001, max = 1.0))]
    pub amplitude: f64,
    /// Silence before it, from which the noise is read.
    #[schemars(title = "Silence before", range(min = 0.0, max = 10.0), extend("x-unit" = "s"))]
    pub silence_s: f64,
    /// Silence after it, in which the box rings out.
    #[schemars(title = "Silence after", range(min = 0.1, max = 10.0), extend("x-unit" = "s"))]
    pub tail_s: f64,
    /// How many times it is played, silences and all: what is recorded is averaged.
    #[schemars(title = "Times", range(min = 1, max = 16))]
    pub times: u32,
}

impl Default for LogSweep {
    fn default() -> Self {
        LogSweep {
            from_hz: 5.0,
            to_hz: 1000.0,
            seconds: 6.0,
            rate_hz: 48_000.0,
            amplitude: 0.5,
            silence_s: 0.5,
            tail_s: 1.0,
            times: 1,
        }
    }
}

impl LogSweep {
    /// What is wrong with it, with the name of the field; `None` if nothing.
    pub fn problem(&self) -> Option<(&'static str, String)> {
        if !RATES.contains(&self.rate_hz) {
            return Some(("rate_hz", "44100, 48000 or 96000 samples a second are expected".into()));
        }
        if self.to_hz <= self.from_hz * 1.5 {
            return Some(("to_hz", "a sweep has to end at least half an octave above where it begins".into()));
        }
        if self.to_hz > self.rate_hz * 0.45 {
            return Some(("to_hz", format!("at this rate a sweep can go up to {:.0} Hz", self.rate_hz * 0.45)));
        }
        let asked = self.seconds / (self.to_hz / self.from_hz).ln();
        if asked * self.from_hz < 0.9 {
            let least = (self.to_hz / self.from_hz).ln() / self.from_hz;
            return Some(("seconds", format!("too short to begin at {} Hz: take {least:.1} s at least", self.from_hz)));
        }
        if self.period() * self.times as usize > MOST_SAMPLES {
            let most = MOST_SAMPLES as f64 / self.rate_hz;
            let what = format!("with its repeats it may last {most:.0} s at this rate, silences and all");
            return Some((if self.times > 1 { "times" } else { "seconds" }, what));
        }
        None
    }

    /// L: the time in which the frequency grows e-fold, s, taken so that f1·L is a whole number (Novak, Lotton & Simon, JAES 63,
    /// 2015, from memory), so that harmonics begin in step with the sweep.
    pub fn growth(&self) -> f64 {
        let asked = self.seconds / (self.to_hz / self.from_hz).ln();
        (self.from_hz * asked).round().max(1.0) / self.from_hz
    }

    /// Its length, s.
    pub fn length(&self) -> f64 {
        self.growth() * (self.to_hz / self.from_hz).ln()
    }

    /// Its length in samples, silences left out.
    pub fn samples(&self) -> usize {
        (self.length() * self.rate_hz).round() as usize
    }

    /// By how much the n-th harmonic's response leads the linear one, s.
    pub fn lead(&self, n: u32) -> f64 {
        self.growth() * f64::from(n).ln()
    }

    /// The sweep without fades and silences, at a sample.
    fn plain(&self, sample: usize) -> f64 {
        let (l, t) = (self.growth(), sample as f64 / self.rate_hz);
        self.amplitude * (TAU * self.from_hz * l * (t / l).exp_m1()).sin()
    }

    /// The sweep as it is played, with its fades, without silences.
    pub fn signal(&self) -> Vec<f64> {
        let n = self.samples();
        let fade_in = (FADE_IN / self.from_hz * self.rate_hz).min(n as f64 / 4.0);
        let fade_out = (FADE_OUT * self.rate_hz).min(n as f64 / 4.0);
        let rise = |x: f64| 0.5 - 0.5 * (PI * x.clamp(0.0, 1.0)).cos();
        (0..n).map(|i| self.plain(i) * rise(i as f64 / fade_in) * rise((n - 1 - i) as f64 / fade_out)).collect()
    }

    /// Length of the silence before it, samples.
    pub fn silence_samples(&self) -> usize {
        (self.silence_s * self.rate_hz).round() as usize
    }

    /// From one repeat to the next, samples.
    pub fn period(&self) -> usize {
        self.silence_samples() + self.samples() + (self.tail_s * self.rate_hz).round() as usize
    }

    /// The signal with its silences, as many times as it is wanted.
    pub fn played(&self) -> Vec<f64> {
        let mut one = [vec![0.0; self.silence_samples()], self.signal()].concat();
        one.resize(self.period(), 0.0);
        one.repeat(self.times.max(1) as usize)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    /// Sweep of 10 to 500 Hz asked for 4 s: values computed outside this program.
    #[test]
    fn the_sweep_is_the_stated_one() {
        let sweep = LogSweep { from_hz: 10.0, to_hz: 500.0, seconds: 4.0, ..LogSweep::default() };
        assert_relative_eq!(sweep.growth(), 1.0, max_relative = 1e-12);
        assert_relative_eq!(sweep.length(), 3.912023, max_relative = 1e-6);
        assert_eq!(sweep.samples(), 187_777);
        assert_relative_eq!(sweep.plain(1000), 0.484694198, max_relative = 1e-8);
        assert_relative_eq!(sweep.plain(100_000), 0.462598283, max_relative = 1e-7);
        assert_relative_eq!(sweep.lead(2), std::f64::consts::LN_2, max_relative = 1e-9);
        assert_relative_eq!(sweep.lead(3), 1.098612, max_relative = 1e-6);
    }

    #[test]
    fn it_begins_and_ends_in_silence() {
        let sweep = LogSweep::default();
        let played = sweep.played();
        assert_eq!(played.len(), 24_000 + sweep.samples() + 48_000);
        let signal = sweep.signal();
        assert!(signal[0].abs() < 1e-6 && signal.last().unwrap().abs() < 1e-6);
        let top = signal.iter().fold(0.0, |m: f64, x| m.max(x.abs()));
        assert!((0.499..=0.5).contains(&top), "{top}");
        assert!(sweep.problem().is_none());
        for (bad, field) in [
            (LogSweep { rate_hz: 22_050.0, ..sweep }, "rate_hz"),
            (LogSweep { to_hz: 6.0, ..sweep }, "to_hz"),
            (LogSweep { to_hz: 30_000.0, ..sweep }, "to_hz"),
            (LogSweep { from_hz: 1.0, seconds: 0.5, ..sweep }, "seconds"),
            (LogSweep { seconds: 60.0, times: 3, ..sweep }, "times"),
            (LogSweep { seconds: 60.0, rate_hz: 96_000.0, silence_s: 5.0, ..sweep }, "seconds"),
        ] {
            assert_eq!(bad.problem().unwrap().0, field);
        }
    }
}
