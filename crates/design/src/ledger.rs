//! The air ledger: where every litre of the cabinet goes.

use crate::document::{Design, Mounting};
use oak_drum_acoustics::families::Wired;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// One line of the ledger.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Line {
    /// Stable name.
    pub id: String,
    /// What it is.
    pub label: String,
    /// Litres; what is taken away is negative.
    pub litres: f64,
    /// The field that causes it (JSON pointer into the design).
    pub pointer: String,
}

/// The ledger of a cabinet.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Ledger {
    /// From the outside volume down; their sum is `net_l`.
    pub lines: Vec<Line>,
    /// What is left for the air, L.
    pub net_l: f64,
    /// By how much the fill makes it act larger.
    pub fill_factor: f64,
    /// Net volume times fill, L.
    pub acts_like_l: f64,
    /// The net volume the design wants, L.
    pub wanted_net_l: f64,
}

/// Draws the ledger up; `None` without a cabinet.
///
/// The port counts with its walls over the length that lies inside, behind the baffle. The woofer counts with
/// its stated displacement, or an estimate from its sizes, once for each that stands in the box.
pub fn ledger(design: &Design, wired: &Wired) -> Option<Ledger> {
    let cabinet = design.cabinet.as_ref()?;
    let line = |id: &str, label: String, litres: f64, pointer: &str| Line {
        id: id.into(),
        label,
        litres,
        pointer: pointer.into(),
    };
    let outside = cabinet.outside_l();
    let size = format!("Outside {:.0} x {:.0} x {:.0} mm", cabinet.width_mm, cabinet.height_mm, cabinet.depth_mm);
    let boards = format!("boards, {:.0} mm", cabinet.panel_mm);
    let mut lines = vec![
        line("outside", size, outside, "/cabinet/depth_mm"),
        line("panels", boards, cabinet.inside_l() - outside, "/cabinet/panel_mm"),
        line("bracing", "strips and others".into(), -cabinet.bracing_l, "/cabinet/bracing_l"),
    ];
    if !cabinet.braces.is_empty() {
        let count = cabinet.braces.len();
        let label = if count == 1 { "brace".to_owned() } else { format!("{count} braces") };
        lines.push(line("braces", label, -cabinet.braces_l(), "/cabinet/braces"));
    }
    let displacement = design.woofer.displacement();
    let each = displacement.map_or(0.0, |d| d.0);
    // of isobaric pairs the inner woofer stands in the box; looking the same way, so does the air between them
    let isobaric = design.array.isobaric;
    let count = if isobaric.is_some() { design.array.count / 2 } else { design.array.count };
    let how = match displacement {
        None => " (displacement not stated)",
        Some((_, true)) => " (estimated)",
        Some((_, false)) => "",
    };
    let woofers = if count == 1 { format!("woofer{how}") } else { format!("{count} woofers{how}") };
    lines.push(line("woofer", woofers, -each * f64::from(count), "/woofer/displacement_l"));
    if let Some(pair) = isobaric
        && pair.mounting == Mounting::FrontToBack
    {
        let litres = (pair.chamber_l + each) * f64::from(count);
        lines.push(line("coupling", "between the cones".into(), -litres, "/array/isobaric/chamber_l"));
    }
    for report in &wired.ports {
        let litres = cabinet.port_l(&report.port, report.realised.length);
        lines.push(line(
            "port",
            "port, tube and air".into(),
            -litres,
            &format!("/enclosure{}/section", report.pointer),
        ));
    }
    let net_l: f64 = lines.iter().map(|l| l.litres).sum();
    let wanted_net_l: f64 = wired.chambers.iter().map(|c| c.net * 1e3).sum();
    let fill_factor = wired.chambers.first().map_or(1.0, |c| c.fill_factor);
    Some(Ledger { lines, net_l, fill_factor, acts_like_l: net_l * fill_factor, wanted_net_l })
}
