//! Buzz and rub: what a sweep sets off far above its own frequency.
//!
//! A short frame follows the sweep; the energy in it from eight times the sweep's frequency to 4 kHz, per Hz, is held against its
//! median over the sweep. A stretch that stands 10 dB out is told with the frequencies that set it off. Orders two and three, which are
//! the woofer's own, lie below.

use crate::sweep::log_sweep::LogSweep;
use crate::sweep::transform::forward;
use num_complex::Complex64;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// Length of a frame, samples at 48 kHz.
const FRAME: f64 = 4096.0 / 48_000.0;
/// Lowest multiple of the sweep's frequency that is looked at.
const ABOVE: f64 = 8.0;
/// Up to there, Hz.
const UP_TO: f64 = 4000.0;
/// What stands out, dB.
const STANDS_OUT: f64 = 10.0;

/// A stretch of frequencies that sets something off.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Buzz {
    /// From, Hz.
    pub from_hz: f64,
    /// To, Hz.
    pub to_hz: f64,
    /// By how much it stands out at most, dB.
    pub out_db: f64,
}

/// Looks for buzz in a recorded channel; `arrival` is when the sweep begins in it, s.
pub fn buzzes(recorded: &[f64], sweep: &LogSweep, arrival: f64) -> Vec<Buzz> {
    let rate = sweep.rate_hz;
    let length = ((FRAME * rate) as usize / 2) * 2;
    let hop = length / 4;
    let (l, step) = (sweep.growth(), rate / length as f64);
    // four-term window (Nuttall 1981, from memory): what a strong low tone leaves eight times as high is 90 dB down
    let window: Vec<f64> = (0..length)
        .map(|i| {
            let x = TAU * i as f64 / length as f64;
            0.355768 - 0.487396 * x.cos() + 0.144232 * (2.0 * x).cos() - 0.012604 * (3.0 * x).cos()
        })
        .collect();
    let mut frames: Vec<(f64, f64)> = Vec::new();
    let start = (arrival * rate).max(0.0) as usize;
    // the sweep's first period, in which it is faded in, sets off more than its own frequency
    let mut at = start + (rate / sweep.from_hz) as usize;
    while at + length <= recorded.len() {
        let t = (at + length / 2) as f64 / rate - arrival;
        let f = sweep.from_hz * (t / l).exp();
        let low = ABOVE * f;
        if t > sweep.length() || low > UP_TO / 1.5 {
            break;
        }
        let part: Vec<f64> = recorded[at..at + length].iter().zip(&window).map(|(x, w)| x * w).collect();
        let spectrum = forward(&part, length);
        let band = (low / step).ceil() as usize..((UP_TO / step) as usize).min(spectrum.len());
        let count = band.len().max(1) as f64;
        let energy = spectrum[band].iter().map(Complex64::norm_sqr).sum::<f64>() / count;
        frames.push((f, 10.0 * energy.max(1e-300).log10()));
        at += hop;
    }
    if frames.len() < 8 {
        return Vec::new();
    }
    let mut sorted: Vec<f64> = frames.iter().map(|f| f.1).collect();
    sorted.sort_by(f64::total_cmp);
    let median = sorted[sorted.len() / 2];
    let mut list: Vec<Buzz> = Vec::new();
    let mut open: Option<(Buzz, usize)> = None;
    for (f, db) in frames {
        let out = db - median;
        match (&mut open, out > STANDS_OUT) {
            (Some((buzz, count)), true) => {
                buzz.to_hz = f;
                buzz.out_db = buzz.out_db.max(out);
                *count += 1;
            }
            (None, true) => open = Some((Buzz { from_hz: f, to_hz: f, out_db: out }, 1)),
            // one frame alone is a click, not a buzz
            (Some(_), false) => list.extend(open.take().filter(|(_, count)| *count > 1).map(|(b, _)| b)),
            (None, false) => {}
        }
    }
    list.extend(open.filter(|(_, count)| *count > 1).map(|(b, _)| b));
    list
}
