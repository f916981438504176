//! Speed of reading, taking apart and fitting, each beside something it is held against in the same run.

use criterion::{Criterion, criterion_group, criterion_main};
use num_complex::Complex64;
use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_curves::curve::{Curve, Measurand};
use oak_drum_curves::fit::woofer::{CoilLaw, Given, fit_woofer};
use oak_drum_curves::formats::text;
use oak_drum_curves::process::phase::{ends_of, minimum_phase};
use oak_drum_curves::process::smoothing::smoothed;
use oak_drum_curves::rig::{Bench, Input, record};
use oak_drum_curves::sweep::analyse::{analyse, deconvolved};
use oak_drum_curves::sweep::log_sweep::LogSweep;
use oak_drum_curves::sweep::transform::forward;
use std::fmt::Write;
use std::hint::black_box;

/// A million points in, beside the parsing of their numbers alone.
fn reading(c: &mut Criterion) {
    let mut file = String::new();
    for i in 0..1_000_000u32 {
        let f = 1.0 + f64::from(i) * 0.02;
        let _ = writeln!(file, "{f:.3}\t{:.3}\t{:.2}", 80.0 + f64::from(i % 100) * 0.01, f64::from(i % 360) - 180.0);
    }
    let mut group = c.benchmark_group("a million points");
    group.sample_size(10);
    group.bench_function("read", |b| b.iter(|| text::read(black_box(file.as_bytes()), None).unwrap().curve.len()));
    group.bench_function("numbers alone", |b| {
        b.iter(|| black_box(&file).split_ascii_whitespace().map(|x| x.parse::<f64>().unwrap()).sum::<f64>());
    });
    group.finish();
}

/// 2^20 samples taken apart, beside one transform of that length.
fn sweeps(c: &mut Criterion) {
    let sweep = LogSweep { seconds: 9.0, to_hz: 2000.0, tail_s: 2.0, ..LogSweep::default() };
    let gain = Curve {
        frequency: vec![1.0, 24_000.0],
        value: vec![Complex64::new(0.5, 0.0); 2],
        has_phase: true,
        ..Curve::default()
    };
    let mut recording = record(&sweep.played(), sweep.rate_hz, &Bench::default(), &[Input::hearing(gain)]);
    recording.channels[0].resize((1 << 20) - sweep.samples(), 0.0);
    let reference = sweep.signal();
    let mut group = c.benchmark_group("2^20 samples");
    group.sample_size(10);
    group.bench_function("one transform", |b| b.iter(|| forward(black_box(&recording.channels[0]), 1 << 20)));
    group.bench_function("deconvolved", |b| {
        b.iter(|| deconvolved(black_box(&recording.channels[0]), &reference, &sweep));
    });
    group.bench_function("with curve, noise and harmonics", |b| {
        b.iter(|| analyse(&sweep, black_box(&recording), 0, None).unwrap().curve.len());
    });
    group.finish();
}

/// A complex curve of 400 points fitted by each law of the coil and by all three.
fn fits(c: &mut Criterion) {
    let mut random = fastrand::Rng::with_seed(1);
    let frequency = log_frequencies(5.0, 2000.0, 400);
    let value = frequency
        .iter()
        .map(|f| {
            let x = Complex64::new(0.0, f / 30.0);
            let z = Complex64::new(5.6, std::f64::consts::TAU * f * 1e-3) + 14.0 / (x + 0.2 + 1.0 / x);
            z * (1.0 + 0.005 * Complex64::new(random.f64() - 0.5, random.f64() - 0.5))
        })
        .collect();
    let free = Curve { quantity: Measurand::Impedance, frequency, value, has_phase: true, ..Curve::default() };
    let given = Given {
        free: &free,
        mass: None,
        boxed: None,
        sd: Some((0.053, 0.0)),
        re: None,
        air: Air::at(20.0, 101_325.0),
        law: None,
    };
    let mut group = c.benchmark_group("400 complex points");
    for (name, law) in [("plain", Some(CoilLaw::Plain)), ("semi", Some(CoilLaw::Semi)), ("all laws", None)] {
        group.bench_function(name, |b| b.iter(|| fit_woofer(black_box(&Given { law, ..given.clone() })).unwrap().rms));
    }
    group.bench_function("smoothed", |b| b.iter(|| smoothed(black_box(&free), 6)));
    group.bench_function("minimum phase", |b| b.iter(|| minimum_phase(black_box(&free), ends_of(&free))));
    group.finish();
}

criterion_group!(benches, reading, sweeps, fits);
criterion_main!(benches);
