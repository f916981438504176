//! Clamps, bits, the jig's settings, screws and wires for a cabinet.

use oak_drum_acoustics::cable::{COPPER, gauge_mm2};
use oak_drum_acoustics::panels::BoardMaterial;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::cabinet::fasteners::{Bites, Fastening, lead_hole};
use oak_drum_design::cabinet::kit::{Kit, Sort, kit};
use oak_drum_design::cabinet::materials::bill;
use oak_drum_document::{Change, Days, Owned, Prices, apply, read_value};
use oak_drum_text::System;
use proptest::prelude::*;
use serde_json::{Value, json};

fn analysis(changes: &[(&str, Value)]) -> Analysis {
    let mut document = json!({
        "format": "oak-drum-design", "version": 8,
        "woofer": {"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "depth_mm": 120,
                   "cutout_mm": 288, "outside_diameter_mm": 315, "magnet_diameter_mm": 150, "screws": 8, "flange_mm": 5,
                   "screw_hole_mm": 5.6, "screw_circle_mm": 300},
        "enclosure": {"family": "sealed", "net_volume_l": 70},
        "cabinet": {"width_mm": 420, "height_mm": 600, "depth_mm": 485, "panel_mm": 18, "baffle_mm": 18,
            "woofers_at": [{"face": "baffle", "across_mm": 210, "up_mm": 300}],
            "terminals": {"hole_mm": 76, "depth_mm": 50, "at": {"face": "back", "across_mm": 210, "up_mm": 100}}},
    });
    let changes: Vec<Change> = changes.iter().map(|(p, v)| Change::set(*p, v.clone())).collect();
    apply(&mut document, &changes);
    Analysis::of(&read_value(document).unwrap_or_else(|p| panic!("{p:?}")))
}

fn of(a: &Analysis) -> Kit {
    kit(a, &Days::default(), &[]).unwrap()
}

fn screws<'a>(kit: &'a Kit, id: &str) -> &'a Fastening {
    kit.screws.iter().find(|s| s.id == id).unwrap_or_else(|| panic!("no {id}"))
}

/// Common practice: a cabinet of 60 cm wants at least eight clamps, four near 90 cm and four near 60 cm.
#[test]
fn a_cabinet_of_sixty_centimetres_wants_eight_clamps() {
    let clamps = |a: &Analysis| -> Vec<(u32, f64)> {
        let list = of(a).things;
        list.iter().filter(|t| t.sort == Sort::Clamp).map(|t| (t.many, t.size_mm.unwrap())).collect()
    };
    assert_eq!(clamps(&analysis(&[])), [(4, 700.0), (4, 590.0)]);
    // the sides run through: then the width is pulled together
    assert_eq!(clamps(&analysis(&[("/cabinet/saw", json!({"through": "sides"}))])), [(4, 520.0), (4, 590.0)]);
    let mitred = clamps(&analysis(&[("/cabinet/saw", json!({"joint": "mitre"}))]));
    assert_eq!(mitred.iter().map(|c| c.0).sum::<u32>(), 12);
}

/// The longest clamps go to the longest need; what is too short does not count; a bit counts for its own size.
#[test]
fn what_the_workshop_has_is_ticked() {
    let a = analysis(&[]);
    let has = |list: Vec<(&str, Option<f64>, u32)>| -> Vec<(String, Option<f64>, u32, u32)> {
        let owned: Vec<Owned> =
            list.into_iter().map(|(t, size_mm, many)| Owned { thing: t.into(), size_mm, many }).collect();
        let things = kit(&a, &Days::default(), &owned).unwrap().things;
        things.into_iter().map(|t| (t.thing, t.size_mm, t.many, t.has)).collect()
    };
    let clamps = |list: Vec<(&str, Option<f64>, u32)>| -> Vec<u32> {
        has(list).into_iter().filter(|t| t.0 == "clamp").map(|t| t.3).collect()
    };
    assert_eq!(clamps(vec![]), [0, 0]);
    assert_eq!(clamps(vec![("clamp", Some(900.0), 6)]), [4, 2]);
    assert_eq!(clamps(vec![("clamp", Some(600.0), 6)]), [0, 4]);
    assert_eq!(clamps(vec![("clamp", Some(500.0), 20)]), [0, 0]);
    let found = has(vec![("router", None, 1), ("drill_bit", Some(3.0), 1), ("straight_bit", Some(6.0), 1)]);
    let one = |thing: &str, size: Option<f64>| found.iter().find(|t| t.0 == thing && t.1 == size).map(|t| t.3);
    assert_eq!(one("router", None), Some(1));
    assert_eq!(one("drill_bit", Some(3.0)), Some(1), "{found:?}");
    assert_eq!(one("straight_bit", Some(8.0)), Some(0), "one of 6 mm is none of 8 mm");
    assert_eq!(one("jigsaw", None), Some(0));
}

/// What a router takes away lies within the hole: pivot to the bit's middle and half the bit are the hole's radius. A hole let in is
/// routed first wide and shallow, then through (common practice).
#[test]
fn the_jig_is_set_for_every_round_hole() {
    let kit = of(&analysis(&[("/cabinet/recess_mm", json!(6)), ("/cabinet/saw", json!({"fit_mm": 2}))]));
    let told: Vec<(String, f64, f64)> =
        kit.circles.iter().map(|c| (c.what.said(System::Metric), c.diameter_mm, c.depth_mm)).collect();
    assert!(told[0].0.starts_with("woofer in ") && told[0].0.ends_with("first its recess"), "{told:?}");
    assert_eq!((told[0].1, told[0].2, told[1].1, told[1].2), (317.0, 6.0, 290.0, 18.0));
    for circle in &kit.circles {
        let radius = circle.radius_mm.unwrap();
        assert!((2.0 * radius + circle.bit_mm - circle.diameter_mm).abs() < 1e-9, "{circle:?}");
    }
    // small ones are sawn
    let small = json!({"hole_mm": 40, "depth_mm": 30, "at": {"face": "back", "across_mm": 210, "up_mm": 100}});
    let kit = of(&analysis(&[("/cabinet/terminals", small)]));
    let cup = kit.circles.iter().find(|c| c.what.contains("terminals")).unwrap();
    assert_eq!((cup.radius_mm, cup.bit_mm), (None, 42.0));
}

/// Lead holes against a chart as drill makers print it (from memory): for gauge 6, 8 and 10 in hardwood 3/32, 7/64, 1/8 in, in softwood
/// 5/64, 3/32, 7/64 in, within half a millimetre; never more than the roots of the same gauges in the National Design Specification,
/// appendix L (from memory: 0.113, 0.131, 0.152 in), for then nothing would hold.
#[test]
fn lead_holes_are_those_of_the_charts() {
    let inch = 25.4;
    for (metric, hard, soft, root) in [
        (3.5, 3.0 / 32.0, 5.0 / 64.0, 0.113),
        (4.0, 7.0 / 64.0, 3.0 / 32.0, 0.131),
        (5.0, 1.0 / 8.0, 7.0 / 64.0, 0.152),
    ] {
        for (board, chart) in [(BoardMaterial::BirchPlywood, hard), (BoardMaterial::Pine, soft)] {
            let drill = lead_hole(metric, board);
            assert!((drill - chart * inch).abs() <= 0.5, "{metric} in {board:?}: {drill} against {}", chart * inch);
            assert!(drill <= root * inch);
        }
        // fibreboard splits at its edges: never less than in hardwood, never more than the root
        let fibre = lead_hole(metric, BoardMaterial::Mdf);
        assert!(fibre >= lead_hole(metric, BoardMaterial::BirchPlywood) && fibre <= root * inch + 0.1, "{fibre}");
    }
}

#[test]
fn screws_have_a_size_and_a_line_in_the_bill() {
    let a = analysis(&[]);
    let kit = of(&a);
    let frame = screws(&kit, "frame_screws");
    assert_eq!((frame.count, frame.bites, frame.diameter_mm, frame.length_mm), (8, Bites::Wood, 5.0, 25.0));
    assert_eq!((frame.bite_mm, frame.washer_mm, frame.estimated), (18.0, None, false));
    let joints = screws(&kit, "joint_screws");
    assert_eq!((joints.diameter_mm, joints.length_mm, joints.drill_mm), (4.0, 45.0, 3.0));
    let bill = bill(&a, &Prices::default()).unwrap();
    let line = bill.items.iter().find(|i| i.id == "frame_screws").unwrap();
    assert!(line.what.contains("5 x 25 mm") && line.quantity == 8.0, "{}", line.what);
    assert!(line.what.said(System::Inch).contains("no. 10 x 7/8 in"), "{}", line.what.said(System::Inch));
    // let in, too little of the board is left for a wood screw
    let let_in = of(&analysis(&[("/cabinet/recess_mm", json!(6))]));
    let frame = screws(&let_in, "frame_screws");
    assert_eq!((frame.bites, frame.diameter_mm), (Bites::DrivenNut, 5.0));
    assert!(frame.length_mm >= 5.0 + 12.0);
    // a sheet that states nothing: said to be an estimate
    let bare = of(&analysis(&[("/woofer/flange_mm", Value::Null), ("/woofer/screw_hole_mm", Value::Null)]));
    let frame = screws(&bare, "frame_screws");
    assert!(frame.estimated && frame.said.contains("look before you buy"));
}

/// The stated circle is drilled on where it lies between hole and rim; else the middle.
#[test]
fn the_stated_screw_circle_is_drawn() {
    let circle = |value: f64| {
        let a = analysis(&[("/woofer/screw_circle_mm", json!(value))]);
        let built = oak_drum_design::cabinet::built_cabinet::built(&a).unwrap();
        let hole = built.solids.boards.iter().flat_map(|b| &b.holes).find(|h| h.name == "woofer").unwrap();
        hole.screw_circle_mm.unwrap()
    };
    assert_eq!(circle(300.0), 300.0);
    assert_eq!(circle(280.0), 0.5 * (315.0 + 290.0));
}

/// One woofer in the middle of the baffle, a cup in the middle of the back 200 mm lower: the way along the walls by hand.
#[test]
fn wires_reach_and_come_out_again() {
    let a = analysis(&[]);
    let leads = of(&a).leads.unwrap();
    // behind the magnet is 120 mm in, behind the cup 485 - 50: 315 mm across the depth and 200 down, there and back, 300 at each end
    let by_hand: f64 = 2.0 * (315.0 + 200.0) + 4.0 * 300.0;
    assert_eq!(leads.wire_m, (by_hand / 500.0).ceil() / 2.0);
    assert!((leads.ohm - by_hand * 1e-3 * COPPER / (leads.area_mm2 * 1e-6)).abs() < 1e-9);
    assert!(leads.ohm <= 0.01 * 5.6 && leads.area_mm2 == 2.5 && leads.ends == 4 && !leads.estimated);
    assert!((gauge_mm2(14) / 2.5).ln().abs() < (gauge_mm2(12) / 2.5).ln().abs(), "told as AWG 14 in inches");
    assert!(leads.said.said(System::Inch).contains("AWG 14"));
    let ends = |count: u32, series: u32, coils: Value| {
        let at: Vec<Value> =
            (0..count).map(|i| json!({"face": "baffle", "across_mm": 210, "up_mm": 170 + 290 * i})).collect();
        let a = analysis(&[
            ("/array", json!({"count": count, "woofers_in_series": series})),
            ("/cabinet/height_mm", json!(900)),
            ("/cabinet/woofers_at", json!(at)),
            ("/woofer/coils", coils),
        ]);
        of(&a).leads.unwrap().ends
    };
    assert_eq!(ends(2, 1, json!("single")), 8);
    assert_eq!(ends(2, 2, json!("single")), 6);
    assert_eq!(ends(1, 1, json!("dual")), 4 + 4);
    // nobody said where the cable comes in
    assert!(of(&analysis(&[("/cabinet/terminals", Value::Null)])).leads.unwrap().estimated);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]

    /// Whatever board, frame and hole: a wood screw never comes out inside and bites on three diameters, one into a nut reaches it, and
    /// no head goes through the frame.
    #[test]
    fn no_screw_comes_out_and_no_head_goes_through(baffle in 9.0..45.0f64, flange in 1.0..12.0f64, hole in 3.4..9.0f64, recess in 0.0..8.0f64) {
        let mut changes = vec![
            ("/cabinet/baffle_mm", json!(baffle)), ("/woofer/flange_mm", json!(flange)), ("/woofer/screw_hole_mm", json!(hole)),
        ];
        if recess > 0.5 {
            changes.push(("/cabinet/recess_mm", json!(recess)));
        }
        let kit = of(&analysis(&changes));
        let s = screws(&kit, "frame_screws");
        let wood = baffle - if recess > 0.5 { recess } else { 0.0 };
        let whole = flange + 2.0 + wood;
        match s.bites {
            Bites::Wood => prop_assert!(s.length_mm <= whole + 1e-9 && s.bite_mm >= 3.0 * s.diameter_mm - 1e-9, "{s:?}"),
            Bites::DrivenNut => prop_assert!(s.length_mm >= whole - 1e-9, "{s:?}"),
        }
        prop_assert!(s.diameter_mm < hole || s.diameter_mm <= 4.0, "{s:?}");
        prop_assert!(s.head_mm.max(s.washer_mm.unwrap_or(0.0)) >= hole + 1.5 - 1e-9, "{s:?}");
    }
}
