//! Beginning from a woofer: three boxes that are what they are called, each in a cabinet that holds it.

use oak_drum_acoustics::driver::Woofer;
use oak_drum_acoustics::families::Enclosure;
use oak_drum_design::airway::speed::air_speed;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::brief::purpose::{PURPOSES, Purpose};
use oak_drum_design::finding::Severity;
use oak_drum_design::found;
use oak_drum_document::{Checked, Drive, Prices};
use oak_drum_matching::begin::{Begin, Begun, begin, picked};
use oak_drum_matching::seek::{Measures, measures};
use serde_json::{Value, json};

fn woofer(changes: Value) -> Woofer {
    let mut sheet = json!({"name": "Ten", "fs_hz": 28, "qms": 5, "qes": 0.4, "vas_l": 62, "re_ohm": 5.6, "sd_cm2": 343, "xmax_mm": 10,
        "power_w": 250, "nominal_ohm": 8, "depth_mm": 130, "cutout_mm": 234, "outside_diameter_mm": 259, "magnet_diameter_mm": 140});
    for (key, value) in changes.as_object().into_iter().flatten() {
        sheet[key] = value.clone();
    }
    serde_json::from_value(sheet).unwrap()
}

fn wish(changes: Value) -> Begin {
    let mut wish = json!({"purpose": "music", "woofer": woofer(json!({}))});
    for (key, value) in changes.as_object().into_iter().flatten() {
        wish[key] = value.clone();
    }
    serde_json::from_value(wish).unwrap()
}

fn of(begun: &Begun, id: &str) -> (Checked, Measures) {
    let found = begun.boxes.iter().find(|b| b.id == id).unwrap_or_else(|| panic!("no {id}: {:?}", begun.left_out));
    let design = Checked::assembled(found.design.clone()).unwrap();
    let m = measures(&design, found.design.brief.lowest_note_hz.unwrap());
    (design, m)
}

/// The smallest is the smallest that plays the note, the deep one goes lowest, the loud one plays loudest; none is larger than was said.
#[test]
fn three_boxes_are_what_they_are_called() {
    let begun = begin(&wish(json!({"amplifier": {"name": "A", "power_w": 200, "load_ohm": 8, "minimum_load_ohm": 4}})))
        .unwrap();
    let [(small, s), (_, d), (_, l)] = ["small", "deep", "loud"].map(|id| of(&begun, id));
    assert!(s.f3_hz.unwrap() <= 32.0 * 1.001, "{s:?}");
    assert!(d.f3_hz.unwrap() <= s.f3_hz.unwrap() && d.f3_hz.unwrap() <= l.f3_hz.unwrap() * 1.001, "{d:?} {l:?}");
    assert!(l.loudest_db >= s.loudest_db && l.loudest_db >= d.loudest_db - 0.01, "{l:?} {d:?}");
    assert!(s.outside_l < d.outside_l && d.outside_l <= 2.0 * s.outside_l * 1.01, "{s:?} {d:?}");
    // driven by what the amplifier gives: 200 W into 8 ohm are 40 V
    assert!(matches!(small.drive, Drive::Voltage { volts } if (volts - 40.0).abs() < 0.1), "{:?}", small.drive);
    for id in ["small", "deep", "loud"] {
        let (design, _) = of(&begun, id);
        let a = Analysis::of(&design);
        let ledger = a.ledger.as_ref().unwrap_or_else(|| panic!("{id} has no cabinet"));
        assert!((ledger.net_l / ledger.wanted_net_l - 1.0).abs() < 0.005, "{id}");
    }
    assert!(begun.reasons.iter().any(|r| r.contains("30.9 Hz")));
}

/// A port is as wide as the most that stroke, coil and amplifier allow asks for, held against the air speed that the Airway station
/// tells; one that cannot be says so. With an amplifier that drives the cone to its end and with a smaller one; without one by the likely.
#[test]
fn ports_begin_quiet() {
    let mut vented = 0;
    for rest in
        [json!({}), json!({"gives": {"power_w": 200, "load_ohm": 8}}), json!({"gives": {"power_w": 50, "load_ohm": 8}})]
    {
        for made in begin(&wish(rest)).unwrap().boxes {
            let design = Checked::assembled(made.design.clone()).unwrap();
            let a = Analysis::of(&design);
            let Some(report) = a.wired.ports.first() else { continue };
            vented += 1;
            let air = air_speed(&a, report).unwrap();
            let loud = air.at_most_m_per_s.unwrap().max(air.at_drive_m_per_s) > air.limit_m_per_s * 1.25;
            let told = made.sentence.contains("port is heard");
            assert_eq!(loud, told, "{}: {air:?}", made.sentence.metric());
            assert!(!loud, "{}: a woofer of this size has a port that does", made.title);
            // the port goes in as it is, and a woofer sold as 8 ohm is no broken load for an amplifier of 8 ohm
            let broken = found(&design, &Prices::default()).into_iter().filter(|f| f.severity == Severity::Broken);
            let kinds: Vec<String> = broken.map(|f| f.kind).collect();
            let driven = ["excursion_over_limit", "coil_over_power"];
            assert!(kinds.iter().all(|k| driven.contains(&k.as_str())), "{}: {kinds:?}", made.sentence.metric());
        }
    }
    assert!(vented > 4);
    for made in begin(&wish(json!({}))).unwrap().boxes.iter().filter(|b| b.id != "deep") {
        // the suggested tube is 50 mm wide
        let Enclosure::Vented(vented) = &made.design.enclosure else { continue };
        assert!(vented.port.section.area() > 0.1 * 343e-4, "{}", made.sentence.metric());
    }
    // what this cone moves at the likely amplifier's most, no port that goes in carries quietly
    let strong = woofer(json!({"xmax_mm": 25, "power_w": 2000}));
    let begun = begin(&wish(json!({"woofer": strong}))).unwrap();
    assert!(begun.boxes.iter().any(|b| b.sentence.contains("port is heard")), "{:?}", begun.boxes);
}

/// A space is kept to by all that is offered; what does not go in is left out with the reason.
#[test]
fn a_space_is_kept_to() {
    let space = json!({"width_mm": 500, "height_mm": 420, "depth_mm": 450});
    let amplifier = json!({"power_w": 300, "load_ohm": 8});
    let begun = begin(&wish(json!({"space": space, "purpose": "flat", "gives": amplifier}))).unwrap();
    assert!(!begun.boxes.is_empty(), "{:?}", begun.left_out);
    for made in &begun.boxes {
        let c = made.design.cabinet.as_ref().unwrap();
        assert!(c.width_mm <= 500.0 && c.height_mm <= 420.0 && c.depth_mm <= 450.0, "{c:?}");
    }
    let tight = begin(&wish(json!({"space": {"width_mm": 200, "height_mm": 200, "depth_mm": 200}}))).unwrap();
    assert!(tight.boxes.is_empty() && !tight.left_out.is_empty());
}

/// Without a purpose, limits or amplifier there is still something to begin with, and what cannot be judged is said.
#[test]
fn everything_may_be_left_open() {
    let bare = Begin { purpose: None, ..wish(json!({})) };
    let begun = begin(&bare).unwrap();
    assert!(!begun.boxes.is_empty() && begun.reasons.iter().all(|r| r.contains("the likely amplifier")));
    let unlimited = woofer(json!({"xmax_mm": null, "power_w": null}));
    let begun = begin(&Begin { woofer: Some(unlimited), ..bare.clone() }).unwrap();
    assert!(begun.left_out.iter().any(|l| l.contains("neither Xmax nor")), "{:?}", begun.left_out);
    assert!(begun.boxes.iter().all(|b| !b.sentence.contains(" dB at ")), "no level is told that has no limit");
    assert!(begin(&Begin { woofer: Some(Woofer::default()), ..bare }).is_err());
}

/// An amplifier of which the power alone is known drives as far as that: 100 W into 4 ohm are 20 V, and no lower load is promised.
#[test]
fn an_amplifier_may_be_known_by_its_power_alone() {
    let begun = begin(&wish(json!({"gives": {"power_w": 100, "load_ohm": 4}}))).unwrap();
    for made in &begun.boxes {
        let design = &made.design;
        assert!(matches!(design.drive, Drive::Voltage { volts } if (volts - 20.0).abs() < 0.1), "{:?}", design.drive);
        assert_eq!(design.chain.amplifier.as_ref().unwrap().minimum_load_ohm, 4.0);
    }
    assert!(!begun.reasons.iter().any(|r| r.contains("the likely amplifier")));
}

/// docs/schema/begin.json is what the type says; `OAK_DRUM_WRITE=1` writes it anew.
#[test]
fn the_published_schema_of_beginning_is_current() {
    let path = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/schema/begin.json");
    let fresh = format!("{:#}\n", oak_drum_document::schema::of::<Begin>());
    if std::env::var_os("OAK_DRUM_WRITE").is_some() {
        std::fs::write(&path, &fresh).unwrap();
    }
    let kept = std::fs::read_to_string(&path).unwrap_or_default();
    assert!(kept == fresh, "{} is not current; OAK_DRUM_WRITE=1 writes it", path.display());
}

/// Of a shelf the one is taken that does best for the purpose: a woofer that moves a tenth of the air is not.
#[test]
fn the_likeliest_of_the_shelf_is_taken() {
    let shelf = [
        woofer(json!({"name": "High", "fs_hz": 70, "vas_l": 5, "sd_cm2": 130, "xmax_mm": 2.5, "power_w": 40})),
        woofer(json!({"name": "Ten"})),
    ];
    let (taken, why) = picked(&Begin { woofer: None, ..wish(json!({})) }, &shelf).unwrap();
    assert_eq!(taken.name, "Ten");
    assert!(why.contains("of 2"), "{}", why.metric());
    assert!(picked(&wish(json!({})), &[]).is_none());
}

/// Equal temperament at 440 Hz (ISO 16): the notes named in the reasons are those.
#[test]
fn notes_are_those_of_the_scale() {
    let note = |from_a4: i32| 440.0 * 2f64.powf(f64::from(from_a4) / 12.0);
    // E1 lies 41 half tones under a', B0 46
    assert!((note(-41) - 41.2).abs() < 0.05 && (note(-46) - 30.9).abs() < 0.05);
    for info in PURPOSES {
        assert!(info.lowest_note_hz < 60.0 && (80.0..=118.0).contains(&info.level_db));
        assert_eq!(info.purpose.info().title, info.title);
        assert!(info.brief().level_db == Some(info.level_db));
        if info.purpose == Purpose::BassGuitar || info.purpose == Purpose::DoubleBass {
            assert!(info.lowest_note_hz <= note(-41), "it plays its lowest string");
        }
    }
}
