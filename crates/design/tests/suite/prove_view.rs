//! The Prove station's answer, its parts held against the rest of the program, other families, and the places where one measures.

use oak_drum_acoustics::level::log_frequencies;
use oak_drum_curves::about::{About, Taken};
use oak_drum_curves::curve::Curve;
use oak_drum_curves::quality::CurveDoubtKind;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::prove::as_built::AsBuilt;
use oak_drum_design::prove::box_fit::{fit_box, unknowns};
use oak_drum_design::prove::causes::causes;
use oak_drum_design::prove::cures::cures;
use oak_drum_design::prove::evidence::{Evidence, fits_place, trusted_to};
use oak_drum_design::prove::predicted::{applies, face, predicted};
use oak_drum_design::prove::unknown::{Unknown, changes, varied};
use oak_drum_design::prove::view::{DRAWN, DrawnCurve, Measured, plan, prove};
use oak_drum_document::Checked;
use serde_json::{Value, json};

fn woofer() -> Value {
    json!({"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "le_mh": 1.0, "xmax_mm": 8, "power_w": 200})
}

fn design(enclosure: Value) -> Checked {
    oak_drum_document::read_value(json!({"format": "oak-drum-design", "version": 7, "name": "T", "woofer": woofer(),
        "enclosure": enclosure}))
    .unwrap()
}

fn vented() -> Checked {
    design(json!({"family": "vented", "net_volume_l": 90, "leak_q": 9,
        "port": {"section": {"shape": "round", "diameter_mm": 110}, "count": 2, "sizing": {"by": "tuning", "tuning_hz": 32}}}))
}

fn sealed() -> Checked {
    design(json!({"family": "sealed", "net_volume_l": 60, "leak_q": 15}))
}

fn radiator() -> Checked {
    design(json!({"family": "passive_radiator", "net_volume_l": 90, "leak_q": 9,
        "radiators": {"count": 1, "fs_hz": 22, "qms": 6, "vas_l": 150, "sd_cm2": 530, "added_mass_g": 60}}))
}

fn line() -> Checked {
    design(json!({"family": "transmission_line", "length_mm": 2500, "woofer_at_mm": 500,
        "profile": {"shape": "tapered", "closed_end_cm2": 800, "open_end_cm2": 500}}))
}

fn noisy(clean: &Curve, noise: f64, seed: u64) -> Curve {
    let mut random = fastrand::Rng::with_seed(seed);
    let mut gauss = || (0..12).map(|_| random.f64()).sum::<f64>() - 6.0;
    let value =
        clean.value.iter().map(|z| z + num_complex::Complex64::new(gauss(), gauss()) * noise * z.norm()).collect();
    Curve { value, ..clean.clone() }
}

fn about(name: &str, taken: Taken) -> About {
    About { name: name.into(), taken, ..About::default() }
}

/// What is predicted near cone and port is what the lanes show there.
#[test]
fn near_fields_are_those_of_the_lanes() {
    let whole = Analysis::of(&vented());
    let result = oak_drum_design::outline(&vented().at(vec![20.0, 32.0, 60.0]));
    let cone = predicted(&whole, &Taken::NearCone {}, false, &[20.0, 32.0, 60.0]).unwrap();
    for (is, should) in cone.magnitude().iter().zip(&result.curves.near_field_cone_db) {
        assert!((is - should).abs() < 1e-6, "cone: {is} against {should}");
    }
    let port = predicted(&whole, &Taken::NearPort {}, false, &[20.0, 32.0, 60.0]).unwrap();
    let shown = result.curves.openings.iter().find(|o| !o.near_field_db.is_empty()).unwrap();
    for (is, should) in port.magnitude().iter().zip(&shown.near_field_db) {
        assert!((is - should).abs() < 1e-6, "port: {is} against {should}");
    }
    let front = predicted(&whole, &Taken::InFront { distance_m: 2.0 }, false, &[20.0, 32.0, 60.0]).unwrap();
    for (is, should) in front.magnitude().iter().zip(&result.curves.level_db) {
        assert!((is + 20.0 * 2f64.log10() - should).abs() < 1e-6, "twice the distance: {is} against {should}");
    }
    let ohms = predicted(&whole, &Taken::InBox {}, false, &[20.0, 32.0, 60.0]).unwrap();
    for (is, should) in ohms.magnitude().iter().zip(&result.curves.impedance_ohm) {
        assert!((is / should - 1.0).abs() < 1e-9);
    }
}

/// The woofer alone: in free air, with a mass, on a box, each at its own resonance.
#[test]
fn the_woofer_alone_resonates_where_it_should() {
    let whole = Analysis::of(&vented());
    let mms = whole.context.array.ts.mms(&whole.context.air);
    let peak = |taken: Taken| {
        let frequencies = log_frequencies(10.0, 120.0, 3000);
        let curve = predicted(&whole, &taken, false, &frequencies).unwrap().magnitude();
        let top = (0..curve.len()).max_by(|a, b| curve[*a].total_cmp(&curve[*b])).unwrap();
        frequencies[top]
    };
    let near = |is: f64, should: f64| assert!((is / should - 1.0).abs() < 0.01, "{is} against {should}");
    near(peak(Taken::FreeAir {}), 30.0);
    near(peak(Taken::AddedMass { mass_g: mms * 1e3 }), 30.0 / 2f64.sqrt());
    near(peak(Taken::KnownBox { volume_l: 60.0 }), 30.0 * 3f64.sqrt());
}

/// Filters are divided out of what was measured without them, where there are any.
#[test]
fn filters_are_left_out_unless_they_were_there() {
    let mut document = serde_json::to_value(vented()).unwrap();
    document["chain"] = json!({"filters": [{"stage": "line",
        "filter": {"kind": "high_pass", "frequency_hz": 40, "slope": {"shape": "butterworth", "order": 4}}}]});
    let filtered = Analysis::of(&oak_drum_document::read_value(document).unwrap());
    let plain = Analysis::of(&vented());
    let at = |analysis: &Analysis, through: bool| {
        predicted(analysis, &Taken::NearCone {}, through, &[25.0, 40.0, 100.0]).unwrap().magnitude()
    };
    for (a, b) in at(&filtered, false).iter().zip(at(&plain, false)) {
        assert!((a - b).abs() < 1e-6, "{a} against {b}");
    }
    let through = at(&filtered, true);
    assert!((through[1] - at(&plain, false)[1] + 3.0103).abs() < 1e-3, "3 dB down at its corner");
}

/// What can be measured at which family.
#[test]
fn places_are_those_a_family_has() {
    let has = |design: &Checked, taken: Taken| applies(&Analysis::of(design), &taken);
    assert!(has(&vented(), Taken::NearPort {}) && !has(&vented(), Taken::NearRadiator {}));
    assert!(has(&radiator(), Taken::NearRadiator {}) && !has(&radiator(), Taken::NearPort {}));
    assert!(!has(&sealed(), Taken::NearPort {}) && has(&sealed(), Taken::NearCone {}));
    let port = face(&Analysis::of(&vented()), &Taken::NearPort {}).unwrap();
    assert_eq!(port.count, 2);
    assert!((port.area / (std::f64::consts::PI * 0.055 * 0.055) - 1.0).abs() < 1e-9, "one of the two: {}", port.area);
    let level = Curve::of_level(vec![10.0, 20.0], &[80.0, 80.0], None);
    assert!(fits_place(&level, &Taken::AtSeat {}) && !fits_place(&level, &Taken::InBox {}));
}

/// A sealed box, passive radiators and a line are fitted in what their impedance tells.
#[test]
fn every_kind_is_fitted_in_what_its_impedance_tells() {
    let frequencies = log_frequencies(6.0, 200.0, 160);
    for (design, truth) in [
        (sealed(), vec![(Unknown::Volume, 0.88), (Unknown::Leak, 4.0)]),
        (radiator(), vec![(Unknown::RadiatorMass, 1.15), (Unknown::Leak, 6.0)]),
        (line(), vec![(Unknown::Path, 1.06)]),
    ] {
        let built = AsBuilt::of(&design).unwrap();
        assert_eq!(unknowns(&built, false), truth.iter().map(|t| t.0).collect::<Vec<_>>());
        let there = varied(&built, &truth).unwrap();
        let clean = predicted(&there, &Taken::InBox {}, false, &frequencies).unwrap();
        let evidence = Evidence::of(&built.analysis, "z", Taken::InBox {}, noisy(&clean, 0.002, 4), Some((0.0, 150.0)));
        let found = fit_box(&built, &evidence, false).unwrap();
        for ((unknown, value), (_, wanted)) in found.values.iter().zip(&truth) {
            assert!((value / wanted - 1.0).abs() < 0.02, "{unknown:?}: {value} against {wanted}");
        }
        let why = causes(&built, std::slice::from_ref(&evidence)).unwrap();
        assert!(why.together_rms_db < why.rms_db / 4.0, "{why:?}");
        let offered = cures(&design, &built, &found.values);
        assert!(offered.iter().any(|c| c.id == "keep"), "{offered:?}");
        if truth[0].0 == Unknown::RadiatorMass {
            // heavier than reckoned: something comes off
            assert!(offered[0].title.metric().starts_with("Take"), "{:?}", offered[0]);
        }
    }
}

/// With the woofer in the fit, a woofer that is not the sheet's is told apart from the box.
#[test]
fn box_and_woofer_are_fitted_together() {
    let built = AsBuilt::of(&sealed()).unwrap();
    let truth = [(Unknown::Leak, 8.0), (Unknown::MovingMass, 1.1), (Unknown::CoilResistance, 0.96)];
    let there = varied(&built, &truth).unwrap();
    let clean = predicted(&there, &Taken::InBox {}, false, &log_frequencies(5.0, 300.0, 200)).unwrap();
    let evidence = Evidence::of(&built.analysis, "z", Taken::InBox {}, noisy(&clean, 0.001, 8), None);
    let alone = fit_box(&built, &evidence, false).unwrap();
    // volume and suspension are both springs here: the box is held in what the impedance can tell of it
    let list = [Unknown::Leak, Unknown::MovingMass, Unknown::CoilResistance];
    let fitted = oak_drum_design::prove::box_fit::fit_values(&built, &[evidence], &list).unwrap();
    for (i, (unknown, wanted)) in truth.iter().enumerate() {
        assert!((fitted.values[i] / wanted - 1.0).abs() < 0.02, "{unknown:?}: {}", fitted.values[i]);
    }
    assert!(alone.rms > 5.0 * (fitted.rss / 400.0).sqrt(), "with the sheet's woofer more is left over");
    assert!(unknowns(&built, true).len() > unknowns(&built, false).len() + 3);
}

/// Noise, the band and the ends of a near field decide what takes part.
#[test]
fn only_what_may_be_trusted_takes_part() {
    let built = AsBuilt::of(&vented()).unwrap();
    let frequencies = log_frequencies(5.0, 800.0, 300);
    let mut port = predicted(&built.analysis, &Taken::NearPort {}, false, &frequencies).unwrap();
    port.snr_db = frequencies.iter().map(|f| if *f < 25.0 { 2.0 } else { 40.0 }).collect();
    let evidence = Evidence::of(&built.analysis, "port", Taken::NearPort {}, port.clone(), None);
    let (low, high) = (evidence.fitted.frequency[0], *evidence.fitted.frequency.last().unwrap());
    assert!(low >= 25.0, "noise takes no part: {low}");
    let top = port.value.iter().map(|v| v.norm()).fold(0.0, f64::max);
    let least = evidence.fitted.value.iter().map(|v| v.norm()).fold(f64::MAX, f64::min);
    assert!(least > top * 0.31, "within 10 dB of its top");
    assert!(high <= trusted_to(&built.analysis, &Taken::NearPort {}));
    assert!(trusted_to(&built.analysis, &Taken::InBox {}) < 343.2 / (2.0 * 0.4));
    assert!(evidence.fitted.len() <= 160);
}

/// One answer for everything laid on: predicted, deviation, doubts, what is not comparable, why, what to do with what comes of it.
#[test]
fn the_answer_holds_together() {
    let design = vented();
    let built = AsBuilt::of(&design).unwrap();
    let there = varied(&built, &[(Unknown::Port, 1.08)]).unwrap();
    let frequencies = log_frequencies(6.0, 500.0, 250);
    let impedance = noisy(&predicted(&there, &Taken::InBox {}, false, &frequencies).unwrap(), 0.002, 3);
    let cone = predicted(&there, &Taken::NearCone {}, false, &frequencies).unwrap().mapped(|_, v| v * 0.5);
    let list = [
        Measured { id: "1".into(), about: about("Terminals", Taken::InBox {}), curve: impedance.clone() },
        Measured { id: "2".into(), about: about("Cone", Taken::NearCone {}), curve: cone },
        Measured { id: "3".into(), about: about("Radiator", Taken::NearRadiator {}), curve: impedance.clone() },
        Measured { id: "4".into(), about: about("Wrong place", Taken::AtSeat {}), curve: impedance },
    ];
    let proof = prove(&design, &list, None, false).unwrap();
    assert_eq!(proof.measured.iter().map(|m| m.id.as_str()).collect::<Vec<_>>(), ["1", "2", "3", "4"]);
    let near = proof.measured[1].deviation.unwrap();
    // half of it, taken at 1 V where the design is told at 2.83 V
    assert!(
        (near.offset_db + 6.02 + 20.0 * 2.83f64.log10()).abs() < 0.5,
        "a level that is not absolute is moved: {near:?}"
    );
    assert!(proof.measured[0].deviation.unwrap().rms_db > 0.5);
    for (i, words) in [(2, "an impedance"), (3, "an impedance")] {
        assert!(proof.measured[i].predicted.is_none());
        assert!(proof.measured[i].sentence.metric().contains(words), "{}", proof.measured[i].sentence.metric());
    }
    let why = proof.causes.as_ref().unwrap();
    assert_eq!(why.together[0].unknown, Unknown::Port, "{why:?}");
    let cut = proof.cures.iter().find(|c| c.cure.title.metric().starts_with("Cut")).unwrap();
    assert_eq!(cut.then.len(), list.len());
    assert!(cut.then[0].is_some() && cut.then[2].is_none());
    let fitted = proof.fitted_box.unwrap();
    assert_eq!(fitted.id, "1", "it was fitted to the impedance at the terminals");
    let tuning = fitted.figures.iter().position(|f| f.id == "fb_hz").unwrap();
    assert!((fitted.expected[tuning].unwrap() - 32.0).abs() < 0.01 && fitted.figures[tuning].value < 31.5);
    // in inches the same is said in inches
    assert!(why.sentence.said(oak_drum_text::System::Inch).contains(" in longer"), "{}", why.sentence.metric());
    assert!(why.sentence.metric().contains(" mm longer"));
    // a band of one's own
    let narrow = prove(&design, &list[..1], Some((20.0, 40.0)), false).unwrap();
    let d = narrow.measured[0].deviation.unwrap();
    assert!(d.from_hz >= 20.0 && d.to_hz <= 40.0);
    let none = prove(&design, &[], None, false).unwrap();
    assert!(none.causes.is_none() && none.cures.is_empty() && none.fitted_box.is_none());
}

/// An absolute level keeps its offset: a microphone that reads 3 dB too much is not explained away.
#[test]
fn an_absolute_level_keeps_its_offset() {
    let design = sealed();
    let built = AsBuilt::of(&design).unwrap();
    let frequencies = log_frequencies(20.0, 200.0, 100);
    let curve = predicted(&built.analysis, &Taken::NearCone {}, false, &frequencies).unwrap();
    let loud = curve.mapped(|_, v| v * 2.83 * 10f64.powf(3.0 / 20.0));
    let about = About { absolute: true, volts: Some(2.83), ..about("Cone", Taken::NearCone {}) };
    let told = prove(&design, &[Measured { id: "1".into(), about, curve: loud }], None, false).unwrap();
    let d = told.measured[0].deviation.unwrap();
    assert!((d.offset_db - 3.0).abs() < 0.01 && d.rms_db < 0.01, "{d:?}");
    assert!(told.measured[0].sentence.metric().starts_with("3.0 dB rms"), "{}", told.measured[0].sentence.metric());
}

#[test]
fn curves_are_thinned_to_be_drawn() {
    let f: Vec<f64> = (1..5000).map(f64::from).collect();
    let mut curve = Curve::of_level(f.clone(), &vec![80.123456; 4999], Some(&vec![0.5; 4999]));
    curve.snr_db = vec![30.0; 4999];
    let drawn = DrawnCurve::of(&curve);
    assert!(drawn.frequency_hz.len() <= DRAWN && drawn.frequency_hz.len() == drawn.magnitude.len());
    assert_eq!(drawn.magnitude[7], 80.1235);
    assert_eq!(drawn.snr_db.unwrap().len(), drawn.frequency_hz.len());
    assert_eq!(drawn.phase_deg.unwrap()[3], 28.6479);
}

/// Where, with what, how loud: each place a design has, with steps; cautions always.
#[test]
fn the_plan_names_places_steps_and_cautions() {
    for (design, count) in [(vented(), 8), (sealed(), 7), (radiator(), 8)] {
        let made = plan(&design);
        assert_eq!(made.places.len(), count, "{:?}", made.places.iter().map(|p| &p.title).collect::<Vec<_>>());
        assert_eq!(made.places[0].taken, Taken::InBox {}, "the impedance comes first");
        assert!(made.places.iter().all(|p| !p.steps.is_empty() && !p.tells.is_empty()));
        assert!(made.safe_volts > 0.5 && made.safe_volts <= 5.0);
        let cautions: String = made.cautions.iter().map(|c| c.metric()).collect();
        assert!(cautions.contains("Ears") && cautions.contains("Mains"));
        let cone = made.places.iter().find(|p| p.taken == Taken::NearCone {}).unwrap();
        assert!(cone.steps[0].said(oak_drum_text::System::Inch).contains(" in from"), "{}", cone.steps[0].metric());
    }
}

#[test]
fn what_cannot_be_is_no_design() {
    let built = AsBuilt::of(&vented()).unwrap();
    assert!(changes(&built, &[(Unknown::Port, 0.01)]).is_none(), "a port shorter than nothing");
    assert!(varied(&built, &[(Unknown::Volume, f64::NAN)]).is_none());
    assert!(changes(&built, &[(Unknown::RadiatorMass, 1.1)]).is_none(), "there is none");
    assert!(Unknown::Fill.start(&built).is_none() && Unknown::Path.start(&built).is_none());
    let level = Curve::of_impedance(vec![10.0, 20.0, 30.0], &[8.0, 9.0, 8.0], None);
    let few = Evidence::of(&built.analysis, "z", Taken::InBox {}, level, None);
    assert!(fit_box(&built, &few, false).unwrap_err().to_string().contains("too few points"));
    let mute = oak_drum_curves::quality::doubts(&few.whole, &Taken::InBox {}, None, &built.analysis.context.air);
    assert!(mute.iter().any(|d| d.kind == CurveDoubtKind::NoPhase));
}
