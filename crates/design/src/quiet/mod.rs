//! What a box says of its own, and how to keep it from it: standing waves, fill, panels, leaks.

pub mod collisions;
pub mod filling;
pub mod leaks;
pub mod lines;
pub mod modes;
pub mod panels;
pub mod ratios;
mod rules;

use crate::analysis::Analysis;
use crate::finding::Rule;
use crate::trial::Trouble;
use filling::Fills;
use leaks::Leaks;
use lines::PathWave;
use modes::{ChamberModes, ModePicture};
use oak_drum_document::Checked;
use panels::Panels;
use ratios::Ratio;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The rules of this station: name, station where it is seen, function.
pub const RULES: &[Rule] = &[
    ("standing_wave", "quiet", rules::standing_wave),
    ("equal_sides", "quiet", rules::equal_sides),
    ("fill_in_the_way", "quiet", rules::fill_in_the_way),
    ("brace_meets_magnet", "quiet", rules::brace_meets_magnet),
    ("brace_blocks_air", "quiet", rules::brace_blocks_air),
    ("panel_sings", "quiet", rules::panel_sings),
];

/// Braces where they cannot be.
pub fn in_the_way(analysis: &Analysis) -> Vec<Trouble> {
    let Some(cabinet) = &analysis.design.cabinet else { return Vec::new() };
    let met = cabinet.braces.iter().any(|brace| collisions::magnet(analysis, cabinet, brace).is_some());
    if met { vec![Trouble::Unbuildable("a brace runs through the magnet")] } else { Vec::new() }
}

/// Everything about what a box says of its own.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Quiet {
    /// The highest frequency it is sent, Hz.
    pub plays_to_hz: f64,
    /// Whether that is assumed.
    pub plays_to_assumed: bool,
    /// Standing waves of each chamber.
    pub chambers: Vec<ChamberModes>,
    /// Waves along a line or horn.
    pub path: Vec<PathWave>,
    /// Proportions, the present ones first.
    pub ratios: Vec<Ratio>,
    /// Fill.
    pub fills: Option<Fills>,
    /// Panels; absent without a cabinet.
    pub panels: Option<Panels>,
    /// Leaks, chamber by chamber.
    pub leaks: Vec<Leaks>,
}

/// Works everything out.
pub fn quiet(design: &Checked) -> Quiet {
    let analysis = Analysis::of(design);
    Quiet {
        fills: filling::fills(&analysis),
        panels: panels::panels(&analysis),
        leaks: leaks::leaks(&analysis),
        ..waves_of(&analysis)
    }
}

/// Standing waves and proportions alone: what follows while woofer or port are pulled at. Fill, panels and leaks are left out.
pub fn waves(design: &Checked) -> Quiet {
    waves_of(&Analysis::of(design))
}

fn waves_of(analysis: &Analysis) -> Quiet {
    let brief = &analysis.design.brief;
    Quiet {
        plays_to_hz: brief.plays_to(),
        plays_to_assumed: brief.plays_to_hz.is_none(),
        chambers: modes::chambers(analysis),
        path: lines::waves(analysis),
        ratios: ratios::ratios(analysis),
        fills: None,
        panels: None,
        leaks: Vec::new(),
    }
}

/// The pressure of a mode in the chamber whose net volume stands at `pointer`; `None` where there is no such chamber.
pub fn mode_picture(design: &Checked, pointer: &str, order: [u32; 3]) -> Option<ModePicture> {
    modes::picture(&Analysis::of(design), pointer, order)
}
