//! What stands in a woofer's way inside the box.

use crate::analysis::Analysis;
use crate::cabinet::built_cabinet::built;
use crate::cabinet::mounted_part::Kind;
use oak_drum_document::{Brace, Cabinet, Ties};

/// The space a woofer takes behind the baffle, mm: a cylinder around its axis.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Behind {
    /// Its axis, across and up.
    pub middle: [f64; 2],
    /// Radius of the magnet.
    pub radius: f64,
    /// How far it reaches behind the baffle.
    pub depth: f64,
    /// Whether a size of it is an estimate from the cone.
    pub estimated: bool,
}

/// Where the first woofer stands in the box: at its stated place, or where it is assumed; sizes from its sheet, else
/// 0.6 of the cone's diameter for the magnet and 0.45 of it for the depth (common practice).
pub fn behind(analysis: &Analysis, cabinet: &Cabinet) -> Option<Behind> {
    analysis.wired.chambers.first().filter(|c| !c.pointer.is_empty())?;
    let built = built(analysis)?;
    let mounted_part = built.mounted_parts.iter().find(|s| s.kind == Kind::Woofer && s.face == Some(0))?;
    let woofer = &analysis.design.woofer;
    let cone = 2.0 * (analysis.woofer.ts.sd / std::f64::consts::PI).sqrt() * 1e3;
    let estimated = woofer.magnet_diameter_mm.is_none() || woofer.depth_mm.is_none();
    Some(Behind {
        middle: [mounted_part.at[0] - cabinet.panel_mm, mounted_part.at[1] - cabinet.panel_mm],
        radius: woofer.magnet_diameter_mm.unwrap_or(0.6 * cone) / 2.0,
        depth: (woofer.depth_mm.unwrap_or(0.45 * cone) - cabinet.baffle_mm).max(0.0),
        estimated,
    })
}

/// A brace that runs through the magnet: (where it stands, the nearest places below and above that would do), mm.
pub fn magnet(analysis: &Analysis, cabinet: &Cabinet, brace: &Brace) -> Option<(f64, f64, f64)> {
    let woofer = behind(analysis, cabinet)?;
    let clear = |axis: usize, at: f64, half: f64| {
        let (middle, reach) = match axis {
            2 => (0.0, woofer.depth),
            axis => (woofer.middle[axis], woofer.radius),
        };
        // 5 mm of air around it
        let needed = reach + half + 5.0;
        ((at - middle).abs() < needed).then_some((at, middle - needed, middle + needed))
    };
    match *brace {
        Brace::Window { lies, at_mm, thickness_mm, .. } | Brace::Shelf { lies, at_mm, thickness_mm, .. } => {
            if let Brace::Shelf { lies, reach_part, .. } = brace
                && lies.axis() != 2
            {
                // one that begins at the back stays clear where it ends before the magnet
                let depth = cabinet.inside_mm()[2];
                if depth * (1.0 - reach_part) > woofer.depth + 5.0 {
                    return None;
                }
            }
            clear(lies.axis(), at_mm, thickness_mm / 2.0)
        }
        Brace::Cross { lies, at_mm, bar_mm } => clear(lies.axis(), at_mm, bar_mm / 2.0),
        Brace::Dowel { ties, at_mm, and_mm, diameter_mm } => {
            let half = diameter_mm / 2.0 + 5.0;
            match ties {
                Ties::Sides => {
                    let hit = at_mm < woofer.depth + half && (and_mm - woofer.middle[1]).abs() < woofer.radius + half;
                    hit.then_some((at_mm, at_mm, woofer.depth + half))
                }
                Ties::FloorAndTop => {
                    let hit = and_mm < woofer.depth + half && (at_mm - woofer.middle[0]).abs() < woofer.radius + half;
                    hit.then_some((and_mm, and_mm, woofer.depth + half))
                }
                Ties::FrontAndBack => {
                    let away = (at_mm - woofer.middle[0]).hypot(and_mm - woofer.middle[1]);
                    let needed = woofer.radius + half;
                    (away < needed).then_some((at_mm, woofer.middle[0] - needed, woofer.middle[0] + needed))
                }
            }
        }
    }
}
