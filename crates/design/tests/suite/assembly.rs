//! Random cabinets put together by their own numbers: from the cut list and what stands in which joint, not from the solids.

use oak_drum_cabinet::board::{Board, Role};
use oak_drum_cabinet::bodies::{Body, clearance};
use oak_drum_cabinet::drawing::Item;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::cabinet::built_cabinet::built;
use oak_drum_design::cabinet::cutting::{CutPart, cutting};
use oak_drum_design::cabinet::drawings::drawings;
use oak_drum_design::cabinet::steps::steps;
use oak_drum_document::{Change, apply, read_value};
use proptest::prelude::*;
use serde_json::{Value, json};

#[derive(Clone, Debug)]
struct Wish {
    outside: [f64; 3],
    panel: f64,
    joint: &'static str,
    through: &'static str,
    housing: &'static str,
    shape: Value,
    braces: Vec<Value>,
    strips: Option<f64>,
    layers: u32,
    port: Value,
}

fn wishes() -> impl Strategy<Value = Wish> {
    let shape = prop_oneof![
        Just(json!({"kind": "straight"})),
        (20.0..120.0f64).prop_map(|back| json!({"kind": "sloped", "back_mm": back.round()})),
        (20.0..80.0f64).prop_map(|back| json!({"kind": "stepped", "at_mm": 320, "back_mm": back.round()})),
    ];
    let brace = prop_oneof![
        (100.0..240.0f64).prop_map(
            |at| json!({"kind": "window", "lies": "level", "at_mm": at.round(), "thickness_mm": 18, "open_part": 0.5})
        ),
        (100.0..250.0f64).prop_map(
            |at| json!({"kind": "shelf", "lies": "upright", "at_mm": at.round(), "thickness_mm": 15, "reach_part": 0.4})
        ),
        (200.0..250.0f64).prop_map(|at| json!({"kind": "cross", "lies": "level", "at_mm": at.round(), "bar_mm": 30})),
        (150.0..250.0f64).prop_map(
            |at| json!({"kind": "window", "lies": "frontal", "at_mm": at.round(), "thickness_mm": 15, "open_part": 0.6})
        ),
    ];
    let slot = |walls: u32| {
        move |length: f64| {
            json!({"section": {"shape": "slot", "width_mm": 120, "height_mm": 40}, "count": 2, "walls_alongside": walls, "wall_mm": 12,
                   "sizing": {"by": "length", "length_mm": length.round()}})
        }
    };
    let port = prop_oneof![
        (100.0..300.0f64).prop_map(|length| json!({"section": {"shape": "round", "diameter_mm": 90}, "count": 1, "sizing": {"by": "length", "length_mm": length.round()}})),
        (100.0..300.0f64).prop_map(slot(1)),
        (100.0..300.0f64).prop_map(slot(2)),
        (100.0..300.0f64).prop_map(|length| json!({"section": {"shape": "triangle", "leg_mm": 90}, "count": 2, "wall_mm": 12, "sizing": {"by": "length", "length_mm": length.round()}})),
    ];
    (
        [380.0..520.0f64, 560.0..800.0f64, 440.0..600.0f64],
        12.0..25.0f64,
        (
            prop_oneof![Just("butt"), Just("rebate"), Just("mitre")],
            prop_oneof![Just("floor_and_top"), Just("sides")],
            prop_oneof![Just("butt"), Just("dado")],
        ),
        shape,
        proptest::collection::vec(brace, 0..3),
        proptest::option::of(15.0..25.0f64),
        1..3u32,
        port,
    )
        .prop_map(|(outside, panel, (joint, through, housing), shape, brace, strips, layers, port)| Wish {
            outside: outside.map(f64::round),
            panel: panel.round(),
            joint,
            through,
            housing,
            shape,
            braces: brace,
            strips: strips.map(f64::round),
            layers,
            port,
        })
}

fn analysis(wish: &Wish) -> Analysis {
    let [w, h, d] = wish.outside;
    let mut document = json!({
        "format": "oak-drum-design", "version": 5,
        "woofer": {"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 330, "depth_mm": 120,
                   "cutout_mm": 230, "outside_diameter_mm": 260, "displacement_l": 3},
        "enclosure": {"family": "vented", "net_volume_l": 80, "port": wish.port},
        "cabinet": {"width_mm": w, "height_mm": h, "depth_mm": d, "panel_mm": wish.panel, "baffle_mm": wish.panel,
                    "baffle_layers": wish.layers, "shape": wish.shape, "braces": wish.braces,
                    "saw": {"joint": wish.joint, "through": wish.through, "housing": wish.housing}},
    });
    if let Some(strips) = wish.strips {
        apply(&mut document, &[Change::set("/cabinet/strips_mm", strips)]);
    }
    Analysis::of(&read_value(document).unwrap_or_else(|p| panic!("{p:?}")))
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(192))]
    #[test]
    fn any_cabinet_goes_together_as_listed(wish in wishes()) {
        let analysis = analysis(&wish);
        let built = built(&analysis).unwrap();
        let boards = &built.solids.boards;
        let list = cutting(&analysis).unwrap().parts;
        let [w, h, d] = wish.outside;
        let t = wish.panel;
        let of = |name: &str| -> &CutPart {
            let i = boards.iter().position(|b| b.name == name).unwrap() as u32;
            list.iter().find(|p| p.part.boards.contains(&i)).unwrap()
        };

        // joint by joint: what stands in a rebate or a mitre is counted once
        let into = match wish.joint { "rebate" => t / 2.0, "mitre" => t, _ => 0.0 };
        let (side, floor) = (&of("Left side").part, &of("Floor").part);
        let long = |p: &oak_drum_cabinet::parts::Part, near: f64| {
            if (p.length_mm - near).abs() < (p.width_mm - near).abs() { p.length_mm } else { p.width_mm }
        };
        let over = wish.through == "floor_and_top" || wish.joint == "mitre";
        let (high, wide) = if over {
            (long(side, h - 2.0 * (t - into)) + 2.0 * (t - into), long(floor, w))
        } else {
            (long(side, h), long(floor, w - 2.0 * (t - into)) + 2.0 * (t - into))
        };
        prop_assert!((high - h).abs() < 1e-6 * h && (wide - w).abs() < 1e-6 * w, "{high} {wide} for {h} {w}");
        if wish.shape == json!({"kind": "straight"}) {
            let deep = long(side, d - 2.0 * t) + 2.0 * t;
            prop_assert!((deep - d).abs() < 1e-6 * d, "{deep} for {d}");
            // the ledger from the cut list: the wood as listed, less what the joints take away of it
            let wood: f64 = ["Left side", "Right side", "Floor", "Top", "Back", "Baffle"]
                .iter()
                .map(|name| {
                    let part = &of(name).part;
                    let layers = if *name == "Baffle" { f64::from(wish.layers) } else { 1.0 };
                    part.length_mm * part.width_mm * part.thickness_mm * layers
                })
                .sum();
            let joints = match wish.joint {
                "rebate" => 4.0 * t * t / 2.0 * (d - 2.0 * t),
                "mitre" => 8.0 * t * t / 2.0 * (d - 2.0 * t),
                _ => 0.0,
            };
            let line = |id: &str| analysis.ledger.as_ref().unwrap().lines.iter().find(|l| l.id == id).map_or(0.0, |l| l.litres);
            let inside = (w * h * d - wood + joints) * 1e-6;
            let told = line("outside") + line("panels");
            prop_assert!((told / inside - 1.0).abs() < 1e-3, "{told} L in the ledger, {inside} L from the list");
            if let [brace] = wish.braces.as_slice() {
                let groove = if wish.housing == "dado" { (t / 3.0).round() } else { 0.0 };
                let bars = brace["kind"] == "cross";
                let taken: f64 = list
                    .iter()
                    .map(|p| &p.part)
                    .filter(|p| p.role == Role::Brace)
                    .map(|p| {
                        // each bar of a level cross stands in a groove at one end (nothing is let into the baffle), a board at both sides
                        let ends = groove;
                        let (a, b) = if bars {
                            (p.length_mm - ends, p.width_mm)
                        } else if (p.length_mm - 2.0 * groove - (w - 2.0 * t)).abs() < 1e-6 || p.length_mm - 2.0 * groove == h - 2.0 * t {
                            (p.length_mm - 2.0 * groove, p.width_mm)
                        } else {
                            (p.length_mm, p.width_mm - 2.0 * groove)
                        };
                        let open = brace["open_part"].as_f64().unwrap_or(0.0);
                        a * b * p.thickness_mm * (1.0 - open) * f64::from(p.count) * 1e-6
                    })
                    .sum();
                prop_assert!((line("braces") + taken).abs() < 1e-3 * taken, "{} L in the ledger, {taken} L from the list", line("braces"));
            }
        }

        // no two parts share more than glue; pieces of a window's frame stand for it
        let bodies: Vec<(&Board, Vec<Body>)> = boards
            .iter()
            .filter(|b| b.ring(0.0).len() <= 4)
            .map(|b| (b, Body::of_board(b)))
            .collect();
        for (i, (a, one)) in bodies.iter().enumerate() {
            for (b, other) in &bodies[i + 1..] {
                // two slots may reach into a brace that the builder put there: told as a finding
                let told = |x: &Board, y: &Board| x.role == Role::Port && y.role == Role::Brace
                    // nor can two braces in one plane be let into each other: told as well
                    || x.role == Role::Brace && y.role == Role::Brace && x.normal().iter().zip(y.normal()).all(|(p, q)| (p.abs() - q.abs()).abs() < 1e-6);
                if told(a, b) || told(b, a) {
                    continue;
                }
                let deep = one.iter().flat_map(|x| other.iter().map(move |y| clearance(x, y))).fold(f64::INFINITY, f64::min);
                prop_assert!(deep > -0.05, "{} and {} share {deep} mm", a.name, b.name);
            }
        }

        // every board is in the list once a layer, and drawn flat as often as it is listed
        for (i, board) in boards.iter().enumerate() {
            let times = list.iter().flat_map(|p| &p.part.boards).filter(|k| **k as usize == i).count();
            let sawn = !matches!(board.role, Role::Tube | Role::Dowel);
            let layers = if board.role == Role::Baffle { wish.layers as usize } else { 1 };
            prop_assert_eq!(times, if sawn { layers } else { 0 }, "{}", board.name);
        }
        let flat = drawings(&analysis).unwrap().into_iter().find(|d| d.id == "parts").unwrap().drawing;
        for part in list.iter().map(|p| &p.part) {
            let words = |mm: f64| oak_drum_cabinet::drawing::mm(mm);
            let label = format!("{} {} x {} x {}", part.label, words(part.length_mm), words(part.width_mm), words(part.thickness_mm));
            let times = flat.items.iter().filter(|(_, i)| matches!(i, Item::Text(_, t, ..) if *t == label)).count();
            prop_assert_eq!(times as u32, part.count, "{}", label);
        }

        // every letter that a step names is in the list
        let letters: Vec<&str> = list.iter().map(|p| p.part.label.as_str()).collect();
        let holes = steps(&analysis).unwrap().into_iter().find(|s| s.id == "holes").unwrap().text.metric();
        for mounted_part in &built.mounted_parts {
            let said = holes.to_lowercase().contains(&format!("{} in ", mounted_part.name));
            prop_assert!(said, "{} is not among the holes: {}", mounted_part.name, holes);
        }
        let named = letters.iter().any(|letter| holes.contains(&format!(" in {letter} ")));
        prop_assert!(named, "{holes}");
    }
}
