//! A box of one chamber in section: how deep it has to be for the air it is to hold.

use crate::analysis::Analysis;
use crate::analysis::inside::Shell;
use oak_drum_document::Shape;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What a box of one chamber is drawn and pulled by.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct SectionResult {
    /// Net volume it is for, L.
    pub net_l: f64,
    /// Inside height: the cabinet's, or assumed, mm.
    pub height_mm: f64,
    /// Inside depth, at its deepest, that the net volume needs with everything that displaces air, mm; of a tube, which is as deep as it is wide,
    /// the depth it has.
    pub depth_mm: f64,
    /// Whether the depth follows the volume.
    pub follows: bool,
    /// What one millimetre of depth holds, or would hold, L.
    pub l_per_mm: f64,
    /// Thickness of the boards, mm.
    pub panel_mm: f64,
    /// Thickness of the baffle, mm.
    pub baffle_mm: f64,
}

/// By how much deeper (mm) a cabinet has to be for what is wanted of it: net volume is linear in the depth of every shape but a
/// tube's, at the inside width times the inside height. `None` without a cabinet.
pub fn deeper_by(analysis: &Analysis) -> Option<f64> {
    let (ledger, cabinet) = (analysis.ledger.as_ref()?, analysis.design.cabinet.as_ref()?);
    let [w, h, _] = cabinet.inside_mm();
    Some((ledger.wanted_net_l - ledger.net_l) * 1e6 / (w * h))
}

/// The section of a box of one chamber without a path; `None` of any other. Without a cabinet the box is the assumed one.
pub fn section(analysis: &Analysis) -> Option<SectionResult> {
    let [chamber] = &analysis.wired.chambers[..] else { return None };
    if analysis.wired.path.is_some() {
        return None;
    }
    let shell = Shell::of(analysis);
    let [width, height, depth] = shell.inside;
    let l_per_mm = width * height * 1e-6;
    let tube = analysis.design.cabinet.as_ref().is_some_and(|c| matches!(c.shape, Shape::Tube { .. }));
    let deeper = deeper_by(analysis).filter(|_| !tube).unwrap_or(0.0);
    // a leaning or stepped front is told at its foot, where the outside is measured
    let stated = analysis.design.cabinet.as_ref().filter(|_| !tube);
    let deepest = stated.map_or(depth, |c| c.depth_mm - c.panel_mm - c.baffle_mm);
    (l_per_mm > 0.0 && deeper.is_finite()).then_some(SectionResult {
        net_l: chamber.net * 1e3,
        height_mm: height,
        depth_mm: deepest + deeper,
        follows: !tube,
        l_per_mm,
        panel_mm: shell.panel,
        baffle_mm: shell.baffle,
    })
}
