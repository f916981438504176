//! An impulse response, its gate and the curve that comes of it.

use crate::curve::{Curve, Measurand};
use crate::sweep::transform::{fast_length, forward};
use num_complex::Complex64;
use std::f64::consts::{PI, TAU};

/// Points an octave of a curve that comes of an impulse response.
const PER_OCTAVE: f64 = 48.0;
/// Share of a gate's length that each of its half-cosine flanks takes; the one before the first arrival at most what lies there.
const FLANK: f64 = 0.25;

/// An impulse response.
#[derive(Clone, Debug, PartialEq)]
pub struct Impulse {
    /// What it belongs to.
    pub quantity: Measurand,
    /// Samples a second.
    pub rate: f64,
    /// The sample at time 0, when the sweep was sent: what lies before it comes early; below 0 it was sent before the first sample.
    pub zero: isize,
    /// Samples, per second (so that their transform, times the step, is the response).
    pub samples: Vec<f64>,
    /// Where it is true, Hz.
    pub band: (f64, f64),
}

/// A part of an impulse response that counts, against its first arrival.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Gate {
    /// From, s.
    pub from: f64,
    /// To, s.
    pub to: f64,
}

impl Gate {
    /// Below this a gated curve says nothing, Hz: one period fits.
    pub fn valid_from(&self) -> f64 {
        1.0 / self.to
    }

    /// Above this it is trusted, Hz.
    pub fn trusted_from(&self) -> f64 {
        1.5 / self.to
    }

    /// Its weight at a time (s) after the first arrival.
    pub fn weight(&self, time: f64) -> f64 {
        let flank = (self.to - self.from) * FLANK;
        let rise = flank.min(-self.from).max(0.0);
        let half = |x: f64| 0.5 - 0.5 * (PI * x.clamp(0.0, 1.0)).cos();
        if time < self.from || time > self.to {
            return 0.0;
        }
        let up = if rise > 0.0 { half((time - self.from) / rise) } else { 1.0 };
        up * half((self.to - time) / flank)
    }
}

/// The clear time (s) before the first echo from a floor: microphone and source at heights (m), a distance (m) apart.
pub fn clear_time(source: f64, microphone: f64, distance: f64, c: f64) -> f64 {
    (distance.hypot(source + microphone) - distance.hypot(source - microphone)) / c
}

impl Impulse {
    /// Time of the first arrival, s: where the largest sample lies.
    pub fn arrival(&self) -> f64 {
        let top = self.samples.iter().enumerate().max_by(|a, b| a.1.abs().total_cmp(&b.1.abs()));
        (top.map_or(0, |t| t.0) as f64 - self.zero as f64) / self.rate
    }

    /// How long it is, s.
    pub fn seconds(&self) -> f64 {
        self.samples.len() as f64 / self.rate
    }

    /// Its curve in 1/48 octaves over the band it is true in, gated or whole.
    pub fn curve(&self, gate: Option<Gate>) -> Curve {
        let frequencies = self.frequencies();
        let zero = self.zero as f64;
        let arrival = self.arrival();
        let gated: Vec<f64> = match gate {
            None => self.samples.clone(),
            Some(gate) => {
                let weight = |i: usize| gate.weight((i as f64 - zero) / self.rate - arrival);
                self.samples.iter().enumerate().map(|(i, x)| x * weight(i)).collect()
            }
        };
        let value = response(&gated, self.rate, zero, &frequencies);
        Curve { quantity: self.quantity, frequency: frequencies, value, has_phase: true, snr_db: Vec::new() }
    }

    /// Frequencies its curve is told at, Hz.
    pub fn frequencies(&self) -> Vec<f64> {
        let (low, high) = self.band;
        let count = ((high / low).log2() * PER_OCTAVE).round().max(1.0) as usize + 1;
        oak_drum_acoustics::level::log_frequencies(low, high, count)
    }
}

/// The transform of samples at frequencies (Hz), time 0 being at a sample: of a spectrum so long that a straight line between its
/// points, with the turn of the delay taken out, is near enough.
pub fn response(samples: &[f64], rate: f64, zero: f64, frequencies: &[f64]) -> Vec<Complex64> {
    let length = fast_length(samples.len() * 8);
    let spectrum = forward(samples, length);
    let step = rate / length as f64;
    // seen from the middle of the signal the phase turns least from one point to the next
    let middle = centre(samples);
    let turned = |i: usize| {
        let omega = TAU * i as f64 / length as f64;
        spectrum[i] * Complex64::from_polar(1.0, omega * middle)
    };
    frequencies
        .iter()
        .map(|f| {
            let place = f / step;
            let i = (place as usize).min(spectrum.len() - 2);
            let share = place - i as f64;
            let there = turned(i) * (1.0 - share) + turned(i + 1) * share;
            there * Complex64::from_polar(1.0 / rate, -TAU * f / rate * (middle - zero))
        })
        .collect()
}

/// Where the energy of a signal lies, in samples.
fn centre(samples: &[f64]) -> f64 {
    let (mut total, mut moment) = (0.0, 0.0);
    for (i, x) in samples.iter().enumerate() {
        total += x * x;
        moment += x * x * i as f64;
    }
    if total > 0.0 { moment / total } else { 0.0 }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    /// A second-order resonance in closed form: h = w0/√(1-1/4Q²)·e^{-w0 t/2Q}·sin(wd t) has w0²/(w0² - w² + jww0/Q).
    #[test]
    fn the_curve_of_a_known_response() {
        let (rate, f0, q) = (48_000.0, 40.0, 3.0);
        let w0 = TAU * f0;
        let wd = w0 * (1.0f64 - 1.0 / (4.0 * q * q)).sqrt();
        let zero = 2400;
        let samples = (0..48_000 + zero)
            .map(|i| {
                let t = (i as f64 - zero as f64) / rate;
                if t < 0.0 { 0.0 } else { w0 * w0 / wd * (-w0 * t / (2.0 * q)).exp() * (wd * t).sin() }
            })
            .collect();
        let impulse = Impulse { quantity: Measurand::Level, rate, zero, samples, band: (10.0, 500.0) };
        let curve = impulse.curve(None);
        for (f, v) in curve.frequency.iter().zip(&curve.value) {
            let w = TAU * f;
            let exact = w0 * w0 / Complex64::new(w0 * w0 - w * w, w * w0 / q);
            assert!((v - exact).norm() < 2e-4 * exact.norm().max(0.02), "{f} Hz: {v} against {exact}");
        }
    }

    #[test]
    fn gates_and_clear_times() {
        let gate = Gate { from: -0.002, to: 0.02 };
        assert_eq!((gate.weight(-0.003), gate.weight(0.0), gate.weight(0.03)), (0.0, 1.0, 0.0));
        assert!(gate.weight(0.018) > 0.0 && gate.weight(0.018) < 1.0);
        assert_relative_eq!(gate.valid_from(), 50.0);
        // both half a metre high, a metre apart
        assert_relative_eq!(clear_time(0.5, 0.5, 1.0, 343.2) * 1e3, 1.20692, max_relative = 1e-5);
    }
}
