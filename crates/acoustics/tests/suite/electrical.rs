//! The electrical side: the fast path against the plain one, and what must hold of any ladder.

use num_complex::Complex64;
use oak_drum_acoustics::filters::{Cascade, Filter};
use oak_drum_acoustics::ladder::{Ladder, Part, Placement};
use oak_drum_acoustics::network::phasor::{Jet, Phasor};
use oak_drum_acoustics::source::Source;
use proptest::prelude::*;
use serde_json::json;
use std::f64::consts::TAU;
use wide::f64x4;

fn a_part() -> impl Strategy<Value = (Placement, Part)> {
    let placement = prop_oneof![Just(Placement::InLine), Just(Placement::Across)];
    let read = |value: serde_json::Value| serde_json::from_value::<Part>(value).unwrap();
    let (l, c, r) = (0.1..60.0f64, 1.0..2000.0f64, 0.1..60.0f64);
    let part = prop_oneof![
        (l.clone(), r.clone())
            .prop_map(move |(l, r)| read(json!({"kind": "coil", "inductance_mh": l, "coil_ohm": r / 30.0}))),
        c.clone().prop_map(move |c| read(json!({"kind": "capacitor", "capacitance_uf": c}))),
        r.clone().prop_map(move |r| read(json!({"kind": "resistor", "resistance_ohm": r}))),
        (r.clone(), c.clone())
            .prop_map(move |(r, c)| read(json!({"kind": "zobel", "resistance_ohm": r, "capacitance_uf": c}))),
        (l.clone(), c.clone(), r.clone()).prop_map(move |(l, c, r)| read(
            json!({"kind": "series_notch", "inductance_mh": l, "capacitance_uf": c, "resistance_ohm": r})
        )),
        (l, c, r).prop_map(move |(l, c, r)| read(
            json!({"kind": "trap", "inductance_mh": l, "capacitance_uf": c, "resistance_ohm": r})
        )),
    ];
    (placement, part)
}

fn a_source() -> impl Strategy<Value = Source> {
    let filters: Vec<Filter> = serde_json::from_value(json!([
        {"kind": "high_pass", "frequency_hz": 22, "slope": {"shape": "bessel", "order": 5}},
        {"kind": "band", "frequency_hz": 45, "level_db": -5, "q": 3},
        {"kind": "delay", "delay_ms": 4},
        {"kind": "polarity"},
    ]))
    .unwrap();
    (prop::collection::vec(a_part(), 0..8), 0.0..2.0f64, any::<bool>()).prop_map(
        move |(parts, resistance, filtered)| Source {
            ladder: Ladder::of(parts),
            filters: if filtered { Cascade::of(&filters) } else { Cascade::default() },
            ..Source::new(10.0, resistance)
        },
    )
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(200))]

    /// Four frequencies at a time are one at a time, and the derivative carried along is the difference quotient.
    #[test]
    fn the_fast_path_is_the_plain_one(source in a_source(), f in 8.0..600.0f64) {
        let omega = TAU * f;
        let fast = source.terminals::<Jet>(f64x4::splat(omega));
        let plain = source.terminals::<Complex64>(omega);
        let of = |z: &Jet| (Complex64::new(z.v.re.to_array()[0], z.v.im.to_array()[0]), Complex64::new(z.d.re.to_array()[0], z.d.im.to_array()[0]));
        let h = omega * 1e-5;
        let (before, after) = (source.terminals::<Complex64>(omega - h), source.terminals::<Complex64>(omega + h));
        for (jet, z, low, high) in [
            (&fast.emf, plain.emf, before.emf, after.emf),
            (&fast.voltage, plain.voltage, before.voltage, after.voltage),
            (&fast.impedance, plain.impedance, before.impedance, after.impedance),
        ] {
            let (value, slope) = of(jet);
            prop_assert!((value - z).norm() <= 1e-9 * z.norm() + 1e-12);
            let quotient = (high - low) / (2.0 * h);
            prop_assert!((slope - quotient).norm() <= 1e-4 * (quotient.norm() + z.norm() / omega) + 1e-9, "{slope} against {quotient}");
        }
    }

    /// A ladder is reciprocal (AD - BC = 1), passive (it takes power into any load), and what its components turn to heat is what
    /// goes in less what comes out.
    #[test]
    fn ladders_are_reciprocal_and_keep_the_books(source in a_source(), f in 8.0..600.0f64, re in 1.0..40.0f64, im in -40.0..40.0f64) {
        let (omega, load) = (TAU * f, Complex64::new(re, im));
        let m = source.ladder.matrix::<Complex64>(omega);
        let size = (m.a * m.d).norm() + (m.b * m.c).norm();
        prop_assert!((m.a * m.d - m.b * m.c - 1.0).norm() <= 1e-9 * size.max(1.0));
        let seen = m.seen(load);
        prop_assert!(seen.re > -1e-9 * seen.norm());
        let (volts, amperes) = (load, Complex64::new(1.0, 0.0));
        let heat: f64 = source.ladder.stresses(omega, volts, amperes).iter().flatten().map(|s| s.watts).sum();
        let into = m.c * volts + m.d * amperes;
        let (taken, given) = (into.norm_sqr() * seen.re, re);
        prop_assert!((taken - given - heat).abs() <= 1e-6 * taken.abs().max(given), "{taken} = {given} + {heat}");
        // Thévenin: the voltage at the load is the same both ways
        let there = source.terminals::<Complex64>(omega);
        let behind = there.voltage * load / (load + there.impedance);
        let before = there.emf / (source.resistance + seen) / (m.c + m.d / load);
        prop_assert!((behind - before).norm() <= 1e-9 * before.norm() + 1e-15);
    }

    /// Whether parts stand one after another or are taken out and put back at their place does not matter; a part that is bridged or
    /// lifted is none.
    #[test]
    fn two_ladders_are_one(first in prop::collection::vec(a_part(), 0..4), second in prop::collection::vec(a_part(), 0..4), f in 8.0..600.0f64) {
        let omega = TAU * f;
        let all = Ladder::of(first.iter().chain(&second).copied()).matrix::<Complex64>(omega);
        let (p, q) = (Ladder::of(first).matrix::<Complex64>(omega), Ladder::of(second).matrix::<Complex64>(omega));
        let product = [p.a * q.a + p.b * q.c, p.a * q.b + p.b * q.d, p.c * q.a + p.d * q.c, p.c * q.b + p.d * q.d];
        for (ours, theirs) in [all.a, all.b, all.c, all.d].iter().zip(product) {
            prop_assert!((ours - theirs).norm() <= 1e-9 * theirs.norm() + 1e-12);
        }
    }
}

/// A quadratic of s by hand at one place: 2 + 3s + 4s² at s = 2j is -14 + 6j, and its slope by ω (ω0 = 5) is (3j - 8·2)/5.
#[test]
fn a_quadratic_and_its_slope() {
    let plain = Complex64::quadratic(10.0, 5.0, [2.0, 3.0, 4.0]);
    assert_eq!(plain, Complex64::new(-14.0, 6.0));
    let jet = Jet::quadratic(f64x4::splat(10.0), 5.0, [2.0, 3.0, 4.0]);
    assert_eq!((jet.v.re.to_array()[3], jet.v.im.to_array()[3]), (-14.0, 6.0));
    assert!((jet.d.re.to_array()[0] + 3.2).abs() < 1e-12 && (jet.d.im.to_array()[0] - 0.6).abs() < 1e-12);
}
