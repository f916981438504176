//! The tunnel between two cones that stand one behind the other and look the same way: four sides behind the outer woofer's wall
//! and an end, onto which the inner woofer is screwed from behind.

use crate::analysis::spots::woofer_sizes;
use oak_drum_acoustics::families::Stands;
use oak_drum_cabinet::board::{Board, Role, V3, along};
use oak_drum_document::{Design, Mounting, Shape};
use std::f64::consts::PI;

/// Room around the outer woofer's basket, mm on each side (common practice).
const AROUND: f64 = 5.0;

/// A tunnel as it is to be built.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Tunnel {
    /// Inside width and height, mm.
    pub side_mm: f64,
    /// From the wall's inner face to the end board, mm.
    pub depth_mm: f64,
    /// Thickness of its boards, mm.
    pub board_mm: f64,
    /// What of the air between the cones does not lie in it, less the outer woofer that does, L.
    pub elsewhere_l: f64,
}

/// The tunnel behind each outer woofer; `None` where none is built: pairs that look at each other, a bought tube, woofers on a
/// board inside, a folded path.
///
/// It holds the stated air and the outer woofer, less what of that air lies elsewhere: in the hole of its end, and in the hollow
/// of the inner cone, taken as 0.1·Sd·diameter (an estimate).
pub fn tunnel(design: &Design, folded: bool) -> Option<Tunnel> {
    let cabinet = design.cabinet.as_ref()?;
    let pair = design.array.isobaric.filter(|pair| pair.mounting == Mounting::FrontToBack)?;
    let inside = design.enclosure.stands() == Stands::BetweenChambers;
    if folded || inside || matches!(cabinet.shape, Shape::Tube { .. }) {
        return None;
    }
    let sd = design.woofer.resolve(&design.air.of_sheets()).ok()?.ts.sd;
    let ([cutout, frame, ..], _) = woofer_sizes(&design.woofer, sd);
    let board_mm = cabinet.panel_mm;
    // the outer basket passes, and the end is as large as the inner frame
    let side_mm = (cutout + 2.0 * AROUND).max(frame + 2.0 * AROUND - 2.0 * board_mm).ceil();
    let elsewhere_l = 0.1 * sd * (4.0 * sd / PI).sqrt() * 1e3 + PI / 4.0 * cutout * cutout * board_mm * 1e-6
        - design.woofer.displacement().map_or(0.0, |d| d.0);
    let depth_mm = ((pair.chamber_l - elsewhere_l) * 1e6 / (side_mm * side_mm)).max(1.0);
    Some(Tunnel { side_mm, depth_mm, board_mm, elsewhere_l })
}

impl Tunnel {
    /// The air between the cones with which the mounting faces, the wall's outer and the end's rear one, are so far apart (mm), L.
    pub fn air_for(&self, between_mm: f64, wall_mm: f64) -> f64 {
        let depth = (between_mm - wall_mm - self.board_mm).max(0.0);
        depth * self.side_mm * self.side_mm * 1e-6 + self.elsewhere_l
    }

    /// What one takes of the box, boards and all, mm³.
    pub fn bulk(&self) -> f64 {
        let outer = self.side_mm + 2.0 * self.board_mm;
        outer * outer * (self.depth_mm + self.board_mm)
    }

    /// Its boards behind the wall of a woofer whose middle on the outer face is `at`; the face's right, up and inward.
    pub fn boards(&self, wall_mm: f64, at: V3, [r, p, n]: [V3; 3]) -> Vec<Board> {
        let (s, t, d) = (self.side_mm, self.board_mm, self.depth_mm);
        let begins = along(at, n, wall_mm);
        let corner = along(along(begins, r, -s / 2.0 - t), p, -s / 2.0 - t);
        let board = |name: &str, at, u, v| Board::plain(name, Role::Tunnel, at, u, v, t);
        vec![
            board("Tunnel, side", corner, (p, s + 2.0 * t), (n, d)),
            board("Tunnel, side", along(corner, r, s + t), (p, s + 2.0 * t), (n, d)),
            board("Tunnel, lid", along(corner, r, t), (n, d), (r, s)),
            board("Tunnel, lid", along(along(corner, r, t), p, s + t), (n, d), (r, s)),
            board("Tunnel, end", along(corner, n, d), (r, s + 2.0 * t), (p, s + 2.0 * t)),
        ]
    }
}
