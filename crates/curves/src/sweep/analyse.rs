//! What was recorded while a sweep was played, taken apart: impulse response, distortion by order, noise.
//!
//! H = Y·X*/(|X|² + ε) over spectra padded so that nothing wraps; ε is small inside the sweep's band and large outside it. X is the
//! sweep as it was sent, or the loopback channel of the same record. The n-th harmonic's response lies L·ln n earlier.

use crate::curve::{Curve, Measurand};
use crate::formats::wav::Recording;
use crate::sweep::impulse::{Impulse, response};
use crate::sweep::log_sweep::LogSweep;
use crate::sweep::transform::{backward, fast_length, forward};
use num_complex::Complex64;
use oak_drum_acoustics::level::P_REF;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::PI;

/// Highest order of distortion that is told.
pub const ORDERS: u32 = 5;
/// Loudest a recording may be: nearer to full scale it is taken for clipped, dB.
pub const LOUDEST_DBFS: f64 = -1.0;
/// Quietest it may be, dB re full scale.
pub const QUIETEST_DBFS: f64 = -60.0;
/// Share of a record's energy that has to lie in the impulse response for the sweep to be in it.
const TOGETHER: f64 = 0.7;
/// Longest part of an impulse response that is kept, s.
const KEPT: f64 = 1.2;
/// What is kept before the first arrival, as periods of the sweep's first frequency: the edge of the band rings to both sides.
const EARLY: f64 = 3.0;
/// Width of the steps from small to large ε below and above the band, as ratios: the wider, the less its edges ring; the narrower,
/// the less of what the sweep did not excite is made loud.
const SKIRTS: (f64, f64) = (1.5, 1.1);

/// A recording that holds no measurement.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
pub enum Unheard {
    /// Too loud.
    #[error("clipped: channel {channel} reaches {dbfs:.1} dB of full scale; turn it down and take it again")]
    Clipped {
        /// Which channel, from 1.
        channel: usize,
        /// Its peak, dB.
        dbfs: f64,
    },
    /// Too quiet.
    #[error("too quiet: channel {channel} does not exceed {dbfs:.0} dB of full scale; is everything connected?")]
    Quiet {
        /// Which channel, from 1.
        channel: usize,
        /// Its peak, dB.
        dbfs: f64,
    },
    /// Another rate.
    #[error("recorded at {recorded} samples a second, the sweep was made at {sweep}")]
    Rate {
        /// Of the recording.
        recorded: f64,
        /// Of the sweep.
        sweep: f64,
    },
    /// Shorter than the sweep.
    #[error("the recording is {recorded:.1} s long, the sweep alone {sweep:.1} s")]
    Short {
        /// Of the recording.
        recorded: f64,
        /// Of the sweep.
        sweep: f64,
    },
    /// A channel that is not there.
    #[error("there is no channel {0}")]
    NoChannel(usize),
    /// No sweep in it.
    #[error("the sweep is not found in the recording: what was played, and at which settings?")]
    NoSweep,
}

/// A recording, taken apart.
#[derive(Clone, Debug)]
pub struct Analysed {
    /// The linear response.
    pub impulse: Impulse,
    /// Its curve, with signal over noise.
    pub curve: Curve,
    /// Distortion by order, from the second: the curve's frequency is that of the tone that makes it, its value the share of the
    /// fundamental.
    pub harmonics: Vec<Harmonic>,
    /// Peak of the recording, dB of full scale.
    pub peak_dbfs: f64,
}

/// Distortion of one order.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Harmonic {
    /// 2 for the second.
    pub order: u32,
    /// Frequency of the tone, Hz.
    pub frequency_hz: Vec<f64>,
    /// Share of the fundamental, per cent.
    pub percent: Vec<f64>,
}

/// Takes a recorded channel (from 0) apart, by the sweep or by the loopback channel of the same record.
///
/// # Errors
/// [`Unheard`] where it was clipped, too quiet, or holds no sweep.
pub fn analyse(
    sweep: &LogSweep,
    recording: &Recording,
    channel: usize,
    loopback: Option<usize>,
) -> Result<Analysed, Unheard> {
    if recording.rate != sweep.rate_hz {
        return Err(Unheard::Rate { recorded: recording.rate, sweep: sweep.rate_hz });
    }
    if recording.seconds() < sweep.length() {
        return Err(Unheard::Short { recorded: recording.seconds(), sweep: sweep.length() });
    }
    let peak_dbfs = heard(recording, channel)?;
    if let Some(loopback) = loopback {
        heard(recording, loopback)?;
    }
    let recorded = &recording.channels[channel];
    let sent;
    let reference: &[f64] = match loopback {
        Some(channel) => &recording.channels[channel],
        None => {
            sent = [vec![0.0; sweep.silence_samples()], sweep.signal()].concat();
            &sent
        }
    };
    let whole = deconvolved(recorded, reference, sweep);
    take_apart(&whole, sweep, peak_dbfs)
}

/// Peak of a channel (from 0) in dB of full scale, where it is neither clipped nor too quiet.
///
/// # Errors
/// [`Unheard`] where it is, or is not there.
pub fn heard(recording: &Recording, channel: usize) -> Result<f64, Unheard> {
    if channel >= recording.channels.len() {
        return Err(Unheard::NoChannel(channel + 1));
    }
    let dbfs = 20.0 * recording.peak(channel).max(1e-12).log10();
    if dbfs > LOUDEST_DBFS {
        return Err(Unheard::Clipped { channel: channel + 1, dbfs });
    }
    if dbfs < QUIETEST_DBFS {
        return Err(Unheard::Quiet { channel: channel + 1, dbfs });
    }
    Ok(dbfs)
}

/// The circular impulse response, per second: time 0 first, what is early at the end.
pub fn deconvolved(recorded: &[f64], reference: &[f64], sweep: &LogSweep) -> Vec<f64> {
    let length = fast_length(recorded.len() + reference.len());
    let x = forward(reference, length);
    let mut y = forward(recorded, length);
    let step = sweep.rate_hz / length as f64;
    let inside = x.iter().enumerate().filter(|(i, _)| (sweep.from_hz..=sweep.to_hz).contains(&(*i as f64 * step)));
    let top = inside.map(|(_, v)| v.norm_sqr()).fold(1e-300, f64::max);
    for (i, (y, x)) in y.iter_mut().zip(&x).enumerate() {
        let f = i as f64 * step;
        let (below, above) = (sweep.from_hz / f.max(1e-9), f / sweep.to_hz);
        let outside = (below.ln() / SKIRTS.0.ln()).max(above.ln() / SKIRTS.1.ln());
        // from next to nothing inside to a hundredth of the sweep's power a quarter of the way down the skirt, and faded out over all
        // of it by a half-cosine of its logarithm; that power falls as 1/f
        let share = 0.5 - 0.5 * (PI * outside.clamp(0.0, 1.0)).cos();
        let there = top * (sweep.from_hz / f.max(sweep.from_hz));
        let epsilon = there * 10f64.powf(-12.0 + 10.0 * (4.0 * share).min(1.0));
        *y = *y * x.conj() * (1.0 - share) / (x.norm_sqr() + epsilon);
    }
    let mut h = backward(&mut y, length);
    h.iter_mut().for_each(|v| *v *= sweep.rate_hz);
    h
}

fn take_apart(whole: &[f64], sweep: &LogSweep, peak_dbfs: f64) -> Result<Analysed, Unheard> {
    let rate = sweep.rate_hz;
    let n = whole.len();
    // the linear response rules the record: its top lies in the first part, harmonics come early, at the end
    let kept = ((KEPT * rate) as usize).min(n / 2)
        + ((EARLY / sweep.from_hz * rate) as usize).min((sweep.lead(2) * rate) as usize / 2);
    let lead = (sweep.lead(2) * rate) as usize;
    let early = ((EARLY / sweep.from_hz * rate) as usize).min(lead / 2);
    let latest = n - (sweep.lead(ORDERS + 1) * rate) as usize;
    let top = whole[..latest.min(n)].iter().enumerate().max_by(|a, b| a.1.abs().total_cmp(&b.1.abs()));
    let arrival = top.map_or(0, |t| t.0);
    let power = |list: &[f64]| list.iter().map(|x| x * x).sum::<f64>() / list.len().max(1) as f64;
    let cut = |start: isize, length: usize| -> Vec<f64> {
        (0..length as isize).map(|i| whole[(start + i).rem_euclid(n as isize) as usize]).collect()
    };
    // room is kept before the arrival, whatever delay there is
    let first = arrival as isize - early as isize;
    let mut samples = cut(first, kept);
    // what lies behind the response and before the highest harmonic is noise, or what lies before the response
    let after = first + kept as isize;
    let (behind, before) = ((latest as isize - after).max(0) as usize, first.max(0) as usize);
    let noise = if behind >= before { cut(after, behind.min(kept)) } else { cut(0, before.min(kept)) };
    // of a sweep nearly all the energy comes together there, of anything else it stays spread out
    if power(&samples) * (kept as f64) < TOGETHER * power(whole) * n as f64 {
        return Err(Unheard::NoSweep);
    }
    fade(&mut samples, early / 2, kept / 8);
    let band = (sweep.from_hz, sweep.to_hz);
    let impulse = Impulse { quantity: Measurand::Level, rate, zero: -first, samples, band };
    let frequencies = impulse.frequencies();
    let linear = response(&impulse.samples, rate, -first as f64, &frequencies);
    let mut curve = Curve {
        quantity: Measurand::Level,
        frequency: frequencies.clone(),
        value: linear.iter().map(|v| v * P_REF).collect(),
        has_phase: true,
        snr_db: Vec::new(),
    };
    curve.snr_db = snr(&noise, kept, rate, &frequencies, &linear);
    let harmonics = (2..=ORDERS).filter_map(|order| {
        let gap = |k: u32| (sweep.lead(k + 1) - sweep.lead(k)) * rate;
        // half of the way to its neighbours on either side
        let (behind, before) = (gap(order - 1) / 2.0, gap(order) / 2.0);
        let centre = arrival as f64 - sweep.lead(order) * rate;
        let length = (behind + before).min(kept as f64) as usize;
        let from = centre - before;
        let mut part = cut(from.floor() as isize, length);
        fade(&mut part, (before / 4.0) as usize, length / 8);
        let tones: Vec<f64> = frequencies.iter().copied().filter(|f| f * f64::from(order) <= sweep.to_hz).collect();
        if tones.len() < 2 {
            return None;
        }
        let at: Vec<f64> = tones.iter().map(|f| f * f64::from(order)).collect();
        let made = response(&part, rate, 0.0, &at);
        let percent = made.iter().zip(&linear).map(|(h, l)| 100.0 * h.norm() / l.norm().max(1e-300)).collect();
        Some(Harmonic { order, frequency_hz: tones, percent })
    });
    let harmonics = harmonics.collect();
    Ok(Analysed { impulse, curve, harmonics, peak_dbfs })
}

/// Half-cosines at both ends of a signal, so many samples long.
fn fade(samples: &mut [f64], rise: usize, fall: usize) {
    let n = samples.len();
    let half = |x: f64| 0.5 - 0.5 * (PI * x).cos();
    for (i, x) in samples.iter_mut().take(rise).enumerate() {
        *x *= half(i as f64 / rise as f64);
    }
    for (i, x) in samples.iter_mut().rev().take(fall.min(n)).enumerate() {
        *x *= half(i as f64 / fall as f64);
    }
}

/// Signal over noise (dB) at each frequency: the noise behind the response, as if it were as long as the response, its power
/// averaged over a sixth of an octave. Empty where there was no room for noise.
fn snr(noise: &[f64], kept: usize, rate: f64, frequencies: &[f64], signal: &[Complex64]) -> Vec<f64> {
    if noise.len() < kept / 8 {
        return Vec::new();
    }
    let heard = response(noise, rate, 0.0, frequencies);
    let longer = kept as f64 / noise.len() as f64;
    let half = 4;
    (0..frequencies.len())
        .map(|i| {
            let about = &heard[i.saturating_sub(half)..(i + half + 1).min(heard.len())];
            let power = about.iter().map(Complex64::norm_sqr).sum::<f64>() / about.len() as f64 * longer;
            10.0 * (signal[i].norm_sqr() / power.max(1e-300)).max(1e-3).log10()
        })
        .map(|db| db.min(160.0))
        .collect()
}
