//! Rooms. x = f / f0, f0 the lowest wave of the room or the first frequency that comes twice.

use crate::drawing::{Drawing, Frame, Look, closed, db, sheet};

/// Sound straight and by a wall, at x = f / f0 of the first null: |1 + exp(-jπx)| against both together, |cos(πx/2)|.
pub fn by_a_wall(x: f64) -> f64 {
    (0.5 * std::f64::consts::PI * x).cos().abs()
}

/// A closed box in the open and in a tight room: below its lowest wave the room lifts by 12 dB an octave.
pub fn room_gain() -> Drawing {
    let mut on = sheet(
        "Level against frequency: in the open the box falls, in a small tight room the air pressed together holds it up.",
    );
    let frame = Frame { from: 0.2, to: 5.0, low: -30.0, high: 6.0 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Soft, |x| db(closed(x, 0.707)));
    // pressure in a closed space follows the stroke, which is level under the resonance
    frame.curve(&mut on, Look::Air, |x| db(closed(x, 0.707) * 1f64.hypot(x.powi(-2))));
    on.say(frame.x(0.42), frame.y(-20.0), "start", "in the open");
    on.say(frame.x(0.3), frame.y(0.0) + 11.0, "start", "in a small room");
    on
}

/// Where what comes straight and what comes by a wall cancel.
pub fn null() -> Drawing {
    let mut on = sheet(
        "Level against frequency at a seat near a wall: at one frequency what comes straight and what comes by the wall cancel, further ones follow.",
    );
    let frame = Frame { from: 0.2, to: 4.0, low: -30.0, high: 4.0 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Air, |x| db(by_a_wall(x).max(1e-3)));
    on.say(frame.x(0.8), frame.y(-22.0), "end", "half a wave longer");
    on
}

/// How sound dies away.
pub fn dies_away() -> Drawing {
    let mut on = sheet(
        "Level against time after a sound is cut off: it falls in a straight line, and the time to sixty decibels less is told.",
    );
    on.line(Look::Soft, "M8 6V76H232M60 14H232M60 66H232");
    on.line(Look::Air, "M8 14H60L190 66");
    on.line(Look::Soft, "M60 14V80M190 66V80");
    on.line(Look::Cone, "M60 78H190M65 75L60 78L65 81M185 75L190 78L185 81");
    on.say(232.0, 60.0, "end", "60 dB less").say(125.0, 90.0, "middle", "told");
    on
}
