//! One worked driver in a sealed and a vented box, computed outside this project by two independent routes
//! (nodal equations in extended precision and ngspice) that agree to 1e-9 or better.
//!
//! fs 30 Hz, Qes 0.40, Qms 5, Vas 120 L, Re 5.6 Ω, Sd 530 cm², Le 1.0 mH, Rg 0, 2.83 V, c 343.2, ρ 1.2041.

use approx::assert_relative_eq;
use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::driver::{Arrangement, Array, Woofer};
use oak_drum_acoustics::families::{Context, Enclosure, Family, sealed::Sealed, vented::Vented};
use oak_drum_acoustics::fill::Fill;
use oak_drum_acoustics::level::SolidAngle;
use oak_drum_acoustics::outputs::{Conditions, Limits, Reference, Sweep};
use oak_drum_acoustics::port::{Port, PortModel, Section, Sizing};
use oak_drum_acoustics::source::Source;
use std::f64::consts::PI;

fn air() -> Air {
    Air::given(343.2, 1.2041)
}

fn context(le_mh: f64, volts: f64) -> Context {
    let woofer = Woofer {
        fs_hz: Some(30.0),
        qes: Some(0.40),
        qms: Some(5.0),
        vas_l: Some(120.0),
        re_ohm: Some(5.6),
        sd_cm2: Some(530.0),
        le_mh: Some(le_mh),
        ..Woofer::default()
    };
    let one = woofer.resolve(&air()).unwrap();
    Context::new(air(), Array::new(&one, &air(), &Arrangement::plain(1)), Source::new(volts, 0.0))
}

fn conditions() -> Conditions {
    Conditions { air: air(), distance: 1.0, solid_angle: SolidAngle::Half, limits: Limits::default() }
}

fn sealed(volume: f64, leak_q: Option<f64>) -> Enclosure {
    Enclosure::Sealed(Sealed { net_volume_l: volume, fill: Fill::None, leak_q, absorption_q: None, inside: None })
}

#[test]
fn sealed_60_l_lossless() {
    let wired = sealed(60.0, None).wire(&context(0.0, 1.0));
    let fc = wired.figures.iter().find(|f| f.id == "fc_hz").unwrap().value;
    let qtc = wired.figures.iter().find(|f| f.id == "qtc").unwrap().value;
    assert_relative_eq!(fc, 51.9615, max_relative = 1e-6);
    assert_relative_eq!(qtc, 0.64150, max_relative = 1e-5);
    let mut sweep = Sweep::new(&wired.network, conditions());
    let curves = sweep.curves(&[fc, 0.001]);
    assert_relative_eq!(curves.impedance[0].norm(), 75.6, max_relative = 1e-6);
    assert_relative_eq!(curves.group_delay[0], 3.92975e-3, max_relative = 2e-6);
    assert_relative_eq!(curves.excursion[1], 0.398158e-3, max_relative = 2e-6);
    // f3/fc of a second-order high-pass with this Q (Small 1972)
    let edges = sweep.band_edges(30.0, Reference::Efficiency);
    let x = 1.0 / (qtc * qtc) - 2.0;
    let ratio = ((x + (x * x + 4.0).sqrt()) / 2.0).sqrt();
    assert_relative_eq!(edges.edges[0].unwrap() / fc, ratio, max_relative = 1e-6);
}

#[test]
fn sealed_60_l_with_leaks() {
    let wired = sealed(60.0, Some(10.0)).wire(&context(1.0, 2.83));
    let curves = Sweep::new(&wired.network, conditions()).curves(&[50.0]);
    assert_relative_eq!(curves.level_db[0], 88.0441, epsilon = 1e-4);
    assert_relative_eq!(curves.excursion[0], 0.71618e-3, max_relative = 1e-5);
    assert_relative_eq!(curves.impedance[0].norm(), 45.955, max_relative = 2e-5);
    assert_relative_eq!(curves.impedance[0].arg().to_degrees(), 18.367, max_relative = 5e-5);
    assert_relative_eq!(curves.group_delay[0], 4.1658e-3, max_relative = 2e-5);
}

fn vented_90() -> Vented {
    Vented {
        net_volume_l: 90.0,
        port: Port {
            model: PortModel::Mass,
            ..Port::plain(
                Section::Round { diameter_mm: (4.0 * 0.0120 / PI).sqrt() * 1e3 },
                Sizing::Tuning { tuning_hz: 32.0 },
            )
        },
        fill: Fill::None,
        leak_q: Some(7.0),
        absorption_q: Some(50.0),
        port_q: Some(60.0),
        inside: None,
    }
}

#[test]
fn vented_90_l_at_32_hz() {
    let wired = vented_90().wire(&context(1.0, 2.83));
    let curves = Sweep::new(&wired.network, conditions()).curves(&[30.0]);
    assert_relative_eq!(curves.level_db[0], 87.2139, epsilon = 1e-4);
    assert_relative_eq!(curves.excursion[0], 0.42410e-3, max_relative = 2e-5);
    assert_relative_eq!(curves.impedance[0].norm(), 7.67149, max_relative = 2e-6);
    assert_relative_eq!(curves.impedance[0].arg().to_degrees(), -8.8326, max_relative = 1e-5);
    assert_relative_eq!(curves.group_delay[0], 17.466e-3, max_relative = 5e-5);
    assert_relative_eq!(curves.air_speed[0], 1.70349, max_relative = 5e-6);
}

/// Half a port's pipe resonance: f = c/(2·L_eff) of the duct, with both ends' masses (lossy, so the peak of the
/// port's flow is looked for within 3 %).
#[test]
fn a_duct_shows_its_pipe_resonance_and_agrees_with_the_mass_below() {
    let mut design = vented_90();
    let wired = design.wire(&context(1.0, 2.83));
    let low: Vec<f64> = (16..60).map(f64::from).collect();
    let mass = Sweep::new(&wired.network, conditions()).curves(&low);
    design.port.model = PortModel::default();
    let wired = design.wire(&context(1.0, 2.83));
    let duct = Sweep::new(&wired.network, conditions()).curves(&low);
    for (a, b) in mass.level_db.iter().zip(&duct.level_db) {
        // the air in the tube itself is springy too: 3.6 L beside 90 L
        assert!((a - b).abs() < 0.4, "{a} {b}");
    }
    let expected = 343.2 / (2.0 * wired.ports[0].realised.effective_length);
    let around: Vec<f64> = (0..2000).map(|i| expected * (0.7 + 0.0003 * f64::from(i))).collect();
    let curves = Sweep::new(&wired.network, conditions()).curves(&around);
    let top = (0..around.len()).max_by(|&i, &j| curves.air_speed[i].total_cmp(&curves.air_speed[j])).unwrap();
    assert_relative_eq!(around[top], expected, max_relative = 0.03);
}

#[test]
fn the_lossless_butterworth_box_is_three_db_down_at_fs() {
    // Qts 0.38268, α √2, h 1 (Thiele 1961)
    let qts = 1.0 / (4.0 + 2.0 * 2f64.sqrt()).sqrt();
    let mut context = context(0.0, 2.83);
    context.array.ts.qes = 1.0 / (1.0 / qts - 1.0 / 5.0);
    let one = Woofer {
        fs_hz: Some(30.0),
        qes: Some(context.array.ts.qes),
        qms: Some(5.0),
        vas_l: Some(120.0),
        re_ohm: Some(5.6),
        sd_cm2: Some(530.0),
        ..Woofer::default()
    };
    let one = one.resolve(&air()).unwrap();
    context.array = Array::new(&one, &air(), &Arrangement::plain(1));
    let mut design = vented_90();
    design.net_volume_l = 120.0 / 2f64.sqrt();
    design.port.sizing = Sizing::Tuning { tuning_hz: 30.0 };
    (design.leak_q, design.absorption_q, design.port_q) = (None, None, None);
    let wired = design.wire(&context);
    let edges = Sweep::new(&wired.network, conditions()).band_edges(30.0, Reference::Efficiency);
    let half_power = 10.0 * 2f64.log10();
    let at_fs = Sweep::new(&wired.network, conditions()).curves(&[30.0]).level_db[0];
    assert_relative_eq!(at_fs, edges.reference_db - half_power, epsilon = 1e-9);
    assert_relative_eq!(edges.edges[0].unwrap(), 30.0, max_relative = 1e-6);
}
