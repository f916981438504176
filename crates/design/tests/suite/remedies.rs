//! Every remedy of every rule, over the demo's builds and over random designs of all families: it reads back, its cabinet holds
//! the volume it wants, nothing is in anything that was not before, and what it predicts is what comes.

use oak_drum_design::analysis::Analysis;
use oak_drum_design::evaluation::findings::findings;
use oak_drum_design::finding::{Finding, Remedy};
use oak_drum_document::{Checked, Design, apply, read_value};
use proptest::prelude::*;
use proptest::test_runner::RngSeed;
use serde_json::{Value, json};

/// What parts are in each other, by the sentences of the rule that finds it.
fn collisions(found: &[Finding]) -> Vec<String> {
    found.iter().filter(|f| f.kind == "parts_collide").map(|f| f.title.metric()).collect()
}

fn off(a: &Analysis) -> Option<f64> {
    a.ledger.as_ref().map(|l| (l.net_l / l.wanted_net_l - 1.0).abs())
}

/// The number before a word of a prediction: "f3 31 Hz" has 31 after "f3 ".
fn after_word(text: &str, word: &str) -> Option<f64> {
    let rest = &text[text.find(word)? + word.len()..];
    rest.split([' ', ';', ',']).next()?.parse().ok()
}

fn before_word(text: &str, word: &str) -> Option<f64> {
    text[..text.find(word)?].split([' ', ';', ',']).next_back()?.parse().ok()
}

/// What a remedy says of itself, held against the design with it taken.
pub fn holds(a: &Analysis, found: &[Finding], finding: &Finding, remedy: &Remedy) -> Result<(), String> {
    let predicted = remedy.predicted.metric();
    let what = format!("{}: {} ({predicted})", finding.kind, remedy.title.metric());
    let mut document = serde_json::to_value(&a.design).unwrap();
    apply(&mut document, &remedy.changes);
    let design = read_value(document).map_err(|p| format!("{what}: {p:?}"))?;
    let after = Analysis::of(&design);
    let then = findings(&after);
    // a path that was not folded had nothing in its place
    let folds = a.fold.is_some() == after.fold.is_some() && matches!(a.fold, None | Some(Ok(_)));
    if design.cabinet.is_some() && folds {
        let before = collisions(found);
        // the rule tells four at most: with as many before, one more may have been there untold
        if let Some(fresh) = collisions(&then).into_iter().find(|c| before.len() < 4 && !before.contains(c)) {
            return Err(format!("{what}: {fresh}"));
        }
        // what a path takes is told by its fold
        if after.wired.path.is_none()
            && let (Some(was), Some(is)) = (off(a), off(&after))
            && is > 0.0051
            && is > was + 0.0051
        {
            return Err(format!("{what}: the volume is off by {is:.4} (before {was:.4})"));
        }
    }
    // what it says of the result is what the result says
    let said = |told: Option<f64>, real: Option<f64>, within: f64| match (told, real) {
        (Some(told), Some(real)) if (told - real).abs() > within => Err(format!("{what}: {told} told, {real} found")),
        _ => Ok(()),
    };
    said(after_word(&predicted, "f3 "), after.edges().edges[0], 0.51)?;
    let lengths: Vec<f64> = after.wired.ports.iter().map(|p| p.realised.length * 1e3).collect();
    if let Some(told) = before_word(&predicted, " mm long").filter(|_| !lengths.is_empty())
        && !lengths.iter().any(|l| (l - told).abs() < 0.51)
    {
        return Err(format!("{what}: ports of {lengths:?}"));
    }
    said(before_word(&predicted, " L outside"), after.design.cabinet.as_ref().map(|c| c.outside_l()), 0.51)?;
    // and it does something about what it is for
    let same = then.iter().filter(|f| f.kind == finding.kind && f.pointer == finding.pointer);
    if let Some(still) = same.min_by(|x, y| x.figure.value.total_cmp(&y.figure.value))
        && still.figure == finding.figure
        && still.limit == finding.limit
        && !["fill_in_the_way", "over_budget", "part_over_sheet"].contains(&finding.kind.as_str())
    {
        return Err(format!("{what}: nothing of {:?} has moved", finding.figure));
    }
    Ok(())
}

/// The demo's builds, revision by revision.
pub fn demo() -> Vec<(String, Checked)> {
    let woofers: Vec<Value> = serde_json::from_str(include_str!("../../../store/demo/woofers.json")).unwrap();
    let rooms: Vec<Value> = serde_json::from_str(include_str!("../../../store/demo/rooms.json")).unwrap();
    let builds: Vec<(String, Vec<Value>)> =
        serde_json::from_str(include_str!("../../../store/demo/builds.json")).unwrap();
    let mut list = Vec::new();
    for (name, documents) in builds {
        for mut document in documents {
            let sheet = woofers.iter().find(|w| w["name"] == document["woofer"]).unwrap().clone();
            document["woofer"] = sheet;
            if let Some(name) = document.pointer("/room/room").filter(|room| room.is_string()).cloned() {
                document["room"]["room"] = rooms.iter().find(|room| room["name"] == name).unwrap().clone();
            }
            let design = read_value(document).unwrap();
            list.push((format!("{name}, {}", design.name), design));
        }
    }
    list
}

#[test]
fn every_remedy_of_the_demo_does_what_it_says() {
    let mut seen = 0;
    for (name, design) in demo() {
        let a = Analysis::of(&design);
        let found = findings(&a);
        for finding in &found {
            for remedy in &finding.remedies {
                seen += 1;
                holds(&a, &found, finding, remedy).unwrap_or_else(|e| panic!("{name}: {e}"));
            }
        }
    }
    assert!(seen > 30, "{seen}");
}

prop_compose! {
    fn woofer()(
        fs in 18.0..55.0f64, qms in 2.0..9.0f64, qes in 0.22..0.9f64, size in 1.0..5.0f64, vas in 0.4..2.5f64,
        re in 2.5..7.0f64, xmax in 4.0..18.0f64, power in 80.0..900.0f64, depth in 0.4..0.65f64,
    ) -> Value {
        // cone areas from 130 to 1300 cm2, frames and depths that go with them
        let sd = 130.0 * size.powf(1.43);
        let cone = 2.0 * (sd * 100.0 / std::f64::consts::PI).sqrt();
        json!({"fs_hz": fs, "qms": qms, "qes": qes, "vas_l": (sd / 530.0).powi(2) * 120.0 * vas, "re_ohm": re, "sd_cm2": sd,
            "xmax_mm": xmax, "power_w": power, "nominal_ohm": 8, "cutout_mm": (cone * 1.12).round(),
            "outside_diameter_mm": (cone * 1.25).round(), "depth_mm": (cone * depth).round(),
            "magnet_diameter_mm": (cone * 0.6).round(), "weight_kg": 4.0 + size * 2.0})
    }
}

prop_compose! {
    fn any_design()(
        woofer in woofer(), pick in any::<prop::sample::Index>(), volts in 3.0..60.0f64, note in 18.0..60.0f64,
        level in 90.0..125.0f64, shape in proptest::option::of((0.7..1.2f64, 0.8..1.6f64, 0.93..1.12f64)),
        panel in 12.0..25.0f64, outside in proptest::option::of(20.0..400.0f64), braces in any::<bool>(),
        inside in any::<bool>(),
    ) -> Option<Checked> {
        let base = json!({"format": "oak-drum-design", "version": 5, "woofer": woofer,
            "enclosure": {"family": "sealed", "net_volume_l": 50}, "drive": {"kind": "voltage", "volts": volts},
            "brief": {"lowest_note_hz": note, "level_db": level, "distance_m": 2, "largest_outside_l": outside,
                "amplifier": {"power_w": 400, "load_ohm": 8, "minimum_load_ohm": 4}}});
        let starts: Vec<_> = oak_drum_design::suggest(&read_value(base.clone()).ok()?)
            .into_iter()
            .filter_map(|s| s.enclosure)
            .collect();
        let mut document = base;
        document["enclosure"] = serde_json::to_value(&starts[pick.index(starts.len())]).ok()?;
        let design = read_value(document.clone()).ok()?;
        let litres: f64 = Analysis::of(&design).wired.chambers.iter().map(|c| c.net * 1e3).sum();
        if let Some((w, h, fill)) = shape.filter(|_| litres > 1.0) {
            // a box of about the wanted volume, a little short of it or over it
            let unit = (litres * 1.15 * fill * 1e6 / (w * h)).cbrt() + 2.0 * panel;
            let sides = [unit * w, unit * h, unit].map(f64::round);
            document["cabinet"] = json!({"width_mm": sides[0], "height_mm": sides[1], "depth_mm": sides[2],
                "panel_mm": panel.round(), "baffle_mm": panel.round()});
            if braces {
                document["cabinet"]["braces"] = json!([{"kind": "window", "lies": "level", "at_mm": (sides[1] * 0.4).round(),
                    "thickness_mm": 18, "open_part": 0.5}]);
            }
            if inside {
                let i = [sides[0] - 2.0 * panel.round(), sides[1] - 2.0 * panel.round(), sides[2] - 2.0 * panel.round()];
                document["enclosure"]["inside"] = json!({"width_mm": i[0], "height_mm": i[1], "depth_mm": i[2],
                    "woofer_across_mm": (i[0] / 2.0).round(), "woofer_up_mm": (i[1] * 0.65).round(),
                    "opening_across_mm": (i[0] / 2.0).round(), "opening_up_mm": (i[1] * 0.15).round()});
            }
        }
        read_value(document.clone()).ok().or_else(|| {
            // families without an inside of that name
            document["enclosure"].as_object_mut()?.remove("inside");
            read_value(document).ok()
        })
    }
}

/// The same designs in every run, so that a change is what a failure is about; `PROPTEST_RNG_SEED` tries others.
fn seed() -> RngSeed {
    let asked = std::env::var("PROPTEST_RNG_SEED").ok().and_then(|s| s.parse().ok());
    RngSeed::Fixed(asked.unwrap_or(20_261_125))
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 48, max_global_rejects: 400, rng_seed: seed(), ..ProptestConfig::default() })]

    #[test]
    fn every_remedy_of_any_design_does_what_it_says(design in any_design()) {
        prop_assume!(design.is_some());
        let a = Analysis::of(&design.unwrap());
        let found = findings(&a);
        for finding in &found {
            for remedy in &finding.remedies {
                holds(&a, &found, finding, remedy).map_err(TestCaseError::fail)?;
            }
        }
    }

    /// A suggestion reads back, and evaluation then shows the f3 and the volume it promises.
    #[test]
    fn every_suggestion_keeps_its_promise(design in any_design()) {
        prop_assume!(design.is_some());
        let design = design.unwrap();
        for suggestion in oak_drum_design::suggest(&design) {
            let Some(enclosure) = suggestion.enclosure else { continue };
            let made = Design { enclosure, ..Design::clone(&design) };
            let read = read_value(serde_json::to_value(&made).unwrap());
            prop_assert!(read.is_ok(), "{}: {read:?}", suggestion.id);
            let there = Analysis::of(&read.unwrap());
            let told = after_word(&suggestion.sentence.metric(), "f3 ");
            if let (Some(told), Some(f3)) = (told, there.edges().edges[0]) {
                prop_assert!((told - f3).abs() < 0.51, "{}: {told} told, {f3} shown", suggestion.id);
            }
            if let Some(wanted) = suggestion.id.strip_prefix("sealed_qtc_").filter(|_| design.cabinet.is_none()) {
                let qtc = there.wired.figures.iter().find(|f| f.id == "qtc").unwrap().value;
                prop_assert!((qtc / wanted.parse::<f64>().unwrap() - 1.0).abs() < 0.005, "{}: {qtc}", suggestion.id);
            }
        }
    }
}
