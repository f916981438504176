//! From a played sweep to a curve: the bench's samples go the way a recording goes.

use num_complex::Complex64;
use oak_drum_acoustics::level::{P_REF, log_frequencies};
use oak_drum_curves::curve::{Curve, Measurand};
use oak_drum_curves::formats::wav::Recording;
use oak_drum_curves::jig::{Means, impedance};
use oak_drum_curves::process::average::repeats;
use oak_drum_curves::rig::{Bench, Input, Jig, Load, Rattle, record};
use oak_drum_curves::sweep::analyse::{Unheard, analyse};
use oak_drum_curves::sweep::buzz::buzzes;
use oak_drum_curves::sweep::log_sweep::LogSweep;

const QUIET: Bench = Bench { seed: 5, noise_dbfs: -140.0, hum_dbfs: -140.0, mains_hz: 50.0, latency_ms: 12.0 };

/// A fourth-order high-pass with an overshoot, and a roll-off above.
fn system(f: f64) -> Complex64 {
    let s = Complex64::new(0.0, f / 32.0);
    let z = Complex64::new(0.0, f / 900.0);
    0.6 * s.powi(4) / ((s * s + s / 2.5 + 1.0) * (s * s + s / 0.6 + 1.0)) / (1.0 + z)
}

fn gain(of: impl Fn(f64) -> Complex64) -> Curve {
    let frequency = log_frequencies(1.0, 24_000.0, 6000);
    Curve { value: frequency.iter().map(|f| of(*f)).collect(), frequency, has_phase: true, ..Curve::default() }
}

fn worst_db(curve: &Curve, of: impl Fn(f64) -> Complex64, from: f64, to: f64) -> f64 {
    let pairs = curve.frequency.iter().zip(&curve.value).filter(|(f, _)| (from..=to).contains(*f));
    pairs.map(|(f, v)| (20.0 * (v.norm() / P_REF / of(*f).norm()).log10()).abs()).fold(0.0, f64::max)
}

#[test]
fn a_known_response_comes_back() {
    let sweep = LogSweep { from_hz: 5.0, to_hz: 2000.0, ..LogSweep::default() };
    let recording = record(&sweep.played(), sweep.rate_hz, &QUIET, &[Input::hearing(gain(system))]);
    let found = analyse(&sweep, &recording, 0, None).unwrap();
    let off = worst_db(&found.curve, system, 8.0, 1800.0);
    assert!(off < 0.05, "{off} dB");
    // the phase carries the latency of the bench and nothing else
    for (f, v) in found.curve.frequency.iter().zip(&found.curve.value).filter(|(f, _)| (10.0..1500.0).contains(*f)) {
        let late = Complex64::from_polar(1.0, -std::f64::consts::TAU * f * 0.012);
        let turn = (v / (system(*f) * late)).arg().to_degrees();
        assert!(turn.abs() < 0.7, "{f} Hz: {turn}");
    }
    let snr = found.curve.between(12.0, 1800.0).snr_db;
    assert!(snr.iter().all(|s| *s > 40.0), "{snr:?}");
    assert!(found.peak_dbfs < -1.0 && found.peak_dbfs > -20.0);
}

/// x + 0.03 x² + 0.05 x³ at amplitude 0.5 makes 0.743034 % of the second and 0.309598 % of the third harmonic, and lifts the fundamental
/// by 0.081051 dB: computed by two routes outside this program.
#[test]
fn distortion_is_told_by_order() {
    let sweep = LogSweep { from_hz: 10.0, to_hz: 4000.0, seconds: 8.0, amplitude: 0.5, ..LogSweep::default() };
    let input = Input { bent: (0.03, 0.05), ..Input::hearing(gain(|_| 1.0.into())) };
    let recording = record(&sweep.played(), sweep.rate_hz, &QUIET, &[input]);
    let found = analyse(&sweep, &recording, 0, None).unwrap();
    let lift = 10f64.powf(0.081051 / 20.0);
    let off = worst_db(&found.curve, |_| lift.into(), 20.0, 2000.0);
    assert!(off < 0.01, "{off}");
    for (order, percent) in [(2, 0.743034), (3, 0.309598)] {
        let harmonic = found.harmonics.iter().find(|h| h.order == order).unwrap();
        let mut looked_at = 0;
        for (f, p) in harmonic.frequency_hz.iter().zip(&harmonic.percent).filter(|(f, _)| (30.0..800.0).contains(*f)) {
            assert!((p / percent - 1.0).abs() < 0.05, "order {order} at {f} Hz: {p}");
            looked_at += 1;
        }
        assert!(looked_at > 100);
    }
    let fourth = found.harmonics.iter().find(|h| h.order == 4).unwrap();
    let clean = fourth.frequency_hz.iter().zip(&fourth.percent).filter(|(f, _)| (30.0..500.0).contains(*f));
    assert!(clean.map(|(_, p)| *p).fold(0.0, f64::max) < 0.02, "an order that is not there is not told");
}

#[test]
fn a_loopback_takes_the_card_out() {
    let sweep = LogSweep { from_hz: 5.0, to_hz: 2000.0, ..LogSweep::default() };
    let card = |f: f64| {
        // a card that cuts below 12 Hz and is 3 dB up
        let s = Complex64::new(0.0, f / 12.0);
        1.41 * s / (1.0 + s) / 2.0
    };
    let both = [Input::hearing(gain(|f| system(f) * card(f))), Input::hearing(gain(card))];
    let bench = Bench { latency_ms: 37.0, ..QUIET };
    let recording = record(&sweep.played(), sweep.rate_hz, &bench, &both);
    let found = analyse(&sweep, &recording, 0, Some(1)).unwrap();
    assert!(worst_db(&found.curve, system, 8.0, 1800.0) < 0.05);
    let alone = analyse(&sweep, &recording, 0, None).unwrap();
    assert!(worst_db(&alone.curve, system, 8.0, 1800.0) > 2.0, "without it the card is in the curve");
    // no latency is left
    for (f, v) in found.curve.frequency.iter().zip(&found.curve.value).filter(|(f, _)| (10.0..1500.0).contains(*f)) {
        assert!((v / system(*f)).arg().to_degrees().abs() < 0.7, "{f} Hz");
    }
}

#[test]
fn noise_is_told_and_repeats_push_it_down() {
    let sweep = LogSweep { from_hz: 10.0, to_hz: 500.0, seconds: 4.0, ..LogSweep::default() };
    let take = |seed: u32, noise_dbfs: f64| {
        let bench = Bench { seed, noise_dbfs, ..QUIET };
        let recording = record(&sweep.played(), sweep.rate_hz, &bench, &[Input::hearing(gain(system))]);
        analyse(&sweep, &recording, 0, None).unwrap().curve
    };
    let mean_snr = |c: &Curve| {
        let band: Vec<f64> = c.between(40.0, 400.0).snr_db;
        band.iter().sum::<f64>() / band.len() as f64
    };
    let (quiet, loud) = (take(1, -60.0), take(1, -40.0));
    assert!((mean_snr(&quiet) - mean_snr(&loud) - 20.0).abs() < 2.0, "{} {}", mean_snr(&quiet), mean_snr(&loud));
    // what is told is what is there: the deviation from the truth, as power
    let deviation = loud.between(40.0, 400.0);
    let latency = |f: f64| Complex64::from_polar(1.0, -std::f64::consts::TAU * f * 0.012);
    let shares = deviation.frequency.iter().zip(&deviation.value);
    let power = shares.map(|(f, v)| (v / P_REF / (system(*f) * latency(*f)) - 1.0).norm_sqr()).sum::<f64>();
    let real = -10.0 * (power / deviation.len() as f64).log10();
    assert!((real - mean_snr(&loud)).abs() < 4.0, "{real} against {}", mean_snr(&loud));
    let takes: Vec<Curve> = (10..18).map(|seed| take(seed, -40.0)).collect();
    let mean = repeats(&takes).unwrap();
    let gained = mean_snr(&mean) - mean_snr(&loud);
    assert!((gained - 9.0).abs() < 3.0, "eight repeats bring 9 dB, not {gained}");
}

#[test]
fn recordings_that_hold_no_measurement_say_why() {
    let sweep = LogSweep { from_hz: 20.0, to_hz: 500.0, seconds: 2.0, ..LogSweep::default() };
    let played = sweep.played();
    let with = |gain: f64| Recording { rate: 48_000.0, channels: vec![played.iter().map(|x| x * gain).collect()] };
    assert!(matches!(analyse(&sweep, &with(1.99), 0, None), Err(Unheard::Clipped { channel: 1, .. })));
    assert!(matches!(analyse(&sweep, &with(1e-5), 0, None), Err(Unheard::Quiet { .. })));
    assert!(matches!(analyse(&sweep, &with(1.0), 1, None), Err(Unheard::NoChannel(2))));
    assert!(matches!(analyse(&sweep, &Recording { rate: 44_100.0, ..with(1.0) }, 0, None), Err(Unheard::Rate { .. })));
    let short = Recording { rate: 48_000.0, channels: vec![vec![0.1; 9000]] };
    assert!(matches!(analyse(&sweep, &short, 0, None), Err(Unheard::Short { .. })));
    let mut random = fastrand::Rng::with_seed(4);
    let noise: Vec<f64> = played.iter().map(|_| 0.2 * (random.f64() - 0.5)).collect();
    let noise = Recording { rate: 48_000.0, channels: vec![noise] };
    assert!(matches!(analyse(&sweep, &noise, 0, None), Err(Unheard::NoSweep)));
}

/// A woofer-like impedance through a jig with unequal inputs, leads and a load of its own.
#[test]
fn the_jig_reads_an_impedance() {
    let z = |f: f64| {
        let x = Complex64::new(0.0, f / 30.0);
        Complex64::new(5.6, std::f64::consts::TAU * f * 1e-3) + 14.0 / (x + 0.2 + 1.0 / x)
    };
    let load = gain(z);
    let sweep = LogSweep { from_hz: 4.0, to_hz: 2000.0, seconds: 8.0, ..LogSweep::default() };
    let jig = Jig::default();
    let take = |load: &Load| {
        let bench = Bench { noise_dbfs: -110.0, ..QUIET };
        let recording = record(&sweep.played(), sweep.rate_hz, &bench, &jig.inputs(load));
        let ratio = analyse(&sweep, &recording, 1, Some(0)).unwrap().curve;
        ratio.mapped(|_, v| v / P_REF)
    };
    let ratio = take(&Load::Impedance(&load));
    let (open, short, known) = (take(&Load::Open), take(&Load::Resistor(0.0)), take(&Load::Resistor(10.0)));
    let made = impedance(&ratio, &Means::Calibrated { open: &open, short: &short, known: &known, ohm: 10.0 });
    assert_eq!(made.quantity, Measurand::Impedance);
    for (f, v) in made.frequency.iter().zip(&made.value).filter(|(f, _)| (6.0..1800.0).contains(*f)) {
        assert!((v / z(*f) - 1.0).norm() < 0.01, "{f} Hz: {v} against {}", z(*f));
    }
    let raw = impedance(&ratio, &Means::Simple { reference: 22.0 });
    let off = (raw.at(300.0).unwrap() / z(300.0) - 1.0).norm();
    assert!(off > 0.02, "without calibration leads and inputs are in it: {off}");
}

#[test]
fn a_rattle_is_found_where_it_is_set_off() {
    let sweep = LogSweep { from_hz: 10.0, to_hz: 500.0, seconds: 8.0, ..LogSweep::default() };
    let bench = Bench { noise_dbfs: -90.0, ..QUIET };
    let take = |rattle: Option<Rattle>| {
        let input = Input { rattle, ..Input::hearing(gain(system)) };
        let recording = record(&sweep.played(), sweep.rate_hz, &bench, &[input]);
        buzzes(&recording.channels[0], &sweep, sweep.silence_s + bench.latency_ms * 1e-3)
    };
    assert!(take(None).is_empty(), "{:?}", take(None));
    let found = take(Some(Rattle { at: 62.0, loud: 0.01 }));
    assert_eq!(found.len(), 1, "{found:?}");
    assert!(found[0].from_hz < 62.0 && found[0].to_hz > 62.0 && found[0].to_hz / found[0].from_hz < 1.6, "{found:?}");
    assert!(found[0].out_db > 15.0);
}
