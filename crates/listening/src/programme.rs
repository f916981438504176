//! What is played: made by the program, nothing sampled.

use schemars::JsonSchema;
use serde::Serialize;
use std::f64::consts::{PI, TAU};

/// A piece of the programme.
#[derive(Clone, Debug, Serialize, JsonSchema)]
#[schemars(title = "Piece of the programme")]
pub struct PieceInfo {
    /// Stable name.
    pub id: &'static str,
    /// What it is called.
    pub title: &'static str,
    /// What it shows.
    pub shows: &'static str,
    /// How long it is, s; it goes on where it began.
    pub seconds: f64,
    /// Where most of it lies, Hz.
    pub band_hz: [f64; 2],
    #[serde(skip)]
    #[schemars(skip)]
    made: fn(f64) -> Vec<f64>,
}

/// What ships.
pub const PIECES: [PieceInfo; 8] = [
    PieceInfo {
        id: "walk",
        title: "Walking line",
        shows: "note by note evenness: does one note stick out?",
        seconds: 8.0,
        band_hz: [41.0, 200.0],
        made: walk,
    },
    PieceInfo {
        id: "drum",
        title: "Drum and rest",
        shows: "how fast it stops: listen into the gaps",
        seconds: 6.0,
        band_hz: [45.0, 150.0],
        made: drum,
    },
    PieceInfo {
        id: "pedal",
        title: "Pedal notes",
        shows: "depth: long notes down to 27.5 Hz",
        seconds: 12.0,
        band_hz: [27.5, 110.0],
        made: pedal,
    },
    PieceInfo {
        id: "slide",
        title: "Slide",
        shows: "holes and humps: from 110 Hz down to 25 Hz and up again",
        seconds: 10.0,
        band_hz: [25.0, 110.0],
        made: slide,
    },
    PieceInfo {
        id: "rumble",
        title: "Rumble",
        shows: "weight without a note, as in films",
        seconds: 8.0,
        band_hz: [20.0, 60.0],
        made: rumble,
    },
    PieceInfo {
        id: "pulse",
        title: "Pulse bass",
        shows: "tightness at speed: short notes, four a second",
        seconds: 6.0,
        band_hz: [49.0, 250.0],
        made: pulse,
    },
    PieceInfo {
        id: "noise",
        title: "Band of noise",
        shows: "tone colour, and the level match",
        seconds: 8.0,
        band_hz: [30.0, 120.0],
        made: noise,
    },
    PieceInfo {
        id: "tone",
        title: "Steady tone",
        shows: "one frequency, 40 Hz, to match levels by ear",
        seconds: 2.0,
        band_hz: [40.0, 40.0],
        made: tone,
    },
];

/// Peak of every piece, of full scale.
const PEAK: f64 = 0.7;

impl PieceInfo {
    /// Samples, peak 0.7 of full scale, at so many a second.
    pub fn samples(&self, rate_hz: f64) -> Vec<f64> {
        let mut made = (self.made)(rate_hz);
        let mean = made.iter().sum::<f64>() / made.len() as f64;
        made.iter_mut().for_each(|v| *v -= mean);
        let peak = made.iter().fold(0.0f64, |m, v| m.max(v.abs()));
        made.iter_mut().for_each(|v| *v *= PEAK / peak);
        made
    }
}

/// The piece of a name.
pub fn piece(id: &str) -> Option<&'static PieceInfo> {
    PIECES.iter().find(|p| p.id == id)
}

/// A function of time over so many seconds.
fn over(seconds: f64, rate_hz: f64, at: impl FnMut(f64) -> f64) -> Vec<f64> {
    let count = (seconds * rate_hz).round() as usize;
    (0..count).map(|i| i as f64 / rate_hz).map(at).collect()
}

/// A smooth step over `width` seconds.
fn rise(t: f64, width: f64) -> f64 {
    0.5 - 0.5 * (PI * (t / width).clamp(0.0, 1.0)).cos()
}

/// A plucked note: partials that die away, the high ones first.
fn plucked(t: f64, hz: f64, lasts: f64) -> f64 {
    if !(0.0..lasts).contains(&t) {
        return 0.0;
    }
    let partials = (1..=5).map(|n| {
        let nf = f64::from(n);
        (TAU * hz * nf * t).sin() * (-t * (1.5 + 1.8 * nf)).exp() / nf.powf(1.3)
    });
    rise(t, 0.012) * (1.0 - rise(t - lasts + 0.04, 0.04)) * partials.sum::<f64>()
}

/// Frequency of a note so many semitones above A at 27.5 Hz.
fn note(semitones: f64) -> f64 {
    27.5 * 2f64.powf(semitones / 12.0)
}

fn walk(rate: f64) -> Vec<f64> {
    // E1 upwards and back: every note of an octave's chords
    let line = [7.0, 11.0, 14.0, 16.0, 19.0, 16.0, 14.0, 11.0, 12.0, 16.0, 19.0, 21.0, 24.0, 21.0, 19.0, 10.0];
    over(8.0, rate, |t| {
        let i = (t / 0.5) as usize;
        plucked(t - i as f64 * 0.5, note(line[i.min(15)]), 0.48)
    })
}

fn drum(rate: f64) -> Vec<f64> {
    over(6.0, rate, |t| {
        let t = t % 1.5;
        // falls from 110 to 48 Hz: the phase is the integral of that
        let phase = 48.0 * t + 62.0 * 0.03 * (1.0 - (-t / 0.03).exp());
        (TAU * phase).sin() * (-t / 0.09).exp() * rise(t, 0.002)
    })
}

fn pedal(rate: f64) -> Vec<f64> {
    let line = [12.0, 7.0, 3.0, 0.0];
    over(12.0, rate, |t| {
        let i = ((t / 3.0) as usize).min(3);
        let (s, hz) = (t - i as f64 * 3.0, note(line[i]));
        let sound = (TAU * hz * s).sin() + 0.35 * (TAU * 2.0 * hz * s).sin() + 0.12 * (TAU * 3.0 * hz * s).sin();
        rise(s, 0.15) * (1.0 - rise(s - 2.75, 0.25)) * sound
    })
}

fn slide(rate: f64) -> Vec<f64> {
    let ratio = (110.0f64 / 25.0).ln();
    // down in five seconds and up in five, exponentially
    let down = |t: f64| 110.0 * 5.0 / ratio * (1.0 - (-ratio * t / 5.0).exp());
    let whole = down(5.0);
    over(10.0, rate, |t| {
        let phase = if t < 5.0 { down(t) } else { 2.0 * whole - down(10.0 - t) };
        (TAU * phase).sin() * rise(t, 0.05) * (1.0 - rise(t - 9.95, 0.05))
    })
}

/// Sines at every whole number of turns of a band, with phases from a seed and amplitudes that make it pink: periodic, so that its level
/// is steady. All of them at once, by an inverse Fourier transform.
fn band(rate: f64, seconds: f64, from: f64, to: f64, slope: f64, seed: u64) -> Vec<f64> {
    let mut dice = fastrand::Rng::with_seed(seed);
    let (low, high) = ((from * seconds).ceil() as usize, (to * seconds).floor() as usize);
    let transform = realfft::RealFftPlanner::<f64>::new().plan_fft_inverse((seconds * rate).round() as usize);
    let (mut spectrum, mut made) = (transform.make_input_vec(), transform.make_output_vec());
    for (i, line) in spectrum.iter_mut().enumerate().take(high + 1).skip(low) {
        let size = (i as f64 / seconds / from).powf(-slope);
        *line = num_complex::Complex::from_polar(size, dice.f64() * TAU);
    }
    // lengths are its own: it cannot fail
    let _ = transform.process(&mut spectrum, &mut made);
    made
}

fn rumble(rate: f64) -> Vec<f64> {
    let mut made = band(rate, 8.0, 20.0, 60.0, 1.0, 7);
    for (i, v) in made.iter_mut().enumerate() {
        let t = i as f64 / rate;
        *v *= 0.35 + 0.65 * (0.5 - 0.5 * (TAU * t / 4.0).cos()).powi(2);
    }
    made
}

fn pulse(rate: f64) -> Vec<f64> {
    let line = [10.0, 10.0, 13.0, 10.0, 17.0, 10.0, 15.0, 13.0];
    over(6.0, rate, |t| {
        let i = (t / 0.25) as usize;
        let (s, hz) = (t - i as f64 * 0.25, note(line[i % 8]));
        let sound: f64 = (1..=6).map(|n| (TAU * hz * f64::from(n) * s).sin() / f64::from(n)).sum();
        sound * rise(s, 0.004) * (1.0 - rise(s - 0.12, 0.02))
    })
}

fn noise(rate: f64) -> Vec<f64> {
    band(rate, 8.0, 30.0, 120.0, 0.5, 3)
}

fn tone(rate: f64) -> Vec<f64> {
    over(2.0, rate, |t| (TAU * 40.0 * t).sin())
}
