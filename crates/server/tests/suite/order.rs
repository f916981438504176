//! The order of building: whether a hand still reaches what each step touches, over every demo build and cabinets of every kind.

use oak_drum_cabinet::board::{Board, Role};
use oak_drum_cabinet::bodies::{Body, clearance};
use oak_drum_design::analysis::Analysis;
use oak_drum_design::cabinet::built_cabinet::built;
use oak_drum_design::cabinet::mounted_part::Kind;
use oak_drum_design::cabinet::steps::steps;
use oak_drum_document::{Change, Checked, apply, read_value};
use serde_json::{Value, json};

/// Work on the inside of the shell.
const INSIDE: [&str; 12] = [
    "carcass",
    "braces",
    "strips",
    "bay",
    "woofer_board",
    "tunnel",
    "fold_boards",
    "port",
    "paint_port",
    "seal_edges",
    "fill",
    "side_clamped",
];
/// Work on what is screwed in.
const SET_IN: [&str; 3] = ["drill", "gaskets", "wire"];

/// No two boards of a cabinet are in each other.
fn apart(name: &str, boards: &[Board]) {
    let bodies: Vec<(&Board, Vec<Body>)> = boards
        .iter()
        .filter(|b| b.role != Role::Tube && b.ring(0.0).len() <= 4)
        .map(|b| (b, Body::of_board(b)))
        .collect();
    for (i, (a, one)) in bodies.iter().enumerate() {
        for (b, other) in &bodies[i + 1..] {
            // a brace laid through the board between the chambers is told of as a finding
            if [(a, b), (b, a)].iter().any(|(x, y)| x.role == Role::Brace && y.role == Role::Fold) {
                continue;
            }
            let pairs = one.iter().flat_map(|x| other.iter().map(move |y| clearance(x, y)));
            let deep = pairs.fold(f64::INFINITY, f64::min);
            assert!(deep > -0.05, "{name}: {} and {} share {deep:.2} mm", a.name, b.name);
        }
    }
}

/// Walks the steps of a cabinet and looks at each whether what it touches can be reached.
fn walk(name: &str, analysis: &Analysis) {
    let built = built(analysis).unwrap();
    apart(name, &built.solids.boards);
    let list = steps(analysis).unwrap();
    // each has its own minutes and tools: none is reckoned as something unknown
    for step in list.iter().filter(|s| s.id != "carry") {
        assert!(!step.tools.is_empty() && step.minutes > 0.0, "{} is not reckoned", step.id);
    }
    let ids: Vec<&str> = list.iter().map(|s| s.id.as_str()).collect();
    let at = |id: &str| ids.iter().position(|i| *i == id);
    let before = |a: &str, b: &str| {
        if let (Some(x), Some(y)) = (at(a), at(b)) {
            assert!(x < y, "{name}: {a} before {b} in {ids:?}");
        }
    };
    let woofer_inside = built.mounted_parts.iter().any(|s| s.kind == Kind::Woofer && s.face.is_none());
    let lid: Vec<&Board> = built.solids.boards.iter().filter(|b| b.lid_screws > 0).collect();
    let folded = matches!(analysis.fold, Some(Ok(_)));
    // something closes it, once and for good, or comes off again
    let closes: Vec<&str> = ["close", "lid"].into_iter().filter(|id| at(id).is_some()).collect();
    assert!(!closes.is_empty(), "{name}: nothing closes it: {ids:?}");
    let last = if at("lid").is_some() { "lid" } else { "close" };
    for id in INSIDE {
        before(id, last);
    }
    if woofer_inside {
        // whoever stands on a board inside goes in while a wall is off, and comes out again by it
        assert_eq!(lid.len(), 1, "{name}: a woofer that is glued shut");
        for id in SET_IN {
            before(id, "lid");
        }
        assert!(at("lid").is_some(), "{name}");
        let said = &list[at("lid").unwrap()];
        assert!(said.text.contains(&format!("{} screws", lid[0].lid_screws)), "{name}: {}", said.text);
    } else {
        assert!(lid.is_empty() && at("lid").is_none(), "{name}");
    }
    // layers are cut as one, dry comes before glue, gaskets want bare wood, leaks show when all is in
    before("layers", "holes");
    before("cut", "layers");
    for id in INSIDE {
        before("dry_fit", id);
    }
    before("drill", "gaskets");
    before("gaskets", "wire");
    for id in SET_IN {
        before(id, "leak_test");
        before(id, "trim");
    }
    before("close", "finish");
    if folded {
        // what is decided by measuring is measured before the side is glued; the finish comes last
        before("trim", "close");
        before("trim", "finish");
        if !woofer_inside {
            before("side_clamped", "gaskets");
            before("close", "woofers_back");
        }
        let fold = &list[at("fold_boards").unwrap()].text;
        assert!(
            built.solids.boards.iter().all(|b| b.role != Role::Baffle || fold.contains(&b.name.to_lowercase())),
            "{name}: {fold}"
        );
    }
    // no step speaks of a part that this cabinet has not
    let text: String = list.iter().map(|s| format!("{} {}\n", s.title.metric(), s.text.metric())).collect();
    let has = |kind: Kind| built.mounted_parts.iter().any(|s| s.kind == kind);
    for (there, words) in [
        (has(Kind::Port), "port"),
        (has(Kind::Amplifier), "amplifier in"),
        (has(Kind::Amplifier), "under the woofer's frame, the amplifier"),
        (has(Kind::Radiator), "radiator"),
        (has(Kind::Terminals), "terminals on"),
        (built.solids.boards.iter().any(|b| b.role == Role::Brace), "brace"),
        (built.solids.boards.iter().any(|b| b.role == Role::Brace), "braces"),
    ] {
        let told = text.to_lowercase();
        let said = told
            .split(|c: char| !c.is_alphanumeric() && c != ' ' && c != '\'')
            .any(|part| format!(" {part} ").contains(&format!(" {words} ")));
        assert!(there || !said, "{name} speaks of a {words}: {text}");
    }
    assert!(!text.contains("1 settings"), "{name}");
}

#[test]
fn every_demo_build_can_be_put_together_in_the_order_told() {
    let mut many = 0;
    for (name, list) in oak_drum_store::demo::builds().unwrap() {
        for design in list.iter().filter(|d| d.cabinet.is_some()) {
            walk(&name, &Analysis::of(design));
            many += 1;
        }
    }
    assert!(many >= 8, "{many}");
}

fn design(family: &str, changes: &[(&str, Value)]) -> Option<Checked> {
    let mut document = json!({
        "format": "oak-drum-design", "version": 5,
        "woofer": {"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 90, "re_ohm": 5.6, "sd_cm2": 330, "depth_mm": 110,
                   "cutout_mm": 230, "outside_diameter_mm": 260, "displacement_l": 2, "xmax_mm": 8},
        "enclosure": {"family": "sealed", "net_volume_l": 60},
        "cabinet": {"width_mm": 420, "height_mm": 640, "depth_mm": 520, "panel_mm": 18, "baffle_mm": 36},
    });
    let plain = read_value(document.clone()).unwrap();
    let starts = oak_drum_design::suggest(&plain);
    let start = starts.iter().find_map(|s| s.enclosure.as_ref().filter(|e| e.info().id == family))?;
    let mut all = vec![Change::set("/enclosure", serde_json::to_value(start).unwrap())];
    all.extend(changes.iter().map(|(p, v)| Change::set(*p, v.clone())));
    apply(&mut document, &all);
    Some(read_value(document).unwrap_or_else(|p| panic!("{family}: {p:?}")))
}

#[test]
fn cabinets_of_every_kind_can_be_put_together_in_the_order_told() {
    let mut many = 0;
    let brace = json!([{"kind": "window", "lies": "level", "at_mm": 300, "thickness_mm": 18, "open_part": 0.5}]);
    let tube = json!({"kind": "tube", "wall_mm": 8});
    let amplifier = json!({"kind": "closed", "width_mm": 200, "height_mm": 200, "depth_mm": 60, "at": {"face": "back", "across_mm": 210, "up_mm": 320}});
    let crossing = json!([
        {"kind": "window", "lies": "level", "at_mm": 150, "thickness_mm": 18, "open_part": 0.5},
        {"kind": "window", "lies": "upright", "at_mm": 190, "thickness_mm": 18, "open_part": 0.5},
    ]);
    let pair = json!({"count": 2, "isobaric": {"mounting": "front_to_back", "chamber_l": 9}});
    let plain: [Vec<(&str, Value)>; 7] = [
        vec![],
        vec![("/cabinet/baffle_layers", json!(2)), ("/cabinet/braces", brace.clone())],
        vec![("/cabinet/strips_mm", json!(20)), ("/cabinet/amplifier", amplifier)],
        vec![("/cabinet/shape", tube)],
        vec![("/cabinet/saw", json!({"joint": "mitre", "housing": "dado"})), ("/cabinet/veneer_mm", json!(0.6))],
        vec![("/cabinet/braces", crossing), ("/cabinet/saw", json!({"housing": "dado"}))],
        vec![("/array", pair)],
    ];
    for family in ["sealed", "vented", "passive_radiator", "bandpass_fourth", "bandpass_sixth"] {
        for (i, changes) in plain.iter().enumerate() {
            // a board between the chambers wants a box
            if family.starts_with("bandpass") && i == 3 {
                continue;
            }
            let design = design(family, changes).unwrap_or_else(|| panic!("{family}"));
            walk(&format!("{family} {i}"), &Analysis::of(&design));
            many += 1;
        }
    }
    for family in ["transmission_line", "front_horn", "back_horn", "tapped_horn"] {
        for pattern in ["u", "s"] {
            for (width, height, depth) in [(420, 1100, 500), (500, 1400, 900)] {
                let size = json!({"width_mm": width, "height_mm": height, "depth_mm": depth, "panel_mm": 18, "baffle_mm": 18,
                    "fold": {"pattern": pattern}});
                let Some(design) = design(family, &[("/cabinet", size)]) else { continue };
                let analysis = Analysis::of(&design);
                if matches!(analysis.fold, Some(Ok(_))) {
                    walk(&format!("{family} {pattern} {width}"), &analysis);
                    many += 1;
                }
            }
        }
    }
    assert!(many >= 30, "{many}");
}
