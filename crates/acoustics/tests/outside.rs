//! Lines, horns and cavities against solutions computed outside this project (testdata/: scripts and versions there) and
//! against closed forms.

use num_complex::Complex64;
use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::driver::{Arrangement, Array, Woofer};
use oak_drum_acoustics::families::{Context, Enclosure};
use oak_drum_acoustics::level::SolidAngle;
use oak_drum_acoustics::network::cavity::{Cavity, Opening, Place, modes};
use oak_drum_acoustics::network::chain::{Chain, Link, Mouth};
use oak_drum_acoustics::network::volume::Volume;
use oak_drum_acoustics::outputs::{Conditions, Limits, Sweep};
use oak_drum_acoustics::path::Path;
use serde_json::Value;
use std::f64::consts::{PI, TAU};

const C: f64 = 343.2;
const RHO: f64 = 1.2041;

fn air() -> Air {
    Air::given(C, RHO)
}

fn list(value: &Value) -> Vec<f64> {
    value.as_array().unwrap().iter().map(|x| x.as_f64().unwrap()).collect()
}

/// Webster's equation solved by scipy (testdata/webster/scipy), lossless: within 0.05 dB where the level is within 30 dB
/// of its highest.
#[test]
fn lines_and_horns_against_webster() {
    let data: Value = serde_json::from_str(include_str!("../../../testdata/webster/scipy/levels.json")).unwrap();
    let frequencies = list(&data["frequency_hz"]);
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
    let one = woofer.resolve(&air()).unwrap();
    let array = Array::new(&one, &air(), &Arrangement::plain(1));
    let context = Context { air: air(), array, source_resistance: 0.0 };
    let conditions =
        Conditions { air: air(), volts: 2.83, distance: 1.0, solid_angle: SolidAngle::Half, limits: Limits::default() };
    let cases = data["cases"].as_array().unwrap();
    assert_eq!(cases.len(), 7);
    for case in cases {
        let enclosure: Enclosure = serde_json::from_value(case["enclosure"].clone()).unwrap();
        let wired = enclosure.wire(&context);
        let ours = Sweep::new(&wired.network, conditions).curves(&frequencies).level_db;
        let theirs = list(&case["level_db"]);
        let highest = theirs.iter().copied().fold(f64::MIN, f64::max);
        let mut compared = 0;
        for ((f, mine), level) in frequencies.iter().zip(&ours).zip(&theirs) {
            if *level > highest - 30.0 {
                compared += 1;
                assert!((mine - level).abs() < 0.05, "{}: {f:.1} Hz: {mine} against {level}", case["name"]);
            }
        }
        assert!(compared > 12, "{}", case["name"]);
    }
}

fn throat(path: &Path, mouth: impl Fn(f64) -> Complex64, f: f64) -> Complex64 {
    let [a, b, c, d] = path.chain(&air(), 0.0, path.length()).matrix::<Complex64>(TAU * f);
    let zm = mouth(f);
    (a * zm + b) / (c * zm + d)
}

fn piston(area: f64, f: f64) -> Complex64 {
    let mouth = Chain { links: vec![Link::Mouth(Mouth::new(&air(), area, TAU))], ..Chain::default() };
    mouth.matrix::<Complex64>(TAU * f)[1]
}

/// Throat of a finite exponential horn in closed form: with S = St·e^{mx}, a = m/2, b = √(k² - a²), the pressure is
/// e^{-ax}(A·e^{-jbx} + B·e^{jbx}) (Webster 1919; Kinsler et al., *Fundamentals of Acoustics*, ch. 14, from memory); and
/// of an endless one (ρc/S)[√(1 - (fc/f)²) + j·fc/f].
#[test]
fn exponential_throat_in_closed_form() {
    let (st, sm, length) = (0.03, 0.4, 1.8);
    let m = f64::ln(sm / st) / length;
    let places = (0..=400).map(|i| f64::from(i) / 400.0 * length).map(|x| (x * 1e3, st * (m * x).exp() * 1e4));
    let path = Path::new(places.collect(), &[], &[], false);
    let cutoff = m * C / (4.0 * PI);
    for f in [30.0, 60.0, 95.0, 140.0, 300.0, 480.0] {
        let k = Complex64::new(TAU * f / C, 0.0);
        let a = m / 2.0;
        let b = (k * k - a * a).sqrt();
        let j = Complex64::i();
        let zm = piston(sm, f);
        // U = -S/(jωρ)·p'; at x: p' = e^{-ax}[(-a - jb)A·e^{-jbx} + (-a + jb)B·e^{jbx}]
        let (down, up) = ((-j * b * length).exp(), (j * b * length).exp());
        let flow = |s: f64, slope: Complex64| -slope * s / (j * TAU * f * RHO);
        // p(L) = zm·U(L) gives B/A
        let ratio = -(down - zm * flow(sm, (-a - j * b) * down)) / (up - zm * flow(sm, (-a + j * b) * up));
        let closed = (1.0 + ratio) / flow(st, (-a - j * b) + (-a + j * b) * ratio);
        let found = throat(&path, |f| piston(sm, f), f);
        assert!((found / closed - 1.0).norm() < 2e-3, "{f} Hz: {found} against {closed}");
        if f > cutoff * 1.2 {
            let endless = |s: f64| RHO * C / s * Complex64::new((1.0 - (cutoff / f).powi(2)).sqrt(), cutoff / f);
            let found = throat(&path, |_| endless(sm), f);
            assert!((found / endless(st) - 1.0).norm() < 2e-3, "{f} Hz, endless: {found}");
        }
    }
}

/// Throat of a finite cone in closed form: spherical waves p = (A·e^{-jkr} + B·e^{jkr})/r from its apex.
#[test]
fn conical_throat_in_closed_form() {
    let (st, sm, length): (f64, f64, f64) = (0.03, 0.4, 1.8);
    let apex = length * st.sqrt() / (sm.sqrt() - st.sqrt());
    let places =
        (0..=400).map(|i| f64::from(i) / 400.0 * length).map(|x| (x * 1e3, st * (1.0 + x / apex).powi(2) * 1e4));
    let path = Path::new(places.collect(), &[], &[], false);
    for f in [20.0, 60.0, 110.0, 250.0, 480.0] {
        let (k, j) = (TAU * f / C, Complex64::i());
        let (r1, r2) = (apex, apex + length);
        let p = |r: f64, sign: f64| (sign * j * k * r).exp() / r;
        let u = |r: f64, s: f64, sign: f64| -s / (j * TAU * f * RHO) * (sign * j * k - 1.0 / r) * p(r, sign);
        let zm = piston(sm, f);
        let ratio = -(p(r2, -1.0) - zm * u(r2, sm, -1.0)) / (p(r2, 1.0) - zm * u(r2, sm, 1.0));
        let closed = (p(r1, -1.0) + ratio * p(r1, 1.0)) / (u(r1, st, -1.0) + ratio * u(r1, st, 1.0));
        let found = throat(&path, |f| piston(sm, f), f);
        assert!((found / closed - 1.0).norm() < 2e-3, "{f} Hz: {found} against {closed}");
    }
}

/// A rigid cavity by finite elements (testdata/cavity/scikit-fem): resonances within 0.01 %, the pressure at one opening for
/// a flow at another within 2 % (of itself or of the plain compliance's) away from the resonances (a square patch there, a disc of its area here; no losses
/// there, those of bare walls here).
#[test]
fn a_cavity_against_finite_elements() {
    let text = include_str!("../../../testdata/cavity/scikit-fem/cavity.json");
    let data: Value = serde_json::from_str(text).unwrap();
    let sides: [f64; 3] = list(&data["sides_m"]).try_into().unwrap();
    let found = modes(&air(), sides, 2500.0, 0.0, Place::Everywhere);
    for (mode, hz) in found.iter().zip(list(&data["resonances_hz"])) {
        assert!((mode.omega / TAU / hz - 1.0).abs() < 1e-4, "{} against {hz}", mode.omega / TAU);
    }
    let openings: Vec<Opening> = data["openings_m"]
        .as_array()
        .unwrap()
        .iter()
        .zip(list(&data["area_m2"]))
        .map(|(place, area)| {
            let place = list(place);
            Opening { centre: [place[0], place[1], 0.0], area }
        })
        .collect();
    let volume = Volume { compliance: air().compliance(sides.iter().product()), filled: None, absorption: 0.0 };
    let cavity = Cavity::new(&air(), sides, volume, None, &openings, &found);
    for case in data["cases"].as_array().unwrap() {
        let f = case["frequency_hz"].as_f64().unwrap();
        let theirs = case["mutual_im"].as_f64().unwrap();
        let mut z = [Complex64::default(); 3];
        cavity.impedance::<Complex64>(TAU * f, &mut z);
        let plain = 1.0 / (TAU * f * air().compliance(sides.iter().product()));
        assert!((z[1].im - theirs).abs() < 0.02 * plain.max(theirs.abs()), "{f} Hz: {} against {theirs}", z[1].im);
    }
}
