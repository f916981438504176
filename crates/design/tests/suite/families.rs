//! What every family must do in a design, and what bad input says.

use oak_drum_acoustics::families::FAMILIES;
use oak_drum_design::enclosure::motion::motion;
use oak_drum_design::enclosure::tolerance::{Tolerances, tolerance};
use oak_drum_design::evaluation::evaluate;
use oak_drum_design::suggest;
use oak_drum_document::{Checked, Design, read_value};
use serde_json::{Value, json};

fn document(enclosure: Value) -> Value {
    json!({
        "format": "oak-drum-design", "version": 5, "enclosure": enclosure,
        "woofer": {"fs_hz": 28, "qms": 5, "qes": 0.4, "vas_l": 62, "re_ohm": 5.6, "sd_cm2": 343, "xmax_mm": 10,
            "power_w": 250, "nominal_ohm": 8, "le_mh": 1},
    })
}

fn read(enclosure: Value) -> Checked {
    read_value(document(enclosure)).unwrap_or_else(|p| panic!("{p:?}"))
}

/// The first start of every family: it reads back as written, evaluates, moves and has a tolerance band.
#[test]
fn every_family_goes_through() {
    let design = read(json!({"family": "sealed", "net_volume_l": 40}));
    let starts = suggest(&design);
    for family in FAMILIES {
        let start = starts
            .iter()
            .filter_map(|s| s.enclosure.clone())
            .find(|e| e.info().id == family.id)
            .unwrap_or_else(|| panic!("{}: no start", family.id));
        let made = Design { enclosure: start, ..Design::clone(&design) };
        let again = read_value(serde_json::to_value(&made).unwrap()).unwrap_or_else(|p| panic!("{}: {p:?}", family.id));
        assert_eq!(*again, made, "{}", family.id);
        let result = evaluate(&again);
        assert!(result.curves.level_db.iter().all(|x| x.is_finite()), "{}", family.id);
        assert!(!result.summary.figures.is_empty(), "{}", family.id);
        let moved = motion(&again, 40.0);
        assert!(moved.cone.re_mm.hypot(moved.cone.im_mm) > 0.0, "{}", family.id);
        let band = tolerance(&again, &Tolerances::default());
        assert!(band.low_db.iter().zip(&band.high_db).all(|(low, high)| low <= high), "{}", family.id);
    }
}

/// The motion drawn is the excursion the lanes show, and along a path the flow is continuous: what leaves the cone goes into
/// the line on both sides of it.
#[test]
fn what_moves_is_what_was_computed() {
    let design = read(json!({"family": "transmission_line", "length_mm": 2600, "woofer_at_mm": 600,
        "profile": {"shape": "straight", "area_cm2": 343}, "wall_losses": false}))
    .at(vec![33.0]);
    let result = evaluate(&design);
    let moved = motion(&design, 33.0);
    let size = |s: &oak_drum_design::enclosure::motion::Swing| s.re_mm.hypot(s.im_mm);
    assert!((size(&moved.cone) / result.curves.cone_excursion_mm[0] - 1.0).abs() < 1e-9);
    // the closed end's air is at rest, the open end's moves most
    let first = size(&moved.path[0].swing);
    let last = size(&moved.path.last().unwrap().swing);
    assert!(first < 0.2 * last, "{first} {last}");
    // the mouth's displacement is that of the last place, nearly
    let mouth = size(&moved.openings[0].swing);
    assert!((mouth / last - 1.0).abs() < 0.05, "{mouth} {last}");
    // across the woofer the line's flow falls by the cone's (equal areas: displacements add), besides what it changes
    // from place to place anyway
    let i = moved.path.iter().position(|p| p.at_mm > 600.0).unwrap();
    let step = |k: usize| {
        let (a, b) = (&moved.path[k].swing, &moved.path[k + 1].swing);
        [b.re_mm - a.re_mm, b.im_mm - a.im_mm]
    };
    let (before, across, after) = (step(i - 2), step(i - 1), step(i));
    for (k, cone) in [moved.cone.re_mm, moved.cone.im_mm].into_iter().enumerate() {
        let jump = across[k] - 0.5 * (before[k] + after[k]);
        assert!((jump + cone).abs() < 0.05 * size(&moved.cone), "{jump} against {cone}");
    }
}

/// No tolerance, no band; a port that is built moves the tuning with the box, so 3 % of volume are 1.5 % of tuning.
#[test]
fn the_band_is_that_of_the_tolerances() {
    let design = read(json!({"family": "vented", "net_volume_l": 60, "port": {"section": {"shape": "round",
        "diameter_mm": 80}, "count": 1, "sizing": {"by": "tuning", "tuning_hz": 32}}}));
    let none = Tolerances { fs_percent: 0.0, qts_percent: 0.0, vas_percent: 0.0, box_percent: 0.0, fill_percent: 0.0 };
    let band = tolerance(&design, &none);
    assert!(band.low_db.iter().zip(&band.high_db).all(|(a, b)| (a - b).abs() < 1e-9));
    assert!((band.figure_range[0] - 32.0).abs() < 1e-6 && band.samples == 200);
    let boxes = tolerance(&design, &Tolerances { box_percent: 3.0, ..none });
    let [low, high] = boxes.figure_range;
    // nine tenths of ±3 % of volume, half of that in frequency
    assert!((high / low - 1.027).abs() < 0.003, "{low} {high}");
    assert_eq!(tolerance(&design, &Tolerances::default()), tolerance(&design, &Tolerances::default()));
}

/// Bad input is named at its field.
#[test]
fn what_cannot_be_built_is_said_at_the_field() {
    let line = |more: Value| {
        let mut line = json!({"family": "transmission_line", "length_mm": 2000, "woofer_at_mm": 300,
            "profile": {"shape": "straight", "area_cm2": 300}});
        line.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        line
    };
    let horn = |throat: f64, mouth: f64, profile: Value| json!({"family": "front_horn", "rear_volume_l": 30, "horn": {"throat_cm2": throat, "mouth_cm2": mouth, "profile": profile}});
    let stations = |n: usize| (0..n).map(|i| json!({"at_mm": i as f64 * 10.0, "area_cm2": 300})).collect::<Vec<_>>();
    for (enclosure, pointer, words) in [
        (line(json!({"profile": {"shape": "straight", "area_cm2": 0}})), "/enclosure/profile/area_cm2", "5"),
        (line(json!({"woofer_at_mm": 2400})), "/enclosure/woofer_at_mm", "outside the line"),
        (
            line(
                json!({"profile": {"shape": "free", "stations": [{"at_mm": 0, "area_cm2": 300}, {"at_mm": 1500, "area_cm2": 200}]}}),
            ),
            "/enclosure/profile/stations/1/at_mm",
            "must meet",
        ),
        (
            line(json!({"profile": {"shape": "free", "stations": stations(10_000)}})),
            "/enclosure/profile/stations",
            "40",
        ),
        (
            line(
                json!({"fills": [{"from_mm": 500, "to_mm": 400, "stuffing": {"kind": "resistivity", "flow_resistivity_pa_s_per_m2": 2000}}]}),
            ),
            "/enclosure/fills/0/to_mm",
            "behind 500 mm",
        ),
        (
            horn(500.0, 300.0, json!({"shape": "exponential", "length_mm": 1500})),
            "/enclosure/horn/mouth_cm2",
            "at least as large",
        ),
        (
            json!({"family": "bandpass_fourth", "rear_volume_l": 0, "front_volume_l": 20, "front_port": {"section":
                {"shape": "round", "diameter_mm": 80}, "count": 1, "sizing": {"by": "tuning", "tuning_hz": 50}}}),
            "/enclosure/rear_volume_l",
            "0.2",
        ),
        (
            json!({"family": "tapped_horn", "inner_tap_mm": 100, "outer_tap_mm": 5000, "horn": {"throat_cm2": 100,
                "mouth_cm2": 700, "profile": {"shape": "conical", "length_mm": 2500}}}),
            "/enclosure/outer_tap_mm",
            "outside the horn",
        ),
        (
            json!({"family": "sealed", "net_volume_l": 40, "inside": {"width_mm": 300, "height_mm": 400, "depth_mm": 350,
                "woofer_across_mm": 450, "woofer_up_mm": 200}}),
            "/enclosure/inside/woofer_across_mm",
            "outside the chamber",
        ),
        (
            json!({"family": "open_baffle", "width_mm": 500, "height_mm": 800, "woofer_across_mm": 600, "woofer_up_mm": 300}),
            "/enclosure/woofer_across_mm",
            "on the board",
        ),
    ] {
        let problems = read_value(document(enclosure)).unwrap_err();
        let found = problems.iter().find(|p| p.pointer == pointer);
        assert!(found.is_some_and(|p| p.message.contains(words)), "{pointer}: {problems:?}");
    }
}

/// Standing waves show where they must: a woofer in the middle of a long side drives no first mode along it, one at its end
/// does (a bump in the impedance); fill damps it.
#[test]
fn standing_waves_follow_the_woofer() {
    let bump = |up: f64, fill: Value| {
        let mut d = document(json!({"family": "sealed", "net_volume_l": 80, "fill": fill, "inside": {"width_mm": 300,
            "height_mm": 924, "depth_mm": 300, "woofer_across_mm": 150, "woofer_up_mm": up}}));
        d["frequencies_hz"] = json!((0..200).map(|i| 150.0 + f64::from(i) * 0.4).collect::<Vec<_>>());
        let level = evaluate(&read_value(d).unwrap()).curves.level_db;
        level.iter().copied().fold(f64::MIN, f64::max) - level.iter().copied().fold(f64::MAX, f64::min)
    };
    let none = json!({"kind": "none"});
    let (end, middle) = (bump(120.0, none.clone()), bump(462.0, none));
    // 0.924 m: about 186 Hz (common practice)
    assert!(end > 3.0 * middle && end > 2.0, "{end} {middle}");
    let wool = json!({"kind": "material", "material": "polyester_wadding", "density_kg_per_m3": 12, "filled_part": 1});
    assert!(bump(120.0, wool) < end * 0.5);
}

/// Packing a floor-stander's line with wool moves its tuning by about a tenth (common practice).
#[test]
fn fill_makes_a_line_longer() {
    let design = read(json!({"family": "transmission_line", "length_mm": 1700, "woofer_at_mm": 300,
        "profile": {"shape": "straight", "area_cm2": 300},
        "fills": [{"from_mm": 0, "to_mm": 850, "stuffing": {"kind": "material", "material": "long_fibre_wool", "density_kg_per_m3": 8}}]}));
    let result = evaluate(&design);
    let longer = result.summary.figures.iter().find(|f| f.id == "acts_longer").unwrap().value;
    assert!((1.02..1.25).contains(&longer), "{longer}");
    let grams = result.summary.figures.iter().find(|f| f.id == "fill_g").unwrap().value;
    assert!((grams - 0.85 * 0.03 * 8.0 * 1e3).abs() < 1.0, "{grams}");
}

/// A radiator past its excursion is said, and more of them, each heavier, is a remedy that helps.
#[test]
fn a_radiator_past_its_limit() {
    let mut d =
        document(json!({"family": "passive_radiator", "net_volume_l": 25, "leak_q": 10, "radiators": {"count": 1,
        "fs_hz": 20, "qms": 7, "vas_l": 60, "sd_cm2": 343, "xmax_mm": 4, "added_mass_g": 100}}));
    d["drive"] = json!({"kind": "voltage", "volts": 25});
    d["brief"] = json!({"lowest_note_hz": 30});
    let result = evaluate(&read_value(d).unwrap());
    assert_eq!(result.summary.radiator_limit_mm, Some(4.0));
    let found = result.findings.iter().flatten().find(|f| f.kind == "radiator_over_limit").unwrap();
    assert!(found.figure.value > 4.0 && found.remedies.len() == 2, "{found:?}");
}

/// The half-wave school asks for about 5.5 m at 30 Hz, the quarter-wave one for half of that (common practice).
#[test]
fn a_horn_for_thirty_hertz() {
    let mut design = read(json!({"family": "sealed", "net_volume_l": 40})).into_design();
    // a horn is started for 1.3 times the woofer's own resonance
    design.woofer.fs_hz = Some(30.0 / 1.3);
    let design = Checked::assembled(design).unwrap();
    let length = |id: &str| {
        let start = suggest(&design).into_iter().find(|s| s.id == id).and_then(|s| s.enclosure).unwrap();
        serde_json::to_value(start).unwrap().pointer("/horn/profile/length_mm").and_then(Value::as_f64).unwrap()
    };
    let (half, quarter) = (length("front_horn_half"), length("front_horn_quarter"));
    assert!((half - 5500.0).abs() < 300.0 && (half / quarter - 2.0).abs() < 0.01, "{half} {quarter}");
}
