//! The models of the drawings, held to what they must be: series and limits of the textbooks, the equations they solve, their symmetry.

use oak_drum_glossary::drawing::vented;
use oak_drum_glossary::drawn::{airway, drive, enclosure, prove, quiet, woofer};
use std::f64::consts::PI;

fn near(found: f64, wanted: f64, within: f64, what: &str) {
    assert!((found - wanted).abs() < within, "{what}: {found} for {wanted}");
}

/// The series of Abramowitz and Stegun, Handbook of Mathematical Functions (1964), 9.1.10 and 12.1.4.
#[test]
fn bessel_and_struve_are_their_series() {
    for z in [0.1f64, 0.7, 2.0, 5.0, 11.0] {
        let (mut j, mut term) = (0.0, 0.5 * z);
        for k in 1..60 {
            j += term;
            term *= -(0.25 * z * z) / (f64::from(k) * f64::from(k + 1));
        }
        near(enclosure::bessel(z), j, 1e-9, "J1");
        let (mut h, mut term) = (0.0, z * z / 3.0);
        for k in 1..60 {
            h += term;
            let odd = f64::from(2 * k + 1);
            term *= -z * z / (odd * (odd + 2.0));
        }
        near(enclosure::struve(z), 2.0 / PI * h, 2e-4, "H1");
    }
}

/// A small mouth in a wall loses what a small source radiates, twice (ka)²/2; a large one throws next to nothing back.
#[test]
fn a_mouth_throws_back_what_a_piston_does_not_take() {
    for ka in [0.02, 0.05] {
        near((1.0 - enclosure::thrown_back(ka)) / (ka * ka), 1.0, 0.01, "small");
    }
    assert!(enclosure::thrown_back(12.0) < 0.06);
    // J1(2) = 0.5767 and H1(2) = 0.6468 of the same handbook
    near(enclosure::thrown_back(1.0), 0.5767f64.hypot(0.6468) / 1.4233f64.hypot(0.6468), 1e-3, "a wavelength around");
}

/// Without a spring of its own the radiator is a port; at its own resonance nothing is heard (Small 1974).
#[test]
fn a_passive_radiator_is_a_port_with_a_notch() {
    for x in [0.3, 0.8, 1.7, 4.0] {
        near(enclosure::passive(x, 0.4, 1.4, 1.1, 0.0), vented(x, 0.4, 1.4, 1.1, 1e9).0, 1e-6, "port");
    }
    assert!(enclosure::passive(0.436 + 1e-7, 0.383, 1.414, 0.9, 0.436) < 1e-5);
    // the cone rests where mass and both springs swing
    let at = 0.9f64.hypot(0.436);
    near(enclosure::passive(at, 0.383, 1.414, 0.9, 0.436), at * at / 1.414, 1e-6, "all of it from the radiator");
}

/// Tuned to the resonance of cone and closed chamber a bandpass box is alike on both sides of it, with twelve decibels an octave.
#[test]
fn a_bandpass_box_is_symmetrical_about_its_tuning() {
    let (rear, h) = (1.25f64, 1.5);
    near(h * h, 1.0 + rear, 1e-12, "tuning");
    let level = |x: f64| enclosure::banded(x, 0.4, rear, 2.0, h);
    for t in [1.2, 1.9, 3.3] {
        near(level(h * t) / level(h / t), 1.0, 1e-9, "both sides");
    }
    near(level(400.0) / level(200.0), 0.25, 1e-3, "far above");
}

/// Quarter waves: 1 / sinh of the loss at odd ones, 1 / cosh at even ones.
#[test]
fn a_line_rings_at_odd_quarter_waves() {
    for (x, wanted) in [(1.0, 1.0 / 0.1f64.sinh()), (3.0, 1.0 / 0.1f64.sinh()), (2.0, 1.0 / 0.1f64.cosh())] {
        near(enclosure::far_end(x, 0.1), wanted, 1e-9, "far end");
    }
    assert_eq!(enclosure::carried(0.9), 0.0);
    near(enclosure::carried(2.0), 0.75f64.sqrt(), 1e-12, "an octave over its cut-off");
    for (x, wanted) in [(1.0, 1.0 / 0.3f64.tanh()), (1.5, 0.3f64.tanh())] {
        near(quiet::driven(x, 0.3), wanted, 1e-9, "a closed duct");
    }
}

/// Ports: a long tube tunes by the root of its area over its length; what turbulence leaves solves its equation.
#[test]
fn ports_tune_and_tear_as_they_must() {
    near(airway::tuned(1e4, 2.0) / airway::tuned(1e4, 1.0), 2f64.sqrt(), 1e-4, "wide");
    near(airway::tuned(4e4, 1.0) / airway::tuned(1e4, 1.0), 0.5, 1e-4, "long");
    for push in [0.01, 1.0, 40.0] {
        let flow = airway::turbulent(push);
        near(flow + flow * flow, push, 1e-9, "turbulence");
    }
}

/// Qms from the impedance where it is the root of its peak times Re (Thiele 1971); the swing of a cone let go of solves that of a mass on
/// a spring; a coil in air is a coil; far before a cone the level falls with the distance.
#[test]
fn woofers_swing_and_measure_as_they_must() {
    let (qms, qes) = (3.0f64, 0.4);
    let peak = 1.0 + qms / qes;
    near(woofer::bare(1.0, qms, qes), peak, 1e-12, "peak");
    let cross = |mut low: f64, mut high: f64| {
        for _ in 0..60 {
            let middle = 0.5 * (low + high);
            if (woofer::bare(middle, qms, qes) > peak.sqrt()) == (woofer::bare(low, qms, qes) > peak.sqrt()) {
                low = middle;
            } else {
                high = middle;
            }
        }
        low
    };
    near(peak.sqrt() / (cross(1.0, 9.0) - cross(0.1, 1.0)), qms, 1e-6, "Qms");
    for (t, q) in [(0.3, 0.6), (1.1, 5.0)] {
        let (at, h) = (|t: f64| woofer::let_go(t, q), 1e-4);
        let speed = (at(t + h) - at(t - h)) / (2.0 * h);
        let push = (at(t + h) - 2.0 * at(t) + at(t - h)) / (h * h);
        let w = 2.0 * PI;
        near(push / (w * w) + speed / (w * q) + at(t), 0.0, 1e-6, "swing");
    }
    near(woofer::in_iron(1.7, 1.0), drive::coil(1.7), 1e-12, "coil");
    near(prove::laden(3.0), 0.5, 1e-12, "three times as much more is four times as much");
    near(prove::before_the_cone(50.0) * 2.0 * 50.0, 1.0, 1e-3, "far off");
}
