//! A piece of programme as a design plays it, for headphones or speakers that go low enough: what a change does, by ear.

use num_complex::Complex64;
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_acoustics::outputs::Sweep;
use oak_drum_curves::sweep::transform::{backward, forward};
use oak_drum_design::analysis::Analysis;
use oak_drum_document::Checked;

/// Edges within which the box is reckoned, Hz: below, it falls on at its last slope; above, the piece is left as it is there.
const EDGES: (f64, f64) = (5.0, 400.0);
/// Points between them.
const POINTS: usize = 512;
/// Where the level is taken for untouched, Hz.
const UNTOUCHED: f64 = 150.0;

/// Samples (48 kHz or as they are, -1 to 1) as the design plays them, at any level: what it plays at 150 Hz keeps its level. The piece goes
/// round, its end into its beginning, as it is played. An odd last sample is left out.
///
/// Level and phase are those of the curves: the sum of cone and openings.
pub fn played(design: &Checked, samples: &[f64], rate_hz: f64) -> Vec<f64> {
    let length = samples.len() & !1;
    if length == 0 {
        return Vec::new();
    }
    let analysis = Analysis::of(design);
    let hz = log_frequencies(EDGES.0, EDGES.1, POINTS);
    let pressure = Sweep::new(&analysis.wired.network, analysis.conditions).curves(&hz).sum;
    let between = |f: f64| -> Complex64 {
        let place = (POINTS - 1) as f64 * (f / EDGES.0).ln() / (EDGES.1 / EDGES.0).ln();
        if place <= 0.0 {
            // a vented box falls on by the fourth power; a closed one keeps a little more, of what nobody hears
            return pressure[0] * (f / EDGES.0).powi(4);
        }
        let (i, part) = (place as usize, place.fract());
        match pressure.get(i + 1) {
            Some(next) => pressure[i] * (1.0 - part) + next * part,
            None => pressure[POINTS - 1],
        }
    };
    let level = between(UNTOUCHED).norm();
    let mut spectrum = forward(&samples[..length], length);
    for (i, bin) in spectrum.iter_mut().enumerate() {
        *bin *= between(i as f64 * rate_hz / length as f64) / level;
    }
    backward(&mut spectrum, length)
}
