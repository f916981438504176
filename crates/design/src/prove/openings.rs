//! Cone and port as one statement: where the cone stands still, where the port is loudest, what rings in the port's pipe.
//!
//! Both are held against the model's own notch and peak: where they lie over those is where the tuning lies over the planned one,
//! whatever the woofer does to the shape of either (Keele, JAES 22, 1974, for the near fields).

use crate::analysis::Analysis;
use crate::prove::predicted::predicted;
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_curves::about::Taken;
use oak_drum_curves::curve::Curve;
use oak_drum_text::Text;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// How far about the tuning notch and peak are looked for, as a ratio.
const ABOUT: f64 = 2.0;
/// How deep a notch has to be, dB, and how far a tone of the pipe has to stand out.
const DEEP: f64 = 6.0;
/// Two tunings this far apart contradict each other, as a share (common practice).
const APART: f64 = 0.05;
/// A tone this near to a multiple of the pipe's first is the pipe's.
const NEAR: f64 = 0.12;
/// Up to there tones are looked for, Hz.
const UP_TO: f64 = 1500.0;

/// Something that rings in the port's near field.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PipeTone {
    /// Where, Hz.
    pub frequency_hz: f64,
    /// By how much it stands out of what lies an octave about, dB.
    pub out_db: f64,
    /// The pipe resonance it is, Hz, as reckoned; none where it is none of the pipe's.
    pub pipe_hz: Option<f64>,
}

/// What cone and port say together.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Openings {
    /// Where the cone stands still, Hz.
    pub notch_hz: Option<f64>,
    /// Where the port is loudest, Hz.
    pub peak_hz: Option<f64>,
    /// The tuning by the cone, Hz.
    pub by_cone_hz: Option<f64>,
    /// The tuning by the port, Hz.
    pub by_port_hz: Option<f64>,
    /// The planned tuning, Hz.
    pub planned_hz: f64,
    /// What rings in the port.
    pub tones: Vec<PipeTone>,
    /// In a sentence.
    pub sentence: Text,
}

/// Reads near fields of cone and port, as far as there are any; `None` where neither shows anything, or the design has no port outside.
pub fn openings(analysis: &Analysis, cone: Option<&Curve>, port: Option<&Curve>) -> Option<Openings> {
    let own = analysis.wired.ports.iter().find(|p| p.outside)?;
    let planned = own.realised.tuning;
    let around = log_frequencies(planned / ABOUT, planned * ABOUT, 400);
    let model = |taken: Taken| predicted(analysis, &taken, false, &around);
    let about = |c: &Curve| c.between(planned / ABOUT, planned * ABOUT);
    let notch_hz = cone.and_then(|c| notch(&about(c)));
    let peak_hz = port.and_then(|c| peak(&about(c)));
    let over = |measured: Option<f64>, said: Option<f64>| Some(planned * measured? / said?);
    let by_cone_hz = over(notch_hz, model(Taken::NearCone {}).and_then(|c| notch(&c)));
    let by_port_hz = over(peak_hz, model(Taken::NearPort {}).and_then(|c| peak(&c)));
    let pipe = analysis.context.air.c / (2.0 * own.realised.effective_length);
    let tones = port.map_or_else(Vec::new, |c| tones(c, 3.0 * planned, pipe));
    let mut sentence = match (notch_hz.zip(by_cone_hz), peak_hz.zip(by_port_hz)) {
        (Some((notch, a)), Some((peak, b))) if (a / b - 1.0).abs() <= APART => format!(
            "The cone stands still at {notch:.1} Hz and the port is loudest at {peak:.1} Hz: both say the box is tuned to {:.1} Hz, planned {planned:.1} Hz.",
            (a * b).sqrt()
        ),
        (Some((notch, a)), Some((peak, b))) => format!(
            "The cone stands still at {notch:.1} Hz, which means a tuning of {a:.1} Hz; the port is loudest at {peak:.1} Hz, which means {b:.1} Hz. They contradict each other: one microphone heard the other opening, or the port's air is not all outside. The cone's notch is the better witness."
        ),
        (Some((notch, a)), None) => format!(
            "The cone stands still at {notch:.1} Hz: the box is tuned to {a:.1} Hz, planned {planned:.1} Hz. There the port plays alone."
        ),
        (None, Some((peak, b))) => format!(
            "The port is loudest at {peak:.1} Hz: the box is tuned to {b:.1} Hz, planned {planned:.1} Hz. The cone's own notch would say it more sharply."
        ),
        (None, None) if tones.is_empty() => return None,
        (None, None) => String::new(),
    };
    for tone in &tones {
        let whose = match tone.pipe_hz {
            Some(hz) => format!("a resonance of the port's pipe, reckoned at {hz:.0} Hz"),
            None => "none of the pipe's: a wave inside the box comes out there".to_owned(),
        };
        let gap = if sentence.is_empty() { "" } else { " " };
        sentence += &format!("{gap}At {:.0} Hz the port stands {:.0} dB out: {whose}.", tone.frequency_hz, tone.out_db);
    }
    Some(Openings { notch_hz, peak_hz, by_cone_hz, by_port_hz, planned_hz: planned, tones, sentence: sentence.into() })
}

/// Levels of a curve by the logarithm of the frequency.
fn levels(curve: &Curve) -> Vec<(f64, f64)> {
    curve.frequency.iter().zip(&curve.value).map(|(f, v)| (f.ln(), 20.0 * v.norm().max(1e-300).log10())).collect()
}

/// The top of a parabola through a point and its neighbours, Hz.
fn refined(list: &[(f64, f64)], i: usize) -> f64 {
    let (Some(a), Some(b), Some(c)) = (i.checked_sub(1).map(|k| list[k]), list.get(i), list.get(i + 1)) else {
        return list[i].0.exp();
    };
    // of uneven steps, by Lagrange
    let (p, q, r) = (a.1 * (b.0 - c.0), b.1 * (c.0 - a.0), c.1 * (a.0 - b.0));
    let bottom = p + q + r;
    if bottom == 0.0 {
        return b.0.exp();
    }
    let top = p * (b.0 + c.0) + q * (c.0 + a.0) + r * (a.0 + b.0);
    (top / (2.0 * bottom)).clamp(a.0, c.0).exp()
}

/// Where a curve dips, deep enough on both sides.
fn notch(curve: &Curve) -> Option<f64> {
    let list = levels(curve);
    let most = |part: &[(f64, f64)]| part.iter().map(|p| p.1).fold(f64::NEG_INFINITY, f64::max);
    let (i, low) = list.iter().enumerate().min_by(|a, b| a.1.1.total_cmp(&b.1.1)).map(|(i, p)| (i, p.1))?;
    let deep = most(&list[..i]) - low > DEEP && most(&list[i + 1..]) - low > DEEP;
    deep.then(|| refined(&list, i))
}

/// Where a curve is loudest, if not at its ends.
fn peak(curve: &Curve) -> Option<f64> {
    let list = levels(curve);
    let (i, _) = list.iter().enumerate().max_by(|a, b| a.1.1.total_cmp(&b.1.1))?;
    (i > 0 && i + 1 < list.len()).then(|| refined(&list, i))
}

/// Peaks above a frequency that stand out of the middle of an octave about them.
fn tones(curve: &Curve, from: f64, pipe: f64) -> Vec<PipeTone> {
    let list = levels(&curve.between(from, UP_TO));
    let octave = 2f64.ln() / 2.0;
    let middle = |i: usize| {
        let mut about: Vec<f64> = list.iter().filter(|p| (p.0 - list[i].0).abs() <= octave).map(|p| p.1).collect();
        about.sort_by(f64::total_cmp);
        about[about.len() / 2]
    };
    let mut found: Vec<PipeTone> = Vec::new();
    for i in 1..list.len().saturating_sub(1) {
        let top = list[i].1 >= list[i - 1].1 && list[i].1 > list[i + 1].1;
        let out_db = list[i].1 - middle(i);
        if !top || out_db < DEEP {
            continue;
        }
        let frequency_hz = refined(&list, i);
        let times = (frequency_hz / pipe).round().max(1.0);
        let pipe_hz = Some(times * pipe).filter(|hz| (frequency_hz / hz - 1.0).abs() < NEAR);
        match found.last_mut() {
            // one hump, not two
            Some(last) if frequency_hz / last.frequency_hz < 1.15 => {
                if out_db > last.out_db {
                    *last = PipeTone { frequency_hz, out_db, pipe_hz };
                }
            }
            _ => found.push(PipeTone { frequency_hz, out_db, pipe_hz }),
        }
    }
    found
}
