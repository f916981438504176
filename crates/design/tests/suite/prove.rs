//! Measured against predicted: fits against check values computed outside this program, and hidden cabinets found by measuring them.

use oak_drum_acoustics::level::log_frequencies;
use oak_drum_curves::about::Taken;
use oak_drum_curves::curve::Curve;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::prove::as_built::AsBuilt;
use oak_drum_design::prove::bench::{BenchWish, calibration, play, safe_volts, taken_apart};
use oak_drum_design::prove::box_fit::{fit_box, fit_values};
use oak_drum_design::prove::causes::causes;
use oak_drum_design::prove::comparison::deviation;
use oak_drum_design::prove::cures::{changed, cures};
use oak_drum_design::prove::evidence::Evidence;
use oak_drum_design::prove::hidden::{Difficulty, Flaw, drawn, flawed};
use oak_drum_design::prove::predicted::predicted;
use oak_drum_design::prove::ripples::ripples;
use oak_drum_design::prove::unknown::{UNKNOWNS, Unknown, varied};
use oak_drum_document::Checked;
use serde_json::{Value, json};

/// The worked driver in 90 L at 32 Hz.
fn vented() -> Value {
    json!({"format": "oak-drum-design", "version": 7, "name": "V",
        "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "le_mh": 1.0, "xmax_mm": 8, "power_w": 200},
        "enclosure": {"family": "vented", "net_volume_l": 90, "leak_q": 7,
            "port": {"section": {"shape": "round", "diameter_mm": 123.6}, "count": 1, "sizing": {"by": "tuning", "tuning_hz": 32},
                "inner_end": {"kind": "free"}, "outer_end": {"kind": "flanged"}, "walls_alongside": 0, "wall_mm": 4}},
        "air": {"kind": "given", "speed_of_sound_m_per_s": 343.2, "density_kg_per_m3": 1.2041}})
}

fn read(value: Value) -> Checked {
    oak_drum_document::read_value(value).unwrap()
}

fn gauss(random: &mut fastrand::Rng) -> f64 {
    (0..12).map(|_| random.f64()).sum::<f64>() - 6.0
}

/// The impedance of a model with noise on each part.
fn noisy(model: &Analysis, frequencies: &[f64], noise: f64, seed: u64) -> Curve {
    let mut random = fastrand::Rng::with_seed(seed);
    let clean = predicted(model, &Taken::InBox {}, false, frequencies).unwrap();
    let value = clean
        .value
        .iter()
        .map(|z| z + num_complex::Complex64::new(gauss(&mut random), gauss(&mut random)) * noise * z.norm())
        .collect();
    Curve { value, ..clean }
}

/// 200 points from 5 to 500 Hz with 0.5 % of noise on each part, the woofer known: standard deviations 0.04526, 0.01703 and 0.26384 %
/// of volume, tuning and QL, peaks and dip at 18.0843, 31.6208 and 53.0830 Hz, computed outside this program with a lumped port.
#[test]
fn the_box_is_fitted_with_its_ranges() {
    let mut document = vented();
    document["enclosure"]["port"]["model"] = json!({"kind": "mass"});
    let Ok(design) = oak_drum_document::read_value(document) else { panic!("no lumped port") };
    let built = AsBuilt::of(&design).unwrap();
    let frequencies = log_frequencies(5.0, 500.0, 200);
    let curve = noisy(&built.analysis, &frequencies, 0.005, 3);
    let evidence = Evidence::of(&built.analysis, "impedance", Taken::InBox {}, curve, Some((0.0, 1000.0)));
    let mut whole = evidence.clone();
    whole.fitted = whole.whole.clone();
    let found = fit_box(&built, &whole, false).unwrap();
    let figure = |id: &str| found.figures.iter().find(|f| f.id == id).unwrap();
    let s = found.rms / 2f64.sqrt();
    for (id, truth, sigma) in [("net_volume_l", 90.0, 0.04526), ("fb_hz", 32.0, 0.01703), ("leak_q", 7.0, 0.26384)] {
        let figure = figure(id);
        let scaled = figure.sigma * 0.005 / s * 100.0;
        assert!((scaled / sigma - 1.0).abs() < 0.05, "{id}: {scaled} against {sigma}");
        assert!((figure.value / truth).ln().abs() < 4.0 * figure.sigma, "{id}: {}", figure.value);
    }
    for (turn, hz) in found.expected_turns.iter().zip([18.0843, 31.6208, 53.0830]) {
        assert!((turn.frequency_hz / hz - 1.0).abs() < 2e-4, "{turn:?} against {hz}");
    }
    assert!(found.remarks.iter().any(|r| r.metric().contains("QL is 7")), "{:?}", found.remarks);
}

/// Each thing that could be off is found again from the impedance it makes, by itself and among the others.
#[test]
fn what_is_off_is_named() {
    let design = read(vented());
    let built = AsBuilt::of(&design).unwrap();
    let frequencies = log_frequencies(6.0, 300.0, 150);
    for (unknown, value) in
        [(Unknown::Port, 1.12), (Unknown::Volume, 0.9), (Unknown::Leak, 2.5), (Unknown::Suspension, 0.8)]
    {
        let truth = varied(&built, &[(unknown, value)]).unwrap();
        let curve = noisy(&truth, &frequencies, 0.003, 5);
        let evidence = [Evidence::of(&built.analysis, "impedance", Taken::InBox {}, curve, None)];
        let found = causes(&built, &evidence).unwrap();
        let first = &found.each[0];
        assert_eq!(first.unknown, unknown, "{:?}", found.each);
        assert!((first.value / value - 1.0).abs() < 0.03, "{unknown:?}: {} against {value}", first.value);
        assert!(first.low <= value * 1.001 && first.high >= value * 0.999, "{first:?}");
        assert!(found.undecided.is_empty(), "an impedance tells these apart: {:?}", found.undecided);
        assert_eq!(found.together.len(), 1, "{:?}", found.together);
        assert!(found.rms_db > 5.0 * found.together_rms_db, "{found:?}");
    }
}

/// A near field of the cone cannot tell a larger box from a longer port as an impedance can; two off at once are told together.
#[test]
fn what_cannot_be_told_apart_is_said() {
    let design = read(vented());
    let built = AsBuilt::of(&design).unwrap();
    let frequencies = log_frequencies(12.0, 200.0, 120);
    let truth = varied(&built, &[(Unknown::Port, 1.06)]).unwrap();
    let near = predicted(&truth, &Taken::NearPort {}, false, &frequencies).unwrap();
    let mut random = fastrand::Rng::with_seed(8);
    let near = near.mapped(|_, v| v * 1.7);
    let near = Curve { value: near.value.iter().map(|v| v * (1.0 + 0.06 * gauss(&mut random))).collect(), ..near };
    let evidence = [Evidence::of(&built.analysis, "port", Taken::NearPort {}, near, Some((20.0, 60.0)))];
    let found = causes(&built, &evidence).unwrap();
    assert!(!found.undecided.is_empty(), "{:?}", found.each);
    let said = found.undecided[0].metric();
    assert!(said.contains("would tell"), "{said}");

    let truth = varied(&built, &[(Unknown::Volume, 0.93), (Unknown::Leak, 3.0)]).unwrap();
    let curve = noisy(&truth, &log_frequencies(6.0, 300.0, 150), 0.003, 9);
    let evidence = [Evidence::of(&built.analysis, "impedance", Taken::InBox {}, curve, None)];
    let found = causes(&built, &evidence).unwrap();
    let value = |u: Unknown| found.together.iter().find(|c| c.unknown == u).map(|c| c.value);
    assert!((value(Unknown::Volume).unwrap() / 0.93 - 1.0).abs() < 0.02, "{:?}", found.together);
    assert!((value(Unknown::Leak).unwrap() / 3.0 - 1.0).abs() < 0.1, "{:?}", found.together);

    let unrelated = Curve::of_impedance(log_frequencies(6.0, 300.0, 100), &vec![7.0; 100], None);
    let evidence = [Evidence::of(&built.analysis, "resistor", Taken::InBox {}, unrelated, None)];
    assert!(fit_box(&built, &evidence[0], false).is_err(), "a resistor is no box");
}

/// Six figures fitted at once keep their ranges about the truth.
#[test]
fn six_at_once() {
    let design = read(vented());
    let built = AsBuilt::of(&design).unwrap();
    let set = [
        (Unknown::Volume, 0.95),
        (Unknown::Port, 1.05),
        (Unknown::Leak, 5.0),
        (Unknown::Suspension, 0.9),
        (Unknown::MovingMass, 1.04),
        (Unknown::Motor, 0.97),
    ];
    let truth = varied(&built, &set).unwrap();
    let curve = noisy(&truth, &log_frequencies(5.0, 300.0, 160), 0.002, 4);
    let evidence = [Evidence::of(&built.analysis, "impedance", Taken::InBox {}, curve, None)];
    let unknowns: Vec<Unknown> = set.iter().map(|s| s.0).collect();
    let fitted = fit_values(&built, &evidence, &unknowns).unwrap();
    for (i, (unknown, value)) in set.iter().enumerate() {
        let off = (fitted.values[i] / value).ln().abs();
        assert!(off < 4.0 * fitted.sigma(i) + 1e-3, "{unknown:?}: {} against {value}", fitted.values[i]);
    }
}

/// A trim that is taken brings the tuning back, in the model of the box as it is.
#[test]
fn a_cure_brings_the_tuning_back() {
    let design = read(vented());
    let built = AsBuilt::of(&design).unwrap();
    let acting = built.port_lengths(0).unwrap().1;
    let found = [(Unknown::Port, 1.0 + 0.014 / acting)];
    let list = cures(&design, &built, &found);
    let cut = list.iter().find(|c| c.title.metric().starts_with("Cut")).unwrap();
    // 14 mm more than reckoned: about as much is cut off
    assert!(cut.title.metric().contains("14 mm"), "{}", cut.title.metric());
    let after = Analysis::of(&changed(&design, &cut.changes).unwrap());
    assert!((after.wired.ports[0].realised.tuning - 32.0).abs() < 0.05);
    let keep = list.iter().find(|c| c.id == "keep").unwrap();
    let kept = Analysis::of(&changed(&design, &keep.changes).unwrap());
    let measured = varied(&built, &found).unwrap();
    let tuning = |a: &Analysis| a.wired.ports[0].realised.tuning;
    assert!((tuning(&kept) - tuning(&measured)).abs() < 0.05, "{} {}", tuning(&kept), tuning(&measured));
    let leaky = cures(&design, &built, &[(Unknown::Leak, 2.0)]);
    assert_eq!(leaky[0].id, "leak");
    assert!(leaky[0].changes.is_empty() && leaky[0].sentence.metric().contains("mm²"), "{:?}", leaky[0]);
}

/// The whole road: a cabinet with a hidden flaw on the bench, its samples taken apart, the flaw found.
#[test]
fn a_hidden_flaw_is_found_from_samples() {
    let design = read(vented());
    let built = AsBuilt::of(&design).unwrap();
    let wish = BenchWish { taken: Taken::InBox {}, ..BenchWish::default() };
    let loads = calibration(&wish).unwrap();
    for (flaw, unknown, value) in [
        (Flaw::Leak { q: 2.6 }, Unknown::Leak, 2.6),
        (Flaw::Volume { percent: -8.0 }, Unknown::Volume, 0.92),
        (Flaw::Suspension { fs_percent: 9.0 }, Unknown::Suspension, 1.09f64.powi(-2)),
    ] {
        let cabinet = flawed(&built, &[flaw]).unwrap();
        let recorded = play(&cabinet, &[flaw], &wish).unwrap();
        let taking = taken_apart(&recorded, &wish, Some(&loads)).unwrap();
        let evidence = [Evidence::of(&built.analysis, "impedance", wish.taken, taking.curve, None)];
        let found = causes(&built, &evidence).unwrap();
        assert_eq!(found.each[0].unknown, unknown, "{flaw:?}: {:?}", found.each);
        assert!((found.each[0].value / value - 1.0).abs() < 0.08, "{flaw:?}: {}", found.each[0].value);
    }
}

/// Near fields from the bench: level absolute, cone and port as the model has them where one does not drown in the other.
#[test]
fn near_fields_from_samples() {
    let design = read(vented());
    let built = AsBuilt::of(&design).unwrap();
    for taken in [Taken::NearCone {}, Taken::NearPort {}, Taken::InFront { distance_m: 2.0 }] {
        let wish = BenchWish { taken, volts: Some(2.0), ..BenchWish::default() };
        let recorded = play(&built.analysis, &[], &wish).unwrap();
        let taking = taken_apart(&recorded, &wish, None).unwrap();
        let said = predicted(&built.analysis, &taken, false, &taking.curve.frequency).unwrap().mapped(|_, v| v * 2.0);
        let (from, to) = if matches!(taken, Taken::NearPort {}) { (25.0, 60.0) } else { (60.0, 300.0) };
        let d = deviation(&taking.curve, &said, from, to).unwrap();
        assert!(d.rms_with_offset_db < 1.0, "{taken:?}: {d:?}");
        assert!(taking.impulse.is_some() && taking.buzzes.is_empty());
    }
    let wish = BenchWish { taken: Taken::NearRadiator {}, ..BenchWish::default() };
    assert!(play(&built.analysis, &[], &wish).is_err(), "there is no passive radiator");
    let buzz = [Flaw::Buzz { at_hz: 70.0 }];
    let wish = BenchWish { taken: Taken::NearCone {}, volts: Some(4.0), ..BenchWish::default() };
    let taking = taken_apart(&play(&built.analysis, &buzz, &wish).unwrap(), &wish, None).unwrap();
    assert!(taking.buzzes.iter().any(|b| b.from_hz < 75.0 && b.to_hz > 65.0), "{:?}", taking.buzzes);
}

#[test]
fn practice_draws_what_can_be_found() {
    let built = AsBuilt::of(&read(vented())).unwrap();
    let mut kinds = std::collections::BTreeSet::new();
    for seed in 0..60 {
        for (difficulty, count) in [(Difficulty::Plain, 1), (Difficulty::Mixed, 2), (Difficulty::Hard, 3)] {
            let flaws = drawn(&built, seed, difficulty);
            assert_eq!(flaws.len(), count);
            assert_eq!(flaws, drawn(&built, seed, difficulty), "the same seed draws the same");
            assert!(flawed(&built, &flaws).is_some(), "{flaws:?}");
            kinds.extend(flaws.iter().map(|f| f.title()));
        }
    }
    assert_eq!(kinds.len(), 6, "{kinds:?}");
    let sealed = read(json!({"format": "oak-drum-design", "version": 7, "woofer": vented()["woofer"],
        "enclosure": {"family": "sealed", "net_volume_l": 60}}));
    let built = AsBuilt::of(&sealed).unwrap();
    assert!((0..40).all(|s| !drawn(&built, s, Difficulty::Hard).iter().any(|f| matches!(f, Flaw::Port { .. }))));
}

/// Freezing changes nothing that is measured, in every family; each unknown of a family moves its impedance.
#[test]
fn every_family_can_be_frozen_and_varied() {
    let mut families = std::collections::BTreeSet::new();
    let frequencies = log_frequencies(10.0, 150.0, 40);
    for (_, design) in crate::remedies::demo() {
        let whole = Analysis::of(&design);
        let Some(built) = AsBuilt::of(&design) else { panic!("{} cannot be frozen", design.name) };
        let a = predicted(&whole, &Taken::InBox {}, false, &frequencies).unwrap();
        let b = predicted(&built.analysis, &Taken::InBox {}, false, &frequencies).unwrap();
        for (x, y) in a.value.iter().zip(&b.value) {
            assert!((x / y - 1.0).norm() < 0.02, "{}: {x} against {y}", design.name);
        }
        families.insert(design.enclosure.info().id);
        for unknown in UNKNOWNS {
            let Some(start) = unknown.start(&built) else { continue };
            let there = varied(&built, &[(unknown, start * 1.1)]);
            let Some(there) = there else { panic!("{}: {unknown:?}", design.name) };
            let c = predicted(&there, &Taken::InBox {}, false, &frequencies).unwrap();
            let most = b.value.iter().zip(&c.value).map(|(x, y)| (x / y - 1.0).norm()).fold(0.0, f64::max);
            // a leak that is not stated is next to none
            assert!(most > 1e-5, "{} {unknown:?} changes nothing: {most}", design.name);
        }
    }
    assert!(families.len() >= 3, "{families:?}");
}

/// Bumps put into an impedance where a side of the inside fits half a wave are named by that side; noise is not.
#[test]
fn standing_waves_are_named_by_their_side() {
    let mut document = vented();
    document["enclosure"]["inside"] = json!({"width_mm": 360, "height_mm": 620, "depth_mm": 420, "woofer_across_mm": 180,
        "woofer_up_mm": 400, "opening_across_mm": 180, "opening_up_mm": 90});
    let with = AsBuilt::of(&read(document)).unwrap();
    let without = AsBuilt::of(&read(vented())).unwrap();
    let frequencies = log_frequencies(6.0, 450.0, 500);
    let measured = noisy(&with.analysis, &frequencies, 2e-4, 6);
    let fitted = predicted(&without.analysis, &Taken::InBox {}, false, &frequencies).unwrap();
    let list = ripples(&with.analysis, &measured, &fitted, 120.0);
    let height = list.iter().find(|r| (r.frequency_hz / (343.2 / 1.24) - 1.0).abs() < 0.04);
    assert!(height.is_some_and(|r| r.sentence.metric().contains("height")), "{list:?}");
    let plain = noisy(&without.analysis, &frequencies, 2e-3, 6);
    assert!(ripples(&with.analysis, &plain, &fitted, 120.0).is_empty());
}

#[test]
fn the_safe_level_keeps_the_cone_within_half_its_way() {
    let analysis = Analysis::of(&read(vented()));
    let (volts, what) = safe_volts(&analysis, 5.0, 500.0);
    assert_eq!(what, "half of the cone's excursion");
    // toward 0 Hz the worked driver moves 1.194474 mm peak per volt in any vented box
    assert!((volts - 4.0 / 1.194474).abs() < 0.2, "{volts}");
}
