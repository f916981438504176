//! Thiele-Small parameters from impedances: in free air, with a mass on the cone, on a closed box of known volume.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | x | jf/fs | 1 |
//! | Δm, Mms | added mass, moving mass with its air | kg |
//! | V, Vas | air in the known box, air as springy as the suspension | m³ |
//!
//! Z = Zcoil + (Re/Qes)/(x·(1 + Δm/Mms) + 1/Qms + (1 + Vas/V)/x), fitted to the whole complex curves at once (to the magnitudes where a
//! phase is missing); residual (model - data)/|data|. Three laws of the coil are tried; the one with the lowest BIC is named.

use crate::curve::Curve;
use crate::fit::closed_form::{ByHand, Unreadable, read};
use crate::fit::least_squares::{Fitted, SIGMAS, Unfitted, fit, lag_one, widening};
use num_complex::Complex64;
use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::driver::Coil;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::{PI, TAU};

/// Most points of a curve that are fitted; a longer one is thinned.
const MOST_FITTED: usize = 500;

/// A law of the coil's inductance.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum CoilLaw {
    /// Le in series.
    Plain,
    /// Le in series with L2 parallel to R2.
    Parallel,
    /// K·(jω)^n (Leach, JAES 2002).
    Semi,
}

/// All of them.
pub const COIL_LAWS: [CoilLaw; 3] = [CoilLaw::Plain, CoilLaw::Parallel, CoilLaw::Semi];

impl CoilLaw {
    fn count(self) -> usize {
        match self {
            CoilLaw::Plain => 1,
            CoilLaw::Parallel => 3,
            CoilLaw::Semi => 2,
        }
    }

    fn coil(self, re: f64, p: &[f64]) -> Coil {
        let plain = Coil { re, le: 0.0, parallel: None, semi: None };
        match self {
            CoilLaw::Plain => Coil { le: p[0], ..plain },
            CoilLaw::Parallel => Coil { le: p[0], parallel: Some((p[1], p[2])), ..plain },
            CoilLaw::Semi => Coil { semi: Some((p[0], p[1])), ..plain },
        }
    }

    /// Where a fit begins, from the reactance (Ω) at an angular frequency.
    fn start(self, re: f64, reactance: f64, omega: f64) -> Vec<f64> {
        let le = (reactance / omega).max(1e-6);
        match self {
            CoilLaw::Plain => vec![le],
            CoilLaw::Parallel => vec![le * 0.6, le, re.max(1.0)],
            CoilLaw::Semi => {
                let n = 0.75;
                vec![reactance.max(1e-3) / (omega.powf(n) * (n * PI / 2.0).sin()), n]
            }
        }
    }

    /// Name and unit of each of its figures in a sheet.
    fn figures(self) -> &'static [(&'static str, f64)] {
        match self {
            CoilLaw::Plain => &[("le_mh", 1e3)],
            CoilLaw::Parallel => &[("le_mh", 1e3), ("l2_mh", 1e3), ("r2_ohm", 1.0)],
            CoilLaw::Semi => &[("semi_inductance_k", 1.0), ("semi_inductance_n", 1.0)],
        }
    }
}

/// What is fitted, and what is known besides.
#[derive(Clone, Debug)]
pub struct Given<'a> {
    /// In free air.
    pub free: &'a Curve,
    /// With a mass on the cone: the curve, kg, and by what share the scale may be off.
    pub mass: Option<(&'a Curve, f64, f64)>,
    /// On a closed box: the curve, its air in m³, and by what share the tape may be off.
    pub boxed: Option<(&'a Curve, f64, f64)>,
    /// Cone area, m², as read off the cone, and by what share it may be off.
    pub sd: Option<(f64, f64)>,
    /// Coil resistance from a meter, Ω: held.
    pub re: Option<f64>,
    /// The air.
    pub air: Air,
    /// One law of the coil only; else all are tried.
    pub law: Option<CoilLaw>,
}

/// A figure with its range.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Ranged {
    /// Name as in a woofer's sheet.
    pub id: String,
    /// The value, in the unit of its name.
    pub value: f64,
    /// Lower end of the 95 % range.
    pub low: f64,
    /// Upper end.
    pub high: f64,
    /// Standard deviation of the noise alone, as a share.
    pub sigma: f64,
}

/// How well a law of the coil does.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct LawTried {
    /// Which.
    pub law: CoilLaw,
    /// N·ln(rss/N) + p·ln N; the lowest is taken.
    pub bic: f64,
    /// Root of the mean squared residual, as a share.
    pub rms: f64,
}

/// A woofer, fitted.
#[derive(Clone, Debug)]
pub struct WooferFit {
    /// Its figures with ranges.
    pub figures: Vec<Ranged>,
    /// The law of its coil.
    pub law: CoilLaw,
    /// All laws that fitted, the best first.
    pub laws: Vec<LawTried>,
    /// Root of the mean squared residual, as a share of the impedance.
    pub rms: f64,
    /// Whether magnitudes alone were fitted.
    pub magnitude_only: bool,
    /// For each curve the fitted impedance at its points, in the order free, mass, box.
    pub fitted: Vec<Curve>,
    /// For each curve the residual at its points, as a share.
    pub residuals: Vec<Curve>,
    /// What has to be said.
    pub remarks: Vec<String>,
}

/// Why there is no fit.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
pub enum NoFit {
    /// One of the curves shows no such woofer.
    #[error("{0}: {1}")]
    Curve(&'static str, Unreadable),
    /// Not an impedance.
    #[error("{0}: this is a level, not an impedance")]
    NotImpedance(&'static str),
    /// The search failed.
    #[error("no fit: {0}")]
    Search(Unfitted),
    /// It fits badly.
    #[error(
        "the model of a woofer does not fit: {percent:.0} % are left over. Is it in free air, and does nothing rattle?"
    )]
    Bad {
        /// What is left, per cent.
        percent: f64,
    },
    /// The mass did not do what a mass does.
    #[error(
        "with the mass on it the resonance is at {with:.1} Hz, without it at {without:.1} Hz: a mass lowers it. Are the two curves mixed up, or did it fall off?"
    )]
    MassDoesNothing {
        /// Resonance with it, Hz.
        with: f64,
        /// Resonance without it, Hz.
        without: f64,
    },
    /// The box did not do what a box does.
    #[error(
        "on the box the resonance is at {with:.1} Hz, in free air at {without:.1} Hz: a closed box raises it. Are the two curves mixed up, or does the box leak?"
    )]
    BoxDoesNothing {
        /// Resonance on it, Hz.
        with: f64,
        /// Resonance in free air, Hz.
        without: f64,
    },
    /// Impossible figures.
    #[error("the fit comes to {what}, which no woofer has: is the reference resistor the stated one?")]
    Impossible {
        /// Which, in words.
        what: String,
    },
}

/// The curves of a fit with what is different in each.
struct Case<'a> {
    curve: std::borrow::Cow<'a, Curve>,
    mass: f64,
    volume: f64,
}

/// Which parameter is where.
struct Layout {
    law: CoilLaw,
    re: Option<f64>,
    mass: bool,
    boxed: bool,
}

impl Layout {
    fn coil_at(&self) -> usize {
        if self.re.is_some() { 3 } else { 4 }
    }
    fn mass_at(&self) -> Option<usize> {
        self.mass.then_some(self.coil_at() + self.law.count())
    }
    fn box_at(&self) -> Option<usize> {
        self.boxed.then_some(self.coil_at() + self.law.count() + usize::from(self.mass))
    }
    fn re(&self, p: &[f64]) -> f64 {
        self.re.unwrap_or_else(|| p[3])
    }
    fn coil(&self, p: &[f64]) -> Coil {
        let at = self.coil_at();
        self.law.coil(self.re(p), &p[at..at + self.law.count()])
    }
    fn impedance(&self, p: &[f64], case: &Case, frequency: f64) -> Complex64 {
        let heavier = if case.mass > 0.0 { self.mass_at().map_or(0.0, |i| case.mass / p[i]) } else { 0.0 };
        let stiffer = if case.volume > 0.0 { self.box_at().map_or(0.0, |i| p[i] / case.volume) } else { 0.0 };
        impedance(&self.coil(p), [p[0], p[1], p[2]], heavier, stiffer, frequency)
    }
}

/// The impedance (Ω) of a woofer at a frequency (Hz): its coil, [fs, Qes, Qms], and by what shares a mass makes its cone heavier and
/// a closed box its suspension stiffer.
pub fn impedance(coil: &Coil, [fs, qes, qms]: [f64; 3], heavier: f64, stiffer: f64, frequency: f64) -> Complex64 {
    let x = Complex64::new(0.0, frequency / fs);
    let held: Complex64 = coil.impedance(TAU * frequency);
    held + coil.re / qes / (x * (1.0 + heavier) + 1.0 / qms + (1.0 + stiffer) / x)
}

/// Fits a woofer.
///
/// # Errors
/// [`NoFit`] with the reason in words.
pub fn fit_woofer(given: &Given) -> Result<WooferFit, NoFit> {
    let mut cases = vec![Case { curve: fitted_points(given.free), mass: 0.0, volume: 0.0 }];
    let mut names = vec!["in free air"];
    if let Some((curve, mass, _)) = given.mass {
        cases.push(Case { curve: fitted_points(curve), mass, volume: 0.0 });
        names.push("with the mass");
    }
    if let Some((curve, volume, _)) = given.boxed {
        cases.push(Case { curve: fitted_points(curve), mass: 0.0, volume });
        names.push("on the box");
    }
    let mut hands = Vec::new();
    for (case, name) in cases.iter().zip(&names) {
        if case.curve.quantity != crate::curve::Measurand::Impedance {
            return Err(NoFit::NotImpedance(name));
        }
        hands.push(read(&case.curve, given.re).map_err(|e| NoFit::Curve(name, e))?);
    }
    let free = hands[0];
    let by_mass = given.mass.is_some().then(|| hands[1]);
    let by_box = given.boxed.is_some().then(|| hands[hands.len() - 1]);
    if let Some(hand) = by_mass.filter(|h| h.fs >= free.fs * 0.995) {
        return Err(NoFit::MassDoesNothing { with: hand.fs, without: free.fs });
    }
    if let Some(hand) = by_box.filter(|h| h.fs <= free.fs * 1.005) {
        return Err(NoFit::BoxDoesNothing { with: hand.fs, without: free.fs });
    }
    let magnitude_only = cases.iter().any(|c| !c.curve.has_phase);
    let laws: &[CoilLaw] = given.law.as_ref().map_or(&COIL_LAWS, std::slice::from_ref);
    let mut found: Vec<(Layout, Fitted)> = Vec::new();
    let mut failed = Unfitted::Astray;
    for law in laws {
        let layout = Layout { law: *law, re: given.re, mass: by_mass.is_some(), boxed: by_box.is_some() };
        let start = start(&layout, given, &free, by_mass, by_box);
        let residuals = |p: &[f64]| Some(residuals(&layout, &cases, p, magnitude_only));
        match fit(&start, &residuals) {
            Ok(fitted) => found.push((layout, fitted)),
            Err(why) => failed = why,
        }
    }
    found.sort_by(|a, b| a.1.bic().total_cmp(&b.1.bic()));
    let tried = found
        .iter()
        .map(|(layout, f)| LawTried { law: layout.law, bic: f.bic(), rms: (f.rss / f.residuals.len() as f64).sqrt() })
        .collect::<Vec<_>>();
    if found.is_empty() {
        return Err(NoFit::Search(failed));
    }
    let (layout, fitted) = found.swap_remove(0);
    let rms = tried[0].rms;
    if rms > 0.1 {
        return Err(NoFit::Bad { percent: rms * 100.0 });
    }
    impossible(&layout, &fitted.values)?;
    Ok(told(given, &cases, layout, fitted, tried, magnitude_only))
}

/// The points of a curve a fit looks at: not those in noise.
fn fitted_points(curve: &Curve) -> std::borrow::Cow<'_, Curve> {
    let sound = |i: usize| curve.snr_db.get(i).is_none_or(|s| *s >= 10.0);
    let all = (0..curve.len()).all(sound);
    if all && curve.len() <= MOST_FITTED {
        return std::borrow::Cow::Borrowed(curve);
    }
    let mut kept = curve.empty();
    for i in (0..curve.len()).filter(|i| sound(*i)) {
        kept.frequency.push(curve.frequency[i]);
        kept.value.push(curve.value[i]);
    }
    std::borrow::Cow::Owned(kept.thinned(MOST_FITTED))
}

fn start(layout: &Layout, given: &Given, free: &ByHand, by_mass: Option<ByHand>, by_box: Option<ByHand>) -> Vec<f64> {
    let last = given.free.len() - 1;
    let omega = TAU * given.free.frequency[last];
    let z = given.free.value[last];
    let top = if given.free.has_phase { z.im } else { (z.norm_sqr() - free.re * free.re).max(0.0).sqrt() };
    // what the motion still shows up there is taken out
    let motion = free.re / free.qes * free.fs * TAU / omega;
    let mut list = vec![free.fs, free.qes, free.qms];
    if layout.re.is_none() {
        list.push(free.re);
    }
    list.extend(layout.law.start(free.re, (top + motion).max(0.01 * free.re), omega));
    if let Some((hand, (_, mass, _))) = by_mass.zip(given.mass) {
        list.push(mass / ((free.fs / hand.fs).powi(2) - 1.0));
    }
    if let Some((hand, (_, volume, _))) = by_box.zip(given.boxed) {
        list.push(volume * ((hand.fs / free.fs).powi(2) - 1.0));
    }
    list
}

fn residuals(layout: &Layout, cases: &[Case], p: &[f64], magnitude_only: bool) -> Vec<f64> {
    let mut list = Vec::new();
    for case in cases {
        for (f, z) in case.curve.frequency.iter().zip(&case.curve.value) {
            let model = layout.impedance(p, case, *f);
            let size = z.norm();
            if magnitude_only {
                list.push((model.norm() - size) / size);
            } else {
                let off = (model - z) / size;
                list.push(off.re);
                list.push(off.im);
            }
        }
    }
    list
}

fn impossible(layout: &Layout, p: &[f64]) -> Result<(), NoFit> {
    let outside = |name: &str, value: f64, unit: &str, from: f64, to: f64| {
        let what = format!("{name} {value:.3}{unit}");
        if (from..=to).contains(&value) { Ok(()) } else { Err(NoFit::Impossible { what }) }
    };
    outside("fs", p[0], " Hz", 2.0, 2000.0)?;
    outside("Qes", p[1], "", 0.02, 50.0)?;
    outside("Qms", p[2], "", 0.2, 100.0)?;
    outside("Re", layout.re(p), " ohm", 0.1, 200.0)
}

/// Correlation of neighbouring residuals, the worst of the curves' real and imaginary parts.
fn correlation(cases: &[Case], residuals: &[f64], magnitude_only: bool) -> f64 {
    let each = if magnitude_only { 1 } else { 2 };
    let mut from = 0;
    let mut worst: f64 = -1.0;
    for case in cases {
        let part = &residuals[from..from + case.curve.len() * each];
        from += part.len();
        for k in 0..each {
            let list: Vec<f64> = part.iter().skip(k).step_by(each).copied().collect();
            worst = worst.max(lag_one(&list));
        }
    }
    worst
}

fn told(
    given: &Given,
    cases: &[Case],
    layout: Layout,
    fitted: Fitted,
    laws: Vec<LawTried>,
    magnitude_only: bool,
) -> WooferFit {
    let mut remarks = Vec::new();
    let (by, doubted) = widening(correlation(cases, &fitted.residuals, magnitude_only));
    if doubted {
        remarks.push(format!(
            "what is left over hangs together: the model is wrong somewhere (creep of the suspension, too much drive); ranges are {by:.1} times as wide for it"
        ));
    }
    if magnitude_only {
        remarks.push("magnitudes alone were fitted, since a phase is missing: ranges are wider for it".into());
    }
    let fitted = fitted.widened(by);
    let p = &fitted.values;
    let n = p.len();
    let axis = |entries: &[(usize, f64)]| {
        let mut g = vec![0.0; n];
        for (i, by) in entries {
            g[*i] += by;
        }
        g
    };
    let (fs, qes, qms, re) = (p[0], p[1], p[2], layout.re(p));
    let qts = qes * qms / (qes + qms);
    let mut figures = Vec::new();
    // `besides` is what neither scale nor tape can tell
    let mut tell = |id: &str, value: f64, gradient: Vec<f64>, besides: f64| {
        let sigma = fitted.sigma_of(&gradient);
        let all = SIGMAS * sigma.hypot(besides / SIGMAS);
        figures.push(Ranged { id: id.into(), value, low: value * (-all).exp(), high: value * all.exp(), sigma });
    };
    tell("fs_hz", fs, axis(&[(0, 1.0)]), 0.0);
    tell("qes", qes, axis(&[(1, 1.0)]), 0.0);
    tell("qms", qms, axis(&[(2, 1.0)]), 0.0);
    tell("qts", qts, axis(&[(1, qts / qes), (2, qts / qms)]), 0.0);
    let re_axis: Vec<(usize, f64)> = if layout.re.is_none() { vec![(3, 0.5)] } else { Vec::new() };
    match layout.re {
        None => tell("re_ohm", re, axis(&[(3, 1.0)]), 0.0),
        Some(re) => tell("re_ohm", re, axis(&[]), 0.0),
    }
    for (k, (id, scale)) in layout.law.figures().iter().enumerate() {
        let i = layout.coil_at() + k;
        tell(id, p[i] * scale, axis(&[(i, 1.0)]), 0.0);
    }
    let omega = TAU * fs;
    let stiffness = given.air.bulk_modulus();
    let bl = |mms: f64| (omega * mms * re / qes).sqrt();
    let mass_share = given.mass.map_or(0.0, |m| m.2);
    let box_share = given.boxed.map_or(0.0, |b| b.2);
    let (sd, sd_share) = given.sd.unwrap_or((0.0, 0.0));
    let mut mms = None;
    if let Some(i) = layout.mass_at() {
        mms = Some(p[i]);
        tell("mms_g", p[i] * 1e3, axis(&[(i, 1.0)]), mass_share);
        tell("bl_t_m", bl(p[i]), axis(&[&[(0, 0.5), (1, -0.5), (i, 0.5)], &re_axis[..]].concat()), mass_share / 2.0);
        tell("cms_mm_per_n", 1e3 / (omega * omega * p[i]), axis(&[(0, -2.0), (i, -1.0)]), mass_share);
        if given.sd.is_some() && layout.box_at().is_none() {
            let vas = stiffness * sd * sd / (omega * omega * p[i]);
            tell("vas_l", vas * 1e3, axis(&[(0, -2.0), (i, -1.0)]), mass_share.hypot(2.0 * sd_share));
        }
    }
    if let Some(i) = layout.box_at() {
        tell("vas_l", p[i] * 1e3, axis(&[(i, 1.0)]), box_share);
        if let Some(mms) = mms {
            // both tell: the area that brings them together
            let implied = (p[i] * omega * omega * mms / stiffness).sqrt();
            if given.sd.is_some() && (implied / sd - 1.0).abs() > 0.03 {
                remarks.push(format!(
                    "mass and box agree for a cone of {:.0} cm2, {:.0} % from the {:.0} cm2 stated: look at the cone's diameter, half of the surround on each side, and at the box's volume",
                    implied * 1e4,
                    ((implied / sd - 1.0) * 100.0).abs(),
                    sd * 1e4
                ));
            }
        } else if given.sd.is_some() {
            let mms = stiffness * sd * sd / (omega * omega * p[i]);
            let share = box_share.hypot(2.0 * sd_share);
            tell("mms_g", mms * 1e3, axis(&[(0, -2.0), (i, -1.0)]), share);
            tell("bl_t_m", bl(mms), axis(&[&[(0, -0.5), (1, -0.5), (i, -0.5)], &re_axis[..]].concat()), share / 2.0);
        }
    }
    if let Some((i, mass)) = layout.mass_at().zip(given.mass.map(|m| m.1)) {
        let ratio = mass / p[i];
        if ratio < 0.15 {
            remarks.push(format!(
                "the mass was only {:.0} % of the cone's: take one of half to the whole of {:.0} g",
                ratio * 100.0,
                p[i] * 1e3
            ));
        }
    }
    let lowest = cases[0].curve.frequency[0];
    if lowest > fs / 2.0 {
        remarks.push(format!(
            "the curve begins at {lowest:.0} Hz, close to the resonance at {fs:.1} Hz: Qms and Re hang on the flank below it"
        ));
    }
    let model = |case: &Case| case.curve.mapped(|f, _| layout.impedance(p, case, f));
    let curves: Vec<Curve> = cases.iter().map(model).collect();
    let residuals = cases
        .iter()
        .zip(&curves)
        .map(|(case, fitted)| {
            let value = case.curve.value.iter().zip(&fitted.value);
            let share = |(z, m): (&Complex64, &Complex64)| {
                if magnitude_only { ((m.norm() - z.norm()) / z.norm()).into() } else { (m - z) / z.norm() }
            };
            Curve { value: value.map(share).collect(), ..(*case.curve).clone() }
        })
        .collect();
    let rms = (fitted.rss / fitted.residuals.len() as f64).sqrt();
    WooferFit { figures, law: layout.law, laws, rms, magnitude_only, fitted: curves, residuals, remarks }
}

impl WooferFit {
    /// A figure by its name in a sheet.
    pub fn figure(&self, id: &str) -> Option<&Ranged> {
        self.figures.iter().find(|f| f.id == id)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;
    use oak_drum_acoustics::level::log_frequencies;

    /// The worked driver: fs 30 Hz, Qes 0.4, Qms 5, Vas 120 L, Re 5.6 Ω, Le 1 mH, 530 cm².
    fn worked(f: f64, mass: f64, volume: f64) -> Complex64 {
        let x = Complex64::new(0.0, f / 30.0);
        let heavier = mass / 0.093438;
        let stiffer = if volume > 0.0 { 0.12 / volume } else { 0.0 };
        Complex64::new(5.6, TAU * f * 1e-3) + 14.0 / (x * (1.0 + heavier) + 0.2 + (1.0 + stiffer) / x)
    }

    fn noisy(mass: f64, volume: f64, noise: f64, seed: u64) -> Curve {
        let mut random = fastrand::Rng::with_seed(seed);
        let mut gauss = || (0..12).map(|_| random.f64()).sum::<f64>() - 6.0;
        let frequency = log_frequencies(5.0, 2000.0, 200);
        let value = frequency
            .iter()
            .map(|f| {
                let z = worked(*f, mass, volume);
                z + Complex64::new(gauss(), gauss()) * noise * z.norm()
            })
            .collect();
        Curve { quantity: crate::curve::Measurand::Impedance, frequency, value, has_phase: true, ..Curve::default() }
    }

    fn given(free: &Curve) -> Given<'_> {
        Given {
            free,
            mass: None,
            boxed: None,
            sd: Some((0.053, 0.0)),
            re: None,
            air: Air::given(343.2, 1.2041),
            law: Some(CoilLaw::Plain),
        }
    }

    /// Standard deviations of 200 points with 0.5 % of noise on each part, computed outside this program.
    #[test]
    fn ranges_are_those_of_the_covariance() {
        let (free, heavy, boxed) = (noisy(0.0, 0.0, 0.005, 1), noisy(0.04, 0.0, 0.005, 2), noisy(0.0, 0.06, 0.005, 3));
        let mass = Given { mass: Some((&heavy, 0.04, 0.0)), ..given(&free) };
        let volume = Given { boxed: Some((&boxed, 0.06, 0.0)), ..given(&free) };
        let names = ["fs_hz", "qes", "qms", "re_ohm", "le_mh", "qts", "mms_g", "vas_l", "bl_t_m"];
        let truth = [30.0, 0.4, 5.0, 5.6, 1.0, 0.37037, 93.438, 120.0, 15.7028];
        let table = [
            (mass, [0.01666, 0.06340, 0.14035, 0.03494, 0.06329, 0.06335, 0.14850, 0.12649, 0.06762]),
            (volume, [0.01678, 0.06403, 0.15033, 0.03373, 0.06324, 0.06421, 0.04205, 0.06302, 0.03270]),
        ];
        for (given, sigmas) in table {
            let found = fit_woofer(&given).unwrap();
            assert!(!found.magnitude_only && found.remarks.is_empty(), "{:?}", found.remarks);
            for ((name, truth), sigma) in names.iter().zip(truth).zip(sigmas) {
                let figure = found.figure(name).unwrap();
                // the noise drawn is not exactly that of the table
                let scaled = figure.sigma * 0.005 / found.rms * 100.0;
                assert_relative_eq!(scaled, sigma, max_relative = 0.02);
                assert!((figure.value / truth - 1.0).abs() < 4.0 * sigma / 100.0, "{name}: {}", figure.value);
            }
        }
    }

    #[test]
    fn the_law_of_the_coil_is_found() {
        let free = noisy(0.0, 0.0, 0.002, 7);
        let found = fit_woofer(&Given { law: None, ..given(&free) }).unwrap();
        assert_eq!(found.law, CoilLaw::Plain, "{:?}", found.laws);
        let semi =
            free.mapped(|f, z| z - Complex64::new(0.0, TAU * f * 1e-3) + 0.03 * Complex64::new(0.0, TAU * f).powf(0.7));
        let found = fit_woofer(&Given { law: None, ..given(&semi) }).unwrap();
        assert_eq!(found.law, CoilLaw::Semi, "{:?}", found.laws);
        assert_relative_eq!(found.figure("semi_inductance_n").unwrap().value, 0.7, max_relative = 0.01);
        assert!(found.figure("vas_l").is_none(), "free air alone tells no volume");
    }

    #[test]
    fn magnitudes_do_where_there_is_no_phase() {
        let free = noisy(0.0, 0.0, 0.002, 9);
        let mute = Curve { has_phase: false, ..free.mapped(|_, z| z.norm().into()) };
        let found = fit_woofer(&given(&mute)).unwrap();
        assert!(found.magnitude_only);
        for (name, truth) in [("fs_hz", 30.0), ("qes", 0.4), ("qms", 5.0), ("re_ohm", 5.6)] {
            let figure = found.figure(name).unwrap();
            assert!(figure.low <= truth * 1.005 && figure.high >= truth * 0.995, "{figure:?}");
        }
    }

    /// The scale's error goes into Mms whole, into Bl by half; the area's into Vas twice.
    #[test]
    fn scale_and_tape_are_part_of_the_range() {
        let (free, heavy) = (noisy(0.0, 0.0, 1e-4, 1), noisy(0.04, 0.0, 1e-4, 2));
        let with = Given { mass: Some((&heavy, 0.04, 0.02)), sd: Some((0.053, 0.015)), ..given(&free) };
        let found = fit_woofer(&with).unwrap();
        let wide = |id: &str| found.figure(id).map(|f| (f.high / f.value).ln()).unwrap();
        assert_relative_eq!(wide("mms_g"), 0.02, max_relative = 0.05);
        assert_relative_eq!(wide("bl_t_m"), 0.01, max_relative = 0.05);
        assert_relative_eq!(wide("vas_l"), 0.02f64.hypot(0.03), max_relative = 0.05);
    }

    #[test]
    fn nonsense_is_refused_with_its_reason() {
        let free = noisy(0.0, 0.0, 0.002, 11);
        let says = |given: Given, words: &str| {
            let error = fit_woofer(&given).unwrap_err().to_string();
            assert!(error.contains(words), "{error}");
        };
        let coil = free.mapped(|f, _| Complex64::new(5.6, TAU * f * 1e-3));
        says(given(&coil), "no resonance peak");
        says(given(&free.between(27.0, 2000.0)), "measure from");
        let vented = free.mapped(|f, z| {
            let x = f / 30.0;
            z + 30.0 / (1.0 + (8.0 * (x - 2.2 / x)).powi(2))
        });
        says(given(&vented), "two peaks");
        let light = noisy(0.0, 0.06, 0.002, 3);
        says(Given { mass: Some((&light, 0.04, 0.0)), ..given(&free) }, "a mass lowers it");
        let heavy = noisy(0.04, 0.0, 0.002, 3);
        says(Given { boxed: Some((&heavy, 0.06, 0.0)), ..given(&free) }, "a closed box raises it");
        let level = Curve::of_level(free.frequency.clone(), &[90.0; 200], None);
        says(given(&level), "not an impedance");
        says(given(&free.between(25.0, 35.0).thinned(10)), "too few");
    }
}
