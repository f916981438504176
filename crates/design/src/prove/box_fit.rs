//! The box from its impedance: net volume, tuning and losses fitted with the woofer known, or with it.

use crate::prove::as_built::AsBuilt;
use crate::prove::evidence::Evidence;
use crate::prove::predicted::predicted;
use crate::prove::unknown::{Unknown, varied};
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_acoustics::network::leak::joint;
use oak_drum_curves::curve::Curve;
use oak_drum_curves::fit::features::{Turn, turns};
use oak_drum_curves::fit::least_squares::{Fitted, SIGMAS, Unfitted, fit, lag_one, widening};
use oak_drum_curves::fit::woofer::Ranged;
use oak_drum_text::{Text, mm, square_mm};
use std::f64::consts::TAU;

/// Leak loss below which a tuned box is told to leak.
const LEAKS_BELOW: f64 = 5.0;
/// Width of the joint a leak is told as, m.
const JOINT: f64 = 0.5e-3;
/// What a fit may leave over, as a share, before it is refused.
const BAD: f64 = 0.25;

/// A box, fitted.
#[derive(Clone, Debug)]
pub struct BoxFit {
    /// What was varied with what it came to, as factors (leaks: their Q).
    pub values: Vec<(Unknown, f64)>,
    /// Figures with ranges, in the units of their names.
    pub figures: Vec<Ranged>,
    /// Peaks and dips of the fitted impedance.
    pub turns: Vec<Turn>,
    /// Those of the design.
    pub expected_turns: Vec<Turn>,
    /// What is left over, as a share of the impedance.
    pub rms: f64,
    /// The fitted impedance, on all points of the measurement.
    pub fitted: Curve,
    /// What has to be said.
    pub remarks: Vec<Text>,
}

/// Why a box could not be fitted.
#[derive(Clone, Copy, Debug, PartialEq, thiserror::Error)]
pub enum NoBoxFit {
    /// The family has nothing that could be fitted.
    #[error("there is nothing in this kind of box that its impedance would tell")]
    Nothing,
    /// Not enough of a curve.
    #[error("too few points below {to:.0} Hz: measure from 5 Hz in steps of a per cent or two")]
    Few {
        /// Where the trusted band ends, Hz.
        to: f64,
    },
    /// The search failed.
    #[error("no fit: {0}")]
    Search(Unfitted),
    /// It fits badly.
    #[error(
        "this is not the impedance of this design: {percent:.0} % are left over whatever its volume, tuning and leaks"
    )]
    Bad {
        /// What is left, per cent.
        percent: f64,
    },
}

/// What is varied for a box of this kind.
pub fn unknowns(built: &AsBuilt, with_woofer: bool) -> Vec<Unknown> {
    let mut list: Vec<Unknown> =
        [Unknown::Volume, Unknown::Port, Unknown::Leak].into_iter().filter(|u| u.start(built).is_some()).collect();
    if Unknown::RadiatorMass.start(built).is_some() {
        // the radiators' mass and the air behind them are told by the two peaks; the volume then stays
        list = vec![Unknown::RadiatorMass, Unknown::Leak];
    }
    if list.is_empty() && Unknown::Path.start(built).is_some() {
        list = vec![Unknown::Path];
    }
    if with_woofer && !list.is_empty() {
        let woofer =
            [Unknown::Suspension, Unknown::MovingMass, Unknown::Motor, Unknown::CoilResistance, Unknown::Inductance];
        list.extend(woofer.into_iter().filter(|u| u.start(built).is_some()));
    }
    list
}

/// Fits a box to an impedance.
///
/// # Errors
/// [`NoBoxFit`] with the reason in words.
pub fn fit_box(built: &AsBuilt, evidence: &Evidence, with_woofer: bool) -> Result<BoxFit, NoBoxFit> {
    let unknowns = unknowns(built, with_woofer);
    if unknowns.is_empty() {
        return Err(NoBoxFit::Nothing);
    }
    let points = &evidence.fitted;
    if points.len() < 20 {
        return Err(NoBoxFit::Few { to: crate::prove::evidence::trusted_to(&built.analysis, &evidence.taken) });
    }
    let fitted = fit_values(built, std::slice::from_ref(evidence), &unknowns).map_err(NoBoxFit::Search)?;
    let rms = (fitted.rss / points.len() as f64).sqrt();
    if rms > BAD {
        return Err(NoBoxFit::Bad { percent: rms * 100.0 });
    }
    let each = if points.has_phase { 2 } else { 1 };
    let real: Vec<f64> = fitted.residuals.iter().step_by(each).copied().collect();
    let (by, doubted) = widening(lag_one(&real));
    let fitted = fitted.widened(by);
    let values: Vec<(Unknown, f64)> = unknowns.iter().copied().zip(fitted.values.iter().copied()).collect();
    let model = varied(built, &values).ok_or(NoBoxFit::Search(Unfitted::Astray))?;
    let mut remarks: Vec<Text> = Vec::new();
    if doubted {
        remarks.push(
            format!("What is left over hangs together: something is in it that the model does not know; ranges are {by:.1} times as wide for it.")
                .into(),
        );
    }
    let figures = figures(built, &unknowns, &fitted);
    leak(built, &values, &mut remarks);
    let dense = log_frequencies(3.0, 300.0, 1200);
    let look = |analysis: &crate::analysis::Analysis| {
        predicted(analysis, &evidence.taken, false, &dense).map_or_else(Vec::new, |c| turns(&dense, &c.magnitude()))
    };
    let fitted_curve =
        predicted(&model, &evidence.taken, false, &evidence.whole.frequency).unwrap_or_else(|| evidence.whole.empty());
    Ok(BoxFit {
        turns: look(&model),
        expected_turns: look(&built.analysis),
        values,
        figures,
        rms,
        fitted: fitted_curve,
        remarks,
    })
}

/// Fits unknowns to evidence.
///
/// # Errors
/// [`Unfitted`] with the reason.
pub fn fit_values(built: &AsBuilt, evidence: &[Evidence], unknowns: &[Unknown]) -> Result<Fitted, Unfitted> {
    let start: Vec<f64> = unknowns.iter().map(|u| u.start(built).unwrap_or(1.0)).collect();
    let residuals = |values: &[f64]| {
        let set: Vec<(Unknown, f64)> = unknowns.iter().copied().zip(values.iter().copied()).collect();
        let model = varied(built, &set)?;
        let mut all = Vec::new();
        for one in evidence {
            all.extend(one.residuals(&model)?);
        }
        Some(all)
    };
    fit(&start, &residuals)
}

/// The figures of the fitted box with their ranges: what was varied itself, and what follows from it, by numerical gradients.
fn figures(built: &AsBuilt, unknowns: &[Unknown], fitted: &Fitted) -> Vec<Ranged> {
    let at = |values: &[f64]| -> Vec<(String, f64)> {
        let set: Vec<(Unknown, f64)> = unknowns.iter().copied().zip(values.iter().copied()).collect();
        let Some(model) = varied(built, &set) else { return Vec::new() };
        let mut list: Vec<(String, f64)> = Vec::new();
        if let Some(chamber) = model.wired.chambers.iter().find(|c| !c.pointer.is_empty()) {
            list.push(("net_volume_l".into(), chamber.net * 1e3));
        }
        let told = ["fb_hz", "fc_hz", "qtc", "tuning_hz"];
        list.extend(
            model.wired.figures.iter().filter(|f| told.contains(&f.id.as_str())).map(|f| (f.id.clone(), f.value)),
        );
        for (unknown, value) in &set {
            let woofer = model.woofer.ts;
            match unknown {
                Unknown::Leak => list.push(("leak_q".into(), *value)),
                Unknown::Suspension => list.push(("vas_l".into(), woofer.vas * 1e3)),
                Unknown::MovingMass => list.push(("fs_hz".into(), woofer.fs)),
                Unknown::Motor => list.push(("qes".into(), woofer.qes)),
                Unknown::CoilResistance => list.push(("re_ohm".into(), woofer.re)),
                Unknown::RadiatorMass => list.push(("radiator_mass".into(), *value)),
                _ => {}
            }
        }
        list
    };
    let here = at(&fitted.values);
    let step = 1e-4;
    let mut gradients = vec![vec![0.0; unknowns.len()]; here.len()];
    for i in 0..unknowns.len() {
        let moved = |by: f64| {
            let mut values = fitted.values.clone();
            values[i] *= f64::exp(by);
            at(&values)
        };
        let (up, down) = (moved(step), moved(-step));
        if up.len() == here.len() && down.len() == here.len() {
            for (k, row) in gradients.iter_mut().enumerate() {
                row[i] = (up[k].1 / down[k].1).ln() / (2.0 * step);
            }
        }
    }
    here.into_iter()
        .zip(gradients)
        .map(|((id, value), gradient)| {
            let sigma = fitted.sigma_of(&gradient);
            let factor = (SIGMAS * sigma).min(20.0).exp();
            Ranged { id, value, low: value / factor, high: value * factor, sigma }
        })
        .collect()
}

/// What a fitted leak is worth.
fn leak(built: &AsBuilt, values: &[(Unknown, f64)], remarks: &mut Vec<Text>) {
    let Some((_, q)) = values.iter().find(|(u, _)| *u == Unknown::Leak) else { return };
    let Some(model) = varied(built, values) else { return };
    let Some(chamber) = model.wired.chambers.iter().find(|c| !c.pointer.is_empty()) else { return };
    if *q > LEAKS_BELOW * 3.0 {
        return;
    }
    let gap = leak_area(&model, *q);
    let told = square_mm(gap * 1e6);
    let long = mm(gap / JOINT * 1e3);
    let words = if *q < LEAKS_BELOW {
        format!(
            "It leaks: QL is {q:.1} where a sound {} has 7 and more. That is a gap of about {told:.0}, a joint {:.1} open over {long:.0}: look at terminals, gasket, wires and corners.",
            chamber.title().to_lowercase(),
            mm(JOINT * 1e3)
        )
    } else {
        format!("QL is {q:.1}: losses as of a gap of about {told:.0}, common in a sound box.")
    };
    remarks.push(words.into());
}

/// The gap (m²) of a leak of a loss factor in the first chamber of a model. An estimate: joints are never even.
pub fn leak_area(model: &crate::analysis::Analysis, q: f64) -> f64 {
    let Some(chamber) = model.wired.chambers.iter().find(|c| !c.pointer.is_empty()) else { return 0.0 };
    let air = &model.context.air;
    let compliance = chamber.net * chamber.fill_factor / air.bulk_modulus();
    joint(air, 1.0, JOINT, 0.018) * TAU * chamber.resonance * compliance / q
}
