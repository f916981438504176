//! What each parameter set of a woofer gives in one and the same box.

use crate::analysis::Analysis;
use crate::woofer::sheet::WooferResult;
use oak_drum_acoustics::driver::Woofer;
use oak_drum_document::{Checked, Design, check};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Highest frequency at which levels are held against each other, Hz: above it the coil's inductance speaks, not the suspension.
const UP_TO: f64 = 200.0;

/// The parameter sets of a woofer in the box of a design.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct SetsInBox {
    /// In their order; null in the place of one that cannot be simulated in it.
    pub sets: Vec<Option<SetInBox>>,
}

/// One parameter set in the box of a design.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct SetInBox {
    /// The complete set, as simulated.
    pub woofer: WooferResult,
    /// Where the box with it falls to half power, Hz; absent where it does not.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub f3_hz: Option<f64>,
    /// Where the level differs most from that of the first set; absent of the first, and where that cannot be simulated.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub shift: Option<Shift>,
}

/// A difference of level.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Shift {
    /// By how much, dB.
    pub by_db: f64,
    /// Where, Hz.
    pub at_hz: f64,
}

/// The sheets one after another in the box of a design, the first being what the others are held against.
///
/// Levels are compared on the analysis' frequencies from the lowest note of the brief to 200 Hz.
pub fn in_box(design: &Checked, sheets: &[Woofer]) -> SetsInBox {
    let worked: Vec<Option<Analysis>> = sheets
        .iter()
        .map(|sheet| check(Design { woofer: sheet.clone(), ..Design::clone(design) }).ok().as_ref().map(Analysis::of))
        .collect();
    let first = worked.first().and_then(Option::as_ref);
    let told = |(i, analysis): (usize, &Option<Analysis>)| {
        let analysis = analysis.as_ref()?;
        Some(SetInBox {
            woofer: WooferResult::of(&analysis.woofer, &analysis.conditions.air),
            f3_hz: analysis.edges().edges[0],
            shift: first.filter(|_| i > 0).and_then(|first| shift(analysis, first)),
        })
    };
    SetsInBox { sets: worked.iter().enumerate().map(told).collect() }
}

/// Where two analyses differ most in level, from the lowest note up.
pub(crate) fn shift(now: &Analysis, before: &Analysis) -> Option<Shift> {
    let (now_curves, before_curves) = (now.curves(), before.curves());
    let levels = now_curves.level_db.iter().zip(&before_curves.level_db);
    now_curves
        .frequency
        .iter()
        .zip(levels)
        .filter(|(f, _)| (now.lowest_note()..=UP_TO).contains(*f))
        .map(|(f, (level, was))| Shift { by_db: level - was, at_hz: *f })
        .max_by(|a, b| a.by_db.abs().total_cmp(&b.by_db.abs()))
}

/// Levels (dB) of an analysis where they are held against each other, from 20 Hz (so that several have the same many) to 200 Hz.
pub(crate) fn levels_between(analysis: &Analysis) -> Vec<f64> {
    let curves = analysis.curves();
    let both = curves.frequency.iter().zip(&curves.level_db);
    both.filter(|(f, _)| (20.0..=UP_TO).contains(*f)).map(|(_, level)| *level).collect()
}
