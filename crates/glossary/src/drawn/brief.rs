//! What is wanted. x = f / fc of a closed box.

use crate::drawing::{Drawing, Frame, HEIGHT, Look, closed, db, sheet};

/// Where the level has fallen by three decibels.
pub fn f3() -> Drawing {
    let mut on = sheet("Level against frequency: where it has fallen three decibels under the reference lies f3.");
    let frame = Frame { from: 0.3, to: 6.0, low: -18.0, high: 4.0 };
    frame.axes(&mut on, "frequency");
    frame.curve(&mut on, Look::Air, |x| db(closed(x, 0.5f64.sqrt())));
    // a maximally flat box falls three decibels at its resonance
    let (x, y) = (frame.x(1.0), frame.y(-3.0));
    on.line(Look::Soft, format!("M{x:.1} {y:.1}H{:.1}", frame.x(6.0)));
    on.line(Look::Soft, format!("M{:.1} {:.1}H{:.1}", frame.x(2.6), frame.y(0.0), frame.x(6.0)));
    frame.mark(&mut on, 1.0, -3.0, "f3");
    on.say(frame.x(6.0), y + 11.0, "end", "3 dB lower");
    on
}

/// How much each wall beside a cabinet adds to the low notes.
pub fn solid_angle() -> Drawing {
    let mut on = sheet(
        "A cabinet in the open, before one wall, in an edge and in a corner: each surface adds up to six decibels at low notes.",
    );
    for (i, words) in ["open", "floor, +6 dB", "edge, +12", "corner, +18"].into_iter().enumerate() {
        let left = 8.0 + 58.0 * i as f64;
        let (x, y) = (left + 22.0, 46.0);
        on.line(Look::Cone, format!("M{:.1} {y}h14v14h-14z", x - 7.0));
        if i > 0 {
            on.line(Look::Ink, format!("M{:.1} {:.1}h44", left, y + 15.0));
        }
        if i > 1 {
            on.line(Look::Ink, format!("M{:.1} {:.1}v-54", x + 9.0, y + 15.0));
        }
        if i > 2 {
            on.line(Look::Ink, format!("M{:.1} {:.1}l-30 16", x + 9.0, y + 15.0));
        }
        // as much of a round as is open
        let (from, to) = match i {
            0 => (0.0, 360.0),
            1 => (180.0, 360.0),
            _ => (180.0, 270.0),
        };
        for r in [18.0, 26.0] {
            let middle = if i == 0 { y + 7.0 } else { y + 12.0 };
            on.through(Look::Air, 24, |t| {
                let angle = f64::to_radians(from + (to - from) * t);
                (x + r * angle.cos(), middle + r * angle.sin())
            });
        }
        on.say(left + 22.0, HEIGHT - 4.0, "middle", words);
    }
    on
}
