//! Boxes, lines and horns. x = f / fc of a closed box, f / fs of the others; q = Qts, alpha = Vas / Vb, h = fb / fs.

use crate::drawing::{Drawing, Frame, HEIGHT, Look, closed, db, sheet, vented};
use std::f64::consts::PI;

/// Level of a box with a passive radiator whose own resonance lies at `notch`, without losses but the woofer's: as [`vented`], the
/// radiator's mass on its own spring, d = 1 - h² / (x² - notch²) with h² + notch² the square of the tuning. Small (1974).
pub fn passive(x: f64, q: f64, alpha: f64, h: f64, notch: f64) -> f64 {
    let d = 1.0 - h * h / (x * x - notch * notch);
    // times d, so that nothing is divided by nothing at the tuning
    let (zr, zi) = (d / q, d * (x - 1.0 / x) - alpha / x);
    x / zr.hypot(zi)
}

/// Level of a box closed behind and with a port before, without losses but the woofer's: the port's flow, the cone's times
/// (h / x)² / d with d = 1 - (h / x)², the air behind stiffening the suspension by 1 + rear.
pub fn banded(x: f64, q: f64, rear: f64, front: f64, h: f64) -> f64 {
    let d = 1.0 - (h / x).powi(2);
    let (zr, zi) = (d / q, d * (x - (1.0 + rear) / x) - front / x);
    x * (h / x).powi(2) / zr.hypot(zi)
}

/// Air that leaves a line's open end for what enters it, 1 / |cosh(a + jπx/2)|, x = f over that of the quarter wave, a what the
/// stuffing takes on the way.
pub fn far_end(x: f64, a: f64) -> f64 {
    1.0 / (a.sinh().powi(2) + (0.5 * PI * x).cos().powi(2)).sqrt()
}

/// What an endless exponential horn takes off the cone against a tube, x = f over its cut-off: sqrt(1 - 1/x²), nothing below it.
/// Beranek and Mellow (2012).
pub fn carried(x: f64) -> f64 {
    (1.0 - x.powi(-2)).max(0.0).sqrt()
}

/// Part of a wave that a mouth in a wall throws back, by its circumference in wavelengths: |(z - 1) / (z + 1)| with a piston's
/// z = 1 - J1(2ka)/ka + j H1(2ka)/ka. Beranek and Mellow (2012).
pub fn thrown_back(ka: f64) -> f64 {
    let (r, x) = (1.0 - bessel(2.0 * ka) / ka, struve(2.0 * ka) / ka);
    (r - 1.0).hypot(x) / (r + 1.0).hypot(x)
}

/// J1 by its integral, 1/π of that of cos(θ - z sin θ) from 0 to π.
pub fn bessel(z: f64) -> f64 {
    middles(|t| (PI * t - z * (PI * t).sin()).cos())
}

/// The Struve function H1 by its integral, 2z/π of that of sqrt(1 - t²) sin(zt) from 0 to 1, t = sin θ.
pub fn struve(z: f64) -> f64 {
    z * middles(|t| (0.5 * PI * t).cos().powi(2) * (z * (0.5 * PI * t).sin()).sin())
}

/// Mean of a function from 0 to 1, by its middles.
fn middles(of: impl Fn(f64) -> f64) -> f64 {
    let many = 256;
    (0..many).map(|i| of((f64::from(i) + 0.5) / f64::from(many))).sum::<f64>() / f64::from(many)
}

/// Level and stroke of a closed box.
pub fn sealed() -> Drawing {
    let mut on = sheet(
        "Level and cone stroke of a closed box against frequency: as the level falls the stroke stays as long as it is.",
    );
    let frame = Frame { from: 0.2, to: 4.0, low: -28.0, high: 4.0 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Air, |x| db(closed(x, 0.707)));
    frame.curve(&mut on, Look::Cone, |x| db(closed(x, 0.707) / (x * x)));
    on.say(frame.x(0.46), frame.y(-14.0) + 10.0, "start", "level").say(frame.x(2.2), frame.y(-11.0), "start", "stroke");
    on
}

/// Level and stroke of a vented box, a closed one's level beside it.
pub fn box_with_port() -> Drawing {
    let mut on = sheet(
        "Level and cone stroke of a vented box against frequency: at the tuning the cone nearly rests, below it the level falls steeply and nothing holds the cone.",
    );
    let frame = Frame { from: 0.4, to: 4.0, low: -28.0, high: 6.0 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Air, |x| db(vented(x, 0.383, 1.414, 1.0, 10.0).0));
    frame.curve(&mut on, Look::Cone, |x| db(2.0 * vented(x, 0.383, 1.414, 1.0, 10.0).1));
    frame.mark(&mut on, 1.0, -14.0, "tuning");
    on.say(frame.x(0.66), frame.y(-24.0), "start", "level").say(frame.x(2.2), frame.y(-7.0), "start", "stroke");
    on
}

/// Level of a box with a passive radiator and with a port.
pub fn radiator() -> Drawing {
    let mut on = sheet(
        "Level against frequency: a box with a passive radiator plays as one with a port, but falls to nothing at the radiator's own resonance.",
    );
    let frame = Frame { from: 0.25, to: 4.0, low: -48.0, high: 4.0 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Soft, |x| db(vented(x, 0.383, 1.414, 1.0, 1e9).0));
    frame.curve(&mut on, Look::Air, |x| db(passive(x, 0.383, 1.414, 0.9, 0.436).max(1e-6)));
    frame.mark(&mut on, 0.436, -40.0, "notch");
    on.say(frame.x(0.8), frame.y(-22.0), "start", "steeper than with a port");
    on
}

/// Level of a bandpass box, a closed one's beside it.
pub fn bandpass() -> Drawing {
    let mut on = sheet(
        "Level against frequency: a bandpass box plays in a band and falls on both sides of it, a closed one goes on upwards.",
    );
    let frame = Frame { from: 0.4, to: 6.0, low: -30.0, high: 6.0 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Soft, |x| db(closed(x / 1.5, 0.6)));
    frame.curve(&mut on, Look::Air, |x| db(banded(x, 0.4, 1.25, 2.0, 1.5)));
    on.say(frame.x(1.5), frame.y(-16.0), "middle", "band").say(frame.x(6.0), frame.y(0.0) + 12.0, "end", "closed box");
    on
}

/// What leaves the far end of a line, empty and stuffed.
pub fn line() -> Drawing {
    let mut on = sheet(
        "Air from the far end of a line against frequency: it is strongest at a quarter of a wave; empty it rings again higher up, stuffed it does not.",
    );
    let frame = Frame { from: 0.3, to: 6.0, low: -18.0, high: 28.0 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Cone, |x| db(far_end(x, 0.05)));
    // what a stuffing takes grows with frequency
    frame.curve(&mut on, Look::Air, |x| db(far_end(x, 0.5 * x.sqrt())));
    frame.mark(&mut on, 1.0, -16.0, "quarter wave");
    on.say(frame.x(1.1), frame.y(19.0), "start", "empty").say(frame.x(1.4), frame.y(-10.0), "start", "stuffed");
    on
}

/// What a horn carries above its cut-off.
pub fn cutoff() -> Drawing {
    let mut on = sheet(
        "What a horn takes off the cone against frequency: nothing below its cut-off, soon as much as a tube above it.",
    );
    let frame = Frame { from: 0.4, to: 6.0, low: 0.0, high: 1.2 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Soft, |_| 1.0);
    frame.curve(&mut on, Look::Air, carried);
    on.say(frame.x(1.0), HEIGHT - 5.0, "middle", "cut-off");
    on.say(frame.x(0.45), frame.y(1.0) + 11.0, "start", "tube").say(frame.x(1.6), frame.y(0.6), "start", "horn");
    on
}

/// What a mouth throws back.
pub fn mouth() -> Drawing {
    let mut on = sheet(
        "How much of a wave the mouth throws back, against its size: a small one nearly all, one a wavelength around about half.",
    );
    let frame = Frame { from: 0.1, to: 6.0, low: 0.0, high: 1.1 };
    frame.axes(&mut on, "mouth");
    frame.curve(&mut on, Look::Air, thrown_back);
    frame.mark(&mut on, 1.0, thrown_back(1.0), "a wavelength around");
    on.say(frame.x(0.55), frame.y(0.9), "start", "thrown back");
    on
}

/// A cone before a narrow throat.
pub fn compression() -> Drawing {
    let mut on = sheet(
        "A large cone before a small throat: the same air must pass it, so it moves as much faster as the throat is smaller.",
    );
    on.line(Look::Ink, "M62 8H92V30C140 30 190 24 226 6M62 76H92V54C140 54 190 60 226 78");
    on.line(Look::Cone, "M62 8L44 32V52L62 76");
    on.arrow(Look::Air, 62.0, 24.0, 10.0).arrow(Look::Air, 62.0, 60.0, 10.0).arrow(Look::Air, 84.0, 42.0, 40.0);
    on.say(60.0, HEIGHT - 4.0, "middle", "cone").say(112.0, HEIGHT - 18.0, "middle", "throat");
    on
}

/// A woofer in a wall between two rooms.
pub fn wall() -> Drawing {
    let mut on = sheet(
        "A woofer in a wall from floor to ceiling: what its front plays stays on one side, what its back plays on the other.",
    );
    on.line(Look::Ink, "M120 4V28M120 60V78M8 78H232M8 4H232");
    on.line(Look::Cone, "M120 28L108 39V49L120 60");
    on.arrow(Look::Air, 130.0, 44.0, 26.0).arrow(Look::Soft, 100.0, 44.0, -26.0);
    on.say(194.0, 47.0, "middle", "room").say(40.0, 47.0, "middle", "loft");
    on
}

/// Three choices of volume and tuning for one woofer.
pub fn alignment() -> Drawing {
    let mut on = sheet(
        "Level against frequency of one woofer in three vented boxes: flat to the end, falling early from a large low-tuned one, swelling in a large one tuned high.",
    );
    let frame = Frame { from: 0.4, to: 4.0, low: -20.0, high: 7.0 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Soft, |x| db(vented(x, 0.383, 1.0, 0.7, 1e3).0));
    frame.curve(&mut on, Look::Air, |x| db(vented(x, 0.383, 1.414, 1.0, 1e3).0));
    frame.curve(&mut on, Look::Cone, |x| db(vented(x, 0.383, 0.7, 1.15, 1e3).0));
    on.say(frame.x(1.6), frame.y(4.0), "start", "swells").say(frame.x(1.02), frame.y(-7.0), "start", "flat");
    on.say(frame.x(0.42), frame.y(-4.0), "start", "early, deep");
    on
}

/// Resonance in the box by how stiff its air is: fc / fs = sqrt(1 + alpha), Small (1972).
pub fn stiffness() -> Drawing {
    let mut on = sheet(
        "Resonance in the box against Vas/Vb: with little of it the woofer's own spring decides, with much the air's.",
    );
    let frame = Frame { from: 0.1, to: 10.0, low: 0.8, high: 3.5 };
    frame.axes(&mut on, "Vas/Vb");
    frame.curve(&mut on, Look::Air, |alpha| (1.0 + alpha).sqrt());
    frame.mark(&mut on, 3.0, 2.0, "3");
    on.say(frame.x(0.15), frame.y(1.5), "start", "woofer's spring").say(frame.x(2.6), frame.y(2.6), "end", "the air's");
    on
}

/// Group delay of a closed box at x = f / fc, in units of 1 / (2π fc): (1 + x²) / q / ((1 - x²)² + (x / q)²), from its response function
/// (Small 1972).
pub fn delay(x: f64, q: f64) -> f64 {
    (1.0 + x * x) / q / ((1.0 - x * x).powi(2) + (x / q).powi(2))
}

/// How late a box answers, by its Q.
pub fn group_delay() -> Drawing {
    let mut on =
        sheet("Group delay against frequency: it is longest near the lower end, and the more so the higher the Q.");
    let frame = Frame { from: 0.2, to: 5.0, low: 0.0, high: 3.0 };
    frame.axes(&mut on, "frequency");
    for (q, look) in [(0.5, Look::Soft), (0.707, Look::Air), (1.3, Look::Cone)] {
        frame.curve(&mut on, look, |x| delay(x, q));
    }
    on.say(frame.x(1.25), frame.y(2.4), "start", "Q 1.3").say(frame.x(0.55), frame.y(2.0), "end", "Q 0.7");
    on
}

/// Air leaving a sharp and a rounded end.
pub fn flare() -> Drawing {
    let mut on =
        sheet("Two ports: at a sharp end the air tears off in whirls, along a rounded end it spreads without them.");
    for (left, round, words) in [(10.0, false, "sharp: tears off"), (130.0, true, "rounded: follows")] {
        let end = left + 56.0;
        if round {
            on.line(
                Look::Ink,
                format!("M{left} 30H{:.1}Q{end} 30 {end} 12M{left} 54H{:.1}Q{end} 54 {end} 72", end - 16.0, end - 16.0),
            );
            on.line(
                Look::Air,
                format!(
                    "M{left} 36H{:.1}Q{:.1} 35 {:.1} 20M{left} 48H{:.1}Q{:.1} 49 {:.1} 64",
                    end - 12.0,
                    end + 8.0,
                    end + 18.0,
                    end - 12.0,
                    end + 8.0,
                    end + 18.0
                ),
            );
        } else {
            on.line(Look::Ink, format!("M{left} 30H{end}V12M{left} 54H{end}V72"));
            on.line(Look::Air, format!("M{left} 36H{:.1}M{left} 48H{:.1}", end + 30.0, end + 30.0));
            for (y, turn) in [(26.0, -1.0), (58.0, 1.0)] {
                let x = end + 10.0;
                on.line(
                    Look::Air,
                    format!(
                        "M{x:.1} {:.1}c8 0 8 {:.1} 0 {:.1}c-6 0 -6 {:.1} 0 {:.1}",
                        y - 4.0 * turn,
                        9.0 * turn,
                        9.0 * turn,
                        -6.0 * turn,
                        -6.0 * turn
                    ),
                );
            }
        }
        on.say(left + 46.0, 87.0, "middle", words);
    }
    on
}

/// A long path laid back and forth.
pub fn fold() -> Drawing {
    let mut on = sheet("A long path folded into a box by two boards: it runs along, back and along again, then out.");
    on.line(Look::Ink, "M200 8H30V76H200M200 8V54M60 31H200M30 54H170");
    on.line(Look::Air, "M190 19H46V42H186V65H214M209 61L214 65L209 69");
    on.say(115.0, 89.0, "middle", "its length is that of the middle line");
    on
}
