//! The simulated bench with a hidden cabinet on it: it plays a sweep and gives back what a sound card would have recorded.

use crate::analysis::Analysis;
use crate::prove::hidden::Flaw;
use crate::prove::predicted::{applies, face, predicted};
use num_complex::Complex64;
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_curves::about::{About, Taken};
use oak_drum_curves::curve::{Curve, Measurand};
use oak_drum_curves::formats::wav::Recording;
use oak_drum_curves::jig::{Means, impedance};
use oak_drum_curves::measurement::{Measurement, Source};
use oak_drum_curves::process::near_field::radius;
use oak_drum_curves::process::recipe::Data;
use oak_drum_curves::recorded;
use oak_drum_curves::rig::{Bench, Input, Jig, Load, Rattle, record};
use oak_drum_curves::sweep::analyse::{Analysed, Harmonic, Unheard};
use oak_drum_curves::sweep::buzz::Buzz;
use oak_drum_curves::sweep::impulse::Impulse;
use oak_drum_curves::sweep::log_sweep::LogSweep;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// Points the bench knows the cabinet at.
const POINTS: usize = 3000;
/// Peak the microphone's input is set to, of full scale.
const SET_TO: f64 = 0.4;
/// Distance between cone and port, through which one leaks into the other's near field, m (an estimate).
const APART: f64 = 0.35;

/// A measurement on the bench.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Bench measurement")]
pub struct BenchWish {
    /// Where the microphone or the jig is.
    #[schemars(title = "Taken")]
    pub taken: Taken,
    /// The sweep.
    #[schemars(title = "Sweep")]
    pub sweep: LogSweep,
    /// The bench.
    #[schemars(title = "Bench")]
    pub bench: Bench,
    /// The jig, for impedances.
    #[schemars(title = "Impedance jig")]
    pub jig: Jig,
    /// Volts rms at the terminals at the sweep's amplitude; a small signal if absent.
    #[schemars(title = "Drive", range(min = 0.01, max = 100.0), extend("x-unit" = "V"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub volts: Option<f64>,
    /// Whether the room is heard; of a microphone away from the box.
    #[schemars(title = "In a room")]
    pub room: bool,
}

/// What the bench recorded.
#[derive(Clone, Debug)]
pub struct Recorded {
    /// The recording: the microphone and the loopback, or the two inputs of the jig.
    pub recording: Recording,
    /// Pa (or Ω by the jig) that the ratio of the two channels means.
    pub pascal: f64,
    /// Volts it was taken at.
    pub volts: f64,
}

/// A curve from a recording of the bench.
#[derive(Clone, Debug)]
pub struct Taking {
    /// The curve, in Pa at the stated volts, or in Ω.
    pub curve: Curve,
    /// The impulse response behind it; none of an impedance.
    pub impulse: Option<Impulse>,
    /// Distortion by order.
    pub harmonics: Vec<Harmonic>,
    /// What buzzes.
    pub buzzes: Vec<Buzz>,
    /// Peak of the recording, dB of full scale.
    pub peak_dbfs: f64,
    /// Volts it was taken at.
    pub volts: f64,
}

/// Why the bench records nothing.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
pub enum Idle {
    /// The cabinet has no such thing.
    #[error("this build has nothing that is measured so")]
    Nothing,
    /// The sweep cannot be.
    #[error("{1}")]
    Sweep(&'static str, String),
    /// The recording holds nothing.
    #[error(transparent)]
    Unheard(#[from] Unheard),
}

/// Plays the sweep to a cabinet (its flaws already in the analysis, for those that are not the cabinet's the list) and records.
///
/// # Errors
/// [`Idle`] where the cabinet has nothing of the kind, or the sweep is impossible.
pub fn play(cabinet: &Analysis, flaws: &[Flaw], wish: &BenchWish) -> Result<Recorded, Idle> {
    if let Some((field, what)) = wish.sweep.problem() {
        return Err(Idle::Sweep(field, what));
    }
    if !applies(cabinet, &wish.taken) {
        return Err(Idle::Nothing);
    }
    let frequencies = log_frequencies(1.0, wish.sweep.rate_hz / 2.0, POINTS);
    let said = predicted(cabinet, &wish.taken, false, &frequencies).ok_or(Idle::Nothing)?;
    let played = wish.sweep.played();
    let rate = wish.sweep.rate_hz;
    if said.quantity == Measurand::Impedance {
        let inputs = wish.jig.inputs(&Load::Impedance(&said));
        let recording = record(&played, rate, &wish.bench, &inputs);
        return Ok(Recorded { recording, pascal: 1.0, volts: wish.volts.unwrap_or(0.5) });
    }
    // the amplifier gives these volts when the sweep has its amplitude
    let volts = wish.volts.unwrap_or(1.0);
    let heard = said.mapped(|f, v| v * volts / cabinet.context.source.volts * surroundings(cabinet, wish, f, v));
    let sagging = flaws.iter().find_map(|f| match f {
        Flaw::Microphone { at_hz } => Some(*at_hz),
        _ => None,
    });
    let microphone = |f: f64| match sagging {
        Some(corner) => {
            let s = Complex64::new(0.0, f / corner);
            s / (1.0 + s)
        }
        None => Complex64::new(1.0, 0.0),
    };
    // the input is turned up until the loudest part of the sweep stands where one sets it
    let from = wish.sweep.from_hz;
    let band = heard.between(from, wish.sweep.to_hz);
    let top = band.value.iter().map(|v| v.norm()).fold(1e-12, f64::max);
    let pascal = top * wish.sweep.amplitude / SET_TO;
    let gain = heard.mapped(|f, v| v * microphone(f) / pascal);
    let rattle = flaws.iter().find_map(|f| match f {
        Flaw::Buzz { at_hz } => Some(Rattle { at: *at_hz, loud: 0.012 }),
        _ => None,
    });
    let bent = distortion(volts);
    let inputs = [Input { gain, bent, rattle, noisy: true }, Input::loopback(0.8)];
    let recording = record(&played, rate, &wish.bench, &inputs);
    // ratio of microphone to loopback, times this, is Pa at these volts
    Ok(Recorded { recording, pascal: pascal * 0.8, volts })
}

/// What reaches the microphone besides: a near field hears the other opening too, a microphone away from the box hears a room.
fn surroundings(cabinet: &Analysis, wish: &BenchWish, frequency: f64, here: Complex64) -> Complex64 {
    let air = &cabinet.conditions.air;
    let k = TAU * frequency / air.c;
    match wish.taken {
        Taken::InFront { distance_m } if wish.room => reflections(k, distance_m),
        Taken::AtSeat {} if wish.room => reflections(k, cabinet.conditions.distance),
        Taken::NearCone {} | Taken::NearPort {} | Taken::NearRadiator {} => {
            // the whole of the box, as it is heard a little way off
            let Some(face) = face(cabinet, &wish.taken) else { return 1.0.into() };
            let own = 0.5 * radius(face.area) / APART;
            let one = cabinet.at(frequency.clamp(2.0, 2000.0));
            let sum = one.sum.first().copied().unwrap_or_default() * cabinet.conditions.distance / APART;
            if here.norm() > 0.0 && sum.is_finite() { 1.0 + sum / here * 0.25 - own * 0.25 } else { 1.0.into() }
        }
        _ => 1.0.into(),
    }
}

/// A room about the microphone: the nearest mirror images of a small room of 4.6 m by 3.7 m by 2.5 m with hard walls (image sources;
/// Allen & Berkley 1979). A stand-in, not the builder's room.
fn reflections(k: f64, distance: f64) -> Complex64 {
    let (room, source) = ([4.6, 3.7, 2.5], [0.7, 1.1, 0.4]);
    let seat = [source[0] + distance.min(3.4), 1.9, 1.1];
    let reflect = 0.75f64;
    let straight = (0..3).map(|i| (seat[i] - source[i]).powi(2)).sum::<f64>().sqrt();
    let mut sum = Complex64::default();
    let order = 3;
    for x in -order..=order {
        for y in -order..=order {
            for z in -order..=order {
                let n = [x, y, z];
                let bounces: i32 = n.iter().map(|v: &i32| v.abs()).sum();
                if bounces > order {
                    continue;
                }
                let image = |i: usize| {
                    let whole = f64::from(n[i]);
                    if n[i] % 2 == 0 { whole * room[i] + source[i] } else { (whole + 1.0) * room[i] - source[i] }
                };
                let r = (0..3).map(|i| (seat[i] - image(i)).powi(2)).sum::<f64>().sqrt();
                sum += reflect.powi(bounces) * straight / r * Complex64::from_polar(1.0, -k * (r - straight));
            }
        }
    }
    sum
}

/// How a woofer bends at a drive: a few parts in a thousand at a volt, growing with it (an estimate, for practice).
fn distortion(volts: f64) -> (f64, f64) {
    let x = (volts / 10.0).min(3.0);
    (0.01 + 0.03 * x, 0.01 + 0.05 * x)
}

/// A recording of the bench taken apart, the same way as any recording: by its loopback, or by the jig's first input.
///
/// # Errors
/// [`Idle::Unheard`] where it holds no measurement.
pub fn taken_apart(recorded: &Recorded, wish: &BenchWish, calibration: Option<&[Curve; 3]>) -> Result<Taking, Idle> {
    let jig = wish.taken.is_impedance();
    let (heard, other) = if jig { (1, 0) } else { (0, 1) };
    let recorded::TakenApart { found, buzzes } =
        recorded::taken_apart(&wish.sweep, &recorded.recording, heard, Some(other))?;
    let Analysed { impulse, curve, harmonics, peak_dbfs } = found;
    let ratio = curve.mapped(|_, v| v / oak_drum_acoustics::level::P_REF);
    let volts = recorded.volts;
    if jig {
        let means = match calibration {
            Some([open, short, known]) => Means::Calibrated { open, short, known, ohm: KNOWN_OHM },
            None => Means::Simple { reference: wish.jig.reference_ohm },
        };
        let curve = impedance(&ratio, &means);
        return Ok(Taking { curve, impulse: None, harmonics, buzzes: Vec::new(), peak_dbfs, volts });
    }
    let pascal = recorded.pascal;
    let samples = impulse.samples.iter().map(|x| x * pascal).collect();
    Ok(Taking {
        curve: Curve { snr_db: curve.snr_db.clone(), ..ratio.mapped(|_, v| v * pascal) },
        impulse: Some(Impulse { samples, ..impulse }),
        harmonics,
        buzzes,
        peak_dbfs,
        volts,
    })
}

/// A cabinet measured on the bench from the first sample to what a build keeps: the measurement and its untouched data.
///
/// # Errors
/// [`Idle`] where the cabinet has nothing of the kind, the sweep is impossible, or the recording holds nothing.
pub fn measured(
    cabinet: &Analysis,
    flaws: &[Flaw],
    wish: &BenchWish,
    name: String,
    source: Source,
) -> Result<(Measurement, Data), Idle> {
    let loads = if wish.taken.is_impedance() { Some(calibration(wish)?) } else { None };
    measured_by(cabinet, flaws, wish, loads.as_ref(), name, source)
}

/// The same with a jig that was calibrated before, by the same sweep.
///
/// # Errors
/// As [`measured`].
pub fn measured_by(
    cabinet: &Analysis,
    flaws: &[Flaw],
    wish: &BenchWish,
    loads: Option<&[Curve; 3]>,
    name: String,
    source: Source,
) -> Result<(Measurement, Data), Idle> {
    let recorded = play(cabinet, flaws, wish)?;
    let taking = taken_apart(&recorded, wish, loads)?;
    let about = About {
        name,
        taken: wish.taken,
        absolute: !wish.taken.is_impedance(),
        with: "simulated bench".into(),
        volts: Some(taking.volts),
        ..About::default()
    };
    let made = recorded::measurement(about, source, taking.harmonics, taking.buzzes, taking.peak_dbfs);
    let data = match taking.impulse {
        Some(impulse) => Data::Impulse(impulse),
        None => Data::Points(taking.curve),
    };
    Ok((made, data))
}

/// The known resistor the bench calibrates its jig with, Ω.
pub const KNOWN_OHM: f64 = 10.0;

/// Ratios of the jig with nothing connected, with the clips joined, and with the known resistor.
///
/// # Errors
/// [`Idle`] where the sweep is impossible.
pub fn calibration(wish: &BenchWish) -> Result<[Curve; 3], Idle> {
    if let Some((field, what)) = wish.sweep.problem() {
        return Err(Idle::Sweep(field, what));
    }
    let played = wish.sweep.played();
    let take = |load: &Load, seed: u32| -> Result<Curve, Idle> {
        let bench = Bench { seed: wish.bench.seed.wrapping_add(seed), ..wish.bench };
        // clips joined still have a little resistance between them
        let recording = record(&played, wish.sweep.rate_hz, &bench, &wish.jig.inputs(load));
        let taken = recorded::taken_apart(&wish.sweep, &recording, 1, Some(0)).map_err(Idle::Unheard)?;
        Ok(taken.found.curve.mapped(|_, v| v / oak_drum_acoustics::level::P_REF))
    };
    Ok([take(&Load::Open, 101)?, take(&Load::Short, 102)?, take(&Load::Resistor(KNOWN_OHM), 103)?])
}

/// The volts (rms) at which a sweep stays within half of what the cone may move and a tenth of what the coil may heat, and what sets it: a safe
/// level to begin with.
pub fn safe_volts(cabinet: &Analysis, from: f64, to: f64) -> (f64, &'static str) {
    let frequencies = log_frequencies(from.max(2.0), to, 120);
    let curves =
        oak_drum_acoustics::outputs::Sweep::new(&cabinet.wired.network, cabinet.conditions).curves(&frequencies);
    let drive = cabinet.context.source.volts;
    let mut best = (5.0, "five volts are enough for any measurement");
    if let Some(limit) = cabinet.conditions.limits.excursion {
        let most =
            curves.excursion.iter().zip(&curves.emf).map(|(x, e)| x / e.norm().max(1e-12) * drive).fold(0.0, f64::max)
                / drive;
        if most > 0.0 && 0.5 * limit / most < best.0 {
            best = (0.5 * limit / most, "half of the cone's excursion");
        }
    }
    if let Some(watts) = cabinet.conditions.limits.heat {
        let volts = (0.1 * watts * cabinet.context.array.resistance()).sqrt();
        if volts < best.0 {
            best = (volts, "a tenth of the rated power");
        }
    }
    best
}
