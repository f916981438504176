//! The inside of a design's box and of each chamber: as stated, as the cabinet has it, or assumed.

use crate::analysis::Analysis;
use oak_drum_acoustics::families::inside::{FillPlace, Inside};
use oak_drum_acoustics::families::{Chamber, PortReport};
use oak_drum_acoustics::network::cavity::BARE_Q;
use oak_drum_acoustics::port::Face;

/// The inside a port has to fit into, mm.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Shell {
    /// Inside width, height, depth.
    pub inside: [f64; 3],
    /// Thickness of the boards.
    pub panel: f64,
    /// Thickness of the baffle.
    pub baffle: f64,
    /// Whether it is assumed.
    pub assumed: bool,
}

impl Shell {
    /// Thickness of a wall.
    pub fn wall(&self, face: Face) -> f64 {
        if face == Face::Baffle { self.baffle } else { self.panel }
    }

    /// The design's cabinet, or a box of 3 : 4 : 3.5 with 18 mm boards around its air.
    pub fn of(analysis: &Analysis) -> Shell {
        match &analysis.design.cabinet {
            Some(cabinet) => Shell {
                inside: cabinet.inside_mm().map(|side| side.max(0.0)),
                panel: cabinet.panel_mm,
                baffle: cabinet.baffle_mm,
                assumed: false,
            },
            None => {
                let net: f64 = analysis.wired.chambers.iter().map(|c| c.net).sum();
                // one part in sixteen more for woofer and braces
                let unit = (net * 1.06 / (3.0 * 4.0 * 3.5)).cbrt() * 1e3;
                Shell { inside: [3.0 * unit, 4.0 * unit, 3.5 * unit], panel: 18.0, baffle: 18.0, assumed: true }
            }
        }
    }
}

/// The chamber a port is tuned with: the one whose fields begin as its own do.
pub fn chamber_of<'a>(analysis: &'a Analysis, report: &PortReport) -> Option<&'a Chamber> {
    analysis.wired.chambers.iter().find(|chamber| !chamber.pointer.is_empty() && chamber.part("port") == report.pointer)
}

/// Where a port stands in the design.
pub fn place(report: &PortReport) -> String {
    format!("/enclosure{}", report.pointer)
}

/// The inside of a chamber as stated, from the cabinet, or of a box of 3 : 4 : 3.5; and where it comes from if not stated.
pub fn inside_of(analysis: &Analysis, chamber: &Chamber) -> (Inside, Option<&'static str>) {
    if let Some(inside) = chamber.inside {
        return (inside, None);
    }
    let single = analysis.wired.chambers.len() == 1;
    let (sides, from) = match (single, &analysis.design.cabinet) {
        (true, Some(cabinet)) => (cabinet.inside_mm(), "from the cabinet, woofer above and opening below"),
        (true, None) => {
            (Shell::of(analysis).inside, "a box of 3 : 4 : 3.5 around its air, woofer above and opening below")
        }
        (false, _) => {
            let unit = (chamber.net / (3.0 * 4.0 * 3.5)).cbrt() * 1e3;
            (
                [3.0 * unit, 4.0 * unit, 3.5 * unit],
                "a chamber of 3 : 4 : 3.5 around its air, woofer above and opening below",
            )
        }
    };
    let [w, h, d] = sides.map(f64::round);
    let spot = |list: fn(&oak_drum_document::Cabinet) -> &[oak_drum_document::Spot]| {
        let cabinet = analysis.design.cabinet.as_ref().filter(|_| single)?;
        let spot = list(cabinet).first().filter(|s| s.face == oak_drum_acoustics::port::Face::Baffle)?;
        Some((spot.across_mm - cabinet.panel_mm, spot.up_mm - cabinet.panel_mm))
    };
    let woofer = spot(|c| &c.woofers_at).unwrap_or(((w / 2.0).round(), (h * 0.62).round()));
    let opening = spot(|c| &c.openings_at).unwrap_or(((w / 2.0).round(), (h * 0.14).round()));
    let inside = Inside {
        width_mm: w,
        height_mm: h,
        depth_mm: d,
        woofer_across_mm: woofer.0,
        woofer_up_mm: woofer.1,
        opening_across_mm: opening.0,
        opening_up_mm: opening.1,
        opening_behind_mm: 0.0,
        wall_q: BARE_Q,
        fill_lies: FillPlace::Everywhere,
        lining: None,
    };
    (inside, Some(from))
}
