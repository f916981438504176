//! The tasks: each begins undone, is done by what a newcomer would do, and by nothing less.

use oak_drum_design::cabinet::from_box::{Form, from_box};
use oak_drum_document::{Change, Checked, apply, read_value};
use oak_drum_tour::{Seen, TASKS, Task, named, played};
use serde_json::{Value, json};

fn task(id: &str) -> &'static Task {
    named(id).unwrap()
}

fn changed(design: &Checked, changes: &[Change]) -> Checked {
    with(design, &changes.iter().map(|c| (c.pointer.as_str(), c.value.clone())).collect::<Vec<_>>())
}

/// The design with places set.
fn with(design: &Checked, changes: &[(&str, Value)]) -> Checked {
    let mut document = serde_json::to_value(&**design).unwrap();
    let list: Vec<Change> = changes.iter().map(|(p, v)| Change { pointer: (*p).into(), value: v.clone() }).collect();
    apply(&mut document, &list);
    read_value(document).unwrap_or_else(|p| panic!("{p:?}"))
}

/// The designs that the remedies of a kind of finding give.
fn remedied(design: &Checked, kind: &str) -> Vec<(String, Checked)> {
    let seen = Seen::of(design);
    let Some(found) = seen.found(kind) else { return Vec::new() };
    let taken = found.remedies.iter().map(|r| (r.title.metric(), changed(design, &r.changes)));
    taken.collect()
}

#[test]
fn each_task_begins_undone_with_a_design_that_can_be_read_and_stays_under_three_minutes() {
    assert_eq!(TASKS.len(), 5);
    for task in TASKS {
        let shown = task.shown();
        assert!(shown.steps.len() >= 2 && task.minutes <= 3, "{}", task.id);
        assert_eq!(task.progress(&task.start(), 0).done, 0, "{}", task.id);
        for sentence in shown.steps.iter().map(|s| s.metric()).chain([shown.teaches.clone()]) {
            assert!(sentence.ends_with('.') && sentence.len() > 40, "{sentence}");
        }
        // what is done stays done, and there is no more than all
        assert_eq!(task.progress(&task.start(), shown.steps.len()).done, shown.steps.len());
        // nothing is left unstated that would speak in its place
        let seen = Seen::of(&task.start());
        for kind in ["amplifier_not_stated", "brief_not_stated"] {
            assert!(seen.found(kind).is_none(), "{}: {kind}", task.id);
        }
    }
    assert!(named("no such").is_none());
}

#[test]
fn chuffing_is_cured_by_a_port_and_not_by_a_quieter_drive() {
    let chuff = task("chuff");
    let loud = with(&chuff.start(), &[("/drive/volts", json!(24))]);
    let first = chuff.progress(&loud, 0);
    assert_eq!(first.done, 1);
    assert!(first.told[0].contains("24 V"), "{:?}", first.told);
    assert_eq!(chuff.progress(&chuff.start(), 1).done, 1, "turned down again is no cure");
    let cures = remedied(&loud, "port_air_fast");
    assert!(
        cures.iter().any(|(_, cured)| chuff.progress(cured, 1).done == 2),
        "{:?}",
        cures.iter().map(|c| &c.0).collect::<Vec<_>>()
    );
}

#[test]
fn litres_are_found_in_a_larger_outside_and_not_in_a_smaller_wish() {
    let task = task("litres");
    let start = Seen::of(&task.start());
    let ledger = start.evaluation.ledger.as_ref().unwrap();
    assert!((ledger.net_l / ledger.wanted_net_l - 1.0).abs() < 0.03, "{} for {}", ledger.net_l, ledger.wanted_net_l);
    let thick = with(&task.start(), &[("/cabinet/panel_mm", json!(30)), ("/cabinet/baffle_mm", json!(30))]);
    assert_eq!(task.progress(&thick, 0).done, 1);
    assert_eq!(task.progress(&with(&thick, &[("/enclosure/net_volume_l", json!(40))]), 1).done, 1);
    assert_eq!(task.progress(&task.start(), 1).done, 1, "thin boards again is not what was asked");
    let kinds: Vec<String> = Seen::of(&thick)
        .evaluation
        .findings
        .into_iter()
        .flatten()
        .filter(|f| !f.remedies.is_empty())
        .map(|f| f.kind)
        .collect();
    let cured = kinds.iter().flat_map(|k| remedied(&thick, k)).any(|(_, d)| task.progress(&d, 1).done == 2);
    assert!(cured, "no remedy of {kinds:?} finds them");
}

#[test]
fn a_leak_is_made_and_sealed() {
    let leak = task("leak");
    let leaking = with(&leak.start(), &[("/enclosure/leak_q", json!(3))]);
    let first = leak.progress(&leaking, 0);
    assert_eq!(first.done, 1);
    assert_eq!(leak.progress(&with(&leaking, &[("/enclosure/leak_q", json!(7))]), 1).done, 1);
    assert_eq!(leak.progress(&with(&leaking, &[("/enclosure/leak_q", json!(15))]), 1).done, 2);
    // a little less is not yet heard
    assert_eq!(leak.progress(&with(&leaking, &[("/enclosure/leak_q", json!(12))]), 0).done, 0);
}

#[test]
fn a_line_is_folded_broken_and_mended() {
    let fold = task("fold");
    for form in [Form::Balanced, Form::Slim, Form::AsWideAsWoofer] {
        let made = from_box(&fold.start(), &form).unwrap();
        let folded = changed(&fold.start(), &made.changes);
        assert_eq!(fold.progress(&folded, 0).done, 1, "{form:?}");
        let broken = with(&folded, &[("/cabinet/fold/pattern", json!("spiral"))]);
        assert_eq!(fold.progress(&broken, 1).done, 2, "{form:?}");
        let mended = remedied(&broken, "does_not_fold").into_iter().any(|(_, d)| fold.progress(&d, 2).done == 3);
        assert!(mended, "no remedy folds it again");
        assert_eq!(fold.progress(&folded, 2).done, 3, "the first pattern holds");
        assert_eq!(fold.progress(&broken, 2).done, 2);
    }
    // an unfolded line is neither folded nor mended
    assert_eq!(fold.progress(&fold.start(), 2).done, 2);
}

#[test]
fn a_boost_is_kept_and_the_cone_saved() {
    let boost = task("boost");
    let raised = with(&boost.start(), &[("/chain/filters/0/filter/level_db", json!(5))]);
    assert_eq!(boost.progress(&raised, 0).done, 1);
    assert_eq!(boost.progress(&boost.start(), 1).done, 1, "without the boost nothing is saved");
    let mut list = vec![raised];
    for _ in 0..3 {
        if list.iter().any(|d| boost.progress(d, 1).done == 2) {
            return;
        }
        let kinds = ["excursion_over_limit", "boost_into_limit", "unloads_below_tuning", "boost_below_tuning"];
        list = list.iter().flat_map(|d| kinds.map(|k| remedied(d, k))).flatten().map(|(_, d)| d).take(16).collect();
    }
    panic!("no remedy saves it");
}

/// A tone comes out as much louder or softer as the level's curve says (the same network by another way: a transform here, a sweep there),
/// one at 150 Hz as it went in, and the piece goes round.
#[test]
fn a_piece_is_played_as_the_curves_have_it() {
    let rate = 48_000.0;
    let tone = |hz: f64| -> Vec<f64> {
        (0..96_000).map(|i| 0.5 * (std::f64::consts::TAU * hz * f64::from(i) / rate).sin()).collect()
    };
    let rms = |v: &[f64]| (v.iter().map(|x| x * x).sum::<f64>() / v.len() as f64).sqrt();
    let gain = |design: &Checked, hz: f64| 20.0 * (rms(&played(design, &tone(hz), rate)) / rms(&tone(hz))).log10();
    let tight = task("leak").start();
    let leaking = with(&tight, &[("/enclosure/leak_q", json!(3))]);
    for design in [&tight, &leaking] {
        let seen = Seen::of(design);
        assert!(gain(design, 150.0).abs() < 0.02);
        for hz in [15.0, 28.0, 40.0, 100.0] {
            let wanted = seen.level_db(hz) - seen.level_db(150.0);
            assert!((gain(design, hz) - wanted).abs() < 0.25, "{hz} Hz: {} for {wanted}", gain(design, hz));
        }
    }
    assert!(gain(&tight, 28.0) - gain(&leaking, 28.0) > 1.5);
    assert_eq!(played(&tight, &tone(30.0), rate).len(), 96_000);
    assert!(played(&tight, &[], rate).is_empty());
    assert_eq!(played(&tight, &[0.1, 0.2, 0.3], rate).len(), 2);
}
