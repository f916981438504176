//! Against numpy, scipy and ngspice (testdata/curves/scipy: script and versions there).

use num_complex::Complex64;
use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::level::P_REF;
use oak_drum_curves::curve::{Curve, Measurand};
use oak_drum_curves::fit::woofer::{CoilLaw, Given, fit_woofer};
use oak_drum_curves::formats::wav::Recording;
use oak_drum_curves::jig::{Means, impedance};
use oak_drum_curves::process::phase::{Ends, minimum_phase};
use oak_drum_curves::process::smoothing::smoothed;
use oak_drum_curves::sweep::analyse::analyse;
use oak_drum_curves::sweep::log_sweep::LogSweep;
use serde_json::Value;

fn data() -> Value {
    serde_json::from_str(include_str!("../../../../testdata/curves/scipy/curves.json")).unwrap()
}

fn list(value: &Value) -> Vec<f64> {
    value.as_array().unwrap().iter().map(|x| x.as_f64().unwrap()).collect()
}

fn complex(frequency: &Value, value: &Value, quantity: Measurand) -> Curve {
    let (re, im) = (list(&value["re"]), list(&value["im"]));
    let value = re.into_iter().zip(im).map(|(re, im)| Complex64::new(re, im)).collect();
    Curve { quantity, frequency: list(frequency), value, has_phase: true, ..Curve::default() }
}

/// The same optimum and the same ranges as scipy.optimize.least_squares on the same noisy data.
#[test]
fn woofers_are_fitted_as_scipy_fits_them() {
    let data = &data()["woofer"];
    let curve = |name: &str| complex(&data["frequency_hz"], &data["curves"][name], Measurand::Impedance);
    let (free, mass, boxed) = (curve("free"), curve("mass"), curve("box"));
    let given = Given {
        free: &free,
        mass: None,
        boxed: None,
        sd: Some((0.053, 0.0)),
        re: None,
        air: Air::given(343.2, 1.2041),
        law: Some(CoilLaw::Plain),
    };
    let ids =
        [("fs_hz", 1.0), ("qes", 1.0), ("qms", 1.0), ("re_ohm", 1.0), ("le_mh", 1e3), ("mms_g", 1e3), ("vas_l", 1e3)];
    for (name, given) in [
        ("free", given.clone()),
        ("mass", Given { mass: Some((&mass, 0.040, 0.0)), ..given.clone() }),
        ("box", Given { boxed: Some((&boxed, 0.060, 0.0)), ..given.clone() }),
    ] {
        let found = fit_woofer(&given).unwrap();
        let fit = &data["fits"][name];
        let which = list(&fit["which"]);
        for (k, (value, sigma)) in list(&fit["values"]).into_iter().zip(list(&fit["sigmas"])).enumerate() {
            let (id, scale) = ids[which[k] as usize];
            let figure = found.figure(id).unwrap();
            assert!((figure.value / scale / value - 1.0).abs() < 1e-6, "{name} {id}: {} against {value}", figure.value);
            assert!((figure.sigma / sigma - 1.0).abs() < 1e-3, "{name} {id}: {} against {sigma}", figure.sigma);
            // and the truth lies where the range says it may
            let truth = data["truth"][which[k] as usize].as_f64().unwrap() * scale;
            let wide = (truth / figure.value).ln().abs() / figure.sigma;
            assert!(wide < 4.0, "{name} {id}: {wide} standard deviations");
        }
    }
}

/// Voltages of ngspice: unequal inputs, one loaded by a resistor and a capacitor, leads. The clips' short takes the leads off too.
#[test]
fn a_jig_solved_by_ngspice_is_taken_out() {
    let data = &data()["fixture"];
    let ratio = |name: &str| complex(&data["frequency_hz"], &data[name], Measurand::Level);
    let (woofer, open, short, known) = (ratio("woofer"), ratio("open"), ratio("short"), ratio("known"));
    let ohm = data["known_ohm"].as_f64().unwrap();
    let made = impedance(&woofer, &Means::Calibrated { open: &open, short: &short, known: &known, ohm });
    let exact = complex(&data["frequency_hz"], &data["impedance"], Measurand::Impedance);
    assert!(made.len() > 60);
    for (i, f) in made.frequency.iter().enumerate() {
        let off = (made.value[i] / exact.value[i] - 1.0).norm();
        assert!(off < 1e-6, "{f} Hz: {off}");
    }
    let simple = impedance(&woofer, &Means::LeadsOff { reference: 22.0, short: &short });
    let off = (simple.at(80.0).unwrap() / exact.at(80.0).unwrap() - 1.0).norm();
    assert!(off > 0.01 && off < 0.1, "unequal inputs stay in the simple way: {off}");
}

/// The sweep by its formula; what scipy's filter makes of it, taken apart here and by plain division there.
#[test]
fn a_sweep_through_a_filter_of_scipy() {
    let data = &data()["sweep"];
    let number = |name: &str| data[name].as_f64().unwrap();
    let sweep = LogSweep {
        from_hz: number("from_hz"),
        to_hz: number("to_hz"),
        seconds: number("seconds"),
        rate_hz: number("rate"),
        amplitude: number("amplitude"),
        silence_s: 0.0,
        tail_s: 1.0,
        times: 1,
    };
    assert!((sweep.growth() - number("growth")).abs() < 1e-12);
    assert_eq!(sweep.samples() as f64, number("samples"));
    let signal = sweep.signal();
    // behind the first half period, which is faded in
    let (at, value) = (list(&data["at"])[2] as usize, list(&data["values"])[2]);
    assert!((signal[at] - value).abs() < 1e-9, "{at}: {} against {value}", signal[at]);
    // the filter of scipy, section by section
    let mut y = [signal, vec![0.0; 48_000]].concat();
    for section in data["sos"].as_array().unwrap() {
        let s = list(section);
        let (mut z1, mut z2) = (0.0, 0.0);
        for v in &mut y {
            let x = *v;
            let out = s[0] * x + z1;
            z1 = s[1] * x - s[4] * out + z2;
            z2 = s[2] * x - s[5] * out;
            *v = out;
        }
    }
    let recording = Recording { rate: sweep.rate_hz, channels: vec![y] };
    let found = analyse(&sweep, &recording, 0, None).unwrap().curve;
    let (exact, divided) = (list(&data["exact_db"]), list(&data["divided_db"]));
    let phase = list(&data["exact_phase_deg"]);
    for (i, f) in list(&data["frequency_hz"]).into_iter().enumerate() {
        let v = found.at(f).unwrap();
        let db = 20.0 * (v.norm() / P_REF).log10();
        assert!((db - exact[i]).abs() < 0.05 && (db - divided[i]).abs() < 0.05, "{f} Hz: {db} against {}", exact[i]);
        let turn = (v.arg().to_degrees() - phase[i] + 180.0).rem_euclid(360.0) - 180.0;
        assert!(turn.abs() < 0.5, "{f} Hz: {turn}");
    }
}

/// Smoothing against scipy.integrate.quad over straight lines.
#[test]
fn smoothing_is_the_integral_over_the_band() {
    let data = &data()["smoothing"];
    let curve = Curve::of_level(list(&data["frequency_hz"]), &list(&data["level_db"]), None);
    for (b, made) in data["smoothed_db"].as_object().unwrap() {
        let is = smoothed(&curve, b.parse().unwrap()).magnitude();
        for (i, (is, should)) in is.iter().zip(list(made)).enumerate() {
            assert!((is - should).abs() < 1e-6, "1/{b}, point {i}: {is} against {should}");
        }
    }
}

/// Minimum phase against the real cepstrum, another road.
#[test]
fn minimum_phase_is_that_of_the_cepstrum() {
    let data = &data()["phase"];
    let curve = Curve::of_level(list(&data["frequency_hz"]), &list(&data["level_db"]), None);
    let phase = minimum_phase(&curve, Ends { low: 4.0, high: -2.0 });
    for (i, f) in curve.frequency.iter().enumerate().filter(|(_, f)| (15.0..700.0).contains(*f)) {
        let should = data["phase_deg"][i].as_f64().unwrap();
        let turn = (phase[i].to_degrees() - should + 180.0).rem_euclid(360.0) - 180.0;
        assert!(turn.abs() < 0.5, "{f} Hz: {turn}");
    }
}
