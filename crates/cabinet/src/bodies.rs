//! What stands in the way of what: convex bodies and the clearance between them.
//!
//! Distances and depths of overlap are the collision library's (GJK and EPA on convex hulls); round things are hulls of 48
//! corners on their circle, so that a radius of 150 mm is at most 0.3 mm short between corners.

use crate::board::{Board, Opening, Outline, P2, V3, along, clipped, cross, dot, without};
use parry3d_f64::math::{Pose, Vector};
use parry3d_f64::query::details::{contact_support_map_support_map, distance_support_map_support_map_with_params};
use parry3d_f64::query::gjk::VoronoiSimplex;
use parry3d_f64::shape::SupportMap;
use std::f64::consts::TAU;

/// Corners a circle is drawn with.
const CORNERS: usize = 48;

/// A convex body in the cabinet: the hull of its corners, of which only the farthest in a direction is ever asked.
#[derive(Clone, Debug)]
pub struct Body {
    points: Vec<V3>,
    /// Of a round body: two directions across its axis. Its points are then two rings of [`CORNERS`].
    round: Option<[V3; 2]>,
    low: V3,
    high: V3,
}

impl SupportMap for Body {
    fn local_support_point(&self, direction: Vector) -> Vector {
        let d = [direction.x, direction.y, direction.z];
        let far = match self.round {
            // on either ring the corner next to the direction is the farthest
            Some([p, q]) => {
                let turn = dot(d, q).atan2(dot(d, p)) / TAU * CORNERS as f64;
                let i = (turn.round() as i64).rem_euclid(CORNERS as i64) as usize;
                let (first, second) = (self.points[i], self.points[i + CORNERS]);
                if dot(first, d) >= dot(second, d) { first } else { second }
            }
            None => {
                let mut best = (f64::NEG_INFINITY, [0.0; 3]);
                for point in &self.points {
                    let there = dot(*point, d);
                    if there > best.0 {
                        best = (there, *point);
                    }
                }
                best.1
            }
        };
        Vector::new(far[0], far[1], far[2])
    }
}

/// How far two bodies are apart, mm; 0 where they are in each other (GJK).
fn apart(a: &Body, b: &Body) -> f64 {
    let middle = |body: &Body| [0, 1, 2].map(|k| 0.5 * (body.low[k] + body.high[k]));
    let (p, q) = (middle(a), middle(b));
    let between = Vector::new(p[0] - q[0], p[1] - q[1], p[2] - q[2]);
    let start = if between.length() > 1e-9 { between } else { Vector::new(1.0, 0.0, 0.0) };
    distance_support_map_support_map_with_params(&Pose::default(), a, b, &mut VoronoiSimplex::new(), Some(start))
}

impl Body {
    /// The hull of points; `None` where they span no volume.
    pub fn hull(points: &[V3]) -> Option<Body> {
        let (mut low, mut high) = ([f64::INFINITY; 3], [f64::NEG_INFINITY; 3]);
        for p in points {
            for k in 0..3 {
                low[k] = low[k].min(p[k]);
                high[k] = high[k].max(p[k]);
            }
        }
        let spans = (0..3).all(|k| high[k] - low[k] > 1e-6);
        spans.then(|| Body { points: points.to_vec(), round: None, low, high })
    }

    /// The box around it: lowest and highest corner, mm.
    pub fn extent(&self) -> [V3; 2] {
        [self.low, self.high]
    }

    /// Between the boxes around two bodies, mm: no more than the bodies themselves are apart.
    fn at_least(&self, other: &Body) -> f64 {
        let gap = |k: usize| (self.low[k] - other.high[k]).max(other.low[k] - self.high[k]).max(0.0);
        (gap(0).powi(2) + gap(1).powi(2) + gap(2).powi(2)).sqrt()
    }

    /// A round body around an axis: radius `from` at its beginning, `to` at its end.
    pub fn round(at: V3, direction: V3, length: f64, from: f64, to: f64) -> Option<Body> {
        let helper = if direction[0].abs() < 0.9 { [1.0, 0.0, 0.0] } else { [0.0, 1.0, 0.0] };
        let p = cross(direction, helper);
        let size = (p[0] * p[0] + p[1] * p[1] + p[2] * p[2]).sqrt();
        let p = p.map(|x| x / size);
        let q = cross(direction, p);
        let ring = |below: f64, radius: f64| -> Vec<V3> {
            (0..CORNERS)
                .map(|i| {
                    let angle = i as f64 / CORNERS as f64 * TAU;
                    along(along(along(at, direction, below), p, radius * angle.cos()), q, radius * angle.sin())
                })
                .collect()
        };
        let mut points = ring(0.0, from);
        points.extend(ring(length, to));
        let turns = Some([p, q]);
        Body::hull(&points).map(|body| Body { round: turns, ..body })
    }

    /// A block: its middle line begins at `at` and runs so far in a direction; half its sides along two others.
    pub fn block(
        at: V3,
        (direction, length): (V3, f64),
        (p, half_p): (V3, f64),
        (q, half_q): (V3, f64),
    ) -> Option<Body> {
        let mut points = Vec::new();
        for below in [0.0, length] {
            for (a, b) in [(-1.0, -1.0), (-1.0, 1.0), (1.0, -1.0), (1.0, 1.0)] {
                points.push(along(along(along(at, direction, below), p, a * half_p), q, b * half_q));
            }
        }
        Body::hull(&points)
    }

    /// A board as convex pieces: around rectangular holes it is taken apart. Round holes stay closed; of an outline that is not
    /// convex the hull is taken.
    pub fn of_board(board: &Board) -> Vec<Body> {
        let windows: Vec<[P2; 2]> = board
            .holes
            .iter()
            .filter(|h| matches!(h.opening, Opening::Rectangle { .. }))
            .map(|h| {
                let [u, v] = h.opening.half();
                [[h.at[0] - u, h.at[1] - v], [h.at[0] + u, h.at[1] + v]]
            })
            .collect();
        if windows.is_empty() || matches!(board.outline, Outline::Disc { .. }) {
            return Body::hull(&board.corners()).into_iter().collect();
        }
        let [low, high] = board.extent();
        let pieces = windows.into_iter().fold(vec![[low, high]], without);
        pieces
            .into_iter()
            .filter(|[a, b]| b[0] - a[0] > 0.5 && b[1] - a[1] > 0.5)
            .filter_map(|[a, b]| {
                // at the rim of the board each face ends where it does: its ends may be bevelled
                let within = |part: f64| {
                    (0..2).fold(board.ring(part), |ring, k| clipped(&clipped(&ring, k, a[k], false), k, b[k], true))
                };
                let mut corners: Vec<V3> = within(0.0).into_iter().map(|p| board.place(p, 0.0)).collect();
                corners.extend(within(1.0).into_iter().map(|p| board.place(p, board.thickness_mm)));
                Body::hull(&corners)
            })
            .collect()
    }
}

/// Clearance between two bodies, mm; negative is how deep they are in each other.
pub fn clearance(a: &Body, b: &Body) -> f64 {
    clearance_within(a, b, f64::INFINITY).unwrap_or(f64::INFINITY)
}

/// The same where it may be as little as so much (mm); `None` where the boxes around them are farther apart than that.
pub fn clearance_within(a: &Body, b: &Body, most: f64) -> Option<f64> {
    if a.at_least(b) > most {
        return None;
    }
    let distance = apart(a, b);
    if distance > 1e-6 {
        return Some(distance);
    }
    let depth = contact_support_map_support_map(&Pose::default(), a, b, 0.0);
    Some(depth.map_or(0.0, |c| c.dist.min(0.0)))
}

#[cfg(test)]
mod tests {
    use super::*;

    const UP: V3 = [0.0, 1.0, 0.0];
    const BACK: V3 = [0.0, 0.0, 1.0];

    /// Distances that can be worked out by hand: cylinder to wall, cylinder to cylinder, sunk into a board.
    #[test]
    fn clearances_by_hand() {
        let magnet = Body::round([200.0, 300.0, 0.0], BACK, 150.0, 70.0, 70.0).unwrap();
        let wall = Body::block([200.0, 300.0, 170.0], (BACK, 18.0), ([1.0, 0.0, 0.0], 200.0), (UP, 300.0)).unwrap();
        assert!((clearance(&magnet, &wall) - 20.0).abs() < 1e-6);
        let port = Body::round([200.0, 120.0, 0.0], BACK, 200.0, 50.0, 50.0).unwrap();
        assert!((clearance(&magnet, &port) - (180.0 - 120.0)).abs() < 0.5);
        let brace = Body::block([200.0, 225.0, 0.0], (BACK, 300.0), ([1.0, 0.0, 0.0], 200.0), (UP, 9.0)).unwrap();
        // the brace's upper face at 234, the magnet's lowest point at 230: 4 mm deep
        assert!((clearance(&magnet, &brace) + 4.0).abs() < 0.5, "{}", clearance(&magnet, &brace));
    }

    /// Of a round body the farthest corner is found without looking at all of them: the same one.
    #[test]
    fn the_farthest_corner_of_a_round_body_is_the_farthest_of_all() {
        for axis in [[0.0, 0.0, 1.0], [1.0, 0.0, 0.0], [0.6, 0.0, 0.8]] {
            let body = Body::round([100.0, 50.0, -20.0], axis, 140.0, 130.0, 75.0).unwrap();
            for k in 0..2000 {
                let (a, b) = (f64::from(k) * 0.7391, f64::from(k) * 0.3173);
                let d = [a.sin() * b.cos(), a.sin() * b.sin(), a.cos()];
                let found = body.local_support_point(Vector::new(d[0], d[1], d[2]));
                let best = body.points.iter().map(|p| dot(*p, d)).fold(f64::NEG_INFINITY, f64::max);
                assert!((dot([found.x, found.y, found.z], d) - best).abs() < 1e-9);
            }
        }
    }

    /// A port through a window is clear; through the board beside it, it is not.
    #[test]
    fn a_window_is_open() {
        let mut board =
            crate::carcass::block("brace", crate::board::Role::Brace, [0.0, 0.0, 100.0], [300.0, 400.0, 18.0]);
        let [low, high] = board.extent();
        board.holes.push(crate::board::Hole {
            name: "window".into(),
            at: [(low[0] + high[0]) / 2.0, (low[1] + high[1]) / 2.0],
            opening: Opening::Rectangle { length_mm: (high[0] - low[0]) * 0.7, width_mm: (high[1] - low[1]) * 0.7 },
            screw_circle_mm: None,
            screws: 0,
            frame_mm: None,
            recess: None,
        });
        let pieces = Body::of_board(&board);
        assert_eq!(pieces.len(), 4);
        let least = |x: f64, y: f64| {
            let tube = Body::round([x, y, 0.0], BACK, 250.0, 40.0, 40.0).unwrap();
            pieces.iter().map(|p| clearance(p, &tube)).fold(f64::INFINITY, f64::min)
        };
        assert!((least(150.0, 200.0) - (105.0 - 40.0)).abs() < 0.5);
        assert!(least(60.0, 200.0) < 0.0);
    }
}
