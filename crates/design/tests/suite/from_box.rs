//! A cabinet from the box: whatever box and form, the air is there, nothing is in anything, and a space that is too small says so.

use oak_drum_design::analysis::Analysis;
use oak_drum_design::cabinet::clashing;
use oak_drum_design::cabinet::from_box::{Form, MadeCabinet, from_box};
use oak_drum_design::evaluation::findings::findings;
use oak_drum_design::finding::Severity;
use oak_drum_document::{Cabinet, Checked, apply, read_current, read_value};
use proptest::prelude::*;
use serde_json::{Value, json};

fn design(enclosure: Value) -> Checked {
    read_value(json!({"format": "oak-drum-design", "version": 8, "enclosure": enclosure,
        "woofer": {"fs_hz": 28, "qms": 5, "qes": 0.4, "vas_l": 62, "re_ohm": 5.6, "sd_cm2": 343, "xmax_mm": 10, "depth_mm": 130,
            "cutout_mm": 234, "outside_diameter_mm": 259, "magnet_diameter_mm": 140}}))
    .unwrap_or_else(|p| panic!("{p:?}"))
}

fn port(hz: f64) -> Value {
    json!({"section": {"shape": "round", "diameter_mm": 80}, "count": 1, "sizing": {"by": "tuning", "tuning_hz": hz}})
}

fn sealed(litres: f64) -> Checked {
    design(json!({"family": "sealed", "net_volume_l": litres}))
}

fn vented(litres: f64, hz: f64) -> Checked {
    design(json!({"family": "vented", "net_volume_l": litres, "port": port(hz)}))
}

const FORMS: [Form; 4] = [Form::Balanced, Form::Slim, Form::Squat, Form::AsWideAsWoofer];

fn after(design: &Checked, made: &MadeCabinet) -> Analysis {
    let mut document = serde_json::to_value(design).unwrap();
    apply(&mut document, &made.changes);
    Analysis::of(&read_current(document).unwrap_or_else(|p| panic!("{p:?}")))
}

fn cabinet(a: &Analysis) -> Cabinet {
    a.design.cabinet.clone().unwrap()
}

/// Every form of a closed and a vented box: air to half a per cent, nothing in anything, and what its name says.
#[test]
fn every_form_holds_the_box() {
    for box_ in [sealed(35.0), vented(60.0, 30.0), vented(110.0, 24.0)] {
        let made: Vec<Cabinet> = FORMS
            .iter()
            .map(|form| {
                let made = from_box(&box_, form).unwrap_or_else(|why| panic!("{form:?}: {}", why.metric()));
                let a = after(&box_, &made);
                let ledger = a.ledger.as_ref().unwrap();
                assert!((ledger.net_l / ledger.wanted_net_l - 1.0).abs() < 0.005, "{form:?} {}", ledger.net_l);
                assert!(clashing(&a).is_empty(), "{form:?}: {:?}", clashing(&a));
                let broken: Vec<String> = findings(&a)
                    .into_iter()
                    .filter(|f| f.severity == Severity::Broken)
                    .map(|f| f.title.metric())
                    .collect();
                assert!(broken.is_empty(), "{form:?}: {broken:?}");
                cabinet(&a)
            })
            .collect();
        let [balanced, slim, squat, woofer] = made.as_slice() else { panic!() };
        assert!(slim.height_mm > 1.5 * slim.width_mm && slim.width_mm <= balanced.width_mm, "{slim:?}");
        assert!(squat.height_mm < squat.width_mm && squat.height_mm < balanced.height_mm, "{squat:?}");
        assert!(woofer.width_mm == slim.width_mm && woofer.height_mm <= slim.height_mm, "{woofer:?}");
        let sides = balanced.inside_mm();
        assert!((0..3).all(|k| (sides[k] / sides[(k + 1) % 3] - 1.0).abs() > 0.05), "no two sides alike: {sides:?}");
    }
}

/// A space that is large enough is kept to; one that is too small says by how much, one too narrow for the woofer that.
#[test]
fn a_space_is_kept_to() {
    let within = |width_mm: f64, height_mm: f64, depth_mm: f64| Form::Within { width_mm, height_mm, depth_mm };
    let box_ = sealed(35.0);
    let a = after(&box_, &from_box(&box_, &within(700.0, 320.0, 420.0)).unwrap());
    let c = cabinet(&a);
    assert!(c.width_mm <= 700.0 && c.height_mm <= 320.0 && c.depth_mm <= 420.0, "{c:?}");
    let small = from_box(&box_, &within(320.0, 320.0, 300.0)).unwrap_err().metric();
    assert!(small.contains("20.6 L") || small.contains("21 L"), "284 x 284 x 264 mm within 18 mm boards: {small}");
    let narrow = from_box(&box_, &within(900.0, 200.0, 900.0)).unwrap_err().metric();
    assert!(narrow.contains("face of at least 280 mm"), "{narrow}");
}

/// Lines and horns are folded into theirs.
#[test]
fn paths_are_folded_in() {
    let line = design(json!({"family": "transmission_line", "length_mm": 2200, "woofer_at_mm": 450,
        "profile": {"shape": "tapered", "closed_end_cm2": 550, "open_end_cm2": 380}}));
    let made = from_box(&line, &Form::Balanced).unwrap();
    let a = after(&line, &made);
    let fold = a.fold.as_ref().unwrap().as_ref().unwrap();
    assert!((fold.fold.length / 2200.0 - 1.0).abs() < 0.02, "{}", fold.fold.length);
    assert!(clashing(&a).is_empty() && made.sentence.contains("folded"));
    // each form is another outside; one that cannot be as it is called is refused
    let of = |form: Form| from_box(&line, &form).map(|made| cabinet(&after(&line, &made)));
    let [slim, narrow] = [Form::Slim, Form::AsWideAsWoofer].map(|form| of(form).unwrap());
    assert!(slim.height_mm > narrow.height_mm && slim.width_mm <= 1.1 * narrow.width_mm, "{slim:?} {narrow:?}");
    match of(Form::Squat) {
        Ok(low) => assert!(low.height_mm <= low.width_mm, "{low:?}"),
        Err(why) => assert!(why.contains("on its side"), "{why}"),
    }
}

/// What was there of boards and saw stays; where things stood in another outside does not.
#[test]
fn its_own_boards_stay() {
    let mut document = serde_json::to_value(sealed(40.0)).unwrap();
    document["cabinet"] = json!({"width_mm": 300, "height_mm": 300, "depth_mm": 300, "panel_mm": 22, "baffle_mm": 30, "board": "birch_plywood",
        "woofers_at": [{"face": "baffle", "across_mm": 10, "up_mm": 10}], "saw": {"kerf_mm": 2.0}});
    let box_ = read_current(document).unwrap();
    let c = cabinet(&after(&box_, &from_box(&box_, &Form::Balanced).unwrap()));
    assert_eq!((c.panel_mm, c.baffle_mm, c.saw.kerf_mm), (22.0, 30.0, 2.0));
    assert!(c.woofers_at.is_empty());
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]

    /// Whatever box: what is made holds it and can be built; what cannot be made says why.
    #[test]
    fn what_is_made_can_be_built(litres in 12.0..240.0f64, hz in 20.0..50.0f64, tuned in any::<bool>(), which in 0usize..4) {
        let box_ = if tuned { vented(litres, hz) } else { sealed(litres) };
        match from_box(&box_, &FORMS[which]) {
            Ok(made) => {
                let a = after(&box_, &made);
                let ledger = a.ledger.as_ref().unwrap();
                prop_assert!((ledger.net_l / ledger.wanted_net_l - 1.0).abs() < 0.005);
                prop_assert!(clashing(&a).is_empty());
            }
            // a port of 80 mm tuned low in a small box is longer than any of its sides
            Err(why) => prop_assert!(tuned && (litres < 60.0 || hz < 26.0), "{litres} L {hz} Hz: {}", why.metric()),
        }
    }
}
