//! Why a measurement differs: the model refitted in what could be off, one thing at a time and the few together that explain most.

use crate::prove::as_built::AsBuilt;
use crate::prove::box_fit::{fit_values, leak_area};
use crate::prove::evidence::{DB, Evidence};
use crate::prove::unknown::{Unknown, varied};
use oak_drum_acoustics::halt;
use oak_drum_curves::about::Taken;
use oak_drum_curves::fit::least_squares::{Fitted, SIGMAS, lag_one, widening};
use oak_drum_text::{Text, litres, mm, square_mm};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What is looked at one at a time.
const LOOKED_AT: [Unknown; 8] = [
    Unknown::Port,
    Unknown::Volume,
    Unknown::Leak,
    Unknown::Suspension,
    Unknown::MovingMass,
    Unknown::Fill,
    Unknown::RadiatorMass,
    Unknown::Path,
];
/// By what share a cause has to better the deviation to be named, and by what share two have to differ to be told apart.
const TENTH: f64 = 0.1;
/// A deviation that small is what two measurements of one box differ by, dB rms (common practice): there is nothing to explain.
const AGREES_DB: f64 = 0.15;
/// Most things varied together.
const MOST: usize = 6;

/// One thing that could be off.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Cause {
    /// What.
    pub unknown: Unknown,
    /// In words.
    pub title: String,
    /// By what factor it is off (of a leak: its QL).
    pub value: f64,
    /// Lower end of its 95 % range.
    pub low: f64,
    /// Upper end.
    pub high: f64,
    /// What is left of the deviation with it, dB rms.
    pub rms_db: f64,
    /// How much of the deviation's power it explains, per cent.
    pub explains_percent: f64,
    /// What it comes to, in a sentence.
    pub sentence: Text,
}

/// Why a measurement differs.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Causes {
    /// The deviation as it is, dB rms.
    pub rms_db: f64,
    /// Each thing by itself, the one that explains most first.
    pub each: Vec<Cause>,
    /// The few that explain most together, with ranges.
    pub together: Vec<Cause>,
    /// What is left with those, dB rms.
    pub together_rms_db: f64,
    /// What it comes to.
    pub sentence: Text,
    /// Which two cannot be told apart, and what would tell them; empty where they can.
    pub undecided: Vec<Text>,
}

/// Root of the mean square of residuals, dB.
fn rms_db(residuals: &[f64]) -> f64 {
    DB * (residuals.iter().map(|r| r * r).sum::<f64>() / residuals.len().max(1) as f64).sqrt()
}

/// Ranks what could explain the evidence. `None` where the model has no such curves.
pub fn causes(built: &AsBuilt, evidence: &[Evidence]) -> Option<Causes> {
    let mut before = Vec::new();
    for one in evidence {
        before.extend(one.residuals(&built.analysis)?);
    }
    if before.len() < 10 {
        return None;
    }
    let rms_before = rms_db(&before);
    if rms_before < AGREES_DB {
        let sentence =
            format!("Measured and predicted agree to {rms_before:.2} dB: there is nothing to explain.").into();
        return Some(Causes {
            rms_db: rms_before,
            each: Vec::new(),
            together: Vec::new(),
            together_rms_db: rms_before,
            sentence,
            undecided: Vec::new(),
        });
    }
    let candidates: Vec<Unknown> = LOOKED_AT.into_iter().filter(|u| u.start(built).is_some()).collect();
    let mut each: Vec<Cause> = candidates
        .iter()
        .filter_map(|unknown| {
            halt::check();
            let fitted = fit_values(built, evidence, &[*unknown]).ok()?;
            told(built, &[*unknown], &fitted, rms_before).pop()
        })
        .collect();
    each.sort_by(|a, b| a.rms_db.total_cmp(&b.rms_db));
    let (together, left) = few(built, evidence, &candidates, &before)
        .map_or((Vec::new(), rms_before), |(chosen, fitted)| {
            (told(built, &chosen, &fitted, rms_before), rms_db(&fitted.residuals))
        });
    let undecided = undecided(evidence, &each, rms_before);
    let sentence = sentence(&each, &together, rms_before, left, &undecided);
    Some(Causes { rms_db: rms_before, each, together, together_rms_db: left, sentence, undecided })
}

/// The few that explain most together: added one by one as long as each earns its place (BIC).
fn few(
    built: &AsBuilt,
    evidence: &[Evidence],
    candidates: &[Unknown],
    before: &[f64],
) -> Option<(Vec<Unknown>, Fitted)> {
    let n = before.len() as f64;
    // neighbours hang together: so many independent ones there are
    let (by, _) = widening(lag_one(before));
    let worth = n / (by * by);
    let score = |rss: f64, p: usize| worth * (rss / n).max(1e-300).ln() + p as f64 * worth.max(2.0).ln();
    let mut best: Option<(Vec<Unknown>, Fitted)> = None;
    let mut standing = score(before.iter().map(|r| r * r).sum(), 0);
    for _ in 0..MOST.min(candidates.len()) {
        let chosen: Vec<Unknown> = best.as_ref().map_or_else(Vec::new, |b| b.0.clone());
        let next = candidates
            .iter()
            .filter(|u| !chosen.contains(u))
            .filter_map(|u| {
                halt::check();
                let set: Vec<Unknown> = chosen.iter().copied().chain([*u]).collect();
                let fitted = fit_values(built, evidence, &set).ok()?;
                // what is driven to where nothing is real explains nothing
                let real = set.iter().zip(&fitted.values).all(|(u, v)| plausible(*u, *v));
                real.then_some((set, fitted))
            })
            .min_by(|a, b| a.1.rss.total_cmp(&b.1.rss));
        let Some((set, fitted)) = next else { break };
        let now = score(fitted.rss, set.len());
        let better = 1.0 - (fitted.rss / best.as_ref().map_or(before.iter().map(|r| r * r).sum(), |b| b.1.rss)).sqrt();
        if now >= standing || better < TENTH {
            break;
        }
        standing = now;
        best = Some((set, fitted));
    }
    best
}

/// Whether a thing may be off by so much.
fn plausible(unknown: Unknown, value: f64) -> bool {
    match unknown {
        Unknown::Leak => (0.3..1e5).contains(&value),
        Unknown::Fill => (0.05..20.0).contains(&value),
        _ => (0.4..2.5).contains(&value),
    }
}

fn told(built: &AsBuilt, unknowns: &[Unknown], fitted: &Fitted, before: f64) -> Vec<Cause> {
    let (by, _) = widening(lag_one(&fitted.residuals));
    let left = rms_db(&fitted.residuals);
    let explains = 100.0 * (1.0 - (left / before.max(1e-12)).powi(2)).max(0.0);
    unknowns
        .iter()
        .enumerate()
        .map(|(i, unknown)| {
            let value = fitted.values[i];
            let factor = (SIGMAS * fitted.sigma(i) * by).min(20.0).exp();
            let (low, high) = (value / factor, value * factor);
            Cause {
                unknown: *unknown,
                title: unknown.title().into(),
                value,
                low,
                high,
                rms_db: left,
                explains_percent: explains,
                sentence: amount(built, *unknown, value, low, high),
            }
        })
        .collect()
}

/// What an amount comes to in the workshop's terms.
fn amount(built: &AsBuilt, unknown: Unknown, value: f64, low: f64, high: f64) -> Text {
    let analysis = &built.analysis;
    let percent = (value - 1.0) * 100.0;
    let range = |k: f64| (k - 1.0) * 100.0;
    let net = analysis.wired.chambers.iter().find(|c| !c.pointer.is_empty()).map_or(0.0, |c| c.net * 1e3);
    let more = |less: &'static str, more: &'static str| if value < 1.0 { less } else { more };
    match unknown {
        Unknown::Volume => format!(
            "{:.1} of air in place of {:.1}: {:.1} % {} ({:.1} to {:.1} %)",
            litres(net * value),
            litres(net),
            percent.abs(),
            more("less", "more"),
            range(low),
            range(high)
        ),
        Unknown::Port => {
            let index = analysis.wired.ports.iter().position(|p| p.outside).unwrap_or(0);
            let acting = built.port_lengths(index).map_or(0.0, |l| l.1) * 1e3;
            format!(
                "the port acts {:.0} {} than reckoned ({:.0} to {:.0})",
                mm((acting * (value - 1.0)).abs()),
                more("shorter", "longer"),
                mm(acting * (low - 1.0)),
                mm(acting * (high - 1.0))
            )
        }
        Unknown::Leak => {
            let gap = varied(built, &[(Unknown::Leak, value)]).map_or(0.0, |m| leak_area(&m, value)) * 1e6;
            if value > 1000.0 {
                "as good as airtight".into()
            } else {
                format!("QL {value:.1} ({low:.1} to {high:.1}), a gap of about {:.0}", square_mm(gap))
            }
        }
        Unknown::Suspension => format!(
            "the suspension is {:.0} % {} ({:.0} to {:.0} %): fs {:.1} Hz",
            percent.abs(),
            more("stiffer", "softer"),
            range(low),
            range(high),
            built.woofer.fs / value.sqrt()
        ),
        Unknown::MovingMass => format!(
            "the cone moves {:.1} % {} mass ({:.1} to {:.1} %): fs {:.1} Hz",
            percent.abs(),
            more("less", "more"),
            range(low),
            range(high),
            built.woofer.fs / value.sqrt()
        ),
        Unknown::Motor => format!("Qes is {:.1} % {}", percent.abs(), more("lower", "higher")),
        Unknown::Fill => {
            format!("the fill does {:.0} % {} than reckoned", percent.abs(), more("less", "more"))
        }
        Unknown::RadiatorMass => format!("the radiators weigh {:.1} % {}", percent.abs(), more("less", "more")),
        Unknown::Path => format!("the path acts {:.1} % {}", percent.abs(), more("shorter", "longer")),
        Unknown::CoilResistance => format!("the coil has {:.1} % {} resistance", percent.abs(), more("less", "more")),
        Unknown::Inductance => format!("the coil has {:.1} % {} inductance", percent.abs(), more("less", "more")),
    }
    .into()
}

fn sentence(each: &[Cause], together: &[Cause], before: f64, left: f64, undecided: &[Text]) -> Text {
    let Some(first) = each.first() else { return "There is nothing in this design that could be varied.".into() };
    if first.rms_db > before * (1.0 - TENTH) && together.len() < 2 {
        return "Nothing here explains it.".into();
    }
    if together.is_empty() {
        return "Nothing here explains it.".into();
    }
    let mut text =
        Text::from(if together.len() == 1 { "What explains most: " } else { "What explains most together: " });
    for (i, cause) in together.iter().enumerate() {
        if i > 0 {
            text.add(if i + 1 == together.len() { "; and " } else { "; " });
        }
        text.add(cause.sentence.clone());
    }
    text.add(format!(". Of {before:.2} dB {left:.2} dB are left."));
    if !undecided.is_empty() {
        text.add(" This cannot be decided here; see below.");
    }
    text
}

/// Pairs that explain it equally well, with the measurement that would tell.
fn undecided(evidence: &[Evidence], each: &[Cause], before: f64) -> Vec<Text> {
    let Some(first) = each.first() else { return Vec::new() };
    if first.rms_db > before * (1.0 - TENTH) {
        return Vec::new();
    }
    let impedance = evidence.iter().any(|e| e.taken == Taken::InBox {});
    each.iter()
        .skip(1)
        .filter(|other| other.rms_db < first.rms_db * (1.0 + TENTH) + 1e-3)
        .map(|other| {
            let which = which_would_tell(first.unknown, other.unknown, impedance);
            format!(
                "{} and {} explain it equally well here: {which}.",
                oak_drum_text::capital(&first.title),
                other.title
            )
            .into()
        })
        .collect()
}

/// The measurement that tells two causes apart.
fn which_would_tell(a: Unknown, b: Unknown, impedance: bool) -> &'static str {
    let has = |u: Unknown| a == u || b == u;
    let woofer = |u: Unknown| matches!(u, Unknown::Suspension | Unknown::MovingMass | Unknown::Motor);
    if woofer(a) || woofer(b) {
        return "the woofer's impedance in free air would tell, with a mass on its cone if both are the woofer's";
    }
    if has(Unknown::Volume) && has(Unknown::Fill) {
        return "measure once with the fill out: the tape tells the rest";
    }
    if !impedance {
        return "the impedance at the terminals would tell";
    }
    if has(Unknown::Leak) {
        return "measure again with joints and terminals taped over";
    }
    "measure again with the port shut: then only the volume is left"
}
