//! Boxes and ports. x = f / fc of a closed box.

use crate::drawing::{Drawing, Frame, Look, sheet};

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
