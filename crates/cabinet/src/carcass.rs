//! A cabinet of boards as solids: what its side section looks like, and the boards that follow.
//!
//! Baffle and back lie over the front and the back of the carcass, full width and height; floor, top and sides stand between
//! them. Which of those four covers which, and how they meet, is the builder's. A baffle may lean back or stand back from a
//! height on; the sides then follow its line. A bought tube stands between two discs.

use crate::board::{Board, Outline, P2, Role, area};
use crate::laps::lap;
use oak_drum_text::size;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// How the four boards of the carcass meet.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Joint {
    /// End against face.
    #[default]
    Butt,
    /// The end stands in a step sawn along the other's edge, half its thickness deep.
    Rebate,
    /// Both at 45 degrees.
    Mitre,
}

/// How boards inside are held by the walls.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Housing {
    /// Glued against them.
    #[default]
    Butt,
    /// In a groove, a third of the wall deep.
    Dado,
}

/// Which boards run through at the corners; of no effect with mitres.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Through {
    /// Floor and top run over the ends of the sides.
    #[default]
    FloorAndTop,
    /// The sides run over the ends of floor and top.
    Sides,
}

/// The line of the front in the side section.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub enum Front {
    /// Upright.
    #[default]
    Straight,
    /// Leaning back by so much at the top, mm.
    Sloped {
        /// How far the top edge stands behind the floor's, mm.
        back: f64,
    },
    /// Standing back above a height.
    Stepped {
        /// Height of the step's upper face, mm.
        at: f64,
        /// How far the upper part stands back, mm.
        back: f64,
    },
}

/// A wall that comes off again: it lies over the ends of what it meets, screwed on a gasket.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Lid {
    /// The back.
    Back,
    /// The right side, over floor, top, baffle and back.
    RightSide,
}

/// A board between the walls.
#[derive(Clone, Debug, PartialEq)]
pub enum Inner {
    /// Flat, its middle so far above the inside floor; from the back it reaches a part of the way; a part of it is sawn out.
    Level {
        /// What it is called.
        name: String,
        /// Height of its middle above the inside floor, mm.
        at: f64,
        /// Thickness, mm.
        thickness: f64,
        /// How much of the way from the back it reaches.
        reach: f64,
        /// The part of its face that is sawn out, as one window.
        open: f64,
    },
    /// On edge along the sides, its middle so far from the left one.
    Upright {
        /// What it is called.
        name: String,
        /// From the left side's inner face, mm.
        at: f64,
        /// Thickness, mm.
        thickness: f64,
        /// How much of the way from the back it reaches.
        reach: f64,
        /// The part sawn out.
        open: f64,
    },
    /// On edge along the baffle, its middle so far behind the foot of its inner face.
    Frontal {
        /// What it is called.
        name: String,
        /// Behind the baffle's inner face at the floor, mm.
        at: f64,
        /// Thickness, mm.
        thickness: f64,
        /// How much of the way from the floor it reaches.
        reach: f64,
        /// The part sawn out.
        open: f64,
    },
    /// Any block: bars of a cross, strips, boards of an amplifier's chamber; lower corner and size in the inside, mm.
    Block {
        /// What it is called.
        name: String,
        /// What it is to the cabinet.
        role: Role,
        /// Lower corner from left, floor, and the baffle's inner face at the floor, mm.
        at: [f64; 3],
        /// Size, mm.
        size: [f64; 3],
    },
}

/// A cabinet of boards as it is to be built.
#[derive(Clone, Debug, PartialEq)]
pub struct Carcass {
    /// Outside width, height, depth, mm.
    pub outside: [f64; 3],
    /// Thickness of the boards, mm.
    pub panel: f64,
    /// Thickness of the baffle, mm.
    pub baffle: f64,
    /// The line of the front.
    pub front: Front,
    /// How the four meet.
    pub joint: Joint,
    /// Which run through.
    pub through: Through,
    /// How the walls hold what is inside.
    pub housing: Housing,
    /// Braces and other boards inside.
    pub inner: Vec<Inner>,
    /// Which wall comes off again.
    pub lid: Option<Lid>,
    /// Parts of a straight front that stay open (mouths), from and to, mm up, in order.
    pub open_front: Vec<P2>,
}

/// A face of the cabinet to put things on: origin at its lower left corner as seen from outside.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct FaceFrame {
    /// The lower left corner, mm.
    pub at: [f64; 3],
    /// Rightward on it, seen from outside.
    pub right: [f64; 3],
    /// Upward on it.
    pub up: [f64; 3],
    /// Width and height, mm.
    pub size: P2,
}

impl Carcass {
    /// Inside width, height, depth, mm; the depth is that at the floor.
    pub fn inside(&self) -> [f64; 3] {
        let [w, h, d] = self.outside;
        [w - 2.0 * self.panel, h - 2.0 * self.panel, d - self.panel - self.front_inner(self.panel)]
    }

    /// How far an end goes into the other board, mm.
    fn step(&self) -> f64 {
        if self.joint == Joint::Rebate { self.panel / 2.0 } else { 0.0 }
    }

    /// z of the baffle's outer face at a height, mm.
    pub fn front_outer(&self, y: f64) -> f64 {
        match self.front {
            Front::Straight => 0.0,
            Front::Sloped { back } => back * y / self.outside[1],
            Front::Stepped { at, back } => {
                if y > at {
                    back
                } else {
                    0.0
                }
            }
        }
    }

    /// z of the baffle's inner face at a height, mm; under a step that of the upper part begins a board lower.
    pub fn front_inner(&self, y: f64) -> f64 {
        match self.front {
            Front::Straight => self.baffle,
            Front::Sloped { back } => {
                let lean = back.hypot(self.outside[1]) / self.outside[1];
                self.front_outer(y) + self.baffle * lean
            }
            Front::Stepped { at, back } => self.baffle + if y > at - self.panel { back } else { 0.0 },
        }
    }

    /// The inside in the side section (z, y), anticlockwise.
    pub fn inner_ring(&self) -> Vec<P2> {
        self.ring_between(self.panel, self.outside[1] - self.panel)
    }

    fn ring_between(&self, low: f64, high: f64) -> Vec<P2> {
        let back = self.outside[2] - self.panel;
        let mut ring = vec![[self.front_inner(low), low], [back, low], [back, high], [self.front_inner(high), high]];
        if let Front::Stepped { at, back: by } = self.front {
            let under = at - self.panel;
            ring.push([self.baffle + by, under]);
            ring.push([self.baffle, under]);
        }
        ring
    }

    /// The outside in the side section (z, y).
    pub fn outer_ring(&self) -> Vec<P2> {
        let [_, h, d] = self.outside;
        let mut ring = vec![[0.0, 0.0], [d, 0.0], [d, h], [self.front_outer(h), h]];
        if let Front::Stepped { at, back } = self.front {
            ring.push([back, at]);
            ring.push([0.0, at]);
        }
        ring
    }

    /// What the outside encloses, mm³.
    pub fn bulk(&self) -> f64 {
        area(&self.outer_ring()).abs() * self.outside[0]
    }

    /// The walls as they stand, joints closed: what two boards share in a rebate or a mitre belongs to the one that runs
    /// through, so that no space is counted twice.
    pub fn walls(&self) -> Vec<Board> {
        let [w, h, d] = self.outside;
        let t = self.panel;
        let z = |y: f64| self.front_inner(y);
        let right_lid = self.lid == Some(Lid::RightSide);
        let over = if right_lid { w - t } else { w };
        let mut list = self.baffle_boards(over);
        list.push(Board::across("Back", Role::Wall, [[d, 0.0], [d, h], [d - t, 0.0], [d - t, h]], 0.0, over));
        let floor_through = self.through == Through::FloorAndTop || self.joint == Joint::Mitre;
        let (from, to) = if floor_through { (0.0, over) } else { (t, w - t) };
        let mut floor =
            Board::across("Floor", Role::Wall, [[z(0.0), 0.0], [d - t, 0.0], [z(t), t], [d - t, t]], from, to);
        let top_quad = [[z(h), h], [d - t, h], [z(h - t), h - t], [d - t, h - t]];
        let mut top = Board::across("Top", Role::Wall, top_quad, from, to);
        let ring = if floor_through { self.inner_ring() } else { self.ring_between(0.0, h) };
        let mut left = Board::upright("Left side", Role::Wall, &ring, 0.0, t);
        let whole = self.outer_ring();
        let mut right = Board::upright("Right side", Role::Wall, if right_lid { &whole } else { &ring }, w - t, t);
        let step = self.step();
        let (inner, outer) = (self.ring_between(t, h - t), self.ring_between(0.0, h));
        for (board, flat) in [(&mut floor, true), (&mut top, true), (&mut left, false), (&mut right, false)] {
            match self.joint {
                Joint::Butt => {}
                _ if right_lid && board.name == "Right side" => {}
                Joint::Rebate if flat == floor_through => {
                    let ends = if flat && right_lid { "left end" } else { "both ends" };
                    board.edges = format!("{ends}: rebate {:.1} wide, {:.1} deep", size(t), size(step));
                }
                Joint::Rebate if flat => {
                    // under a side that comes off there is no rebate; v runs either way
                    let right = if right_lid { 0.0 } else { step };
                    board.let_in(1, if board.v[0] > 0.0 { [step, right] } else { [right, step] });
                }
                // what goes into the rebates follows the front's line on
                Joint::Rebate => {
                    let ring = self.ring_between(t - step, h - t + step);
                    board.sawn = Some(Outline::Corners { face: ring.clone(), back: ring });
                }
                Joint::Mitre => {
                    let ends = if flat && right_lid { "left end" } else { "both ends" };
                    board.edges = format!("{ends}: 45 degrees, the length is that of the outer face");
                    if flat && let Outline::Corners { face, back } = &board.outline {
                        // its face is the outer one; the inner stands between the sides
                        let inner = |p: &P2| {
                            let x = board.place(*p, 0.0)[0];
                            [p[0], p[1] + board.v[0] * (x.clamp(t, w - t) - x)]
                        };
                        let back = back.iter().map(inner).collect();
                        board.sawn = Some(Outline::Corners { face: face.clone(), back });
                    }
                }
            }
        }
        if self.joint == Joint::Mitre {
            // the left side's face is its inner one, the right side's its outer
            left.sawn = Some(Outline::Corners { face: inner.clone(), back: outer.clone() });
            if !right_lid {
                right.sawn = Some(Outline::Corners { face: outer, back: inner });
            }
        }
        list.extend([floor, top, left, right]);
        for board in &mut list {
            board.add_words(&bevel_words(board.bevels()));
            let name = match self.lid {
                Some(Lid::Back) => "Back",
                Some(Lid::RightSide) => "Right side",
                None => continue,
            };
            if board.name == name {
                board.lid_screws = board.lid_places(t).len() as u32;
                board.add_words(&format!("comes off again: {} screws, on a gasket", board.lid_screws));
            }
        }
        list
    }

    /// The baffle and what belongs to it, from the left to so far across, mm.
    fn baffle_boards(&self, w: f64) -> Vec<Board> {
        let h = self.outside[1];
        let t = self.panel;
        let piece = |name: &str, low: f64, high: f64| {
            let (o, i) = (|y: f64| self.front_outer(y), |y: f64| self.front_inner(y));
            let quad = [[o(low), low], [o(high), high], [i(low), low], [i(high), high]];
            Board::across(name, Role::Baffle, quad, 0.0, w)
        };
        match self.front {
            Front::Stepped { at, back } => {
                let b = self.baffle;
                vec![
                    Board::across("Lower baffle", Role::Baffle, [[0.0, 0.0], [0.0, at], [b, 0.0], [b, at]], 0.0, w),
                    Board::across(
                        "Step",
                        Role::Wall,
                        [[b, at], [b + back, at], [b, at - t], [b + back, at - t]],
                        0.0,
                        w,
                    ),
                    Board::across(
                        "Baffle",
                        Role::Baffle,
                        [[back, at], [back, h], [b + back, at], [b + back, h]],
                        0.0,
                        w,
                    ),
                ]
            }
            _ if self.open_front.is_empty() => vec![piece("Baffle", 0.0, h)],
            _ => {
                // strips narrower than two boards hold nothing and are left out
                let mut edges = vec![0.0];
                edges.extend(self.open_front.iter().flatten());
                edges.push(h);
                let kept: Vec<P2> =
                    edges.chunks(2).map(|e| [e[0], e[1]]).filter(|[low, high]| high - low > 2.0 * t).collect();
                let names: &[&str] = match kept.len() {
                    2 => &["Lower baffle", "Upper baffle"],
                    3 => &["Lower baffle", "Baffle", "Upper baffle"],
                    _ => &["Baffle"],
                };
                kept.iter().zip(names).map(|([low, high], name)| piece(name, *low, *high)).collect()
            }
        }
    }

    /// What stands inside, in its place.
    pub fn inside_boards(&self) -> Vec<Board> {
        let groove = if self.housing == Housing::Dado { (self.panel / 3.0).round() } else { 0.0 };
        let mut list: Vec<Board> = self.inner.iter().map(|inner| self.inner_board(inner)).collect();
        for board in &mut list {
            board.add_words(&bevel_words(board.bevels()));
            if groove > 0.0 && matches!(board.role, Role::Brace | Role::Fold) {
                self.house(board, groove);
            }
        }
        lap(&mut list);
        list
    }

    /// Lets the ends of a board that stand at a wall into it: those of its longer way where it is a bar, else those beside it.
    fn house(&self, board: &mut Board, groove: f64) {
        let [w, h, d] = self.outside;
        let walls = [[self.panel, w - self.panel], [self.panel, h - self.panel], [f64::NEG_INFINITY, d - self.panel]];
        let [low, high] = board.extent();
        let (length, width) = (high[0] - low[0], high[1] - low[1]);
        // a bar is square: its ends are those of its length
        let bar = (length.min(width) - board.thickness_mm).abs() < 0.01 && length != width;
        let axis = if bar { usize::from(width > length) } else { 1 };
        let way = if axis == 0 { board.u } else { board.v };
        let along = (0..3).find(|k| way[*k].abs() > 0.99);
        let ends = along.map(|k| {
            let mut ends = [low, high].map(|p| board.place(p, 0.0)[k]);
            ends.sort_by(f64::total_cmp);
            let loose = |i: usize| match self.lid {
                Some(Lid::RightSide) => k == 0 && i == 1,
                Some(Lid::Back) => k == 2 && i == 1,
                None => false,
            };
            let at_wall = [0, 1].map(|i| if (ends[i] - walls[k][i]).abs() < 0.05 && !loose(i) { groove } else { 0.0 });
            if way[k] > 0.0 { at_wall } else { [at_wall[1], at_wall[0]] }
        });
        let ends = ends.unwrap_or([groove; 2]);
        board.let_in(axis, ends);
        match ends.iter().filter(|e| **e > 0.0).count() {
            0 => {}
            1 => board.add_words(&format!("one end stands in a groove {:.0} deep", size(groove))),
            _ => board.add_words(&format!("stands in grooves {:.0} deep in the walls beside it", size(groove))),
        }
    }

    fn inner_board(&self, inner: &Inner) -> Board {
        let [w, h, d] = self.outside;
        let (t, back) = (self.panel, d - self.panel);
        let inside = w - 2.0 * t;
        let window = |board: &mut Board, open: f64| {
            if open > 0.0 {
                let [low, high] = board.extent();
                let share = open.sqrt();
                board.holes.push(crate::board::Hole {
                    name: "window".into(),
                    at: [(low[0] + high[0]) / 2.0, (low[1] + high[1]) / 2.0],
                    opening: crate::board::Opening::Rectangle {
                        length_mm: (high[0] - low[0]) * share,
                        width_mm: (high[1] - low[1]) * share,
                    },
                    screw_circle_mm: None,
                    screws: 0,
                    frame_mm: None,
                    recess: None,
                });
                board.edges = format!("a window of {:.0} % sawn out, corners drilled first", open * 100.0);
            }
        };
        match inner {
            Inner::Level { name, at, thickness, reach, open } => {
                let (low, high) = (t + at - thickness / 2.0, t + at + thickness / 2.0);
                let start = |y: f64| back - (back - self.front_inner(y)) * reach;
                let quad = [[start(high), high], [back, high], [start(low), low], [back, low]];
                let mut board = Board::across(name, Role::Brace, quad, t, w - t);
                window(&mut board, *open);
                board
            }
            Inner::Frontal { name, at, thickness, reach, open } => {
                let z = self.front_inner(t) + at;
                let (near, far) = (z - thickness / 2.0, z + thickness / 2.0);
                let top = |z: f64| {
                    let mut y = h - t;
                    // under what leans over it
                    let mut low = t;
                    if self.front_inner(y) > z {
                        for _ in 0..60 {
                            let middle = 0.5 * (low + y);
                            if self.front_inner(middle) > z { y = middle } else { low = middle }
                        }
                    }
                    t + (y - t) * reach
                };
                let quad = [[near, t], [near, top(near)], [far, t], [far, top(far)]];
                let mut board = Board::across(name, Role::Brace, quad, t, w - t);
                window(&mut board, *open);
                board
            }
            Inner::Upright { name, at, thickness, reach, open } => {
                let ring: Vec<P2> =
                    self.inner_ring().into_iter().map(|[z, y]| [back - (back - z) * reach, y]).collect();
                let mut board = Board::upright(name, Role::Brace, &ring, t + at - thickness / 2.0, *thickness);
                window(&mut board, *open);
                board
            }
            Inner::Block { name, role, at, size } => {
                let z = self.front_inner(t) + at[2];
                let (low, high) = (t + at[1], t + at[1] + size[1]);
                // what begins at a leaning front ends where that is at its height, and at the back all the same
                if at[2] == 0.0 && self.front_inner(low) != self.front_inner(t) {
                    let start = |y: f64| self.front_inner(y);
                    let end = z + size[2];
                    let quad = [[start(high), high], [end, high], [start(low), low], [end, low]];
                    return Board::across(name, *role, quad, t + at[0], t + at[0] + size[0]);
                }
                block(name, *role, [t + at[0].max(0.0), t + at[1], z], [size[0].min(inside), size[1], size[2]])
            }
        }
    }

    /// All boards.
    pub fn boards(&self) -> Vec<Board> {
        let mut list = self.walls();
        list.extend(self.inside_boards());
        list
    }

    /// Air inside, holes in the walls still closed, mm³.
    pub fn air(&self) -> f64 {
        let inside = area(&self.inner_ring()).abs() * (self.outside[0] - 2.0 * self.panel);
        inside - self.inside_boards().iter().map(Board::volume).sum::<f64>()
    }

    /// A face to put things on; see [`face_of`].
    pub fn face(&self, face: usize, up: f64) -> FaceFrame {
        face_of(self.outside, self.front, face, up)
    }
}

/// A face of a box to put things on: 0 baffle, 1 back, 2 left, 3 right, 4 top, 5 floor. Of a stepped front that of the upper
/// part where `up` (mm) lies above the step.
pub fn face_of([w, h, d]: [f64; 3], front: Front, face: usize, up: f64) -> FaceFrame {
    match face {
        0 => match front {
            Front::Straight => FaceFrame { at: [0.0; 3], right: [1.0, 0.0, 0.0], up: [0.0, 1.0, 0.0], size: [w, h] },
            Front::Sloped { back } => {
                let long = back.hypot(h);
                FaceFrame { at: [0.0; 3], right: [1.0, 0.0, 0.0], up: [0.0, h / long, back / long], size: [w, long] }
            }
            Front::Stepped { at, back } => {
                let z = if up > at { back } else { 0.0 };
                FaceFrame { at: [0.0, 0.0, z], right: [1.0, 0.0, 0.0], up: [0.0, 1.0, 0.0], size: [w, h] }
            }
        },
        1 => FaceFrame { at: [w, 0.0, d], right: [-1.0, 0.0, 0.0], up: [0.0, 1.0, 0.0], size: [w, h] },
        2 => FaceFrame { at: [0.0, 0.0, d], right: [0.0, 0.0, -1.0], up: [0.0, 1.0, 0.0], size: [d, h] },
        3 => FaceFrame { at: [w, 0.0, 0.0], right: [0.0, 0.0, 1.0], up: [0.0, 1.0, 0.0], size: [d, h] },
        4 => FaceFrame { at: [0.0, h, 0.0], right: [1.0, 0.0, 0.0], up: [0.0, 0.0, 1.0], size: [w, d] },
        _ => FaceFrame { at: [0.0, 0.0, d], right: [1.0, 0.0, 0.0], up: [0.0, 0.0, -1.0], size: [w, d] },
    }
}

/// Angles in words, of what [`Board::bevels`] tells.
pub fn bevel_words([low, high]: P2) -> String {
    let (a, b) = (low.abs(), high.abs());
    let lean = if low * high < 0.0 { "leaning the same way" } else { "leaning towards each other" };
    match (a > 0.05, b > 0.05) {
        (true, true) if (a - b).abs() < 0.05 => format!("both ends {a:.1} degrees off square, {lean}"),
        (true, true) => format!("ends {a:.1} and {b:.1} degrees off square, {lean}"),
        (true, false) => format!("one end {a:.1} degrees off square"),
        (false, true) => format!("one end {b:.1} degrees off square"),
        (false, false) => String::new(),
    }
}

/// A block as a board: its thinnest side is its thickness.
pub fn block(name: &str, role: Role, at: [f64; 3], size: [f64; 3]) -> Board {
    plate(name, role, at, size, (0..3).min_by(|a, b| size[*a].total_cmp(&size[*b])).unwrap_or(0))
}

/// A block as a board whose thickness lies along an axis.
pub fn plate(name: &str, role: Role, at: [f64; 3], size: [f64; 3], thin: usize) -> Board {
    let (p, q) = ((thin + 1) % 3, (thin + 2) % 3);
    let unit = |axis: usize| {
        let mut v = [0.0; 3];
        v[axis] = 1.0;
        v
    };
    Board::plain(name, role, at, (unit(p), size[p]), (unit(q), size[q]), size[thin])
}

/// A bought tube between two discs, standing upright.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Tube {
    /// Outside diameter, mm.
    pub diameter: f64,
    /// Wall, mm.
    pub wall: f64,
    /// Height with both discs, mm.
    pub height: f64,
    /// Thickness of the upper disc, mm.
    pub top: f64,
    /// Thickness of the lower disc, mm.
    pub floor: f64,
}

impl Tube {
    /// Tube and discs.
    pub fn boards(&self) -> Vec<Board> {
        let r = self.diameter / 2.0;
        let round = |name: &str, role: Role, y: f64, thickness: f64| {
            // z × x points up
            let mut b = Board::plain(name, role, [r, y, r], ([0.0, 0.0, 1.0], 1.0), ([1.0, 0.0, 0.0], 1.0), thickness);
            b.outline = Outline::Disc { diameter_mm: self.diameter };
            b
        };
        let mut tube = round("Tube", Role::Tube, self.floor, self.height - self.top - self.floor);
        tube.holes.push(crate::board::Hole {
            name: "bore".into(),
            at: [0.0; 2],
            opening: crate::board::Opening::Round { diameter_mm: self.diameter - 2.0 * self.wall },
            screw_circle_mm: None,
            screws: 0,
            frame_mm: None,
            recess: None,
        });
        let mut list = vec![
            round("Top disc", Role::Wall, self.height - self.top, self.top),
            round("Bottom disc", Role::Baffle, 0.0, self.floor),
        ];
        for disc in &mut list {
            disc.edges = format!("round, {:.0} across", oak_drum_text::mm(self.diameter));
        }
        list.push(tube);
        list
    }

    /// Air inside, mm³.
    pub fn air(&self) -> f64 {
        let bore = self.diameter - 2.0 * self.wall;
        std::f64::consts::PI * bore * bore / 4.0 * (self.height - self.top - self.floor)
    }

    /// What the outside encloses, mm³.
    pub fn bulk(&self) -> f64 {
        std::f64::consts::PI * self.diameter * self.diameter / 4.0 * self.height
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    pub(super) fn carcass(front: Front, through: Through) -> Carcass {
        Carcass {
            outside: [420.0, 600.0, 485.0],
            panel: 18.0,
            baffle: 36.0,
            front,
            joint: Joint::Butt,
            through,
            housing: Housing::Butt,
            inner: Vec::new(),
            lid: None,
            open_front: Vec::new(),
        }
    }

    /// The boards and the air fill the outside exactly, whatever the front and whatever runs through: no space twice, none
    /// left out; braces of every kind among them.
    #[test]
    fn boards_and_air_fill_the_outside() {
        for through in [Through::FloorAndTop, Through::Sides] {
            for front in [Front::Straight, Front::Sloped { back: 90.0 }, Front::Stepped { at: 350.0, back: 60.0 }] {
                let mut c = carcass(front, through);
                c.inner = vec![
                    Inner::Level { name: "a".into(), at: 150.0, thickness: 18.0, reach: 1.0, open: 0.4 },
                    Inner::Block {
                        name: "b".into(),
                        role: Role::Bay,
                        at: [0.0, 0.0, 300.0],
                        size: [384.0, 90.0, 12.0],
                    },
                ];
                let wood: f64 = c.boards().iter().map(Board::volume).sum();
                assert_relative_eq!(wood + c.air(), c.bulk(), max_relative = 1e-12);
                assert!(c.boards().iter().all(|b| b.thickness_mm > 0.0 && b.volume() > 0.0), "{front:?}");
            }
        }
        // a triangle less for the slope, a block less for the step
        let straight = carcass(Front::Straight, Through::Sides).bulk();
        let sloped = carcass(Front::Sloped { back: 90.0 }, Through::Sides).bulk();
        assert_relative_eq!(straight - sloped, 90.0 * 600.0 / 2.0 * 420.0, max_relative = 1e-12);
    }

    /// A tube's boards and air fill its cylinder.
    #[test]
    fn a_tube_between_discs() {
        let tube = Tube { diameter: 400.0, wall: 9.8, height: 700.0, top: 18.0, floor: 36.0 };
        let wood: f64 = tube.boards().iter().map(Board::volume).sum();
        assert_relative_eq!(wood + tube.air(), tube.bulk(), max_relative = 1e-12);
        assert_relative_eq!(tube.boards()[0].centroid()[1], 691.0, max_relative = 1e-12);
    }

    /// Braces follow a leaning front: a level one is bevelled there, a frontal one ends under it.
    #[test]
    fn braces_follow_the_front() {
        let mut c = carcass(Front::Sloped { back: 150.0 }, Through::FloorAndTop);
        c.inner = vec![
            Inner::Level { name: "l".into(), at: 300.0, thickness: 18.0, reach: 1.0, open: 0.0 },
            Inner::Frontal { name: "f".into(), at: 60.0, thickness: 18.0, reach: 1.0, open: 0.0 },
        ];
        let boards = c.inside_boards();
        assert!(
            (boards[0].bevels()[0].abs() - (150.0f64 / 600.0).atan().to_degrees()).abs() < 0.01,
            "{:?}",
            boards[0].bevels()
        );
        let highest = boards[1].corners().iter().map(|p| p[1]).fold(0.0, f64::max);
        assert!(highest < 400.0 && highest > 200.0, "{highest}");
    }
}
