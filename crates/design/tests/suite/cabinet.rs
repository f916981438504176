//! The cabinet as built: what follows from what is held, folds that feed back what they are, places, steps and cost.

use oak_drum_acoustics::families::Enclosure;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::cabinet::built_cabinet::built;
use oak_drum_design::cabinet::clearance::clearances;
use oak_drum_design::cabinet::cutting::cutting;
use oak_drum_design::cabinet::materials::{bill, spent};
use oak_drum_design::cabinet::printed_plan::plan;
use oak_drum_design::cabinet::steps::steps;
use oak_drum_design::cabinet::view::view;
use oak_drum_document::{Bought, Change, Checked, Design, Prices, Problem, WorkPlan, Workshop, apply, read_value};
use oak_drum_paper::Block;
use oak_drum_text::Text;
use proptest::prelude::*;
use serde_json::{Value, json};

fn document(changes: &[(&str, Value)]) -> Value {
    let mut document = json!({
        "format": "oak-drum-design", "version": 5,
        "woofer": {"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "depth_mm": 120,
                   "cutout_mm": 283, "outside_diameter_mm": 315, "displacement_l": 3},
        "enclosure": {"family": "vented", "net_volume_l": 80, "port": {"section": {"shape": "round", "diameter_mm": 105},
                      "count": 1, "sizing": {"by": "tuning", "tuning_hz": 30}}},
        "cabinet": {"width_mm": 420, "height_mm": 600, "depth_mm": 485, "panel_mm": 18, "baffle_mm": 36, "braces": [
            {"kind": "window", "lies": "level", "at_mm": 140, "thickness_mm": 18, "open_part": 0.5}]},
    });
    let changes: Vec<Change> = changes.iter().map(|(p, v)| Change::set(*p, v.clone())).collect();
    apply(&mut document, &changes);
    document
}

fn design(changes: &[(&str, Value)]) -> Checked {
    read_value(document(changes)).unwrap_or_else(|p| panic!("{p:?}"))
}

fn analysis(changes: &[(&str, Value)]) -> Analysis {
    Analysis::of(&design(changes))
}

fn refused(changes: &[(&str, Value)]) -> Vec<Problem> {
    read_value(document(changes)).expect_err("it should be refused")
}

/// Whatever two sides are held: the net volume is the wanted one, port and braces off.
#[test]
fn the_third_side_follows_from_the_volume() {
    for (held, same) in [("width_and_height", [0, 1]), ("width_and_depth", [0, 2]), ("height_and_depth", [1, 2])] {
        let a = analysis(&[("/cabinet/held", json!(held))]);
        let ledger = a.ledger.as_ref().unwrap();
        assert!((ledger.net_l - 80.0).abs() < 0.05, "{held}: {}", ledger.net_l);
        let sides = |d: &Design| d.cabinet.as_ref().map(|c| [c.width_mm, c.height_mm, c.depth_mm]).unwrap();
        let (now, stated) = (sides(&a.design), sides(&design(&[])));
        for k in same {
            assert_eq!(now[k], stated[k], "{held}");
        }
        let shown = view(&a).unwrap();
        assert_eq!(shown.follows.len(), 1);
        assert_eq!(shown.outside_mm, now);
    }
    let a = analysis(&[("/cabinet/held", json!("ratio"))]);
    assert!((a.ledger.as_ref().unwrap().net_l - 80.0).abs() < 0.05);
    let c = a.design.cabinet.as_ref().unwrap();
    assert!((c.height_mm / c.width_mm - 600.0 / 420.0).abs() < 1e-9);
}

/// The outside held: the volume is what the boards leave with a port of just that length, and the tuning stays.
#[test]
fn the_volume_follows_from_the_outside() {
    let a = analysis(&[("/cabinet/held", json!("outside"))]);
    let Enclosure::Vented(b) = &a.design.enclosure else { panic!() };
    assert!((a.ledger.as_ref().unwrap().net_l / b.net_volume_l - 1.0).abs() < 1e-4, "{}", b.net_volume_l);
    assert!((a.wired.ports[0].realised.tuning - 30.0).abs() < 1e-6);
    assert!(b.net_volume_l != 80.0);
    // and what is not in the sheet of the box is in its curves
    let plain = analysis(&[]);
    assert!((a.edges().edges[0].unwrap() - plain.edges().edges[0].unwrap()).abs() > 0.01);
}

fn line(changes: &[(&str, Value)]) -> Analysis {
    let enclosure = json!({"family": "transmission_line", "length_mm": 1980, "woofer_at_mm": 400,
        "profile": {"shape": "tapered", "closed_end_cm2": 500, "open_end_cm2": 250}});
    let cabinet = json!({"width_mm": 420, "height_mm": 1030, "depth_mm": 276, "panel_mm": 18, "baffle_mm": 18,
        "fold": {"pattern": "u"}});
    let mut all = vec![("/enclosure", enclosure), ("/cabinet", cabinet)];
    all.extend(changes.iter().cloned());
    analysis(&all)
}

/// What is folded is what is computed: the path of the network has the fold's length, areas and bends; the woofer keeps its
/// place; another outside makes another line.
#[test]
fn the_fold_feeds_the_acoustics() {
    let a = line(&[]);
    let folded = a.fold.as_ref().unwrap().as_ref().unwrap();
    let path = &a.wired.path.as_ref().unwrap().path;
    assert!((path.length() * 1e3 - folded.fold.length).abs() < 1e-6);
    assert!((path.volume() * 1e9 - folded.fold.volume()).abs() < 1.0);
    assert_eq!(folded.fold.bends.len(), 2);
    assert!((a.wired.path.as_ref().unwrap().taps[0].0 - 0.4).abs() < 1e-9);
    let quarter = |a: &Analysis| a.wired.figures[0].value;
    let longer = line(&[("/cabinet/height_mm", json!(1130))]);
    assert!(quarter(&longer) < quarter(&a) * 0.95, "{} {}", quarter(&longer), quarter(&a));
    // the design keeps what was asked for
    let Enclosure::TransmissionLine(asked) = &a.design.enclosure else { panic!() };
    assert_eq!(asked.length_mm, 1980.0);
    // bends weigh less: without them the line would ring lower
    let shown = view(&a).unwrap().fold.unwrap();
    assert!((shown.wanted_mm - 1980.0).abs() < 1e-6 && shown.built.len() > 6);
}

/// Air in the ledger and air along the path are one, to what slanted segments leave open.
#[test]
fn a_folded_line_keeps_its_litres() {
    let a = line(&[]);
    let ledger = a.ledger.as_ref().unwrap();
    let without_woofer = ledger.net_l + 3.0;
    let along = a.wired.path.as_ref().unwrap().path.volume() * 1e3;
    // the mouth's way through the wall is outside the inside
    let mouth = 250.0 * 18.0 * 1e-4;
    assert!((ledger.net_l / ledger.wanted_net_l - 1.0).abs() < 0.012, "{} of {}", ledger.net_l, ledger.wanted_net_l);
    assert!((without_woofer / (along - mouth) - 1.0).abs() < 0.012, "{without_woofer} {along}");
}

/// Bad input is named at its field, with what would do.
#[test]
fn bad_input_is_named() {
    let said = |problems: &[Problem], pointer: &str, words: &str| {
        let found = problems.iter().any(|p| p.pointer == pointer && p.message.contains(words));
        assert!(found, "{pointer} {words}: {problems:?}");
    };
    said(
        &refused(&[
            ("/cabinet/panel_mm", json!(300)),
            ("/cabinet/panel_mm", json!(100)),
            ("/cabinet/width_mm", json!(150)),
        ]),
        "/cabinet/panel_mm",
        "at least",
    );
    let offcut = json!({"offcuts": [{"length_mm": -600, "width_mm": 300, "thickness_mm": 18}]});
    said(&refused(&[("/cabinet/saw", offcut)]), "/cabinet/saw/offcuts/0/length_mm", "20");
    let sloped = json!({"kind": "sloped", "back_mm": 470});
    said(&refused(&[("/cabinet/shape", sloped)]), "/cabinet/shape/back_mm", "less than");
    let stepped = json!({"kind": "stepped", "at_mm": 590, "back_mm": 40});
    said(&refused(&[("/cabinet/shape", stepped)]), "/cabinet/shape/at_mm", "between floor and top");
    said(&refused(&[("/cabinet/shape", json!({"kind": "tube", "wall_mm": 8}))]), "/cabinet/braces", "take them out");
    said(&refused(&[("/cabinet/fold", json!({"pattern": "u"}))]), "/cabinet/braces", "take them out");
}

/// A woofer in a brace, a port through a wall, frames over one another: each is found with its depth, by hand.
#[test]
fn what_collides_is_found() {
    let near = |changes: &[(&str, Value)]| {
        let a = analysis(changes);
        clearances(a.design.cabinet.as_ref().unwrap(), &built(&a).unwrap())
    };
    let spot = |x: f64, y: f64| json!([{"face": "baffle", "across_mm": x, "up_mm": y}]);
    // the window's lower face at 18 + 131 = 149, upper at 167; a magnet of 0.6 cones at 300 up stays clear of it
    let magnet = 0.6 * 2.0 * (53_000.0f64 / std::f64::consts::PI).sqrt() / 2.0;
    let list = near(&[("/cabinet/woofers_at", spot(210.0, 240.0))]);
    let hit = list.iter().find(|c| c.name == "woofer" && c.other == "window").unwrap();
    assert!(hit.mm < -10.0 && hit.mm > -(283.0 / 2.0 - magnet) - 60.0, "{hit:?}");
    let edge = near(&[("/cabinet/openings_at", spot(60.0, 300.0))]);
    let over = edge.iter().find(|c| c.name == "port" && c.other.contains("edge")).unwrap();
    // hole 105 + 2 x 3 of wall
    assert!((over.mm - (60.0 - 55.5)).abs() < 0.6, "{over:?}");
    let frames = near(&[("/cabinet/openings_at", spot(210.0, 250.0))]);
    // frame 315, tube 111 across, 118 between their middles (367.7 and 250 up)
    assert!(frames.iter().any(|c| c.other == "port" && (c.mm + 157.5 + 55.5 - 118.0).abs() < 0.5), "{frames:?}");
    // an inner flare of 20 mm: the tube's wall is 55.5 from its axis, the flare's rim 75.5, the floor 90 - 18
    let flare = json!({"kind": "flared", "radius_mm": 20});
    let low = near(&[("/cabinet/openings_at", spot(210.0, 90.0)), ("/enclosure/port/inner_end", flare)]);
    assert!(low.iter().any(|c| c.name == "port" && c.other == "floor" && (c.mm + 3.5).abs() < 0.3), "{low:?}");
    // through the back: 485 - 18 deep inside, a tube of that and more
    let long = near(&[("/enclosure/port/sizing", json!({"by": "length", "length_mm": 500}))]);
    assert!(long.iter().any(|c| c.name == "port" && c.other == "back" && (c.mm + 33.0).abs() < 1.0), "{long:?}");
}

/// The first woofer's place is where the standing waves meet it.
#[test]
fn places_reach_the_standing_waves() {
    let inside = json!({"width_mm": 384, "height_mm": 564, "depth_mm": 431, "woofer_across_mm": 192, "woofer_up_mm": 350,
        "opening_across_mm": 192, "opening_up_mm": 80});
    let at = |up: f64| {
        let spots = json!([{"face": "baffle", "across_mm": 210, "up_mm": up}]);
        analysis(&[("/enclosure/inside", inside.clone()), ("/cabinet/woofers_at", spots)])
    };
    let (a, b) = (at(300.0), at(420.0));
    assert_eq!(a.wired.chambers[0].inside.unwrap().woofer_up_mm, 282.0);
    let apart = a.curves().level_db.iter().zip(&b.curves().level_db).map(|(x, y)| (x - y).abs()).fold(0.0, f64::max);
    assert!(apart > 0.5, "{apart} dB");
}

/// Steps are this very cabinet's: unique names, the cautions where the work is.
#[test]
fn steps_are_for_this_cabinet() {
    let list = steps(&analysis(&[])).unwrap();
    let mut ids: Vec<&str> = list.iter().map(|s| s.id.as_str()).collect();
    let cut = list.iter().find(|s| s.id == "cut").unwrap();
    assert!(cut.caution.as_ref().unwrap().contains("push sticks"));
    let before = |a: &str, b: &str| {
        let at = |id: &str| ids.iter().position(|i| *i == id).unwrap_or_else(|| panic!("no step {id} in {ids:?}"));
        assert!(at(a) < at(b), "{a} before {b}");
    };
    // the inside stays reachable: braces, port, paint and fill come before the box is closed; leaks are looked for after
    for (a, b) in [
        ("cut", "holes"),
        ("dry_fit", "carcass"),
        ("braces", "close"),
        ("paint_port", "close"),
        ("seal_edges", "close"),
        ("gaskets", "leak_test"),
        ("leak_test", "trim"),
    ] {
        before(a, b);
    }
    ids.sort_unstable();
    ids.dedup();
    assert_eq!(ids.len(), list.len());
    let folded = steps(&line(&[])).unwrap();
    assert!(folded.iter().any(|s| s.id == "side_clamped") && !folded.iter().any(|s| s.id == "carcass"));
    assert!(folded.iter().any(|s| s.id == "bevels" && s.title.contains("Bevel")));
    let tube = steps(&analysis(&[
        ("/cabinet/shape", json!({"kind": "tube", "wall_mm": 8})),
        ("/cabinet/braces", Value::Null),
    ]))
    .unwrap();
    assert!(tube.iter().any(|s| s.id == "discs") && tube.iter().any(|s| s.id == "close" && s.title.contains("disc")));
}

/// The bill adds up what has a price, and says what has none.
#[test]
fn the_bill_adds_up() {
    let a = analysis(&[("/brief", json!({"budget": 300}))]);
    let prices = Prices { sheet: Some(50.0), woofer: Some(120.0), opening: Some(9.0), ..Prices::default() };
    let b = bill(&a, &prices).unwrap();
    let sheets: u32 = cutting(&a).unwrap().stocks.iter().map(|s| s.sheets).sum();
    assert!((b.total - (50.0 * f64::from(sheets) + 120.0 + 9.0)).abs() < 1e-9, "{b:?}");
    assert!(b.unpriced >= 1 && b.budget == Some(300.0));
    assert!(b.lifting.contains("kg"));
}

/// Paid against planned: the next one costs what was paid, less what is left over; pieces are bought whole; lines nothing was paid for
/// stay as planned; a line that is gone from the list was still paid.
#[test]
fn what_was_paid_is_held_against_the_plan() {
    let a = analysis(&[]);
    let prices = Prices { sheet: Some(50.0), woofer: Some(120.0), opening: Some(9.0), ..Prices::default() };
    let b = bill(&a, &prices).unwrap();
    let ids: std::collections::BTreeSet<&str> = b.items.iter().map(|i| i.id.as_str()).collect();
    assert_eq!(ids.len(), b.items.len(), "each line has its own name");
    let line = |id: &str| b.items.iter().find(|i| i.id.starts_with(id)).unwrap();
    let (sheet, glue) = (line("sheet_"), line("glue"));
    let bought = |item: &str, paid: f64, quantity: Option<f64>, left: Option<f64>| Bought {
        item: item.into(),
        paid: Some(paid),
        quantity,
        left,
        ..Bought::default()
    };
    let list = [
        bought(&sheet.id, 55.0 * (sheet.quantity + 1.0), Some(sheet.quantity + 1.0), Some(0.5)),
        bought(&glue.id, 8.0, Some(500.0), Some(500.0 - glue.quantity)),
        bought("gone", 4.0, None, None),
        Bought { item: "woofer".into(), shop: "Corner shop".into(), ..Bought::default() },
    ];
    let told = spent(&b, &list);
    assert_eq!((told.lines.len(), told.paid), (2, 55.0 * (sheet.quantity + 1.0) + 8.0 + 4.0));
    assert_eq!((told.lines[0].each, told.lines[0].left_worth), (55.0, 27.5));
    // half a sheet is left, and whole ones are bought
    assert_eq!(told.lines[0].next, 55.0 * (sheet.quantity - 0.5).ceil());
    let grams = (glue.quantity - (500.0 - glue.quantity)).max(0.0);
    assert!((told.lines[1].next - grams * 8.0 / 500.0).abs() < 1e-9);
    assert!((told.to_come - (b.total - sheet.total.unwrap())).abs() < 1e-9);
    assert!((told.next - told.to_come - told.lines[0].next - told.lines[1].next).abs() < 1e-9);
    assert_eq!(spent(&b, &[]).next, b.total);
}

/// Shop cuts leave pieces that can be carried, and count in whole sheets.
#[test]
fn the_shop_cuts_what_can_be_carried() {
    let saw = json!({"carried": {"length_mm": 1220, "width_mm": 620}, "trim_mm": 0});
    let stock = cutting(&analysis(&[("/cabinet/saw", saw)])).unwrap().stocks.remove(0);
    let shop = stock.shop.unwrap();
    assert_eq!((shop.along, shop.across), (2, 2));
    assert!(shop.length_mm <= 1220.0 && shop.width_mm <= 620.0);
    assert_eq!(stock.sheets, stock.layout.sheets.div_ceil(4));
    assert!(stock.layout.placed.iter().all(|p| p.x_mm + p.length_mm <= shop.length_mm + 1e-6));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]
    /// Any box that is accepted: boards and air fill the outside, and what follows meets what is wanted.
    #[test]
    fn any_box_that_follows_holds_its_volume(w in 330.0..700.0f64, h in 400.0..900.0f64, volume in 40.0..180.0f64, panel in 9.0..30.0f64, strips in proptest::option::of(12.0..30.0f64)) {
        let a = analysis(&[
            ("/cabinet/width_mm", json!(w)), ("/cabinet/height_mm", json!(h)), ("/cabinet/panel_mm", json!(panel)),
            ("/cabinet/baffle_mm", json!(panel)), ("/cabinet/strips_mm", json!(strips)), ("/enclosure/net_volume_l", json!(volume)),
            ("/cabinet/held", json!("width_and_height")),
        ]);
        let ledger = a.ledger.as_ref().unwrap();
        prop_assert!((ledger.net_l / volume - 1.0).abs() < 2e-3, "{} of {volume}", ledger.net_l);
        let sum: f64 = ledger.lines.iter().map(|l| l.litres).sum();
        prop_assert!((sum - ledger.net_l).abs() < 1e-9);
    }
}

/// Face to face the inner woofer is joined the other way round, front to back none is: the step says what the document and the drawing
/// of the wires say.
#[test]
fn steps_say_how_pairs_are_joined() {
    let said = |mounting: &str| {
        let pair = json!({"mounting": mounting, "chamber_l": 9});
        let a = analysis(&[("/array", json!({"count": 2, "isobaric": pair}))]);
        steps(&a).unwrap().into_iter().find(|s| s.id == "wire").unwrap().text
    };
    assert!(said("face_to_face").contains("on the inner one plus and minus change places"));
    assert!(!said("face_to_face").contains("on every woofer"));
    assert!(said("front_to_back").contains("Plus to plus on every woofer"));
}

/// A bandpass box opens at its back: the woofer is screwed on from behind its board, the back has screws and a gasket in the list,
/// in the bill and in the steps.
#[test]
fn a_woofer_inside_is_reached_through_the_back() {
    let port = json!({"section": {"shape": "round", "diameter_mm": 105}, "count": 1, "sizing": {"by": "tuning", "tuning_hz": 45}});
    let enclosure = json!({"family": "bandpass_fourth", "front_volume_l": 40, "rear_volume_l": 40, "front_port": port});
    let a = analysis(&[("/enclosure", enclosure), ("/cabinet/braces", Value::Null)]);
    let built = built(&a).unwrap();
    let back = built.solids.boards.iter().find(|b| b.name == "Back").unwrap();
    // 420 and 600 less 18 in screws at most 120 mm apart: 402/120 and 582/120, rounded up, twice each
    assert_eq!(back.lid_screws, 2 * (4 + 5));
    let woofer = &built.mounted_parts[0];
    let board = built.solids.boards.iter().find(|b| b.name == "Woofer board").unwrap();
    let rear = board.corners().iter().map(|p| p[2]).fold(0.0, f64::max);
    assert!((woofer.at[2] - rear).abs() < 1e-6 && woofer.inward[2] > 0.99, "{woofer:?}");
    let part = cutting(&a).unwrap().parts.into_iter().find(|p| p.part.name.contains("Back")).unwrap();
    assert!(part.part.edges.contains("18 screws, on a gasket"), "{}", part.part.edges);
    let bill = bill(&a, &Prices::default()).unwrap();
    let amount = |what: &str| bill.items.iter().find(|i| i.what.contains(what)).unwrap().quantity;
    assert_eq!(amount("panel that comes off"), 18.0);
    assert!(amount("gasket") >= 2.0 * (0.42 + 0.6));
}

/// A mouth in the back is sawn: the step says its size and place.
#[test]
fn a_mouth_in_the_back_is_among_the_holes() {
    let line = json!({"family": "transmission_line", "length_mm": 1900, "woofer_at_mm": 400,
                      "profile": {"shape": "tapered", "closed_end_cm2": 300, "open_end_cm2": 200}});
    let a = analysis(&[
        ("/enclosure", line),
        ("/cabinet/braces", Value::Null),
        ("/cabinet/fold", json!({"pattern": "u", "begins": "top_or_back", "leaves": "turned", "woofer_on": "side"})),
        ("/cabinet/height_mm", json!(1000)),
    ]);
    let built = built(&a).unwrap();
    let hole =
        built.solids.boards.iter().flat_map(|b| &b.holes).find(|h| h.name == "mouth").expect("a mouth in a board");
    let [tall, wide] = hole.opening.half().map(|h| 2.0 * h);
    let text = steps(&a).unwrap().into_iter().find(|s| s.id == "holes").unwrap().text.metric().to_lowercase();
    let said = format!("{} mm x {} mm", (wide.max(tall) * 10.0).round() / 10.0, (tall.min(wide) * 10.0).round() / 10.0);
    assert!(text.contains("mouth in") && text.contains(&said), "{said}: {text}");
}

/// A plan that cannot be built says so before anything else; several braces are told apart.
#[test]
fn a_plan_says_what_stands_against_it() {
    let a = analysis(&[]);
    let said = |against: &[Text]| {
        let blocks = plan(&a, "Plan", against, &WorkPlan::default(), &Workshop::default()).unwrap();
        let first =
            blocks.iter().position(|b| matches!(b, Block::Caution(words) if words.starts_with("Not to be built")));
        (first, blocks.iter().position(|b| matches!(b, Block::Picture(_))).unwrap())
    };
    let (warned, drawn) = said(&["The port is longer than the box.".into()]);
    assert!(warned.unwrap() < drawn);
    assert_eq!(said(&[]).0, None);
    let braces = json!([{"kind": "window", "lies": "level", "at_mm": 100, "thickness_mm": 18, "open_part": 0.5},
                        {"kind": "window", "lies": "upright", "at_mm": 60, "thickness_mm": 18, "open_part": 0.5}]);
    let list = cutting(&analysis(&[("/cabinet/braces", braces)])).unwrap().parts;
    let lap = list.iter().find(|p| p.part.name == "Level window").unwrap();
    assert!(lap.part.edges.contains("half-lap for the upright window"), "{}", lap.part.edges);
}

/// The tunnel of a pair one behind the other holds the stated air: worked out from its boards, the hole in its end, the hollow of the
/// inner cone and the outer woofer; its boards are in the list, the box opens at its back.
#[test]
fn a_tunnel_between_cones_holds_the_stated_air() {
    let pair = json!({"count": 2, "isobaric": {"mounting": "front_to_back", "chamber_l": 12}});
    let a = analysis(&[
        ("/array", pair),
        ("/cabinet/braces", Value::Null),
        ("/woofer/cutout_mm", json!(282)),
        ("/woofer/outside_diameter_mm", json!(315)),
        ("/woofer/displacement_l", json!(2.5)),
    ]);
    let built = built(&a).unwrap();
    let of = |name: &str| {
        let boards: Vec<_> = built.solids.boards.iter().filter(|b| b.name == name).collect();
        let points: Vec<[f64; 3]> = boards.iter().flat_map(|b| b.corners()).collect();
        let least = |k: usize| points.iter().map(|p| p[k]).fold(f64::INFINITY, f64::min);
        let most = |k: usize| points.iter().map(|p| p[k]).fold(f64::NEG_INFINITY, f64::max);
        (boards.len(), [0, 1, 2].map(least), [0, 1, 2].map(most))
    };
    let ((sides, s0, s1), (ends, e0, e1)) = (of("Tunnel, side"), of("Tunnel, end"));
    assert_eq!((sides, of("Tunnel, lid").0, ends), (2, 2, 1));
    let t = e1[2] - e0[2];
    let inside = (s1[0] - s0[0] - 2.0 * t) * (s1[1] - s0[1] - 2.0 * t) * (s1[2] - s0[2]);
    let hole = std::f64::consts::PI * 141.0 * 141.0 * t;
    let sd = a.woofer.ts.sd;
    let hollow = 0.1 * sd * (4.0 * sd / std::f64::consts::PI).sqrt();
    let air = (inside + hole) * 1e-6 + hollow * 1e3 - 2.5;
    assert!((air - 12.0).abs() < 1e-6, "{air}");
    // the basket passes, the inner frame has wood under it
    assert!(s1[0] - s0[0] - 2.0 * t >= 292.0 && s1[0] - s0[0] >= 315.0);
    let line = a.ledger.as_ref().unwrap().lines.iter().find(|l| l.id == "coupling").unwrap().litres;
    let bulk = (s1[0] - s0[0]) * (s1[1] - s0[1]) * (e1[2] - s0[2]) * 1e-6;
    assert!((line + bulk).abs() < 1e-9, "{line} against {bulk}");
    let inner = built.mounted_parts.iter().find(|s| s.name == "inner woofer").unwrap();
    assert!((inner.at[2] - e1[2]).abs() < 1e-9);
    assert!(built.solids.boards.iter().find(|b| b.name == "Back").unwrap().lid_screws > 0);
    let list = cutting(&a).unwrap().parts;
    assert_eq!(list.iter().filter(|p| p.part.name.starts_with("Tunnel")).map(|p| p.part.count).sum::<u32>(), 5);
    let tunnel = steps(&a).unwrap().into_iter().find(|s| s.id == "tunnel").unwrap().text;
    assert!(tunnel.contains("from behind"), "{tunnel}");
}

/// Each hole's centre is told from two edges of its board as that is sawn: the baffle is the whole front, a side stands between baffle and
/// back, in rebates half a board longer.
#[test]
fn holes_have_their_centre_from_two_edges() {
    let spots = json!([{"face": "side", "across_mm": 250, "up_mm": 300}]);
    let text = |joint: &str| {
        let a = analysis(&[("/cabinet/woofers_at", spots.clone()), ("/cabinet/saw", json!({"joint": joint}))]);
        steps(&a).unwrap().into_iter().find(|s| s.id == "holes").unwrap().text
    };
    // from behind: 485 - 250 behind the front's face, of which the baffle is 36; 300 up, of which the floor is 18
    assert!(
        text("butt").contains("centre 199 mm from the front edge and 282 mm from the lower edge"),
        "{}",
        text("butt")
    );
    assert!(
        text("rebate").contains("centre 199 mm from the front edge and 291 mm from the lower edge"),
        "{}",
        text("rebate")
    );
    assert!(text("butt").contains("Port in"), "{}", text("butt"));
    let port = analysis(&[]);
    let said = steps(&port).unwrap().into_iter().find(|s| s.id == "holes").unwrap().text;
    assert!(said.contains("mm from the lower edge and 210 mm from the left edge"), "{said}");
}

/// A dowel from front to back ends at a front that leans, a radiator takes of the air what a cone's frustum takes.
#[test]
fn dowels_and_radiators_take_what_they_take() {
    let dowel = json!([{"kind": "dowel", "ties": "front_and_back", "at_mm": 100, "and_mm": 400, "diameter_mm": 30}]);
    let sloped = analysis(&[("/cabinet/braces", dowel), ("/cabinet/shape", json!({"kind": "sloped", "back_mm": 120}))]);
    let solids = built(&sloped).unwrap().solids;
    let bar = solids.boards.iter().find(|b| b.name == "Dowel").unwrap();
    // 120 over 600 is 0.2 a millimetre: at 18 + 400 + 15 the face stands 86.6 back, the wood 36 · √1.04 behind that
    let front = 0.2 * 433.0 + 36.0 * 1.04f64.sqrt();
    assert!((bar.thickness_mm - (485.0 - 18.0 - front)).abs() < 1e-9, "{}", bar.thickness_mm);
    let radiators = json!({"count": 2, "fs_hz": 16, "qms": 7, "vas_l": 100, "sd_cm2": 330});
    let enclosure = json!({"family": "passive_radiator", "net_volume_l": 60, "radiators": radiators});
    let a = analysis(&[("/enclosure", enclosure)]);
    let line = a.ledger.as_ref().unwrap().lines.iter().find(|l| l.id == "radiators").unwrap();
    let cone = 2.0 * (33_000.0 / std::f64::consts::PI).sqrt();
    let deep = 0.35 * cone - 36.0;
    let wanted = 2.0 * std::f64::consts::PI * deep / 3.0 * cone * cone * (0.25 + 0.125 + 0.0625);
    assert!((line.litres + wanted * 1e-6).abs() < 1e-9 && line.label.contains("estimated"), "{line:?}");
}

/// A frame let in: the recess is as wide as the frame and the fit, it takes its ring of wood, the woofer reaches so much deeper, and the
/// step says which of the two passes comes first.
#[test]
fn a_frame_let_in() {
    let (flat, flush) = (analysis(&[]), analysis(&[("/cabinet/recess_mm", json!(8))]));
    let (one, other) = (built(&flat).unwrap(), built(&flush).unwrap());
    let wood = |b: &oak_drum_design::cabinet::built_cabinet::BuiltCabinet| {
        b.solids.boards.iter().map(|b| b.volume()).sum::<f64>()
    };
    let ring = std::f64::consts::PI / 4.0 * (317.0f64.powi(2) - 285.0f64.powi(2)) * 8.0;
    assert!((wood(&one) - wood(&other) - ring).abs() < 1e-3, "{}", wood(&one) - wood(&other));
    assert_eq!(other.mounted_parts[0].depth_mm, one.mounted_parts[0].depth_mm + 8.0);
    let said = steps(&flush).unwrap().into_iter().find(|s| s.id == "holes").unwrap().text;
    assert!(said.contains("first a recess 317 mm across and 8 mm deep, then through, 285 mm across"), "{said}");
    assert_eq!(flat.ledger.as_ref().unwrap().net_l, flush.ledger.as_ref().unwrap().net_l);
}
