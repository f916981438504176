//! Recordings brought back: started whenever, repeated, by the jig, and impulse responses from elsewhere. What stands on the bench is
//! known, so what comes back is held against it.

use approx::assert_relative_eq;
use num_complex::Complex64;
use oak_drum_curves::about::{About, Taken};
use oak_drum_curves::curve::{Curve, Measurand};
use oak_drum_curves::formats::wav::{self, Depth, Recording};
use oak_drum_curves::measurement::Source;
use oak_drum_curves::process::recipe::{Data, cook};
use oak_drum_curves::recorded::{RecordingWish, Unusable, kept};
use oak_drum_curves::rig::{Bench, Input, Jig, Load, Rattle, record};
use oak_drum_curves::sweep::analyse::Unheard;
use oak_drum_curves::sweep::log_sweep::LogSweep;

const QUIET: Bench = Bench { seed: 3, noise_dbfs: -100.0, hum_dbfs: -110.0, mains_hz: 50.0, latency_ms: 12.0 };

fn sweep() -> LogSweep {
    LogSweep { from_hz: 10.0, to_hz: 800.0, seconds: 3.0, ..LogSweep::default() }
}

/// A second-order high pass at 40 Hz with Q 1.2, so loud.
fn high_pass(loud: f64) -> Curve {
    let frequency: Vec<f64> = (0..3000).map(|i| 1.0 * 24_000f64.powf(f64::from(i) / 2999.0)).collect();
    let value = frequency
        .iter()
        .map(|f| {
            let s = Complex64::new(0.0, f / 40.0);
            loud * s * s / (s * s + s / 1.2 + 1.0)
        })
        .collect();
    Curve { quantity: Measurand::Level, frequency, value, has_phase: true, snr_db: Vec::new() }
}

fn wish(taken: Taken) -> RecordingWish {
    let about = About { name: "Back".into(), taken, ..About::default() };
    RecordingWish { sweep: Some(sweep()), about, ..RecordingWish::default() }
}

fn source() -> Source {
    Source::Recording { name: "cone.wav".into() }
}

/// How far (dB) a kept measurement lies from the high pass between 20 and 500 Hz at most, the mean taken off.
fn off(data: &Data) -> f64 {
    let curve = cook(data, &[]).unwrap().curve.between(20.0, 500.0);
    let truth = high_pass(1.0);
    let difference: Vec<f64> = curve
        .frequency
        .iter()
        .zip(&curve.value)
        .map(|(f, v)| 20.0 * (v.norm() / truth.at(*f).unwrap().norm()).log10())
        .collect();
    let mean = difference.iter().sum::<f64>() / difference.len() as f64;
    difference.iter().map(|d| (d - mean).abs()).fold(0.0, f64::max)
}

#[test]
fn a_recording_that_began_seconds_before_the_sweep_gives_the_same_curve() {
    let input = Input { bent: (0.05, 0.0), ..Input::hearing(high_pass(0.6)) };
    let one = record(&sweep().played(), 48_000.0, &QUIET, std::slice::from_ref(&input));
    let (_, at_once) = kept(&wish(Taken::NearCone {}), &one, source()).unwrap();
    assert!(off(&at_once) < 0.05, "{}", off(&at_once));
    // 2.7 s of the room before, through a file of 16 bit
    let noise = record(&vec![0.0; 130_000], 48_000.0, &QUIET, &[input]);
    let late =
        Recording { rate: 48_000.0, channels: vec![[noise.channels[0].clone(), one.channels[0].clone()].concat()] };
    let file = wav::read(&wav::write(&late, Depth::Bits16).unwrap()).unwrap();
    let (made, data) = kept(&wish(Taken::NearCone {}), &file, source()).unwrap();
    assert!(off(&data) < 0.05, "{}", off(&data));
    // 5 % of x² at amplitude a: half of 0.05·a at twice the frequency, through the gain there over that of the tone
    let second = &made.harmonics[0];
    let at = second.frequency_hz.iter().position(|f| *f > 150.0).unwrap();
    assert_eq!(second.order, 2);
    assert_relative_eq!(second.percent[at], 0.05 * 0.5 / 2.0 * 100.0, max_relative = 0.08);
    assert!(made.buzzes.is_empty());
    assert_eq!(made.source, source());
}

#[test]
fn a_rattle_is_found_whenever_the_recording_began_and_with_a_wire() {
    let rattling = Input { rattle: Some(Rattle { at: 62.0, loud: 0.03 }), ..Input::hearing(high_pass(0.6)) };
    let made = record(&sweep().played(), 48_000.0, &QUIET, &[rattling, Input::loopback(0.8)]);
    let late = Recording {
        rate: 48_000.0,
        channels: made.channels.iter().map(|c| [vec![1e-6; 60_000], c.clone()].concat()).collect(),
    };
    let alone = Recording { rate: late.rate, channels: vec![late.channels[0].clone()] };
    for (recording, loopback) in [(late, Some(2)), (alone, None)] {
        let wish = RecordingWish { loopback, ..wish(Taken::NearCone {}) };
        let (found, data) = kept(&wish, &recording, source()).unwrap();
        let buzz = found.buzzes.first().unwrap_or_else(|| panic!("no buzz with {loopback:?}"));
        assert!((buzz.from_hz..buzz.to_hz).contains(&62.0), "{loopback:?}: {buzz:?}");
        assert!(off(&data) < 0.2);
    }
}

/// Noise falls by 3 dB with each doubling (power of independent noises).
#[test]
fn repeats_bring_three_decibels_each_time_they_double() {
    let noisy = Bench { noise_dbfs: -45.0, ..QUIET };
    let snr = |times: u32| {
        let sweep = LogSweep { times, ..sweep() };
        let made = record(&sweep.played(), 48_000.0, &noisy, &[Input::hearing(high_pass(0.6))]);
        let taken = oak_drum_curves::recorded::taken_apart(&sweep, &made, 0, None).unwrap();
        let list = taken.found.curve.between(60.0, 500.0).snr_db;
        list.iter().sum::<f64>() / list.len() as f64
    };
    let (one, four) = (snr(1), snr(4));
    assert!((four - one - 6.0).abs() < 1.5, "{one} {four}");
}

#[test]
fn the_jig_gives_ohms_and_its_leads_are_taken_off() {
    let resistance = Curve { value: vec![6.8.into(); 3000], ..high_pass(1.0) };
    let jig = Jig { reference_ohm: 33.0, leads_ohm: 0.2, input_ohm: 1e6, unequal: 1.0 };
    let made = record(&sweep().played(), 48_000.0, &QUIET, &jig.inputs(&Load::Impedance(&resistance)));
    let wish =
        |loopback| RecordingWish { channel: 2, loopback, reference_ohm: 33.0, leads_ohm: 0.2, ..wish(Taken::InBox {}) };
    let (found, Data::Points(curve)) = kept(&wish(Some(1)), &made, source()).unwrap() else { panic!() };
    assert_eq!(curve.quantity, Measurand::Impedance);
    assert!(found.harmonics.is_empty() && !curve.snr_db.is_empty());
    for z in &curve.between(20.0, 600.0).value {
        assert_relative_eq!(z.norm(), 6.8, max_relative = 2e-3);
    }
    assert_eq!(kept(&wish(None), &made, source()).unwrap_err(), Unusable::OneChannel);
    assert_eq!(kept(&wish(Some(2)), &made, source()).unwrap_err(), Unusable::OneChannel);
}

#[test]
fn an_impulse_response_from_elsewhere_is_a_curve_too() {
    // the high pass as samples: the inverse transform of its response, by the sweep's own way
    let made = record(&sweep().played(), 48_000.0, &QUIET, &[Input::hearing(high_pass(0.6))]);
    let (_, Data::Impulse(own)) = kept(&wish(Taken::NearCone {}), &made, source()).unwrap() else { panic!() };
    let top = own.samples.iter().fold(0.0, |m: f64, x| m.max(x.abs()));
    let file = Recording { rate: own.rate, channels: vec![own.samples.iter().map(|x| x / top * 0.9).collect()] };
    let plain = |taken| RecordingWish { sweep: None, ..wish(taken) };
    // said so in JSON it comes back so: what is left out is the usual sweep
    let written = serde_json::to_value(plain(Taken::NearCone {})).unwrap();
    assert_eq!(serde_json::from_value::<RecordingWish>(written).unwrap(), plain(Taken::NearCone {}));
    assert_eq!(serde_json::from_str::<RecordingWish>("{}").unwrap().sweep, Some(LogSweep::default()));
    let (found, data) = kept(&plain(Taken::NearCone {}), &file, source()).unwrap();
    assert!(off(&data) < 0.1, "{}", off(&data));
    assert!(found.harmonics.is_empty() && found.peak_dbfs.is_none());
    assert_eq!(kept(&plain(Taken::InBox {}), &file, source()).unwrap_err(), Unusable::NoSweep);
    let two = RecordingWish { channel: 2, ..plain(Taken::NearCone {}) };
    assert_eq!(kept(&two, &file, source()).unwrap_err(), Unusable::Unheard(Unheard::NoChannel(2)));
}

#[test]
fn what_holds_no_measurement_says_why() {
    let quiet = record(&sweep().played(), 48_000.0, &QUIET, &[Input::hearing(high_pass(1e-5))]);
    let loud = record(&sweep().played(), 48_000.0, &QUIET, &[Input::hearing(high_pass(3.0))]);
    let says = |recording: Recording, words: &str| {
        let no = kept(&wish(Taken::NearCone {}), &recording, source()).unwrap_err().to_string();
        assert!(no.contains(words), "{no}");
    };
    says(quiet, "too quiet");
    says(loud, "clipped");
    let other = LogSweep { rate_hz: 44_100.0, ..sweep() };
    says(record(&other.played(), 44_100.0, &QUIET, &[Input::hearing(high_pass(0.6))]), "44100 samples a second");
    let wrong = LogSweep { from_hz: 30.0, ..sweep() };
    says(record(&wrong.played(), 48_000.0, &QUIET, &[Input::hearing(high_pass(0.6))]), "not found");
    let impossible = RecordingWish { sweep: Some(LogSweep { to_hz: 11.0, ..sweep() }), ..wish(Taken::NearCone {}) };
    assert!(matches!(kept(&impossible, &Recording::default(), source()), Err(Unusable::Sweep("to_hz", _))));
}
