//! How boxes come out: what is off in simulated boxes is found in each, and what they have in common is what they were made with.

use oak_drum_acoustics::level::log_frequencies;
use oak_drum_curves::about::{About, Taken};
use oak_drum_design::analysis::Analysis;
use oak_drum_design::prove::as_built::AsBuilt;
use oak_drum_design::prove::habits::{CameOut, Figure, Habits, Of, came_out, habits};
use oak_drum_design::prove::predicted::predicted;
use oak_drum_design::prove::unknown::{Unknown, varied};
use oak_drum_design::prove::view::Measured;
use oak_drum_document::{Change, Checked, apply, read_current, read_value};
use serde_json::{Value, json};

fn vented(changes: &[(&str, Value)]) -> Checked {
    let mut document = json!({"format": "oak-drum-design", "version": 8,
        "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "le_mh": 1.0},
        "enclosure": {"family": "vented", "net_volume_l": 90, "leak_q": 20,
            "port": {"section": {"shape": "round", "diameter_mm": 110}, "count": 1, "sizing": {"by": "tuning", "tuning_hz": 32}}}});
    let changes: Vec<Change> = changes.iter().map(|(p, v)| Change::set(*p, v.clone())).collect();
    apply(&mut document, &changes);
    read_value(document).unwrap_or_else(|p| panic!("{p:?}"))
}

/// The impedance of a box that came out otherwise.
fn measured(design: &Checked, off: &[(Unknown, f64)]) -> Measured {
    let model = varied(&AsBuilt::of(design).unwrap(), off).unwrap();
    let curve = predicted(&model, &Taken::InBox {}, false, &log_frequencies(5.0, 300.0, 300)).unwrap();
    Measured { id: "m".into(), about: About { taken: Taken::InBox {}, ..About::default() }, curve }
}

fn figure(out: &CameOut, of: Of) -> Figure {
    *out.figures.iter().find(|f| f.of == of).unwrap_or_else(|| panic!("no {of:?}: {out:?}"))
}

/// Volume, leak and port of a box are found as they were made; the ends' factor is the one that gives the design the tuning measured.
#[test]
fn what_is_off_in_a_box_is_found() {
    let design = vented(&[]);
    let off = [(Unknown::Volume, 0.94), (Unknown::Port, 1.05), (Unknown::Leak, 9.0)];
    let out = came_out("Barn", "A", false, &design, &measured(&design, &off)).unwrap();
    assert!((figure(&out, Of::Volume).measured / (90.0 * 0.94) - 1.0).abs() < 2e-3, "{out:?}");
    assert!((figure(&out, Of::Leak).measured / 9.0 - 1.0).abs() < 0.02, "{out:?}");
    assert_eq!(figure(&out, Of::Leak).reckoned, Some(20.0));
    let tuning = figure(&out, Of::Tuning);
    // at the same ends f goes with 1/sqrt(V L)
    assert!((tuning.measured / tuning.reckoned.unwrap() * (0.94f64 * 1.05).sqrt() - 1.0).abs() < 3e-3, "{tuning:?}");
    let ends = figure(&out, Of::Ends).measured;
    let length = Analysis::of(&design).wired.ports[0].realised.length * 1e3;
    let with_ends = vented(&[
        ("/enclosure/net_volume_l", json!(90.0 * 0.94)),
        ("/enclosure/port/sizing", json!({"by": "length", "length_mm": length})),
        ("/enclosure/port/end_factor", json!(ends)),
    ]);
    let fb = |d: &Checked| Analysis::of(d).wired.ports[0].realised.tuning;
    assert!((fb(&with_ends) / tuning.measured - 1.0).abs() < 3e-3, "{} {tuning:?}", fb(&with_ends));
}

/// A box whose measured ends were put into its design is still told as it was reckoned first: what was learned is not learned away.
#[test]
fn what_was_kept_in_a_design_does_not_hide_the_habit() {
    let plain = vented(&[]);
    let length = Analysis::of(&plain).wired.ports[0].realised.length * 1e3;
    let cut = ("/enclosure/port/sizing", json!({"by": "length", "length_mm": length}));
    let measured = measured(&plain, &[(Unknown::Port, 1.06)]);
    let first = came_out("Barn", "A", false, &vented(std::slice::from_ref(&cut)), &measured).unwrap();
    let kept =
        came_out("Barn", "B", false, &vented(&[cut, ("/enclosure/port/end_factor", json!(1.3))]), &measured).unwrap();
    assert!((figure(&first, Of::Ends).measured / figure(&kept, Of::Ends).measured - 1.0).abs() < 1e-6);
    assert!(figure(&first, Of::Ends).measured > 1.1);
}

fn boxes(of: Of, list: &[(f64, f64)]) -> Vec<CameOut> {
    list.iter()
        .enumerate()
        .map(|(i, (reckoned, measured))| CameOut {
            build: format!("Box {i}"),
            revision: "A".into(),
            own: false,
            figures: vec![Figure { of, reckoned: Some(*reckoned), measured: *measured }],
        })
        .collect()
}

fn told(h: &Habits, of: Of) -> (f64, Option<f64>) {
    let habit = h.habits.iter().find(|h| h.of == of).unwrap();
    (habit.off_percent.unwrap_or(0.0), habit.scatter_percent)
}

/// By hand: tunings 4, 3 and 2 % low lie 3 % low, give or take 1 %; a box of one's own is not learned from.
#[test]
fn what_boxes_have_in_common() {
    let list = boxes(Of::Tuning, &[(30.0, 28.8), (40.0, 38.8), (25.0, 24.5)]);
    let found = habits(&vented(&[]), list.clone());
    let (off, scatter) = told(&found, Of::Tuning);
    assert!((off + 3.0).abs() < 0.01 && (scatter.unwrap() - 1.0).abs() < 0.05, "{off} {scatter:?}");
    assert!(found.corrections.is_empty(), "a tuning follows from volume and ends");
    let own: Vec<CameOut> = list.into_iter().map(|b| CameOut { own: true, ..b }).collect();
    let found = habits(&vented(&[]), own);
    assert!(found.habits.is_empty() && found.boxes.len() == 3);
    // one box: nothing is known of the scatter, and that is said
    let one = habits(&vented(&[]), boxes(Of::Tuning, &[(30.0, 29.0)]));
    assert!(told(&one, Of::Tuning).1.is_none() && one.habits[0].sentence.contains("not known"));
}

/// Two standard errors: 2, 3 and 4 % are told from nothing, -6, 1 and 7 % are not.
#[test]
fn what_scatters_too_much_is_no_correction() {
    let bare = |list: &[(f64, f64)]| habits(&vented(&[]), boxes(Of::Ends, list));
    let words = |list: &[(f64, f64)]| bare(list).habits[0].sentence.metric();
    assert!(words(&[(1.0, 0.94), (1.0, 1.04), (1.0, 1.09)]).ends_with("too scattered to reckon with."));
    assert!(words(&[(1.0, 1.003), (1.0, 0.998)]).contains("as reckoned, give or take 0 %"));
    let sure = bare(&[(1.0, 1.12), (1.0, 1.15), (1.0, 1.18)]);
    let [cure] = sure.corrections.as_slice() else { panic!("{:?}", sure.corrections) };
    assert_eq!(cure.changes[0].pointer, "/enclosure/port/end_factor");
    assert_eq!(cure.changes[0].value, json!(1.15));
    assert!(cure.sentence.contains("may still be chance"));
    assert!(bare(&[(1.0, 0.94), (1.0, 1.01), (1.0, 1.07)]).corrections.is_empty());
    // a port whose ends were measured is left as it is
    let stated = vented(&[("/enclosure/port/end_factor", json!(1.02))]);
    assert!(habits(&stated, boxes(Of::Ends, &[(1.0, 1.15), (1.0, 1.16)])).corrections.is_empty());
}

/// A correction can be taken, and the design then says what the boxes say.
#[test]
fn corrections_can_be_taken() {
    let leaky = habits(&vented(&[]), boxes(Of::Leak, &[(20.0, 8.0), (20.0, 12.5)]));
    let cabinet =
        json!({"width_mm": 420, "height_mm": 600, "depth_mm": 485, "panel_mm": 18, "baffle_mm": 18, "bracing_l": 1.0});
    let boxed = vented(&[("/cabinet", cabinet)]);
    let small = habits(&boxed, boxes(Of::Volume, &[(90.0, 86.4), (60.0, 57.6)]));
    let after = |design: &Checked, found: &Habits| {
        let mut document = serde_json::to_value(design).unwrap();
        apply(&mut document, &found.corrections[0].changes);
        Analysis::of(&read_current(document).unwrap())
    };
    // the geometric mean of 8 and 12.5 is 10
    assert_eq!(leaky.corrections[0].changes[0].value, json!(10.0));
    after(&vented(&[]), &leaky);
    // of the 90 L that are wanted the boxes lose 4 %: so much less the ledger counts, and the cabinet has to hold more
    let net = |a: &Analysis| a.ledger.as_ref().unwrap().net_l;
    let (before, then) = (net(&Analysis::of(&boxed)), net(&after(&boxed, &small)));
    assert!((before - then - 0.04 * 90.0).abs() < 0.051, "{before} {then}");
    // what they hold more than was counted is taken off small parts, as far as there are any
    assert!(habits(&boxed, boxes(Of::Volume, &[(90.0, 95.0), (60.0, 63.3)])).corrections.is_empty());
}
