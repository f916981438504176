//! Each rule finds what it is for, stays silent otherwise, and its remedies do what they predict.

use crate::remedies::holds;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::cabinet::materials::bill;
use oak_drum_design::evaluation::findings::{case, findings, findings_at, rules};
use oak_drum_design::finding::Severity;
use oak_drum_document::{Change, Prices, apply, read_value};
use serde_json::{Value, json};
use std::collections::BTreeSet;

/// A quiet design: nothing but a good word and cautions.
fn quiet() -> Value {
    json!({
        "format": "oak-drum-design",
        "version": oak_drum_document::VERSION,
        "brief": {"lowest_note_hz": 32, "level_db": 100, "distance_m": 2, "largest_outside_l": 200},
        "chain": {"amplifier": {"power_w": 300, "load_ohm": 8, "minimum_load_ohm": 4}},
        "woofer": {"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "le_mh": 1.2,
                   "xmax_mm": 12, "power_w": 400, "nominal_ohm": 8, "displacement_l": 3, "depth_mm": 150},
        "enclosure": {"family": "vented", "net_volume_l": 90, "leak_q": 10,
                      "port": {"section": {"shape": "round", "diameter_mm": 105}, "count": 1,
                               "sizing": {"by": "tuning", "tuning_hz": 30},
                               "inner_end": {"kind": "flared", "radius_mm": 15},
                               "outer_end": {"kind": "flared", "radius_mm": 15}}},
        "cabinet": {"width_mm": 420, "height_mm": 600, "depth_mm": 485, "panel_mm": 18, "baffle_mm": 18},
        "drive": {"kind": "voltage", "volts": 10},
    })
}

fn with(changes: &[(&str, Value)]) -> Analysis {
    let mut document = quiet();
    let changes: Vec<Change> = changes.iter().map(|(p, v)| Change::set(*p, v.clone())).collect();
    apply(&mut document, &changes);
    Analysis::of(&read_value(document).unwrap())
}

fn kinds(analysis: &Analysis) -> BTreeSet<String> {
    findings(analysis).into_iter().map(|f| f.kind).collect()
}

/// What an amplifier's sheet says of building it in.
fn plate(open: bool) -> Value {
    json!({"open": open, "width_mm": 200, "height_mm": 180, "depth_mm": 80})
}

fn on_the_back() -> Value {
    json!({"face": "back", "across_mm": 210, "up_mm": 300})
}

/// A woofer of 5.6 ohm that is sold as 8 is played by an amplifier for 8 (common practice), one that is sold as less or of which nothing
/// is stated is held to IEC 60268-5: 80 % of 8 ohm.
#[test]
fn a_load_that_is_sold_as_asked_for_is_no_broken_one() {
    let found = |nominal: Value, re: f64| {
        let changes = [
            ("/chain/amplifier/minimum_load_ohm", json!(8)),
            ("/woofer/nominal_ohm", nominal),
            ("/woofer/re_ohm", json!(re)),
        ];
        findings(&with(&changes)).into_iter().find(|f| f.kind == "load_below_amplifier").map(|f| f.severity)
    };
    assert_eq!(found(json!(8), 5.6), Some(Severity::Note));
    assert_eq!(found(Value::Null, 5.6), Some(Severity::Broken));
    assert_eq!(found(json!(6), 5.6), Some(Severity::Broken));
    assert_eq!(found(json!(8), 4.8), Some(Severity::Broken));
    assert_eq!(found(json!(8), 6.6), None);
}

/// One case a rule: the changes that bring it out.
fn cases() -> Vec<(&'static str, Vec<(&'static str, Value)>)> {
    let tuned = |hz: f64| ("/enclosure/port/sizing", json!({"by": "tuning", "tuning_hz": hz}));
    let tube = |mm: f64| ("/enclosure/port/section", json!({"shape": "round", "diameter_mm": mm}));
    let pair = |litres: f64| json!({"count": 2, "isobaric": {"mounting": "front_to_back", "chamber_l": litres}});
    let inside = |woofer: f64, port: f64| {
        json!({"width_mm": 384, "height_mm": 564, "depth_mm": 449, "woofer_across_mm": 192, "woofer_up_mm": woofer,
               "opening_across_mm": 192, "opening_up_mm": port})
    };
    let window = |at: f64, open: f64| json!([{"kind": "window", "lies": "level", "at_mm": at, "thickness_mm": 18, "open_part": open}]);
    let sealed = |litres: f64| ("/enclosure", json!({"family": "sealed", "net_volume_l": litres}));
    let line = || {
        let profile = json!({"shape": "tapered", "closed_end_cm2": 700, "open_end_cm2": 350});
        (
            "/enclosure",
            json!({"family": "transmission_line", "length_mm": 2400, "profile": profile, "woofer_at_mm": 480}),
        )
    };
    let boost = |hz: f64, db: f64| json!({"filter": {"kind": "band", "frequency_hz": hz, "level_db": db, "q": 1.414}});
    let in_amplifier = |mut filter: Value| {
        filter["stage"] = json!("amplifier");
        filter
    };
    let low_pass = |shape: &str, order: u32| json!({"filter": {"kind": "low_pass", "frequency_hz": 80, "slope": {"shape": shape, "order": order}}});
    let parlour = |t60: f64| json!({"kind": "room", "length_m": 6.0, "width_m": 4.0, "height_m": 2.5, "damping": {"by": "time", "t60_s": t60}});
    let standing = |space: Value, [x, y]: [f64; 2], seats: &[[f64; 2]]| {
        let seats: Vec<Value> = seats.iter().map(|[x, y]| json!({"x_m": x, "y_m": y})).collect();
        let room = json!({"name": "R", "space": space});
        (
            "/room",
            json!({"room": room, "cabinets": [{"x_m": x, "y_m": y}], "seats": seats, "neighbour": {"limit_dba": 20.0}}),
        )
    };
    let van = json!({"kind": "cabin", "volume_m3": 3.0, "length_m": 2.6, "distance_m": 1.5, "leak_hz": 8.0});
    vec![
        ("cannot_stand", vec![standing(parlour(0.5), [0.1, 2.0], &[[4.0, 2.2]])]),
        ("null_at_seat", vec![standing(parlour(0.5), [0.3, 2.0], &[[3.0, 1.0]])]),
        ("boom_at_all_seats", vec![standing(parlour(1.6), [0.3, 2.0], &[[5.7, 2.2], [5.7, 1.6]])]),
        ("low_end_lifted", vec![standing(van, [0.3, 2.0], &[[1.0, 1.0]])]),
        ("seats_differ", vec![standing(parlour(1.2), [0.3, 0.4], &[[5.8, 3.8], [3.0, 2.0], [4.5, 1.0]])]),
        ("neighbour_hears", vec![standing(parlour(0.5), [0.3, 2.0], &[[4.0, 2.2]])]),
        ("port_out_of_reach", vec![tuned(150.0)]),
        (
            "port_dead_end",
            vec![
                ("/cabinet", Value::Null),
                ("/enclosure/net_volume_l", json!(7.08)),
                tuned(45.0),
                ("/enclosure/port/inner_end", json!({"kind": "free"})),
                tube(80.0),
            ],
        ),
        ("port_will_not_fit", vec![tube(150.0)]),
        ("port_meets_woofer", vec![("/enclosure/inside", inside(300.0, 250.0))]),
        (
            "port_wider_than_box",
            vec![("/enclosure/port/section", json!({"shape": "slot", "width_mm": 800, "height_mm": 20}))],
        ),
        (
            "port_not_as_stated",
            vec![
                ("/enclosure/port/section", json!({"shape": "slot", "width_mm": 150, "height_mm": 40})),
                ("/enclosure/port/walls_alongside", json!(3)),
            ],
        ),
        ("port_air_fast", vec![tube(60.0), ("/drive/volts", json!(25))]),
        ("pipe_resonance_low", vec![tube(150.0)]),
        ("excursion_over_limit", vec![("/woofer/xmax_mm", json!(2))]),
        ("unloads_below_tuning", vec![("/drive/volts", json!(30))]),
        (
            "radiator_over_limit",
            vec![
                (
                    "/enclosure",
                    json!({"family": "passive_radiator", "net_volume_l": 90, "leak_q": 10, "radiators": {"count": 1,
                    "fs_hz": 16, "qms": 6, "vas_l": 200, "sd_cm2": 530, "xmax_mm": 2, "added_mass_g": 150}}),
                ),
                ("/drive/volts", json!(30)),
            ],
        ),
        ("coil_over_power", vec![("/woofer/power_w", json!(10))]),
        ("load_below_amplifier", vec![("/array", json!({"count": 4}))]),
        ("drive_over_amplifier", vec![("/drive/volts", json!(70))]),
        ("boost_below_tuning", vec![("/chain/filters", json!([boost(22.0, 6.0)]))]),
        (
            "boost_into_limit",
            vec![("/chain/filters", json!([boost(34.0, 9.0)])), ("/programme", json!({"from_hz": 30}))],
        ),
        ("peak_wants_cut", vec![("/chain/filters", json!([boost(60.0, 8.0)]))]),
        (
            "beyond_amplifier",
            vec![
                ("/chain/filters", json!([in_amplifier(boost(95.0, -3.0))])),
                (
                    "/chain/amplifier/equaliser",
                    json!({"bands": 1, "from_hz": 18, "to_hz": 80, "from_q": 0.5, "to_q": 8, "lowest_db": -12, "highest_db": 6}),
                ),
            ],
        ),
        ("amplifier_far_from_rating", vec![("/woofer/power_w", json!(120))]),
        (
            "crossover_fights",
            vec![
                ("/brief/plays_to_hz", json!(80)),
                ("/chain/filters", json!([low_pass("butterworth", 2), low_pass("linkwitz_riley", 4)])),
            ],
        ),
        (
            "transform_misses",
            vec![
                sealed(60.0),
                (
                    "/chain/filters",
                    json!([{"filter": {"kind": "transform", "from_hz": 60, "from_q": 1, "to_hz": 28, "to_q": 0.7}}]),
                ),
            ],
        ),
        ("isobaric_too_shallow", vec![("/woofer/cutout_mm", json!(280)), ("/array", pair(2.0))]),
        ("isobaric_uncouples", vec![("/woofer/cutout_mm", json!(280)), ("/array", pair(150.0)), sealed(45.0)]),
        ("volume_missing", vec![("/cabinet/depth_mm", json!(400))]),
        ("volume_left_over", vec![("/cabinet/depth_mm", json!(700))]),
        ("woofer_too_deep", vec![("/woofer/depth_mm", json!(580))]),
        ("response_humps", vec![sealed(12.0)]),
        ("response_sags", vec![sealed(40.0), ("/brief/lowest_note_hz", json!(20))]),
        (
            "fill_out_of_range",
            vec![(
                "/enclosure/fill",
                json!({"kind": "fibrous", "model": "miki", "flow_resistivity_pa_s_per_m2": 20000, "filled_part": 0.5}),
            )],
        ),
        ("standing_wave", vec![("/enclosure/inside", inside(500.0, 60.0)), ("/brief/plays_to_hz", json!(320))]),
        ("equal_sides", vec![("/cabinet/width_mm", json!(482)), ("/brief/plays_to_hz", json!(250))]),
        (
            "fill_in_the_way",
            vec![(
                "/enclosure/fill",
                json!({"kind": "material", "material": "polyester_wadding", "density_kg_per_m3": 10, "filled_part": 1}),
            )],
        ),
        ("brace_meets_magnet", vec![("/cabinet/braces", window(350.0, 0.5))]),
        ("brace_blocks_air", vec![("/cabinet/braces", window(150.0, 0.1))]),
        ("panel_sings", vec![("/brief/plays_to_hz", json!(200))]),
        (
            "does_not_fold",
            vec![line(), ("/cabinet/fold", json!({"pattern": "four_segments"})), ("/cabinet/depth_mm", json!(90))],
        ),
        (
            "folds_otherwise",
            vec![line(), ("/cabinet/fold", json!({"pattern": "u"})), ("/cabinet/height_mm", json!(1000))],
        ),
        ("not_folded", vec![line()]),
        ("parts_collide", vec![("/cabinet/openings_at", json!([{"face": "baffle", "across_mm": 40, "up_mm": 120}]))]),
        ("gap_under_woofer", vec![("/cabinet/woofers_at", json!([{"face": "floor", "across_mm": 210, "up_mm": 240}]))]),
        ("over_budget", vec![("/woofer/price", json!(250)), ("/brief/budget", json!(200))]),
        (
            "boards_cross",
            vec![
                ("/cabinet/shape", json!({"kind": "stepped", "at_mm": 320, "back_mm": 40})),
                ("/cabinet/braces", json!([{"kind": "cross", "lies": "level", "at_mm": 290, "bar_mm": 30}])),
            ],
        ),
        (
            "bay_through_walls",
            vec![(
                "/cabinet/amplifier",
                json!({"kind": "own_chamber", "width_mm": 200, "height_mm": 150, "depth_mm": 80,
                       "at": {"face": "back", "across_mm": 120, "up_mm": 90}}),
            )],
        ),
        ("amplifier_without_place", vec![("/chain/amplifier/back", plate(false))]),
        ("amplifier_by_no_sheet", vec![("/cabinet/amplifier", json!({"kind": "by_sheet", "at": on_the_back()}))]),
        (
            "amplifier_differs",
            vec![
                ("/chain/amplifier/back", plate(true)),
                (
                    "/cabinet/amplifier",
                    json!({"kind": "closed", "width_mm": 200, "height_mm": 180, "depth_mm": 80, "at": on_the_back()}),
                ),
            ],
        ),
        ("part_over_sheet", vec![("/cabinet/saw", json!({"sheet_length_mm": 610, "sheet_width_mm": 400}))]),
        ("box_over_brief", vec![("/brief/largest_outside_l", json!(95))]),
        ("brief_level", vec![("/brief/level_db", json!(125))]),
        (
            "spaces_differ",
            vec![
                ("/cabinet", Value::Null),
                (
                    "/enclosure",
                    json!({"family": "front_horn", "rear_volume_l": 40, "horn": {"throat_cm2": 300, "mouth_cm2": 2500,
                        "mouth": "eighth_space", "profile": {"shape": "conical", "length_mm": 1500}}}),
                ),
            ],
        ),
        ("hearing", vec![]),
        ("heavy", vec![("/woofer/weight_kg", json!(20))]),
        ("sheet_contradicts_itself", vec![("/woofer/bl_t_m", json!(30))]),
        ("limits_not_stated", vec![("/woofer/xmax_mm", Value::Null)]),
        ("brief_not_stated", vec![("/brief/lowest_note_hz", Value::Null)]),
        ("amplifier_not_stated", vec![("/chain", json!({}))]),
        ("cabinet_not_stated", vec![("/cabinet", Value::Null)]),
    ]
}

/// What a sheet leaves out was not judged: the finding says so, and its likely value lets it be judged. A likely stroke is one of the
/// trade's ordinary ones: 3 to 4 mm of a 6.5 in, 5 to 6 of a 10 in, 9 to 11 of an 18 in woofer (common practice, from memory).
#[test]
fn limits_a_sheet_leaves_out_have_likely_values() {
    let none = Value::Null;
    for (open, title) in [
        (vec!["xmax_mm"], "No Xmax stated"),
        (vec!["power_w"], "No rated power stated"),
        (vec!["xmax_mm", "power_w"], "No Xmax and rated power stated"),
    ] {
        let pointers: Vec<String> = open.iter().map(|f| format!("/woofer/{f}")).collect();
        let changes: Vec<(&str, Value)> = pointers.iter().map(|p| (p.as_str(), none.clone())).collect();
        let analysis = with(&changes);
        let found = findings(&analysis).into_iter().find(|f| f.kind == "limits_not_stated").unwrap();
        assert_eq!((found.title.metric().as_str(), found.severity), (title, Severity::Look));
        let judged = analysis.with(&found.remedies[0].changes).unwrap();
        assert!(!kinds(&judged).contains("limits_not_stated"));
        assert!(judged.design.woofer.xmax_mm.is_some() && judged.design.woofer.power_w.is_some());
    }
    for (cm2, from, to) in [(135.0, 3.0, 4.0), (343.0, 5.0, 6.0), (1200.0, 9.0, 11.0)] {
        let stroke = oak_drum_design::woofer::likely::likely_xmax_mm(cm2 * 1e-4);
        assert!((from..=to).contains(&stroke), "{cm2}: {stroke}");
    }
}

/// A chamber through two walls names both, and its remedy frees it of both.
#[test]
fn a_chamber_through_two_walls_names_both() {
    let amplifier = json!({"kind": "own_chamber", "width_mm": 200, "height_mm": 150, "depth_mm": 80,
                           "at": {"face": "back", "across_mm": 120, "up_mm": 90}});
    let analysis = with(&[("/cabinet/amplifier", amplifier)]);
    let found = findings(&analysis).into_iter().find(|f| f.kind == "bay_through_walls").unwrap();
    assert!(found.sentence.contains("the floor") && found.sentence.contains("the right side"), "{}", found.sentence);
    let remedy = &found.remedies[0];
    assert!(!kinds(&analysis.with(&remedy.changes).unwrap()).contains("bay_through_walls"));
}

/// An amplifier that goes by its sheet is built in as one of the same measures typed in the cabinet; an open back stands in a chamber
/// that is 30 mm deeper than it reaches behind the wall. Its weight counts where it is built in, and only there.
#[test]
fn an_amplifier_is_built_in_by_its_sheet() {
    let built = |open: bool, space: Value| {
        with(&[
            ("/chain/amplifier/back", plate(open)),
            ("/chain/amplifier/weight_kg", json!(4)),
            ("/cabinet/amplifier", space),
        ])
    };
    let by_sheet = || json!({"kind": "by_sheet", "at": on_the_back()});
    let typed = |kind: &str, depth: f64| json!({"kind": kind, "width_mm": 200, "height_mm": 180, "depth_mm": depth, "at": on_the_back()});
    for (open, kind, depth) in [(false, "closed", 80.0), (true, "own_chamber", 80.0 - 18.0 + 30.0)] {
        let (ours, theirs) = (built(open, by_sheet()), built(open, typed(kind, depth)));
        assert_eq!(ours.ledger, theirs.ledger, "{kind}");
        assert!(ours.ledger.as_ref().unwrap().lines.iter().any(|l| l.id == "amplifier" && l.litres < -1.0));
        assert!(!kinds(&ours).iter().any(|k| k.starts_with("amplifier_")), "{:?}", kinds(&ours));
        let kg = |a: &Analysis| bill(a, &Prices::default()).unwrap().weight_kg;
        let without = with(&[("/cabinet/amplifier", typed(kind, depth))]);
        assert!((kg(&ours) - kg(&without) - 4.0).abs() < 1e-9);
    }
    let outside = built(false, Value::Null);
    let found = findings(&outside).into_iter().find(|f| f.kind == "amplifier_without_place").unwrap();
    let built_in = outside.with(&found.remedies[0].changes).unwrap();
    assert!(!kinds(&built_in).iter().any(|k| k.starts_with("amplifier_") || k == "parts_collide"));
}

/// Parts at the terminals are bought like everything else, each with its own price.
#[test]
fn parts_at_the_terminals_are_in_the_bill() {
    let parts = json!([
        {"placement": "in_line", "part": {"kind": "coil", "inductance_mh": 2.2, "coil_ohm": 0.35}, "price": 12.5},
        {"placement": "across", "part": {"kind": "zobel", "resistance_ohm": 6.8, "capacitance_uf": 33}},
    ]);
    let without = bill(&with(&[]), &Prices::default()).unwrap();
    let made = bill(&with(&[("/chain/parts", parts)]), &Prices::default()).unwrap();
    let named = |words: &str| made.items.iter().find(|i| i.what.contains(words)).unwrap_or_else(|| panic!("{words}"));
    assert_eq!(named("coil 2.2 mH, at most 0.35 ohm").total, Some(12.5));
    assert!(named("capacitor 33 µF").what.contains("resistor 6.8 ohm"));
    assert_eq!((made.total - without.total, made.unpriced - without.unpriced), (12.5, 1));
}

#[test]
fn every_rule_is_brought_out_by_its_case_and_none_is_without_one() {
    let mut covered = BTreeSet::new();
    for (kind, changes) in cases() {
        let found = kinds(&with(&changes));
        assert!(found.contains(kind), "{kind}: only {found:?}");
        covered.insert(kind);
    }
    let all: BTreeSet<&str> = rules().map(|r| r.0).collect();
    assert_eq!(covered, all);
    assert_eq!(all.len(), rules().count(), "kinds are unique");
}

#[test]
fn a_quiet_design_is_left_in_peace() {
    let list = findings(&with(&[]));
    let loud: Vec<_> = list.iter().filter(|f| f.severity < Severity::Caution).collect();
    assert!(loud.is_empty(), "{loud:#?}");
    assert!(list.iter().any(|f| f.kind == "brief_level" && f.severity == Severity::Good), "{list:#?}");
}

/// The first remedy of each of these makes its finding go away; every remedy leaves a document that still reads.
#[test]
fn remedies_help_and_leave_a_readable_document() {
    let cured = [
        "port_out_of_reach",
        "port_dead_end",
        "port_will_not_fit",
        "port_meets_woofer",
        "standing_wave",
        "fill_in_the_way",
        "equal_sides",
        "brace_meets_magnet",
        "brace_blocks_air",
        "panel_sings",
        "does_not_fold",
        "folds_otherwise",
        "not_folded",
        "parts_collide",
        "gap_under_woofer",
        "part_over_sheet",
        "excursion_over_limit",
        "radiator_over_limit",
        "unloads_below_tuning",
        "coil_over_power",
        "load_below_amplifier",
        "isobaric_too_shallow",
        "isobaric_uncouples",
        "drive_over_amplifier",
        "boost_below_tuning",
        "boost_into_limit",
        "peak_wants_cut",
        "beyond_amplifier",
        "crossover_fights",
        "transform_misses",
        "volume_missing",
        "volume_left_over",
        "woofer_too_deep",
        "response_humps",
        "fill_out_of_range",
        "box_over_brief",
        "spaces_differ",
        "sheet_contradicts_itself",
    ];
    for (kind, changes) in cases() {
        let analysis = with(&changes);
        let all = findings(&analysis);
        let Some(finding) = all.iter().find(|f| f.kind == kind) else { panic!("{kind}") };
        for (i, remedy) in finding.remedies.iter().enumerate() {
            let mut document = serde_json::to_value(&analysis.design).unwrap();
            apply(&mut document, &remedy.changes);
            let design = read_value(document).unwrap_or_else(|p| panic!("{kind}, {}: {p:?}", remedy.title));
            let after = Analysis::of(&design);
            if i == 0 && cured.contains(&kind) {
                assert!(!kinds(&after).contains(kind), "{kind}: {} does not cure it", remedy.title);
            }
            holds(&analysis, &all, finding, remedy).unwrap_or_else(|wrong| panic!("{wrong}"));
        }
        assert!(!cured.contains(&kind) || !finding.remedies.is_empty(), "{kind} offers nothing");
    }
}

#[test]
fn the_worst_comes_first() {
    let list = findings(&with(&[("/woofer/xmax_mm", json!(2)), ("/cabinet/depth_mm", json!(400))]));
    assert!(list.windows(2).all(|pair| pair[0].severity <= pair[1].severity));
    assert_eq!(list[0].severity, Severity::Broken);
}

/// The ledger adds up, and the port's litres are those of its tube with its wall.
#[test]
fn the_ledger_adds_up() {
    let analysis = with(&[("/enclosure/port/inner_end", json!({"kind": "free"}))]);
    let ledger = analysis.ledger.as_ref().unwrap();
    let sum: f64 = ledger.lines.iter().map(|l| l.litres).sum();
    assert!((sum - ledger.net_l).abs() < 1e-12);
    let inside = analysis.wired.ports[0].realised.length - 0.018;
    let tube = std::f64::consts::PI * 0.0555f64.powi(2) * inside * 1e3;
    let line = ledger.lines.iter().find(|l| l.id == "port").unwrap();
    assert!((line.litres + tube).abs() < 1e-9);
}

/// Where a rule begins, as its figure passes its limit: a number is moved from where the rule is silent to where it speaks, and at the
/// place between the figure is the limit, within the margin the rule allows itself (a share of the limit).
#[test]
fn rules_begin_at_their_limits() {
    type Edge = (&'static str, Vec<(&'static str, Value)>, &'static str, f64, f64, f64);
    let tube = |mm: f64| ("/enclosure/port/section", json!({"shape": "round", "diameter_mm": mm}));
    let sealed = |litres: f64| ("/enclosure", json!({"family": "sealed", "net_volume_l": litres}));
    let pair = json!({"count": 2, "isobaric": {"mounting": "front_to_back", "chamber_l": 9}});
    let radiators = json!({"family": "passive_radiator", "net_volume_l": 90, "leak_q": 10, "radiators": {"count": 1,
        "fs_hz": 16, "qms": 6, "vas_l": 200, "sd_cm2": 530, "xmax_mm": 6, "added_mass_g": 150}});
    let apart = json!({"count": 2, "isobaric": {"mounting": "front_to_back", "chamber_l": 150}});
    let felt = json!({"kind": "fibrous", "model": "miki", "flow_resistivity_pa_s_per_m2": 4000, "filled_part": 0.5});
    let down = ("/cabinet/woofers_at", json!([{"face": "floor", "across_mm": 210, "up_mm": 240}]));
    let window = json!([{"kind": "window", "lies": "level", "at_mm": 150, "thickness_mm": 18, "open_part": 0.5}]);
    let bands = |hz: f64| {
        let band = json!({"kind": "band", "frequency_hz": hz, "level_db": 0, "q": 1.414});
        vec![("/chain/filters", json!([{ "filter": band }]))]
    };
    let fc = |litres: f64| {
        let analysis = with(&[sealed(litres)]);
        let figure = |id: &str| analysis.wired.figures.iter().find(|f| f.id == id).unwrap().value;
        (figure("fc_hz"), figure("qtc"))
    };
    let (box_hz, box_q) = fc(60.0);
    let to = json!({"kind": "transform", "from_hz": box_hz, "from_q": box_q, "to_hz": 28, "to_q": 0.7});
    let transform = vec![sealed(60.0), ("/chain/filters", json!([{ "filter": to }]))];
    let pass = |hz: f64| json!({"filter": {"kind": "low_pass", "frequency_hz": hz, "slope": {"shape": "butterworth", "order": 4}}});
    let two_passes = vec![("/brief/plays_to_hz", json!(80)), ("/chain/filters", json!([pass(85.0), pass(159.0)]))];
    let edges: Vec<Edge> = vec![
        ("port_air_fast", vec![tube(60.0)], "/drive/volts", 1.0, 25.0, 0.001),
        ("port_out_of_reach", vec![], "/enclosure/port/sizing/tuning_hz", 30.0, 200.0, 0.001),
        ("port_will_not_fit", vec![], "/enclosure/port/section/diameter_mm", 105.0, 150.0, 0.01),
        ("pipe_resonance_low", vec![], "/enclosure/port/section/diameter_mm", 105.0, 150.0, 0.01),
        ("excursion_over_limit", vec![], "/drive/volts", 5.0, 60.0, 0.001),
        ("radiator_over_limit", vec![("/enclosure", radiators)], "/drive/volts", 0.5, 60.0, 0.001),
        ("coil_over_power", vec![], "/drive/volts", 5.0, 100.0, 0.001),
        ("drive_over_amplifier", vec![], "/drive/volts", 5.0, 100.0, 0.01),
        (
            "isobaric_too_shallow",
            vec![("/woofer/cutout_mm", json!(280)), ("/array", pair.clone())],
            "/array/isobaric/chamber_l",
            40.0,
            1.0,
            0.006,
        ),
        ("woofer_too_deep", vec![], "/woofer/depth_mm", 150.0, 580.0, 0.001),
        ("response_humps", vec![sealed(40.0)], "/enclosure/net_volume_l", 60.0, 8.0, 0.02),
        ("panel_sings", vec![], "/brief/plays_to_hz", 40.0, 400.0, 0.001),
        ("box_over_brief", vec![], "/brief/largest_outside_l", 200.0, 95.0, 0.006),
        ("over_budget", vec![("/woofer/price", json!(250))], "/brief/budget", 1000.0, 100.0, 0.001),
        ("brief_level", vec![], "/brief/level_db", 80.0, 130.0, 0.01),
        ("heavy", vec![], "/woofer/weight_kg", 0.1, 60.0, 0.001),
        (
            "isobaric_uncouples",
            vec![("/woofer/cutout_mm", json!(280)), ("/array", apart), sealed(45.0)],
            "/brief/plays_to_hz",
            30.0,
            250.0,
            0.001,
        ),
        ("volume_missing", vec![], "/cabinet/depth_mm", 485.0, 400.0, 0.031),
        ("volume_left_over", vec![], "/cabinet/depth_mm", 485.0, 700.0, 0.051),
        ("unloads_below_tuning", vec![], "/drive/volts", 1.0, 30.0, 0.001),
        ("load_below_amplifier", vec![], "/chain/amplifier/minimum_load_ohm", 4.0, 12.0, 0.11),
        ("response_sags", vec![], "/brief/lowest_note_hz", 40.0, 15.0, 0.001),
        ("boost_below_tuning", bands(22.0), "/chain/filters/0/filter/level_db", 0.0, 6.0, 0.001),
        (
            "boost_into_limit",
            [bands(34.0), vec![("/programme", json!({"from_hz": 30}))]].concat(),
            "/chain/filters/0/filter/level_db",
            0.1,
            9.0,
            0.02,
        ),
        ("peak_wants_cut", bands(60.0), "/chain/filters/0/filter/level_db", 0.0, 8.0, 0.001),
        ("amplifier_far_from_rating", vec![], "/woofer/power_w", 400.0, 60.0, 0.001),
        ("transform_misses", transform, "/chain/filters/0/filter/from_hz", box_hz, 1.2 * box_hz, 0.001),
        ("crossover_fights", two_passes, "/chain/filters/1/filter/frequency_hz", 159.0, 60.0, 0.001),
        (
            "fill_out_of_range",
            vec![("/enclosure/fill", felt)],
            "/enclosure/fill/flow_resistivity_pa_s_per_m2",
            500.0,
            40000.0,
            0.001,
        ),
        ("standing_wave", vec![], "/brief/plays_to_hz", 40.0, 600.0, 0.001),
        ("gap_under_woofer", vec![down], "/cabinet/feet_mm", 200.0, 5.0, 0.02),
        ("part_over_sheet", vec![("/cabinet/saw", json!({}))], "/cabinet/saw/sheet_length_mm", 2440.0, 420.0, 0.001),
        (
            "amplifier_differs",
            vec![
                ("/chain/amplifier/back", plate(false)),
                (
                    "/cabinet/amplifier",
                    json!({"kind": "closed", "width_mm": 200, "height_mm": 180, "depth_mm": 80, "at": on_the_back()}),
                ),
            ],
            "/cabinet/amplifier/width_mm",
            200.0,
            240.0,
            0.001,
        ),
        ("brace_blocks_air", vec![("/cabinet/braces", window)], "/cabinet/braces/0/open_part", 0.9, 0.1, 0.021),
        ("sheet_contradicts_itself", vec![], "/woofer/bl_t_m", 15.86, 30.0, 0.031),
    ];
    let mut wrong = Vec::new();
    for (kind, changes, pointer, silent, firing, margin) in edges {
        let rule = rules().find(|r| r.0 == kind).unwrap_or_else(|| panic!("{kind}")).2;
        let found = |x: f64| {
            let mut all = changes.clone();
            all.push((pointer, json!(x)));
            rule(&case(&with(&all))).into_iter().find(|f| f.severity != Severity::Good)
        };
        let (mut quiet, mut loud) = (silent, firing);
        if found(quiet).is_some() || found(loud).is_none() {
            let (speaks, silent) = (found(quiet).is_some(), found(loud).is_none());
            wrong.push(format!("{kind}: speaks at {quiet}: {speaks}; silent at {loud}: {silent}"));
            continue;
        }
        for _ in 0..30 {
            let middle = 0.5 * (quiet + loud);
            if found(middle).is_some() { loud = middle } else { quiet = middle }
        }
        let finding = found(loud).unwrap();
        let Some(limit) = finding.limit.as_ref().map(|l| l.value) else {
            wrong.push(format!("{kind} has no limit"));
            continue;
        };
        let off = (finding.figure.value / limit - 1.0).abs();
        if off >= margin {
            wrong.push(format!("{kind} begins at {loud}: {} against {limit}", finding.figure.value));
        }
    }
    assert!(wrong.is_empty(), "{wrong:#?}");
}

/// What things cost comes with the work plan: the sum is the prices', and a remedy's prediction is what the bill then comes to.
#[test]
fn a_budget_is_held_against_the_prices() {
    let wide = [("/brief/budget", json!(150)), ("/cabinet/saw", json!({"keep_grain": true, "sheet_width_mm": 700}))];
    let analysis = with(&wide);
    let over = |prices: &Prices| findings_at(&analysis, prices).into_iter().find(|f| f.kind == "over_budget");
    assert!(over(&Prices::default()).is_none(), "nothing has a price");
    let prices = Prices { sheet: Some(60.0), woofer: Some(150.0), ..Prices::default() };
    let found = over(&prices).unwrap();
    assert_eq!(found.figure.value, bill(&analysis, &prices).unwrap().total);
    for remedy in &found.remedies {
        let after = bill(&analysis.with(&remedy.changes).unwrap(), &prices).unwrap().total;
        assert!(remedy.predicted.starts_with(&format!("{after:.0} in all")), "{after}: {}", remedy.predicted);
    }
}
