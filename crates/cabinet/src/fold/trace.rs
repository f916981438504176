//! The centre line while a path is folded.

use crate::board::P2;

/// The centre line as it is followed.
pub(super) struct Trace {
    pub(super) stations: Vec<P2>,
    pub(super) bends: Vec<P2>,
    pub(super) centre: Vec<P2>,
    pub(super) x: f64,
    pub(super) across: f64,
}

impl Trace {
    fn station(&mut self, width: f64) {
        self.stations.push([self.x, width * self.across]);
    }
    /// Along a segment: its width across the centre line, which is slanted.
    pub(super) fn segment(&mut self, width: &dyn Fn(f64) -> f64, middle: &dyn Fn(f64) -> f64, from: f64, to: f64) {
        let slope = (middle(to) - middle(from)) / (to - from).abs().max(1e-9);
        let lean = slope.hypot(1.0);
        if self.centre.is_empty() {
            self.centre.push([from, middle(from)]);
        }
        self.station(width(from) / lean);
        self.x += (to - from).abs() * lean;
        self.centre.push([to, middle(to)]);
        self.station(width(to) / lean);
    }
    pub(super) fn corner(&mut self, before: f64, after: f64) {
        self.bends.push([self.x, 0.5 * (before + after)]);
    }
    pub(super) fn across_to(&mut self, b: f64, height: f64) {
        self.across_between(b, height, height);
    }
    /// Across the segments, between two heights.
    pub(super) fn across_between(&mut self, b: f64, from: f64, to: f64) {
        let Some(here) = self.centre.last().copied() else { return };
        self.station(from);
        self.x += (b - here[1]).abs();
        self.centre.push([here[0], b]);
        self.station(to);
    }
    pub(super) fn on(&mut self, length: f64, width: f64) {
        if length > 0.0 {
            self.station(width);
            self.x += length;
            self.station(width);
        }
    }
}
