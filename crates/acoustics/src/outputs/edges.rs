//! Band edges, peaks and dips of the level, wherever a sweep's own frequencies lie.
//!
//! The level is followed on a grid that is halved wherever value, slope and phase of its ends do not belong to one smooth
//! curve (the slopes are exact, see [`crate::network::solve`]); elements say where they resonate, so that no narrow wave is
//! stepped over. What is told is then refined to 1e-6 dB.

use super::Sweep;
use crate::halt;
use crate::level::{P_REF, log_frequencies};
use crate::network::phasor::{Jet, Phasor};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::{LN_10, TAU};
use wide::f64x4;

/// What the level is measured against for the band edges.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Reference {
    /// The level the driver's own efficiency gives in this solid angle.
    #[default]
    Efficiency,
    /// The highest level of the curve below five times the driver's resonance.
    Maximum,
}

/// The low end of the passband.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct BandEdges {
    /// The reference level, dB.
    pub reference_db: f64,
    /// Highest level of the curve from 1 Hz to five times fs, dB, and its frequency, Hz.
    pub peak: (f64, f64),
    /// Highest frequencies below the peak at half power (3.01 dB), 6 and 10 dB under the reference, Hz; `None` where the curve
    /// never rises so far or never falls so low above 1 Hz.
    pub edges: [Option<f64>; 3],
}

/// A band around the peak.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Band {
    /// Half power below the peak, Hz.
    pub lower: f64,
    /// Half power above it, Hz.
    pub upper: f64,
    /// Deepest dip between them, dB under the peak: one the level comes back from by at least 0.1 dB.
    pub ripple: f64,
}

/// Lowest frequency looked at, Hz.
const LOWEST: f64 = 1.0;
/// Highest upper edge looked for, Hz.
const HIGHEST: f64 = 4000.0;
/// Points of the grid begun with from 1 Hz to five times fs.
const POINTS: usize = 48;
/// Most points followed, a bound on the work.
const MOST: usize = 6000;
/// What the trapezoid of the slopes may miss of a step, dB, before it is halved.
const STRAIGHT_DB: f64 = 0.1;
/// The same of the phase, rad.
const STRAIGHT_RAD: f64 = 0.08;
/// Narrowest step, in the logarithm of the frequency.
const NARROWEST: f64 = 1e-6;
/// What an extremum between two points may differ from the curve through them, dB.
const DOUBT: f64 = 0.5;
/// A dip is one the level comes back from by so much, dB; less is a shoulder.
const DIP: f64 = 0.1;

/// The level at a frequency.
#[derive(Clone, Copy, Debug)]
struct Point {
    /// ln(Hz).
    x: f64,
    /// dB.
    level: f64,
    /// dB per unit of x.
    slope: f64,
    /// rad.
    phase: f64,
    /// rad per unit of x.
    turn: f64,
}

impl Point {
    fn hz(&self) -> f64 {
        self.x.exp()
    }
    /// Whether the curve to the next point is smooth enough to be known from both.
    fn smooth_to(&self, next: &Point, straight_db: f64) -> bool {
        let h = next.x - self.x;
        let level = next.level - self.level - 0.5 * h * (self.slope + next.slope);
        let turned = next.phase - self.phase - 0.5 * h * (self.turn + next.turn);
        let turned = turned - TAU * (turned / TAU).round();
        h < NARROWEST || (level.abs() < straight_db && turned.abs() < STRAIGHT_RAD)
    }
    /// Where the cubic through both points and slopes has an extremum between them, as a part of the way, with its level; the
    /// higher one where `high`.
    fn extremum(&self, next: &Point, high: bool) -> Option<(f64, f64)> {
        let h = next.x - self.x;
        let (d, m0, m1) = (next.level - self.level, h * self.slope, h * next.slope);
        // level = L0 + m0·t + b·t² + c·t³
        let (b, c) = (3.0 * d - 2.0 * m0 - m1, m0 + m1 - 2.0 * d);
        let level = |t: f64| self.level + t * (m0 + t * (b + t * c));
        let root = b * b - 3.0 * m0 * c;
        let both = if c.abs() < 1e-12 {
            [-m0 / (2.0 * b), f64::NAN]
        } else {
            let root = root.max(0.0).sqrt();
            [(-b + root) / (3.0 * c), (-b - root) / (3.0 * c)]
        };
        let sign = if high { 1.0 } else { -1.0 };
        both.into_iter()
            .filter(|t| (0.0..=1.0).contains(t) && root >= 0.0)
            .map(|t| (t, level(t)))
            .max_by(|p, q| (sign * p.1).total_cmp(&(sign * q.1)))
    }
}

impl Sweep<'_> {
    /// The level at four places (ln Hz).
    fn points(&mut self, x: [f64; 4]) -> [Point; 4] {
        halt::check();
        let omega = f64x4::from(x.map(|x| x.exp() * TAU));
        let flows = self.flows(omega);
        let e = flows.terminals.voltage;
        let p = Jet::j_omega(omega, self.pressure_scale / P_REF) * e * flows.sum;
        let size = p.v.norm_sqr();
        // p'/p, per unit of ln ω
        let slope = (p.d.re * p.v.re + p.d.im * p.v.im) / size * omega;
        let turn = (p.d.im * p.v.re - p.d.re * p.v.im) / size * omega;
        let (level, slope, turn) = ((size.ln() * (10.0 / LN_10)).to_array(), slope.to_array(), turn.to_array());
        let (re, im) = (p.v.re.to_array(), p.v.im.to_array());
        [0, 1, 2, 3].map(|i| Point {
            x: x[i],
            level: level[i],
            slope: slope[i] * 20.0 / LN_10,
            phase: im[i].atan2(re[i]),
            turn: turn[i],
        })
    }

    /// The level at places (ln Hz).
    fn all_points(&mut self, places: &[f64]) -> Vec<Point> {
        let mut out = Vec::with_capacity(places.len() + 3);
        for chunk in places.chunks(4) {
            let mut x = [chunk[chunk.len() - 1]; 4];
            x[..chunk.len()].copy_from_slice(chunk);
            out.extend_from_slice(&self.points(x)[..chunk.len()]);
        }
        out
    }

    /// The curve between two frequencies (Hz), followed as closely as it asks for, at least with a step of `step` in ln f; two
    /// neighbours belong together where their slopes miss the step between them by less than `straight_db`.
    fn follow(&mut self, low: f64, high: f64, step: f64, straight_db: f64) -> Vec<Point> {
        let count = ((high / low).ln() / step).ceil().max(1.0) as usize + 1;
        let mut places: Vec<f64> = log_frequencies(low, high, count).into_iter().map(f64::ln).collect();
        for placed in &self.network.elements {
            let (resonances, time) = placed.element.resonances(high);
            places.extend(resonances.into_iter().filter(|f| (low..high).contains(f)).map(f64::ln));
            // a duct of some length resonates again and again: four points from one to the next
            let apart = 1.0 / (8.0 * time.max(1e-9));
            if apart < high * step {
                // from where the grid's own step is wider than that
                let first = (low / apart).max(1.0 / step).ceil();
                let many = (high / apart - first).clamp(0.0, 600.0) as usize;
                places.extend((0..many).map(|k| ((first + k as f64) * apart).ln()));
            }
        }
        let electrical = self.network.diaphragm.source.resonances();
        places.extend(electrical.into_iter().filter(|f| (low..high).contains(f)).map(f64::ln));
        let (first, last) = (low.ln(), high.ln());
        places.retain(|x| first < *x && *x < last);
        places.extend([first, last]);
        places.sort_by(f64::total_cmp);
        places.dedup_by(|a, b| *a - *b < NARROWEST);
        let mut known = self.all_points(&places);
        let mut wanted: Vec<f64> = Vec::new();
        // halve wherever two neighbours do not belong together, until all do
        while known.len() < MOST {
            wanted.clear();
            for pair in known.windows(2) {
                if !pair[0].smooth_to(&pair[1], straight_db) {
                    wanted.push(0.5 * (pair[0].x + pair[1].x));
                }
            }
            if wanted.is_empty() {
                break;
            }
            known.extend(self.all_points(&wanted));
            known.sort_by(|a, b| a.x.total_cmp(&b.x));
        }
        known
    }

    /// The exact extremum between two neighbours whose slopes change sign there, by regula falsi on the slope; begun at a part
    /// of the way.
    fn settle(&mut self, a: Point, b: Point, start: f64) -> Point {
        let (mut low, mut high) = (a, b);
        let rising = a.slope > b.slope;
        let mut best = if (a.level > b.level) == rising { a } else { b };
        let mut t = start.clamp(0.02, 0.98);
        for _ in 0..12 {
            // four places at once: the guess and a fine fan around it
            let h = high.x - low.x;
            let x = low.x + t * h;
            let fan = (0.04 * h).min(x - low.x).min(high.x - x) * 0.5;
            let found = self.points([x, x - fan, x + fan, low.x + 0.5 * h]);
            for p in found {
                if (p.level > best.level) == rising && p.level != best.level {
                    best = p;
                }
                if (p.slope > 0.0) == rising {
                    if p.x > low.x {
                        low = p;
                    }
                } else if p.x < high.x {
                    high = p;
                }
            }
            if high.x - low.x < 1e-9 || (low.level - high.level).abs() < 1e-9 && best.slope.abs() < 1e-3 {
                break;
            }
            let part = low.slope / (low.slope - high.slope);
            t = if part.is_finite() { part.clamp(0.02, 0.98) } else { 0.5 };
        }
        best
    }

    /// Where the curve meets a level between two neighbours, one above and one below it, Hz.
    fn meeting(&mut self, a: Point, b: Point, target: f64) -> f64 {
        let (mut low, mut high) = (a, b);
        let below = low.level < target;
        for _ in 0..40 {
            let h = high.x - low.x;
            let t = ((target - low.level) / (high.level - low.level)).clamp(0.02, 0.98);
            let found =
                self.points([low.x + t * h, low.x + (t * 0.98) * h, low.x + (t * 0.98 + 0.02) * h, low.x + 0.5 * h]);
            for p in found {
                if (p.level < target) == below {
                    if p.x > low.x {
                        low = p;
                    }
                } else if p.x < high.x {
                    high = p;
                }
            }
            if h < 1e-10 || (low.level - high.level).abs() < 1e-7 {
                break;
            }
        }
        let t = ((target - low.level) / (high.level - low.level)).clamp(0.0, 1.0);
        (low.x + if t.is_finite() { t } else { 0.5 } * (high.x - low.x)).exp()
    }

    /// The highest point of a followed curve.
    fn highest(&mut self, curve: &[Point]) -> Point {
        let mut best = curve.iter().copied().reduce(|a, b| if b.level > a.level { b } else { a }).unwrap_or(Point {
            x: 0.0,
            level: f64::NEG_INFINITY,
            slope: 0.0,
            phase: 0.0,
            turn: 0.0,
        });
        for pair in curve.windows(2) {
            if pair[0].slope > 0.0 && pair[1].slope < 0.0 {
                let guess = pair[0].extremum(&pair[1], true);
                let (t, level) = guess.unwrap_or((0.5, f64::INFINITY));
                if level > best.level - DOUBT {
                    let found = self.settle(pair[0], pair[1], t);
                    if found.level > best.level {
                        best = found;
                    }
                }
            }
        }
        best
    }

    /// Walks along a curve away from its peak to where it first falls under a level, Hz: down from the peak, or up where `up`.
    fn falls_under(&mut self, curve: &[Point], peak: Point, target: f64, up: bool) -> Option<f64> {
        let mut last = peak;
        let onward: Vec<Point> = if up {
            curve.iter().copied().filter(|p| p.x > peak.x).collect()
        } else {
            curve.iter().rev().copied().filter(|p| p.x < peak.x).collect()
        };
        for p in onward {
            let (a, b) = if up { (last, p) } else { (p, last) };
            if p.level < target {
                return Some(self.meeting(a, b, target));
            }
            // both ends lie above: a dip between them may still reach under it
            if a.slope < 0.0 && b.slope > 0.0 && a.extremum(&b, false).is_none_or(|(_, level)| level < target + DOUBT) {
                let t = a.extremum(&b, false).map_or(0.5, |e| e.0);
                let dip = self.settle(a, b, t);
                if dip.level < target {
                    let (near, far) = if up { (last, dip) } else { (dip, last) };
                    return Some(self.meeting(near, far, target));
                }
            }
            last = p;
        }
        None
    }

    fn grid_step(fs: f64) -> f64 {
        (5.0 * fs / LOWEST).ln() / (POINTS - 1) as f64
    }

    /// Peak and low edges, whatever frequencies a sweep is asked for: the peak and the levels at the edges to 0.01 dB, the
    /// frequencies to 0.1 % (refined to 1e-6 dB where the curve is smooth).
    pub fn band_edges(&mut self, fs: f64, reference: Reference) -> BandEdges {
        let curve = self.follow(LOWEST, 5.0 * fs, Self::grid_step(fs), STRAIGHT_DB);
        let peak = self.highest(&curve);
        let reference_db = match reference {
            Reference::Efficiency => self.reference_level_db(),
            Reference::Maximum => peak.level,
        };
        let edges = [10.0 * 2f64.log10(), 6.0, 10.0].map(|drop| {
            let target = reference_db - drop;
            if peak.level < target { None } else { self.falls_under(&curve, peak, target, false) }
        });
        BandEdges { reference_db, peak: (peak.level, peak.hz()), edges }
    }

    /// The band around the peak of [`Sweep::band_edges`] measured against the maximum; `None` where the level does not fall to
    /// half its power on both sides between 1 and 4000 Hz.
    pub fn band(&mut self, fs: f64, edges: &BandEdges) -> Option<Band> {
        let lower = edges.edges[0]?;
        let target = edges.peak.0 - 10.0 * 2f64.log10();
        let peak = self.points([edges.peak.1.ln(); 4])[0];
        let step = Self::grid_step(fs);
        let mut from = edges.peak.1;
        let mut last = peak;
        let upper = loop {
            let to = (from * 2.0).min(HIGHEST);
            if to <= from * 1.001 {
                return None;
            }
            let mut curve = self.follow(from, to, step, STRAIGHT_DB);
            if let Some(first) = curve.first_mut()
                && from > edges.peak.1
            {
                *first = last;
            }
            if let Some(found) = self.falls_under(&curve, Point { x: from.ln(), ..last }, target, true) {
                break found;
            }
            last = curve.last().copied().unwrap_or(last);
            from = to;
        };
        let inside = self.follow(lower, upper, step / 4.0, DIP * 0.1);
        let mut deepest = edges.peak.0;
        for pair in inside.windows(2) {
            if pair[0].slope < 0.0 && pair[1].slope > 0.0 {
                let t = pair[0].extremum(&pair[1], false).map_or(0.5, |e| e.0);
                let dip = self.settle(pair[0], pair[1], t);
                let above = inside.iter().filter(|p| p.x > dip.x).map(|p| p.level).fold(f64::MIN, f64::max);
                if above > dip.level + DIP && dip.x < upper.ln() {
                    deepest = deepest.min(dip.level);
                }
            }
        }
        Some(Band { lower, upper, ripple: edges.peak.0 - deepest })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::f64::consts::PI;

    fn point(x: f64, level: f64, slope: f64) -> Point {
        Point { x, level, slope, phase: 0.0, turn: 0.0 }
    }

    /// The cubic through two points of a parabola is that parabola, its top where it is.
    #[test]
    fn the_top_of_a_parabola() {
        let of = |x: f64| point(x, 3.0 - (x - 0.4).powi(2), -2.0 * (x - 0.4));
        let (t, level) = of(0.0).extremum(&of(1.0), true).unwrap();
        assert!((t - 0.4).abs() < 1e-12 && (level - 3.0).abs() < 1e-12);
        assert!(of(0.5).extremum(&of(1.0), true).is_none());
        assert!(of(0.0).smooth_to(&of(1.0), STRAIGHT_DB));
    }

    /// A turn of the phase between two points that neither of them shows is seen.
    #[test]
    fn a_hidden_turn_is_seen() {
        let here = point(0.0, 0.0, 0.0);
        let there = Point { phase: PI, ..point(0.1, 0.0, 0.0) };
        assert!(!here.smooth_to(&there, STRAIGHT_DB));
    }
}
