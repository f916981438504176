//! Invariants over random designs, and the fast path held to the plain one.

use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::driver::{Arrangement, Array, CoilWiring, VoiceCoils, Woofer};
use oak_drum_acoustics::families::{Context, Enclosure, FAMILIES, sealed::Sealed, suggestions, vented::Vented};
use oak_drum_acoustics::fill::{FibreLaw, Fill};
use oak_drum_acoustics::level::SolidAngle;
use oak_drum_acoustics::network::chain::{Chain, Duct, Link};
use oak_drum_acoustics::network::{Network, plain};
use oak_drum_acoustics::outputs::{Conditions, Limits, Reference, Sweep};
use oak_drum_acoustics::port::{End, Port, PortModel, Section, Sizing};
use oak_drum_acoustics::source::Source;
use proptest::prelude::*;
use proptest::test_runner::RngSeed;
use serde_json::json;
use std::f64::consts::TAU;

fn conditions(air: Air) -> Conditions {
    Conditions { air, distance: 1.0, solid_angle: SolidAngle::Half, limits: Limits::default() }
}

prop_compose! {
    fn woofer()(
        fs in 15.0..80.0f64, qms in 1.5..12.0f64, qes in 0.15..1.2f64, vas in 5.0..600.0f64,
        re in 1.5..14.0f64, sd in 80.0..2200.0f64, le in prop_oneof![Just(0.0), 0.1..6.0f64],
        second in proptest::option::of((0.1..5.0f64, 1.0..60.0f64)),
        semi in proptest::option::of((0.005..0.2f64, 0.4..1.0f64)), dual in any::<bool>(),
    ) -> Woofer {
        Woofer {
            fs_hz: Some(fs), qms: Some(qms), qes: Some(qes), vas_l: Some(vas), re_ohm: Some(re),
            sd_cm2: Some(sd), le_mh: Some(le), l2_mh: second.map(|s| s.0), r2_ohm: second.map(|s| s.1),
            semi_inductance_k: semi.map(|s| s.0), semi_inductance_n: semi.map(|s| s.1),
            coils: if dual { VoiceCoils::Dual } else { VoiceCoils::Single },
            ..Woofer::default()
        }
    }
}

prop_compose! {
    fn context()(woofer in woofer(), count in 1u32..5, string in 0usize..3, between in proptest::option::of(1e-3..0.05f64),
                 series_coils in any::<bool>(), added_mass in prop_oneof![Just(0.0), 0.0..0.1f64], rg in 0.0..1.0f64) -> Context {
        let air = Air::at(20.0, 101_325.0);
        let one = woofer.resolve(&air).unwrap();
        let divisors: Vec<u32> = (1..=count).filter(|d| count.is_multiple_of(*d)).collect();
        let arrangement = Arrangement {
            count,
            in_series: divisors[string % divisors.len()],
            coils: if series_coils { CoilWiring::Series } else { CoilWiring::Parallel },
            isobaric: between.filter(|_| count.is_multiple_of(2)),
            added_mass,
        };
        Context::new(air, Array::new(&one, &air, &arrangement), Source::new(2.83, rg))
    }
}

fn fill() -> impl Strategy<Value = Fill> {
    prop_oneof![
        Just(Fill::None),
        (1.0..1.4f64).prop_map(|factor| Fill::Factor { factor }),
        (500.0..20000.0f64, 0.0..1.0f64, any::<bool>()).prop_map(|(r, part, miki)| Fill::Fibrous {
            model: if miki { FibreLaw::Miki } else { FibreLaw::AllardChampoux },
            flow_resistivity_pa_s_per_m2: r,
            filled_part: part,
        }),
    ]
}

fn q() -> impl Strategy<Value = Option<f64>> {
    proptest::option::of(3.0..150.0f64)
}

prop_compose! {
    fn port()(shape in 0..3, size in 40.0..200.0f64, count in 1u32..3, tuning in 15.0..60.0f64,
              walls in 0u32..4, mass in any::<bool>(), wall in any::<bool>(), flared in any::<bool>()) -> Port {
        let section = match shape {
            0 => Section::Round { diameter_mm: size },
            1 => Section::Square { side_mm: size },
            _ => Section::Slot { width_mm: 3.0 * size, height_mm: size / 3.0 },
        };
        Port {
            count,
            inner_end: if flared { End::Flared { radius_mm: 15.0 } } else { End::Free },
            outer_end: if flared { End::Flared { radius_mm: 15.0 } } else { End::Flanged },
            walls_alongside: walls,
            wall_mm: 4.0,
            model: if mass { PortModel::Mass } else { PortModel::Duct { wall_losses: wall, end_radiation: wall } },
            ..Port::plain(section, Sizing::Tuning { tuning_hz: tuning })
        }
    }
}

fn vented() -> impl Strategy<Value = Enclosure> {
    (10.0..500.0f64, port(), fill(), q(), q(), q()).prop_map(
        |(net_volume_l, port, fill, leak_q, absorption_q, port_q)| {
            Enclosure::Vented(Vented { net_volume_l, port, fill, leak_q, absorption_q, port_q, inside: None })
        },
    )
}

fn sealed() -> impl Strategy<Value = Enclosure> {
    (5.0..500.0f64, fill(), q(), q()).prop_map(|(net_volume_l, fill, leak_q, absorption_q)| {
        Enclosure::Sealed(Sealed { net_volume_l, fill, leak_q, absorption_q, inside: None })
    })
}

fn enclosure() -> impl Strategy<Value = Enclosure> {
    prop_oneof![sealed(), vented()]
}

fn frequencies() -> Vec<f64> {
    oak_drum_acoustics::level::log_frequencies(6.0, 900.0, 37)
}

/// Level of the sum by the plain path, dB at 2.83 V, 1 m, half space.
fn plain_pressure(network: &Network, air: &Air, f: f64) -> num_complex::Complex64 {
    let flows = plain::solve(network, TAU * f);
    num_complex::Complex64::new(0.0, TAU * f * air.rho * 2.83 / TAU) * flows.sum
}

/// The group delay carried along, s, and the slope of the plain path's phase over angular frequency by fourth-order differences
/// of one step and of half of it.
fn delays(network: &Network, air: &Air, f: f64) -> (f64, f64, f64) {
    let delay = Sweep::new(network, conditions(*air)).curves(&[f]).group_delay[0];
    let here = plain_pressure(network, air, f);
    let slope = |h: f64| {
        let phase = |step: f64| (plain_pressure(network, air, f + step * h) / here).arg();
        (8.0 * (phase(1.0) - phase(-1.0)) - (phase(2.0) - phase(-2.0))) / (12.0 * h * TAU)
    };
    (delay, slope(1e-4 * f), slope(0.5e-4 * f))
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 96, ..ProptestConfig::default() })]

    /// The fast path agrees with the plain one; 1e-9 leaves room for the unpivoted elimination.
    #[test]
    fn fast_equals_plain(context in context(), enclosure in enclosure()) {
        let wired = enclosure.wire(&context);
        let list = frequencies();
        let curves = Sweep::new(&wired.network, conditions(context.air)).curves(&list);
        for (i, &f) in list.iter().enumerate() {
            let reference = plain_pressure(&wired.network, &context.air, f);
            let scale = reference.norm().max(curves.cone[i].norm());
            prop_assert!((curves.sum[i] - reference).norm() <= 1e-9 * scale, "{f} Hz");
            let flows = plain::solve(&wired.network, TAU * f);
            let terminals = flows.current.inv() - context.source.resistance;
            prop_assert!((curves.impedance[i] - terminals).norm() <= 1e-9 * terminals.norm(), "{f} Hz");
        }
    }

    /// The group delay carried along equals a fourth-order difference of the plain path's phase. Where a lossless pipe
    /// resonates or everything that radiates nearly cancels, the difference itself is no reference: it has to agree
    /// with the one of half the step first.
    #[test]
    fn group_delay_equals_the_slope_of_the_phase(context in context(), enclosure in enclosure(), f in 12.0..300.0f64) {
        let wired = enclosure.wire(&context);
        let (delay, coarse, fine) = delays(&wired.network, &context.air, f);
        prop_assume!((coarse - fine).abs() <= 2e-6 * fine.abs() + 2e-10);
        prop_assert!((delay + fine).abs() <= 1e-5 * fine.abs() + 1e-9, "{delay} {fine}");
    }

    /// Energy is never created: the terminals never give power back.
    #[test]
    fn the_terminals_are_passive(context in context(), enclosure in enclosure()) {
        let wired = enclosure.wire(&context);
        let curves = Sweep::new(&wired.network, conditions(context.air)).curves(&frequencies());
        for z in curves.impedance {
            prop_assert!(z.re >= 0.0, "{z}");
        }
    }

    /// Far below resonance a sealed box falls 12 dB an octave and a vented one 24 (airtight, lumped).
    #[test]
    fn slopes_below_resonance(mut context in context(), mut enclosure in enclosure()) {
        // a semi-inductance dies away too slowly toward 0 Hz for a clean slope
        context.array.motor.coil.semi = None;
        let fill = Fill::None;
        let slope = match &mut enclosure {
            Enclosure::Sealed(s) => { s.leak_q = None; s.absorption_q = None; s.fill = fill; 12.0 }
            Enclosure::Vented(v) => {
                v.leak_q = None; v.absorption_q = None; v.port_q = None; v.fill = fill;
                v.port.model = PortModel::Mass;
                24.0
            }
            other => unreachable!("{other:?}"),
        };
        let wired = enclosure.wire(&context);
        // far below the lowest resonance, which a small box on a soft woofer pushes down to fb/√(1 + Vas/Vb)
        let alpha = context.array.vas() / wired.chambers[0].net;
        let f = 0.02 * context.array.ts.fs.min(15.0) / (1.0 + alpha).sqrt();
        let level = Sweep::new(&wired.network, conditions(context.air)).curves(&[f, 2.0 * f]).level_db;
        prop_assert!((level[1] - level[0] - slope).abs() < 0.1, "{level:?}");
    }

    /// A longer port tunes lower (none is shorter than its flares, 30 mm here).
    #[test]
    fn a_longer_port_tunes_lower(mut port in port(), length in 40.0..900.0f64, litres in 10.0..300.0f64) {
        let air = Air::at(20.0, 101_325.0);
        let c = air.compliance(litres * 1e-3);
        port.sizing = Sizing::Length { length_mm: length };
        let short = port.realise(&air, 0.06, |_| c).tuning;
        port.sizing = Sizing::Length { length_mm: length * 1.1 };
        prop_assert!(port.realise(&air, 0.06, |_| c).tuning < short);
    }

    /// Two halves of a duct in a chain are the whole duct, with and without wall losses, and a lossless duct of
    /// any length is reciprocal and stores all energy (no real part of its admittances).
    #[test]
    fn half_and_half_is_the_whole_duct(length in 0.05..3.0f64, area in 1e-4..0.1f64, lossy in any::<bool>(), f in 5.0..800.0f64) {
        let air = Air::at(20.0, 101_325.0);
        let radius = lossy.then(|| (area / std::f64::consts::PI).sqrt());
        let duct = |part: f64| Link::Duct(Duct::new(&air, length * part, area, radius));
        let whole = plain::admittance(&Chain { links: vec![duct(1.0)], ..Chain::default() }, TAU * f);
        let halves = plain::admittance(&Chain { links: vec![duct(0.5), duct(0.5)], ..Chain::default() }, TAU * f);
        for (w, h) in whole.iter().zip(&halves) {
            prop_assert!((w - h).norm() <= 1e-9 * w.norm());
            if !lossy {
                prop_assert!(w.re.abs() <= 1e-9 * w.norm());
            }
        }
    }

    /// Reciprocity through a box: a voltage at the terminals moves the port's air as the port's air, driven,
    /// brings a current to the shorted terminals. Written as: swapping the ends of an unsymmetric chain swaps
    /// its input admittances and keeps the transfer.
    #[test]
    fn a_turned_chain_keeps_its_transfer(l1 in 0.05..1.0f64, s1 in 1e-3..0.05f64, l2 in 0.05..1.0f64, s2 in 1e-3..0.05f64, f in 5.0..500.0f64) {
        let air = Air::at(20.0, 101_325.0);
        let a = || Link::Duct(Duct::new(&air, l1, s1, None));
        let b = || Link::Duct(Duct::new(&air, l2, s2, Some(0.02)));
        let m = || Link::Series { resistance: 10.0, mass: 3.0 };
        let one = plain::admittance(&Chain { links: vec![a(), m(), b()], ..Chain::default() }, TAU * f);
        let other = plain::admittance(&Chain { links: vec![b(), m(), a()], ..Chain::default() }, TAU * f);
        prop_assert!((one[1] - other[1]).norm() <= 1e-9 * one[1].norm());
        prop_assert!((one[0] - other[2]).norm() <= 1e-9 * one[0].norm());
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 128, ..ProptestConfig::default() })]

    /// The small-signal set and the physical set determine each other by the defining equations (Small, JAES 1972).
    #[test]
    fn either_set_determines_the_other(sheet in woofer()) {
        let air = Air::at(20.0, 101_325.0);
        let ts = sheet.resolve(&air).unwrap().ts;
        let coils = f64::from(sheet.coils.count());
        let w = TAU * ts.fs;
        let (cms, mms, rms, bl) = (ts.cms(&air), ts.mms(&air), ts.rms(&air), ts.bl(&air));
        let close = |a: f64, b: f64| (a / b - 1.0).abs() < 1e-10;
        prop_assert!(close(w * w * mms * cms, 1.0));
        prop_assert!(close(air.rho * air.c * air.c * ts.sd * ts.sd * cms, ts.vas));
        prop_assert!(close(w * mms * (sheet.re_ohm.unwrap() / coils) / (bl * bl), ts.qes));
        prop_assert!(close(w * mms / rms, ts.qms));
        prop_assert!(close(1.0 / ts.qms + 1.0 / ts.qes, 1.0 / ts.qts()));
        // and back, from sets that leave the small-signal figures out
        let physical = Woofer {
            coils: sheet.coils, re_ohm: sheet.re_ohm, sd_cm2: sheet.sd_cm2,
            mms_g: Some(mms * 1e3), cms_mm_per_n: Some(cms * 1e3), rms_n_s_per_m: Some(rms), bl_t_m: Some(bl),
            ..Woofer::default()
        };
        let mixed = Woofer { fs_hz: sheet.fs_hz, cms_mm_per_n: None, qms: sheet.qms, rms_n_s_per_m: None, ..physical.clone() };
        let massless = Woofer { mms_g: None, qes: sheet.qes, ..mixed.clone() };
        for subset in [physical, mixed, massless] {
            let back = subset.resolve(&air).unwrap().ts;
            for (a, b) in [(back.fs, ts.fs), (back.qms, ts.qms), (back.qes, ts.qes), (back.vas, ts.vas), (back.re, ts.re), (back.sd, ts.sd)] {
                prop_assert!(close(a, b), "{a} {b}");
            }
        }
    }

    /// η0 = ρ·Bl²·Sd²/(2πc·Re·Mms²), the efficiency by force and mass (Beranek 1954, ch. 8, from memory), equals
    /// (4π²/c³)·fs³·Vas/Qes (Small 1972).
    #[test]
    fn efficiency_two_ways(sheet in woofer()) {
        let air = Air::at(20.0, 101_325.0);
        let ts = sheet.resolve(&air).unwrap().ts;
        let by_force = air.rho * (ts.bl(&air) * ts.sd).powi(2) / (TAU * air.c * ts.re * ts.mms(&air).powi(2));
        prop_assert!((by_force / ts.efficiency(&air) - 1.0).abs() < 1e-10);
    }

    /// A semi-inductance with n = 1 is a plain coil of K henry; with n = 0.5 its phase is 45 degrees.
    #[test]
    fn semi_inductance_limits(context in context(), enclosure in enclosure(), henry in 1e-4..5e-3f64) {
        let (mut plain_coil, mut semi) = (context.clone(), context);
        plain_coil.array.motor.coil = oak_drum_acoustics::driver::Coil { re: 5.0, le: henry, parallel: None, semi: None };
        semi.array.motor.coil = oak_drum_acoustics::driver::Coil { re: 5.0, le: 0.0, parallel: None, semi: Some((henry, 1.0)) };
        let list = frequencies();
        let sweep = |c: &Context| Sweep::new(&enclosure.wire(c).network, conditions(c.air)).curves(&list);
        let (a, b) = (sweep(&plain_coil), sweep(&semi));
        for (a, b) in a.impedance.iter().zip(&b.impedance) {
            prop_assert!((a - b).norm() <= 1e-9 * a.norm());
        }
        semi.array.motor.coil.semi = Some((henry, 0.5));
        let z = semi.diaphragm().coil_impedance::<num_complex::Complex64>(TAU * 400.0) - 5.0;
        prop_assert!((z.arg().to_degrees() - 45.0).abs() < 1e-9);
        prop_assert!((z.norm() / (henry * (TAU * 400.0).sqrt()) - 1.0).abs() < 1e-12);
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 24, ..ProptestConfig::default() })]

    /// Every family, by its own starting points for random woofers: it says nothing is wrong with them, the fast path
    /// equals the plain one, the terminals are passive, and what it states is finite.
    #[test]
    fn every_family_holds_what_all_must(context in context()) {
        let list = frequencies();
        let mut met = std::collections::BTreeSet::new();
        for start in suggestions(&context) {
            let Some(enclosure) = start.enclosure else { continue };
            met.insert(enclosure.info().id);
            prop_assert_eq!(enclosure.problems(), vec![], "{}", start.id);
            let wired = enclosure.wire(&context);
            prop_assert!(wired.figures.iter().all(|f| f.value.is_finite()), "{}: {:?}", start.id, wired.figures);
            let curves = Sweep::new(&wired.network, conditions(context.air)).curves(&list);
            for (i, &f) in list.iter().enumerate() {
                let reference = plain_pressure(&wired.network, &context.air, f);
                let flows = plain::solve(&wired.network, TAU * f);
                let scale = reference.norm().max((flows.cone * TAU * f * context.air.rho * 2.83 / TAU).norm());
                prop_assert!((curves.sum[i] - reference).norm() <= 1e-7 * scale, "{} at {f} Hz", start.id);
                let terminals = flows.current.inv() - context.source.resistance;
                prop_assert!((curves.impedance[i] - terminals).norm() <= 1e-7 * terminals.norm(), "{} at {f} Hz", start.id);
                prop_assert!(curves.impedance[i].re >= 0.0, "{} at {f} Hz", start.id);
            }
        }
        // families without a start for this woofer aside, all were met
        prop_assert!(met.len() + 4 >= FAMILIES.len(), "{met:?}");
    }
}

prop_compose! {
    /// A line or a horn, with and without losses, bends and fill.
    fn path()(kind in 0..4, length in 400.0..4000.0f64, small in 100.0..900.0f64, ratio in 1.0..6.0f64, tap in 0.0..0.5f64,
              rear in 10.0..120.0f64, losses in any::<bool>(), bend in proptest::option::of(0.2..0.8f64),
              filled in proptest::option::of(500.0..8000.0f64)) -> Enclosure {
        let mut bends = Vec::new();
        bends.extend(bend.map(|at| json!({"at_mm": at * length, "channel_mm": (small * 100.0).sqrt()})));
        let mut fills = Vec::new();
        fills.extend(filled.map(|r| json!({"from_mm": 0, "to_mm": 0.5 * length, "model": "miki",
            "stuffing": {"kind": "resistivity", "flow_resistivity_pa_s_per_m2": r}})));
        let horn = |shape: &str| json!({"throat_cm2": small, "mouth_cm2": small * ratio, "wall_losses": losses, "bends": bends,
            "fills": fills, "profile": {"shape": shape, "length_mm": length}});
        let document = match kind {
            0 => json!({"family": "transmission_line", "length_mm": length, "woofer_at_mm": tap * length, "wall_losses": losses,
                "bends": bends, "fills": fills,
                "profile": {"shape": "tapered", "closed_end_cm2": small * ratio, "open_end_cm2": small}}),
            1 => json!({"family": "front_horn", "rear_volume_l": rear, "horn": horn("exponential")}),
            2 => json!({"family": "back_horn", "throat_chamber_l": rear * 0.1, "horn": horn("conical")}),
            _ => json!({"family": "tapped_horn", "inner_tap_mm": 0.1 * length, "outer_tap_mm": 0.9 * length,
                "horn": horn("conical")}),
        };
        serde_json::from_value(document).expect("a path")
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 48, rng_seed: seed(), ..ProptestConfig::default() })]

    /// Lines and horns as random as boxes: the fast path is the plain one, nothing comes out that did not go in, and the group
    /// delay carried along is the slope of the plain path's phase.
    #[test]
    fn waves_along_paths_hold_what_boxes_hold(context in context(), path in path(), f in 15.0..250.0f64) {
        let wired = path.wire(&context);
        let list = frequencies();
        let curves = Sweep::new(&wired.network, conditions(context.air)).curves(&list);
        for (i, &at) in list.iter().enumerate() {
            let reference = plain_pressure(&wired.network, &context.air, at);
            let flows = plain::solve(&wired.network, TAU * at);
            let scale = reference.norm().max((flows.cone * TAU * at * context.air.rho * 2.83 / TAU).norm());
            prop_assert!((curves.sum[i] - reference).norm() <= 1e-7 * scale, "{at} Hz");
            prop_assert!(curves.impedance[i].re >= 0.0, "{at} Hz: {}", curves.impedance[i]);
        }
        let (delay, coarse, fine) = delays(&wired.network, &context.air, f);
        prop_assume!((coarse - fine).abs() <= 2e-6 * fine.abs() + 2e-10);
        prop_assert!((delay + fine).abs() <= 1e-5 * fine.abs() + 1e-8, "{delay} {fine}");
    }
}

/// Levels on a dense grid from 1 Hz to `high` (Hz).
fn dense(wired: &oak_drum_acoustics::families::Wired, air: Air, high: f64) -> (Vec<f64>, Vec<f64>) {
    let list = oak_drum_acoustics::level::log_frequencies(1.0, high, 9000);
    let level = Sweep::new(&wired.network, conditions(air)).curves(&list).level_db;
    (list, level)
}

/// Peak, edges and band of a wired box against the dense sweep of its own curve: to 0.01 dB, and 0.1 % of the frequency.
fn edges_hold(wired: &oak_drum_acoustics::families::Wired, air: Air, fs: f64, what: &str) -> Result<(), TestCaseError> {
    let (list, level) = dense(wired, air, 5.0 * fs);
    let mut sweep = Sweep::new(&wired.network, conditions(air));
    let highest = level.iter().copied().fold(f64::MIN, f64::max);
    for reference in [Reference::Maximum, Reference::Efficiency] {
        let found = sweep.band_edges(fs, reference);
        let (peak, at) = found.peak;
        prop_assert!(highest <= peak + 0.01, "{what}: a peak of {peak} dB at {at} Hz, the dense sweep has {highest}");
        prop_assert!((sweep.curves(&[at]).level_db[0] - peak).abs() < 1e-3, "{what}: {at} Hz");
        for (drop, edge) in [10.0 * 2f64.log10(), 6.0, 10.0].into_iter().zip(found.edges) {
            let target = found.reference_db - drop;
            let low = edge.unwrap_or(1.0);
            if let Some(f) = edge {
                let there = sweep.curves(&[f]).level_db[0];
                // on a flank so steep that a millionth of the frequency is a tenth of a decibel the frequency counts
                let near = sweep.curves(&[f * 0.9995, f * 1.0005]).level_db;
                let bracketed = (near[0] - target) * (near[1] - target) <= 0.0;
                prop_assert!((there - target).abs() < 0.01 || bracketed, "{what}: {f} Hz: {there} against {target}");
            } else if peak < target {
                continue;
            }
            let under = list.iter().zip(&level).find(|(f, l)| **f > low * 1.001 && **f < at && **l < target - 0.01);
            prop_assert!(
                under.is_none(),
                "{what}: edge {edge:?} of {drop} dB, but {under:?} lies between it and {at} Hz"
            );
        }
    }
    let found = sweep.band_edges(fs, Reference::Maximum);
    if let Some(band) = sweep.band(fs, &found) {
        prop_assert_eq!(Some(band.lower), found.edges[0]);
        // as dense as the narrowest wave asks for
        let list = oak_drum_acoustics::level::log_frequencies(band.lower, band.upper, 60_000);
        let level = sweep.curves(&list).level_db;
        let target = found.peak.0 - 10.0 * 2f64.log10();
        let within: Vec<f64> = list
            .iter()
            .zip(&level)
            .filter(|(f, _)| **f > band.lower * 1.001 && **f < band.upper * 0.999)
            .map(|(_, l)| *l)
            .collect();
        let least = within.iter().copied().fold(f64::MAX, f64::min);
        prop_assert!(least >= target - 0.01, "{what}: {least} inside {band:?}");
        let upper = sweep.curves(&[band.upper]).level_db[0];
        prop_assert!((upper - target).abs() < 0.01, "{what}: {upper} at {}", band.upper);
        // a dip is one the level comes back from by a tenth of a decibel
        let dips = |back: f64| {
            let risen = |i: usize| within[i..].iter().copied().fold(f64::MIN, f64::max) > within[i] + back;
            (1..within.len().saturating_sub(1))
                .filter(|&i| within[i] < within[i - 1] && within[i] <= within[i + 1] && risen(i))
                .map(|i| found.peak.0 - within[i])
                .fold(0.0, f64::max)
        };
        let (least, most) = (dips(0.15) - 0.02, dips(0.05) + 0.02);
        prop_assert!((least..=most).contains(&band.ripple), "{what}: ripple {} in {least} to {most}", band.ripple);
    }
    Ok(())
}

fn inside() -> impl Strategy<Value = serde_json::Value> {
    (0.4..0.9f64, 0.2..0.8f64, 0.1..0.9f64, 0.1..0.9f64, prop_oneof![Just(40.0), 5.0..2000.0f64]).prop_map(
        |(height, width, up, across, q)| {
            serde_json::json!({"width_mm": width * 1e3, "height_mm": height * 2e3, "depth_mm": 500.0,
                "woofer_across_mm": across * width * 1e3, "woofer_up_mm": up * height * 2e3,
                "opening_across_mm": (1.0 - across) * width * 1e3, "opening_up_mm": 0.1 * height * 2e3, "wall_q": q})
        },
    )
}

/// The same designs in every run, so that a change is what a failure is about; `PROPTEST_RNG_SEED` tries others.
fn seed() -> RngSeed {
    let asked = std::env::var("PROPTEST_RNG_SEED").ok().and_then(|s| s.parse().ok());
    RngSeed::Fixed(asked.unwrap_or(20_261_125))
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 24, rng_seed: seed(), ..ProptestConfig::default() })]

    /// Peaks, edges and bands of every family equal a dense sweep, from its own starts.
    #[test]
    fn edges_of_every_family_equal_a_dense_sweep(context in context()) {
        for start in suggestions(&context) {
            let Some(enclosure) = start.enclosure else { continue };
            edges_hold(&enclosure.wire(&context), context.air, context.array.ts.fs, &start.id)?;
        }
    }

    /// The same of random boxes with standing waves, sharp ones too.
    #[test]
    fn edges_of_boxes_with_standing_waves_equal_a_dense_sweep(context in context(), mut enclosure in enclosure(), inside in inside()) {
        let inside = serde_json::from_value(inside).unwrap();
        match &mut enclosure {
            Enclosure::Sealed(b) => b.inside = Some(inside),
            Enclosure::Vented(b) => b.inside = Some(inside),
            other => unreachable!("{other:?}"),
        }
        edges_hold(&enclosure.wire(&context), context.air, context.array.ts.fs, "standing waves")?;
    }

    /// The same of lines and horns without losses, whose resonances are narrow.
    #[test]
    fn edges_of_lossless_paths_equal_a_dense_sweep(context in context(), length in 500.0..9000.0f64, ratio in 0.3..6.0f64, at in 0.0..0.5f64) {
        let lossless = serde_json::json!({"family": "transmission_line", "length_mm": length, "woofer_at_mm": at * length,
            "wall_losses": false, "mouth_model": "lossless",
            "profile": {"shape": "tapered", "closed_end_cm2": 300.0, "open_end_cm2": 300.0 * ratio}});
        let horn = serde_json::json!({"family": "back_horn", "horn": {"throat_cm2": 100.0, "mouth_cm2": 100.0 + 900.0 * ratio,
            "wall_losses": false, "mouth_model": "end_correction", "profile": {"shape": "exponential", "length_mm": length}}});
        for document in [lossless, horn] {
            let enclosure: Enclosure = serde_json::from_value(document).unwrap();
            edges_hold(&enclosure.wire(&context), context.air, context.array.ts.fs, "lossless path")?;
        }
    }
}
