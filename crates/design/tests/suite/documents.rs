//! Reading documents: what is accepted, what is refused and in which words, upgrades, the published schemas.

use oak_drum_design::drive::biquads::Biquads;
use oak_drum_design::drive::flattening::FlattenWish;
use oak_drum_design::drive::parts::PartsWish;
use oak_drum_document::{Code, VERSION, WorkPlan, Workshop, read, schema};
use serde_json::{Value, json};
use std::path::Path;

fn good() -> Value {
    json!({
        "format": "oak-drum-design",
        "version": 5,
        "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530},
        "enclosure": {
            "family": "vented",
            "net_volume_l": 90,
            "port": {
                "section": {"shape": "round", "diameter_mm": 100},
                "count": 1,
                "sizing": {"by": "tuning", "tuning_hz": 32},
            },
        },
    })
}

fn with(pointer: &str, value: Value) -> String {
    let mut document = good();
    oak_drum_document::apply(&mut document, &[oak_drum_document::Change { pointer: pointer.into(), value }]);
    document.to_string()
}

#[test]
fn a_good_document_round_trips() {
    let design = read(&good().to_string()).unwrap();
    let again = read(&serde_json::to_string(&design).unwrap()).unwrap();
    assert_eq!(design, again);
}

#[test]
fn bad_values_are_named_at_their_field() {
    use Code::*;
    for (pointer, value, code, words) in [
        ("/enclosure/net_volume_l", json!(0.001), OutOfRange, "at least 0.2"),
        ("/enclosure/net_volume_l", json!(-3), OutOfRange, "at least 0.2"),
        ("/enclosure/net_volume_l", json!("ninety"), WrongType, "number"),
        ("/woofer/sd_cm2", json!(0.07), OutOfRange, "at least 20"),
        ("/woofer/qts", json!(40), OutOfRange, "at most 10"),
        ("/woofer/fs_hz", json!(0), OutOfRange, "at least 5"),
        ("/woofer/vas", json!(120), UnknownField, "did you mean \"vas_l\"?"),
        ("/enclosure/port/sizing/tunig_hz", json!(1), UnknownField, "did you mean \"tuning_hz\"?"),
        ("/enclosure/port/section/shape", json!("rond"), UnknownChoice, "did you mean \"round\"?"),
        ("/enclosure/family", json!("ported"), UnknownChoice, "sealed, vented"),
        ("/array", json!({"count": 3, "woofers_in_series": 2}), Contradiction, "equal strings"),
        ("/drive", json!({"kind": "power", "watts": 10}), Contradiction, "nominal impedance"),
        ("/woofer/qts", json!(0.5), Contradiction, "must lie below"),
        ("/woofer/l2_mh", json!(1), Contradiction, "both or neither"),
        ("/frequencies_hz", json!([]), OutOfRange, "at least 1"),
        ("/version", json!(VERSION + 1), UnknownFormat, "from 1 to 8"),
        (
            "/array",
            json!({"count": 3, "isobaric": {"mounting": "face_to_face", "chamber_l": 2}}),
            Contradiction,
            "even number",
        ),
        ("/woofer/semi_inductance_k", json!(0.04), Contradiction, "belong together"),
        ("/woofer/vas_l", json!(0), OutOfRange, "at least 0.2"),
        ("/woofer/qts", json!(0.9), Contradiction, "must lie below"),
        (
            "/cabinet",
            json!({"width_mm": 100, "height_mm": 100, "depth_mm": 100, "panel_mm": 60, "baffle_mm": 18}),
            Contradiction,
            "thicker than the box",
        ),
    ] {
        let problems = read(&with(pointer, value.clone())).unwrap_err();
        assert!(
            problems.iter().any(|p| p.code == code
                && p.message.contains(words)
                && p.pointer.starts_with(pointer.rsplit_once('/').unwrap().0)),
            "{pointer} = {value}: {problems:?}"
        );
    }
}

#[test]
fn what_is_missing_is_named() {
    let problems = read(&with("/woofer/sd_cm2", Value::Null)).unwrap_err();
    assert_eq!(problems[0].pointer, "/woofer/sd_cm2");
    let problems = read(&with("/enclosure/port/section", Value::Null)).unwrap_err();
    assert_eq!((problems[0].code, problems[0].pointer.as_str()), (Code::Missing, "/enclosure/port/section"));
}

#[test]
fn texts_that_are_no_documents() {
    for text in [
        "",
        "{",
        "[]",
        "NaN",
        "{\"format\": \"x\"}",
        "null",
        "{\"format\":\"oak-drum-design\",\"version\":2,\"woofer\":{\"fs_hz\":NaN}}",
    ] {
        assert_eq!(read(text).unwrap_err().len(), 1, "{text}");
    }
    let many: Vec<f64> = vec![50.0; 20_001];
    let problems = read(&with("/frequencies_hz", json!(many))).unwrap_err();
    assert!(problems[0].message.contains("at most 20000 entries"), "{problems:?}");
}

/// Version 1 knew one tube, one resistance and volts only.
#[test]
fn version_one_is_upgraded() {
    let old = json!({
        "format": "oak-drum-design",
        "version": 1,
        "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530},
        "enclosure": {"family": "vented", "net_volume_l": 90, "port": {"diameter_mm": 100, "tuning_hz": 32, "flared": true}},
        "drive_volts": 10,
        "resistance_ohm": 0.2,
    });
    let design = read(&old.to_string()).unwrap();
    let now = serde_json::to_value(&design).unwrap();
    assert_eq!(now["version"], VERSION);
    assert_eq!(now["drive"], json!({"kind": "voltage", "volts": 10.0}));
    assert_eq!(now["chain"]["cable"]["lead_resistance_ohm"], 0.2);
    assert_eq!(now["enclosure"]["port"]["outer_end"]["kind"], "flared");
    // a field version 1 did not have is still refused, in its place
    let mut odd = old;
    odd["enclosure"]["port"]["colour"] = json!("red");
    let problems = read(&odd.to_string()).unwrap_err();
    assert_eq!(problems[0].pointer, "/enclosure/port/colour");
}

/// Version 2 named three wirings.
#[test]
fn version_two_is_upgraded() {
    for (wiring, in_series) in [("parallel", 1), ("series", 4), ("series_pairs_in_parallel", 2)] {
        let old = json!({
            "format": "oak-drum-design",
            "version": 2,
            "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530},
            "array": {"count": 4, "wiring": wiring},
            "enclosure": {"family": "sealed", "net_volume_l": 200},
        });
        let design = read(&old.to_string()).unwrap();
        assert_eq!((design.version, design.array.count, design.array.woofers_in_series), (VERSION, 4, in_series));
        // a wiring version 2 did not have is refused, in its place
        let mut odd = old;
        odd["array"]["wiring"] = json!("star");
        assert_eq!(read(&odd.to_string()).unwrap_err()[0].pointer, "/array/wiring");
    }
}

/// Version 4 kept prices and steps: they are no part of the design, and are still read from it.
#[test]
fn version_four_is_upgraded() {
    let mut old = good();
    old["version"] = json!(4);
    old["prices"] = json!({"sheet": 58});
    old["steps"] = json!([{"step": "cut", "done": true}]);
    let kept = WorkPlan::within(&old);
    assert_eq!((kept.prices.sheet, kept.steps.len()), (Some(58.0), 1));
    assert_eq!(read(&old.to_string()).unwrap(), read(&good().to_string()).unwrap());
    old["version"] = json!(5);
    assert_eq!(read(&old.to_string()).unwrap_err().len(), 2, "version 5 does not know them");
}

/// Version 3 had one set of losses for both chambers.
#[test]
fn version_three_is_upgraded() {
    let port = |hz: f64| json!({"section": {"shape": "round", "diameter_mm": 90}, "count": 1, "sizing": {"by": "tuning", "tuning_hz": hz}});
    let old = |enclosure: Value| {
        let document = json!({"format": "oak-drum-design", "version": 3, "enclosure": enclosure,
            "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530}});
        serde_json::to_value(&read(&document.to_string()).unwrap().enclosure).unwrap()
    };
    let fourth = old(json!({"family": "bandpass_fourth", "rear_volume_l": 20, "front_volume_l": 14, "leak_q": 11,
        "absorption_q": 60, "port_q": 90, "front_port": port(60.0)}));
    for (name, value) in [
        ("rear_leak_q", 11.0),
        ("front_leak_q", 11.0),
        ("rear_absorption_q", 60.0),
        ("front_absorption_q", 60.0),
        ("front_port_q", 90.0),
    ] {
        assert_eq!(fourth[name], value, "{name}");
    }
    let sixth = old(json!({"family": "bandpass_sixth", "leads": "outside", "rear_volume_l": 20, "front_volume_l": 14,
        "port_q": 90, "rear_port": port(35.0), "front_port": port(70.0)}));
    assert_eq!((sixth["rear_port_q"].as_f64(), sixth["front_port_q"].as_f64()), (Some(90.0), Some(90.0)));
    assert!(sixth.get("rear_leak_q").is_none());
    // a port shorter than its flares has as much of them as there is of it
    let flare = json!({"kind": "flared", "radius_mm": 30});
    let mut short = port(40.0);
    short["sizing"] = json!({"by": "length", "length_mm": 20});
    (short["inner_end"], short["outer_end"]) = (flare.clone(), flare);
    let vented = old(json!({"family": "vented", "net_volume_l": 40, "port": short}));
    assert_eq!(vented["port"]["inner_end"], json!({"kind": "flared", "radius_mm": 10.0}));
    let horn = old(json!({"family": "front_horn", "rear_volume_l": 50, "leak_q": 9,
        "horn": {"throat_cm2": 300, "mouth_cm2": 4000, "profile": {"shape": "conical", "length_mm": 1800}}}));
    assert_eq!(horn["rear_leak_q"], 9.0);
}

/// docs/schema/*.json are what the types say; `OAK_DRUM_WRITE=1` writes them anew.
#[test]
fn the_published_schemas_are_current() {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/schema");
    for (name, schema) in [
        ("design", schema::design()),
        ("work-plan", schema::of::<WorkPlan>()),
        ("workshop-has", schema::of::<Workshop>()),
        ("result", oak_drum_design::evaluation::schema()),
        ("parts", schema::of::<PartsWish>()),
        ("flatten", schema::of::<FlattenWish>()),
        ("biquads", schema::of::<Biquads>()),
        ("curve", oak_drum_curves::formats::json::schema()),
        ("measurement", oak_drum_curves::measurement::schema()),
        ("recording", schema::of::<oak_drum_curves::recorded::RecordingWish>()),
        ("woofer-wish", schema::of::<oak_drum_design::prove::woofer_fit::WooferWish>()),
        ("combining", schema::of::<oak_drum_design::prove::combined::Combining>()),
        ("proof", schema::of::<oak_drum_design::prove::view::Proof>()),
        ("room", schema::of::<oak_drum_document::InRoom>()),
        ("room-view", schema::of::<oak_drum_design::room::view::RoomView>()),
        ("room-map", schema::of::<oak_drum_design::room::map::RoomMap>()),
        ("arrangements", schema::of::<oak_drum_design::room::arrangements::Arrangements>()),
        ("listening-question", schema::of::<oak_drum_listening::question::Question>()),
        ("listening-answer", schema::of::<oak_drum_listening::question::Answer>()),
        ("listening-session", schema::of::<oak_drum_listening::session::Session>()),
        ("listening-outcome", schema::of::<oak_drum_listening::outcome::Outcome>()),
    ] {
        let path = folder.join(format!("{name}.json"));
        let fresh = format!("{schema:#}\n");
        if std::env::var_os("OAK_DRUM_WRITE").is_some() {
            std::fs::write(&path, &fresh).unwrap();
        }
        let published = std::fs::read_to_string(&path).unwrap_or_default();
        assert!(published == fresh, "{} is stale: run the tests with OAK_DRUM_WRITE=1", path.display());
    }
}

/// Every parameter of every type says what it is; every number has a range.
#[test]
fn every_field_is_described_and_bounded() {
    fn walk(place: &str, schema: &Value) {
        if let Some(Value::Object(properties)) = schema.get("properties") {
            for (name, field) in properties {
                let here = format!("{place}/{name}");
                if field.get("const").is_some() {
                    continue;
                }
                assert!(field.get("description").is_some(), "{here} has no description");
                let kinds = field.get("type").map(Value::to_string).unwrap_or_default();
                if kinds.contains("number") || kinds.contains("integer") {
                    assert!(field.get("minimum").is_some() && field.get("maximum").is_some(), "{here} has no range");
                    assert!(field.get("title").is_some(), "{here} has no title");
                }
            }
        }
        match schema {
            Value::Object(o) => o.iter().for_each(|(k, v)| walk(&format!("{place}/{k}"), v)),
            Value::Array(l) => l.iter().for_each(|v| walk(place, v)),
            _ => {}
        }
    }
    let schema = schema::design();
    walk("", &schema["$defs"]);
    assert!(schema["$defs"].as_object().unwrap().len() > 10);
}

/// Version 5 called a stretch of a folded path a lane; what it said of one is still said.
#[test]
fn folds_of_version_five_are_read() {
    let older = json!({"format": "oak-drum-design", "version": 5,
        "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 60, "re_ohm": 5.6, "sd_cm2": 220},
        "enclosure": {"family": "transmission_line", "length_mm": 2400, "woofer_at_mm": 400,
            "profile": {"shape": "tapered", "closed_end_cm2": 300, "open_end_cm2": 200}},
        "cabinet": {"width_mm": 260, "height_mm": 1000, "depth_mm": 420, "panel_mm": 18, "baffle_mm": 18,
            "fold": {"pattern": "four_lanes", "first_lane": "back_or_top"}}});
    let read = oak_drum_document::read_value(older).unwrap_or_else(|p| panic!("{p:?}"));
    let written = serde_json::to_value(&read).unwrap();
    assert_eq!(
        (&written["version"], &written["cabinet"]["fold"]["pattern"]),
        (&json!(VERSION), &json!("four_segments"))
    );
    assert_eq!(written["cabinet"]["fold"]["first_segment"], "back_or_top");
}
