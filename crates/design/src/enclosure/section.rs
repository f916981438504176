//! A box of one chamber in section: how deep it has to be for the air it is to hold.

use crate::analysis::Analysis;
use crate::analysis::inside::Shell;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What a box of one chamber is drawn and pulled by.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct SectionResult {
    /// Net volume it is for, L.
    pub net_l: f64,
    /// Inside height: the cabinet's, or assumed, mm.
    pub height_mm: f64,
    /// Inside depth that the net volume needs, with everything that displaces air, mm.
    pub depth_mm: f64,
    /// What one millimetre of depth holds, L.
    pub l_per_mm: f64,
    /// Thickness of the boards, mm.
    pub panel_mm: f64,
    /// Thickness of the baffle, mm.
    pub baffle_mm: f64,
}

/// The section of a box of one chamber without a path; `None` of any other.
///
/// Without a cabinet the box is the assumed one. A cabinet that is no rectangular box is taken at its mean cross-section.
pub fn section(analysis: &Analysis) -> Option<SectionResult> {
    let [chamber] = &analysis.wired.chambers[..] else { return None };
    if analysis.wired.path.is_some() {
        return None;
    }
    let shell = Shell::of(analysis);
    let [width, height, depth] = shell.inside;
    let net = chamber.net * 1e3;
    // the ledger's first two lines are the outside and the boards, what follows lies in the air
    let (l_per_mm, taken) = match &analysis.ledger {
        Some(ledger) => {
            let inside: f64 = ledger.lines.iter().take(2).map(|line| line.litres).sum();
            (inside / depth, inside - ledger.net_l)
        }
        None => (width * height * 1e-6, width * height * depth * 1e-6 - net),
    };
    (l_per_mm.is_finite() && l_per_mm > 0.0).then(|| SectionResult {
        net_l: net,
        height_mm: height,
        depth_mm: (net + taken) / l_per_mm,
        l_per_mm,
        panel_mm: shell.panel,
        baffle_mm: shell.baffle,
    })
}
