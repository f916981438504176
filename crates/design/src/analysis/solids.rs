//! The cabinet of a design as solids, straight from its document.

use crate::analysis::slots;
use crate::analysis::spots::port_l;
use crate::analysis::tunnel::tunnel;
use oak_drum_acoustics::families::{ChamberRole, Enclosure, Stands, Wired};
use oak_drum_cabinet::board::{Board, Outline, Role, V3, area};
use oak_drum_cabinet::carcass::{Carcass, Front, Inner, Lid, Tube, plate};
use oak_drum_cabinet::fold::Fold;
use oak_drum_cabinet::laps::pierce;
use oak_drum_document::{Brace, BuiltIn, Cabinet, Design, Lies, Shape, Ties};

/// Air around an amplifier's cut-out in a chamber of its own, mm.
pub const AROUND: f64 = 10.0;

/// The solids of a cabinet, holes not yet cut.
#[derive(Clone, Debug)]
pub struct Solids {
    /// Every board in its place.
    pub boards: Vec<Board>,
    /// What the outside encloses, mm³.
    pub bulk: f64,
    /// What the walls enclose, mm³.
    pub inner: f64,
    /// Air in the amplifier's own chamber, mm³.
    pub bay: f64,
    /// The walls, where they are boards.
    pub carcass: Option<Carcass>,
}

impl Solids {
    /// What the boards of a role take, mm³, windows off.
    pub fn of(&self, role: Role) -> f64 {
        self.boards.iter().filter(|b| b.role == role).map(Board::volume).sum()
    }
}

/// The front as the core has it.
fn front(shape: Shape) -> Front {
    match shape {
        Shape::Sloped { back_mm } => Front::Sloped { back: back_mm },
        Shape::Stepped { at_mm, back_mm } => Front::Stepped { at: at_mm, back: back_mm },
        Shape::Straight {} | Shape::Tube { .. } => Front::Straight,
    }
}

/// The solids of a cabinet for an enclosure as it was worked out.
pub fn solids(design: &Design, cabinet: &Cabinet, fold: Option<&Fold>, wired: &Wired) -> Solids {
    let enclosure = &design.enclosure;
    let (before, lid) = (before_woofer(enclosure, cabinet, wired), lid_of(design, fold.is_some()));
    if let Shape::Tube { wall_mm } = cabinet.shape {
        let tube = Tube {
            diameter: cabinet.width_mm,
            wall: wall_mm,
            height: cabinet.height_mm,
            top: cabinet.panel_mm,
            floor: cabinet.baffle_mm,
        };
        return Solids { boards: tube.boards(), bulk: tube.bulk(), inner: tube.air(), bay: 0.0, carcass: None };
    }
    let t = cabinet.panel_mm;
    let mut carcass = Carcass {
        outside: [cabinet.width_mm, cabinet.height_mm, cabinet.depth_mm],
        panel: t,
        baffle: cabinet.baffle_mm,
        front: front(cabinet.shape),
        joint: cabinet.saw.joint,
        through: cabinet.saw.through,
        housing: cabinet.saw.housing,
        inner: Vec::new(),
        lid,
        open_front: Vec::new(),
    };
    let inside = carcass.inside();
    let several = cabinet.braces.len() > 1;
    carcass.inner = cabinet.braces.iter().flat_map(|brace| boards_of(brace, inside, several)).collect();
    if let Some(litres) = before {
        let depth = litres * 1e6 / (inside[0] * inside[1]);
        let at = (depth + t / 2.0).min(inside[2] - t);
        carcass.inner.push(Inner::Frontal { name: "Woofer board".into(), at, thickness: t, reach: 1.0, open: 0.0 });
    }
    let mut bay = 0.0;
    if let Some(BuiltIn { own_chamber: true, width_mm, height_mm, depth_mm, at }) = design.built_in() {
        let (w, h) = (width_mm + 2.0 * AROUND, height_mm + 2.0 * AROUND);
        bay = w * h * depth_mm;
        // the place is seen from behind
        let (x, y) = (cabinet.width_mm - at.across_mm - t - w / 2.0, at.up_mm - t - h / 2.0);
        let z = cabinet.depth_mm - t - depth_mm - carcass.front_inner(t);
        let block =
            |name: &str, at: [f64; 3], size: [f64; 3]| Inner::Block { name: name.into(), role: Role::Bay, at, size };
        carcass.inner.extend([
            block("Amplifier chamber, side", [x - t, y - t, z], [t, h + 2.0 * t, depth_mm]),
            block("Amplifier chamber, side", [x + w, y - t, z], [t, h + 2.0 * t, depth_mm]),
            block("Amplifier chamber, lid", [x, y - t, z], [w, t, depth_mm]),
            block("Amplifier chamber, lid", [x, y + h, z], [w, t, depth_mm]),
            block("Amplifier chamber, front", [x - t, y - t, z - t], [w + 2.0 * t, h + 2.0 * t, t]),
        ]);
    }
    if let Some(fold) = fold {
        carcass.open_front =
            fold.mouths.iter().filter(|m| m.face == 0).map(|m| [m.from_mm, m.to_mm]).collect::<Vec<_>>();
        carcass.open_front.sort_by(|a, b| a[0].total_cmp(&b[0]));
    }
    let mut boards = carcass.boards();
    for board in boards.iter_mut().filter(|b| b.name == "Woofer board") {
        board.role = Role::Fold;
    }
    for dowel in &cabinet.braces {
        boards.extend(bar(dowel, &carcass));
    }
    pierce(&mut boards);
    let runs = slots::runs(cabinet, &carcass, wired);
    boards.extend(runs.iter().flat_map(|run| run.boards.clone()));
    if let Some(side) = cabinet.strips_mm
        && fold.is_none()
        && cabinet.shape == (Shape::Straight {})
    {
        let corner = [t, t, carcass.front_inner(t)];
        let boards_inside = boards.iter().filter(|b| !matches!(b.role, Role::Wall | Role::Baffle));
        let in_the_way =
            boards_inside.map(|b| around(&b.corners())).chain(runs.iter().map(|run| run.channel)).collect::<Vec<_>>();
        boards.extend(strips(side, inside, corner, &in_the_way));
    }
    if let Some(fold) = fold {
        let groove = match cabinet.saw.housing {
            oak_drum_cabinet::carcass::Housing::Dado => (t / 3.0).round(),
            oak_drum_cabinet::carcass::Housing::Butt => 0.0,
        };
        for (name, quad) in &fold.boards {
            let mut board = Board::across(name, Role::Fold, *quad, t, cabinet.width_mm - t);
            board.add_words(&oak_drum_cabinet::carcass::bevel_words(board.bevels()));
            if groove > 0.0 {
                // a side that comes off has no grooves
                let right = if lid == Some(Lid::RightSide) { 0.0 } else { groove };
                board.let_in(1, if board.v[0] > 0.0 { [groove, right] } else { [right, groove] });
                let sides = if right > 0.0 { "sides" } else { "left side" };
                board.add_words(&format!("stands in grooves {groove:.0} deep in the {sides}"));
            }
            boards.push(board);
        }
    }
    let inner = area(&carcass.inner_ring()).abs() * (cabinet.width_mm - 2.0 * t);
    Solids { boards, bulk: carcass.bulk(), inner, bay, carcass: Some(carcass) }
}

/// The wall that comes off again, where a woofer stands on a board inside: of a bandpass box and of pairs one behind the other
/// the back, of a folded horn the side its boards end at.
pub fn lid_of(design: &Design, folded: bool) -> Option<Lid> {
    match design.enclosure.stands() {
        _ if tunnel(design, folded).is_some() => Some(Lid::Back),
        Stands::BetweenChambers => Some(Lid::Back),
        Stands::AtThroat | Stands::OnDivider if folded => Some(Lid::RightSide),
        Stands::InWall | Stands::AtThroat | Stands::OnDivider => None,
    }
}

/// The volume of the chamber before a board the woofers stand on inside, with what its ports take, L; bandpass boxes only.
pub fn before_woofer(enclosure: &Enclosure, cabinet: &Cabinet, wired: &Wired) -> Option<f64> {
    let litres = enclosure.front_volume_l()?;
    let ports = wired.ports.iter().filter(|p| p.role == ChamberRole::Front);
    Some(litres + ports.map(|p| port_l(cabinet, &p.port, p.realised.length)).sum::<f64>())
}

/// A brace as boards inside, among several told apart by how it lies; a dowel is bought round.
fn boards_of(brace: &Brace, inside: [f64; 3], several: bool) -> Vec<Inner> {
    let board = |name: &str, lies: Lies, at: f64, thickness: f64, reach: f64, open: f64| {
        let name = match lies {
            _ if !several => name.to_owned(),
            Lies::Level => format!("Level {}", name.to_lowercase()),
            Lies::Upright => format!("Upright {}", name.to_lowercase()),
            Lies::Frontal => format!("Frontal {}", name.to_lowercase()),
        };
        match lies {
            Lies::Level => Inner::Level { name, at, thickness, reach, open },
            Lies::Upright => Inner::Upright { name, at, thickness, reach, open },
            Lies::Frontal => Inner::Frontal { name, at, thickness, reach, open },
        }
    };
    match *brace {
        Brace::Window { lies, at_mm, thickness_mm, open_part } => {
            vec![board("Window", lies, at_mm, thickness_mm, 1.0, open_part)]
        }
        Brace::Shelf { lies, at_mm, thickness_mm, reach_part } => {
            vec![board("Shelf", lies, at_mm, thickness_mm, reach_part, 0.0)]
        }
        Brace::Cross { lies, at_mm, bar_mm } => {
            let axis = lies.axis();
            let (one, other) = ((axis + 1) % 3, (axis + 2) % 3);
            let bar = |along: usize, across: usize, from: f64, length: f64| {
                let (mut at, mut size) = ([0.0; 3], [bar_mm; 3]);
                at[axis] = at_mm - bar_mm / 2.0;
                at[across] = (inside[across] - bar_mm) / 2.0;
                at[along] = from;
                size[along] = length;
                Inner::Block { name: "Cross bar".into(), role: Role::Brace, at, size }
            };
            // one bar runs through, the other in two halves
            let half = (inside[other] - bar_mm) / 2.0;
            vec![
                bar(one, other, 0.0, inside[one]),
                bar(other, one, 0.0, half),
                bar(other, one, inside[other] - half, half),
            ]
        }
        Brace::Dowel { .. } => Vec::new(),
    }
}

/// A dowel as a round bar.
fn bar(brace: &Brace, carcass: &Carcass) -> Option<Board> {
    let Brace::Dowel { ties, at_mm, and_mm, diameter_mm } = *brace else { return None };
    let (inside, t) = (carcass.inside(), carcass.panel);
    let front = carcass.front_inner(t);
    // where its upper rim meets a front that leans
    let meets = carcass.front_inner((t + and_mm + diameter_mm / 2.0).min(carcass.outside[1] - t));
    let (x, y, z) = ([1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]);
    let (at, u, v, length) = match ties {
        Ties::Sides => ([t, t + and_mm, front + at_mm], y, z, inside[0]),
        Ties::FrontAndBack => ([t + at_mm, t + and_mm, meets], x, y, inside[2] + front - meets),
        Ties::FloorAndTop => ([t + at_mm, t, front + and_mm], z, x, inside[1]),
    };
    let mut board = Board::plain("Dowel", Role::Dowel, at, (u, 1.0), (v, 1.0), length);
    board.outline = Outline::Disc { diameter_mm };
    Some(board)
}

/// The box around points: (low, high).
fn around(points: &[V3]) -> [V3; 2] {
    points.iter().fold([[f64::INFINITY; 3], [f64::NEG_INFINITY; 3]], |[low, high], p| {
        [[0, 1, 2].map(|k| low[k].min(p[k])), [0, 1, 2].map(|k| high[k].max(p[k]))]
    })
}

/// Strips in the twelve inside corners of a rectangular box whose lower corner is told: those across run through, the others stand
/// between them, and what lies in a corner cuts them in two.
fn strips(side: f64, inside: [f64; 3], corner: V3, in_the_way: &[[V3; 2]]) -> Vec<Board> {
    let mut list = Vec::new();
    for axis in 0..3 {
        let (p, q) = ((axis + 1) % 3, (axis + 2) % 3);
        let [from, to] = if axis == 0 { [0.0, inside[0]] } else { [side, inside[axis] - side] };
        for (low_p, low_q) in [(true, true), (true, false), (false, true), (false, false)] {
            let mut at = corner;
            at[p] += if low_p { 0.0 } else { inside[p] - side };
            at[q] += if low_q { 0.0 } else { inside[q] - side };
            let mut pieces = vec![[corner[axis] + from, corner[axis] + to]];
            for [low, high] in in_the_way {
                let beside = |k: usize| high[k] < at[k] + 0.1 || low[k] > at[k] + side - 0.1;
                if beside(p) || beside(q) {
                    continue;
                }
                pieces = pieces
                    .into_iter()
                    .flat_map(|[a, b]| [[a, b.min(low[axis])], [a.max(high[axis]), b]])
                    .filter(|[a, b]| b - a > LEAST_STRIP)
                    .collect();
            }
            for [a, b] in pieces {
                let (mut at, mut size) = (at, [side; 3]);
                at[axis] = a;
                size[axis] = b - a;
                list.push(plate("Corner strip", Role::Strip, at, size, p));
            }
        }
    }
    list
}

/// Shorter pieces of strip are not worth sawing, mm.
const LEAST_STRIP: f64 = 20.0;
