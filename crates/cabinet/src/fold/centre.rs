//! The centre line of a fold, asked about afterwards.

use super::{Fold, Leaves, Pattern, Runs};
use crate::board::P2;

impl Fold {
    /// Air along the path, mm³.
    pub fn volume(&self) -> f64 {
        self.stations.windows(2).map(|w| (w[1][0] - w[0][0]) * (w[0][1] + w[1][1]) / 2.0).sum()
    }

    /// A point of the centre line (z, y) at x (mm), and the segment it lies in; `None` behind the last segment.
    pub fn on_centre(&self, x: f64) -> Option<(P2, usize)> {
        let mut left = x.max(0.0);
        for pair in self.centre.windows(2) {
            let (dz, dy) = (pair[1][0] - pair[0][0], pair[1][1] - pair[0][1]);
            let long = dz.hypot(dy);
            if left <= long && long > 0.0 {
                let point = [pair[0][0] + dz * left / long, pair[0][1] + dy * left / long];
                let segment = self.segments.iter().position(|segment| within(&segment.ring, point))?;
                return Some((point, segment));
            }
            left -= long;
        }
        None
    }

    /// Whether a segment lies behind the baffle.
    pub fn behind_baffle(&self, segment: usize) -> bool {
        let front = self.plan.corner[0];
        self.segments.get(segment).is_some_and(|l| l.ring.iter().filter(|p| (p[0] - front).abs() < 0.5).count() > 1)
    }

    /// Where the path starts along a, mm.
    pub fn start_a(&self) -> f64 {
        let floor = if self.plan.pattern == Pattern::Spiral {
            // the first segment stands over the channel below it
            let quad = self.boards.iter().find(|b| b.0.starts_with("Floor"));
            quad.map_or(0.0, |(_, q)| {
                let (along, origin) =
                    if self.plan.runs == Runs::Upright { (1, self.plan.corner[1]) } else { (0, self.plan.corner[0]) };
                let p = q[2][along] - origin;
                if self.plan.starts_far { self.plan.extents().0 - p } else { p }
            })
        } else {
            0.0
        };
        floor + self.head_length
    }

    /// x (mm) on the second segment of a U beside a place of the first (a, mm).
    pub fn beside(&self, a: f64) -> f64 {
        let end = if self.plan.leaves == Leaves::Straight { self.length - self.plan.wall } else { self.length };
        end - a
    }
}

/// Whether a convex ring has a point in it.
fn within(ring: &[P2], [x, y]: P2) -> bool {
    let side = |a: &P2, b: &P2| (b[0] - a[0]) * (y - a[1]) - (b[1] - a[1]) * (x - a[0]);
    let sides: Vec<f64> = ring.iter().zip(ring.iter().cycle().skip(1)).map(|(a, b)| side(a, b)).collect();
    sides.iter().all(|s| *s >= -1e-6) || sides.iter().all(|s| *s <= 1e-6)
}
