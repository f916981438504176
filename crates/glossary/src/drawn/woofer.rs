//! The woofer itself. x = f / fs, t in swings.

use crate::drawing::{Drawing, Frame, HEIGHT, Look, WIDTH, sheet};
use std::f64::consts::{PI, TAU};

/// Impedance of a bare woofer against the coil's resistance: |1 + (qms / qes) / (1 + j qms (x - 1/x))|, Small (1972).
pub fn bare(x: f64, qms: f64, qes: f64) -> f64 {
    let (b, peak) = (qms * (x - 1.0 / x), qms / qes);
    let d = 1.0 + b * b;
    (1.0 + peak / d).hypot(peak * b / d)
}

/// A cone let go of, after so many swings of the undamped one: the damped swing of a mass on a spring, q over one half.
pub fn let_go(swings: f64, q: f64) -> f64 {
    let (t, d) = (TAU * swings, 0.5 / q);
    let w = (1.0 - d * d).sqrt();
    (-d * t).exp() * ((w * t).cos() + d / w * (w * t).sin())
}

/// |1 + (jx)ⁿ|: a coil in iron, whose impedance rises with a power n of the frequency.
pub fn in_iron(x: f64, n: f64) -> f64 {
    let (rise, turn) = (x.powf(n), 0.5 * PI * n);
    (1.0 + rise * turn.cos()).hypot(rise * turn.sin())
}

/// The swing of the bare woofer, seen in its impedance.
pub fn resonance() -> Drawing {
    let mut on = sheet(
        "Impedance of a bare woofer against frequency: it peaks at fs and comes down to the coil's resistance on both sides.",
    );
    let frame = Frame { from: 0.15, to: 7.0, low: 0.0, high: 9.0 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Cone, |x| bare(x, 3.0, 0.4));
    frame.curve(&mut on, Look::Soft, |_| 1.0);
    frame.mark(&mut on, 1.0, bare(1.0, 3.0, 0.4), "fs");
    on.say(frame.x(1.5), frame.y(7.0), "start", "impedance").say(frame.x(0.17), frame.y(1.0) - 3.0, "start", "Re");
    on
}

/// A cone let go of with much and with little damping.
pub fn damping() -> Drawing {
    let mut on = sheet(
        "A cone pushed and let go of: with little damping it swings on and on, with much it comes to rest at once.",
    );
    on.line(Look::Soft, format!("M8 44H{}", WIDTH - 8.0));
    for (q, look) in [(5.0, Look::Cone), (0.6, Look::Air)] {
        on.through(look, 160, |t| (10.0 + (WIDTH - 20.0) * t, 44.0 - 34.0 * let_go(4.0 * t, q)));
    }
    on.say(72.0, 13.0, "start", "little: Q high").say(84.0, 78.0, "start", "much: Q low").say(
        WIDTH - 8.0,
        HEIGHT - 5.0,
        "end",
        "time",
    );
    on
}

/// fs against the moving mass.
pub fn by_mass() -> Drawing {
    swings_at("mass", "fs against the moving mass: four times as much brings it down to half.")
}

/// fs against how soft the suspension is.
pub fn by_softness() -> Drawing {
    swings_at("softness", "fs against how soft the suspension is: four times as soft brings it down to half.")
}

/// It falls with the square root of either.
fn swings_at(across: &'static str, tells: &'static str) -> Drawing {
    let mut on = sheet(tells);
    let frame = Frame { from: 0.25, to: 16.0, low: 0.2, high: 2.1 };
    frame.axes(&mut on, across);
    frame.curve(&mut on, Look::Cone, |m| 1.0 / m.sqrt());
    frame.mark(&mut on, 1.0, 1.0, "1");
    frame.mark(&mut on, 4.0, 0.5, "4");
    on.say(frame.x(0.45), frame.y(1.6), "start", "fs");
    on
}

/// The area that pushes.
pub fn area() -> Drawing {
    let mut on = sheet(
        "A cone from the side with its surround: the width that counts reaches from the middle of one side of the surround to that of the other.",
    );
    on.line(Look::Cone, "M60 30L108 62H132L180 30");
    on.line(Look::Ink, "M60 30C56 16 40 16 36 30M180 30C184 16 200 16 204 30M36 30V38M204 30V38");
    on.line(Look::Soft, "M48 20V84M192 20V84");
    on.line(Look::Air, "M48 80H192M54 76L48 80L54 84M186 76L192 80L186 84");
    on.say(120.0, 76.0, "middle", "counts as cone");
    on
}

/// Coils in air and in iron.
pub fn semi_inductance() -> Drawing {
    let mut on = sheet(
        "Impedance against frequency: a coil in air rises with the frequency, one in iron sooner and more gently.",
    );
    let frame = Frame { from: 0.02, to: 10.0, low: 0.0, high: 8.0 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Soft, |x| in_iron(x, 1.0));
    frame.curve(&mut on, Look::Cone, |x| in_iron(x, 0.6));
    on.say(frame.x(5.0), frame.y(6.6), "end", "in air").say(frame.x(0.5), frame.y(2.6), "end", "in iron");
    on
}

/// Two woofers with a little air between them.
pub fn isobaric() -> Drawing {
    let mut on = sheet("One woofer in a box, and two of them one behind the other in a box of half the size.");
    on.line(Look::Ink, "M96 8H16V70H96V8M216 8H176V70H216V8M216 8H228V70H216");
    for x in [96.0, 216.0, 228.0] {
        on.line(Look::Cone, format!("M{x} 22L{:.1} 32V46L{x} 56", x - 9.0));
    }
    on.say(56.0, HEIGHT - 6.0, "middle", "one").say(196.0, HEIGHT - 6.0, "middle", "two: half of it");
    on
}
