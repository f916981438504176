//! Ports made of boards: where each opening stands, and the boards it is built of. Holes, boards, ledger, bill, drawings and steps
//! all have them from here.

use crate::analysis::spots::{across_inside, alongside, frame_of, port_spot};
use oak_drum_acoustics::families::{PortReport, Wired};
use oak_drum_acoustics::port::{Face, Port, Section};
use oak_drum_cabinet::board::{Board, Outline, Role, V3, along, dot};
use oak_drum_cabinet::carcass::{Carcass, plate};
use oak_drum_document::{Cabinet, Shape, Spot};
use oak_drum_text::mm;

/// Whether a port is made of boards; a round one is a bought tube.
pub fn of_boards(port: &Port) -> bool {
    !matches!(port.section, Section::Round { .. })
}

/// How a port of boards turns up (or down) the wall opposite, mm: how far it runs straight, and how far its return stands above the
/// channel. The centre line of square corners is the depth inside and the return.
fn returns(port: &Port, walls: u32, inside: f64, length: f64) -> Option<[f64; 2]> {
    let height = port.section.size().1 * 1e3;
    let turns = walls >= 3 && port.elbows > 0 && matches!(port.leaves, Face::Baffle | Face::Back);
    (turns && length > inside - height).then_some([inside - height - port.wall_mm, length - inside])
}

/// The least return that is a board, mm.
const LEAST_RETURN: f64 = 20.0;

/// What of a port cannot be built as it is stated, in words.
pub fn not_as_stated(cabinet: &Cabinet, report: &PortReport) -> Option<String> {
    let port = &report.port;
    if !of_boards(port) || matches!(cabinet.shape, Shape::Tube { .. }) {
        return None;
    }
    let walls = alongside(cabinet, port);
    let (w, h) = port.section.size();
    let inside = across_inside(cabinet, port.leaves);
    if port.walls_alongside >= 3 && walls < 3 {
        return Some(format!(
            "Three walls are told of, but the slot is {:.0} wide where the inside has {:.0}: it is drawn with a board at each side, and its inner end has two walls less than is computed.",
            mm(w * 1e3),
            mm(inside)
        ));
    }
    let most = if walls == 2 {
        4
    } else if walls >= 3 {
        2
    } else {
        u32::MAX
    };
    if port.count > most {
        return Some(format!("{} of them do not find an edge each: there are {most}.", port.count));
    }
    let depth = inside_depth(cabinet, port.leaves);
    let length = report.realised.length * 1e3 - cabinet.wall_mm(port.leaves);
    match returns(port, walls, depth, length) {
        Some([_, up]) if up < LEAST_RETURN => Some(format!(
            "Its end falls into its own bend: straight it may be {:.0} long inside, turned from {:.0} on.",
            mm(depth - h * 1e3),
            mm(depth + LEAST_RETURN)
        )),
        None if port.elbows > 0 && length > depth - h * 1e3 => {
            Some("Its bends have no boards here: only a slot over the whole floor turns up the wall opposite.".into())
        }
        _ => None,
    }
}

fn inside_depth(cabinet: &Cabinet, leaves: Face) -> f64 {
    cabinet.inside_mm()[leaves.axis()]
}

/// One opening of a port made of boards.
pub struct Run {
    /// Its boards.
    pub boards: Vec<Board>,
    /// The box its channel takes behind the wall: (low, high), mm.
    pub channel: [V3; 2],
}

/// Every opening of every port that is made of boards; those that lead from chamber to chamber have none.
pub fn runs(cabinet: &Cabinet, carcass: &Carcass, wired: &Wired) -> Vec<Run> {
    let mut list = Vec::new();
    let mut k = 0;
    for report in wired.ports.iter().filter(|r| r.outside) {
        for i in 0..report.port.count as usize {
            if of_boards(&report.port) {
                let (spot, _) = port_spot(wired, cabinet, report, i, k);
                list.extend(run(cabinet, carcass, report, spot, i));
            }
            k += 1;
        }
    }
    list
}

/// The boards of one opening at a spot.
fn run(cabinet: &Cabinet, carcass: &Carcass, report: &PortReport, spot: Spot, i: usize) -> Option<Run> {
    let port = &report.port;
    let walls = alongside(cabinet, port);
    let through = cabinet.wall_mm(spot.face);
    let length = report.realised.length * 1e3 - through;
    if length <= 0.0 {
        return None;
    }
    let place = Place::new(cabinet, carcass, spot, i, through);
    let (w, h) = port.section.size();
    let (half, tall, t) = (w * 500.0, h * 500.0, port.wall_mm);
    let (a, b) = ([spot.across_mm - half, spot.across_mm + half], [spot.up_mm - tall, spot.up_mm + tall]);
    let depth = place.depth;
    let straight = length.min(depth);
    let at_right = spot.across_mm > place.size[0] / 2.0;
    let at_top = spot.up_mm > place.size[1] / 2.0;
    let ends = [place.point(a[0], b[0], 0.0), place.point(a[1], b[1], straight)];
    let channel = [[0, 1, 2].map(|k| ends[0][k].min(ends[1][k])), [0, 1, 2].map(|k| ends[0][k].max(ends[1][k]))];
    if let Section::Triangle { leg_mm } = port.section {
        let board = place.across_corner(leg_mm, t, straight, [at_right, at_top], [a, b]);
        return Some(Run { boards: vec![board], channel });
    }
    // which sides have a board of their own: low, high, left, right
    let own = match walls {
        0 => [true; 4],
        1 => [false, true, true, true],
        2 => [at_top, !at_top, at_right, !at_right],
        _ => [at_top, !at_top, false, false],
    };
    let (reach, turn) = match returns(port, walls, depth, length) {
        Some([first, up]) if up >= LEAST_RETURN => (first, Some(up)),
        _ => (straight, None),
    };
    let wide = [a[0] - if own[2] { t } else { 0.0 }, a[1] + if own[3] { t } else { 0.0 }];
    let mut list = Vec::new();
    if own[0] {
        list.push(place.board(wide, [b[0] - t, b[0]], [0.0, reach], 1));
    }
    if own[1] {
        list.push(place.board(wide, [b[1], b[1] + t], [0.0, reach], 1));
    }
    if own[2] {
        list.push(place.board([a[0] - t, a[0]], b, [0.0, reach], 0));
    }
    if own[3] {
        list.push(place.board([a[1], a[1] + t], b, [0.0, reach], 0));
    }
    if let Some(up) = turn {
        let stands = if at_top { [b[0] - up, b[0]] } else { [b[1], b[1] + up] };
        list.push(place.board(wide, stands, [reach, reach + t], 2));
    }
    Some(Run { boards: list, channel })
}

/// A face with what lies behind it: across and up on it, and into the box from the wall's inner face, mm.
struct Place<'a> {
    carcass: &'a Carcass,
    face: Face,
    at: V3,
    right: V3,
    up: V3,
    into: V3,
    size: [f64; 2],
    through: f64,
    /// From the wall's inner face to the one opposite, mm.
    depth: f64,
}

const NAME: &str = "Port board";

impl<'a> Place<'a> {
    fn new(cabinet: &Cabinet, carcass: &'a Carcass, spot: Spot, i: usize, through: f64) -> Place<'a> {
        let index = match spot.face {
            Face::Baffle => 0,
            Face::Back => 1,
            Face::Side => 2 + (i % 2) as u32,
            Face::Top => 4,
            Face::Floor => 5,
        };
        let frame = frame_of(cabinet, Some(carcass), index, spot.up_mm);
        // behind a leaning front the boards still lie level
        let leans = matches!(cabinet.shape, Shape::Sloped { .. }) && spot.face == Face::Baffle;
        let (at, up) = if leans { ([0.0; 3], [0.0, 1.0, 0.0]) } else { (frame.at, frame.up) };
        let into = oak_drum_cabinet::board::cross(frame.right, up);
        let y = dot(along(at, up, spot.up_mm), [0.0, 1.0, 0.0]);
        let [w, h, d] = carcass.outside;
        let depth = match spot.face {
            Face::Baffle | Face::Back => d - carcass.panel - carcass.front_inner(y),
            Face::Side => w - 2.0 * carcass.panel,
            Face::Top | Face::Floor => h - 2.0 * carcass.panel,
        };
        Place { carcass, face: spot.face, at, right: frame.right, up, into, size: frame.size, through, depth }
    }

    fn point(&self, a: f64, b: f64, c: f64) -> V3 {
        // of the baffle the wall's inner face is where the carcass has it, whatever its front
        let flat = along(along(self.at, self.right, a), self.up, b);
        if self.face == Face::Baffle {
            return [flat[0], flat[1], self.carcass.front_inner(flat[1]) + c];
        }
        along(flat, self.into, self.through + c)
    }

    /// A board over these parts of across, up and into; its thickness lies along one of the three.
    fn board(&self, a: [f64; 2], b: [f64; 2], c: [f64; 2], thin: usize) -> Board {
        let leaning = self.face == Face::Baffle && self.carcass.front_inner(b[0]) != self.carcass.front_inner(b[1]);
        if leaning && c[0] == 0.0 && thin < 2 {
            // ends where the front does, at each height; the far end is square
            let far = self.carcass.front_inner(0.5 * (b[0] + b[1])) + c[1];
            let near = |y: f64| self.carcass.front_inner(y);
            return if thin == 1 {
                let quad = [[near(b[1]), b[1]], [far, b[1]], [near(b[0]), b[0]], [far, b[0]]];
                Board::across(NAME, Role::Port, quad, a[0], a[1])
            } else {
                let ring = [[near(b[0]), b[0]], [far, b[0]], [far, b[1]], [near(b[1]), b[1]]];
                Board::upright(NAME, Role::Port, &ring, a[0], a[1] - a[0])
            };
        }
        let (p, q) = (self.point(a[0], b[0], c[0]), self.point(a[1], b[1], c[1]));
        let low = [0, 1, 2].map(|k| p[k].min(q[k]));
        let size = [0, 1, 2].map(|k| (p[k] - q[k]).abs());
        let way = [self.right, self.up, self.into][thin];
        let axis = (0..3).max_by(|x, y| way[*x].abs().total_cmp(&way[*y].abs())).unwrap_or(0);
        plate(NAME, Role::Port, low, size, axis)
    }

    /// The board over a corner triangle: its inner face the longest side, both edges at 45 degrees.
    fn across_corner(&self, leg: f64, t: f64, length: f64, [right, top]: [bool; 2], [a, b]: [[f64; 2]; 2]) -> Board {
        // from the point on the side to the one on the floor, seen from outside
        // all from where the wall's inner face is at its corner; a leaning front is followed below
        let begin = self.point(a[0], b[0], 0.0);
        let level = |p: V3| if self.face == Face::Baffle { [p[0], p[1], begin[2]] } else { p };
        let on_side = level(self.point(if right { a[1] } else { a[0] }, if top { b[0] } else { b[1] }, 0.0));
        let on_floor = level(self.point(if right { a[0] } else { a[1] }, if top { b[1] } else { b[0] }, 0.0));
        let long = leg * std::f64::consts::SQRT_2;
        let u = [0, 1, 2].map(|k| (on_floor[k] - on_side[k]) / long);
        // away from the corner
        let corner = level(self.point(if right { a[1] } else { a[0] }, if top { b[1] } else { b[0] }, 0.0));
        let middle = [0, 1, 2].map(|k| 0.5 * (on_floor[k] + on_side[k]));
        let off = [0, 1, 2].map(|k| (middle[k] - corner[k]) / (long / 2.0));
        let v = oak_drum_cabinet::board::cross(off, u);
        // v runs into the box; where it runs out of it the board begins at its inner end
        let inwards = dot(v, self.into) > 0.0;
        let at = if inwards { on_side } else { along(on_side, self.into, length) };
        let mut board = Board::plain(NAME, Role::Port, at, (u, long), (v, length), t);
        if let Outline::Corners { back, .. } = &mut board.outline {
            for p in back.iter_mut() {
                p[0] += if p[0] > long / 2.0 { t } else { -t };
            }
        }
        if self.face == Face::Baffle {
            let plain = board.clone();
            if let Outline::Corners { face, back } = &mut board.outline {
                let near = if inwards { 0.0 } else { length };
                for (ring, below) in [(face, 0.0), (back, t)] {
                    for p in ring.iter_mut().filter(|p| (p[1] - near).abs() < 1e-9) {
                        let starts = self.carcass.front_inner(plain.place(*p, below)[1]) - begin[2];
                        p[1] += if inwards { starts } else { -starts };
                    }
                }
            }
        }
        board.add_words("both long edges at 45 degrees");
        board
    }
}
