//! A measured curve made ready to be held against the model.

use crate::analysis::Analysis;
use crate::prove::predicted::{face, predicted};
use oak_drum_curves::about::Taken;
use oak_drum_curves::curve::{Curve, Measurand};
use oak_drum_curves::process::near_field::valid_to;
use oak_drum_curves::quality::LEAST_SNR_DB;
use std::f64::consts::LN_10;

/// Points of a curve that take part in a fit, evenly over ln f.
const POINTS: usize = 160;
/// Highest frequency a level is held against the model, Hz.
const LEVELS_TO: f64 = 300.0;
/// How far below its top a near field is trusted, dB: below that it hears the other openings (common practice).
const NEAR_TO_TOP: f64 = 10.0;
/// Decibels of a ratio whose natural logarithm is 1.
pub const DB: f64 = 20.0 / LN_10;

/// A measured curve with where it was taken.
#[derive(Clone, Debug)]
pub struct Evidence {
    /// What it is called.
    pub name: String,
    /// Where it was taken.
    pub taken: Taken,
    /// Whether it went through the build's filters.
    pub filtered: bool,
    /// Whether its level is absolute.
    pub absolute: bool,
    /// Volts it was taken at, where known.
    pub volts: Option<f64>,
    /// All of its points.
    pub whole: Curve,
    /// Those that take part in a fit.
    pub fitted: Curve,
}

impl Evidence {
    /// Makes a curve ready: points in noise are left out, the band is the stated one (Hz) or where the model may be trusted: an impedance
    /// below 0.6 of the first standing wave, a near field below ka = 1 and within 10 dB of its top, no level above 300 Hz.
    pub fn of(analysis: &Analysis, name: &str, taken: Taken, whole: Curve, band: Option<(f64, f64)>) -> Evidence {
        let (from, to) = band.unwrap_or_else(|| (0.0, trusted_to(analysis, &taken)));
        let within = |i: usize| (from..=to).contains(&whole.frequency[i]);
        let near = matches!(taken, Taken::NearCone {} | Taken::NearPort {} | Taken::NearRadiator {});
        let top = (0..whole.len()).filter(|i| within(*i)).map(|i| whole.value[i].norm()).fold(0.0, f64::max);
        let least = if near { top * 10f64.powf(-NEAR_TO_TOP / 20.0) } else { 0.0 };
        let mut kept = whole.empty();
        for i in 0..whole.len() {
            let heard = whole.snr_db.get(i).is_none_or(|s| *s >= LEAST_SNR_DB) && whole.value[i].norm() >= least;
            if heard && within(i) {
                kept.frequency.push(whole.frequency[i]);
                kept.value.push(whole.value[i]);
            }
        }
        let fitted = kept.thinned(POINTS);
        Evidence { name: name.into(), taken, filtered: false, absolute: false, volts: None, whole, fitted }
    }

    /// Residuals of a model: of an impedance (model - data)/|data|, real and imaginary part by turns, or of the magnitudes alone; of a level
    /// the difference of the logarithms, its mean taken off unless the level is absolute. `None` where the model has no such curve.
    pub fn residuals(&self, model: &Analysis) -> Option<Vec<f64>> {
        let said = predicted(model, &self.taken, self.filtered, &self.fitted.frequency)?;
        let pairs = self.fitted.value.iter().zip(&said.value);
        if self.taken.is_impedance() {
            return Some(if self.fitted.has_phase {
                pairs.flat_map(|(d, m)| [(m.re - d.re) / d.norm(), (m.im - d.im) / d.norm()]).collect()
            } else {
                pairs.map(|(d, m)| m.norm() / d.norm() - 1.0).collect()
            });
        }
        let gain = self.gain(model);
        let mut list: Vec<f64> = pairs.map(|(d, m)| (m.norm() * gain / d.norm()).ln()).collect();
        if !self.absolute {
            let mean = list.iter().sum::<f64>() / list.len().max(1) as f64;
            list.iter_mut().for_each(|x| *x -= mean);
        }
        Some(list)
    }

    /// By what a model's level has to be multiplied for the volts it was taken at.
    pub fn gain(&self, model: &Analysis) -> f64 {
        self.volts.map_or(1.0, |v| v / model.context.source.volts)
    }
}

/// Up to where the model may be held against a curve, Hz.
pub fn trusted_to(analysis: &Analysis, taken: &Taken) -> f64 {
    let air = &analysis.context.air;
    // standing waves of a stated inside, or of a box of the air's own size
    let longest = analysis
        .wired
        .chambers
        .iter()
        .map(|c| match &c.inside {
            Some(i) => i.width_mm.max(i.height_mm).max(i.depth_mm) * 1e-3,
            None => c.net.cbrt() * 1.35,
        })
        .fold(0.0, f64::max);
    let mode = if longest > 0.0 { air.c / (2.0 * longest) } else { f64::MAX };
    match taken {
        Taken::FreeAir {} | Taken::AddedMass { .. } | Taken::KnownBox { .. } => 2000.0,
        Taken::InBox {} => (0.6 * mode).min(500.0),
        Taken::NearCone {} | Taken::NearPort {} | Taken::NearRadiator {} => {
            let near = face(analysis, taken).map_or(f64::MAX, |f| valid_to(f.area, air));
            near.min(0.6 * mode).min(LEVELS_TO)
        }
        Taken::InFront { .. } | Taken::AtSeat {} => LEVELS_TO,
    }
}

/// Whether a curve and a place speak of the same quantity.
pub fn fits_place(curve: &Curve, taken: &Taken) -> bool {
    (curve.quantity == Measurand::Impedance) == taken.is_impedance()
}
