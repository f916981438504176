//! A woofer measured on the bench, fitted, and held against the sheet of its design. The worked driver's figures are those the bench is
//! made from; f3 and level of a design are checked elsewhere (physics of each family), here that the right ones are compared.

use approx::assert_relative_eq;
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_curves::about::Taken;
use oak_drum_curves::curve::Curve;
use oak_drum_curves::fit::woofer::NoFit;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::prove::predicted::predicted;
use oak_drum_design::prove::woofer_fit::{Impedances, WooferWish, woofer_proof};
use oak_drum_document::{Checked, apply, read_value};
use serde_json::{Value, json};

fn document(woofer: &Value) -> Value {
    json!({"format": "oak-drum-design", "version": oak_drum_document::VERSION, "name": "W", "woofer": woofer,
        "enclosure": {"family": "sealed", "net_volume_l": 60}})
}

fn sheet() -> Value {
    json!({"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "le_mh": 1.0, "xmax_mm": 8})
}

fn read(woofer: &Value) -> Checked {
    read_value(document(woofer)).unwrap()
}

/// What the woofer of a design shows, with half a per cent of noise.
fn measured(design: &Checked, taken: Taken, seed: u64) -> Curve {
    let mut random = fastrand::Rng::with_seed(seed);
    let clean = predicted(&Analysis::of(design), &taken, false, &log_frequencies(8.0, 800.0, 160)).unwrap();
    let mut one = || (0..12).map(|_| random.f64()).sum::<f64>() - 6.0;
    let value = clean.value.iter().map(|z| z + num_complex::Complex64::new(one(), one()) * 0.005 * z.norm()).collect();
    Curve { value, ..clean }
}

#[test]
fn a_woofer_off_its_sheet_is_found_and_its_figures_taken_over() {
    let designed = read(&sheet());
    // a stiffer suspension and a weaker motor, the same cone
    let mut true_sheet = sheet();
    for (name, value) in [("fs_hz", 34.0), ("qes", 0.47), ("qms", 4.2), ("vas_l", 120.0 * (30.0f64 / 34.0).powi(2))] {
        true_sheet[name] = json!(value);
    }
    let there = read(&true_sheet);
    let free = measured(&there, Taken::FreeAir {}, 1);
    let mass = measured(&there, Taken::AddedMass { mass_g: 60.0 }, 2);
    let curves = Impedances { free: &free, mass: Some((&mass, 60.0)), boxed: None, other: None };
    let proof = woofer_proof(&designed, &curves, &WooferWish::default()).unwrap();
    for (id, truth) in [("fs_hz", 34.0), ("qes", 0.47), ("qms", 4.2), ("re_ohm", 5.6), ("vas_l", 93.426)] {
        let i = proof.figures.iter().position(|f| f.id == id).unwrap();
        let figure = &proof.figures[i];
        assert!((figure.low..=figure.high).contains(&truth), "{figure:?} against {truth}");
        assert_relative_eq!(figure.value, truth, max_relative = 0.03);
        assert!(proof.planned[i].is_some());
    }
    assert_relative_eq!(proof.planned[0].unwrap(), 30.0, max_relative = 1e-9);
    assert!(proof.left_percent < 1.5, "{}", proof.left_percent);
    assert_eq!(proof.curves.len(), 2);
    assert_eq!(proof.curves[0].left_percent.len(), proof.curves[0].fitted.magnitude.len());

    // taken over the design says what the true one says; name, limits and size stay
    let mut taken = document(&sheet());
    apply(&mut taken, &proof.changes);
    assert_eq!(taken["woofer"]["xmax_mm"], 8);
    let taken = read_value(taken).unwrap();
    let (a, b) = (Analysis::of(&taken), Analysis::of(&there));
    let (f3, truth) = (a.edges().edges[0].unwrap(), b.edges().edges[0].unwrap());
    assert_relative_eq!(f3, truth, max_relative = 0.02);
    let effect = proof.effect.unwrap();
    assert_relative_eq!(effect.f3_hz.unwrap(), f3, max_relative = 1e-3);
    assert_relative_eq!(effect.planned_f3_hz.unwrap(), Analysis::of(&designed).edges().edges[0].unwrap());
    let (low, high) = (effect.f3_low_hz.unwrap(), effect.f3_high_hz.unwrap());
    assert!(low < f3 && f3 < high && (low..high).contains(&truth), "{low} {f3} {high} {truth}");
    assert!(effect.open_db > 0.0 && effect.open_db < 1.0, "{}", effect.open_db);
    assert!(effect.sentence.metric().contains("instead of"), "{}", effect.sentence.metric());
}

#[test]
fn free_air_alone_keeps_the_moving_mass_of_the_sheet() {
    let mut softer = sheet();
    // the same cone on half the stiffness
    for (name, by) in [("fs_hz", 0.5f64.sqrt()), ("qes", 0.5f64.sqrt()), ("qms", 0.5f64.sqrt()), ("vas_l", 2.0)] {
        softer[name] = json!(softer[name].as_f64().unwrap() * by);
    }
    let free = measured(&read(&softer), Taken::FreeAir {}, 5);
    let curves = Impedances { free: &free, mass: None, boxed: None, other: None };
    let proof = woofer_proof(&read(&sheet()), &curves, &WooferWish::default()).unwrap();
    assert_relative_eq!(proof.sheet.vas_l.unwrap(), 240.0, max_relative = 0.02);
    assert!(proof.remarks.iter().any(|r| r.contains("moving mass")));
    // a softer suspension hardly moves what a box gives
    let effect = proof.effect.unwrap();
    let (was, is) = (effect.planned_f3_hz.unwrap(), effect.f3_hz.unwrap());
    assert!((is / was - 1.0).abs() < 0.15 && effect.shift.unwrap().by_db.abs() < 1.5, "{was} {is}");
}

#[test]
fn two_coils_in_parallel_give_the_sheet_of_each() {
    let mut dual = sheet();
    dual["coils"] = json!("dual");
    dual["re_ohm"] = json!(11.2);
    dual["le_mh"] = json!(2.0);
    let design = read(&dual);
    let free = measured(&design, Taken::FreeAir {}, 7);
    let curves = Impedances { free: &free, mass: None, boxed: None, other: None };
    let proof = woofer_proof(&design, &curves, &WooferWish::default()).unwrap();
    assert_relative_eq!(proof.sheet.re_ohm.unwrap(), 11.2, max_relative = 0.01);
    assert!(proof.remarks.iter().any(|r| r.contains("both coils in parallel")));
    let effect = proof.effect.unwrap();
    assert!(effect.shift.unwrap().by_db.abs() < 0.2, "{:?} {:?}", effect.shift, proof.sheet);
}

#[test]
fn two_woofers_are_held_against_each_other() {
    let design = read(&sheet());
    let free = measured(&design, Taken::FreeAir {}, 1);
    let mut other = sheet();
    other["fs_hz"] = json!(31.0);
    let near = measured(&read(&other), Taken::FreeAir {}, 2);
    other["fs_hz"] = json!(38.0);
    let far = measured(&read(&other), Taken::FreeAir {}, 3);
    for (curve, words) in [(&near, "share a box"), (&far, "too far apart"), (&free, "within the ranges")] {
        let curves = Impedances { free: &free, mass: None, boxed: None, other: Some(curve) };
        let beside = woofer_proof(&design, &curves, &WooferWish::default()).unwrap().other.unwrap();
        assert!(beside.sentence.contains(words), "{}", beside.sentence.metric());
    }
}

#[test]
fn nonsense_is_refused_with_its_reason() {
    let design = read(&sheet());
    let free = measured(&design, Taken::FreeAir {}, 1);
    let mixed = Impedances { free: &free, mass: Some((&free, 50.0)), boxed: None, other: None };
    assert!(matches!(woofer_proof(&design, &mixed, &WooferWish::default()), Err(NoFit::MassDoesNothing { .. })));
    let level = Curve::of_level(vec![20.0, 40.0, 80.0], &[80.0; 3], None);
    let wrong = Impedances { free: &level, mass: None, boxed: None, other: None };
    assert!(matches!(woofer_proof(&design, &wrong, &WooferWish::default()), Err(NoFit::NotImpedance(_))));
}

/// Against the mechanical equations: u = Bl·V/(Zcoil·Zm + Bl²), Zm = Rms + jωMms + 1/(jωCms).
#[test]
fn the_volts_of_breaking_in_move_the_cone_so_far() {
    use num_complex::Complex64;
    use oak_drum_design::prove::break_in::{break_in, volts_for};
    use std::f64::consts::TAU;
    let design = read(&sheet());
    let analysis = Analysis::of(&design);
    let (ts, air) = (&analysis.context.array.ts, &analysis.context.air);
    for f in [20.0, 27.0, 31.0, 60.0] {
        let omega = TAU * f;
        let mechanical = Complex64::new(ts.rms(air), omega * ts.mms(air) - 1.0 / (omega * ts.cms(air)));
        let coil = Complex64::new(5.6, omega * 1e-3);
        let bl = ts.bl(air);
        let volts = volts_for(&analysis, f, 4e-3);
        let x = (bl * volts * 2f64.sqrt() / (coil * mechanical + bl * bl)).norm() / omega;
        assert_relative_eq!(x, 4e-3, max_relative = 1e-6);
    }
    let how = break_in(&analysis).unwrap();
    assert_eq!((how.frequency_hz, how.stroke_mm), (30.0, 4.0));
    assert_relative_eq!(how.volts, volts_for(&analysis, 30.0, 4e-3));
    // a coil that bears little sets the stroke
    let mut weak = sheet();
    weak["power_w"] = json!(5);
    let how = break_in(&Analysis::of(&read(&weak))).unwrap();
    assert!(how.stroke_mm < 4.0 && how.volts * how.volts / 5.6 < 0.51, "{how:?}");
    assert!(how.steps[1].contains("tenth of the rated power"));
    let mut unknown = sheet();
    unknown.as_object_mut().unwrap().remove("xmax_mm");
    assert!(break_in(&Analysis::of(&read(&unknown))).is_none());
}
