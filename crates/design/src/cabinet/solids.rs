//! The cabinet of a design as solids, straight from its document.

use crate::document::{AmplifierSpace, Brace, Cabinet, Lies, Shape, Ties};
use oak_drum_acoustics::families::{Enclosure, PortReport, Wired};
use oak_drum_acoustics::port::Section;
use oak_drum_cabinet::board::{Board, Outline, Role, area};
use oak_drum_cabinet::carcass::{Carcass, Front, Inner, Lid, Tube};
use oak_drum_cabinet::fold::Fold;

/// Air around an amplifier's cut-out in a chamber of its own, mm.
const AROUND: f64 = 10.0;

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

/// The solids of a cabinet; ports as worked out and the volume of a chamber before an inner woofer board (L) where there are.
pub fn solids(
    cabinet: &Cabinet,
    fold: Option<&Fold>,
    ports: &[PortReport],
    before: Option<f64>,
    lid: Option<Lid>,
) -> Solids {
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
    carcass.inner = cabinet.braces.iter().flat_map(|brace| boards_of(brace, inside)).collect();
    if let Some(litres) = before {
        let depth = litres * 1e6 / (inside[0] * inside[1]);
        let at = (depth + t / 2.0).min(inside[2] - t);
        carcass.inner.push(Inner::Frontal { name: "Woofer board".into(), at, thickness: t, reach: 1.0, open: 0.0 });
    }
    let mut bay = 0.0;
    if let Some(AmplifierSpace::OwnChamber { width_mm, height_mm, depth_mm, at }) = &cabinet.amplifier {
        let (w, h) = (width_mm + 2.0 * AROUND, height_mm + 2.0 * AROUND);
        bay = w * h * depth_mm;
        // the place is seen from behind
        let (x, y) = (cabinet.width_mm - at.across_mm - t - w / 2.0, at.up_mm - t - h / 2.0);
        let z = cabinet.depth_mm - t - depth_mm - carcass.front_inner(t);
        let block =
            |name: &str, at: [f64; 3], size: [f64; 3]| Inner::Block { name: name.into(), role: Role::Bay, at, size };
        carcass.inner.extend([
            block("Amplifier chamber, side", [x - t, y - t, z], [t, h + 2.0 * t, *depth_mm]),
            block("Amplifier chamber, side", [x + w, y - t, z], [t, h + 2.0 * t, *depth_mm]),
            block("Amplifier chamber, lid", [x, y - t, z], [w, t, *depth_mm]),
            block("Amplifier chamber, lid", [x, y + h, z], [w, t, *depth_mm]),
            block("Amplifier chamber, front", [x - t, y - t, z - t], [w + 2.0 * t, h + 2.0 * t, t]),
        ]);
    }
    if let Some(side) = cabinet.strips_mm
        && fold.is_none()
        && cabinet.shape == (Shape::Straight {})
    {
        carcass.inner.extend(strips(side, inside, &cabinet.braces));
    }
    carcass.inner.extend(ports.iter().flat_map(|report| slot(cabinet, report, inside)));
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
        boards.extend(bar(dowel, inside, t, carcass.front_inner(t)));
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
                board.add_words(&format!("stands in grooves {groove:.0} deep in the sides"));
            }
            boards.push(board);
        }
    }
    let inner = area(&carcass.inner_ring()).abs() * (cabinet.width_mm - 2.0 * t);
    Solids { boards, bulk: carcass.bulk(), inner, bay, carcass: Some(carcass) }
}

/// The wall that comes off again, where the woofer stands on a board inside: of a bandpass box the back, of a folded horn the
/// side its boards end at.
pub fn lid_of(enclosure: &Enclosure, folded: bool) -> Option<Lid> {
    match enclosure {
        Enclosure::BandpassFourth(_) | Enclosure::BandpassSixth(_) => Some(Lid::Back),
        Enclosure::FrontHorn(_) | Enclosure::TappedHorn(_) if folded => Some(Lid::RightSide),
        _ => None,
    }
}

/// The volume of the chamber before a board the woofers stand on inside, with what its ports take, L; bandpass boxes only.
pub fn before_woofer(enclosure: &Enclosure, cabinet: &Cabinet, wired: &Wired) -> Option<f64> {
    let litres = match enclosure {
        Enclosure::BandpassFourth(b) => b.front_volume_l,
        Enclosure::BandpassSixth(b) => b.front_volume_l,
        _ => return None,
    };
    let ports = wired.ports.iter().filter(|p| p.pointer.contains("front"));
    Some(litres + ports.map(|p| cabinet.port_l(&p.port, p.realised.length)).sum::<f64>())
}

/// A brace as boards inside; a dowel is bought round.
fn boards_of(brace: &Brace, inside: [f64; 3]) -> Vec<Inner> {
    let board = |name: &str, lies: Lies, at: f64, thickness: f64, reach: f64, open: f64| {
        let name = name.to_owned();
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
fn bar(brace: &Brace, inside: [f64; 3], t: f64, front: f64) -> Option<Board> {
    let Brace::Dowel { ties, at_mm, and_mm, diameter_mm } = *brace else { return None };
    let (x, y, z) = ([1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]);
    let (at, u, v, length) = match ties {
        Ties::Sides => ([t, t + and_mm, front + at_mm], y, z, inside[0]),
        Ties::FrontAndBack => ([t + at_mm, t + and_mm, front], x, y, inside[2]),
        Ties::FloorAndTop => ([t + at_mm, t, front + and_mm], z, x, inside[1]),
    };
    let mut board = Board::plain("Dowel", Role::Dowel, at, (u, 1.0), (v, 1.0), length);
    board.outline = Outline::Disc { diameter_mm };
    Some(board)
}

/// Strips in the twelve inside corners of a rectangular box: those across run through, the others stand between them, and
/// boards that pass cut them in two.
fn strips(side: f64, inside: [f64; 3], braces: &[Brace]) -> Vec<Inner> {
    let passing = |axis: usize| -> Vec<[f64; 2]> {
        let mut list: Vec<[f64; 2]> = braces
            .iter()
            .filter_map(|brace| match *brace {
                Brace::Window { lies, at_mm, thickness_mm, .. } | Brace::Shelf { lies, at_mm, thickness_mm, .. }
                    if lies.axis() == axis =>
                {
                    Some([at_mm - thickness_mm / 2.0, at_mm + thickness_mm / 2.0])
                }
                _ => None,
            })
            .collect();
        list.sort_by(|a, b| a[0].total_cmp(&b[0]));
        list
    };
    let mut list = Vec::new();
    for axis in 0..3 {
        let (p, q) = ((axis + 1) % 3, (axis + 2) % 3);
        let (from, to) = if axis == 0 { (0.0, inside[0]) } else { (side, inside[axis] - side) };
        let mut pieces = vec![[from, to]];
        for [low, high] in passing(axis) {
            pieces = pieces
                .into_iter()
                .flat_map(|[a, b]| [[a, b.min(low)], [a.max(high), b]])
                .filter(|[a, b]| b - a > 1.0)
                .collect();
        }
        for (low_p, low_q) in [(true, true), (true, false), (false, true), (false, false)] {
            for [a, b] in &pieces {
                let (mut at, mut size) = ([0.0; 3], [side; 3]);
                at[axis] = *a;
                size[axis] = b - a;
                at[p] = if low_p { 0.0 } else { inside[p] - side };
                at[q] = if low_q { 0.0 } else { inside[q] - side };
                list.push(Inner::Block { name: "Corner strip".into(), role: Role::Strip, at, size });
            }
        }
    }
    list
}

/// The boards a slot is made of, behind the baffle: a slot over the whole floor has one, and one more up the back where it
/// turns; a free one has four.
fn slot(cabinet: &Cabinet, report: &PortReport, inside: [f64; 3]) -> Vec<Inner> {
    let port = &report.port;
    let (w, h) = match port.section {
        Section::Slot { width_mm, height_mm } => (width_mm, height_mm),
        Section::Square { side_mm } => (side_mm, side_mm),
        Section::Round { .. } | Section::Triangle { .. } => return Vec::new(),
    };
    let wall = port.wall_mm;
    let length = report.realised.length * 1e3 - cabinet.wall_mm(port.leaves);
    if length <= 0.0 || port.leaves != oak_drum_acoustics::port::Face::Baffle {
        return Vec::new();
    }
    let block =
        |name: &str, at: [f64; 3], size: [f64; 3]| Inner::Block { name: name.into(), role: Role::Port, at, size };
    let name = "Port board";
    if port.walls_alongside >= 3 {
        let first = length.min(inside[2] - h);
        let mut list = vec![block(name, [0.0, h, 0.0], [inside[0], wall, first])];
        if length - first > 1.0 {
            // up the back: its outer face is a channel before it
            list[0] = block(name, [0.0, h, 0.0], [inside[0], wall, inside[2] - h - wall]);
            list.push(block(
                name,
                [0.0, h, inside[2] - h - wall],
                [inside[0], (length - first).min(inside[1] - h), wall],
            ));
        }
        return list;
    }
    let length = length.min(inside[2]);
    let mut list = Vec::new();
    for i in 0..port.count {
        // along the floor, from the left corner where it runs in an edge
        let left = match port.walls_alongside {
            2 => 0.0,
            _ => inside[0] * (f64::from(i) + 0.5) / f64::from(port.count) - w / 2.0,
        };
        let low = if port.walls_alongside >= 1 { 0.0 } else { inside[1] * 0.14 - h / 2.0 };
        list.push(block(name, [left - wall, low + h, 0.0], [w + 2.0 * wall, wall, length]));
        if port.walls_alongside == 0 {
            list.push(block(name, [left - wall, low - wall, 0.0], [w + 2.0 * wall, wall, length]));
        }
        list.push(block(name, [left + w, low, 0.0], [wall, h, length]));
        if port.walls_alongside < 2 {
            list.push(block(name, [left - wall, low, 0.0], [wall, h, length]));
        }
    }
    list
}
