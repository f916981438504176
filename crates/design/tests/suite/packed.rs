//! Packed curves say what the JSON form says, and broken bytes are refused.

use crate::remedies::demo;
use oak_drum_design::evaluation::cost::Cost;
use oak_drum_design::evaluation::evaluate;
use oak_drum_design::evaluation::packed::{pack, unpack};
use oak_drum_design::{Evaluation, outline};
use proptest::prelude::*;
use serde_json::{Value, json};

fn flat(result: &Evaluation) -> Value {
    serde_json::to_value(result).unwrap()
}

fn close(a: &Value, b: &Value, at: &str) {
    match (a, b) {
        (Value::Object(x), Value::Object(y)) => {
            assert_eq!(x.keys().collect::<Vec<_>>(), y.keys().collect::<Vec<_>>(), "{at}");
            x.iter().for_each(|(key, inner)| close(inner, &y[key], &format!("{at}/{key}")));
        }
        (Value::Array(x), Value::Array(y)) => {
            assert_eq!(x.len(), y.len(), "{at}");
            x.iter().zip(y).enumerate().for_each(|(i, (p, q))| close(p, q, &format!("{at}/{i}")));
        }
        (Value::Number(x), Value::Number(y)) => {
            let (x, y) = (x.as_f64().unwrap(), y.as_f64().unwrap());
            // half a unit of the last of 24 binary digits
            assert!((x - y).abs() <= x.abs() * 2f64.powi(-24) + 1e-40, "{at}: {x} {y}");
        }
        _ => assert_eq!(a, b, "{at}"),
    }
}

#[test]
fn packed_curves_are_the_result_without_its_findings() {
    for (name, design) in demo() {
        let mut whole = evaluate(&design);
        assert!(whole.findings.take().is_some());
        close(&flat(&whole), &flat(&outline(&design)), &name);
        close(&flat(&whole), &flat(&unpack(&pack(whole.clone())).unwrap()), &name);
    }
}

#[test]
fn what_is_cut_off_is_refused() {
    let bytes = pack(outline(&demo()[0].1));
    for length in [0, 3, 6, 8, 500, bytes.len() - 1] {
        assert!(unpack(&bytes[..length]).is_err(), "{length}");
    }
    assert!(unpack(&[&bytes[..], &[0]].concat()).is_err());
}

proptest! {
    #[test]
    fn any_bytes_are_read_or_refused(mut bytes in proptest::collection::vec(any::<u8>(), 0..200), magic in any::<bool>()) {
        if magic {
            bytes.splice(0..0, *b"ODC1");
        }
        prop_assert!(unpack(&bytes).is_err());
    }
}

/// Every design of the demo is a light question; the worst that can be stated is not.
#[test]
fn cost_is_known_before_the_work() {
    for (name, design) in demo() {
        assert!(Cost::of(&design).is_light(), "{name}: {:?}", Cost::of(&design));
    }
    let stations: Vec<Value> = (0..40).map(|i| json!({"at_mm": i * 500, "area_cm2": 300 + 40 * (i % 5)})).collect();
    let fills: Vec<Value> = (0..8)
        .map(|i| {
            json!({"from_mm": i * 2400, "to_mm": i * 2400 + 2300,
            "stuffing": {"kind": "resistivity", "flow_resistivity_pa_s_per_m2": 500 + 300 * i}})
        })
        .collect();
    let mut worst = json!({"format": "oak-drum-design", "version": 5,
        "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530},
        "enclosure": {"family": "transmission_line", "length_mm": 19_500, "woofer_at_mm": 9000, "wall_losses": true, "fills": fills,
            "profile": {"shape": "free", "stations": stations}}});
    assert!(Cost::of(&oak_drum_document::read_value(worst.clone()).unwrap()).is_light());
    worst["frequencies_hz"] = (0..20_000).map(|i| json!(5.0 + 0.05 * f64::from(i))).collect();
    assert!(!Cost::of(&oak_drum_document::read_value(worst).unwrap()).is_light());
    let mut many = json!({"format": "oak-drum-design", "version": 5,
        "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530},
        "enclosure": {"family": "sealed", "net_volume_l": 600}});
    many["array"] = json!({"count": 32});
    assert!(!Cost::of(&oak_drum_document::read_value(many).unwrap()).is_light());
}
