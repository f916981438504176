//! Breaking a woofer in: a low tone in free air, at a stroke that is stated, and the volts that give it.
//!
//! u = V·Zmot/(Z·Bl), x = u/ω, with Zmot = (Re/Qes)/(jf/fs + 1/Qms + fs/(jf)): the small-signal model, so that the stroke itself is to
//! be looked at and not only reckoned.

use crate::analysis::Analysis;
use num_complex::Complex64;
use oak_drum_text::{Text, mm};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// Where the tone lies, Hz (common practice).
const BAND: (f64, f64) = (25.0, 35.0);
/// Stroke as a share of Xmax, one way (common practice).
const OF_XMAX: f64 = 0.5;
/// Most of the rated power that goes into the coil for hours (an estimate on the safe side).
const OF_POWER: f64 = 0.1;
/// Usual time, h (common practice).
const HOURS: f64 = 2.0;

/// How a woofer is broken in.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct BreakIn {
    /// The tone, Hz.
    pub frequency_hz: f64,
    /// How far the cone goes one way, mm.
    pub stroke_mm: f64,
    /// Volts rms at the terminals that do it.
    pub volts: f64,
    /// How long, h.
    pub hours: f64,
    /// What is done, and what to mind.
    pub steps: Vec<Text>,
}

/// Volts rms at the terminals of one woofer in free air, its coils as they are wired in the build, that move its cone so far (m, one
/// way) at a frequency (Hz).
pub fn volts_for(analysis: &Analysis, frequency: f64, stroke: f64) -> f64 {
    let ts = &analysis.context.array.ts;
    let x = Complex64::new(0.0, frequency / ts.fs);
    let moving = ts.re / ts.qes / (x + 1.0 / ts.qms + 1.0 / x);
    let coil: Complex64 = analysis.woofer.coil.impedance(TAU * frequency);
    let all = coil + moving;
    stroke / 2f64.sqrt() * all.norm() * ts.bl(&analysis.context.air) * TAU * frequency / moving.norm()
}

/// How the woofer of a design is broken in; none where its Xmax is not stated.
pub fn break_in(analysis: &Analysis) -> Option<BreakIn> {
    let sheet = &analysis.design.woofer;
    let ts = &analysis.context.array.ts;
    let frequency = ts.fs.clamp(BAND.0, BAND.1).round();
    let xmax = sheet.xmax_mm?;
    let mut stroke = OF_XMAX * xmax;
    let mut volts = volts_for(analysis, frequency, stroke * 1e-3);
    let mut limited = "half of Xmax";
    if let Some(watts) = sheet.power_w {
        let most = (OF_POWER * watts * ts.re).sqrt();
        if most < volts {
            stroke *= most / volts;
            volts = most;
            limited = "a tenth of the rated power";
        }
    }
    let steps = [
        "Hang or hold the woofer upright in free air; no box, nothing near the cone on either side, no loose screws about (the magnet takes them).".to_owned(),
        format!(
            "Begin at nothing and come up slowly to about {volts:.1} V at {frequency:.0} Hz: the cone then goes some {:.1} each way ({limited}). Look at the cone, not at the number; a rub or a knock means stop.",
            mm(stroke)
        ),
        "It hums for hours: another room, a shut door, ears away from the cone. Do not leave it unattended, and feel the magnet now and then: warm is fine, hot is not.".to_owned(),
        format!(
            "After {HOURS:.0} h let it cool for as long before it is measured again. Most of what changes has changed by then; fs and Qts move together, so that a box hardly notices (common practice)."
        ),
    ];
    Some(BreakIn {
        frequency_hz: frequency,
        stroke_mm: stroke,
        volts,
        hours: HOURS,
        steps: steps.map(Text::from).into(),
    })
}
