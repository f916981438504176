//! Measuring. r = distance over the cone's radius, m = mass put on over the moving mass.

use crate::drawing::{Drawing, Frame, HEIGHT, Look, WIDTH, db, sheet};
use std::f64::consts::TAU;

/// Pressure before the middle of a flat cone at low notes, against that at the cone: sqrt(r² + 1) - r. Beranek and Mellow (2012).
pub fn before_the_cone(r: f64) -> f64 {
    r.hypot(1.0) - r
}

/// Resonance with a mass put on, against the one without.
pub fn laden(mass: f64) -> f64 {
    1.0 / (1.0 + mass).sqrt()
}

/// Close to the cone the room does not matter.
pub fn near_field() -> Drawing {
    let mut on =
        sheet("Level against distance: near the cone it stands far over what the room adds, far off the room decides.");
    let frame = Frame { from: 0.02, to: 40.0, low: -44.0, high: 3.0 };
    frame.axes(&mut on, "distance");
    frame.curve(&mut on, Look::Air, |r| db(before_the_cone(r)));
    frame.curve(&mut on, Look::Soft, |_| -28.0);
    on.say(frame.x(1.5), frame.y(-4.0), "start", "from the cone");
    on.say(frame.x(0.03), frame.y(-28.0) - 3.0, "start", "from the room");
    on
}

/// Resonance against the mass put on.
pub fn added_mass() -> Drawing {
    let mut on =
        sheet("Resonance against the mass put on the cone: with as much as moves already it falls to seven tenths.");
    let frame = Frame { from: 0.05, to: 6.0, low: 0.3, high: 1.05 };
    frame.axes(&mut on, "mass put on");
    frame.curve(&mut on, Look::Cone, laden);
    frame.mark(&mut on, 1.0, laden(1.0), "Mms");
    on.say(frame.x(0.4), frame.y(0.97), "start", "resonance");
    on
}

/// A known resistor before the woofer.
pub fn jig() -> Drawing {
    let mut on = sheet(
        "A circuit: the source, a resistor of known value, the woofer; voltage is read before and behind the resistor.",
    );
    on.line(Look::Ink, "M30 20H88M128 20H190V32M190 58V72H30V58");
    on.line(Look::Ink, "M30 32V20M30 32A13 13 0 0 1 30 58A13 13 0 0 1 30 32");
    on.line(Look::Ink, "M88 14h40v12h-40z");
    on.line(Look::Cone, "M184 32h12v26h-12zM196 32l14 -10v46l-14 -10");
    on.line(Look::Air, "M66 20V36M154 20V36");
    on.say(108.0, 10.0, "middle", "known").say(66.0, 47.0, "middle", "read").say(154.0, 47.0, "middle", "read");
    on.say(46.0, 62.0, "start", "source");
    on
}

/// A tone that slides.
pub fn sweep() -> Drawing {
    let mut on = sheet("A wave whose swings follow ever faster from left to right.");
    let octaves = 4.0;
    on.through(Look::Air, 480, |t| {
        // as many octaves in each stretch of time
        let phase = TAU * 0.9 * (2f64.powf(octaves * t) - 1.0) / (octaves * 2f64.ln());
        (10.0 + (WIDTH - 20.0) * t, 40.0 - 28.0 * phase.sin())
    });
    on.say(10.0, HEIGHT - 6.0, "start", "low").say(WIDTH - 10.0, HEIGHT - 6.0, "end", "high");
    on
}

/// What was put in, and what comes beside it.
pub fn distortion() -> Drawing {
    let mut on = sheet("A tall bar at the note and smaller ones at twice and three times the note.");
    on.line(Look::Soft, format!("M10 74H{}", WIDTH - 10.0));
    for (x, high, look, words) in
        [(40.0, 60.0, Look::Air, "note"), (110.0, 22.0, Look::Cone, "twice"), (180.0, 12.0, Look::Cone, "three times")]
    {
        on.line(look, format!("M{:.1} 74V{:.1}h8V74", x - 4.0, 74.0 - high));
        on.say(x, HEIGHT - 5.0, "middle", words);
    }
    on
}
