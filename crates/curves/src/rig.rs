//! A simulated bench: a sound card, a microphone, an amplifier and an impedance jig that play and record samples.
//!
//! What is connected to it is told as a gain over frequency; everything else a real recording has is added here: latency, noise, hum,
//! distortion, a buzz, rounding. What comes out is a recording like any other and goes the same way.

use crate::curve::Curve;
use crate::formats::wav::Recording;
use crate::sweep::transform::{backward, fast_length, forward};
use num_complex::Complex64;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// The bench.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Bench")]
pub struct Bench {
    /// The same seed makes the same noise.
    #[schemars(title = "Seed", range(min = 0, max = 4294967295u32))]
    pub seed: u32,
    /// Noise of the inputs, dB re full scale.
    #[schemars(title = "Noise", range(min = -140.0, max = -10.0), extend("x-unit" = "dB"))]
    pub noise_dbfs: f64,
    /// Hum of the mains at its first frequency, dB re full scale; two harmonics lie 6 and 12 dB below.
    #[schemars(title = "Hum", range(min = -140.0, max = -10.0), extend("x-unit" = "dB"))]
    pub hum_dbfs: f64,
    /// Frequency of the mains.
    #[schemars(title = "Mains", range(min = 16.0, max = 60.0), extend("x-unit" = "Hz"))]
    pub mains_hz: f64,
    /// Time from output to input.
    #[schemars(title = "Latency", range(min = 0.0, max = 500.0), extend("x-unit" = "ms"))]
    pub latency_ms: f64,
}

impl Default for Bench {
    fn default() -> Self {
        Bench { seed: 1, noise_dbfs: -80.0, hum_dbfs: -85.0, mains_hz: 50.0, latency_ms: 12.0 }
    }
}

/// A thing that rattles where it is shaken.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Rattle {
    /// Where it is set off, Hz.
    pub at: f64,
    /// How loud it is at most, as a share of full scale.
    pub loud: f64,
}

/// One input of the sound card.
#[derive(Clone, Debug)]
pub struct Input {
    /// Gain from what is played to full scale, over frequency; its ends are held.
    pub gain: Curve,
    /// y = x + a·x² + b·x³ before that gain, x at full scale 1.
    pub bent: (f64, f64),
    /// A rattle.
    pub rattle: Option<Rattle>,
    /// Whether noise and hum come in here.
    pub noisy: bool,
}

impl Input {
    /// An input that hears a gain, and noise.
    pub fn hearing(gain: Curve) -> Input {
        Input { gain, bent: (0.0, 0.0), rattle: None, noisy: true }
    }

    /// A wire from the output, of a gain.
    pub fn loopback(gain: f64) -> Input {
        let gain =
            Curve { frequency: vec![1.0, 24_000.0], value: vec![gain.into(); 2], has_phase: true, ..Curve::default() };
        Input { noisy: false, ..Input::hearing(gain) }
    }
}

/// Plays a signal and records the inputs, one channel each, for as long as the signal takes.
pub fn record(played: &[f64], rate: f64, bench: &Bench, inputs: &[Input]) -> Recording {
    let mut random = fastrand::Rng::with_seed(u64::from(bench.seed));
    let channels = inputs.iter().map(|input| channel(played, rate, bench, input, &mut random)).collect();
    Recording { rate, channels }
}

fn channel(played: &[f64], rate: f64, bench: &Bench, input: &Input, random: &mut fastrand::Rng) -> Vec<f64> {
    let (a, b) = input.bent;
    let bent: Vec<f64> = played.iter().map(|x| x + a * x * x + b * x * x * x).collect();
    let latency = (bench.latency_ms * 1e-3 * rate).round();
    let mut heard = through(&bent, rate, latency, |walk, f| walk.at(&input.gain, f));
    if let Some(rattle) = input.rattle {
        // shaken where a resonance lies, heard as noise while it is shaken hard
        let q = 6.0;
        let shaken = through(played, rate, latency, |_, f| {
            let x = f / rattle.at;
            1.0 / Complex64::new(1.0, q * (x - 1.0 / x.max(1e-9)))
        });
        let top = played.iter().fold(0.0, |m: f64, x| m.max(x.abs()));
        let mut last = 0.0;
        for (y, s) in heard.iter_mut().zip(&shaken) {
            let noise = random.f64() - 0.5;
            let high = noise - last;
            last = noise;
            *y += rattle.loud * high * (s.abs() / top.max(1e-9) - 0.6).max(0.0) * 2.5;
        }
    }
    if input.noisy {
        let (noise, hum) = (10f64.powf(bench.noise_dbfs / 20.0), 10f64.powf(bench.hum_dbfs / 20.0));
        let phase = random.f64() * TAU;
        for (i, y) in heard.iter_mut().enumerate() {
            let t = i as f64 / rate;
            let mains = |n: f64| (TAU * bench.mains_hz * n * t + phase * n).sin();
            *y += noise * gauss(random) + hum * (mains(1.0) + 0.5 * mains(2.0) + 0.25 * mains(3.0));
        }
    }
    // an input does not go beyond full scale
    heard.iter_mut().for_each(|y| *y = y.clamp(-1.0, 1.0));
    heard
}

/// A normally distributed number (Box & Muller 1958).
fn gauss(random: &mut fastrand::Rng) -> f64 {
    (-2.0 * (1.0 - random.f64()).ln()).sqrt() * (TAU * random.f64()).cos()
}

/// Walks along a curve by rising frequency.
struct Walk(usize);

impl Walk {
    /// The value at a frequency, straight between points, held at the ends.
    fn at(&mut self, curve: &Curve, frequency: f64) -> Complex64 {
        let list = &curve.frequency;
        while self.0 + 2 < list.len() && list[self.0 + 1] < frequency {
            self.0 += 1;
        }
        let (lo, hi) = (list[self.0], list[self.0 + 1]);
        let share = ((frequency - lo) / (hi - lo)).clamp(0.0, 1.0);
        curve.value[self.0] * (1.0 - share) + curve.value[self.0 + 1] * share
    }
}

/// A signal through a gain over frequency, so many samples late, as long as it was.
fn through(signal: &[f64], rate: f64, late: f64, mut gain: impl FnMut(&mut Walk, f64) -> Complex64) -> Vec<f64> {
    // room to ring out, so that the end does not come round to the beginning
    let length = fast_length(signal.len() + (2.0 * rate) as usize);
    let mut spectrum = forward(signal, length);
    let mut walk = Walk(0);
    let step = rate / length as f64;
    for (i, slot) in spectrum.iter_mut().enumerate() {
        let f = i as f64 * step;
        *slot *= gain(&mut walk, f) * Complex64::from_polar(1.0, -TAU * i as f64 * late / length as f64);
    }
    let mut out = backward(&mut spectrum, length);
    out.truncate(signal.len());
    out
}

/// The impedance jig: a reference resistor in line, two inputs, leads.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Impedance jig")]
pub struct Jig {
    /// The resistor in line.
    #[schemars(title = "Reference resistor", range(min = 0.1, max = 10000.0), extend("x-unit" = "ohm"))]
    pub reference_ohm: f64,
    /// Resistance of the leads to the woofer.
    #[schemars(title = "Leads", range(min = 0.0, max = 10.0), extend("x-unit" = "ohm"))]
    pub leads_ohm: f64,
    /// Input resistance of the sound card.
    #[schemars(title = "Input resistance", range(min = 100.0, max = 10000000.0), extend("x-unit" = "ohm"))]
    pub input_ohm: f64,
    /// Gain of the second input over that of the first.
    #[schemars(title = "Unequal inputs", range(min = 0.5, max = 2.0))]
    pub unequal: f64,
}

impl Default for Jig {
    fn default() -> Self {
        Jig { reference_ohm: 22.0, leads_ohm: 0.15, input_ohm: 10_000.0, unequal: 1.01 }
    }
}

/// What is connected to the jig.
#[derive(Clone, Debug)]
pub enum Load<'a> {
    /// Nothing.
    Open,
    /// The clips on one another.
    Short,
    /// A resistor, Ω.
    Resistor(f64),
    /// An impedance over frequency.
    Impedance(&'a Curve),
}

impl Jig {
    /// The two inputs of the jig with a load, what is played being full scale on the first at 6 dB below.
    pub fn inputs(&self, load: &Load) -> [Input; 2] {
        let plain = [1.0, 24_000.0];
        let frequency: Vec<f64> = match load {
            Load::Impedance(curve) => curve.frequency.clone(),
            _ => plain.to_vec(),
        };
        let value = |i: usize| {
            let z: Complex64 = match load {
                Load::Open => 1e12.into(),
                Load::Short => 0.0.into(),
                Load::Resistor(ohm) => (*ohm).into(),
                Load::Impedance(curve) => curve.value[i],
            };
            let there = z + self.leads_ohm;
            let seen = there * self.input_ohm / (there + self.input_ohm);
            0.5 * self.unequal * seen / (seen + self.reference_ohm)
        };
        let curve =
            |value: Vec<Complex64>| Curve { frequency: frequency.clone(), value, has_phase: true, ..Curve::default() };
        let first = curve(vec![0.5.into(); frequency.len()]);
        let second = curve((0..frequency.len()).map(value).collect());
        [Input::hearing(first), Input::hearing(second)]
    }
}
