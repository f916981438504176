//! What a design is recognised by among many: a few figures and its level.

use crate::analysis::Analysis;
use crate::enclosure::figures::{Compared, compared};
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_acoustics::outputs::Sweep;
use oak_drum_document::Checked;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A design at a glance.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct Card {
    /// Highest frequency below the passband at half power, Hz; absent where it is not reached.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub f3_hz: Option<f64>,
    /// What boxes are compared by, at the design's drive.
    pub compared: Compared,
    /// Outside sizes of its cabinet: width, height and depth, mm; absent without one.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub outside_mm: Option<[f64; 3]>,
    /// Frequencies of its level, Hz.
    pub frequency_hz: Vec<f64>,
    /// Level there at the design's drive, dB.
    pub level_db: Vec<f64>,
}

/// Points of the small curve.
const POINTS: usize = 72;

/// What a design is recognised by.
pub fn card(design: &Checked) -> Card {
    let analysis = Analysis::of(design);
    let frequencies = log_frequencies(10.0, 300.0, POINTS);
    let curves = Sweep::new(&analysis.wired.network, analysis.conditions).curves(&frequencies);
    Card {
        f3_hz: analysis.edges().edges[0],
        compared: compared(&analysis, &curves),
        outside_mm: design.cabinet.as_ref().map(|c| [c.width_mm, c.height_mm, c.depth_mm]),
        frequency_hz: frequencies,
        level_db: curves.level_db,
    }
}
