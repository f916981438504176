//! What follows from wiring, isobaric pairs and mass on the cone.

use oak_drum_design::Evaluation;
use oak_drum_design::evaluation::evaluate;
use oak_drum_design::woofer::arrangement::{ArrayResult, least_chamber};
use oak_drum_document::{Mounting, read_value};
use serde_json::{Value, json};

fn evaluated(array: Value, changes: &[(&str, Value)]) -> Evaluation {
    let mut document = json!({
        "format": "oak-drum-design", "version": 5,
        "brief": {"lowest_note_hz": 32}, "chain": {"amplifier": {"power_w": 200, "load_ohm": 4, "minimum_load_ohm": 4}},
        "woofer": {"name": "Test 12", "fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 3.4, "nominal_ohm": 4,
                   "sd_cm2": 530, "xmax_mm": 12, "power_w": 400, "cutout_mm": 282, "depth_mm": 160},
        "enclosure": {"family": "sealed", "net_volume_l": 500},
        "array": array,
    });
    for (pointer, value) in changes {
        *document.pointer_mut(pointer).unwrap() = value.clone();
    }
    evaluate(&read_value(document).unwrap())
}

fn of(array: Value) -> ArrayResult {
    evaluated(array, &[]).summary.array
}

/// Two on the same voltage are 6 dB louder than one; wired so that both together take the same power, 3 dB (definition:
/// twice the area, twice the efficiency).
#[test]
fn two_woofers_against_one() {
    let level = |array: Value, volts: f64| {
        let drive = json!({"kind": "voltage", "volts": volts});
        let mut document = json!({
            "format": "oak-drum-design", "version": 5,
            "woofer": {"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 3.4, "sd_cm2": 530},
            "enclosure": {"family": "sealed", "net_volume_l": 100}, "array": array,
        });
        document["drive"] = drive;
        evaluate(&read_value(document).unwrap()).summary.reference_level_db
    };
    let one = level(json!({"count": 1}), 2.83);
    assert!((level(json!({"count": 2}), 2.83) - one - 20.0 * 2f64.log10()).abs() < 1e-9);
    // half the resistance: the same power needs 1/√2 of the voltage
    assert!((level(json!({"count": 2}), 2.83 / 2f64.sqrt()) - one - 10.0 * 2f64.log10()).abs() < 1e-9);
    // in series the same voltage brings a quarter of the power of two in parallel: as loud as one
    assert!((level(json!({"count": 2, "woofers_in_series": 2}), 2.83) - one).abs() < 1e-9);
}

#[test]
fn every_wiring_is_worked_out() {
    let result = of(json!({"count": 4, "woofers_in_series": 2}));
    let loads: Vec<f64> = result.wirings.iter().map(|w| w.nominal_ohm.unwrap()).collect();
    for (load, expected) in loads.iter().zip([1.0, 4.0, 16.0]) {
        assert!((load - expected).abs() < 1e-9, "{loads:?}");
    }
    let carried: Vec<bool> = result.wirings.iter().map(|w| w.carried.unwrap()).collect();
    assert_eq!(carried, [false, true, true]);
    assert_eq!(result.wirings.iter().filter(|w| w.chosen).count(), 1);
    let change: Vec<f64> = result.wirings.iter().map(|w| w.level_change_db).collect();
    assert!((change[0] - 20.0 * 2f64.log10()).abs() < 1e-9 && change[1] == 0.0, "{change:?}");
    // the heat in each coil follows the level
    let heat: Vec<f64> = result.wirings.iter().map(|w| w.watts_per_coil).collect();
    assert!((heat[0] / heat[1] - 4.0).abs() < 1e-6, "{heat:?}");
}

/// An isobaric pair in half the box plays as one woofer in the whole one (common practice), in the limit of little air
/// between the cones; its impedance tells nothing of the chamber.
#[test]
fn half_the_box_for_a_pair() {
    let fc = |array: Value, litres: f64| {
        let e = evaluated(array, &[("/enclosure/net_volume_l", json!(litres))]);
        e.summary.figures.iter().find(|f| f.id == "fc_hz").unwrap().value
    };
    let single = fc(json!({"count": 1}), 100.0);
    let pair = json!({"count": 2, "isobaric": {"mounting": "face_to_face", "chamber_l": 3}});
    assert!((fc(pair.clone(), 50.0) / single - 1.0).abs() < 1e-9);
    let result = of(pair).isobaric.unwrap();
    // fs·√(1 + 2Vas/V)
    assert!((result.antiphase_hz / (28.0 * (1.0 + 240.0 / 3.0f64).sqrt()) - 1.0).abs() < 1e-9);
    assert!(of(json!({"count": 2})).isobaric.is_none());
}

/// Face to face needs less room than front to back, where the magnet lies between the cones.
#[test]
fn the_least_chamber() {
    let woofer = read_value(json!({
        "format": "oak-drum-design", "version": 5, "enclosure": {"family": "sealed", "net_volume_l": 50},
        "woofer": {"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 3.4, "sd_cm2": 530, "xmax_mm": 12,
                   "xmech_mm": 20, "cutout_mm": 282, "depth_mm": 160},
    }))
    .unwrap()
    .into_design()
    .woofer;
    let face = least_chamber(&woofer, Mounting::FaceToFace).unwrap();
    let back = least_chamber(&woofer, Mounting::FrontToBack).unwrap();
    assert!((face.depth_mm - 40.0).abs() < 1e-9 && (back.depth_mm - 180.0).abs() < 1e-9);
    assert!(face.volume_l < back.volume_l && face.volume_l > 2.5 && back.volume_l < 11.3);
}

/// fs by the root of the mass; the power for the old level by its square.
#[test]
fn mass_on_the_cone() {
    let result = evaluated(json!({"added_mass_g": 14}), &[]);
    let stock = result.summary.woofer.mms_g;
    let mass = result.summary.array.added_mass.unwrap();
    let ratio = (stock + 14.0) / stock;
    assert!((mass.loaded.fs_hz * ratio.sqrt() / mass.stock.fs_hz - 1.0).abs() < 1e-9);
    assert!((mass.power_ratio - ratio * ratio).abs() < 1e-9);
    assert!((mass.stock.sensitivity_db - mass.loaded.sensitivity_db - 20.0 * ratio.log10()).abs() < 1e-9);
}
