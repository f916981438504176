//! Filters, coils and amplifiers. x = f / f0 of the filter or of the closed box; v = voltage, v = 1 where the heat of a coil is told.

use crate::drawing::{Drawing, Frame, HEIGHT, Look, WIDTH, closed, db, sheet};
use std::f64::consts::TAU;

/// A band raised by so many decibels, at x = f / f0: |1 - x² + jxA/Q| / |1 - x² + jx/(AQ)|, A² the gain at f0.
pub fn raised(x: f64, by_db: f64, q: f64) -> f64 {
    let a = 10f64.powf(by_db / 40.0);
    (1.0 - x * x).hypot(x * a / q) / (1.0 - x * x).hypot(x / (a * q))
}

/// Resistance of a coil that warms with what it takes, against the cold one: r = 1 + k v² / r, k what the heat adds at v = 1.
pub fn warmed(v: f64, k: f64) -> f64 {
    0.5 * (1.0 + (1.0 + 4.0 * k * v * v).sqrt())
}

/// Stroke of a closed box with a band raised by 6 dB and without.
pub fn boost() -> Drawing {
    let mut on = sheet(
        "Cone stroke against frequency in a closed box: where a band is raised by six decibels the cone moves twice as far.",
    );
    let frame = Frame { from: 0.2, to: 5.0, low: 0.0, high: 2.4 };
    frame.axes(&mut on, "frequency");
    let stroke = |x: f64| closed(x, 0.707) / (x * x);
    frame.curve(&mut on, Look::Soft, stroke);
    frame.curve(&mut on, Look::Cone, |x| stroke(x) * raised(x / 0.7, 6.0, 2.0));
    on.say(frame.x(0.85), frame.y(1.5), "start", "with six decibels more");
    on.say(frame.x(0.3), frame.y(0.5), "middle", "without");
    on
}

/// A Butterworth low-pass of the second and of the fourth order.
pub fn low_pass() -> Drawing {
    let mut on = sheet(
        "Level against frequency: above its corner a filter of the second order falls by twelve decibels an octave, one of the fourth by twenty-four.",
    );
    let frame = Frame { from: 0.2, to: 5.0, low: -36.0, high: 4.0 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Air, |x| -10.0 * (1.0 + x.powi(4)).log10());
    frame.curve(&mut on, Look::Cone, |x| -10.0 * (1.0 + x.powi(8)).log10());
    on.say(frame.x(2.3), frame.y(-10.0), "start", "12 dB/oct");
    on.say(frame.x(1.75), frame.y(-26.0), "end", "24 dB/oct");
    on
}

/// |R + jwL| against R, x = wL / R: a coil's impedance above its resonance.
pub fn coil(x: f64) -> f64 {
    1f64.hypot(x)
}

/// A coil's impedance, bare and with the resistor and capacitor that answer it: R and C = L / R² make R of both.
pub fn zobel() -> Drawing {
    let mut on = sheet(
        "Impedance against frequency: the coil's own rises, with a resistor and a capacitor across it the whole stays level.",
    );
    let frame = Frame { from: 0.1, to: 4.0, low: 0.0, high: 4.2 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Cone, coil);
    frame.curve(&mut on, Look::Air, |_| 1.0);
    on.say(frame.x(1.6), frame.y(2.9), "end", "coil alone").say(frame.x(3.6), frame.y(0.45), "end", "with Zobel");
    on
}

/// Impedance of a coil that rises above its resonance.
pub fn inductance() -> Drawing {
    let mut on = sheet(
        "Impedance against frequency: with more inductance it begins to rise sooner, so that the highs of the woofer fall.",
    );
    let frame = Frame { from: 0.05, to: 4.0, low: 0.0, high: 4.2 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Soft, |x| coil(x / 3.0));
    frame.curve(&mut on, Look::Cone, coil);
    on.say(frame.x(1.6), frame.y(2.9), "end", "much").say(frame.x(3.9), frame.y(1.9) + 4.0, "end", "little");
    on
}

/// What a warm coil gives for what it is sent.
pub fn power_compression() -> Drawing {
    let mut on = sheet(
        "Level against voltage: a coil that stayed cold would follow in a straight line, a warm one falls behind it.",
    );
    let frame = Frame { from: 0.1, to: 4.0, low: -20.0, high: 13.0 };
    frame.axes(&mut on, "voltage");
    frame.curve(&mut on, Look::Soft, db);
    frame.curve(&mut on, Look::Cone, |v| db(v / warmed(v, 0.35)));
    on.say(frame.x(1.6), frame.y(8.0), "end", "cold").say(frame.x(2.4), frame.y(-5.0), "start", "warm");
    on
}

/// A closed box made to act as a deeper one.
pub fn linkwitz() -> Drawing {
    let mut on = sheet(
        "Level against frequency: what the box does, what it is made to do, and the filter between them, which rises to the low end.",
    );
    let frame = Frame { from: 0.2, to: 5.0, low: -26.0, high: 12.0 };
    frame.axes(&mut on, "frequency");
    let (has, wanted) = (|x: f64| closed(x, 1.1), |x: f64| closed(x / 0.55, 0.707));
    frame.curve(&mut on, Look::Soft, |x| db(has(x)));
    frame.curve(&mut on, Look::Air, |x| db(wanted(x)));
    frame.curve(&mut on, Look::Cone, |x| db(wanted(x) / has(x)));
    on.say(frame.x(0.24), frame.y(4.0), "start", "filter").say(frame.x(0.66), frame.y(-16.0), "start", "box");
    on.say(frame.x(0.205), frame.y(-22.0), "start", "made").say(frame.x(5.0), frame.y(0.0) + 12.0, "end", "both");
    on
}

/// Peaks and mean of a programme.
pub fn crest() -> Drawing {
    let mut on = sheet(
        "A wave that swells and fades, with lines at its peak and at its mean: between them lies the crest factor.",
    );
    let wave = |t: f64| (0.25 + 0.75 * (2.0 * TAU * t).sin().max(0.0).powi(3)) * (26.0 * TAU * t).sin();
    let many = 400;
    let mean = ((0..many).map(|i| wave(f64::from(i) / f64::from(many)).powi(2)).sum::<f64>() / f64::from(many)).sqrt();
    on.through(Look::Air, 480, |t| (8.0 + 170.0 * t, 44.0 - 34.0 * wave(t)));
    for (up, words) in [(1.0, "peak"), (mean, "mean")] {
        let y = 44.0 - 34.0 * up;
        on.line(Look::Soft, format!("M8 {y:.1}H196"));
        on.say(200.0, y + 3.0, "start", words);
    }
    on
}

/// Two cabinets that move together and against each other.
pub fn polarity() -> Drawing {
    let mut on = sheet(
        "Two cabinets whose cones move out together and add, and two of which one moves in while the other moves out, which cancel.",
    );
    for (left, by, words) in [(14.0, 18.0, "alike: add"), (136.0, -18.0, "opposite: cancel")] {
        for (top, way) in [(6.0, 18.0), (42.0, by)] {
            on.line(Look::Ink, format!("M{:.1} {top}H{left}v28h34", left + 34.0));
            on.line(Look::Cone, format!("M{:.1} {top}l-9 9v10l9 9", left + 34.0));
            let from = left + 38.0 + if way < 0.0 { 18.0 } else { 0.0 };
            on.arrow(Look::Cone, from, top + 14.0, way);
        }
        on.say(left + 38.0, HEIGHT - 6.0, "middle", words);
    }
    on
}

/// A wave whose tops are cut off.
pub fn clipping() -> Drawing {
    let mut on = sheet("A wave that asks for more than the amplifier has: above that voltage its tops are cut flat.");
    let most = 0.62;
    for (look, held) in [(Look::Soft, 1.0), (Look::Cone, most)] {
        on.through(look, 120, |t| {
            let wave = (1.5 * TAU * t).sin().clamp(-held, held);
            (12.0 + (WIDTH - 24.0) * t, 44.0 - 34.0 * wave)
        });
    }
    for side in [1.0, -1.0] {
        on.line(Look::Ink, format!("M8 {:.1}H{}", 44.0 - 34.0 * most * side, WIDTH - 8.0));
    }
    on.say(0.5 * WIDTH, 44.0 - 34.0 * most - 4.0, "middle", "all it has");
    on
}
