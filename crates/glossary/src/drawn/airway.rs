//! Ports. l = length over diameter, p = push against the one at which turbulence takes as much as the air's mass.

use crate::drawing::{Drawing, Frame, HEIGHT, Look, db, sheet};
use std::f64::consts::PI;

/// Tuning by a tube of length l and an area against a first one's, whose diameter is 1: the square root of the area over the length
/// that acts, an end in a wall (0.85 r) and a free one (0.61 r) counted in. Beranek and Mellow (2012).
pub fn tuned(length: f64, area: f64) -> f64 {
    (area / (length + 0.73 * area.sqrt())).sqrt()
}

/// Air that a push moves where turbulence asks for a part with the square of the flow, p = u + u².
pub fn turbulent(push: f64) -> f64 {
    0.5 * ((1.0 + 4.0 * push).sqrt() - 1.0)
}

/// Tuning against length, of a wide and a narrow tube.
pub fn port() -> Drawing {
    let mut on = sheet("Tuning against the length of the port: a longer one tunes lower, a wider one higher.");
    let frame = Frame { from: 0.5, to: 8.0, low: 0.2, high: 1.3 };
    frame.axes(&mut on, "length");
    frame.curve(&mut on, Look::Air, |l| tuned(l, 2.0));
    frame.curve(&mut on, Look::Cone, |l| tuned(l, 1.0));
    on.say(frame.x(1.0), frame.y(1.1), "start", "wide").say(frame.x(0.8), frame.y(0.62), "end", "narrow");
    on
}

/// The first wave along an open tube.
pub fn resonance() -> Drawing {
    let mut on = sheet("A tube open at both ends with half a wave in it: loud in its middle, nothing at its ends.");
    on.line(Look::Ink, "M30 14H210M30 68H210");
    for turned in [1.0, -1.0] {
        on.through(Look::Air, 40, |t| (30.0 + 180.0 * t, 41.0 - turned * 22.0 * (PI * t).sin()));
    }
    on.say(30.0, HEIGHT - 7.0, "middle", "open").say(120.0, HEIGHT - 7.0, "middle", "loud").say(
        210.0,
        HEIGHT - 7.0,
        "middle",
        "open",
    );
    on
}

/// What comes out of a port for what is asked of it.
pub fn compression() -> Drawing {
    let mut on = sheet("Air that moves against what is asked: at first it follows, then turbulence holds it back.");
    let frame = Frame { from: 0.02, to: 20.0, low: -36.0, high: 26.0 };
    frame.axes(&mut on, "asked of the port");
    frame.curve(&mut on, Look::Soft, db);
    frame.curve(&mut on, Look::Air, |p| db(turbulent(p)));
    on.say(frame.x(2.0), frame.y(14.0), "end", "without").say(frame.x(3.0), frame.y(-6.0), "start", "what comes");
    on
}
