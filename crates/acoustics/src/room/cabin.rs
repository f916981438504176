//! A space smaller than the wave: a car, a van, a tight small room. The pressure in it is the same everywhere.
//!
//! Where the sealed vessel's pressure ρc²U/(jωV) meets that of the open field the cabin begins to lift the level: 12 dB an octave
//! below, less where it leaks. An estimate: seats, glass and doors give way.

use crate::air::Air;
use std::f64::consts::TAU;

/// Where the sealed vessel's pressure is that of a solid angle (sr) at a distance (m), Hz: (c/2π)·√(Ω·r/V).
pub fn crossing_by_volume(air: &Air, solid_angle: f64, distance: f64, volume: f64) -> f64 {
    air.c / TAU * (solid_angle * distance / volume).sqrt()
}

/// The same by the longest side (m), where its half wave fits: c/(2L) (common practice).
pub fn crossing_by_length(air: &Air, longest: f64) -> f64 {
    air.c / (2.0 * longest)
}

/// What a cabin adds to the level of the open field at a frequency (Hz), dB: 10·log10(1 + (fx/f)⁴/(1 + (fl/f)²)), fx where it
/// begins and fl where its leaks let go.
pub fn gain_db(frequency: f64, crossing: f64, leak: f64) -> f64 {
    10.0 * (1.0 + (crossing / frequency).powi(4) / (1.0 + (leak / frequency).powi(2))).log10()
}
