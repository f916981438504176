//! The cut list and sheets of a design: what is sawn is what the ledger counts.

use oak_drum_design::analysis::Analysis;
use oak_drum_design::cabinet::built_cabinet::built;
use oak_drum_design::cabinet::cutting::cutting;
use oak_drum_document::{Change, Checked, apply, read_value};
use serde_json::{Value, json};

fn design(changes: &[(&str, Value)]) -> Checked {
    let mut document = json!({
        "format": "oak-drum-design", "version": 5,
        "woofer": {"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "depth_mm": 120},
        "enclosure": {"family": "sealed", "net_volume_l": 80},
        "cabinet": {"width_mm": 420, "height_mm": 600, "depth_mm": 485, "panel_mm": 18, "baffle_mm": 36, "braces": [
            {"kind": "window", "lies": "level", "at_mm": 120, "thickness_mm": 18, "open_part": 0.5},
            {"kind": "shelf", "lies": "upright", "at_mm": 60, "thickness_mm": 15, "reach_part": 0.6},
            {"kind": "cross", "lies": "frontal", "at_mm": 300, "bar_mm": 30}]},
    });
    let changes: Vec<Change> = changes.iter().map(|(p, v)| Change::set(*p, v.clone())).collect();
    apply(&mut document, &changes);
    read_value(document).unwrap_or_else(|p| panic!("{p:?}"))
}

/// The air by the solids is that of the ledger before woofer, port and strips are off, braces counted once.
#[test]
fn the_solids_are_what_the_ledger_counts() {
    let d = design(&[]);
    let analysis = Analysis::of(&d);
    let solids = built(&analysis).unwrap().solids;
    let carcass = solids.carcass.unwrap();
    let air = carcass.air() * 1e-6;
    let ledger = analysis.ledger.as_ref().unwrap();
    let counted: f64 = ledger
        .lines
        .iter()
        .filter(|l| ["outside", "panels", "braces"].contains(&l.id.as_str()))
        .map(|l| l.litres)
        .sum();
    assert!((air / counted - 1.0).abs() < 1e-9, "{air} against {counted}");
    assert!((cutting(&analysis).unwrap().air_l - air).abs() < 1e-9);
}

/// Braces that cross are counted once: two windows, a shelf and a bar in three directions, by inclusion and exclusion of their
/// boxes, worked out from the document alone.
#[test]
fn braces_that_cross_are_counted_once() {
    let braces = json!([
        {"kind": "shelf", "lies": "level", "at_mm": 200, "thickness_mm": 18, "reach_part": 1},
        {"kind": "shelf", "lies": "upright", "at_mm": 190, "thickness_mm": 15, "reach_part": 1},
        {"kind": "shelf", "lies": "frontal", "at_mm": 220, "thickness_mm": 12, "reach_part": 1},
        {"kind": "dowel", "ties": "floor_and_top", "at_mm": 90, "and_mm": 100, "diameter_mm": 30},
    ]);
    let d = design(&[("/cabinet/braces", braces)]);
    let analysis = Analysis::of(&d);
    let (w, h, deep) = (384.0, 564.0, 431.0);
    let (a, b, c) = (18.0, 15.0, 12.0);
    let each = a * w * deep + b * h * deep + c * w * h;
    let pairs = a * b * deep + a * c * w + b * c * h;
    let bar = std::f64::consts::PI * 15.0 * 15.0 * (h - a);
    let wanted = (each - pairs + a * b * c + bar) * 1e-6;
    let line = analysis.ledger.as_ref().unwrap().lines.iter().find(|l| l.id == "braces").unwrap().litres;
    // where all three meet, a slot for one is a hair wider than what is left of the other
    assert!((line / -wanted - 1.0).abs() < 1e-4, "{line} against {wanted}");
    let cutting = cutting(&analysis).unwrap();
    let air = (w * h * deep) * 1e-6 + line;
    assert!((cutting.air_l / air - 1.0).abs() < 1e-9, "{} against {air}", cutting.air_l);
    let edges: Vec<String> =
        cutting.parts.iter().map(|p| p.part.edges.metric()).filter(|e| e.contains("half-lap")).collect();
    assert_eq!(edges.len(), 3, "{edges:?}");
}

/// Every piece lies on a sheet; the baffle of another board has a stock of its own; weights are those of the parts.
#[test]
fn parts_sheets_and_weights() {
    let d = design(&[("/cabinet/baffle_board", json!("birch_plywood"))]);
    let found = cutting(&Analysis::of(&d)).unwrap();
    let pieces: u32 = found.parts.iter().map(|p| p.part.count).sum();
    // six of the carcass, window, shelf, three cross bars
    assert_eq!(pieces, 11);
    // the bars are bought as bars
    let placed: usize = found.stocks.iter().map(|s| s.layout.placed.len()).sum();
    assert_eq!(placed, 8);
    assert_eq!(found.parts.iter().filter(|p| p.board == "square bar").map(|p| p.part.count).sum::<u32>(), 3);
    assert_eq!(found.stocks.iter().filter(|s| s.board == "birch plywood").count(), 1);
    let weight: f64 = found.parts.iter().map(|p| p.weight_kg * f64::from(p.part.count)).sum();
    // the window is listed with what is sawn out of it still in
    assert!(weight > found.weight_kg && weight < found.weight_kg * 1.15, "{weight} against {}", found.weight_kg);
    // 420 mm is 16 17/32 in, a little short
    let floor = found.parts.iter().find(|p| p.part.name.starts_with("Floor")).unwrap();
    assert!(floor.width_in == "16 17/32 in" || floor.length_in == "16 17/32 in", "{floor:?}");
}

/// What a shop leaves on is in the sheets, not in the finished sizes; without a cabinet there is nothing to saw.
#[test]
fn oversize_is_for_the_sheet() {
    let plain = cutting(&Analysis::of(&design(&[]))).unwrap();
    let over = cutting(&Analysis::of(&design(&[("/cabinet/saw", json!({"oversize_mm": 12}))]))).unwrap();
    for (a, b) in plain.parts.iter().zip(&over.parts) {
        assert_eq!(a.part, b.part);
        assert!((b.rough_length_mm - a.rough_length_mm - 12.0).abs() < 1e-9);
    }
    assert!(cutting(&Analysis::of(&design(&[("/cabinet", Value::Null)]))).is_none());
}

/// Who lifts a whole sheet is said beside the sheets and in the step, of the heaviest of them; not where the shop cuts it first, nor
/// of one that a person lifts.
#[test]
fn who_lifts_a_sheet_is_told_where_it_is_sawn() {
    let boards = |more: &[(&str, Value)]| {
        let cabinet = json!({"width_mm": 420, "height_mm": 600, "depth_mm": 485, "panel_mm": 18, "baffle_mm": 18});
        cutting(&Analysis::of(&design(&[&[("/cabinet", cabinet)], more].concat()))).unwrap()
    };
    let whole = boards(&[]);
    // 2.44 m by 1.22 m by 18 mm of MDF at its density
    let density = oak_drum_acoustics::panels::BOARDS.iter().find(|b| b.title == "MDF").unwrap().density;
    let weight = 2.44 * 1.22 * 0.018 * density;
    assert!((whole.stocks[0].sheet_kg - weight).abs() < 1e-9);
    let lifting = whole.lifting.unwrap();
    assert!(lifting.starts_with(&format!("A whole sheet weighs about {weight:.0} kg: ")), "{}", lifting.metric());
    let small = boards(&[("/cabinet/saw", json!({"sheet_length_mm": 1220, "sheet_width_mm": 610}))]);
    assert!(small.lifting.is_none() && small.stocks[0].sheet_kg < 25.0);
    let carried = json!({"carried": {"length_mm": 1300, "width_mm": 800}});
    assert!(boards(&[("/cabinet/saw", carried)]).lifting.is_none());
}
