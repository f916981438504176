//! Standing waves in an impedance: small bumps beside the fitted curve, each with the length it fits.

use crate::analysis::Analysis;
use num_complex::Complex64;
use oak_drum_curves::curve::Curve;
use oak_drum_text::{Text, mm};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// How far a bump has to stand out: so many times the scatter, and this share.
const STANDS_OUT: (f64, f64) = (4.0, 0.005);

/// One standing wave.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Ripple {
    /// Where, Hz.
    pub frequency_hz: f64,
    /// By how much the impedance is off there, per cent.
    pub percent: f64,
    /// The length half of its wave fits, mm.
    pub length_mm: f64,
    /// What it is, in a sentence.
    pub sentence: Text,
}

/// Looks for bumps above a frequency (Hz) that are narrower than a third of an octave.
pub fn ripples(analysis: &Analysis, measured: &Curve, fitted: &Curve, above: f64) -> Vec<Ripple> {
    if measured.len() != fitted.len() || measured.len() < 30 {
        return Vec::new();
    }
    let off: Vec<Complex64> = measured
        .value
        .iter()
        .zip(&fitted.value)
        .map(|(m, f)| if measured.has_phase { m / f - 1.0 } else { (m.norm() / f.norm() - 1.0).into() })
        .collect();
    // what is broader than half an octave (a coil, a drift) is taken out as the middle of what lies about
    let half = 2f64.powf(0.25);
    let about = |i: usize| {
        let f = measured.frequency[i];
        measured.frequency.partition_point(|x| *x < f / half)..measured.frequency.partition_point(|x| *x <= f * half)
    };
    let middle = |mut list: Vec<f64>| {
        list.sort_by(f64::total_cmp);
        list.get(list.len() / 2).copied().unwrap_or(0.0)
    };
    let narrow: Vec<f64> = (0..off.len())
        .map(|i| {
            let range = about(i);
            let base = Complex64::new(
                middle(off[range.clone()].iter().map(|x| x.re).collect()),
                middle(off[range].iter().map(|x| x.im).collect()),
            );
            (off[i] - base).norm()
        })
        .collect();
    // scatter from the middle of the deviations, which a few bumps do not move (1.18 = median of a Rayleigh distribution)
    let from = measured.frequency.partition_point(|f| *f < above);
    let scatter = middle(narrow[from.min(narrow.len())..].to_vec()) / 1.18;
    let limit = (STANDS_OUT.0 * scatter).max(STANDS_OUT.1);
    let mut list = Vec::new();
    let mut i = from;
    while i < narrow.len() {
        if narrow[i] <= limit {
            i += 1;
            continue;
        }
        let begin = i;
        while i < narrow.len() && narrow[i] > limit {
            i += 1;
        }
        let top = (begin..i).max_by(|a, b| narrow[*a].total_cmp(&narrow[*b])).unwrap_or(begin);
        let wide = measured.frequency[i - 1] / measured.frequency[begin];
        // one point alone is a stray one
        if wide < 2f64.powf(1.0 / 3.0) && i - begin > 1 {
            list.push(told(analysis, measured.frequency[top], narrow[top]));
        }
    }
    list
}

fn told(analysis: &Analysis, frequency: f64, share: f64) -> Ripple {
    let c = analysis.context.air.c;
    let half = c / (2.0 * frequency);
    let mut sides: Vec<(&str, f64)> = Vec::new();
    for chamber in &analysis.wired.chambers {
        if let Some(inside) = &chamber.inside {
            sides.push(("the inside's width", inside.width_mm * 1e-3));
            sides.push(("the inside's height", inside.height_mm * 1e-3));
            sides.push(("the inside's depth", inside.depth_mm * 1e-3));
        }
    }
    if let Some(cabinet) = &analysis.design.cabinet {
        let [w, h, d] = cabinet.inside_mm();
        sides.extend([
            ("the inside's width", w * 1e-3),
            ("the inside's height", h * 1e-3),
            ("the inside's depth", d * 1e-3),
        ]);
    }
    for port in &analysis.wired.ports {
        sides.push((
            "the port's length with its ends",
            port.realised.length
                + 1.4 * (port.realised.area / f64::from(port.port.count.max(1)) / std::f64::consts::PI).sqrt(),
        ));
    }
    // the first and second wave along a side
    let named = sides
        .iter()
        .flat_map(|(name, side)| [(*name, *side, 1.0), (*name, *side, 2.0)])
        .map(|(name, side, n)| (name, n, (half * n / side - 1.0).abs()))
        .min_by(|a, b| a.2.total_cmp(&b.2))
        .filter(|(_, _, off)| *off < 0.06);
    let size = format!("A bump of {:.1} % at {frequency:.0} Hz: half a wave of {:.0}", share * 100.0, mm(half * 1e3));
    let sentence = match named {
        Some((name, n, _)) if n > 1.5 => format!("{size}, the second wave along {name}."),
        Some((name, ..)) => format!("{size}, which is {name}."),
        None => format!(
            "{size}; no side of the design is so long. Look for a brace, a chamber or a panel that answers there."
        ),
    };
    Ripple { frequency_hz: frequency, percent: share * 100.0, length_mm: half * 1e3, sentence: sentence.into() }
}
