//! What a box says of its own: standing waves and their cures, proportions, fill, panels and braces, leaks.

use oak_drum_design::analysis::Analysis;
use oak_drum_design::evaluation::findings::findings;
use oak_drum_design::quiet::{Quiet, mode_picture, modes, panels, quiet, ratios};
use oak_drum_document::{Change, Checked, apply, read_value};
use serde_json::{Value, json};

/// A floor-stander, 924 mm high inside, a woofer near its top and a port near its floor.
fn tall() -> Value {
    json!({
        "format": "oak-drum-design", "version": 5,
        "brief": {"lowest_note_hz": 40, "plays_to_hz": 300},
        "woofer": {"fs_hz": 36, "qms": 5, "qes": 0.38, "vas_l": 40, "re_ohm": 5.8, "sd_cm2": 220, "le_mh": 0.6,
                   "xmax_mm": 6, "power_w": 100, "nominal_ohm": 8, "displacement_l": 1.2, "depth_mm": 90},
        "enclosure": {"family": "vented", "net_volume_l": 48, "leak_q": 10,
                      "port": {"section": {"shape": "round", "diameter_mm": 75}, "count": 1,
                               "sizing": {"by": "tuning", "tuning_hz": 47}},
                      "inside": {"width_mm": 190, "height_mm": 924, "depth_mm": 290, "woofer_across_mm": 95,
                                 "woofer_up_mm": 800, "opening_across_mm": 95, "opening_up_mm": 80}},
        "cabinet": {"width_mm": 226, "height_mm": 960, "depth_mm": 326, "panel_mm": 18, "baffle_mm": 18},
        "drive": {"kind": "voltage", "volts": 2.83},
    })
}

fn design(changes: &[(&str, Value)]) -> Checked {
    let mut document = tall();
    let changes: Vec<Change> = changes.iter().map(|(p, v)| Change::set(*p, v.clone())).collect();
    apply(&mut document, &changes);
    read_value(document).unwrap_or_else(|p| panic!("{p:?}"))
}

fn whole(changes: &[(&str, Value)]) -> Quiet {
    quiet(&design(changes))
}

/// Common practice: a floor-stander of 924 mm inside shows its standing wave near 186 Hz (c/2L), the wave along comes first.
#[test]
fn the_wave_of_a_floor_stander() {
    let found = whole(&[]);
    let chamber = &found.chambers[0];
    assert!((chamber.lowest_hz - 185.7).abs() < 0.1 && chamber.stated && chamber.all_clear.is_none());
    assert!(chamber.long.is_some() && chamber.modes[0].order == [0, 1, 0] && chamber.modes[1].order == [0, 2, 0]);
    assert!(chamber.modes[0].effect_db > modes::HARMLESS && chamber.modes[0].woofer > 0.8, "{:?}", chamber.modes[0]);
}

/// Theory: a woofer in the middle of the height does not drive the first wave; the cure offered finds a place as good, the
/// fill offered damps it, and each is what it says once taken.
#[test]
fn cured_by_moving_the_woofer_and_by_fill() {
    let first = |q: &Quiet| q.chambers[0].modes.iter().find(|m| m.order == [0, 1, 0]).unwrap().clone();
    let middle = first(&whole(&[("/enclosure/inside/woofer_up_mm", json!(462))]));
    let near_the_top = first(&whole(&[]));
    // the port alone still feels it
    assert!(middle.woofer < 1e-9 && middle.effect_db < 0.4 * near_the_top.effect_db, "{middle:?} {near_the_top:?}");
    let a = Analysis::of(&design(&[]));
    let f = findings(&a).into_iter().find(|f| f.kind == "standing_wave").expect("a wave in the band");
    let before = f.figure.value;
    for word in ["Woofer to", "in the middle"] {
        let remedy =
            f.remedies.iter().find(|r| r.title.contains(word)).unwrap_or_else(|| panic!("{word}: {:#?}", f.remedies));
        let mut document = serde_json::to_value(&a.design).unwrap();
        apply(&mut document, &remedy.changes);
        let after = Analysis::of(&read_value(document).unwrap());
        let left = modes::worst(&after, &after.wired.chambers[0]).map_or(0.0, |w| w.2);
        assert!(
            left < before * 0.75 && remedy.predicted.starts_with(&format!("{left:.1} dB")),
            "{word}: {left} {remedy:?}"
        );
    }
}

/// Common practice: packing the lower half of a floor-stander with dense wool moved its tuning from about 47 to 42 Hz, a
/// tenth, and took the wave away.
#[test]
fn dense_wool_in_half_of_it() {
    let fill =
        json!({"kind": "material", "material": "mineral_wool_dense", "density_kg_per_m3": 60, "filled_part": 0.5});
    let found = whole(&[("/enclosure/fill", fill)]);
    let now = &found.fills.as_ref().unwrap().now;
    let moved = now.figure_empty / now.figure;
    assert!((1.05..1.15).contains(&moved), "{moved}");
    assert!((now.grams.unwrap() - 60.0 * 24.0).abs() < 1e-6);
    // so dense that the reckoning of the wave is stretched is said; polyester damps it
    assert!(found.chambers[0].fill_note.is_some());
    let fill =
        json!({"kind": "material", "material": "polyester_wadding", "density_kg_per_m3": 20, "filled_part": 0.5});
    let found = whole(&[("/enclosure/fill", fill)]);
    let wave = &found.chambers[0].modes[0];
    assert!(wave.q < 5.0 && wave.empty_q == 40.0 && wave.effect_db < 3.0, "{wave:?}");
    assert!(found.chambers[0].fill_note.is_none());
    // the schools: more fill acts larger, tunes lower, and costs more
    let schools = &found.fills.as_ref().unwrap().schools;
    assert_eq!(schools.len(), 4);
    // (40 mm of lining are more than half of so narrow a box)
    let by_part: Vec<_> = ["none", "half", "full"].map(|id| schools.iter().find(|s| s.id == id).unwrap()).to_vec();
    for pair in by_part.windows(2) {
        assert!(pair[1].grams > pair[0].grams && pair[1].acts_larger_by >= pair[0].acts_larger_by);
        assert!(pair[1].figure <= pair[0].figure + 1e-9);
    }
    assert!(schools[0].wave_db > schools[3].wave_db);
}

/// A subwoofer's panels are too near for its band to care: a plain all-clear.
#[test]
fn the_all_clear() {
    let found = whole(&[("/brief/plays_to_hz", json!(100)), ("/enclosure/inside", Value::Null)]);
    let chamber = &found.chambers[0];
    assert!(chamber.all_clear.is_some() && !chamber.stated && chamber.assumed_from.is_some());
    // the place of an assumed inside is the cabinet's
    assert_eq!([chamber.inside.width_mm, chamber.inside.height_mm, chamber.inside.depth_mm], [190.0, 924.0, 290.0]);
}

/// A picture has its nodes where the theory has them, and as many as the order says.
#[test]
fn the_picture_of_a_mode() {
    let picture = mode_picture(&design(&[]), "/enclosure/net_volume_l", [0, 2, 1]).unwrap();
    let column: Vec<f64> = picture.side.iter().map(|row| row[0]).collect();
    assert_eq!(column.windows(2).filter(|w| w[0].signum() != w[1].signum()).count(), 2);
    assert_eq!(picture.side[0].windows(2).filter(|w| w[0].signum() != w[1].signum()).count(), 1);
    assert!((picture.side[0][0] - 1.0).abs() < 1e-12 && (picture.up_mm[24] - 924.0).abs() < 1e-9);
    assert!(mode_picture(&design(&[]), "/enclosure/front_volume_l", [0, 1, 0]).is_none());
}

/// Ratios keep the volume, a cube is the most crowded, and taking one makes it so.
#[test]
fn proportions() {
    let found = whole(&[]);
    let volume: f64 = found.ratios[0].inside_mm.iter().product();
    for ratio in &found.ratios {
        assert!((ratio.inside_mm.iter().product::<f64>() / volume - 1.0).abs() < 0.01 && !ratio.source.is_empty());
    }
    let of = |id: &str| found.ratios.iter().find(|r| r.id == id).unwrap();
    assert!(of("cube").closest_percent < 1e-9 && of("cube").crowded > of("favoured").crowded);
    assert_eq!(ratios::equal_sides([400.0, 401.0, 399.0]), 3);
    assert_eq!(ratios::equal_sides([400.0, 405.0, 600.0]), 2);
    assert_eq!(ratios::equal_sides([400.0, 468.0, 588.0]), 0);
    let mut document = tall();
    apply(&mut document, &of("favoured").changes);
    let after = quiet(&read_value(document).unwrap());
    assert_eq!(after.ratios[0].inside_mm, of("favoured").inside_mm);
}

/// A lining takes what geometry says; fill given by mass packs itself; denser than its solid is refused at the field with
/// the mass that would do.
#[test]
fn lining_and_mass() {
    let lining = json!({"thickness_mm": 40, "left": true, "right": true, "back": true});
    let wool = |more: Value| {
        let mut fill =
            json!({"kind": "material", "material": "polyester_wadding", "density_kg_per_m3": 10, "filled_part": 0.5});
        fill.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        fill
    };
    let found = whole(&[("/enclosure/inside/lining", lining.clone()), ("/enclosure/fill", wool(json!({})))]);
    let part = 1.0 - (110.0 / 190.0) * (250.0 / 290.0);
    let now = found.fills.unwrap().now;
    assert!((now.filled_l / 48.0 - part).abs() < 1e-9, "{now:?}");
    let by_mass = whole(&[("/enclosure/fill", wool(json!({"mass_g": 480})))]).fills.unwrap().now;
    assert!((by_mass.packed_kg_per_m3.unwrap() - 20.0).abs() < 1e-9);

    let refused = |changes: &[(&str, Value)]| {
        let mut document = tall();
        let changes: Vec<Change> = changes.iter().map(|(p, v)| Change::set(*p, v.clone())).collect();
        apply(&mut document, &changes);
        read_value(document).unwrap_err()
    };
    let dense = refused(&[("/enclosure/fill", wool(json!({"mass_g": 50000})))]);
    assert!(dense[0].pointer == "/enclosure/fill/mass_g" && dense[0].message.contains("at most 33120 g"), "{dense:?}");
    let mut thick = lining;
    thick["thickness_mm"] = json!(120); // on both sides of 190 mm
    let thick = refused(&[("/enclosure/inside/lining", thick)]);
    assert!(thick[0].pointer == "/enclosure/inside/lining/thickness_mm" && thick[0].message.contains("at most 95 mm"));
    let zero = refused(&[("/cabinet/panel_mm", json!(0))]);
    assert!(zero[0].pointer == "/cabinet/panel_mm" && zero[0].message.contains("at least 3"), "{zero:?}");
    let outside = refused(&[(
        "/cabinet/braces",
        json!([{"kind": "window", "lies": "level", "at_mm": 1200, "thickness_mm": 18, "open_part": 0.5}]),
    )]);
    assert!(outside[0].message.contains("brace 1") && outside[0].message.contains("924 mm"), "{outside:?}");
    let layer = refused(&[("/cabinet/inner_layer", json!({"board": "mdf", "thickness_mm": 18}))]);
    assert!(layer[0].pointer == "/cabinet/inner_layer/thickness_mm", "{layer:?}");
}

/// Each more window lifts the lowest panel; a plan taken is what it says, by the fuller reckoning within 6 % of the quick one;
/// braces and their litres are in the ledger.
#[test]
fn braces_where_they_do_most() {
    let found = whole(&[]);
    let plans = &found.panels.as_ref().unwrap().plans;
    assert_eq!(plans.len(), 3);
    let lowest = |q: &Quiet| q.panels.as_ref().unwrap().panels.iter().map(|p| p.between_hz).fold(f64::MAX, f64::min);
    let mut before = lowest(&found);
    for plan in plans {
        let mut document = tall();
        apply(&mut document, &plan.changes);
        let d = read_value(document).unwrap();
        let after = quiet(&d);
        let now = lowest(&after);
        assert!(now > before * 1.02, "{}: {now} after {before}", plan.title);
        assert!((now / plan.lowest_hz - 1.0).abs() < 0.06, "{}: {now} against {}", plan.title, plan.lowest_hz);
        before = now;
        let ledger = Analysis::of(&d).ledger.unwrap();
        let line = ledger.lines.iter().find(|l| l.id == "braces").unwrap();
        assert!((line.litres + plan.litres).abs() < 1e-9);
        let names = findings(&Analysis::of(&d)).into_iter().map(|f| f.kind).collect::<Vec<_>>();
        assert!(
            !names.contains(&"brace_meets_magnet".into()) && !names.contains(&"brace_blocks_air".into()),
            "{names:?}"
        );
    }
    // the bracket is one, and every kind of brace lifts the panel it holds
    for panel in &found.panels.as_ref().unwrap().panels {
        assert!(panel.supported_hz < panel.between_hz && panel.between_hz < panel.clamped_hz);
    }
    let side = |braces: Value| {
        let q = whole(&[("/cabinet/braces", braces)]);
        q.panels.unwrap().panels.into_iter().find(|p| p.id == "sides").unwrap().supported_hz
    };
    let plain = side(json!([]));
    for brace in [
        json!({"kind": "shelf", "lies": "level", "at_mm": 462, "thickness_mm": 18, "reach_part": 0.8}),
        json!({"kind": "cross", "lies": "level", "at_mm": 462, "bar_mm": 30}),
        json!({"kind": "dowel", "ties": "sides", "at_mm": 145, "and_mm": 462, "diameter_mm": 30}),
    ] {
        assert!(side(json!([brace])) > plain * 1.05, "{brace}");
    }
    // twice the port's 75 mm circle against half the cone: here the cone asks for more, of a larger port the port
    let wanted = |changes: &[(&str, Value)]| panels::opening_wanted(&Analysis::of(&design(changes)));
    assert!((wanted(&[]) - 0.5 * 220e-4).abs() < 1e-12);
    let wide = json!({"shape": "round", "diameter_mm": 120});
    let circle = std::f64::consts::PI * 0.06f64.powi(2);
    assert!((wanted(&[("/enclosure/port/section", wide)]) - 2.0 * circle).abs() < 1e-12);
}

/// Theory: Q = ωRC, and a slit's resistance goes with one over its area: twice the gap, half the Q. Leaks cost the more the
/// larger they are.
#[test]
fn leaks_cost_level() {
    let leaks = whole(&[]).leaks.remove(0);
    for pair in leaks.rows.windows(2) {
        assert!((pair[0].q * pair[0].gap_mm2 / (pair[1].q * pair[1].gap_mm2) - 1.0).abs() < 1e-9);
        assert!(pair[1].lost_db > pair[0].lost_db);
    }
    let gap = leaks.ruins_mm2.unwrap();
    let row = |lost: f64| leaks.rows.iter().find(|r| r.lost_db > lost).unwrap();
    assert!(gap <= row(1.0).gap_mm2 && leaks.sentence.contains("mm²"));
}

/// A line has odd quarter waves only; a driver a third along misses the third (theory: cos(3π/2·1/3) = 0).
#[test]
fn waves_of_a_line() {
    let line = |at: f64| {
        json!({"family": "transmission_line", "length_mm": 2400, "profile": {"shape": "straight", "area_cm2": 300},
               "woofer_at_mm": at, "mouth": "half_space", "mouth_model": "end_correction", "wall_losses": true})
    };
    let d = design(&[]);
    let make = |at: f64| {
        let mut document = serde_json::to_value(&d).unwrap();
        apply(&mut document, &[Change::set("/enclosure", line(at)), Change::set("/cabinet", Value::Null)]);
        read_value(document).map(|d| quiet(&d).path)
    };
    let Ok(waves) = make(820.0) else { panic!("{:?}", make(820.0)) };
    assert_eq!(waves.iter().map(|w| w.quarters).collect::<Vec<_>>(), [1, 3, 5, 7, 9, 11]);
    assert!(waves[1].woofer < 0.06 && waves[0].woofer > 0.8, "{waves:?}");
}
