//! One worked driver in the other families, computed outside this project by two independent routes (nodal equations,
//! and ngspice or a differential equation) that agree to 1e-9 or better: fs 30 Hz, Qes 0.40, Qms 5, Vas 120 L,
//! Re 5.6 ohm, Sd 530 cm2, Le 1.0 mH, 2.83 V, c 343.2 m/s, ρ 1.2041 kg/m3.

use approx::assert_relative_eq;
use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::driver::{Arrangement, Array, Woofer};
use oak_drum_acoustics::families::{Context, Enclosure};
use oak_drum_acoustics::level::SolidAngle;
use oak_drum_acoustics::outputs::{Conditions, Curves, Limits, Sweep};
use oak_drum_acoustics::source::Source;
use serde_json::{Value, json};

fn at(enclosure: Value, frequency: f64) -> (Curves, f64) {
    let air = Air::given(343.2, 1.2041);
    let woofer = Woofer {
        fs_hz: Some(30.0),
        qes: Some(0.40),
        qms: Some(5.0),
        vas_l: Some(120.0),
        re_ohm: Some(5.6),
        sd_cm2: Some(530.0),
        le_mh: Some(1.0),
        ..Woofer::default()
    };
    let one = woofer.resolve(&air).unwrap();
    let context = Context::new(air, Array::new(&one, &air, &Arrangement::plain(1)), Source::new(2.83, 0.0));
    let enclosure: Enclosure = serde_json::from_value(enclosure).unwrap();
    assert_eq!(enclosure.problems(), []);
    let wired = enclosure.wire(&context);
    let conditions = Conditions { air, distance: 1.0, solid_angle: SolidAngle::Half, limits: Limits::default() };
    (Sweep::new(&wired.network, conditions).curves(&[frequency]), wired.figures[0].value)
}

/// Passive radiator: 90 L, QL 7; radiator fs 22 Hz, Qms 6, Vas 150 L, 530 cm2, 60 g added: tuning 30.0253 Hz; at 30 Hz
/// 86.3153 dB and 1.61102 mm.
#[test]
fn passive_radiator() {
    let (curves, tuning) = at(
        json!({"family": "passive_radiator", "net_volume_l": 90, "leak_q": 7, "radiators": {
            "count": 1, "fs_hz": 22, "qms": 6, "vas_l": 150, "sd_cm2": 530, "added_mass_g": 60}}),
        30.0,
    );
    assert_relative_eq!(tuning, 30.0253, max_relative = 2e-6);
    assert_relative_eq!(curves.level_db[0], 86.3153, epsilon = 6e-5);
    assert_relative_eq!(curves.radiator_excursion[0] * 1e3, 1.61102, max_relative = 5e-6);
}

/// Small (JAES 1974): a radiator whose suspension is infinitely soft is a port of the same mass, hence every vented alignment
/// is its limit (here Thiele's lossless Butterworth box, 1961); the stiffer it is, the higher its notch, where it takes back
/// all the cone gives.
#[test]
fn a_soft_radiator_is_a_port() {
    let (litres, tuning) = (120.0 / 2f64.sqrt(), 30.0);
    let compliance = litres * 1e-3 / (1.2041 * 343.2 * 343.2);
    let mass = 1.0 / ((std::f64::consts::TAU * tuning).powi(2) * compliance);
    let radiator = |vas: f64| {
        // the same moving mass whatever the suspension
        let own = vas * 1e-3 / (1.2041 * 343.2 * 343.2);
        let fs = 1.0 / (std::f64::consts::TAU * (mass * own).sqrt());
        json!({"family": "passive_radiator", "net_volume_l": litres, "radiators": {
            "count": 1, "fs_hz": fs, "qms": 80, "vas_l": vas, "sd_cm2": 800}})
    };
    let port = json!({"family": "vented", "net_volume_l": litres, "port": {"section": {"shape": "round", "diameter_mm": 150},
        "count": 1, "sizing": {"by": "tuning", "tuning_hz": tuning}, "model": {"kind": "mass"}}});
    for f in [20.0, 30.0, 60.0] {
        let (soft, vented) = (at(radiator(400_000.0), f).0.level_db[0], at(port.clone(), f).0.level_db[0]);
        assert_relative_eq!(soft, vented, epsilon = 0.02);
    }
    let (curves, _) = at(radiator(100.0), 30.0);
    assert!(curves.level_db[0] < at(port, 30.0).0.level_db[0]);
    let notch = 1.0 / (std::f64::consts::TAU * (mass * 0.1 / (1.2041 * 343.2 * 343.2)).sqrt());
    let there = at(radiator(100.0), notch).0.level_db[0];
    assert!(there < at(radiator(100.0), notch * 1.3).0.level_db[0] - 15.0, "{there}");
}

/// Line of 2.5 m, 800 to 500 cm2 (area linear), woofer 0.5 m from the closed end, open end in a wall: 93.9840 dB at 50 Hz;
/// with 2000 Pa·s/m2 (Miki) over the first 1.5 m 89.9955 dB.
#[test]
fn transmission_line() {
    let line = |fills: Value| {
        json!({"family": "transmission_line", "length_mm": 2500, "woofer_at_mm": 500, "wall_losses": false,
            "profile": {"shape": "tapered", "closed_end_cm2": 800, "open_end_cm2": 500}, "fills": fills})
    };
    assert_relative_eq!(at(line(json!([])), 50.0).0.level_db[0], 93.9840, epsilon = 5e-4);
    let fills = json!([{"from_mm": 0, "to_mm": 1500, "model": "miki",
        "stuffing": {"kind": "resistivity", "flow_resistivity_pa_s_per_m2": 2000}}]);
    // the outside value takes Miki's coefficients rounded to three places; with those this is met to 5e-4 dB
    assert_relative_eq!(at(line(fills), 50.0).0.level_db[0], 89.9955, epsilon = 0.015);
}

/// Front horn, 300 to 4000 cm2 over 1.8 m, rear 50 L, throat chamber 3 L, mouth in a wall, 100 Hz: exponential 102.2039,
/// hyperbolic T 0.6 102.8654, conical 100.0012 dB.
#[test]
fn front_horn() {
    let horn = |profile: Value| {
        json!({"family": "front_horn", "rear_volume_l": 50, "throat_chamber_l": 3, "horn": {
            "throat_cm2": 300, "mouth_cm2": 4000, "wall_losses": false, "profile": profile}})
    };
    for (profile, level) in [
        (json!({"shape": "exponential", "length_mm": 1800}), 102.2039),
        (json!({"shape": "hyperbolic", "length_mm": 1800, "t": 0.6}), 102.8654),
        (json!({"shape": "conical", "length_mm": 1800}), 100.0012),
    ] {
        let found = at(horn(profile), 100.0).0.level_db[0];
        assert_relative_eq!(found, level, epsilon = 1e-3);
    }
}
