//! Findings: what a design tells its builder, worst first. One rule a function, all of them in [`RULES`].
//!
//! A rule reads an [`Analysis`] and returns findings; it changes nothing and knows no interface. A remedy is a
//! list of changes to the design; its predicted effect is computed by trying it.

mod array_rules;
mod box_rules;
mod brief_rules;
mod cabinet_rules;
mod dead_end;
mod fold_rules;
mod limit_rules;
mod port_rules;
mod quiet_rules;
pub(crate) mod trial;
mod woofer_rules;

use crate::analysis::{Analysis, Change};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

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
pub enum Whose {
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
    pub title: String,
    /// The changes to the design.
    pub changes: Vec<Change>,
    /// What comes of it, computed by trying.
    pub predicted: String,
}

/// One finding.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Finding {
    /// Stable name of the rule that found it.
    pub kind: String,
    /// How bad it is.
    pub severity: Severity,
    /// A few words.
    pub title: String,
    /// A sentence with the figure and the limit.
    pub sentence: String,
    /// The figure.
    pub figure: Quantity,
    /// The limit it is held against, if there is one.
    pub limit: Option<Quantity>,
    /// Whose limit.
    pub whose: Whose,
    /// The station it belongs to.
    pub station: String,
    /// The field to look at (JSON pointer).
    pub pointer: String,
    /// What would help.
    pub remedies: Vec<Remedy>,
}

/// A rule: its stable name and its function.
pub type Rule = (&'static str, fn(&Analysis) -> Vec<Finding>);

/// Every rule.
pub const RULES: &[Rule] = &[
    ("port_out_of_reach", port_rules::out_of_reach),
    ("port_dead_end", dead_end::dead_end),
    ("port_will_not_fit", port_rules::will_not_fit),
    ("port_meets_woofer", port_rules::meets_woofer),
    ("port_wider_than_box", port_rules::wider_than_box),
    ("port_not_as_stated", port_rules::not_as_stated),
    ("port_air_fast", port_rules::air_fast),
    ("pipe_resonance_low", port_rules::pipe_resonance_low),
    ("stroke_over_limit", limit_rules::stroke_over_limit),
    ("unloads_below_tuning", limit_rules::unloads_below_tuning),
    ("radiator_over_limit", limit_rules::radiator_over_limit),
    ("coil_over_power", limit_rules::coil_over_power),
    ("load_below_amplifier", limit_rules::load_below_amplifier),
    ("drive_over_amplifier", limit_rules::drive_over_amplifier),
    ("isobaric_too_shallow", array_rules::isobaric_too_shallow),
    ("isobaric_uncouples", array_rules::isobaric_uncouples),
    ("volume_missing", box_rules::volume_missing),
    ("volume_left_over", box_rules::volume_left_over),
    ("woofer_too_deep", box_rules::woofer_too_deep),
    ("response_humps", box_rules::response_humps),
    ("response_sags", box_rules::response_sags),
    ("fill_out_of_range", box_rules::fill_out_of_range),
    ("standing_wave", quiet_rules::standing_wave),
    ("equal_sides", quiet_rules::equal_sides),
    ("fill_in_the_way", quiet_rules::fill_in_the_way),
    ("brace_meets_magnet", quiet_rules::brace_meets_magnet),
    ("brace_blocks_air", quiet_rules::brace_blocks_air),
    ("panel_sings", quiet_rules::panel_sings),
    ("does_not_fold", fold_rules::does_not_fold),
    ("folds_otherwise", fold_rules::folds_otherwise),
    ("not_folded", fold_rules::not_folded),
    ("parts_collide", fold_rules::parts_collide),
    ("gap_under_woofer", fold_rules::gap_under_woofer),
    ("boards_cross", cabinet_rules::boards_cross),
    ("bay_through_walls", cabinet_rules::bay_through_walls),
    ("part_over_sheet", cabinet_rules::part_over_sheet),
    ("box_over_brief", brief_rules::box_over_brief),
    ("over_budget", brief_rules::over_budget),
    ("brief_level", brief_rules::brief_level),
    ("spaces_differ", brief_rules::spaces_differ),
    ("hearing", brief_rules::hearing),
    ("heavy", brief_rules::heavy),
    ("sheet_contradicts_itself", woofer_rules::sheet_contradicts_itself),
    ("limits_not_stated", woofer_rules::limits_not_stated),
];

/// All findings of a design, worst first.
pub fn findings(analysis: &Analysis) -> Vec<Finding> {
    let mut list: Vec<Finding> = RULES
        .iter()
        .flat_map(|(kind, rule)| {
            rule(analysis).into_iter().map(|mut finding| {
                finding.kind = (*kind).into();
                finding
            })
        })
        .collect();
    list.sort_by_key(|f| f.severity);
    list
}

/// A finding without remedies; its kind is set by the registry.
fn finding(
    severity: Severity,
    whose: Whose,
    (station, pointer): (&str, &str),
    title: impl Into<String>,
    sentence: impl Into<String>,
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
        whose,
        station: station.into(),
        pointer: pointer.into(),
        remedies: Vec::new(),
    }
}

/// A remedy, tried: `predict` turns the changed design into the predicted effect, or drops the remedy where it
/// does not help. What has to move along is among its changes; what it breaks stands behind the prediction.
fn remedy(
    analysis: &Analysis,
    title: impl Into<String>,
    changes: Vec<Change>,
    predict: impl Fn(&Analysis) -> Option<String>,
) -> Option<Remedy> {
    // most that are dropped are dropped here, before anything is built
    let first = analysis.with(&changes)?;
    predict(&first)?;
    let tried = trial::try_out(analysis, changes, Some(first), &|a| predict(a).is_some())?;
    let predicted = predict(&tried.after)?;
    Some(said(title.into(), predicted, tried))
}

/// The same of a remedy that may help only once the cabinet goes along.
fn along_with_cabinet(
    analysis: &Analysis,
    title: impl Into<String>,
    changes: Vec<Change>,
    predict: impl Fn(&Analysis) -> Option<String>,
) -> Option<Remedy> {
    let tried = trial::try_out(analysis, changes, None, &|a| predict(a).is_some())?;
    let predicted = predict(&tried.after)?;
    Some(said(title.into(), predicted, tried))
}

/// A remedy whose effect is known already, with what moves along and what it breaks; none where it cannot be built.
fn settled(analysis: &Analysis, remedy: Remedy) -> Option<Remedy> {
    let tried = trial::try_out(analysis, remedy.changes, None, &|_| true)?;
    Some(said(remedy.title, remedy.predicted, tried))
}

fn said(title: String, mut predicted: String, tried: trial::Tried) -> Remedy {
    if let Some(moved) = &tried.moved {
        predicted += &format!("; {moved}");
    }
    for broken in &tried.breaks {
        predicted += &format!("; but {broken}");
    }
    Remedy { title, changes: tried.changes, predicted }
}

/// The first of so many steps that does, where all after it do too; found by halving. `None` where even the last does not.
fn first_step(count: usize, mut does: impl FnMut(usize) -> bool) -> Option<usize> {
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
fn volume(analysis: &Analysis) -> Option<(String, f64)> {
    let chamber = analysis.wired.chambers.iter().find(|c| !c.pointer.is_empty())?;
    Some((format!("/enclosure{}", chamber.pointer), chamber.net))
}

/// The low end in words: "f3 31 Hz".
fn low_end(analysis: &Analysis) -> String {
    analysis.edges().edges[0].map_or("f3 not reached".into(), |f| format!("f3 {f:.0} Hz"))
}

/// A number as a builder would say it: three significant digits.
fn say(value: f64) -> String {
    let digits = 2 - value.abs().max(1e-12).log10().floor() as i32;
    format!("{value:.*}", digits.clamp(0, 3) as usize)
}

/// The same number rounded the same way, for putting into a design.
fn rounded(value: f64) -> f64 {
    say(value).parse().unwrap_or(value)
}

/// A sentence with a capital first letter.
pub(crate) fn capital(text: &str) -> String {
    let mut letters = text.chars();
    letters.next().map_or(String::new(), |first| first.to_uppercase().collect::<String>() + letters.as_str())
}
