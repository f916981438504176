//! How the workshop's boxes come out: what was measured over what was reckoned, box by box, with the scatter; and what of it the next
//! design may be reckoned with.
//!
//! Every box is fitted to its own impedance ([`crate::prove::box_fit`]), reckoned as it was before anything measured was kept in it: its
//! port has the length it was cut to and the ends of theory. Deviations are means and standard deviations of logarithms. A correction is
//! offered where the mean lies more than two standard errors from nothing, the usual bound of one chance in twenty for many boxes and a
//! looser one for few, which is said; of a single box nothing is known of the scatter.

use crate::analysis::Analysis;
use crate::analysis::inside::chamber_of;
use crate::prove::as_built::AsBuilt;
use crate::prove::box_fit::fit_box;
use crate::prove::cures::{Cure, changed};
use crate::prove::evidence::Evidence;
use crate::prove::unknown::{Unknown, varied};
use crate::prove::view::Measured;
use oak_drum_curves::about::Taken;
use oak_drum_document::{Change, Checked, apply, read_current};
use oak_drum_text::{Text, litres};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::{Value, json};

/// What comes out otherwise than reckoned.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
#[schemars(rename = "HabitOf")]
pub enum Of {
    /// The tuning of a port or a radiator, or the resonance of a closed box.
    Tuning,
    /// The ends of the outer port, as a factor on theory.
    Ends,
    /// Net volume.
    Volume,
    /// Leak losses.
    Leak,
    /// Where the level has fallen to half.
    HalfPower,
}

impl Of {
    /// All of them, in the order they are told.
    pub const ALL: [Of; 5] = [Of::Tuning, Of::Volume, Of::Ends, Of::HalfPower, Of::Leak];

    /// What it is called.
    pub fn title(self) -> &'static str {
        match self {
            Of::Tuning => "tuning or fc",
            Of::Ends => "ends of the port",
            Of::Volume => "net volume",
            Of::Leak => "QL of leaks",
            Of::HalfPower => "f3",
        }
    }
    /// The unit of its figures.
    fn unit(self) -> &'static str {
        match self {
            Of::Tuning | Of::HalfPower => "Hz",
            Of::Volume => "L",
            Of::Ends | Of::Leak => "",
        }
    }
}

/// A figure of a box, as it was reckoned and as it was measured.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[schemars(rename = "HabitFigure")]
pub struct Figure {
    /// Which.
    pub of: Of,
    /// As reckoned; absent where nothing was reckoned with.
    pub reckoned: Option<f64>,
    /// As measured.
    pub measured: f64,
}

/// How a box came out.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct CameOut {
    /// The build.
    pub build: String,
    /// Letter of the revision that was measured.
    pub revision: String,
    /// Whether it is the build that asks: it is shown, but no correction comes from it.
    pub own: bool,
    /// Its figures.
    pub figures: Vec<Figure>,
}

/// What the workshop's boxes have in common.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Habit {
    /// Of what.
    pub of: Of,
    /// What it is called.
    pub title: String,
    /// The unit of its figures; empty for numbers.
    pub unit: String,
    /// In how many other boxes it was measured.
    pub boxes: u32,
    /// Mean deviation from what was reckoned, per cent; of leaks absent.
    pub off_percent: Option<f64>,
    /// Standard deviation, per cent; absent of a single box.
    pub scatter_percent: Option<f64>,
    /// Mean of what was measured, where that is what is learned (leaks, ends).
    pub mean: Option<f64>,
    /// In a sentence.
    pub sentence: Text,
}

/// How the workshop's boxes come out.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Habits {
    /// The boxes that were measured.
    pub boxes: Vec<CameOut>,
    /// What they have in common, the asking build's own left out.
    pub habits: Vec<Habit>,
    /// What this design may be reckoned with.
    pub corrections: Vec<Cure>,
}

/// The design as it was reckoned: ports of the length they have, their ends as theory has them.
fn as_reckoned(design: &Checked) -> Option<Checked> {
    fn without(value: &mut Value) {
        match value {
            Value::Object(map) => {
                map.remove("end_factor");
                map.values_mut().for_each(without);
            }
            Value::Array(list) => list.iter_mut().for_each(without),
            _ => {}
        }
    }
    let whole = Analysis::of(design);
    let mut document = serde_json::to_value(design).ok()?;
    for port in &whole.wired.ports {
        let by = json!({"by": "length", "length_mm": port.realised.length * 1e3});
        apply(&mut document, &[Change::set(format!("/enclosure{}/sizing", port.pointer), by)]);
    }
    without(&mut document["enclosure"]);
    read_current(document).ok()
}

fn tuning(analysis: &Analysis) -> Option<f64> {
    let named = |id: &str| analysis.wired.figures.iter().find(|f| f.id == id).map(|f| f.value);
    ["fb_hz", "tuning_hz", "fc_hz"].into_iter().find_map(named)
}

fn net(analysis: &Analysis) -> Option<f64> {
    analysis.wired.chambers.iter().find(|c| !c.pointer.is_empty()).map(|c| c.net * 1e3)
}

/// What its document says of leaks.
fn stated_leak(analysis: &Analysis) -> Option<f64> {
    let chamber = analysis.wired.chambers.iter().find(|c| !c.pointer.is_empty())?;
    let document = serde_json::to_value(&analysis.design).ok()?;
    document.pointer(&format!("/enclosure{}", chamber.part("leak_q")))?.as_f64()
}

/// How a box came out, by the impedance that was measured in it; `None` where it cannot be fitted.
pub fn came_out(build: &str, revision: &str, own: bool, design: &Checked, measured: &Measured) -> Option<CameOut> {
    if measured.about.taken != (Taken::InBox {}) {
        return None;
    }
    let built = AsBuilt::of(&as_reckoned(design)?)?;
    let mut evidence = Evidence::of(&built.analysis, &measured.id, measured.about.taken, measured.curve.clone(), None);
    evidence.filtered = measured.about.filtered;
    let fit = fit_box(&built, &evidence, false).ok()?;
    let model = varied(&built, &fit.values)?;
    let value = |unknown: Unknown| fit.values.iter().find(|(u, _)| *u == unknown).map(|(_, v)| *v);
    let mut figures = Vec::new();
    let mut add = |of: Of, reckoned: Option<f64>, measured: Option<f64>| {
        if let Some(measured) = measured.filter(|m| m.is_finite() && *m > 0.0) {
            figures.push(Figure { of, reckoned: reckoned.filter(|r| *r > 0.0), measured });
        }
    };
    add(Of::Tuning, tuning(&built.analysis), tuning(&model));
    if value(Unknown::Volume).is_some() {
        add(Of::Volume, net(&built.analysis), net(&model));
    }
    add(Of::Ends, Some(1.0), value(Unknown::Port).and_then(|k| ends_factor(&built, k)));
    add(Of::HalfPower, built.analysis.edges().edges[0], model.edges().edges[0]);
    add(Of::Leak, stated_leak(&built.analysis), value(Unknown::Leak));
    Some(CameOut { build: build.into(), revision: revision.into(), own, figures })
}

/// The factor on the ends of the outer port that gives its air `k` times the length it was reckoned with.
fn ends_factor(built: &AsBuilt, k: f64) -> Option<f64> {
    let ports = &built.analysis.wired.ports;
    let index = (0..ports.len()).find(|i| ports[*i].outside && chamber_of(&built.analysis, &ports[*i]).is_some())?;
    let (own, acting) = built.port_lengths(index)?;
    let ends = acting - own;
    (ends > 1e-4).then(|| 1.0 + (k - 1.0) * acting / ends)
}

/// What is less off than this came out as reckoned, per cent: no board is sawn nearer.
const SMALL: f64 = 0.5;

/// Mean and standard deviation.
fn spread(list: &[f64]) -> (f64, Option<f64>) {
    let n = list.len() as f64;
    let mean = list.iter().sum::<f64>() / n;
    let of = || (list.iter().map(|x| (x - mean).powi(2)).sum::<f64>() / (n - 1.0)).sqrt();
    (mean, (list.len() > 1).then(of))
}

/// Whether a mean differs from nothing by more than two standard errors.
fn tells(mean: f64, scatter: Option<f64>, n: usize) -> bool {
    scatter.is_none_or(|s| mean.abs() > 2.0 * s / (n as f64).sqrt())
}

fn percent(log: f64) -> f64 {
    (log.exp() - 1.0) * 100.0
}

struct Learned {
    of: Of,
    /// Logarithm of measured over reckoned; of leaks and ends of what was measured.
    mean: f64,
    scatter: Option<f64>,
    boxes: usize,
    tells: bool,
}

fn learn(of: Of, boxes: &[CameOut]) -> Option<Learned> {
    let logs: Vec<f64> = boxes
        .iter()
        .filter(|b| !b.own)
        .flat_map(|b| b.figures.iter().filter(|f| f.of == of))
        .filter_map(|f| match of {
            Of::Leak => Some(f.measured.ln()),
            _ => Some((f.measured / f.reckoned?).ln()),
        })
        .collect();
    if logs.is_empty() {
        return None;
    }
    let (mean, scatter) = spread(&logs);
    // a leak's Q is learned whatever it is
    let tells = of == Of::Leak || tells(mean, scatter, logs.len());
    Some(Learned { of, mean, scatter, boxes: logs.len(), tells })
}

fn told(l: &Learned) -> Habit {
    let scatter = l.scatter.map(|s| s.exp() - 1.0);
    let boxes = if l.boxes == 1 { "In one other box".to_owned() } else { format!("In {} other boxes", l.boxes) };
    let title = l.of.title();
    let give = match scatter {
        Some(s) => format!(", give or take {:.0} %", s * 100.0),
        None => "; how far others scatter is not known".into(),
    };
    let sentence = match l.of {
        Of::Leak => format!("{boxes} the {title} was {:.0} as measured{give}.", l.mean.exp()),
        _ if percent(l.mean).abs() < SMALL => format!("{boxes} the {title} came out as reckoned{give}."),
        of => {
            let scattered = if l.tells { "" } else { ": too scattered to reckon with" };
            let came = match of {
                Of::Ends => format!("acted {:.2} times as reckoned", l.mean.exp()),
                _ => format!("came out {:+.1} % off", percent(l.mean)),
            };
            format!("{boxes} the {title} {came}{give}{scattered}.")
        }
    };
    Habit {
        of: l.of,
        title: title.into(),
        unit: l.of.unit().into(),
        boxes: l.boxes as u32,
        off_percent: (l.of != Of::Leak).then(|| percent(l.mean)),
        scatter_percent: scatter.map(|s| s * 100.0),
        mean: matches!(l.of, Of::Leak | Of::Ends).then(|| l.mean.exp()),
        sentence: sentence.into(),
    }
}

/// What boxes have in common, and what of it this design may be reckoned with.
pub fn habits(design: &Checked, boxes: Vec<CameOut>) -> Habits {
    let learned: Vec<Learned> = Of::ALL.into_iter().filter_map(|of| learn(of, &boxes)).collect();
    let analysis = Analysis::of(design);
    let corrections = learned.iter().filter(|l| l.tells).filter_map(|l| correction(&analysis, l));
    let corrections = corrections.filter(|cure| changed(design, &cure.changes).is_some()).collect();
    Habits { corrections, habits: learned.iter().map(told).collect(), boxes }
}

/// What of it a design is reckoned with; none where it has been already, or where it follows from the rest.
fn correction(analysis: &Analysis, l: &Learned) -> Option<Cure> {
    let few = match l.boxes {
        1 => " It is one box.",
        2..=4 => " Few boxes: it may still be chance.",
        _ => "",
    };
    let (title, sentence, change) = match l.of {
        Of::Tuning | Of::HalfPower => return None,
        Of::Ends => {
            let port = analysis.wired.ports.iter().find(|p| p.outside)?;
            let factor = (l.mean.exp() * 100.0).round() / 100.0;
            if port.port.end_factor.is_some() || (factor - 1.0).abs() < 0.02 {
                return None;
            }
            (
                "Reckon the port's ends as they come out".to_owned(),
                format!("Its ends then act {factor:.2} times as theory has them, and the tube is cut to that.{few}"),
                Change::set(format!("/enclosure{}/end_factor", port.pointer), factor),
            )
        }
        Of::Leak => {
            let chamber = analysis.wired.chambers.iter().find(|c| !c.pointer.is_empty())?;
            let q = l.mean.exp().round().clamp(3.0, 500.0);
            if stated_leak(analysis).is_some_and(|now| (now / q).ln().abs() < 0.1) {
                return None;
            }
            (
                "Reckon with the leaks your boxes have".to_owned(),
                format!(
                    "QL {q:.0} in place of {}.{few}",
                    match stated_leak(analysis) {
                        Some(now) => format!("{now:.0}"),
                        None => "none".into(),
                    }
                ),
                Change::set(format!("/enclosure{}", chamber.part("leak_q")), q),
            )
        }
        Of::Volume => {
            let cabinet = analysis.design.cabinet.as_ref()?;
            // what boxes lose to glue, bracing and wires beyond what was counted is counted as small parts
            let lost = net(analysis)? * (1.0 - l.mean.exp());
            let small = ((cabinet.bracing_l + lost) * 10.0).round() / 10.0;
            if small < 0.0 || (small - cabinet.bracing_l).abs() < 0.1 {
                return None;
            }
            (
                "Count what your boxes lose".to_owned(),
                format!(
                    "{small:.1} for small parts in place of {now:.1}.{few}",
                    small = litres(small),
                    now = litres(cabinet.bracing_l)
                ),
                Change::set("/cabinet/bracing_l", small),
            )
        }
    };
    Some(Cure {
        id: format!("habit_{:?}", l.of).to_lowercase(),
        title: title.into(),
        sentence: sentence.into(),
        changes: vec![change],
    })
}
