//! The outside, step by step: what is done depends on board, veneer and finish, and its order holds.

use oak_drum_design::analysis::Analysis;
use oak_drum_design::cabinet::finishing::{coats, kind};
use oak_drum_design::cabinet::step::Step;
use oak_drum_design::cabinet::steps::steps_with;
use oak_drum_document::{Days, FinishKind, read_value};
use oak_drum_text::System;
use serde_json::{Value, json};

const KINDS: [FinishKind; 6] = [
    FinishKind::RolledPaint,
    FinishKind::Lacquer,
    FinishKind::Oil,
    FinishKind::StainAndClear,
    FinishKind::Textured,
    FinishKind::Wrap,
];

fn analysis(board: &str, veneer: Value) -> Analysis {
    let document = json!({
        "format": "oak-drum-design", "version": 8,
        "woofer": {"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "depth_mm": 120, "cutout_mm": 283},
        "enclosure": {"family": "sealed", "net_volume_l": 70},
        "cabinet": {"width_mm": 420, "height_mm": 600, "depth_mm": 485, "panel_mm": 18, "baffle_mm": 18, "board": board,
            "veneer_mm": veneer, "round_over_mm": 9, "feet_mm": 20},
    });
    Analysis::of(&read_value(document).unwrap_or_else(|p| panic!("{p:?}")))
}

fn outside(a: &Analysis, days: &Days) -> Vec<Step> {
    steps_with(a, days).unwrap().into_iter().filter(|s| s.stage == "Outside").collect()
}

fn ids(list: &[Step]) -> Vec<&str> {
    list.iter().map(|s| s.id.as_str()).collect()
}

#[test]
fn the_outside_follows_from_board_veneer_and_finish() {
    let days = |finish| Days { finish, ..Days::default() };
    let (mdf, plywood, veneered) =
        (analysis("mdf", Value::Null), analysis("birch_plywood", Value::Null), analysis("mdf", json!(0.6)));
    // what nobody said: rolled paint, oil over veneer
    assert_eq!(kind(&mdf, &Days::default()), FinishKind::RolledPaint);
    assert_eq!(kind(&veneered, &Days::default()), FinishKind::Oil);
    assert_eq!(
        ids(&outside(&mdf, &Days::default())),
        ["round_over", "fill_holes", "sand", "mask", "seal_outside", "coat_1", "coat_2", "finish", "feet"]
    );
    assert_eq!(
        ids(&outside(&veneered, &Days::default())),
        ["round_over", "fill_holes", "sand", "veneer", "mask", "coat_1", "finish", "feet"]
    );
    assert_eq!(
        ids(&outside(&plywood, &days(FinishKind::StainAndClear))),
        ["round_over", "fill_holes", "sand", "mask", "stain", "coat_1", "coat_2", "finish", "feet"]
    );
    assert_eq!(
        ids(&outside(&plywood, &days(FinishKind::Wrap))),
        ["round_over", "fill_holes", "sand", "mask", "finish", "feet"]
    );
    // textured coats want no primer
    assert!(!ids(&outside(&mdf, &days(FinishKind::Textured))).contains(&"seal_outside"));
    // a sealed box has no port to mask
    assert!(outside(&mdf, &Days::default()).iter().all(|s| !s.text.metric().contains("port")));
}

#[test]
fn every_finish_has_its_grits_coats_and_cautions() {
    let a = analysis("mdf", Value::Null);
    for finish in KINDS {
        for wished in [None, Some(1), Some(5)] {
            let days = Days { finish, coats: wished, ..Days::default() };
            let list = outside(&a, &days);
            let expected =
                if finish == FinishKind::Wrap { 1 } else { wished.unwrap_or(coats(finish, &Days::default())) };
            let coated = list.iter().filter(|s| s.id == "finish" || s.id.starts_with("coat_")).count();
            assert_eq!(coated, expected as usize, "{finish:?} {wished:?}");
            // names are each step's own, what smells says so, and dust too
            let mut names = ids(&list);
            names.sort_unstable();
            names.dedup();
            assert_eq!(names.len(), list.len());
            for s in &list {
                let caution = s.caution.as_ref().map(|c| c.metric()).unwrap_or_default();
                match s.id.as_str() {
                    "sand" => assert!(caution.contains("mask") && s.text.metric().contains("100, 150"), "{s:?}"),
                    "round_over" => assert!(caution.contains("Router")),
                    id if id == "finish" || id.starts_with("coat_") => assert!(caution.contains("Solvents"), "{s:?}"),
                    _ => {}
                }
                assert!(s.minutes > 0.0 && s.hands >= 1, "{s:?}");
                // sizes are said in inches too
                assert!(!s.text.said(System::Inch).contains(" m²"), "{s:?}");
            }
        }
    }
}

/// More to coat takes longer, and so do more holes and more pieces; nothing takes no time.
#[test]
fn minutes_grow_with_the_work() {
    let small = analysis("mdf", Value::Null);
    let large = {
        let document = json!({
            "format": "oak-drum-design", "version": 8,
            "woofer": {"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "depth_mm": 120, "cutout_mm": 283, "screws": 8},
            "array": {"count": 2},
            "enclosure": {"family": "sealed", "net_volume_l": 300},
            "cabinet": {"width_mm": 700, "height_mm": 1100, "depth_mm": 600, "panel_mm": 18, "baffle_mm": 18, "board": "mdf",
                "braces": [{"kind": "window", "lies": "level", "at_mm": 400, "thickness_mm": 18, "open_part": 0.5}]},
        });
        Analysis::of(&read_value(document).unwrap_or_else(|p| panic!("{p:?}")))
    };
    let of = |a: &Analysis, id: &str| {
        steps_with(a, &Days::default()).unwrap().into_iter().find(|s| s.id == id).map_or(0.0, |s| s.minutes)
    };
    for id in ["cut", "holes", "sand", "finish", "drill"] {
        assert!(of(&large, id) > of(&small, id), "{id}: {} against {}", of(&large, id), of(&small, id));
    }
    for a in [&small, &large] {
        let list = steps_with(a, &Days::default()).unwrap();
        assert!(list.iter().all(|s| s.minutes >= 5.0 && s.minutes < 600.0), "{list:?}");
        // two weekends for a plain box (common practice): between eight and forty hours of work
        let whole: f64 = list.iter().map(|s| s.minutes).sum::<f64>() / 60.0;
        assert!((6.0..40.0).contains(&whole), "{whole} h");
    }
}
