//! The terms: complete, found by one name each, their drawings true to the models they show.

use oak_drum_glossary::drawing::{closed, port_for_cone, vented};
use oak_drum_glossary::{Term, all};
use serde_json::Value;
use std::collections::{BTreeMap, BTreeSet};
use std::path::Path;

fn terms() -> Vec<&'static Term> {
    all().iter().flat_map(|s| s.terms).collect()
}

fn docs(name: &str) -> std::path::PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs").join(name)
}

#[test]
fn each_term_is_a_sentence_with_its_source_and_names_of_its_own() {
    let mut names = BTreeSet::new();
    let mut shown = BTreeSet::new();
    for term in terms() {
        assert!(term.id.bytes().all(|b| b.is_ascii_lowercase() || b == b'_' || b.is_ascii_digit()), "{}", term.id);
        assert!(names.insert(term.name.to_lowercase()), "two terms are called {}", term.name);
        let first = term.says.chars().next().unwrap();
        assert!(first.is_uppercase() || first.is_ascii_digit(), "{}", term.id);
        assert!(term.says.ends_with('.') && !term.says.contains(". "), "{}: one sentence", term.id);
        assert!((40..=230).contains(&term.says.len()), "{}: {} letters", term.id, term.says.len());
        assert!(!term.source.is_empty(), "{}", term.id);
        for place in term.fields.iter().map(|f| ("field", *f)).chain(term.figures.iter().map(|f| ("figure", *f))) {
            assert!(shown.insert(place), "{place:?} is explained twice");
        }
    }
    let ids = terms().iter().map(|t| t.id).collect::<BTreeSet<_>>();
    assert_eq!(ids.len(), terms().len());
    // a further name leads to one term
    let mut also = BTreeMap::new();
    for term in terms() {
        for other in term.also {
            assert_eq!(also.insert(other.to_lowercase(), term.id), None, "{other}");
        }
    }
}

#[test]
fn every_field_is_one_of_the_published_documents() {
    let text = ["design.json", "measurement.json", "woofer.json", "amplifier.json", "work-plan.json", "jig.json"]
        .iter()
        .filter_map(|name| std::fs::read_to_string(docs("schema").join(name)).ok())
        .collect::<Vec<_>>()
        .join("\n");
    for term in terms() {
        for field in term.fields {
            assert!(text.contains(&format!("\"{field}\":")), "{}: no document states {field}", term.id);
        }
    }
}

/// Families a design may state are explained by one drawn term each; a new one has its own summary until it has a term.
#[test]
fn every_family_is_explained_and_drawn() {
    fn stated(in_: &Value, to: &mut BTreeSet<String>) {
        match in_ {
            Value::Object(map) => {
                to.extend(map.get("family").and_then(|f| f["const"].as_str()).map(str::to_owned));
                map.values().for_each(|v| stated(v, to));
            }
            Value::Array(list) => list.iter().for_each(|v| stated(v, to)),
            _ => {}
        }
    }
    let design = std::fs::read_to_string(docs("schema/design.json")).unwrap();
    let mut families = BTreeSet::new();
    stated(&serde_json::from_str(&design).unwrap(), &mut families);
    assert!(families.len() > 10, "{families:?}");
    let mut explained = BTreeSet::new();
    for term in terms() {
        for family in term.families {
            assert!(explained.insert((*family).to_owned()), "{family} is explained twice");
            assert!(term.drawing.is_some(), "{family}");
        }
    }
    assert!(explained.is_subset(&families), "{explained:?}");
    assert!(explained.len() >= 11, "{explained:?}");
}

/// What a family tells of itself is explained, but for plain sizes; what a term says it explains is there.
#[test]
fn every_figure_of_an_enclosure_and_no_other_is_explained() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let mut told = BTreeSet::new();
    for entry in std::fs::read_dir(root.join("crates/acoustics/src/families")).unwrap() {
        let text = std::fs::read_to_string(entry.unwrap().path()).unwrap();
        for call in text.split("Figure::new(").skip(1) {
            if let Some(id) = call.trim_start().strip_prefix('"').and_then(|rest| rest.split('"').next()) {
                told.insert(id.to_owned());
            }
        }
    }
    assert!(told.len() > 15, "{told:?}");
    let lanes = std::fs::read_to_string(root.join("web/src/lanes/specs.ts")).unwrap();
    let explained = terms().iter().flat_map(|t| t.figures).map(|f| (*f).to_owned()).collect::<BTreeSet<_>>();
    for id in &explained {
        assert!(told.contains(id) || lanes.contains(&format!("id: \"{id}\"")), "nothing shows {id}");
    }
    let plain = ["air_l", "delay_ms", "h", "length_mm", "radiator_mass_g"].map(str::to_owned).into();
    assert_eq!(told.difference(&explained).cloned().collect::<BTreeSet<_>>(), plain);
}

/// What a finding is about is explained at its place, but for findings about plain things: sizes, boards, money, what is missing.
#[test]
fn every_finding_that_uses_a_term_is_explained_and_no_other() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../design/src");
    let mut kinds = BTreeSet::new();
    for station in std::fs::read_dir(root).unwrap() {
        let Ok(text) = std::fs::read_to_string(station.unwrap().path().join("mod.rs")) else { continue };
        let Some((_, rest)) = text.split_once("RULES: &[Rule]") else { continue };
        let rules = rest.split_once("];").map_or(rest, |(rules, _)| rules);
        kinds.extend(rules.split("(\"").skip(1).filter_map(|r| r.split('"').next()).map(str::to_owned));
    }
    assert!(kinds.len() > 50, "{kinds:?}");
    let mut explained = BTreeSet::new();
    for term in terms() {
        for kind in term.findings {
            assert!(kinds.contains(*kind), "{}: no rule is called {kind}", term.id);
            assert!(explained.insert((*kind).to_owned()), "{kind} is explained twice");
        }
    }
    let plain = [
        "amplifier_by_no_sheet",
        "amplifier_differs",
        "amplifier_not_stated",
        "amplifier_without_place",
        "bay_through_walls",
        "boards_cross",
        "cabinet_not_stated",
        "cannot_stand",
        "gap_under_woofer",
        "hearing",
        "heavy",
        "neighbour_hears",
        "over_budget",
        "part_over_sheet",
        "parts_collide",
        "woofer_too_deep",
    ];
    assert_eq!(kinds.difference(&explained).map(String::as_str).collect::<Vec<_>>(), plain);
}

/// The drawn filters, coils and rooms are held to their closed forms: the peaking filter's gain at its middle, a coil's balance of heat,
/// the slope of phase, and what is left of a closed box's fall in a tight room (pressure follows the stroke; Small 1972).
#[test]
fn the_models_of_filters_coils_and_rooms_are_their_closed_forms() {
    use oak_drum_glossary::drawn::{drive, enclosure, room};
    assert!((20.0 * drive::raised(1.0, 6.0, 2.0).log10() - 6.0).abs() < 1e-9);
    assert!((drive::raised(1e-4, 6.0, 2.0) - 1.0).abs() < 1e-6 && (drive::raised(1e4, 6.0, 2.0) - 1.0).abs() < 1e-6);
    for v in [0.2, 1.0, 3.0] {
        let r = drive::warmed(v, 0.35);
        assert!((r - (1.0 + 0.35 * v * v / r)).abs() < 1e-12, "{v}");
    }
    assert!((drive::coil(1.0) - 2f64.sqrt()).abs() < 1e-12);
    assert!(room::by_a_wall(1.0) < 1e-12 && (room::by_a_wall(2.0) - 1.0).abs() < 1e-12);
    let phase = |x: f64, q: f64| -(x / q).atan2(1.0 - x * x);
    for (x, q) in [(0.3, 0.5), (0.9, 0.707), (1.1, 1.3), (3.0, 1.3)] {
        let h = 1e-5;
        let slope = (phase(x - h, q) - phase(x + h, q)) / (2.0 * h);
        assert!((enclosure::delay(x, q) - slope).abs() < 1e-6, "{x} {q}");
    }
    // a maximally flat box in a tight room whose lowest wave is its resonance: flat to 3 dB all the way down
    for x in [0.05f64, 0.3, 1.0, 3.0] {
        let level = 20.0 * (closed(x, 0.707) * 1f64.hypot(x.powi(-2))).log10();
        assert!(level.abs() < 0.02, "{x}: {level}");
    }
}

/// The drawn figures are held to closed forms of Small (1972, 1973).
#[test]
fn the_models_of_the_drawings_are_the_textbooks() {
    // the closed box at its resonance gives Q, far above it 1, an octave below 1/16 of that far below
    assert!((closed(1.0, 0.9) - 0.9).abs() < 1e-12);
    assert!((closed(1e3, 0.9) - 1.0).abs() < 1e-5);
    assert!((closed(0.01, 0.5) / closed(0.005, 0.5) - 4.0).abs() < 0.01);
    // the fourth-order Butterworth alignment: Qts 0.383, alpha 1.414, h 1, without losses (Thiele 1971, alignment 5)
    for x in [0.3f64, 0.7, 1.0, 1.5, 4.0] {
        let flat = 1.0 / (1.0 + x.powi(-8)).sqrt();
        let level = vented(x, 0.383, std::f64::consts::SQRT_2, 1.0, 1e9).0;
        assert!((level / flat - 1.0).abs() < 0.01, "{x}: {level} for {flat}");
    }
    // the cone rests at the tuning, the impedance dips there between two peaks
    let moved = |x: f64| vented(x, 5.0, 2.0, 1.0, 15.0).2;
    assert!(moved(1.0) < 0.3 * moved(0.52).max(moved(1.9)));
    // a leak takes from the level at the tuning: no more than 1 / QL can leave there
    assert!(vented(1.0, 0.383, 1.414, 1.0, 2.0).0 < 0.8 * vented(1.0, 0.383, 1.414, 1.0, 20.0).0);
    assert!((port_for_cone(2.0) - 1.0 / 3.0).abs() < 1e-12);
    assert!(port_for_cone(0.5) < -1.0);
}

#[test]
fn drawings_stay_on_their_sheet_and_say_what_they_show() {
    for term in terms() {
        let Some(make) = term.drawing else { continue };
        let drawing = make();
        assert!(drawing.tells.len() > 30 && !drawing.lines.is_empty(), "{}", term.id);
        for words in &drawing.words {
            let wide = 5.0 * words.text.len() as f64;
            let left = match words.anchor {
                "start" => words.x,
                "middle" => words.x - wide / 2.0,
                _ => words.x - wide,
            };
            assert!(left >= -6.0 && left + wide <= drawing.width + 6.0, "{}: \"{}\"", term.id, words.text);
            assert!((6.0..=drawing.height).contains(&words.y), "{}: \"{}\"", term.id, words.text);
        }
    }
}

#[test]
fn the_published_glossary_is_current() {
    let made = serde_json::to_string_pretty(&serde_json::json!({ "stations": all() })).unwrap() + "\n";
    let path = docs("glossary.json");
    if std::env::var_os("OAK_DRUM_WRITE").is_some() {
        std::fs::write(&path, &made).unwrap();
    }
    let kept = std::fs::read_to_string(&path).unwrap_or_default();
    let parsed = |text: &str| serde_json::from_str::<Value>(text).ok();
    assert_eq!(parsed(&kept), parsed(&made), "docs/glossary.json is old: run with OAK_DRUM_WRITE=1");
}
