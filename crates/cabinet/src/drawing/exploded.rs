//! The boards pulled apart, seen from the front, the right and above: an isometric with letters.

use super::views::hull;
use super::{Anchor, Drawing, Item, Layer};
use crate::board::{Board, Opening, P2, Role, V3, along, dot};
use std::f64::consts::TAU;

/// Isometric axes on paper (ISO 5456-3): across to the lower right, back to the upper right, up.
fn paper(p: V3) -> P2 {
    let (c, s) = (30.0f64.to_radians().cos(), 0.5);
    [p[0] * c + p[2] * c, p[1] - p[0] * s + p[2] * s]
}

/// How near to the eye: the eye stands in front, to the right and above.
fn near(p: V3) -> f64 {
    p[0] - p[2] + p[1]
}

/// A board on paper: how near it is, its lines, its letter and where that stands.
struct Shape {
    depth: f64,
    items: Vec<(Layer, Item)>,
    label: String,
    at: P2,
}

/// An exploded isometric; every board with the letter the cut list gives it.
pub fn exploded(boards: &[(String, &Board)]) -> Drawing {
    let (mut low, mut high) = ([f64::INFINITY; 3], [f64::NEG_INFINITY; 3]);
    for p in boards.iter().flat_map(|(_, b)| b.corners()) {
        for k in 0..3 {
            low[k] = low[k].min(p[k]);
            high[k] = high[k].max(p[k]);
        }
    }
    let size = (0..3).map(|k| high[k] - low[k]).fold(0.0, f64::max);
    let middle: V3 = [0, 1, 2].map(|k| 0.5 * (low[k] + high[k]));
    let mut d = Drawing::new("Exploded", (size / 26.0).max(6.0));
    d.note = "Letters are those of the cut list.".into();
    let mut shapes: Vec<Shape> = Vec::new();
    for (label, board) in boards {
        let centre = board.centroid();
        // walls go outward, what stands inside stays
        let mut shift = [0.0; 3];
        if matches!(board.role, Role::Wall | Role::Baffle) {
            let n = board.normal();
            let axis = (0..3).max_by(|a, b| n[*a].abs().total_cmp(&n[*b].abs())).unwrap_or(0);
            let outward = (centre[axis] - middle[axis]).signum();
            // to the front and to the right a little farther: one looks from there
            shift[axis] = outward * size * if axis == 2 && outward < 0.0 { 0.75 } else { 0.42 };
        }
        let move_by = |p: V3| along(p, shift, 1.0);
        let (top, bottom) = (board.ring(0.0), board.ring(1.0));
        let face: Vec<V3> = top.iter().map(|p| move_by(board.place(*p, 0.0))).collect();
        let back: Vec<V3> = bottom.iter().map(|p| move_by(board.place(*p, board.thickness_mm))).collect();
        let depth = near(move_by(centre));
        // faces turned to the eye, the farther first
        let eye = [1.0, 1.0, -1.0];
        let mut faces: Vec<(f64, Vec<V3>, bool)> = Vec::new();
        let toward = dot(board.normal(), eye);
        faces.push((if toward < 0.0 { 1.0 } else { -1.0 }, face.clone(), toward < 0.0));
        faces.push((if toward < 0.0 { -1.0 } else { 1.0 }, back.clone(), toward >= 0.0));
        let n = face.len();
        // a round thing shows its silhouette, not the corners it is drawn with
        let round: Option<Vec<P2>> =
            (n >= 8).then(|| hull(&face.iter().chain(&back).map(|p| paper(*p)).collect::<Vec<_>>()));
        for i in (0..n).filter(|_| round.is_none()) {
            let k = (i + 1) % n;
            let quad = vec![face[i], face[k], back[k], back[i]];
            let c = [0, 1, 2].map(|a| quad.iter().map(|p| p[a]).sum::<f64>() / 4.0);
            // outward of the board's own centre
            let out = along(c, move_by(centre), -1.0);
            faces.push((if dot(out, eye) > 0.0 { 0.5 } else { -0.5 }, quad, dot(out, eye) > 0.0));
        }
        faces.sort_by(|a, b| a.0.total_cmp(&b.0));
        let mut items: Vec<(Layer, Item)> = Vec::new();
        items.extend(round.map(|ring| (Layer::Outline, Item::Ring(ring, true))));
        for (_, corners, seen) in faces {
            if seen {
                items.push((Layer::Outline, Item::Ring(corners.into_iter().map(paper).collect(), true)));
            }
        }
        let on_face = toward < 0.0;
        let below = if on_face { 0.0 } else { board.thickness_mm };
        for hole in board.holes.iter().filter(|h| h.name != "bore") {
            let ring: Vec<P2> = match hole.opening {
                Opening::Round { diameter_mm } => (0..40)
                    .map(|i| {
                        let a = f64::from(i) / 40.0 * TAU;
                        [hole.at[0] + diameter_mm / 2.0 * a.cos(), hole.at[1] + diameter_mm / 2.0 * a.sin()]
                    })
                    .collect(),
                other => other.corners(hole.at).unwrap_or_default(),
            };
            let ring = ring.into_iter().map(|p| paper(move_by(board.place(p, below)))).collect();
            items.push((Layer::Cut, Item::Ring(ring, true)));
        }
        // the letter a little off the middle, clear of holes
        let at = paper(move_by(board.place(
            {
                let [l, h] = board.extent();
                let p = [l[0] + 0.16 * (h[0] - l[0]), l[1] + 0.16 * (h[1] - l[1])];
                if matches!(board.outline, crate::board::Outline::Disc { .. }) { [0.0, 0.35 * h[1]] } else { p }
            },
            below,
        )));
        shapes.push(Shape { depth, items, label: label.clone(), at });
    }
    shapes.sort_by(|a, b| a.depth.total_cmp(&b.depth));
    for Shape { items, label, at, .. } in shapes {
        for (layer, item) in items {
            d.add(layer, item);
        }
        d.word(at, label, Anchor::Middle);
    }
    d
}
