//! What stands in the way of what, in three dimensions, and how near the holes lie to each other and to the edges.

use crate::analysis::spots::frame_of;
use crate::cabinet::built_cabinet::BuiltCabinet;
use crate::cabinet::mounted_part::{Kind, MountedPart};
use oak_drum_acoustics::halt;
use oak_drum_cabinet::board::{Board, Opening, Outline, Role, along, dot};
use oak_drum_cabinet::bodies::{Body, clearance_within};
use oak_drum_document::{Cabinet, Shape};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// How two things are near each other.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum How {
    /// Bodies inside the box.
    Inside,
    /// Frames or holes on one face.
    Frames,
    /// A frame or hole and the edge of its face.
    Edge,
}

/// How near two things are.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Clearance {
    /// One of them: a mounted part, by its place in the list.
    pub part: u32,
    /// What it is called.
    pub name: String,
    /// What it is near to.
    pub other: String,
    /// The other mounted part, where it is one.
    pub other_part: Option<u32>,
    /// What the other is to the cabinet, where it is a board.
    pub role: Option<Role>,
    /// How.
    pub how: How,
    /// Clearance, mm; negative is how far they are in each other.
    pub mm: f64,
}

/// Clearances told, mm: farther ones are nobody's concern.
const TOLD: f64 = 60.0;

/// The clearances of a cabinet, the smallest first.
pub fn clearances(cabinet: &Cabinet, built: &BuiltCabinet) -> Vec<Clearance> {
    clearances_within(cabinet, built, TOLD)
}

/// Those smaller than so much, mm.
pub fn clearances_within(cabinet: &Cabinet, built: &BuiltCabinet, most: f64) -> Vec<Clearance> {
    around(cabinet, built, most, None)
}

/// What is in each other, of one mounted part alone or of all.
pub fn clashes(cabinet: &Cabinet, built: &BuiltCabinet, only: Option<usize>) -> Vec<Clearance> {
    let mut list = around(cabinet, built, 0.0, only);
    list.retain(|c| c.mm <= -CLASH);
    list
}

/// Overlaps that count, mm.
pub const CLASH: f64 = 0.5;

fn around(cabinet: &Cabinet, built: &BuiltCabinet, most: f64, only: Option<usize>) -> Vec<Clearance> {
    let scene = Scene::new(cabinet, built);
    let mut list = Vec::new();
    for (i, mounted_part) in built.mounted_parts.iter().enumerate() {
        halt::check();
        if only.is_none_or(|one| one == i) {
            scene.to_boards(i, mounted_part, &scene.bodies[i], most, &mut list);
            scene.to_edge(i, mounted_part, most, &mut list);
        }
        for k in i + 1..built.mounted_parts.len() {
            if only.is_none_or(|one| one == i || one == k) {
                scene.to_seat(i, mounted_part, &scene.bodies[i], k, most, &mut list);
            }
        }
    }
    list.sort_by(|a, b| a.mm.total_cmp(&b.mm));
    list
}

/// A cabinet's things as convex bodies, made once for many looks.
pub struct Scene<'a> {
    cabinet: &'a Cabinet,
    built: &'a BuiltCabinet,
    bodies: Vec<Vec<Body>>,
    boards: Vec<(&'a Board, Vec<Body>)>,
}

fn least(a: &[Body], b: &[Body], most: f64) -> f64 {
    let pairs = a.iter().flat_map(|a| b.iter().filter_map(move |b| clearance_within(a, b, most)));
    pairs.fold(f64::INFINITY, f64::min)
}

impl<'a> Scene<'a> {
    /// The bodies of a cabinet as built.
    pub fn new(cabinet: &'a Cabinet, built: &'a BuiltCabinet) -> Scene<'a> {
        let boards = built.solids.boards.iter().filter(|b| b.role != Role::Tube && convex(b));
        Scene {
            cabinet,
            built,
            bodies: built.mounted_parts.iter().map(MountedPart::bodies).collect(),
            boards: boards.map(|b| (b, Body::of_board(b))).collect(),
        }
    }

    /// Whether anything would be in the i-th mounted part if it sat there, on the same face.
    pub fn clashes_at(&self, i: usize, there: &MountedPart) -> bool {
        halt::check();
        let bodies = there.bodies();
        let mut list = Vec::new();
        self.to_edge(i, there, 0.0, &mut list);
        for k in (0..self.built.mounted_parts.len()).filter(|k| *k != i) {
            self.to_seat(i, there, &bodies, k, 0.0, &mut list);
        }
        self.to_boards(i, there, &bodies, 0.0, &mut list);
        list.iter().any(|c| c.mm <= -CLASH)
    }

    /// A slot is made of the walls and its own boards.
    fn is_slot(mounted_part: &MountedPart) -> bool {
        mounted_part.kind == Kind::Port && !matches!(mounted_part.opening, Opening::Round { .. })
    }

    fn to_boards(&self, i: usize, mounted_part: &MountedPart, bodies: &[Body], most: f64, into: &mut Vec<Clearance>) {
        let slot = Self::is_slot(mounted_part);
        for (board, pieces) in &self.boards {
            let own = board.holes.iter().any(|h| h.name == mounted_part.name) || sits_on(mounted_part, board);
            let of_it = (mounted_part.kind == Kind::Amplifier && board.role == Role::Bay)
                || (mounted_part.kind == Kind::Port && board.role == Role::Port)
                // whether a tunnel is deep enough is told of the pair itself
                || (mounted_part.kind == Kind::Woofer && board.role == Role::Tunnel)
                || (slot && matches!(board.role, Role::Wall | Role::Baffle));
            if !own && !of_it {
                let mm = least(bodies, pieces, most);
                tell(into, most, (i, mounted_part), (&board.name, None), Some(board.role), How::Inside, mm);
            }
        }
    }

    fn to_seat(
        &self,
        i: usize,
        mounted_part: &MountedPart,
        bodies: &[Body],
        k: usize,
        most: f64,
        into: &mut Vec<Clearance>,
    ) {
        let other = &self.built.mounted_parts[k];
        if !bodies.is_empty() && !self.bodies[k].is_empty() {
            let mm = least(bodies, &self.bodies[k], most);
            tell(into, most, (i, mounted_part), (&other.name, Some(k)), None, How::Inside, mm);
        }
        if mounted_part.face.is_some() && mounted_part.face == other.face {
            tell(
                into,
                most,
                (i, mounted_part),
                (&other.name, Some(k)),
                None,
                How::Frames,
                between(mounted_part, other),
            );
        }
    }

    fn to_edge(&self, i: usize, mounted_part: &MountedPart, most: f64, into: &mut Vec<Clearance>) {
        let Some(face) = mounted_part.face.filter(|_| !Self::is_slot(mounted_part) && mounted_part.kind != Kind::Mouth)
        else {
            return;
        };
        let cabinet = self.cabinet;
        let frame = frame_of(cabinet, self.built.solids.carcass.as_ref(), face, mounted_part.up_mm);
        let [up, across] = reach(mounted_part);
        let edge = if matches!(cabinet.shape, Shape::Tube { .. }) {
            let r = cabinet.width_mm / 2.0;
            r - (mounted_part.across_mm - r).hypot(mounted_part.up_mm - r) - up.max(across)
        } else {
            let [w, h] = frame.size;
            // a stepped front is two boards
            let (low, high) = match cabinet.shape {
                Shape::Stepped { at_mm, .. } if face == 0 && mounted_part.up_mm > at_mm => (at_mm, h),
                Shape::Stepped { at_mm, .. } if face == 0 => (0.0, at_mm),
                _ => (0.0, h),
            };
            (mounted_part.across_mm - across)
                .min(w - mounted_part.across_mm - across)
                .min(mounted_part.up_mm - low - up)
                .min(high - mounted_part.up_mm - up)
        };
        tell(into, most, (i, mounted_part), ("edge of the board", None), None, How::Edge, edge);
    }
}

fn tell(
    into: &mut Vec<Clearance>,
    most: f64,
    (i, mounted_part): (usize, &MountedPart),
    (other, other_part): (&str, Option<usize>),
    role: Option<Role>,
    how: How,
    mm: f64,
) {
    if mm < most {
        into.push(Clearance {
            part: i as u32,
            name: mounted_part.name.clone(),
            other: other.to_lowercase(),
            other_part: other_part.map(|k| k as u32),
            role,
            how,
            mm,
        });
    }
}

/// Whether a board's hull is the board.
fn convex(board: &Board) -> bool {
    match &board.outline {
        Outline::Disc { .. } => true,
        Outline::Corners { face, .. } => face.len() <= 4,
    }
}

/// Whether a mounted part's middle lies on a face of the board.
fn sits_on(mounted_part: &MountedPart, board: &Board) -> bool {
    let below = dot(along(mounted_part.at, board.at, -1.0), board.normal());
    let flat = dot(board.normal(), mounted_part.inward).abs() > 0.99;
    flat && (below.abs() < 1.0 || (below - board.thickness_mm).abs() < 1.0)
}

/// Half of what it covers on its face, up and across, mm.
fn reach(mounted_part: &MountedPart) -> [f64; 2] {
    let half = mounted_part.opening.half();
    match mounted_part.frame_mm {
        Some(frame) => half.map(|h| h.max(frame / 2.0)),
        None => half,
    }
}

/// Between what two mounted parts cover on a face, mm.
fn between(a: &MountedPart, b: &MountedPart) -> f64 {
    let (dx, dy) = ((a.across_mm - b.across_mm).abs(), (a.up_mm - b.up_mm).abs());
    let round = |s: &MountedPart| matches!(s.opening, Opening::Round { .. });
    let ([au, aa], [bu, ba]) = (reach(a), reach(b));
    match (round(a), round(b)) {
        (true, true) => dx.hypot(dy) - au - bu,
        (false, false) => {
            let (x, y) = (dx - aa - ba, dy - au - bu);
            if x > 0.0 && y > 0.0 { x.hypot(y) } else { x.max(y) }
        }
        (one, _) => {
            let (circle, [bu, ba]) = if one { (au, [bu, ba]) } else { (bu, [au, aa]) };
            let (x, y) = ((dx - ba).max(0.0), (dy - bu).max(0.0));
            if x == 0.0 && y == 0.0 { (dx - ba).max(dy - bu) - circle } else { x.hypot(y) - circle }
        }
    }
}
