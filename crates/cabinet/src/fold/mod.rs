//! Folding a line or a horn into a side section: boards between the side walls, and the real centre line and areas that come
//! of them.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | a | along the segments, from the end the path starts at | mm |
//! | b | across the segments, from the wall the first segment lies against | mm |
//! | x | along the centre line | mm |
//! | w | width of a segment, measured across it along b | mm |
//!
//! Dividers are straight boards that stand slanted where the segments widen. The wanted areas are met at the ends of the segments;
//! between them a segment widens evenly, and what comes of it is told, not assumed. At a fold the centre line runs to the middle
//! of the corner and on at a right angle: the air in the stations is then exactly the air between the boards (half a square of
//! each channel on either side). Mirrored about the middle of the height, two halves carry half the area each.

mod centre;
mod trace;

use crate::board::P2;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use trace::Trace;

/// How a path is folded.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Pattern {
    /// Out and back: two segments.
    #[default]
    U,
    /// Out, back and out: three segments.
    S,
    /// Four segments side by side.
    FourSegments,
    /// From the middle outward: around and under the first segment.
    Spiral,
    /// From the middle to both sides and back: two halves, mirrored.
    MirroredW,
}

impl Pattern {
    /// Segments side by side (of one half, where mirrored).
    pub fn segments(self) -> usize {
        match self {
            Pattern::U | Pattern::MirroredW => 2,
            Pattern::S | Pattern::Spiral => 3,
            Pattern::FourSegments => 4,
        }
    }
}

/// Which way the segments run.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Runs {
    /// Up and down, side by side from the baffle to the back.
    #[default]
    Upright,
    /// Forward and back, above one another.
    Level,
}

/// How the path leaves the box.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Leaves {
    /// Straight out at the end of the last segment.
    #[default]
    Straight,
    /// Around a last corner, through the wall beside the last segment.
    Turned,
}

/// What is to be folded, and into what.
#[derive(Clone, Debug, PartialEq)]
pub struct Plan {
    /// The pattern.
    pub pattern: Pattern,
    /// Which way the segments run.
    pub runs: Runs,
    /// Whether it starts at the top (upright) or the back (level).
    pub starts_far: bool,
    /// Whether the first segment lies at the back (upright) or the top (level).
    pub first_far: bool,
    /// How it leaves.
    pub leaves: Leaves,
    /// Thickness of its boards, mm.
    pub board: f64,
    /// The inside: depth (z) and height (y), mm.
    pub room: [f64; 2],
    /// Lower corner of the inside in the section (z, y), mm.
    pub corner: P2,
    /// Inside width between the sides, mm.
    pub width: f64,
    /// Thickness of the wall it leaves through, mm.
    pub wall: f64,
    /// A closed chamber beside the first segment, mm³.
    pub chamber: Option<f64>,
    /// A chamber at the beginning of the first segment, before the path, mm³.
    pub head: f64,
}

/// A wanted area along the path: by the part of the way (0 to 1), mm².
pub type Profile<'a> = &'a dyn Fn(f64) -> f64;

/// A segment in the section, for drawings.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Segment {
    /// Its outline (z, y), mm.
    pub ring: Vec<P2>,
}

/// A mouth in a wall.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Mouth {
    /// Which wall: 0 baffle, 1 back, 4 top, 5 floor.
    pub face: u32,
    /// Where it begins along the section, mm (height, or depth behind the baffle's face).
    pub from_mm: f64,
    /// Where it ends.
    pub to_mm: f64,
    /// Its width across, mm.
    pub width_mm: f64,
}

/// A folded path.
#[derive(Clone, Debug, PartialEq)]
pub struct Fold {
    /// Its boards in the section (z, y), as for [`crate::board::Board::across`], with their names.
    pub boards: Vec<(String, [P2; 4])>,
    /// The segments, for drawings.
    pub segments: Vec<Segment>,
    /// The centre line (z, y), mm; of a mirrored one the upper half's.
    pub centre: Vec<P2>,
    /// Areas along it: (x in mm, area in mm²); steps stand as two at one x.
    pub stations: Vec<P2>,
    /// Right-angled bends: (x, width of the channel), mm.
    pub bends: Vec<P2>,
    /// The closed chamber's outline, and its volume in mm³.
    pub chamber: Option<(Vec<P2>, f64)>,
    /// The mouths, one or two.
    pub mouths: Vec<Mouth>,
    /// Length along the centre line, mm.
    pub length: f64,
    /// By what factor the areas had to be changed to fill the box, at the start's end and at the other.
    pub scale: P2,
    /// How long the first segment's chamber is, mm.
    pub head_length: f64,
    /// Where a corner begins the first fold: how far the first segment goes, mm along a.
    pub first_segment: f64,
    plan: Plan,
}

/// Why a path cannot be folded so.
#[derive(Clone, Debug, PartialEq)]
pub struct Unfit {
    /// What is wrong, in words.
    pub message: String,
    /// The least room across the segments that would do, mm; along them where `along` is set.
    pub least: f64,
    /// Whether `least` is along the segments.
    pub along: bool,
}

/// A boundary of a segment: b at a = 0 and at a = A, mm.
type Line = [f64; 2];

impl Plan {
    /// Room along and across the segments, of one half where mirrored, mm.
    fn extents(&self) -> (f64, f64) {
        let [depth, height] = self.room;
        let (a, b) = if self.runs == Runs::Upright { (height, depth) } else { (depth, height) };
        if self.pattern == Pattern::MirroredW { (a, b / 2.0) } else { (a, b) }
    }

    /// From (a, b) to the section (z, y).
    fn map(&self, [a, b]: P2) -> P2 {
        let (long, wide) = self.extents();
        let a = if self.starts_far { long - a } else { a };
        if self.pattern == Pattern::MirroredW {
            return [self.corner[0] + a, self.corner[1] + wide + b];
        }
        let b = if self.first_far { wide - b } else { b };
        match self.runs {
            Runs::Upright => [self.corner[0] + b, self.corner[1] + a],
            Runs::Level => [self.corner[0] + a, self.corner[1] + b],
        }
    }

    /// The same point of the lower half.
    fn mirror(&self, [z, y]: P2) -> P2 {
        let middle = self.corner[1] + self.room[1] / 2.0;
        [z, 2.0 * middle - y]
    }

    /// Folds a path of wanted areas.
    ///
    /// # Errors
    /// [`Unfit`] where the segments do not go into the room, with the least room that would do.
    pub fn fold(&self, profile: Profile) -> Result<Fold, Unfit> {
        let (long, wide) = self.extents();
        if long <= 0.0 || wide <= 0.0 || self.width <= 0.0 {
            return Err(Unfit {
                message: "nothing is left inside the walls".into(),
                least: self.board * 4.0,
                along: false,
            });
        }
        if self.chamber.is_some() && matches!(self.pattern, Pattern::Spiral | Pattern::MirroredW) {
            let message = "a rear chamber lies beside the segments of a U, an S or four segments".into();
            return Err(Unfit { message, least: 0.0, along: false });
        }
        // by halves where mirrored
        let halves = if self.pattern == Pattern::MirroredW { 2.0 } else { 1.0 };
        let want = |s: f64| profile(s.clamp(0.0, 1.0)) / self.width / halves;
        let n = self.pattern.segments();
        let mut fractions: Vec<f64> = match self.pattern {
            Pattern::Spiral => vec![0.0, 0.27, 0.58, 0.7, 1.0],
            _ => (0..=n).map(|i| i as f64 / n as f64).collect(),
        };
        let mut made = None;
        for _ in 0..6 {
            let fold = self.attempt(&want, &fractions, long, wide, halves)?;
            fractions = fold.1.clone();
            made = Some(fold.0);
        }
        made.ok_or(Unfit { message: "nothing was folded".into(), least: 0.0, along: false })
    }

    fn attempt(
        &self,
        want: &dyn Fn(f64) -> f64,
        fractions: &[f64],
        long: f64,
        wide: f64,
        halves: f64,
    ) -> Result<(Fold, Vec<f64>), Unfit> {
        let n = self.pattern.segments();
        let spiral = self.pattern == Pattern::Spiral;
        // wanted widths at both ends of every segment, in the order of b
        let widths: Vec<Line> = if spiral {
            // F, M, B: the first segment M starts near a = 0, F comes back, B goes out
            vec![
                [want(fractions[2]), want(fractions[1])],
                [want(0.0), want(fractions[1])],
                [want(fractions[3]), want(1.0)],
            ]
        } else {
            (0..n)
                .map(|i| {
                    let (start, end) = (want(fractions[i]), want(fractions[i + 1]));
                    if i % 2 == 0 { [start, end] } else { [end, start] }
                })
                .collect()
        };
        let boards = (n - 1) as f64 + f64::from(u8::from(self.chamber.is_some()));
        let sums = [0, 1].map(|e| widths.iter().map(|w| w[e]).sum::<f64>());
        // slanted boards are a little thicker along b: corrected from the lines of the plain ones
        let mut thick = vec![self.board; boards as usize];
        let mut lines: Vec<[Line; 2]> = Vec::new();
        let mut scale = [1.0; 2];
        let mut chamber = [0.0; 2];
        for _ in 0..3 {
            let wood: f64 = thick.iter().sum();
            if let Some(volume) = self.chamber {
                for e in 0..2 {
                    chamber[e] = wide - wood - sums[e];
                }
                let least = wood + sums[0].max(sums[1]) + 10.0;
                if chamber.iter().any(|c| *c < 10.0) {
                    let needed = wood + sums[0] / 2.0 + sums[1] / 2.0 + volume / self.width / long;
                    let message = "the segments leave no room for the rear chamber: the boards would cross".into();
                    return Err(Unfit { message, least: least.max(needed), along: false });
                }
            } else {
                for e in 0..2 {
                    scale[e] = (wide - wood) / sums[e];
                }
                if scale.iter().any(|s| *s <= 0.05) {
                    let message = "the boards leave no room for the segments: the fold would cross itself".into();
                    return Err(Unfit { message, least: wood + (sums[0] + sums[1]) / 2.0, along: false });
                }
            }
            lines.clear();
            let mut at: Line = [0.0; 2];
            let mut k = 0;
            if self.chamber.is_some() {
                at = chamber;
                lines.push([at, [at[0] + thick[0], at[1] + thick[0]]]);
                at = lines[0][1];
                k = 1;
            }
            for (i, w) in widths.iter().enumerate() {
                at = [at[0] + w[0] * scale[0], at[1] + w[1] * scale[1]];
                if i + 1 < n {
                    lines.push([at, [at[0] + thick[k], at[1] + thick[k]]]);
                    at = lines[lines.len() - 1][1];
                    k += 1;
                }
            }
            for (t, line) in thick.iter_mut().zip(&lines) {
                let slope = (line[0][1] - line[0][0]) / long;
                *t = self.board * slope.hypot(1.0);
            }
        }
        let on = |line: Line, a: f64| line[0] + (line[1] - line[0]) * a / long;
        // boundaries of the segments, low and high
        let first = usize::from(self.chamber.is_some());
        let bounds: Vec<[Line; 2]> = (0..n)
            .map(|i| {
                let low = if first + i == 0 { [0.0; 2] } else { lines[first + i - 1][1] };
                let high = if i + 1 < n { lines[first + i][0] } else { [wide; 2] };
                [low, high]
            })
            .collect();
        let width_at = |i: usize, a: f64| on(bounds[i][1], a) - on(bounds[i][0], a);
        let middle = |i: usize, a: f64| 0.5 * (on(bounds[i][1], a) + on(bounds[i][0], a));
        let mut trace =
            Trace { stations: Vec::new(), bends: Vec::new(), centre: Vec::new(), x: 0.0, across: self.width * halves };
        let mut quads: Vec<(String, [P2; 4])> = Vec::new();
        let mut marks = vec![0.0];
        let board = |name: &str, line: [Line; 2], from: f64, to: f64| {
            let p = |l: Line, a: f64| [a, on(l, a)];
            (name.to_owned(), [p(line[0], from), p(line[0], to), p(line[1], from), p(line[1], to)])
        };
        let head_length = if self.head > 0.0 { self.head / (width_at(0, 0.0) * self.width * halves) } else { 0.0 };
        let first_segment;
        let too_short = |needed: f64| Unfit {
            message: "the segments are too short for their folds: the fold would cross itself".into(),
            least: needed,
            along: true,
        };
        if spiral {
            // heights: the channel under M
            let h = 0.5 * (want(fractions[2]) + want(fractions[3]));
            let gap = want(fractions[1]);
            if long < h + gap + 3.0 * self.board {
                return Err(too_short(2.0 * (h + gap)));
            }
            let floor = h + self.board;
            // F lies at b = 0, M in the middle, B at the far wall
            trace.segment(&|a| width_at(1, a), &|a| middle(1, a), floor + head_length, long - gap / 2.0);
            trace.corner(width_at(1, long - gap / 2.0), gap);
            trace.across_to(middle(0, long - gap / 2.0), gap);
            trace.corner(gap, width_at(0, long - gap / 2.0));
            marks.push(trace.x);
            trace.segment(&|a| width_at(0, a), &|a| middle(0, a), long - gap / 2.0, h / 2.0);
            trace.corner(width_at(0, h / 2.0), h);
            marks.push(trace.x);
            trace.across_to(middle(2, h / 2.0), h);
            trace.corner(h, width_at(2, h / 2.0));
            marks.push(trace.x);
            self.last_segment(&mut trace, &|a| width_at(2, a), &|a| middle(2, a), h / 2.0, long, want(1.0))?;
            quads.push(board("Divider 1", lines[0], h, long - gap));
            quads.push(board("Divider 2", lines[1], h, long));
            let (l, r) = (lines[0][1], lines[1][0]);
            quads.push((
                "Floor of the first segment".into(),
                [[h, on(l, h)], [h, on(r, h)], [floor, on(l, floor)], [floor, on(r, floor)]],
            ));
            first_segment = long - gap;
        } else {
            let gaps: Vec<f64> = (0..n - 1)
                .map(|i| {
                    let end = if i % 2 == 0 { long } else { 0.0 };
                    // square to the slanted segments
                    0.5 * (width_at(i, end) + width_at(i + 1, end))
                })
                .collect();
            let most = gaps.iter().copied().fold(0.0, f64::max);
            if long < most * 1.2 + head_length {
                return Err(too_short(most * 1.2 + head_length));
            }
            if self.chamber.is_some() {
                quads.push(board("Chamber board", lines[0], 0.0, long));
            }
            let mut from = head_length;
            for i in 0..n {
                let w = |a: f64| width_at(i, a);
                let c = |a: f64| middle(i, a);
                let outward = i % 2 == 0;
                if i + 1 == n {
                    let end = if outward { long } else { 0.0 };
                    self.last_segment(&mut trace, &w, &c, from, end, want(1.0))?;
                    break;
                }
                let gap = gaps[i];
                let to = if outward { long - gap / 2.0 } else { gap / 2.0 };
                trace.segment(&w, &c, from, to);
                trace.corner(w(to), gap);
                trace.across_to(middle(i + 1, to), gap);
                trace.corner(gap, width_at(i + 1, to));
                marks.push(trace.x);
                from = to;
                let name = format!("Divider {}", i + 1);
                let line = lines[first + i];
                quads.push(if outward { board(&name, line, 0.0, long - gap) } else { board(&name, line, gap, long) });
            }
            first_segment = long - gaps[0];
        }
        let length = trace.x;
        marks.push(length);
        let fractions: Vec<f64> = if spiral {
            marks.iter().map(|x| x / length).collect()
        } else {
            // the middle of a fold is where its width is wanted
            (0..=n)
                .map(|i| {
                    if i == 0 {
                        0.0
                    } else if i == n {
                        1.0
                    } else {
                        marks[i] / length
                    }
                })
                .collect()
        };
        let chamber = self.chamber.map(|_| {
            let edge = lines[0][0];
            let ring = [[0.0, 0.0], [long, 0.0], [long, edge[1]], [0.0, edge[0]]];
            (ring.iter().map(|p| self.map(*p)).collect(), (edge[0] + edge[1]) / 2.0 * long * self.width)
        });
        let mut segments: Vec<Segment> = Vec::new();
        for [low, high] in &bounds {
            let ring = [[0.0, low[0]], [long, low[1]], [long, high[1]], [0.0, high[0]]];
            segments.push(Segment { ring: ring.iter().map(|p| self.map(*p)).collect() });
        }
        let mut boards: Vec<(String, [P2; 4])> = Vec::new();
        for (name, quad) in &quads {
            let upper = quad.map(|p| self.map(p));
            if self.pattern == Pattern::MirroredW {
                boards.push((format!("Upper {}", name.to_lowercase()), upper));
                boards.push((format!("Lower {}", name.to_lowercase()), upper.map(|p| self.mirror(p))));
            } else {
                boards.push((name.clone(), upper));
            }
        }
        if self.pattern == Pattern::MirroredW {
            let lower: Vec<Segment> =
                segments.iter().map(|l| Segment { ring: l.ring.iter().map(|p| self.mirror(*p)).collect() }).collect();
            segments.extend(lower);
        }
        let last = n - 1;
        let end = if spiral || last.is_multiple_of(2) { long } else { 0.0 };
        let ends_far = end > 0.0;
        let (low, high) = match self.leaves {
            Leaves::Straight => ([end, on(bounds[last][0], end)], [end, on(bounds[last][1], end)]),
            Leaves::Turned => {
                let m = want(1.0);
                let (p, q) = if ends_far { (long - m, long) } else { (0.0, m) };
                ([p, wide], [q, wide])
            }
        };
        let (p, q) = (self.map(low), self.map(high));
        let at_far_a = ends_far != self.starts_far;
        let mirrored = self.pattern == Pattern::MirroredW;
        let face = match (self.leaves, self.runs) {
            (Leaves::Straight, Runs::Upright) => {
                if at_far_a {
                    4
                } else {
                    5
                }
            }
            (Leaves::Straight, Runs::Level) => u32::from(at_far_a),
            (Leaves::Turned, Runs::Upright) => u32::from(!self.first_far),
            (Leaves::Turned, Runs::Level) => {
                if self.first_far && !mirrored {
                    5
                } else {
                    4
                }
            }
        };
        // along the wall: height on front and back, depth on floor and top
        let axis = usize::from(face <= 1);
        let mouth = |p: P2, q: P2, face: u32| Mouth {
            face,
            from_mm: p[axis].min(q[axis]),
            to_mm: p[axis].max(q[axis]),
            width_mm: self.width,
        };
        let mut mouths = vec![mouth(p, q, face)];
        if mirrored {
            mouths.push(mouth(self.mirror(p), self.mirror(q), if face == 4 { 5 } else { face }));
        }
        let fold = Fold {
            boards,
            segments,
            centre: trace.centre.iter().map(|p| self.map(*p)).collect(),
            stations: trace.stations,
            bends: trace.bends,
            chamber,
            mouths,
            length,
            scale,
            head_length,
            first_segment,
            plan: self.clone(),
        };
        Ok((fold, fractions))
    }

    fn last_segment(
        &self,
        trace: &mut Trace,
        width: &dyn Fn(f64) -> f64,
        middle: &dyn Fn(f64) -> f64,
        from: f64,
        end: f64,
        mouth: f64,
    ) -> Result<(), Unfit> {
        match self.leaves {
            Leaves::Straight => {
                trace.segment(width, middle, from, end);
                trace.on(self.wall, width(end));
            }
            Leaves::Turned => {
                let to = if end > from { end - mouth / 2.0 } else { end + mouth / 2.0 };
                if (to - from) * (end - from) <= 0.0 {
                    let message = "the mouth is taller than the last segment: the fold would cross itself".into();
                    return Err(Unfit { message, least: 2.0 * mouth, along: true });
                }
                trace.segment(width, middle, from, to);
                trace.corner(width(to), mouth);
                // what widens or narrows beside a tall mouth is still air: half of the corner's lies beyond the bend
                let beyond = width(0.5 * (to + end)) / width(to).max(1e-9);
                let begins = mouth * (2.0 * beyond - 1.0).max(0.2);
                trace.across_between(middle(to) + width(to) / 2.0, begins, mouth);
                trace.on(self.wall, mouth);
            }
        }
        Ok(())
    }

    /// The room (depth, height) a path of this length (mm) wants: as long as its segments need, as wide as its areas and chamber.
    ///
    /// # Errors
    /// [`Unfit`] where no room would do.
    pub fn room_for(&self, length: f64, profile: Profile) -> Result<[f64; 2], Unfit> {
        let mirrored = self.pattern == Pattern::MirroredW;
        let n = self.pattern.segments() as f64;
        let mut plan = self.clone();
        let set = |plan: &mut Plan, a: f64, b: f64| {
            let b = if mirrored { 2.0 * b } else { b };
            plan.room = if plan.runs == Runs::Upright { [b, a] } else { [a, b] };
        };
        let mean = (0..=40).map(|i| profile(f64::from(i) / 40.0)).sum::<f64>() / 41.0 / self.width;
        let mean = if mirrored { mean / 2.0 } else { mean };
        let (mut a, mut b) = (length / n, mean * n + self.board * n);
        let mut last: Option<Unfit> = None;
        for _ in 0..60 {
            set(&mut plan, a, b);
            if self.chamber.is_some() {
                // room enough first; the chamber's is set below
                b = b.max(self.board * n + 20.0);
            }
            match plan.fold(profile) {
                Ok(fold) => {
                    last = None;
                    let next = a + (length - fold.length) / n;
                    let wanted = match (&fold.chamber, self.chamber) {
                        (Some((_, volume)), Some(wanted)) => b + (wanted - volume) / (self.width * a),
                        _ => {
                            // mean of both ends' scale is to be one
                            let segments = b - self.board * (n - 1.0);
                            b + segments * (2.0 / (fold.scale[0] + fold.scale[1]) - 1.0)
                        }
                    };
                    let still = (next - a).abs() < 0.02 && (wanted - b).abs() < 0.02;
                    a = next.max(60.0);
                    b = wanted.max(40.0);
                    if still {
                        break;
                    }
                }
                Err(unfit) => {
                    if unfit.least <= 0.0 {
                        return Err(unfit);
                    }
                    if unfit.along {
                        a = a.max(unfit.least) * 1.05
                    } else {
                        b = b.max(unfit.least) * 1.05
                    }
                    last = Some(unfit);
                }
            }
        }
        match last {
            Some(unfit) => Err(unfit),
            None => {
                set(&mut plan, a, b);
                Ok(plan.room)
            }
        }
    }
}

#[cfg(test)]
mod tests;
