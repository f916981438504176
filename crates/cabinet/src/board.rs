//! A board as a solid: flat, of one thickness, its ends perhaps bevelled, with holes straight through.
//!
//! Axes of the cabinet: x across from the left, y up from the floor, z back from the baffle's face; mm.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::PI;

/// A point or direction in the cabinet's axes.
pub type V3 = [f64; 3];
/// A point in a plane, mm.
pub type P2 = [f64; 2];

/// a·b.
pub fn dot(a: V3, b: V3) -> f64 {
    a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
}

/// a × b.
pub fn cross(a: V3, b: V3) -> V3 {
    [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]]
}

/// a + k·b.
pub fn along(a: V3, b: V3, k: f64) -> V3 {
    [a[0] + k * b[0], a[1] + k * b[1], a[2] + k * b[2]]
}

/// Area of a ring of corners, positive anticlockwise, mm².
pub fn area(ring: &[P2]) -> f64 {
    let next = ring.iter().cycle().skip(1);
    ring.iter().zip(next).map(|(a, b)| a[0] * b[1] - b[0] * a[1]).sum::<f64>() / 2.0
}

/// Area and first moments of a ring about its axes' origin, mm² and mm³ (Bourke's polygon sums).
fn moments(ring: &[P2]) -> (f64, P2) {
    let (mut mx, mut my) = (0.0, 0.0);
    for (a, b) in ring.iter().zip(ring.iter().cycle().skip(1)) {
        let twice = a[0] * b[1] - b[0] * a[1];
        mx += (a[0] + b[0]) * twice / 6.0;
        my += (a[1] + b[1]) * twice / 6.0;
    }
    let area = area(ring);
    if area < 0.0 { (-area, [-mx, -my]) } else { (area, [mx, my]) }
}

/// What a board is to the cabinet.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Role {
    /// A wall of the carcass.
    Wall,
    /// The baffle, or a part of it.
    Baffle,
    /// A brace.
    Brace,
    /// A board of a folded path or a partition between chambers.
    Fold,
    /// A strip in a corner.
    Strip,
    /// A board of the amplifier's own chamber.
    Bay,
    /// A board of the tunnel between two cones.
    Tunnel,
    /// A board of a port.
    Port,
    /// A bought tube.
    Tube,
    /// A bought round bar.
    Dowel,
}

/// What a slot of a half-lap is called.
pub const LAP: &str = "half-lap";
/// What an opening for another board is called.
pub const THROUGH: &str = "opening for a board";
/// What a hole for a round bar is called.
pub const BAR_HOLE: &str = "round bar";

/// The farthest that screws of a board on a gasket are apart, mm (common practice).
pub const LID_SCREWS_MM: f64 = 120.0;

/// The outline of a hole.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "shape", rename_all = "snake_case")]
#[schemars(rename = "HoleOutline")]
pub enum Opening {
    /// Round.
    Round {
        /// Diameter, mm.
        diameter_mm: f64,
    },
    /// A rectangle along the board's sides.
    Rectangle {
        /// Along u, mm.
        length_mm: f64,
        /// Along v, mm.
        width_mm: f64,
    },
    /// A triangle with a right angle between the board's axes; its place is the middle of the square it is half of.
    Triangle {
        /// The leg along u, from the right angle on, mm; negative where it runs the other way.
        length_mm: f64,
        /// The leg along v, mm.
        width_mm: f64,
    },
}

impl Opening {
    /// Its area, mm².
    pub fn area(&self) -> f64 {
        match *self {
            Opening::Round { diameter_mm } => PI * diameter_mm * diameter_mm / 4.0,
            Opening::Rectangle { length_mm, width_mm } => length_mm * width_mm,
            Opening::Triangle { length_mm, width_mm } => (length_mm * width_mm).abs() / 2.0,
        }
    }
    /// Its corners around a place; none where it is round.
    pub fn corners(&self, [u, v]: P2) -> Option<Vec<P2>> {
        match *self {
            Opening::Round { .. } => None,
            Opening::Rectangle { length_mm, width_mm } => {
                let (l, w) = (length_mm / 2.0, width_mm / 2.0);
                Some(vec![[u - l, v - w], [u + l, v - w], [u + l, v + w], [u - l, v + w]])
            }
            Opening::Triangle { length_mm, width_mm } => {
                let (l, w) = (length_mm / 2.0, width_mm / 2.0);
                Some(vec![[u - l, v - w], [u + l, v - w], [u - l, v + w]])
            }
        }
    }
    /// Half its extent along u and v, mm.
    pub fn half(&self) -> P2 {
        match *self {
            Opening::Round { diameter_mm } => [diameter_mm / 2.0; 2],
            Opening::Rectangle { length_mm, width_mm } => [length_mm / 2.0, width_mm / 2.0],
            Opening::Triangle { length_mm, width_mm } => [length_mm.abs() / 2.0, width_mm.abs() / 2.0],
        }
    }
}

/// A hole straight through a board.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Hole {
    /// What it is for.
    pub name: String,
    /// Its middle on the board, mm along u and v.
    pub at: P2,
    /// Its outline, fit allowance included.
    pub opening: Opening,
    /// Diameter of the screw circle, mm; none where nothing is screwed.
    pub screw_circle_mm: Option<f64>,
    /// How many screws.
    pub screws: u32,
    /// Diameter of the frame or flange that covers it, mm.
    pub frame_mm: Option<f64>,
    /// What is let into the outer face around it for that frame.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub recess: Option<Recess>,
}

/// A round recess around a hole, for a frame that is to be flush.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Recess {
    /// Diameter, fit allowance included, mm.
    pub diameter_mm: f64,
    /// Depth, mm.
    pub depth_mm: f64,
}

impl Hole {
    /// Whether it belongs to the board, a window or where another board crosses it, rather than to something that sits in it.
    pub fn is_of_board(&self) -> bool {
        ["window", LAP, THROUGH, BAR_HOLE].contains(&self.name.as_str())
    }
    /// What the recess takes of the wood beside the hole itself, mm³.
    pub fn let_in(&self) -> f64 {
        self.recess
            .map_or(0.0, |r| (PI * r.diameter_mm * r.diameter_mm / 4.0 - self.opening.area()).max(0.0) * r.depth_mm)
    }
}

/// Outline of a board: the corners of its two faces, or a disc.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum Outline {
    /// Corners of the face and, as many, of the back; they differ where ends are bevelled.
    Corners {
        /// Of the face.
        face: Vec<P2>,
        /// Of the back.
        back: Vec<P2>,
    },
    /// A disc around the origin.
    Disc {
        /// Diameter, mm.
        diameter_mm: f64,
    },
}

/// The ring of an outline part-way from the face (0) to the back (1).
fn ring_of(outline: &Outline, part: f64) -> Vec<P2> {
    match outline {
        Outline::Corners { face, back } => {
            face.iter().zip(back).map(|(a, b)| [a[0] + (b[0] - a[0]) * part, a[1] + (b[1] - a[1]) * part]).collect()
        }
        Outline::Disc { diameter_mm } => (0..96)
            .map(|i| {
                let angle = f64::from(i) / 96.0 * 2.0 * PI;
                [diameter_mm / 2.0 * angle.cos(), diameter_mm / 2.0 * angle.sin()]
            })
            .collect(),
    }
}

/// The lowest and the highest of a ring's corners along each axis.
pub fn reach(ring: &[P2]) -> [P2; 2] {
    ring.iter().fold([[f64::INFINITY; 2], [f64::NEG_INFINITY; 2]], |[low, high], p| {
        [[low[0].min(p[0]), low[1].min(p[1])], [high[0].max(p[0]), high[1].max(p[1])]]
    })
}

/// What of a ring lies on one side of a limit along an axis: below it (`keep_low`) or above (Sutherland and Hodgman, 1974).
pub fn clipped(ring: &[P2], axis: usize, limit: f64, keep_low: bool) -> Vec<P2> {
    let inside = |p: &P2| if keep_low { p[axis] <= limit } else { p[axis] >= limit };
    let mut kept = Vec::new();
    for (a, b) in ring.iter().zip(ring.iter().cycle().skip(1)) {
        if inside(a) {
            kept.push(*a);
        }
        if inside(a) != inside(b) {
            let part = (limit - a[axis]) / (b[axis] - a[axis]);
            kept.push([a[0] + part * (b[0] - a[0]), a[1] + part * (b[1] - a[1])]);
        }
    }
    kept
}

/// Rectangles (lowest and highest corner) less one that is sawn out.
pub fn without(rectangles: Vec<[P2; 2]>, [low, high]: [P2; 2]) -> Vec<[P2; 2]> {
    let around = |[a, b]: [P2; 2]| {
        if (0..2).any(|k| high[k] <= a[k] || low[k] >= b[k]) {
            return vec![[a, b]];
        }
        let (from, to) = (a[1].max(low[1]), b[1].min(high[1]));
        let pieces = [[a, [b[0], from]], [[a[0], to], b], [[a[0], from], [low[0], to]], [[high[0], from], [b[0], to]]];
        pieces.into_iter().filter(|[p, q]| q[0] - p[0] > 1e-9 && q[1] - p[1] > 1e-9).collect()
    };
    rectangles.into_iter().flat_map(around).collect()
}

fn is_rectangle(ring: &[P2]) -> bool {
    let [low, high] = reach(ring);
    let on = |p: &P2, k: usize| (p[k] - low[k]).abs() < 1e-6 || (p[k] - high[k]).abs() < 1e-6;
    ring.len() == 4 && ring.iter().all(|p| on(p, 0) && on(p, 1))
}

fn extent_of(outline: &Outline) -> [P2; 2] {
    match outline {
        Outline::Disc { diameter_mm } => {
            let r = diameter_mm / 2.0;
            [[-r, -r], [r, r]]
        }
        Outline::Corners { face, back } => {
            let both: Vec<P2> = face.iter().chain(back).copied().collect();
            reach(&both)
        }
    }
}

/// A board in its place.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[schemars(rename = "CabinetBoard")]
pub struct Board {
    /// What it is called.
    pub name: String,
    /// What it is to the cabinet.
    pub role: Role,
    /// Origin of its face, mm.
    pub at: V3,
    /// Direction of its first axis, in the face.
    pub u: V3,
    /// Direction of its second axis, in the face; u × v points from the face into the board.
    pub v: V3,
    /// Thickness, mm.
    pub thickness_mm: f64,
    /// Its outline.
    pub outline: Outline,
    /// Its holes.
    pub holes: Vec<Hole>,
    /// Its outline as it is sawn, with what stands in rebates, mitres and grooves; absent where nothing does.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub sawn: Option<Outline>,
    /// What is sawn along its edges, in words.
    pub edges: String,
    /// How many screws hold it on a gasket, where it comes off again; 0 where it is glued.
    pub lid_screws: u32,
}

impl Board {
    /// A plain board: origin, two sides (u, v) as vectors with their lengths, thickness.
    pub fn plain(name: &str, role: Role, at: V3, u: (V3, f64), v: (V3, f64), thickness: f64) -> Board {
        let ring = vec![[0.0, 0.0], [u.1, 0.0], [u.1, v.1], [0.0, v.1]];
        Board {
            name: name.into(),
            role,
            at,
            u: u.0,
            v: v.0,
            thickness_mm: thickness,
            outline: Outline::Corners { face: ring.clone(), back: ring },
            holes: Vec::new(),
            sawn: None,
            edges: String::new(),
            lid_screws: 0,
        }
    }

    /// A board seen in the side section as a quadrilateral (z, y): its face from `a` to `b`, its back from `a2` to `b2`,
    /// reaching across from x = `from` to `to`.
    pub fn across(name: &str, role: Role, [a, b, a2, b2]: [P2; 4], from: f64, to: f64) -> Board {
        let length = (b[0] - a[0]).hypot(b[1] - a[1]).max(1e-9);
        let u: V3 = [0.0, (b[1] - a[1]) / length, (b[0] - a[0]) / length];
        let off = [0.0, a2[1] - a[1], a2[0] - a[0]];
        let (mut v, mut x) = ([1.0, 0.0, 0.0], from);
        if dot(cross(u, v), off) < 0.0 {
            (v, x) = ([-1.0, 0.0, 0.0], to);
        }
        let thickness = dot(cross(u, v), off);
        let of = |p: P2| dot([0.0, p[1] - a[1], p[0] - a[0]], u);
        let (low, high, w) = (of(a2), of(b2), to - from);
        Board {
            name: name.into(),
            role,
            at: [x, a[1], a[0]],
            u,
            v,
            thickness_mm: thickness,
            outline: Outline::Corners {
                face: vec![[0.0, 0.0], [length, 0.0], [length, w], [0.0, w]],
                back: vec![[low, 0.0], [high, 0.0], [high, w], [low, w]],
            },
            holes: Vec::new(),
            sawn: None,
            edges: String::new(),
            lid_screws: 0,
        }
    }

    /// A plate whose outline is a ring in the side section (z, y), from x = `from` on.
    pub fn upright(name: &str, role: Role, ring: &[P2], from: f64, thickness: f64) -> Board {
        // z × y points to the left; the face is the one on the right, so that u × v goes into the board
        let at = [from + thickness, 0.0, 0.0];
        Board {
            name: name.into(),
            role,
            at,
            u: [0.0, 0.0, 1.0],
            v: [0.0, 1.0, 0.0],
            thickness_mm: thickness,
            outline: Outline::Corners { face: ring.to_vec(), back: ring.to_vec() },
            holes: Vec::new(),
            sawn: None,
            edges: String::new(),
            lid_screws: 0,
        }
    }

    /// Adds to what is sawn along its edges.
    pub fn add_words(&mut self, words: &str) {
        if !words.is_empty() && !self.edges.is_empty() {
            self.edges.push_str("; ");
        }
        self.edges.push_str(words);
    }

    /// Where the screws of a lid go on its face: along its outline, half a board of `walls` (mm) from the edge, no two farther
    /// apart than [`LID_SCREWS_MM`].
    pub fn lid_places(&self, walls: f64) -> Vec<P2> {
        let ring = self.ring(0.0);
        let middle = [0, 1].map(|k| ring.iter().map(|p| p[k]).sum::<f64>() / ring.len() as f64);
        let turn = if area(&ring) > 0.0 { 1.0 } else { -1.0 };
        let n = ring.len();
        // the corners moved in along both their edges
        let inset: Vec<P2> = (0..n)
            .map(|i| {
                let (before, here, next) = (ring[(i + n - 1) % n], ring[i], ring[(i + 1) % n]);
                let unit = |a: P2, b: P2| {
                    let l = (b[0] - a[0]).hypot(b[1] - a[1]).max(1e-9);
                    [(b[0] - a[0]) / l, (b[1] - a[1]) / l]
                };
                let (p, q) = (unit(before, here), unit(here, next));
                let sine = p[0] * q[1] - p[1] * q[0];
                if sine.abs() < 1e-6 {
                    return [0, 1].map(|k| here[k] + (middle[k] - here[k]).signum() * walls / 2.0);
                }
                let by = turn * walls / 2.0 / sine;
                [here[0] + by * (q[0] - p[0]), here[1] + by * (q[1] - p[1])]
            })
            .collect();
        let mut places = Vec::new();
        for (a, b) in inset.iter().zip(inset.iter().cycle().skip(1)) {
            let pieces = ((b[0] - a[0]).hypot(b[1] - a[1]) / LID_SCREWS_MM).ceil().max(1.0);
            // not in the corners themselves: half a distance from them
            places.extend((0..pieces as u32).map(|k| {
                let part = (f64::from(k) + 0.5) / pieces;
                [a[0] + (b[0] - a[0]) * part, a[1] + (b[1] - a[1]) * part]
            }));
        }
        places
    }

    /// Direction from the face into the board.
    pub fn normal(&self) -> V3 {
        cross(self.u, self.v)
    }

    /// Where a point of the face lies, mm along u and v.
    pub fn on_face(&self, point: V3) -> P2 {
        let off = along(point, self.at, -1.0);
        [dot(off, self.u), dot(off, self.v)]
    }

    /// A point of the board in the cabinet: along u, along v, below the face, mm.
    pub fn place(&self, [u, v]: P2, below: f64) -> V3 {
        along(along(along(self.at, self.u, u), self.v, v), self.normal(), below)
    }

    /// The ring part-way from the face (0) to the back (1).
    pub fn ring(&self, part: f64) -> Vec<P2> {
        ring_of(&self.outline, part)
    }

    /// Area and first moments at a part of the way through, holes not taken off.
    fn whole(&self, part: f64) -> (f64, P2) {
        match self.outline {
            Outline::Disc { diameter_mm } => (PI * diameter_mm * diameter_mm / 4.0, [0.0; 2]),
            Outline::Corners { .. } => moments(&self.ring(part)),
        }
    }

    /// Volume with its holes still full, mm³: the area is a quadratic of the depth, so Simpson's rule is exact.
    pub fn gross(&self) -> f64 {
        self.thickness_mm / 6.0 * (self.whole(0.0).0 + 4.0 * self.whole(0.5).0 + self.whole(1.0).0)
    }

    /// Volume, mm³.
    pub fn volume(&self) -> f64 {
        self.gross() - self.holes.iter().map(|h| self.thickness_mm * h.opening.area() + h.let_in()).sum::<f64>()
    }

    /// Volume with what is sawn out of it inside the box gone and its other holes still full, mm³: what it takes of the air once
    /// something sits in them.
    pub fn gross_of_windows(&self) -> f64 {
        let open: f64 = self.holes.iter().filter(|h| h.is_of_board()).map(|h| h.opening.area()).sum();
        self.gross() - self.thickness_mm * open
    }

    /// Centre of its volume, mm.
    pub fn centroid(&self) -> V3 {
        let weights = [(0.0, 1.0), (0.5, 4.0), (1.0, 1.0)];
        let (mut sum, mut mu, mut mv, mut mn) = (0.0, 0.0, 0.0, 0.0);
        for (part, weight) in weights {
            let (a, m) = self.whole(part);
            sum += weight * a;
            mu += weight * m[0];
            mv += weight * m[1];
            mn += weight * a * part * self.thickness_mm;
        }
        for hole in &self.holes {
            let a = 6.0 * hole.opening.area();
            sum -= a;
            mu -= a * hole.at[0];
            mv -= a * hole.at[1];
            mn -= a * self.thickness_mm / 2.0;
        }
        self.place([mu / sum, mv / sum], mn / sum)
    }

    /// Extent along u and v as it shows: (low, high).
    pub fn extent(&self) -> [P2; 2] {
        extent_of(&self.outline)
    }

    /// Its outline as it is sawn.
    pub fn cut(&self) -> &Outline {
        self.sawn.as_ref().unwrap_or(&self.outline)
    }

    /// Finished size along u and v, mm: of the longer of its two faces. Ends that lean the same way leave both as long.
    pub fn size(&self) -> P2 {
        let [a, b] = match self.cut() {
            Outline::Corners { face, back } => [reach(face), reach(back)],
            disc => [extent_of(disc); 2],
        };
        [0, 1].map(|k| (a[1][k] - a[0][k]).max(b[1][k] - b[0][k]))
    }

    /// Size of the rectangle it is sawn from along u and v, mm.
    pub fn blank(&self) -> P2 {
        let [low, high] = extent_of(self.cut());
        [high[0] - low[0], high[1] - low[1]]
    }

    /// What it is sawn to before its ends are bevelled: along each axis the longer of its faces.
    pub fn flat(&self) -> Vec<P2> {
        match self.cut() {
            Outline::Corners { face, back } if is_rectangle(face) && is_rectangle(back) => {
                let (one, other) = (reach(face), reach(back));
                let longer =
                    [0, 1].map(|k| if other[1][k] - other[0][k] > one[1][k] - one[0][k] + 1e-6 { other } else { one });
                let ([l, h], [low, high]) = (longer[0].map(|p| p[0]), longer[1].map(|p| p[1]));
                vec![[l, low], [h, low], [h, high], [l, high]]
            }
            Outline::Corners { face, back } if area(back).abs() > area(face).abs() + 1e-6 => back.clone(),
            Outline::Corners { face, .. } => face.clone(),
            disc => ring_of(disc, 0.0),
        }
    }

    /// Lets its ends along an axis (0: u, 1: v) reach so far into what they meet, mm, the low one and the high one.
    pub fn let_in(&mut self, axis: usize, [low, high]: P2) {
        let Outline::Corners { face, back } = self.sawn.clone().unwrap_or_else(|| self.outline.clone()) else { return };
        let further = |ring: Vec<P2>| {
            let [least, most] = reach(&ring);
            let moved = ring.into_iter().map(|mut p| {
                if p[axis] - least[axis] < 0.01 {
                    p[axis] -= low;
                } else if most[axis] - p[axis] < 0.01 {
                    p[axis] += high;
                }
                p
            });
            moved.collect()
        };
        self.sawn = Some(Outline::Corners { face: further(face), back: further(back) });
    }

    /// How far its ends lean off square, degrees, at the low and the high end of u: positive where the back reaches farther out
    /// than the face.
    pub fn bevels(&self) -> P2 {
        let Outline::Corners { face, back } = &self.outline else { return [0.0; 2] };
        if face.len() != 4 {
            return [0.0; 2];
        }
        let off = |i: usize| ((back[i][0] - face[i][0]) / self.thickness_mm).atan().to_degrees();
        [-off(0), off(1)]
    }

    /// Corners in the cabinet, of face and back.
    pub fn corners(&self) -> Vec<V3> {
        let face = self.ring(0.0).into_iter().map(|p| self.place(p, 0.0));
        let back = self.ring(1.0).into_iter().map(|p| self.place(p, self.thickness_mm));
        face.chain(back).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    /// A wedge-ended board against the sum of a block and a triangular prism, worked by hand.
    #[test]
    fn a_bevelled_board() {
        // face 100 long, back 80: one end at 45 degrees over 20 mm, 50 across
        let quad = [[0.0, 0.0], [0.0, 100.0], [20.0, 0.0], [20.0, 80.0]];
        let board = Board::across("x", Role::Fold, quad, 0.0, 50.0);
        assert_relative_eq!(board.volume(), 80.0 * 20.0 * 50.0 + 20.0 * 20.0 / 2.0 * 50.0, max_relative = 1e-12);
        assert_relative_eq!(board.bevels()[1], -45.0, max_relative = 1e-12);
        assert_relative_eq!(board.bevels()[0], 0.0);
        // block's centroid at y = 40, triangle's at 80 + 20/3
        let (block, prism) = (80_000.0, 10_000.0);
        let c = board.centroid();
        let y = (block * 40.0 + prism * (80.0 + 20.0 / 3.0)) / (block + prism);
        let z = (block * 10.0 + prism * (20.0 / 3.0)) / (block + prism);
        assert_relative_eq!(c[1], y, max_relative = 1e-9);
        assert_relative_eq!(c[2], z, max_relative = 1e-9);
        assert_relative_eq!(c[0], 25.0, max_relative = 1e-9);
    }

    /// Whichever side the back lies on, the board fills the same space and its normal goes into it.
    #[test]
    fn either_way_around() {
        for quad in [
            [[0.0, 0.0], [0.0, 100.0], [18.0, 0.0], [18.0, 100.0]],
            [[18.0, 0.0], [18.0, 100.0], [0.0, 0.0], [0.0, 100.0]],
        ] {
            let board = Board::across("x", Role::Fold, quad, 10.0, 60.0);
            assert!(board.thickness_mm > 0.0);
            let c = board.centroid();
            assert_relative_eq!(c[0], 35.0, max_relative = 1e-12);
            assert_relative_eq!(c[1], 50.0, max_relative = 1e-12);
            assert_relative_eq!(c[2], 9.0, max_relative = 1e-12);
        }
        let plate =
            Board::upright("s", Role::Wall, &[[18.0, 0.0], [200.0, 0.0], [200.0, 300.0], [18.0, 300.0]], 0.0, 18.0);
        assert_relative_eq!(plate.centroid()[0], 9.0, max_relative = 1e-12);
        assert_relative_eq!(plate.centroid()[2], 109.0, max_relative = 1e-12);
    }
}
