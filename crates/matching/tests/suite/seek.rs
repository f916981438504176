//! Seeking a goal: against a dense grid, against closed forms, and what it says when there is nothing.

use oak_drum_document::{Checked, Design, read_value};
use oak_drum_matching::seek::{Measures, Reach, Seek, measures, seek, seek_best};
use serde_json::{Value, json};

fn design(enclosure: Value) -> Checked {
    read_value(json!({
        "format": "oak-drum-design", "version": 5, "enclosure": enclosure,
        "woofer": {"fs_hz": 28, "qms": 5, "qes": 0.4, "vas_l": 62, "re_ohm": 5.6, "sd_cm2": 343, "xmax_mm": 10,
            "power_w": 250, "nominal_ohm": 8, "le_mh": 0.2},
        "drive": {"kind": "voltage", "volts": 10},
    }))
    .unwrap_or_else(|p| panic!("{p:?}"))
}

fn vented() -> Checked {
    design(json!({"family": "vented", "net_volume_l": 60, "leak_q": 10, "port": {"section": {"shape": "round",
        "diameter_mm": 90}, "count": 1, "sizing": {"by": "tuning", "tuning_hz": 32}}}))
}

fn wanted(reach: Reach) -> Seek {
    Seek {
        reach,
        volume_l: None,
        outside_l: None,
        length_mm: None,
        delay_ms: None,
        port_fits: false,
        lowest_note_hz: 30.0,
    }
}

/// The lowest f3 within 70 L, never more than 2 dB proud, against every box of a grid of 60 x 90.
#[test]
fn no_grid_reaches_lower() {
    let start = vented();
    let found = seek(&start, &Seek { volume_l: Some(70.0), ..wanted(Reach::LowestF3) });
    let best = found.best.unwrap().measures;
    assert!(best.volume_l <= 70.0 && best.proud_db <= 2.0001, "{best:?}");
    let mut lowest = f64::INFINITY;
    for i in 0..60 {
        for k in 0..90 {
            let mut document = serde_json::to_value(&start).unwrap();
            document["enclosure"]["net_volume_l"] = json!(10.0 + f64::from(i));
            document["enclosure"]["port"]["sizing"]["tuning_hz"] = json!(15.0 + 0.4 * f64::from(k));
            let m = measures(&read_value(document).unwrap(), 30.0);
            if m.proud_db <= 2.0 {
                lowest = lowest.min(m.f3_hz.unwrap_or(f64::INFINITY));
            }
        }
    }
    let mine = best.f3_hz.unwrap();
    assert!(mine <= lowest * 1.01, "{mine} against {lowest}");
    // the trade-off: the more air, the lower; each keeps what it holds
    assert!(found.trades.len() >= 4);
    for pair in found.trades.windows(2) {
        let f3 = |t: &oak_drum_matching::seek::Trade| t.measures.f3_hz.unwrap();
        assert!(pair[0].held <= pair[1].held && f3(&pair[1]) <= f3(&pair[0]) * 1.01);
    }
}

/// The flattest sealed box, against 400 volumes.
#[test]
fn the_flattest_sealed_box() {
    let start = design(json!({"family": "sealed", "net_volume_l": 20}));
    let found = seek(&start, &Seek { lowest_note_hz: 45.0, ..wanted(Reach::Flattest) });
    let best = found.best.unwrap();
    assert!(best.measures.swing_db < found.now.swing_db, "{best:?}");
    let least = (0..400)
        .map(|i| {
            let litres = 1000f64.powf(f64::from(i) / 399.0);
            let boxed = design(json!({"family": "sealed", "net_volume_l": litres}));
            measures(&boxed, 45.0).swing_db
        })
        .fold(f64::INFINITY, f64::min);
    assert!(best.measures.swing_db <= least * 1.01, "{} against {least}", best.measures.swing_db);
}

/// A line is sought by its length; what lies along it moves with it.
#[test]
fn a_line_by_its_length() {
    let start = design(json!({"family": "transmission_line", "length_mm": 2400, "woofer_at_mm": 480,
        "profile": {"shape": "straight", "area_cm2": 343},
        "fills": [{"from_mm": 0, "to_mm": 1800, "stuffing": {"kind": "resistivity", "flow_resistivity_pa_s_per_m2": 1500}}]}));
    let found = seek(&start, &Seek { length_mm: Some(2200.0), ..wanted(Reach::LowestF3) });
    assert!(found.by_length);
    let Some(best) = found.best else { panic!("{:?}", found.reason) };
    assert!(best.measures.length_mm <= 2200.0);
    let document = serde_json::to_value(&best.enclosure).unwrap();
    let share = document["woofer_at_mm"].as_f64().unwrap() / document["length_mm"].as_f64().unwrap();
    assert!((share - 0.2).abs() < 0.01, "{share}");
}

/// Bounds are bounds, and of the trade-off no point is there twice or beaten by another: whatever is sought, more room never comes
/// with a worse result. What a trade measures is what its enclosure measures.
#[test]
fn no_point_is_beaten() {
    let sixth = design(
        json!({"family": "bandpass_sixth", "leads": "outside", "rear_volume_l": 50, "front_volume_l": 25,
        "rear_port": {"section": {"shape": "round", "diameter_mm": 100}, "count": 1, "sizing": {"by": "tuning", "tuning_hz": 28}},
        "front_port": {"section": {"shape": "round", "diameter_mm": 120}, "count": 1, "sizing": {"by": "tuning", "tuning_hz": 60}}}),
    );
    for (start, reach, most) in [
        (vented(), Reach::Flattest, 150.0),
        (vented(), Reach::Loudest, 80.0),
        (vented(), Reach::Smallest, 200.0),
        (sixth, Reach::Flattest, 120.0),
    ] {
        let found = seek(&start, &Seek { volume_l: Some(most), ..wanted(reach) });
        let Some(best) = found.best else { panic!("{reach:?}: {:?}", found.reason) };
        assert!(best.measures.volume_l <= most * (1.0 + 1e-6), "{reach:?}: {}", best.measures.volume_l);
        let quality = |m: &oak_drum_matching::seek::Measures| match reach {
            Reach::Flattest => m.swing_db,
            Reach::Loudest => -m.loudest_db,
            Reach::LowestF3 | Reach::Smallest => m.f3_hz.unwrap(),
        };
        for pair in found.trades.windows(2) {
            assert!(pair[0].held < pair[1].held, "{reach:?}: {} twice", pair[0].held);
            assert!(quality(&pair[1].measures) < quality(&pair[0].measures), "{reach:?}: {pair:?}");
        }
        for trade in &found.trades {
            let made = Design { enclosure: trade.enclosure.clone(), ..Design::clone(&start) };
            let again = measures(&Checked::assembled(made).unwrap(), 30.0);
            assert_eq!(again, trade.measures);
            // nothing seen is better than the best with as little
            if reach == Reach::Flattest && trade.held <= best.held {
                assert!(trade.measures.swing_db >= best.measures.swing_db * 0.98 - 0.02, "{trade:?} {best:?}");
            }
        }
    }
}

/// An outside volume is kept with boards, woofer and port counted.
#[test]
fn the_outside_is_kept() {
    let found = seek(&vented(), &Seek { outside_l: Some(80.0), ..wanted(Reach::Loudest) });
    let best = found.best.unwrap().measures;
    assert!(best.outside_l <= 80.0001 && best.volume_l < 70.0, "{best:?}");
}

#[test]
fn it_repeats_itself_and_says_when_there_is_nothing() {
    let ask = Seek { volume_l: Some(50.0), ..wanted(Reach::Loudest) };
    assert_eq!(seek(&vented(), &ask), seek(&vented(), &ask));
    let hopeless = Seek { delay_ms: Some(0.5), lowest_note_hz: 20.0, ..wanted(Reach::LowestF3) };
    let found = seek(&vented(), &hopeless);
    assert!(found.best.is_none() && found.reason.is_some_and(|r| r.contains("group delay")));
    let baffle = design(json!({"family": "infinite_baffle"}));
    assert!(seek(&baffle, &wanted(Reach::LowestF3)).reason.is_some_and(|r| r.contains("nothing to turn")));
}

/// Where the brief is held to a room, loudness is that at its seats; f3 stays the box's own.
#[test]
fn a_room_counts_where_the_brief_is_held_to_it() {
    let mut document = serde_json::to_value(design(json!({"family": "sealed", "net_volume_l": 60}))).unwrap();
    let open = measures(&read_value(document.clone()).unwrap(), 30.0);
    document["room"] = json!({"room": {"name": "Van", "space": {"kind": "cabin", "volume_m3": 6.0, "length_m": 3.0, "distance_m": 2.0,
        "leak_hz": 6.0}}, "cabinets": [{"x_m": 0.0, "y_m": 0.0}], "seats": [{"x_m": 0.0, "y_m": 0.0}]});
    assert_eq!(measures(&read_value(document.clone()).unwrap(), 30.0), open);
    document["room"]["holds_brief"] = json!(true);
    let held = measures(&read_value(document).unwrap(), 30.0);
    assert_eq!(held.f3_hz, open.f3_hz);
    // 2 m of half space, and the cabin's lift there: 10·log10(1 + (fx/f)⁴/(1 + (fl/f)²)), fx = (c/2π)·√(Ω·r/V)
    let fx = 343.2 / std::f64::consts::TAU * (std::f64::consts::TAU * 2.0 / 6.0).sqrt();
    let lift = 10.0 * (1.0 + (fx / 30.0f64).powi(4) / (1.0 + (6.0 / 30.0f64).powi(2))).log10();
    let more = held.loudest_db - open.loudest_db;
    assert!((more - (lift - 20.0 * 2f64.log10())).abs() < 0.05, "{more} {lift}");
}

/// Held to a port that fits, the port and one diameter free at its inner end leave a board of the depth, which in the usual proportions
/// is the cube root of the outside; without that the search takes longer ones.
#[test]
fn a_port_that_has_to_fit_does() {
    let ask = Seek { outside_l: Some(60.0), ..wanted(Reach::LowestF3) };
    let free = seek_best(&vented(), &ask).unwrap().measures;
    let fits = seek_best(&vented(), &Seek { port_fits: true, ..ask }).unwrap().measures;
    let room = |m: &Measures| 100.0 * m.outside_l.cbrt() - 18.0;
    assert!(free.port_depth_mm > room(&free), "{free:?}");
    assert!(fits.port_depth_mm <= room(&fits) && fits.port_depth_mm > fits.longest_port_mm, "{fits:?}");
    assert!(fits.f3_hz.unwrap() >= free.f3_hz.unwrap() - 0.01, "freedom never costs");
}
