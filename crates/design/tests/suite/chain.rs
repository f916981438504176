//! The chain: what an amplifier has of what is asked of it, what flattening keeps to, what findings say and cure.

use crate::drive::{read, vented, with};
use oak_drum_acoustics::amplifier::{Amplifier, Equaliser, Pass};
use oak_drum_acoustics::filters::slope::Slope;
use oak_drum_acoustics::filters::{FILTERS, Filter};
use oak_drum_acoustics::ladder::preferred::Series;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::drive::card::{card, settings};
use oak_drum_design::drive::flattening::{FlattenWish, HeardAt, Target, flattened, flattened_curve};
use oak_drum_design::drive::offers::{Lack, lack, ranges};
use oak_drum_design::drive::parts::snapped;
use oak_drum_design::drive::view::{drive, drive_alone};
use oak_drum_design::evaluation::findings::findings;
use oak_drum_document::{ChainFilter, Stage, apply, read_value};
use serde_json::{Value, json};

fn plate() -> Amplifier {
    Amplifier {
        name: "Plate".into(),
        equaliser: Some(Equaliser {
            bands: 1,
            from_hz: 18.0,
            to_hz: 80.0,
            from_q: 0.5,
            to_q: 8.0,
            lowest_db: -12.0,
            highest_db: 6.0,
        }),
        low_cut: Some(Pass { from_hz: 15.0, to_hz: 40.0, slopes: vec![Slope::Butterworth { order: 2 }] }),
        ..Amplifier::rated(300.0, 8.0, 4.0)
    }
}

fn filter(value: Value) -> Filter {
    serde_json::from_value(value).unwrap()
}

/// Every kind of filter is either had with its ranges or not had at all; at a range's end it is had, beyond it the field is named.
#[test]
fn what_an_amplifier_has() {
    let (plate, bare) = (plate(), Amplifier::rated(300.0, 8.0, 4.0));
    let band = |hz: f64, db: f64, q: f64| filter(json!({"kind": "band", "frequency_hz": hz, "level_db": db, "q": q}));
    for (f, beyond) in [
        (band(18.0, -12.0, 0.5), None),
        (band(80.0, 6.0, 8.0), None),
        (band(80.1, 6.0, 8.0), Some(("/frequency_hz", 18.0, 80.0))),
        (band(40.0, -12.1, 1.0), Some(("/level_db", -12.0, 6.0))),
        (band(40.0, 0.0, 9.0), Some(("/q", 0.5, 8.0))),
    ] {
        let found = lack(&plate, &f);
        match beyond {
            None => assert_eq!(found, None, "{f:?}"),
            Some((field, from, to)) => match found {
                Some(Lack::Beyond(range, _)) => {
                    assert_eq!((range.field.as_str(), range.from, range.to), (field, from, to));
                }
                other => panic!("{f:?}: {other:?}"),
            },
        }
        assert_eq!(lack(&bare, &f), Some(Lack::Kind));
    }
    let cut = |order: u32| {
        filter(json!({"kind": "high_pass", "frequency_hz": 20, "slope": {"shape": "butterworth", "order": order}}))
    };
    assert_eq!((lack(&plate, &cut(2)), lack(&plate, &cut(4))), (None, Some(Lack::Slope)));
    // a gain every amplifier has; shelves and transforms none
    assert_eq!(ranges(&bare, &filter(json!({"kind": "gain", "level_db": -3}))), Some(Vec::new()));
    assert_eq!(ranges(&plate, &filter(json!({"kind": "low_shelf", "frequency_hz": 40, "level_db": 3}))), None);
    assert_eq!(ranges(&plate, &filter(json!({"kind": "polarity"}))), None);
    let turns = Amplifier { polarity: true, longest_delay_ms: Some(10.0), ..bare };
    assert_eq!(lack(&turns, &filter(json!({"kind": "polarity"}))), None);
    let late = filter(json!({"kind": "delay", "delay_ms": 12}));
    assert!(matches!(lack(&turns, &late), Some(Lack::Beyond(r, _)) if r.to == 10.0));
}

fn peaky() -> Value {
    // a tight box: the level humps about 60 Hz
    with(
        vented(),
        &[
            ("/enclosure", json!({"family": "sealed", "net_volume_l": 12})),
            ("/chain/amplifier", serde_json::to_value(plate()).unwrap()),
            ("/woofer/xmax_mm", json!(12)),
            ("/drive", json!({"kind": "voltage", "volts": 10})),
        ],
    )
}

fn wish(bands: u32, stage: Stage) -> FlattenWish {
    FlattenWish { bands, from_hz: 40.0, to_hz: 160.0, target: Target::Flat {}, stage, heard: HeardAt::Open }
}

/// One band of the amplifier's lies in its ranges and helps; more bands at line level help more; what it says it reaches is what the
/// changed design has; the limits at the present drive are kept.
#[test]
fn flattening_keeps_to_what_there_is() {
    let design = read(peaky());
    let one = flattened(&design, &wish(1, Stage::Amplifier)).unwrap();
    assert!(one.after_db < 0.7 * one.before_db, "{} of {}", one.after_db, one.before_db);
    assert!(one.bands.iter().all(|b| lack(&plate(), &Filter::Band(*b)).is_none()));
    assert!(one.fuller_db.is_some());
    let three = flattened(&design, &wish(3, Stage::Line)).unwrap();
    assert!(three.after_db < one.after_db && three.fuller_db.is_none());
    let mut document = serde_json::to_value(&design).unwrap();
    apply(&mut document, &three.changes);
    let after = read_value(document).unwrap();
    let again = flattened(&after, &wish(3, Stage::Line)).unwrap();
    assert!((again.before_db - three.after_db).abs() < 1e-9, "{} against {}", again.before_db, three.after_db);
    let hz: Vec<f64> = (0..40).map(|i| 40.0 * 4f64.powf(f64::from(i) / 39.0)).collect();
    let headroom = |d| Analysis::of(d).at_frequencies(&[], &hz).unwrap().curves().headroom.clone();
    let (before, then) = (headroom(&design), headroom(&after));
    // nothing that stood within its limits passes one by more than a tenth of a decibel
    assert!(before.iter().zip(&then).all(|(a, b)| *a < 1.0 || *b > 0.988));
}

/// A target that slopes or is drawn is followed: what is left against it is less than against a flat one.
#[test]
fn a_target_is_followed() {
    let design = read(peaky());
    let sloped = Target::Sloped { corner_hz: 80.0, db_per_octave: -6.0 };
    let drawn: Target = serde_json::from_value(
        json!({"kind": "drawn", "points": [{"hz": 40, "db": -6}, {"hz": 80, "db": 0}, {"hz": 160, "db": 0}]}),
    )
    .unwrap();
    // an octave from 40 to 80 Hz is a straight line over ln f: the two are one target
    let of = |target: Target| flattened(&design, &FlattenWish { target, ..wish(2, Stage::Line) }).unwrap();
    let (a, b) = (of(sloped), of(drawn));
    assert!((a.before_db - b.before_db).abs() < 1e-9 && (a.after_db - b.after_db).abs() < 1e-6);
    let falling: Target =
        serde_json::from_value(json!({"kind": "drawn", "points": [{"hz": 80, "db": 0}, {"hz": 40, "db": 0}]})).unwrap();
    let no = flattened(&design, &FlattenWish { target: falling, ..wish(2, Stage::Line) }).unwrap_err();
    assert_eq!(no.pointer, "/target/points");
    // a curve of its own
    let hz: Vec<f64> = (0..60).map(|i| 20.0 + 3.0 * f64::from(i)).collect();
    let level: Vec<f64> = hz.iter().map(|f| 90.0 + if *f > 70.0 && *f < 90.0 { 6.0 } else { 0.0 }).collect();
    let found = flattened_curve(&hz, &level, &wish(1, Stage::Line)).unwrap();
    assert!(found.after_db < found.before_db && (60.0..100.0).contains(&found.bands[0].frequency_hz));
    assert_eq!(flattened_curve(&hz[..5], &level[..5], &wish(1, Stage::Line)).unwrap_err().pointer, "/from_hz");
}

/// A full chain refuses what does not go in and loses nothing.
#[test]
fn a_full_chain_is_told() {
    let full: Vec<Value> = (0..20).map(|_| json!({"filter": {"kind": "gain", "level_db": 0}})).collect();
    let design = read(with(peaky(), &[("/chain/filters", json!(full))]));
    let no = flattened(&design, &wish(2, Stage::Line)).unwrap_err();
    assert_eq!(no.pointer, "/bands");
    assert_eq!(Analysis::of(&design).design.chain.filters.len(), 20);
    // the rules say nothing that would not go in
    for finding in findings(&Analysis::of(&design)) {
        for remedy in finding.remedies {
            let mut document = serde_json::to_value(&design).unwrap();
            apply(&mut document, &remedy.changes);
            assert!(read_value(document).is_ok(), "{}", remedy.title);
        }
    }
}

/// Every member of the chain is shown with its own curve; what is always in the amplifier is fixed; a view without the low cut is the
/// view with it otherwise.
#[test]
fn every_member_is_shown() {
    let amplifier = json!({"power_w": 300, "load_ohm": 8, "minimum_load_ohm": 4, "output_resistance_ohm": 0.1,
        "always": [{"kind": "high_pass", "frequency_hz": 12, "slope": {"shape": "butterworth", "order": 1}}]});
    let filters = json!([
        {"name": "Hump", "stage": "player", "filter": {"kind": "band", "frequency_hz": 50, "level_db": 4, "q": 2}},
        {"stage": "amplifier", "off": true, "filter": {"kind": "low_shelf", "frequency_hz": 40, "level_db": -3}},
        {"filter": {"kind": "delay", "delay_ms": 10}},
    ]);
    let parts = json!([
        {"placement": "in_line", "part": {"kind": "coil", "inductance_mh": 4.7, "coil_ohm": 0.4}},
        {"placement": "across", "off": true, "part": {"kind": "resistor", "resistance_ohm": 22}},
    ]);
    let cable = json!({"kind": "wire", "length_m": 10, "area_mm2": 0.75});
    let design = read(with(
        vented(),
        &[
            ("/chain", json!({"filters": filters, "amplifier": amplifier, "parts": parts, "cable": cable})),
            ("/woofer/xmax_mm", json!(8)),
        ],
    ));
    let view = drive(&design);
    let titles: Vec<&str> = view.filters.iter().map(|f| f.member.title.as_str()).collect();
    assert_eq!(titles, ["Hump", "Low shelf", "Delay", "High pass"]);
    let fixed: Vec<bool> = view.filters.iter().map(|f| f.fixed).collect();
    assert_eq!(fixed, [false, false, false, true]);
    assert!(view.filters[0].price.is_some() && view.filters[1].price.is_none());
    assert!(view.filters[1].beyond && !view.filters[0].beyond);
    let top = |db: &[f64]| db.iter().copied().fold(f64::NEG_INFINITY, f64::max);
    assert!((top(&view.filters[0].member.own_db) - 4.0).abs() < 0.05);
    // a delay is level, the leads and a coil in line cost, a part that is off shows what it would do and bears nothing
    assert!(view.filters[2].member.own_db.iter().all(|db| db.abs() < 1e-9));
    assert!(top(&view.leads.own_db) < 0.0);
    let (coil, off) = (&view.parts[0], &view.parts[1]);
    assert!(coil.member.own_db.last().unwrap() < &-6.0 && coil.windings.len() == 5 && coil.components.len() == 1);
    assert!(off.member.off && off.components.is_empty() && off.windings.is_empty());
    let alone = drive_alone(&design);
    assert!(alone.low_cut.is_none() && view.low_cut.is_some());
    assert_eq!((alone.filters, alone.parts, alone.leads), (view.filters, view.parts, view.leads));
    // rounding to a series takes the values of it, and says what that does
    let both: Vec<f64> =
        [Series::E12, Series::E24].iter().map(|s| snapped(&Analysis::of(&design), *s).unwrap().off_db).collect();
    assert!(both.iter().all(|db| *db < 0.01), "{both:?}: 4.7 and 22 are of both series");
    assert!(snapped(&Analysis::of(&read(vented())), Series::E12).is_none());
}

/// The settings card names what is on, in the order of the signal, with a caution for mains; with nothing on it says so.
#[test]
fn the_settings_card() {
    let filters: Vec<ChainFilter> = serde_json::from_value(json!([
        {"stage": "amplifier", "filter": {"kind": "band", "frequency_hz": 42.5, "level_db": -4.5, "q": 1.414}},
        {"stage": "player", "filter": {"kind": "low_pass", "frequency_hz": 80, "slope": {"shape": "linkwitz_riley", "order": 4}}},
        {"stage": "line", "off": true, "filter": {"kind": "polarity"}},
        {"stage": "line", "filter": {"kind": "delay", "delay_ms": 3.2}},
    ]))
    .unwrap();
    let said: Vec<String> = settings(&filters).iter().map(|s| format!("{} {} {}", s.filter, s.knob, s.value)).collect();
    assert_eq!(
        said,
        [
            "Low pass corner 80.0 Hz",
            "Low pass shape 24 dB an octave, Linkwitz-Riley",
            "Delay delay 3.20 ms",
            "Band frequency 42.5 Hz",
            "Band level -4.5 dB",
            "Band width Q 1.41, 1.00 octaves at half its level",
        ]
    );
    // each kind has its knobs, and none says anything that is no number
    for info in FILTERS {
        let q = json!({"kind": info.id, "frequency_hz": 40, "level_db": 3, "q": 1, "delay_ms": 3, "from_hz": 50, "from_q": 1,
            "to_hz": 30, "to_q": 0.7, "slope": {"shape": "bessel", "order": 3}});
        // only the fields of its kind
        let fields: Vec<&str> = match info.id {
            "high_pass" | "low_pass" => vec!["kind", "frequency_hz", "slope"],
            "band" => vec!["kind", "frequency_hz", "level_db", "q"],
            "low_shelf" | "high_shelf" => vec!["kind", "frequency_hz", "level_db", "q"],
            "all_pass" | "notch" => vec!["kind", "frequency_hz", "q"],
            "transform" => vec!["kind", "from_hz", "from_q", "to_hz", "to_q"],
            "delay" => vec!["kind", "delay_ms"],
            "gain" => vec!["kind", "level_db"],
            _ => vec!["kind"],
        };
        let one: Value =
            fields.iter().map(|f| ((*f).to_owned(), q[*f].clone())).collect::<serde_json::Map<_, _>>().into();
        let member = ChainFilter { name: String::new(), stage: Stage::Line, off: false, filter: filter(one) };
        let list = settings(&[member]);
        assert!(
            !list.is_empty() && list.iter().all(|s| !s.value.contains("NaN") && !s.value.is_empty()),
            "{}",
            info.id
        );
    }
    let with_amplifier = read(with(vented(), &[("/chain/amplifier", serde_json::to_value(plate()).unwrap())]));
    let blocks = format!("{:?}", card(&Analysis::of(&with_amplifier)));
    assert!(blocks.contains("mains") && blocks.contains("no filter is set"));
}
