//! A recording that was brought back, or made here: taken apart and ready to be kept.
//!
//! A sweep that was played by anything and recorded by anything; by the jig, two channels of one record; or an impulse response that
//! another program made of a sweep.

use crate::about::About;
use crate::curve::Measurand;
use crate::formats::wav::Recording;
use crate::jig::{Means, impedance};
use crate::measurement::{Measurement, Source};
use crate::process::recipe::Data;
use crate::sweep::analyse::{Analysed, Harmonic, Unheard, analyse, heard};
use crate::sweep::buzz::{Buzz, buzzes};
use crate::sweep::impulse::Impulse;
use crate::sweep::log_sweep::LogSweep;
use crate::sweep::repeats::averaged;
use crate::sweep::track::follows;
use oak_drum_acoustics::level::P_REF;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Every so many points of a distortion curve are kept.
const KEPT_POINTS: usize = 4;
/// Lowest frequency an impulse response from elsewhere is drawn from, Hz.
const LOWEST: f64 = 5.0;
/// Highest, as a share of its rate.
const HIGHEST: f64 = 0.45;
/// Longest impulse response that is kept, s.
const LONGEST: f64 = 10.0;

/// How a recording is to be understood.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Recording")]
pub struct RecordingWish {
    /// The sweep that was played; null where the file is an impulse response already.
    #[schemars(title = "Sweep")]
    pub sweep: Option<LogSweep>,
    /// Which channel was measured, from 1: the microphone, or across the woofer.
    #[schemars(title = "Channel", range(min = 1, max = 8))]
    pub channel: usize,
    /// Which channel went straight from the output to the input, or is the voltage before the jig's resistor, from 1.
    #[schemars(title = "Loopback", range(min = 1, max = 8))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub loopback: Option<usize>,
    /// The jig's resistor; for impedances.
    #[schemars(title = "Reference resistor", range(min = 0.1, max = 10000.0), extend("x-unit" = "ohm"))]
    pub reference_ohm: f64,
    /// Resistance of the leads and clips, read with the clips joined; taken off.
    #[schemars(title = "Leads", range(min = 0.0, max = 10.0), extend("x-unit" = "ohm"))]
    pub leads_ohm: f64,
    /// What is known about it.
    #[schemars(title = "About")]
    pub about: About,
}

impl Default for RecordingWish {
    fn default() -> Self {
        RecordingWish {
            sweep: Some(LogSweep::default()),
            channel: 1,
            loopback: None,
            reference_ohm: 22.0,
            leads_ohm: 0.0,
            about: About::default(),
        }
    }
}

/// Why nothing can be made of a recording.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
pub enum Unusable {
    /// The sweep cannot have been played.
    #[error("{1}")]
    Sweep(&'static str, String),
    /// An impedance is the ratio of two channels.
    #[error("an impedance takes two channels: before the resistor (as the loopback) and across the woofer")]
    OneChannel,
    /// An impulse response has no jig.
    #[error("an impedance cannot be read from an impulse response: bring the recorded sweep")]
    NoSweep,
    /// It holds no measurement.
    #[error(transparent)]
    Unheard(#[from] Unheard),
}

/// A recorded sweep, its repeats averaged, taken apart.
#[derive(Clone, Debug)]
pub struct TakenApart {
    /// Response, distortion, level.
    pub found: Analysed,
    /// What buzzes.
    pub buzzes: Vec<Buzz>,
}

/// Takes a recorded channel (from 0) apart, repeats averaged, buzz looked for.
///
/// # Errors
/// [`Unheard`] where it was clipped, too quiet, or holds no sweep.
pub fn taken_apart(
    sweep: &LogSweep,
    recording: &Recording,
    channel: usize,
    loopback: Option<usize>,
) -> Result<TakenApart, Unheard> {
    if recording.rate != sweep.rate_hz {
        return Err(Unheard::Rate { recorded: recording.rate, sweep: sweep.rate_hz });
    }
    // each channel is looked at as it was recorded: a mean of repeats hides what was clipped once
    for one in [Some(channel), loopback].into_iter().flatten() {
        heard(recording, one)?;
    }
    let one = averaged(sweep, recording, loopback.unwrap_or(channel))?;
    let found = analyse(sweep, &one, channel, loopback)?;
    let begins = match loopback {
        // a wire tells to the sample when the sweep began
        Some(wire) => first_heard(&one.channels[wire]) as f64 / one.rate + found.impulse.arrival(),
        None => found.impulse.arrival() + sweep.silence_s,
    };
    if !follows(&one.channels[channel], sweep, begins) {
        return Err(Unheard::NoSweep);
    }
    let buzzes = buzzes(&one.channels[channel], sweep, begins);
    Ok(TakenApart { found, buzzes })
}

/// The first sample that reaches a twentieth of the largest.
fn first_heard(samples: &[f64]) -> usize {
    let top = samples.iter().fold(0.0, |m: f64, x| m.max(x.abs()));
    samples.iter().position(|x| x.abs() >= 0.05 * top).unwrap_or(0)
}

/// What a build keeps of a sweep that was taken apart: every fourth point of its distortion, to a ten-thousandth of a per cent, since
/// that is read by people; of an impedance neither distortion nor buzz.
pub fn measurement(
    about: About,
    source: Source,
    harmonics: Vec<Harmonic>,
    buzzes: Vec<Buzz>,
    peak_dbfs: f64,
) -> Measurement {
    let thin = |list: Vec<f64>| list.into_iter().step_by(KEPT_POINTS).map(|x| (x * 1e4).round() / 1e4).collect();
    let thinned =
        |h: Harmonic| Harmonic { order: h.order, frequency_hz: thin(h.frequency_hz), percent: thin(h.percent) };
    let mut made = Measurement::of(about, source);
    made.peak_dbfs = Some((peak_dbfs * 10.0).round() / 10.0);
    if !made.about.taken.is_impedance() {
        made.harmonics = harmonics.into_iter().map(thinned).collect();
        made.buzzes = buzzes;
    }
    made
}

/// A measurement and its untouched data from a recording. Levels are relative, unless the wish's `about` says that they are absolute:
/// a full-scale sine is then taken for 1 Pa.
///
/// # Errors
/// [`Unusable`] with the reason.
pub fn kept(wish: &RecordingWish, recording: &Recording, source: Source) -> Result<(Measurement, Data), Unusable> {
    let (channel, loopback) = (wish.channel.saturating_sub(1), wish.loopback.map(|n| n.saturating_sub(1)));
    let jig = wish.about.taken.is_impedance();
    let Some(sweep) = &wish.sweep else {
        if jig {
            return Err(Unusable::NoSweep);
        }
        let impulse = impulse_response(recording, channel)?;
        return Ok((Measurement::of(wish.about.clone(), source), Data::Impulse(impulse)));
    };
    if let Some((field, what)) = sweep.problem() {
        return Err(Unusable::Sweep(field, what));
    }
    if jig && loopback.is_none_or(|l| l == channel) {
        return Err(Unusable::OneChannel);
    }
    let TakenApart { found, buzzes } = taken_apart(sweep, recording, channel, loopback)?;
    let data = if jig {
        let ratio = found.curve.mapped(|_, v| v / P_REF);
        let seen = impedance(&ratio, &Means::Simple { reference: wish.reference_ohm });
        Data::Points(seen.mapped(|_, z| z - wish.leads_ohm))
    } else {
        Data::Impulse(found.impulse)
    };
    Ok((measurement(wish.about.clone(), source, found.harmonics, buzzes, found.peak_dbfs), data))
}

/// An impulse response from a file, full scale being 1 Pa; per second, as all are kept.
fn impulse_response(recording: &Recording, channel: usize) -> Result<Impulse, Unheard> {
    if channel >= recording.channels.len() {
        return Err(Unheard::NoChannel(channel + 1));
    }
    let rate = recording.rate;
    let most = (LONGEST * rate) as usize;
    let samples: Vec<f64> = recording.channels[channel].iter().take(most).map(|x| x * rate).collect();
    if recording.peak(channel) <= 0.0 {
        return Err(Unheard::Quiet { channel: channel + 1, dbfs: -240.0 });
    }
    let lowest = LOWEST.max(1.0 / (samples.len() as f64 / rate));
    Ok(Impulse { quantity: Measurand::Level, rate, zero: 0, samples, band: (lowest, HIGHEST * rate) })
}
