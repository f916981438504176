//! Elevations, the side section, the fold, and the parts flat: from the boards as they stand.

use super::{Anchor, Drawing, Item, Layer, mm};
use crate::board::{Board, Hole, LAP, Opening, Outline, P2, Role, V3, dot, reach};
use crate::fold::Fold;
use crate::sheets::{Bin, Cut, Placed};
use std::f64::consts::TAU;

/// Which way one looks.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Side {
    /// From the front.
    Front,
    /// From behind.
    Back,
    /// From the left: the front is on the right.
    Left,
    /// From above: the front is below.
    Top,
}

impl Side {
    fn title(self) -> &'static str {
        match self {
            Side::Front => "Front",
            Side::Back => "Back, from behind",
            Side::Left => "Left side",
            Side::Top => "From above",
        }
    }
    /// Rightward, upward and into the picture.
    fn axes(self) -> [V3; 3] {
        match self {
            Side::Front => [[1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, 1.0]],
            Side::Back => [[-1.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 0.0, -1.0]],
            Side::Left => [[0.0, 0.0, -1.0], [0.0, 1.0, 0.0], [1.0, 0.0, 0.0]],
            Side::Top => [[1.0, 0.0, 0.0], [0.0, 0.0, 1.0], [0.0, -1.0, 0.0]],
        }
    }
}

/// The convex hull of points, anticlockwise (Andrew's monotone chain, 1979).
pub fn hull(points: &[P2]) -> Vec<P2> {
    let mut sorted = points.to_vec();
    sorted.sort_by(|a, b| a[0].total_cmp(&b[0]).then(a[1].total_cmp(&b[1])));
    sorted.dedup_by(|a, b| (a[0] - b[0]).abs() < 1e-6 && (a[1] - b[1]).abs() < 1e-6);
    if sorted.len() < 3 {
        return sorted;
    }
    let turn = |o: P2, a: P2, b: P2| (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0]);
    let half = |points: &mut dyn Iterator<Item = P2>| {
        let mut chain: Vec<P2> = Vec::new();
        for p in points {
            while chain.len() > 1 && turn(chain[chain.len() - 2], chain[chain.len() - 1], p) <= 0.0 {
                chain.pop();
            }
            chain.push(p);
        }
        chain.pop();
        chain
    };
    let mut ring = half(&mut sorted.iter().copied());
    ring.extend(half(&mut sorted.iter().rev().copied()));
    ring
}

/// Height of words for a thing so large, mm.
fn words_for(size: f64) -> f64 {
    (size / 42.0).clamp(6.0, 60.0)
}

/// Outer size of all boards: (low, high).
pub fn bounds(boards: &[Board]) -> (V3, V3) {
    let (mut low, mut high) = ([f64::INFINITY; 3], [f64::NEG_INFINITY; 3]);
    for p in boards.iter().flat_map(Board::corners) {
        for k in 0..3 {
            low[k] = low[k].min(p[k]);
            high[k] = high[k].max(p[k]);
        }
    }
    (low, high)
}

/// An elevation: outlines and holes of the boards one sees, what stands inside dashed, the outer sizes.
pub fn elevation(boards: &[Board], side: Side) -> Drawing {
    let [right, up, into] = side.axes();
    let flat = |p: V3| [dot(p, right), dot(p, up)];
    let (low, high) = bounds(boards);
    let far = boards.iter().flat_map(Board::corners).map(|p| dot(p, into)).fold(f64::INFINITY, f64::min);
    let mut d = Drawing::new(side.title(), words_for((high[0] - low[0]).max(high[1] - low[1]).max(high[2] - low[2])));
    // the nearer covers the farther
    let nearest = |b: &Board| b.corners().iter().map(|p| dot(*p, into)).fold(f64::INFINITY, f64::min);
    let mut seen: Vec<&Board> = boards.iter().filter(|b| b.role != Role::Strip).collect();
    seen.sort_by(|a, b| nearest(b).total_cmp(&nearest(a)));
    for board in &seen {
        let ring = hull(&board.corners().into_iter().map(flat).collect::<Vec<_>>());
        d.add(Layer::Outline, Item::Ring(ring, true));
    }
    // what stands inside
    for board in boards.iter().filter(|b| !matches!(b.role, Role::Wall | Role::Baffle | Role::Tube | Role::Strip)) {
        let ring = hull(&board.corners().into_iter().map(flat).collect::<Vec<_>>());
        d.add(Layer::Hidden, Item::Ring(ring, false));
    }
    // what faces one: its outer face lies nearest, or leans
    let facing: Vec<&Board> = boards
        .iter()
        .filter(|b| matches!(b.role, Role::Wall | Role::Baffle | Role::Tube))
        .filter(|b| {
            let towards = dot(b.normal(), into).abs() > 0.5;
            towards && (nearest(b) - far < 1.0 || (b.role == Role::Baffle && side == Side::Front))
        })
        .collect();
    let outline: Vec<P2> = seen.iter().flat_map(|b| b.corners()).map(flat).collect();
    let text = d.text;
    let edge = |axis: usize, least: bool| {
        let values = outline.iter().map(|p| p[axis]);
        if least { values.fold(f64::INFINITY, f64::min) } else { values.fold(f64::NEG_INFINITY, f64::max) }
    };
    let (x0, x1, y0, y1) = (edge(0, true), edge(0, false), edge(1, true), edge(1, false));
    let (mut heights, mut acrosses): (Vec<f64>, Vec<f64>) = (Vec::new(), Vec::new());
    for board in facing {
        let leans = dot(board.normal(), into).abs() < 0.9999;
        let [least, most] = reach(&board.ring(0.0));
        // of a face that leans the way up is along it
        let way = usize::from(dot(board.v, up).abs() > dot(board.u, up).abs());
        if leans {
            d.note = format!(
                "The front leans: heights of its holes are along its face, {} long.",
                mm(most[way] - least[way])
            );
        }
        for hole in board.holes.iter().filter(|h| h.name != "bore") {
            let c = flat(board.place(hole.at, 0.0));
            match hole.opening {
                Opening::Round { diameter_mm } => {
                    d.add(Layer::Cut, Item::Circle(c, diameter_mm / 2.0));
                    if let Some(frame) = hole.frame_mm {
                        d.add(Layer::Hidden, Item::Circle(c, frame / 2.0));
                    }
                    d.cross(c, diameter_mm / 2.0 + text);
                    d.word(
                        [c[0] + 0.3 * text, c[1] + 0.3 * text],
                        format!("{} {}", hole.name, mm(diameter_mm)),
                        Anchor::Start,
                    );
                }
                _ => {
                    let ring: Vec<P2> =
                        hole.opening.corners(hole.at).iter().flatten().map(|p| flat(board.place(*p, 0.0))).collect();
                    d.add(Layer::Cut, Item::Ring(ring, false));
                    d.word([c[0], c[1] - 0.3 * text], hole.name.clone(), Anchor::Middle);
                }
            }
            // where its centre is: from the left and from the lower edge
            if hole.is_of_board() {
                continue;
            }
            if !heights.iter().any(|h| (h - c[1]).abs() < 0.5) {
                let off = 2.2 * text * (heights.len() as f64 + 1.0);
                let axis = if way == 0 { board.u } else { board.v };
                let from = if dot(axis, up) > 0.0 { hole.at[way] - least[way] } else { most[way] - hole.at[way] };
                d.dimension([x0, y0], [x0, c[1]], off, mm(if leans { from } else { c[1] - y0 }));
                heights.push(c[1]);
            }
            if !acrosses.iter().any(|a| (a - c[0]).abs() < 0.5) {
                d.dimension([x0, y0], [c[0], y0], -2.6 * text * (acrosses.len() as f64 + 1.0), mm(c[0] - x0));
                acrosses.push(c[0]);
            }
        }
    }
    let outer = 2.2 * text * (heights.len() as f64 + 1.0);
    d.dimension([x0, y0], [x0, y1], outer, mm(y1 - y0));
    d.dimension([x0, y0], [x1, y0], -2.6 * text * (acrosses.len() as f64 + 1.0), mm(x1 - x0));
    d
}

fn rectangle(at: P2, length: f64, width: f64) -> [P2; 4] {
    let (l, w) = (length / 2.0, width / 2.0);
    [[at[0] - l, at[1] - w], [at[0] + l, at[1] - w], [at[0] + l, at[1] + w], [at[0] - l, at[1] + w]]
}

/// Where a board is cut by the plane half across: its outline there (z, y); of a board beside the plane nothing.
fn cut_at(board: &Board, x: f64) -> Option<Vec<P2>> {
    let xs: Vec<f64> = board.corners().iter().map(|p| p[0]).collect();
    let (low, high) =
        (xs.iter().copied().fold(f64::INFINITY, f64::min), xs.iter().copied().fold(f64::NEG_INFINITY, f64::max));
    if x < low || x > high || board.normal()[0].abs() > 0.5 {
        return None;
    }
    if matches!(board.outline, Outline::Disc { .. }) && !matches!(board.role, Role::Wall | Role::Baffle | Role::Tube) {
        return None;
    }
    Some(hull(&board.corners().iter().map(|p| [p[2], p[1]]).collect::<Vec<_>>()))
}

/// A body in the section: its silhouette (z, y).
#[derive(Clone, Debug, PartialEq)]
pub struct Silhouette {
    /// What it is.
    pub name: String,
    /// Its outline.
    pub ring: Vec<P2>,
    /// Whether it is in the way of something.
    pub wrong: bool,
}

/// The side section half across, the front on the left: boards cut through, windows and holes left open, silhouettes of what
/// sits in it.
pub fn section(boards: &[Board], things: &[Silhouette]) -> Drawing {
    let (low, high) = bounds(boards);
    let mut d = Drawing::new("Side section, front on the left", words_for((high[1] - low[1]).max(high[2] - low[2])));
    let x = 0.5 * (low[0] + high[0]);
    for board in boards {
        let Some(ring) = cut_at(board, x) else { continue };
        for piece in without_openings(board, x, ring) {
            d.add(Layer::Section, Item::Ring(piece, false));
        }
    }
    for thing in things {
        d.add(if thing.wrong { Layer::Wrong } else { Layer::Hidden }, Item::Ring(thing.ring.clone(), false));
    }
    let text = d.text;
    d.dimension([low[2], low[1]], [low[2], high[1]], 2.2 * text, mm(high[1] - low[1]));
    d.dimension([low[2], low[1]], [high[2], low[1]], -2.6 * text, mm(high[2] - low[2]));
    d
}

/// The cut outline of a board, less what its holes take of it in the plane.
fn without_openings(board: &Board, x: f64, ring: Vec<P2>) -> Vec<Vec<P2>> {
    // in the plane the board is a strip along u or v; holes over the plane take a part of it
    let along_u = board.u[0].abs() < 0.5;
    let axis = usize::from(!along_u);
    let mut gaps: Vec<P2> = board
        .holes
        .iter()
        .filter_map(|h| {
            let c = board.place(h.at, 0.0);
            let half = h.opening.half();
            let across = half[1 - axis];
            let off = (c[0] - x).abs();
            if off >= across {
                return None;
            }
            let reach = match h.opening {
                Opening::Round { diameter_mm } => ((diameter_mm / 2.0).powi(2) - off * off).sqrt(),
                _ => half[axis],
            };
            Some([h.at[axis] - reach, h.at[axis] + reach])
        })
        .collect();
    if gaps.is_empty() {
        return vec![ring];
    }
    gaps.sort_by(|a, b| a[0].total_cmp(&b[0]));
    // its ends are where either face ends: they may be bevelled
    let (face, back) = (reach(&board.ring(0.0)), reach(&board.ring(1.0)));
    let other = 0.5 * (face[0][1 - axis] + face[1][1 - axis]);
    let place = |s: f64, below: f64| {
        let p = board.place(if axis == 0 { [s, other] } else { [other, s] }, below);
        [p[2], p[1]]
    };
    let mut pieces = Vec::new();
    let mut from = [face[0][axis], back[0][axis]];
    let end = [face[1][axis], back[1][axis]];
    for gap in gaps.iter().map(|g| [[g[0]; 2], [g[1]; 2]]).chain(std::iter::once([end; 2])) {
        let [begins, ends] = gap;
        if begins[0] - from[0] > 0.5 {
            let t = board.thickness_mm;
            pieces.push(vec![place(from[0], 0.0), place(begins[0], 0.0), place(begins[1], t), place(from[1], t)]);
        }
        if ends[0] > from[0] {
            from = ends;
        }
    }
    pieces
}

/// The fold in its section: segments, centre line with its length, boards with their lengths and angles.
pub fn fold_section(boards: &[Board], fold: &Fold, things: &[Silhouette], letter: impl Fn(&str) -> String) -> Drawing {
    let mut d = section(boards, things);
    d.title = "Fold, front on the left".into();
    let text = d.text;
    d.add(Layer::Centre, Item::Run(fold.centre.clone()));
    if let (Some(first), Some(last)) = (fold.centre.first(), fold.centre.last()) {
        d.add(Layer::Centre, Item::Circle(*first, 0.4 * text));
        // an arrow at the mouth
        if let Some(before) = fold.centre.iter().rev().nth(1) {
            let (dx, dy) = (last[0] - before[0], last[1] - before[1]);
            let l = dx.hypot(dy).max(1e-9);
            let (ux, uy) = (dx / l * text, dy / l * text);
            for side in [-0.5, 0.5] {
                d.add(Layer::Centre, Item::Line(*last, [last[0] - ux - uy * side, last[1] - uy + ux * side]));
            }
        }
    }
    let far = fold.boards.iter().flat_map(|(_, quad)| quad.iter().map(|p| p[0])).fold(0.0, f64::max);
    for (name, quad) in &fold.boards {
        let long = (quad[1][0] - quad[0][0]).hypot(quad[1][1] - quad[0][1]);
        let lean = {
            let (dz, dy) = ((quad[1][0] - quad[0][0]).abs(), (quad[1][1] - quad[0][1]).abs());
            dz.min(dy).atan2(dz.max(dy)).to_degrees()
        };
        let middle = [(quad[0][0] + quad[1][0]) / 2.0, (quad[0][1] + quad[1][1]) / 2.0];
        let words = if lean > 0.05 {
            format!("{} {} at {lean:.1} deg", letter(name), mm(long))
        } else {
            format!("{} {}", letter(name), mm(long))
        };
        // towards the middle, so that it stays in the drawing
        let (aside, anchor) = if middle[0] > 0.5 * far { (-0.4, Anchor::End) } else { (0.4, Anchor::Start) };
        d.word([middle[0] + aside * text, middle[1]], words, anchor);
    }
    d.note = format!("Along the dash-dotted line the path is {:.0} long.", oak_drum_text::mm(fold.length));
    d
}

/// A corner of a hole on the board as it is sawn: a slot from an edge goes on through what stands in a groove.
fn sawn(board: &Board, hole: &Hole, mut p: P2) -> P2 {
    if hole.name == LAP {
        let ([low, high], [least, most]) = (board.extent(), reach(&board.flat()));
        for k in 0..2 {
            if p[k] - low[k] < 0.05 {
                p[k] = least[k];
            } else if high[k] - p[k] < 0.05 {
                p[k] = most[k];
            }
        }
    }
    p
}

/// A piece as it is sawn: its letter, its board, its own thickness (mm; less than the board's where that is glued up).
pub type FlatPiece<'a> = (String, &'a Board, f64);

/// Every piece flat as it is sawn, with its holes: for a router, or for marking out. Each is named by its letter and has the
/// sizes of its line in the cut list.
pub fn parts_flat(pieces: &[FlatPiece]) -> Drawing {
    let largest = pieces.iter().map(|(_, b, _)| b.size()[0].max(b.size()[1])).fold(0.0, f64::max);
    let mut d = Drawing::new("Parts, flat", words_for(largest));
    let gap = 2.0 * d.text;
    let (mut x, mut y, mut row) = (0.0, 0.0, 0.0f64);
    let wide = 3.0 * largest;
    for (label, board, thickness) in pieces {
        let ring = board.flat();
        let [low, high] = reach(&ring);
        let (w, h) = (high[0] - low[0], high[1] - low[1]);
        if x > 0.0 && x + w > wide {
            x = 0.0;
            y -= row + gap;
            row = 0.0;
        }
        let at = |p: P2| [x + p[0] - low[0], y - h + p[1] - low[1]];
        match &board.outline {
            Outline::Disc { diameter_mm } => d.add(Layer::Outline, Item::Circle(at([0.0, 0.0]), diameter_mm / 2.0)),
            Outline::Corners { .. } => {
                d.add(Layer::Outline, Item::Ring(ring.iter().map(|p| at(*p)).collect(), false));
            }
        }
        for hole in board.holes.iter().filter(|h| h.name != "bore") {
            let c = at(hole.at);
            match hole.opening {
                Opening::Round { diameter_mm } => {
                    d.add(Layer::Cut, Item::Circle(c, diameter_mm / 2.0));
                    if let Some(recess) = hole.recess {
                        d.add(Layer::Cut, Item::Circle(c, recess.diameter_mm / 2.0));
                        d.word([c[0], c[1] - 2.0 * d.text], format!("{} deep", mm(recess.depth_mm)), Anchor::Middle);
                    }
                    let half = (diameter_mm / 20.0).max(4.0);
                    d.cross(c, half);
                }
                _ => {
                    let ring =
                        hole.opening.corners(hole.at).iter().flatten().map(|p| at(sawn(board, hole, *p))).collect();
                    d.add(Layer::Cut, Item::Ring(ring, false));
                }
            }
            if let Some(circle) = hole.screw_circle_mm {
                for k in 0..hole.screws {
                    let angle = (f64::from(k) + 0.5) / f64::from(hole.screws) * TAU;
                    let p = [c[0] + circle / 2.0 * angle.cos(), c[1] + circle / 2.0 * angle.sin()];
                    d.add(Layer::Screws, Item::Circle(p, 1.5));
                }
            }
        }
        if board.lid_screws > 0 {
            for p in board.lid_places(board.thickness_mm) {
                d.add(Layer::Screws, Item::Circle(at(p), 1.5));
            }
        }
        d.word(
            [x + w / 2.0, y + 0.3 * d.text],
            format!("{label} {} x {} x {}", mm(w.max(h)), mm(w.min(h)), mm(*thickness)),
            Anchor::Middle,
        );
        x += w + gap;
        row = row.max(h + 1.5 * d.text);
    }
    d
}

/// Sheets with the pieces on them and the cuts in the order of sawing.
pub fn sheets(title: &str, bins: &[Bin], placed: &[Placed], cuts: &[Cut]) -> Drawing {
    let longest = bins.iter().map(|b| b.length_mm).fold(1.0, f64::max);
    let mut d = Drawing::new(title, words_for(longest));
    let text = d.text;
    let mut y = 0.0;
    for (i, bin) in bins.iter().enumerate() {
        y -= bin.width_mm;
        let name = if bin.own { "own piece".to_owned() } else { format!("sheet {}", i + 1) };
        d.word(
            [0.0, y + bin.width_mm + 0.4 * text],
            format!("{name}, {} x {}", mm(bin.length_mm), mm(bin.width_mm)),
            Anchor::Start,
        );
        d.add(
            Layer::Outline,
            Item::Ring(
                rectangle([bin.length_mm / 2.0, y + bin.width_mm / 2.0], bin.length_mm, bin.width_mm).to_vec(),
                false,
            ),
        );
        for p in placed.iter().filter(|p| p.sheet as usize == i) {
            let c = [p.x_mm + p.length_mm / 2.0, y + p.y_mm + p.width_mm / 2.0];
            d.add(Layer::Cut, Item::Ring(rectangle(c, p.length_mm, p.width_mm).to_vec(), false));
            d.word([c[0], c[1]], p.label.clone(), Anchor::Middle);
            let small = 0.7 * text;
            if p.width_mm > 3.0 * text && p.length_mm > 8.0 * text {
                d.add(
                    Layer::Text,
                    Item::Text(
                        [c[0], c[1] - 1.2 * text],
                        format!("{} x {}", mm(p.length_mm), mm(p.width_mm)),
                        small,
                        Anchor::Middle,
                    ),
                );
            }
        }
        for (k, cut) in cuts.iter().filter(|c| c.sheet as usize == i).enumerate() {
            let a = [cut.x_mm, y + cut.y_mm];
            let b = if cut.rip { [a[0] + cut.length_mm, a[1]] } else { [a[0], a[1] + cut.length_mm] };
            d.add(Layer::Hidden, Item::Line(a, b));
            d.add(
                Layer::Dimension,
                Item::Text([a[0] + 0.2 * text, a[1] + 0.2 * text], format!("{}", k + 1), 0.6 * text, Anchor::Start),
            );
        }
        y -= 2.0 * text;
    }
    d
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::board::area;
    use crate::carcass::{Carcass, Front, Housing, Inner, Joint, Through};

    fn boards() -> Vec<Board> {
        Carcass {
            outside: [420.0, 600.0, 485.0],
            panel: 18.0,
            baffle: 36.0,
            front: Front::Straight,
            joint: Joint::Butt,
            through: Through::FloorAndTop,
            housing: Housing::Butt,
            inner: vec![Inner::Level { name: "Window".into(), at: 250.0, thickness: 18.0, reach: 1.0, open: 0.5 }],
            lid: None,
            open_front: Vec::new(),
        }
        .boards()
    }

    fn rings(d: &Drawing, layer: Layer) -> Vec<&Vec<P2>> {
        d.items
            .iter()
            .filter_map(|(l, i)| match i {
                Item::Ring(points, _) if *l == layer => Some(points),
                _ => None,
            })
            .collect()
    }

    /// What the section cuts of the wood is the area of the boards there: walls around, the window's frame left and right.
    #[test]
    fn the_section_cuts_what_is_there() {
        let d = section(&boards(), &[]);
        let cut: f64 = rings(&d, Layer::Section).iter().map(|r| area(r).abs()).sum();
        let walls = 485.0 * 600.0 - 431.0 * 564.0;
        let frame = 18.0 * 431.0 * (1.0 - 0.5f64.sqrt());
        assert!((cut / (walls + frame) - 1.0).abs() < 1e-9, "{cut} against {}", walls + frame);
    }

    /// Elevations have the outer sizes and say them.
    #[test]
    fn elevations_have_the_outer_sizes() {
        for (side, w, h) in [(Side::Front, 420.0, 600.0), (Side::Left, 485.0, 600.0), (Side::Top, 420.0, 485.0)] {
            let d = elevation(&boards(), side);
            let outline: Vec<P2> = rings(&d, Layer::Outline).into_iter().flatten().copied().collect();
            let extent = |k: usize| {
                outline.iter().map(|p| p[k]).fold(f64::NEG_INFINITY, f64::max)
                    - outline.iter().map(|p| p[k]).fold(f64::INFINITY, f64::min)
            };
            assert!((extent(0) - w).abs() < 1e-9 && (extent(1) - h).abs() < 1e-9, "{side:?}");
            let said = |n: f64| d.items.iter().any(|(_, i)| matches!(i, Item::Text(_, t, ..) if *t == mm(n)));
            assert!(said(w) && said(h), "{side:?}");
        }
    }
}
