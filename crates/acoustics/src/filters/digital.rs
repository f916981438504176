//! Biquads: sections made digital by the bilinear transform, x = K(1 - z⁻¹)/(1 + z⁻¹) with K = 1/tan(ω0/2fs), so that each is exact
//! at its own frequency. y = b0·x + b1·x₁ + b2·x₂ - a1·y₁ - a2·y₂ with a0 = 1 (Bristow-Johnson's cookbook, from memory).
//!
//! Against the analog section its frequencies are moved, f to f0·tan(πf/fs)/tan(πf0/fs): nothing at a woofer's, much near half the
//! rate.

use super::contract::{Section, roots};
use num_complex::Complex64;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::PI;

/// Sampling rates biquads are made for, Hz.
pub const RATES: [f64; 3] = [44_100.0, 48_000.0, 96_000.0];

/// One section at one sampling rate; a0 is 1, and a1 and a2 are taken off: y = b0·x + b1·x₁ + b2·x₂ - a1·y₁ - a2·y₂.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Biquad {
    /// Of the sample itself.
    pub b0: f64,
    /// Of the sample before.
    pub b1: f64,
    /// Of the one before that; 0 of a first-order section.
    pub b2: f64,
    /// Of the output before.
    pub a1: f64,
    /// Of the one before that; 0 of a first-order section.
    pub a2: f64,
}

impl Biquad {
    /// A section at a sampling rate (Hz); `None` where its frequency is not below half of it.
    pub fn of(section: &Section, rate: f64) -> Option<Biquad> {
        let half = section.omega / (2.0 * rate);
        if half >= PI / 2.0 {
            return None;
        }
        let k = 1.0 / half.tan();
        let first_order = section.above[2] == 0.0 && section.below[2] == 0.0;
        let turned = |[c0, c1, c2]: [f64; 3]| {
            if first_order {
                [c0 + c1 * k, c0 - c1 * k, 0.0]
            } else {
                [c0 + c1 * k + c2 * k * k, 2.0 * (c0 - c2 * k * k), c0 - c1 * k + c2 * k * k]
            }
        };
        let (b, a) = (turned(section.above), turned(section.below));
        Some(Biquad { b0: b[0] / a[0], b1: b[1] / a[0], b2: b[2] / a[0], a1: a[1] / a[0], a2: a[2] / a[0] })
    }

    /// Its response at a frequency (Hz), in powers of 1 - z⁻¹: near 0 Hz nothing is lost by cancelling.
    pub fn at(&self, frequency: f64, rate: f64) -> Complex64 {
        // 1 - e^(-jθ) = 2j·sin(θ/2)·e^(-jθ/2)
        let half = PI * frequency / rate;
        let d = Complex64::new(0.0, 2.0 * half.sin()) * Complex64::from_polar(1.0, -half);
        // c0 + c1(1 - d) + c2(1 - d)²
        let value = |c0: f64, c1: f64, c2: f64| (c0 + c1 + c2) - d * (c1 + 2.0 * c2) + d * d * c2;
        value(self.b0, self.b1, self.b2) / value(1.0, self.a1, self.a2)
    }

    /// Whether its poles lie inside the unit circle (Jury).
    pub fn is_stable(&self) -> bool {
        self.a2.abs() < 1.0 && self.a1.abs() < 1.0 + self.a2
    }

    /// The same with coefficients as a 32-bit float holds them.
    pub fn in_floats(&self) -> Biquad {
        self.each(|x| f64::from(x as f32))
    }

    /// The same with coefficients in fixed point of so many bits after the point.
    pub fn in_fixed_point(&self, bits: i32) -> Biquad {
        let unit = 2f64.powi(bits);
        self.each(|x| (x * unit).round() / unit)
    }

    fn each(&self, f: impl Fn(f64) -> f64) -> Biquad {
        Biquad { b0: f(self.b0), b1: f(self.b1), b2: f(self.b2), a1: f(self.a1), a2: f(self.a2) }
    }

    /// Frequency (Hz) and Q of its poles, taken back through the bilinear transform; `None` where they are real.
    pub fn pole_pair(&self, rate: f64) -> Option<(f64, f64)> {
        // 1 + a1·z⁻¹ + a2·z⁻² at z⁻¹ = (1 - y)/(1 + y), y = s/2fs: (1 - a1 + a2)y² + 2(1 - a2)y + (1 + a1 + a2)
        let back = [1.0 + self.a1 + self.a2, 2.0 * (1.0 - self.a2), 1.0 - self.a1 + self.a2];
        let pole = roots(back).into_iter().find(|r| r.im.abs() > 0.0)?;
        Some((pole.norm().atan() * rate / PI, pole.norm() / (-2.0 * pole.re)))
    }
}

/// What a cascade of biquads makes of one frequency (Hz).
pub fn response(biquads: &[Biquad], frequency: f64, rate: f64) -> Complex64 {
    biquads.iter().map(|b| b.at(frequency, rate)).product()
}

/// Where an analog section about a frequency (Hz) does what its biquad does at another, Hz: f0·tan(πf/fs)/tan(πf0/fs).
pub fn moved(frequency: f64, about: f64, rate: f64) -> f64 {
    about * (PI * frequency / rate).tan() / (PI * about / rate).tan()
}
