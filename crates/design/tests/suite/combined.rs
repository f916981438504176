//! Near fields summed against the model's own far field (Keele 1974: a piston's near field is its far field but for place), splices,
//! averages and repeats; what cannot be combined says why.

use num_complex::Complex64;
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_curves::about::{About, Taken};
use oak_drum_curves::curve::Curve;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::prove::combined::{Combining, combined};
use oak_drum_design::prove::predicted::predicted;
use oak_drum_design::prove::view::Measured;
use oak_drum_document::{Checked, read_value};
use serde_json::json;

/// Tight: what a leak radiates is in no near field.
fn vented(count: u32, space: &str) -> Checked {
    read_value(json!({"format": "oak-drum-design", "version": oak_drum_document::VERSION, "name": "V",
        "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "le_mh": 1.0, "xmax_mm": 8},
        "array": {"count": count}, "listening": {"distance_m": 2, "solid_angle": space},
        "enclosure": {"family": "vented", "net_volume_l": 90 * count, "leak_q": 200,
            "port": {"section": {"shape": "round", "diameter_mm": 110}, "count": count, "sizing": {"by": "tuning", "tuning_hz": 32}}}}))
    .unwrap()
}

fn one(analysis: &Analysis, taken: Taken, volts: f64) -> Measured {
    let curve = predicted(analysis, &taken, false, &log_frequencies(8.0, 800.0, 200)).unwrap();
    let about = About { name: taken.words().into(), taken, absolute: true, volts: Some(volts), ..About::default() };
    Measured { id: taken.words().into(), about, curve: curve.mapped(|_, v| v * volts / analysis.context.source.volts) }
}

#[test]
fn near_fields_sum_to_the_far_field_of_the_model() {
    for (count, space) in [(1, "half"), (2, "half"), (1, "full")] {
        let analysis = Analysis::of(&vented(count, space));
        // at drives of their own: the sum is at the first one's
        let list = [one(&analysis, Taken::NearCone {}, 2.0), one(&analysis, Taken::NearPort {}, 0.5)];
        let made = combined(&analysis, &list, Combining::Sum { distance_m: 2.0 }).unwrap();
        assert_eq!(made.about.taken, Taken::InFront { distance_m: 2.0 });
        let far = one(&analysis, Taken::InFront { distance_m: 2.0 }, 2.0).curve;
        for (f, v) in made.curve.between(10.0, 120.0).frequency.iter().zip(&made.curve.between(10.0, 120.0).value) {
            let apart = 20.0 * (v.norm() / far.at(*f).unwrap().norm()).log10();
            assert!(apart.abs() < 0.05, "{count} {space}: {apart:.2} dB at {f:.0} Hz");
        }
        assert!(made.how.contains("in the port's mouth"), "{}", made.how);
    }
}

#[test]
fn a_near_field_is_spliced_below_a_far_one_whichever_comes_first() {
    let analysis = Analysis::of(&vented(1, "half"));
    let far = one(&analysis, Taken::InFront { distance_m: 1.0 }, 2.0);
    let near = one(&analysis, Taken::NearCone {}, 2.0);
    let by = |list: &[Measured]| combined(&analysis, list, Combining::Splice { at_hz: 200.0 }).unwrap();
    let (a, b) = (by(&[near.clone(), far.clone()]), by(&[far.clone(), near]));
    assert_eq!(a.curve, b.curve);
    assert_eq!(a.about.taken, far.about.taken);
    let (up, there) = (a.curve.at(400.0).unwrap(), far.curve.at(400.0).unwrap());
    assert!((up - there).norm() < 1e-9 * there.norm(), "above, the far one rules");
}

#[test]
fn repeats_have_a_noise_and_places_a_mean() {
    let analysis = Analysis::of(&vented(1, "half"));
    let clean = one(&analysis, Taken::InBox {}, 1.0);
    let mut random = fastrand::Rng::with_seed(3);
    let list: Vec<Measured> = (0..6)
        .map(|_| {
            let off = |v: &Complex64| v * (1.0 + 0.02 * (random.f64() - 0.5));
            let value = clean.curve.value.iter().map(off).collect();
            Measured { curve: Curve { value, ..clean.curve.clone() }, ..clean.clone() }
        })
        .collect();
    let mean = combined(&analysis, &list, Combining::Repeats {}).unwrap();
    // a share of ±1 %, evenly: a sixth of its variance in the mean of six
    let expected = -10.0 * (0.02f64.powi(2) / 12.0 / 6.0).log10();
    let snr = mean.curve.snr_db.iter().sum::<f64>() / mean.curve.len() as f64;
    assert!((snr - expected).abs() < 1.5, "{snr} against {expected}");
    let average = combined(&analysis, &list, Combining::Average {}).unwrap();
    assert!(!average.curve.has_phase);
    let z = (average.curve.value[50].norm(), clean.curve.value[50].norm());
    assert!((z.0 / z.1 - 1.0).abs() < 0.01);
}

#[test]
fn what_does_not_go_together_says_why() {
    let analysis = Analysis::of(&vented(1, "half"));
    let (cone, box_) = (one(&analysis, Taken::NearCone {}, 1.0), one(&analysis, Taken::InBox {}, 1.0));
    let port = one(&analysis, Taken::NearPort {}, 1.0);
    let far = one(&analysis, Taken::InFront { distance_m: 1.0 }, 1.0);
    let silent = Measured { curve: Curve { has_phase: false, ..cone.curve.clone() }, ..cone.clone() };
    let sum = Combining::Sum { distance_m: 1.0 };
    for (list, how, words) in [
        (vec![cone.clone()], sum, "two measurements"),
        (vec![cone.clone(), box_.clone()], sum, "levels and impedances"),
        (vec![cone.clone(), cone.clone()], sum, "there twice"),
        (vec![cone.clone(), far.clone()], sum, "no near field"),
        (vec![silent, port.clone()], sum, "with their phases"),
        (vec![cone.clone(), port], Combining::Repeats {}, "of one place"),
        (vec![cone.clone(), far.clone(), far.clone()], Combining::Splice { at_hz: 200.0 }, "no more"),
        (vec![box_.clone(), box_], Combining::Splice { at_hz: 200.0 }, "impedances are not"),
        (vec![cone, far], Combining::Splice { at_hz: 700.0 }, "no whole octave"),
    ] {
        let error = combined(&analysis, &list, how).unwrap_err().to_string();
        assert!(error.contains(words), "{error}");
    }
}
