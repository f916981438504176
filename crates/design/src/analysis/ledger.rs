//! The air ledger: where every litre of the cabinet goes.

use crate::analysis::folding::Folded;
use crate::analysis::solids::solids;
use crate::analysis::spots::port_l;
use crate::analysis::tunnel::tunnel;
use oak_drum_acoustics::families::Wired;
use oak_drum_cabinet::board::Role;
use oak_drum_document::{BuiltIn, Design, Mounting, Shape};
use oak_drum_text::{Text, mm};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// One line of the ledger.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Line {
    /// Stable name.
    pub id: String,
    /// What it is.
    pub label: Text,
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

/// Draws the ledger up of a design whose path is not folded.
pub(crate) fn ledger_of(design: &Design, wired: &Wired) -> Option<Ledger> {
    ledger(design, wired, None)
}

/// Draws the ledger up from the cabinet's solids; `None` without a cabinet.
///
/// The port counts with its walls over the length that lies inside, behind the baffle. The woofer counts with
/// its stated displacement, or an estimate from its sizes, once for each that stands in the box.
pub(crate) fn ledger(design: &Design, wired: &Wired, folded: Option<&Folded>) -> Option<Ledger> {
    let cabinet = design.cabinet.as_ref()?;
    let line = |id: &str, label: String, litres: f64, pointer: &str| Line {
        id: id.into(),
        label: label.into(),
        litres,
        pointer: pointer.into(),
    };
    let solid = solids(design, cabinet, folded.map(|f| &f.fold), wired);
    let litres = |mm3: f64| mm3 * 1e-6;
    let size = match cabinet.shape {
        Shape::Tube { .. } => format!("Outside {:.0} across, {:.0} high", mm(cabinet.width_mm), mm(cabinet.height_mm)),
        _ => format!("Outside {:.0}", mm([cabinet.width_mm, cabinet.height_mm, cabinet.depth_mm])),
    };
    let walls = match cabinet.shape {
        Shape::Tube { wall_mm } => format!("tube of {wall_mm:.1} and discs", wall_mm = mm(wall_mm)),
        _ => format!("boards, {:.0}", mm(cabinet.panel_mm)),
    };
    let mut lines = vec![
        line("outside", size, litres(solid.bulk), "/cabinet/depth_mm"),
        line("panels", walls, litres(solid.inner - solid.bulk), "/cabinet/panel_mm"),
        line("bracing", "small parts".into(), -cabinet.bracing_l, "/cabinet/bracing_l"),
    ];
    let mut taken = |id: &str, label: String, mm3: f64, pointer: &str| {
        if mm3 > 0.0 {
            lines.push(line(id, label, -litres(mm3), pointer));
        }
    };
    let count = cabinet.braces.len();
    let braces = if count == 1 { "brace".to_owned() } else { format!("{count} braces") };
    taken("braces", braces, solid.of(Role::Brace) + solid.of(Role::Dowel), "/cabinet/braces");
    taken("strips", "corner strips".into(), solid.of(Role::Strip), "/cabinet/strips_mm");
    let inner_boards = if folded.is_some() { "boards of the fold" } else { "board between the chambers" };
    taken("fold", inner_boards.into(), solid.of(Role::Fold), "/cabinet/fold");
    match design.built_in() {
        Some(BuiltIn { own_chamber: true, .. }) => {
            taken("amplifier", "amplifier's own chamber".into(), solid.of(Role::Bay) + solid.bay, "/cabinet/amplifier");
        }
        Some(BuiltIn { width_mm, height_mm, depth_mm, at, .. }) => {
            let inside = (depth_mm - cabinet.wall_mm(at.face)).max(0.0);
            taken("amplifier", "amplifier".into(), width_mm * height_mm * inside, "/cabinet/amplifier");
        }
        None => {}
    }
    if let Some(cup) = cabinet.terminals {
        let inside = (cup.depth_mm - cabinet.wall_mm(cup.at.face)).max(0.0);
        let area = std::f64::consts::PI * cup.hole_mm * cup.hole_mm / 4.0;
        taken("terminals", "terminal cup".into(), area * inside, "/cabinet/terminals");
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
        let built = tunnel(design, folded.is_some());
        let (label, one) = match built {
            Some(tunnel) => ("tunnel between the cones, boards and air", litres(tunnel.bulk())),
            None => ("between the cones", pair.chamber_l + each),
        };
        lines.push(line("coupling", label.into(), -one * f64::from(count), "/array/isobaric/chamber_l"));
    }
    for report in &wired.ports {
        let litres = port_l(cabinet, &report.port, report.realised.length);
        lines.push(line(
            "port",
            "port, tube and air".into(),
            -litres,
            &format!("/enclosure{}/section", report.pointer),
        ));
    }
    if let Some(radiators) = design.enclosure.radiators() {
        // a frame, a cone and a weight: a cone's frustum over a third of the cone's diameter (an estimate)
        let (count, cone) = (radiators.count, 2.0 * (radiators.sd_cm2 * 1e2 / std::f64::consts::PI).sqrt());
        let (wide, narrow, deep) = (0.5 * cone, 0.25 * cone, (0.35 * cone - cabinet.baffle_mm).max(0.0));
        let each = std::f64::consts::PI * deep / 3.0 * (wide * wide + wide * narrow + narrow * narrow);
        let label = if count == 1 { "radiator (estimated)".into() } else { format!("{count} radiators (estimated)") };
        lines.push(line("radiators", label, -litres(each) * f64::from(count), "/enclosure/radiators/sd_cm2"));
    }
    let net_l: f64 = lines.iter().map(|l| l.litres).sum();
    let mut wanted_net_l: f64 = wired.chambers.iter().map(|c| c.net * 1e3).sum();
    // a line's air is told as a chamber; a horn's is not, nor is what lies before its throat
    if let Some(path) = &wired.path {
        if wired.chambers.iter().all(|c| !c.pointer.is_empty()) {
            wanted_net_l += path.path.volume() * 1e3;
        }
        wanted_net_l += design.enclosure.head_l().unwrap_or(0.0);
    }
    if let Some(folded) = folded {
        // the path is told with its way through the wall, which is outside of the inside, and without the woofer that stands in it; a
        // closed chamber is told without its woofer already
        let through = |face: u32| if face == 0 { cabinet.baffle_mm } else { cabinet.panel_mm };
        let mouths = folded.fold.mouths.iter();
        let ways: f64 = mouths.map(|m| (m.to_mm - m.from_mm) * m.width_mm * through(m.face)).sum();
        wanted_net_l -= litres(ways);
        if folded.fold.chamber.is_none() {
            wanted_net_l -= each * f64::from(count);
        }
    }
    let fill_factor = wired.chambers.first().map_or(1.0, |c| c.fill_factor);
    Some(Ledger { lines, net_l, fill_factor, acts_like_l: net_l * fill_factor, wanted_net_l })
}
