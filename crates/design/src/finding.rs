//! Findings: what a design tells its builder. One rule a function; each station has its own, `evaluation::findings` joins them.
//!
//! A rule reads a [`Case`] and returns findings; it changes nothing and knows no interface. A remedy is a
//! list of changes to the design; its predicted effect is computed by trying it.

use crate::analysis::Analysis;
use crate::trial::{self, Case};
use oak_drum_document::Change;
use oak_drum_text::Text;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value;

/// How bad it is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Severity {
    /// Cannot be built or will break something.
    Broken,
    /// Will be heard or missed; look here.
    Look,
    /// A caution for people or parts.
    Caution,
    /// Worth knowing.
    Note,
    /// As wished.
    Good,
}

/// Whose limit it is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum LimitSource {
    /// Physics or geometry.
    Physics,
    /// Common practice of the trade.
    CommonPractice,
    /// The builder's own brief.
    Brief,
    /// What the maker states.
    DataSheet,
}

/// A figure or a limit.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Quantity {
    /// Value.
    pub value: f64,
    /// Unit.
    pub unit: String,
}

/// A change that would help.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Remedy {
    /// What is done, in a few words.
    pub title: Text,
    /// The changes to the design.
    pub changes: Vec<Change>,
    /// What comes of it, computed by trying.
    pub predicted: Text,
}

/// One finding.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Finding {
    /// Stable name of the rule that found it.
    pub kind: String,
    /// How bad it is.
    pub severity: Severity,
    /// A few words.
    pub title: Text,
    /// A sentence with the figure and the limit.
    pub sentence: Text,
    /// The figure.
    pub figure: Quantity,
    /// The limit it is held against, if there is one.
    pub limit: Option<Quantity>,
    /// Whose limit.
    pub limit_source: LimitSource,
    /// The station it belongs to.
    pub station: String,
    /// The field to look at (JSON pointer).
    pub pointer: String,
    /// What would help.
    pub remedies: Vec<Remedy>,
}

/// A rule: its stable name, the station its findings belong to, and its function.
pub type Rule = (&'static str, &'static str, fn(&Case) -> Vec<Finding>);

/// A finding without remedies; its kind and station are set from its rule.
pub(crate) fn finding(
    severity: Severity,
    limit_source: LimitSource,
    pointer: &str,
    title: impl Into<Text>,
    sentence: impl Into<Text>,
    figure: (f64, &str),
    limit: Option<f64>,
) -> Finding {
    let unit = figure.1.to_owned();
    Finding {
        kind: String::new(),
        severity,
        title: title.into(),
        sentence: sentence.into(),
        figure: Quantity { value: figure.0, unit: unit.clone() },
        limit: limit.map(|value| Quantity { value, unit }),
        limit_source,
        station: String::new(),
        pointer: pointer.into(),
        remedies: Vec::new(),
    }
}

/// A remedy, tried: `predict` turns the changed design into the predicted effect, or drops the remedy where it
/// does not help. What has to move along is among its changes; what it breaks stands behind the prediction.
pub(crate) fn remedy(
    case: &Case,
    title: impl Into<Text>,
    changes: Vec<Change>,
    predict: impl Fn(&Analysis) -> Option<String>,
) -> Option<Remedy> {
    // most that are dropped are dropped here, before anything is built
    let first = case.with(&changes)?;
    predict(&first)?;
    let tried = trial::try_out(case, changes, Some(first), &|a| predict(a).is_some())?;
    let predicted = predict(&tried.after)?;
    Some(said(title.into(), predicted.into(), tried))
}

/// The same of a remedy that may help only once the cabinet goes along.
pub(crate) fn along_with_cabinet(
    case: &Case,
    title: impl Into<Text>,
    changes: Vec<Change>,
    predict: impl Fn(&Analysis) -> Option<String>,
) -> Option<Remedy> {
    let tried = trial::try_out(case, changes, None, &|a| predict(a).is_some())?;
    let predicted = predict(&tried.after)?;
    Some(said(title.into(), predicted.into(), tried))
}

/// A remedy whose effect is known already, with what moves along and what it breaks; none where it cannot be built.
pub(crate) fn known(case: &Case, remedy: Remedy) -> Option<Remedy> {
    let tried = trial::try_out(case, remedy.changes, None, &|_| true)?;
    Some(said(remedy.title, remedy.predicted, tried))
}

fn said(title: Text, mut predicted: Text, tried: trial::Tried) -> Remedy {
    if let Some(moved) = &tried.moved {
        predicted.add(format!("; {moved}"));
    }
    for broken in &tried.breaks {
        predicted.add(format!("; but {broken}"));
    }
    Remedy { title, changes: tried.changes, predicted }
}

/// The first of so many steps that does, where all after it do too; found by halving. `None` where even the last does not.
pub(crate) fn first_step(count: usize, mut does: impl FnMut(usize) -> bool) -> Option<usize> {
    let (mut low, mut high) = (0, count.checked_sub(1)?);
    if !does(high) {
        return None;
    }
    while low < high {
        let middle = low.midpoint(high);
        if does(middle) {
            high = middle;
        } else {
            low = middle + 1;
        }
    }
    Some(high)
}

/// Where the volume behind the cone is stated, the volume itself (m³); `None` in families that have no such field.
pub(crate) fn volume(analysis: &Analysis) -> Option<(String, f64)> {
    let chamber = analysis.wired.chambers.iter().find(|c| !c.pointer.is_empty())?;
    Some((format!("/enclosure{}", chamber.pointer), chamber.net))
}

/// The low end in words: "f3 31 Hz".
pub(crate) fn low_end(analysis: &Analysis) -> String {
    analysis.edges().edges[0].map_or("f3 not reached".into(), |f| format!("f3 {f:.0} Hz"))
}

/// A number as a builder would say it: three significant digits.
pub(crate) fn say(value: f64) -> String {
    let digits = 2 - value.abs().max(1e-12).log10().floor() as i32;
    format!("{value:.*}", digits.clamp(0, 3) as usize)
}

/// The same number rounded the same way, for putting into a design.
pub(crate) fn rounded(value: f64) -> f64 {
    say(value).parse().unwrap_or(value)
}

/// A value as JSON, for putting into a design.
pub(crate) fn value(of: impl serde::Serialize) -> Value {
    serde_json::to_value(of).unwrap_or_default()
}
