//! What is done against waves in the box. x = f / f0 of the first wave between two walls.

use crate::drawing::{Drawing, Frame, Look, db, sheet};
use std::f64::consts::PI;

/// Pressure at the driven end of a closed duct against its push, |coth(a + jπx)|, a what the fill takes on the way.
pub fn driven(x: f64, a: f64) -> f64 {
    let (s, b) = (a.sinh().powi(2), PI * x);
    ((s + b.cos().powi(2)) / (s + b.sin().powi(2))).sqrt()
}

/// Waves in a box, empty and filled.
pub fn fill() -> Drawing {
    let mut on =
        sheet("Pressure in a box against frequency: empty it rings at each wave between its walls, filled hardly.");
    let frame = Frame { from: 0.5, to: 3.4, low: -14.0, high: 30.0 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Cone, |x| db(driven(x, 0.04)));
    frame.curve(&mut on, Look::Air, |x| db(driven(x, 0.8)));
    on.say(frame.x(1.06), frame.y(22.0), "start", "empty").say(frame.x(0.7), frame.y(4.0), "end", "filled");
    on
}
