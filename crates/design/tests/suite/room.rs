//! The room: what stands in it, what is heard there, where things are best put.

use oak_drum_acoustics::room::boundary::{self, Plane};
use oak_drum_curves::about::Taken;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::drive::flattening::{FlattenWish, HeardAt, Target, flattened};
use oak_drum_design::finding::Finding;
use oak_drum_design::prove::predicted::predicted;
use oak_drum_design::room::arrangements::{ArrangementsWish, arrangements};
use oak_drum_design::room::families::families;
use oak_drum_design::room::heard::Heard;
use oak_drum_design::room::map::{MapOf, MapWish, map};
use oak_drum_design::room::playing::{Player, Playing, in_room};
use oak_drum_design::room::response::{evenness, level};
use oak_drum_design::room::view::view;
use oak_drum_document::{Checked, Facing, Stage, StandingCabinet, apply, read_value};
use serde_json::{Value, json};
use std::f64::consts::TAU;

fn document(space: Value) -> Value {
    json!({"format": "oak-drum-design", "version": 8, "name": "R",
        "brief": {"lowest_note_hz": 25.0},
        "woofer": {"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530, "xmax_mm": 12, "power_w": 400},
        "enclosure": {"family": "sealed", "net_volume_l": 70},
        "cabinet": {"width_mm": 450, "height_mm": 500, "depth_mm": 450, "panel_mm": 18, "baffle_mm": 18},
        "drive": {"kind": "voltage", "volts": 20.0},
        "room": {"room": {"name": "Parlour", "space": space},
            "cabinets": [{"x_m": 0.3, "y_m": 0.6}],
            "seats": [{"name": "Sofa", "x_m": 4.2, "y_m": 2.2, "ears_m": 1.2}]}})
}

fn parlour() -> Value {
    document(
        json!({"kind": "room", "length_m": 6.0, "width_m": 4.0, "height_m": 2.5, "damping": {"by": "time", "t60_s": 0.5}}),
    )
}

fn read(document: Value) -> Checked {
    read_value(document).unwrap()
}

fn with(mut document: Value, changes: &[(&str, Value)]) -> Value {
    for (pointer, value) in changes {
        let (parent, key) = pointer.rsplit_once('/').unwrap();
        document.pointer_mut(parent).unwrap()[key] = value.clone();
    }
    document
}

fn found(document: Value) -> Vec<Finding> {
    oak_drum_design::found(&read(document), &Default::default()).into_iter().filter(|f| f.station == "room").collect()
}

fn kinds(list: &[Finding]) -> Vec<&str> {
    list.iter().map(|f| f.kind.as_str()).collect()
}

/// Outdoors a cabinet on the ground gives its level of half a space, cone and floor image a little apart; before a wall as two sources,
/// summed by hand from the level the design has by itself.
#[test]
fn outdoors_is_the_half_space() {
    let ground = read(document(json!({"kind": "outdoors", "length_m": 20.0, "width_m": 12.0})));
    let shown = view(&ground, true).unwrap();
    let analysis = Analysis::of(&ground);
    for (i, f) in shown.frequency_hz.iter().enumerate().step_by(20) {
        let at_metre = analysis.at(*f).level_db[0];
        let expected = at_metre - 20.0 * shown.seats[0].distance_m.log10();
        // cone and ears stand a few decimetres above the ground
        assert!(
            (shown.seats[0].level_db[i] - expected).abs() < 0.012 * f + 0.1,
            "{f} Hz: {} {expected}",
            shown.seats[0].level_db[i]
        );
        assert!((shown.open_level_db[i] - expected).abs() < 0.02, "{f} Hz");
    }
    let wall = read(document(json!({"kind": "outdoors", "length_m": 20.0, "width_m": 12.0, "wall_takes": 0.0})));
    let walled = view(&wall, true).unwrap();
    let from = shown.cabinets[0].openings_m[0];
    let seat = [4.2, 2.2, 1.2];
    let (air, planes) = (analysis.context.air, [Plane::taking(2, 0.0, 0.0), Plane::taking(0, 0.0, 0.0)]);
    for (i, f) in shown.frequency_hz.iter().enumerate().step_by(20) {
        let by_hand = |planes: &[Plane]| boundary::transfer(&air, planes, TAU * f, from, seat).norm();
        let more = 20.0 * (by_hand(&planes) / by_hand(&planes[..1])).log10();
        assert!((walled.seats[0].level_db[i] - shown.seats[0].level_db[i] - more).abs() < 0.02);
    }
    assert!(walled.modes.is_empty() && walled.figures.volume_m3.is_none());
}

/// Two cabinets are the complex sum of each alone, with their own level, delay and polarity; another build's kept air plays as its
/// design did.
#[test]
fn cabinets_add() {
    let one = with(parlour(), &[("/room/cabinets", json!([{"x_m": 0.3, "y_m": 0.6}]))]);
    let set = json!({"x_m": 5.6, "y_m": 3.4, "faces": "left", "level_db": -3.0, "delay_ms": 4.0, "inverted": true});
    let other = with(parlour(), &[("/room/cabinets", json!([set]))]);
    let both = with(parlour(), &[("/room/cabinets", json!([{"x_m": 0.3, "y_m": 0.6}, set]))]);
    let heard = |document: &Value| {
        let design = read(document.clone());
        let analysis = Analysis::of(&design);
        let room = analysis.design.room.clone().unwrap();
        let surroundings =
            oak_drum_design::room::surroundings::Surroundings::of(&room.room.space, analysis.context.air);
        let playing = Playing::of(&analysis, &room, &[22.0, 41.0, 77.0]);
        oak_drum_design::room::response::at_seats(&surroundings, &playing, &room).remove(0)
    };
    let (a, b, sum) = (heard(&one), heard(&other), heard(&both));
    for i in 0..3 {
        assert!((a[i] + b[i] - sum[i]).norm() < 1e-9 * sum[i].norm());
    }
    let analysis = Analysis::of(&read(one.clone()));
    let hz = oak_drum_design::room::playing::kept_at();
    let kept = Player::of(&analysis, &hz).kept("Old one", &hz);
    let mut again = one;
    again["room"]["cabinets"][0]["other"] = serde_json::to_value(kept).unwrap();
    // the build itself may then be another: only what was kept plays
    again["enclosure"]["net_volume_l"] = json!(20.0);
    for (p, q) in heard(&again).iter().zip(&a) {
        assert!((level(*p) - level(*q)).abs() < 0.02, "{p} {q}");
    }
}

/// A cabinet is turned about its middle: its front looks where it is said to, and its right side (seen from before it) follows.
#[test]
fn cabinets_turn() {
    let outside = [0.4, 0.6, 0.5];
    let cabinet = |faces| StandingCabinet {
        x_m: 2.0,
        y_m: 1.0,
        raised_m: 0.1,
        faces,
        level_db: 0.0,
        delay_ms: 0.0,
        inverted: false,
        other: None,
    };
    // a point 0.1 m from the left edge of the front, 0.2 m up
    let at = |faces| in_room(&cabinet(faces), outside, [0.1, 0.2, 0.0]).map(|x| (x * 1e6).round() / 1e6);
    assert_eq!(at(Facing::Right), [2.25, 0.9, 0.3]);
    assert_eq!(at(Facing::Upper), [2.1, 1.25, 0.3]);
    assert_eq!(at(Facing::Left), [1.75, 1.1, 0.3]);
    assert_eq!(at(Facing::Lower), [1.9, 0.75, 0.3]);
}

/// The station's view: levels, spread and figures belong together; the group delay of open ground is the design's own.
#[test]
fn the_view_belongs_together() {
    let four: Vec<Value> = (0..4)
        .map(|i| json!({"x_m": 3.4 + 0.5 * f64::from(i % 2), "y_m": 1.2 + f64::from(i), "ears_m": 1.1}))
        .collect();
    let mut document = parlour();
    document["room"]["seats"] = json!(four);
    document["room"]["seats"][3]["y_m"] = json!(3.7);
    let design = read(document);
    let shown = view(&design, true).unwrap();
    assert_eq!((shown.seats.len(), shown.modes[0].order), (4, [1, 0, 0]));
    for i in (0..shown.frequency_hz.len()).step_by(13) {
        let levels: Vec<f64> = shown.seats.iter().map(|s| s.level_db[i]).collect();
        let mean = levels.iter().sum::<f64>() / 4.0;
        let spread = (levels.iter().map(|l| (l - mean).powi(2)).sum::<f64>() / 4.0).sqrt();
        assert!((mean - shown.mean_level_db[i]).abs() < 0.02 && (spread - shown.spread_db[i]).abs() < 0.02);
    }
    let analysis = Analysis::of(&design);
    for (i, f) in shown.frequency_hz.iter().enumerate().step_by(17) {
        let own = analysis.at(*f).group_delay[0] * 1e3;
        assert!((shown.open_group_delay_ms[i] - own).abs() < 0.02 + 1e-3 * own, "{f} Hz");
    }
    assert!(shown.figures.lowest_mode_hz.unwrap() > 28.5 && shown.figures.schroeder_hz.unwrap() > 150.0);
    assert!(shown.rests_on.metric().contains("6.00 m"));
    for mode in &shown.modes {
        for (i, seat) in mode.seats.iter().enumerate() {
            let share = (mode.cabinets[0] * seat).abs();
            let told = mode.together_db[0][i];
            assert!(share < 0.1 || (told - 20.0 * share.log10()).abs() < 0.8, "{told} {share}");
        }
        assert_eq!(mode.together_db[0][0], mode.coupling_db);
    }
    let quick = view(&design, false).unwrap();
    assert!(
        quick.modes.len() == shown.modes.len()
            && quick.modes[0].moves.is_empty()
            && quick.seats == shown.seats
            && quick.neighbour.is_none()
    );
    let mut open = parlour();
    open.as_object_mut().unwrap().remove("room");
    assert!(view(&read(open), true).is_none());
}

/// Evenness: between seats, along the band, and both together.
#[test]
fn evenness_by_hand() {
    // two seats, two frequencies: 1 dB about each mean, means 4 dB apart
    let e = evenness(&[vec![1.0, 5.0], vec![-1.0, 3.0]], 1);
    assert!((e.between - 1.0).abs() < 1e-12 && (e.along - 2.0).abs() < 1e-12);
    assert!((e.uneven - 5f64.sqrt()).abs() < 1e-12 && e.level == 2.0 && e.low == 0.0);
}

/// A map's place is what the design has with the cabinet, or the seat, put there.
#[test]
fn a_map_is_true_where_things_are_put() {
    let mut document = parlour();
    document["room"]["seats"] = json!([{"x_m": 4.2, "y_m": 2.2}, {"x_m": 4.6, "y_m": 1.0, "ears_m": 1.0}]);
    document["room"]["room"]["kept_free"] =
        json!([{"name": "Door", "x_m": 3.0, "y_m": 0.4, "length_m": 1.0, "width_m": 0.8}]);
    let design = read(document.clone());
    let wish = MapWish { of: MapOf::Cabinet, index: 0, columns: 30, rows: 20 };
    let found = map(&design, &wish).unwrap();
    assert_eq!(found.uneven_db.len(), 600);
    // by the walls and before the door it cannot stand
    assert!(found.uneven_db[0].is_none() && found.uneven_db[15 + 30].is_none());
    let best = &found.best[0];
    let mut there = serde_json::to_value(&*design).unwrap();
    apply(&mut there, &best.changes);
    let again = map(&read(there), &MapWish { columns: 4, rows: 3, ..wish }).unwrap();
    assert!((again.now.uneven_db - best.values.uneven_db).abs() < 0.8, "{:?} {:?}", again.now, best.values);
    assert!(best.values.uneven_db < found.now.uneven_db);
    let least = found.uneven_db.iter().flatten().copied().fold(f64::INFINITY, f64::min);
    assert!((least - best.values.uneven_db).abs() < 1e-9);

    let wish = MapWish { of: MapOf::Seat, index: 1, columns: 30, rows: 20 };
    let seats = map(&design, &wish).unwrap();
    let (column, row) = (22, 9);
    let at = [seats.x_m[column], seats.y_m[row]];
    let moved = with(document, &[("/room/seats/1/x_m", json!(at[0])), ("/room/seats/1/y_m", json!(at[1]))]);
    let again = map(&read(moved), &MapWish { columns: 2, rows: 2, ..wish }).unwrap();
    let there = seats.between_db[row * 30 + column].unwrap();
    assert!((again.now.between_db - there).abs() < 0.1, "{} {there}", again.now.between_db);
    // neither a cabin nor the open field has a floor
    let cabin = json!({"kind": "cabin", "volume_m3": 3.0, "length_m": 2.6, "distance_m": 1.5, "leak_hz": 8.0});
    assert!(map(&read(super::room::document(cabin)), &wish).is_none());
}

/// Arrangements are sorted by evenness, stand clear of walls and doors, and the search is at least near the best usual one.
#[test]
fn arrangements_of_two() {
    let mut document = parlour();
    document["room"]["seats"] = json!([{"x_m": 4.2, "y_m": 1.4}, {"x_m": 4.2, "y_m": 2.6}, {"x_m": 3.4, "y_m": 2.0}]);
    document["room"]["room"]["kept_free"] =
        json!([{"name": "Door", "x_m": 0.5, "y_m": 3.6, "length_m": 1.0, "width_m": 0.8}]);
    let design = read(document);
    let found = arrangements(&design, &ArrangementsWish { count: 2 }).unwrap();
    assert!(found.list.windows(2).all(|w| w[0].values.uneven_db <= w[1].values.uneven_db));
    assert!(!found.list.iter().any(|a| a.title.metric().contains("upper left")), "a door is there");
    let searched = found.list.iter().find(|a| a.searched).unwrap();
    let usual = found.list.iter().find(|a| !a.searched).unwrap();
    assert!(searched.values.uneven_db < usual.values.uneven_db + 0.4, "{:?} {:?}", searched.values, usual.values);
    assert!(found.tried > 10_000, "{}", found.tried);
    let mut there = serde_json::to_value(&*design).unwrap();
    apply(&mut there, &found.list[0].changes);
    let standing = read(there).room.clone().unwrap();
    assert_eq!(standing.cabinets.len(), 2);
    for count in [1, 3, 4] {
        let of = arrangements(&design, &ArrangementsWish { count }).unwrap();
        assert!(of.list.iter().any(|a| a.searched && a.cabinets.len() == count), "{count}");
    }
}

/// What cannot stand is named in its place; nothing else is told of the room until it can, and one press puts it back.
#[test]
fn what_cannot_stand_is_named() {
    let low = with(
        parlour(),
        &[
            (
                "/room/room/space",
                json!({"kind": "room", "length_m": 6.0, "width_m": 4.0, "height_m": 1.0, "damping": {"by": "time", "t60_s": 0.5}}),
            ),
            ("/cabinet/height_mm", json!(1500.0)),
            ("/room/seats/0/ears_m", json!(0.9)),
        ],
    );
    let list = found(low);
    assert_eq!(kinds(&list), ["cannot_stand"]);
    assert!(list[0].title.metric().contains("Higher than the room") && list[0].remedies.is_empty());
    let out = with(parlour(), &[("/room/cabinets/0/x_m", json!(5.95)), ("/room/seats/0/y_m", json!(-0.5))]);
    let list = found(out.clone());
    assert_eq!(kinds(&list), ["cannot_stand", "cannot_stand"]);
    let shown = view(&read(out.clone()), true).unwrap();
    assert!(shown.seats[0].level_db.is_empty() && shown.seats[0].mean_db.is_none());
    let mut back = serde_json::to_value(&*read(out)).unwrap();
    list.iter().for_each(|f| apply(&mut back, &f.remedies[0].changes));
    assert!(!kinds(&found(back)).contains(&"cannot_stand"));
    let two = with(parlour(), &[("/room/cabinets", json!([{"x_m": 1.0, "y_m": 1.0}, {"x_m": 1.2, "y_m": 1.1}]))]);
    assert!(found(two)[0].title.metric().contains("in one another"));
}

/// A null is found, and the move that is offered cures it as predicted.
#[test]
fn a_null_is_cured_by_a_move() {
    // the middle of the length hears nothing of the first mode, nor does the middle of the width of the second
    let document = with(
        parlour(),
        &[("/room/seats/0/x_m", json!(3.0)), ("/room/seats/0/y_m", json!(1.0)), ("/room/cabinets/0/y_m", json!(2.0))],
    );
    let list = found(document.clone());
    let null = list.iter().find(|f| f.kind == "null_at_seat").expect("a null");
    assert!(null.figure.value > 8.0);
    let remedy = null.remedies.first().expect("a move");
    assert!(remedy.title.metric().contains("toward the"), "{}", remedy.title);
    let mut after = document;
    apply(&mut after, &remedy.changes);
    let left = found(after).into_iter().find(|f| f.kind == "null_at_seat");
    assert!(left.is_none(), "{left:?}");
}

/// A cabin lifts the low end; a smaller sealed box is then even, and every family falls less than in the open.
#[test]
fn a_cabin_lifts() {
    let cabin = json!({"kind": "cabin", "volume_m3": 3.0, "length_m": 2.6, "distance_m": 1.5, "leak_hz": 8.0});
    let mut document = document(cabin);
    document["enclosure"]["net_volume_l"] = json!(200.0);
    document.as_object_mut().unwrap().remove("cabinet");
    let list = found(document.clone());
    let lifted = list.iter().find(|f| f.kind == "low_end_lifted").expect("lifted");
    assert!(lifted.remedies.iter().any(|r| r.title.metric().contains("less air")), "{:?}", lifted.remedies);
    let all = families(&read(document)).unwrap();
    assert!(all.list.len() > 4);
    for family in &all.list {
        assert!(family.falls_in_room_db < family.falls_db - 4.0, "{} {}", family.title, family.falls_db);
    }
    // a sealed box falls 12 dB an octave below its resonance, which the cabin takes back
    let sealed = all.list.iter().find(|f| f.family == "sealed" && f.title != "As it is").unwrap();
    assert!(sealed.falls_in_room_db.abs() < 8.0, "{}", sealed.falls_in_room_db);
}

/// The neighbour: a limit far under is told with the minutes it leaves, and playing softer does what it says.
#[test]
fn the_neighbour() {
    let document =
        with(parlour(), &[("/room/neighbour", json!({"wall": "light_studs", "limit_dba": 25.0, "evening_h": 4.0}))]);
    let list = found(document.clone());
    let hears = list.iter().find(|f| f.kind == "neighbour_hears").unwrap();
    assert!(hears.figure.value > 25.0 && hears.sentence.metric().contains("of the evening"), "{}", hears.sentence);
    let mut softer = document;
    apply(&mut softer, &hears.remedies[0].changes);
    let list = found(softer.clone());
    let after = list.iter().find(|f| f.kind == "neighbour_hears").unwrap();
    assert_eq!(after.title.metric(), "The neighbour sleeps");
    let shown = view(&read(softer), true).unwrap().neighbour.unwrap();
    assert!((shown.hours - 4.0).abs() < 1e-9 && shown.softer_db == 0.0);
    assert!(shown.there_db < shown.here_db && shown.there_dba < shown.there_db);
}

/// One cut serves all seats where all boom.
#[test]
fn a_boom_is_cut() {
    // hard walls, a corner, seats at the ends of the length
    let document = with(
        parlour(),
        &[
            ("/room/room/space/damping/t60_s", json!(1.6)),
            ("/room/seats", json!([{"x_m": 5.7, "y_m": 2.2}, {"x_m": 5.7, "y_m": 1.6}])),
            ("/room/cabinets/0/y_m", json!(2.0)),
        ],
    );
    let list = found(document.clone());
    let boom = list.iter().find(|f| f.kind == "boom_at_all_seats").expect("a boom");
    let remedy = boom.remedies.first().expect("a cut");
    assert!(remedy.title.metric().starts_with("Cut "), "{}", remedy.title);
    let mut after = serde_json::to_value(&*read(document)).unwrap();
    apply(&mut after, &remedy.changes);
    let now = found(after).into_iter().find(|f| f.kind == "boom_at_all_seats").map_or(0.0, |f| f.figure.value);
    assert!(now < boom.figure.value - 1.0, "{now} {}", boom.figure.value);
}

/// Flattening at the seats cuts only, and only what all share; in the open field it is refused at its field.
#[test]
fn flattening_at_the_seats_only_cuts() {
    let document = with(
        parlour(),
        &[
            ("/room/room/space/damping/t60_s", json!(1.2)),
            ("/room/seats", json!([{"x_m": 5.7, "y_m": 2.2}, {"x_m": 5.5, "y_m": 1.6}])),
        ],
    );
    let wish = FlattenWish {
        bands: 3,
        from_hz: 22.0,
        to_hz: 120.0,
        target: Target::Flat {},
        stage: Stage::Line,
        heard: HeardAt::Seats,
    };
    let found = flattened(&read(document.clone()), &wish).unwrap();
    assert!(!found.bands.is_empty() && found.bands.iter().all(|b| b.level_db < 0.0), "{:?}", found.bands);
    assert!(found.after_db < found.before_db - 0.5, "{} {}", found.before_db, found.after_db);
    // what is as good already is not offered again
    let mut taken = serde_json::to_value(&*read(document.clone())).unwrap();
    apply(&mut taken, &found.changes);
    let again = flattened(&read(taken), &wish);
    assert!(again.is_err_and(|no| no.pointer == "/heard" && no.message.metric().contains("every seat")));
    let mut open = document;
    open.as_object_mut().unwrap().remove("room");
    assert_eq!(flattened(&read(open), &wish).unwrap_err().pointer, "/heard");
}

/// The brief is held to the room only where that is wished, and tells by how much the level there differs.
#[test]
fn the_brief_in_its_room() {
    let mut document = with(parlour(), &[("/brief/level_db", json!(100.0))]);
    let told = |document: &Value| {
        let list = oak_drum_design::found(&read(document.clone()), &Default::default());
        list.into_iter().find(|f| f.kind == "brief_level").unwrap()
    };
    let open = told(&document);
    assert!(!open.sentence.metric().contains("room"));
    document["room"]["holds_brief"] = json!(true);
    let there = told(&document);
    assert!(there.sentence.metric().contains("at the seats of its room"), "{}", there.sentence);
    let analysis = Analysis::of(&read(document.clone()));
    let room = analysis.design.room.clone().unwrap();
    let gain = oak_drum_design::room::heard::gain_around(&analysis, &room, 25.0, 1.0, TAU);
    assert!((there.figure.value - open.figure.value - gain).abs() < 1e-6);
    // 16 frequencies of a goal, the first at the note
    let shown = view(&read(document), true).unwrap();
    assert_eq!(shown.brief_gain_db.len(), 16);
}

/// What is measured at the seat is held against what the room gives the main seat; in the open against the level by itself.
#[test]
fn a_seat_is_predicted_in_its_room() {
    let hz = [22.0, 35.0, 61.0];
    let level_at = |document: Value| {
        let analysis = Analysis::of(&read(document));
        let curve = predicted(&analysis, &Taken::AtSeat {}, true, &hz).unwrap();
        curve.value.iter().map(|p| level(*p)).collect::<Vec<f64>>()
    };
    let there = level_at(parlour());
    let analysis = Analysis::of(&read(parlour()));
    let heard = Heard::levels_at(&analysis, analysis.design.room.as_ref().unwrap(), &hz);
    assert!(there.iter().zip(&heard[0]).all(|(a, b)| (a - b).abs() < 1e-9));
    let mut open = parlour();
    open.as_object_mut().unwrap().remove("room");
    let by_itself: Vec<f64> = hz.iter().map(|f| analysis.at(*f).level_db[0]).collect();
    assert!(level_at(open).iter().zip(&by_itself).all(|(a, b)| (a - b).abs() < 1e-9));
}

/// What a box does by itself, and what a wall takes away above, is not the room lifting the low end.
#[test]
fn a_low_end_is_lifted_by_the_room_alone() {
    let mut ground = document(json!({"kind": "outdoors", "length_m": 20.0, "width_m": 12.0}));
    // a box that booms by itself
    ground["enclosure"]["net_volume_l"] = json!(15.0);
    ground["brief"]["lowest_note_hz"] = json!(50.0);
    assert!(!kinds(&found(ground.clone())).contains(&"low_end_lifted"));
    ground["room"]["room"]["space"]["wall_takes"] = json!(0.0);
    assert!(!kinds(&found(ground)).contains(&"low_end_lifted"));
}
