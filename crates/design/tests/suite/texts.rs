//! Sentences carry their quantities: nothing that is handed out tells a size in one system alone.

use crate::remedies::demo;
use oak_drum_cabinet::drawing::Item;
use oak_drum_cabinet::drawing::svg;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::cabinet::{cutting, drawings, materials, steps, view};
use oak_drum_document::{Prices, read_value};
use oak_drum_text::{System, Text};
use serde_json::{Value, json};

const METRIC: [&str; 8] = ["mm", "m", "mm²", "cm²", "m²", "cm2", "L", "kg"];
/// An inch is told from the word "in" by its fractions only, so it is not among them.
const INCH: [&str; 5] = ["ft", "in²", "ft²", "ft³", "lb"];

/// A number and one of these units behind it.
fn counts_in(text: &str, units: &[&str]) -> bool {
    let words: Vec<&str> = text.split_whitespace().collect();
    words.windows(2).any(|pair| {
        let number = pair[0].trim_start_matches('(').ends_with(|c: char| c.is_ascii_digit());
        number && units.contains(&pair[1].trim_end_matches(['.', ',', ';', ':', ')']))
    })
}

/// Looks through all that is handed out; `place` is where.
fn look(place: &str, value: &Value, texts: &mut usize) {
    match value {
        Value::String(text) => {
            assert!(!text.contains(['\u{E0D0}', '\u{E0D1}', '\u{E0D2}']), "{place}: a mark in {text:?}");
            // where a board's figures come from names the boards of a handbook
            let quoted = place.ends_with("/sources") || place.ends_with("_in");
            assert!(quoted || !counts_in(text, &METRIC), "{place} tells a size in one system: {text}");
        }
        Value::Array(list) => {
            if list.iter().any(|p| p.get("inch").is_some()) {
                let text: Text = serde_json::from_value(value.clone()).unwrap();
                let (metric, inch) = (text.said(System::Metric), text.said(System::Inch));
                assert!(!counts_in(&inch, &METRIC), "{place}: {inch}");
                assert!(!counts_in(&metric, &INCH), "{place}: {metric}");
                assert!(text.quantities().all(|q| q.values.iter().all(|v| v.is_finite())), "{place}: {metric}");
                *texts += 1;
                return;
            }
            list.iter().for_each(|v| look(place, v, texts));
        }
        Value::Object(object) => object.iter().for_each(|(k, v)| look(&format!("{place}/{k}"), v, texts)),
        _ => {}
    }
}

#[test]
fn every_sentence_of_the_demo_is_said_in_both() {
    let mut texts = 0;
    for (_, design) in demo() {
        let a = Analysis::of(&design);
        let all = json!({
            "result": oak_drum_design::evaluation::evaluate(&design),
            "airway": oak_drum_design::airway::airway(&design),
            "quiet": oak_drum_design::quiet::quiet(&design),
            "suggestions": oak_drum_design::suggest(&design),
            "view": view::view(&a).map(|mut v| { v.section_svg.clear(); v }),
            "cutting": cutting::cutting(&a),
            "bill": materials::bill(&a, &Prices::default()),
            "steps": steps::steps(&a),
        });
        look("", &all, &mut texts);
        for named in drawings::drawings(&a).unwrap_or_default() {
            let said = named.drawing.clone().said(System::Inch);
            for (_, item) in &said.items {
                if let Item::Text(_, words, ..) = item {
                    let ruler = words.starts_with("100 mm");
                    assert!(ruler || !counts_in(words, &METRIC), "{}: {words}", named.id);
                }
            }
            assert!(!counts_in(&format!("{} {}", said.title, said.note), &METRIC), "{}: {}", said.title, said.note);
            assert!(!svg::write(&named.drawing).contains('\u{E0D0}'), "{}", named.id);
        }
    }
    assert!(texts > 800, "only {texts} texts carried quantities");
}

/// What is wrong with a value is told in the field's unit.
#[test]
fn limits_are_told_in_the_fields_unit() {
    let woofer = json!({"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530});
    let problems =
        read_value(json!({"format": "oak-drum-design", "version": oak_drum_document::VERSION, "woofer": woofer,
        "enclosure": {"family": "sealed", "net_volume_l": -3},
        "cabinet": {"width_mm": 0, "height_mm": 500, "depth_mm": 400, "panel_mm": 18, "baffle_mm": 18}}))
        .unwrap_err();
    let of = |pointer: &str| problems.iter().find(|p| p.pointer == pointer).unwrap();
    assert!(of("/enclosure/net_volume_l").message.contains("at least 0.2 L is expected"));
    let width = of("/cabinet/width_mm").message.said(System::Inch);
    assert!(width.contains("in is expected") && !width.contains("mm"), "{width}");
    // on a command line a problem is a line in millimetres
    assert!(of("/cabinet/width_mm").to_string().contains("mm is expected"));
}

/// Both ends of a range are told in the same unit.
#[test]
fn both_ends_of_a_range_are_sizes() {
    let woofer = json!({"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530});
    let problems =
        read_value(json!({"format": "oak-drum-design", "version": oak_drum_document::VERSION, "woofer": woofer,
        "enclosure": {"family": "sealed", "net_volume_l": 50},
        "cabinet": {"width_mm": 400, "height_mm": 600, "depth_mm": 400, "panel_mm": 18, "baffle_mm": 18,
                    "shape": {"kind": "stepped", "at_mm": 590, "back_mm": 40}}}))
        .unwrap_err();
    let told = &problems.iter().find(|p| p.pointer == "/cabinet/shape/at_mm").unwrap().message;
    assert_eq!(told.quantities().count(), 2, "{}", told.metric());
}
