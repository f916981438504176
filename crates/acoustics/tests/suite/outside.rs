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
use oak_drum_acoustics::panels::{Edges, Hold, lowest};
use oak_drum_acoustics::path::Path;
use oak_drum_acoustics::port::{End, Port, Section, Sizing};
use oak_drum_acoustics::source::Source;
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

/// Webster's equation solved by scipy (testdata/webster/scipy), lossless: the level within 0.01 dB where it is within 30 dB of
/// its highest, the air in the mouth within 0.25 % there.
#[test]
fn lines_and_horns_against_webster() {
    let data: Value = serde_json::from_str(include_str!("../../../../testdata/webster/scipy/levels.json")).unwrap();
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
    let context = Context::new(air(), array, Source::new(2.83, 0.0));
    let conditions = Conditions { air: air(), distance: 1.0, solid_angle: SolidAngle::Half, limits: Limits::default() };
    let cases = data["cases"].as_array().unwrap();
    assert_eq!(cases.len(), 8);
    for case in cases {
        let enclosure: Enclosure = serde_json::from_value(case["enclosure"].clone()).unwrap();
        let wired = enclosure.wire(&context);
        let curves = Sweep::new(&wired.network, conditions).curves(&frequencies);
        let theirs = list(&case["level_db"]);
        let mouths = list(&case["mouth_m3_per_s"]);
        let highest = theirs.iter().copied().fold(f64::MIN, f64::max);
        let mut compared = 0;
        for (i, f) in frequencies.iter().enumerate() {
            if theirs[i] > highest - 30.0 {
                compared += 1;
                let level = curves.level_db[i];
                assert!((level - theirs[i]).abs() < 0.01, "{}: {f:.1} Hz: {level} against {}", case["name"], theirs[i]);
                let mouth = curves.port[i].norm() * TAU / (TAU * f * RHO);
                assert!((mouth / mouths[i] - 1.0).abs() < 2.5e-3, "{}: {f:.1} Hz: {mouth}", case["name"]);
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
    let text = include_str!("../../../../testdata/cavity/scikit-fem/cavity.json");
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

/// A slot along the floor between both side walls by finite elements (testdata/ports/scikit-fem): the flush end within 1 %,
/// a board that stands into the box within 6 %.
#[test]
fn slot_ends_against_finite_elements() {
    let data: Value = serde_json::from_str(include_str!("../../../../testdata/ports/scikit-fem/slots.json")).unwrap();
    let cases = data["cases"].as_array().unwrap();
    assert_eq!(cases.len(), 4);
    for case in cases {
        let number = |name: &str| case[name].as_f64().unwrap();
        let (height, width) = (number("height_mm"), 300.0);
        let room = (number("box_height_mm") * 1e-3).powi(2) * width * 1e-3;
        let section = Section::Slot { width_mm: width, height_mm: height };
        let slot = |inner_end| Port {
            inner_end,
            walls_alongside: 3,
            ..Port::plain(section, Sizing::Length { length_mm: 200.0 })
        };
        let flush = slot(End::Flanged).ends(room).inner * 1e3;
        let standing = slot(End::Free).ends(room).inner * 1e3;
        assert!((flush / number("flush_mm") - 1.0).abs() < 0.01, "{flush} against {case}");
        assert!((standing / number("standing_in_mm") - 1.0).abs() < 0.06, "{standing} against {case}");
    }
}

/// Pipe resonances of a port by openwind (testdata/ports/openwind): the dips of the impedance at an inner end that meets no
/// air of its own, with a flush and with a free outer end: the first within 1 %, the second within 2 % (the ends' correction
/// falls with frequency, which a constant leaves out).
#[test]
fn pipe_resonances_against_openwind() {
    let data: Value = serde_json::from_str(include_str!("../../../../testdata/ports/openwind/tubes.json")).unwrap();
    let air = Air::at(20.0, 101_325.0);
    let cases = data["cases"].as_array().unwrap();
    assert_eq!(cases.len(), 6);
    for case in cases {
        let number = |name: &str| case[name].as_f64().unwrap();
        let outer_end = if case["end"] == "unflanged" { End::Free } else { End::Flanged };
        let port = Port {
            outer_end,
            ..Port::plain(
                Section::Round { diameter_mm: 2.0 * number("radius_mm") },
                Sizing::Length { length_mm: number("length_mm") },
            )
        };
        let realised = port.realise(&air, 0.1, |_| air.compliance(0.1));
        let mut chain = port.chain(&air, &realised, 0.0);
        // without the air at the inner end: the first link
        chain.links.remove(0);
        let size = |f: f64| {
            let [_, b, _, d] = chain.matrix::<Complex64>(TAU * f);
            (b / d).norm()
        };
        let grid: Vec<f64> = (100..4000).map(|i| f64::from(i) * 0.5).collect();
        let dips: Vec<f64> =
            grid.windows(3).filter(|w| size(w[1]) < size(w[0]) && size(w[1]) < size(w[2])).map(|w| w[1]).collect();
        for (k, theirs) in list(&case["resonances_hz"]).iter().enumerate() {
            assert!((dips[k] / theirs - 1.0).abs() < 0.01 * (k + 1) as f64, "{} against {theirs}: {case}", dips[k]);
        }
    }
}

/// Plates held on lines by finite elements (testdata/panels/scikit-fem): within 0.5 %.
#[test]
fn braced_panels_against_finite_elements() {
    let data: Value = serde_json::from_str(include_str!("../../../../testdata/panels/scikit-fem/plates.json")).unwrap();
    let cases = data["cases"].as_array().unwrap();
    assert_eq!(cases.len(), 5);
    for case in cases {
        let edges = if case["edges"] == "clamped" { Edges::Clamped } else { Edges::Supported };
        let mut holds: Vec<Hold> = list(&case["uprights"]).into_iter().map(Hold::Upright).collect();
        holds.extend(list(&case["levels"]).into_iter().map(Hold::Level));
        let theirs = case["lambda_square"].as_f64().unwrap();
        let ours = lowest(case["b_over_a"].as_f64().unwrap(), edges, &holds);
        assert!((ours / theirs - 1.0).abs() < 0.005, "{ours} against {case}");
    }
}
