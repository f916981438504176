//! Hole templates at their real size: cut-out, frame, screws, centre marks, and a ruler to check the print with.

use super::{Anchor, Drawing, Item, Layer, tenth};
use crate::board::{Hole, Opening};
use oak_drum_text::inches::INCH;
use oak_drum_text::mm;
use std::f64::consts::TAU;

/// A template for a hole.
pub fn template(hole: &Hole, fit: f64) -> Drawing {
    let mut d = Drawing::new(format!("Template, {}", hole.name), 4.5);
    d.real_size = true;
    let larger = if fit > 0.0 { format!("{} larger than", mm(tenth(fit))) } else { "just the size of".into() };
    d.note = format!("The cut is {larger} what goes in. Make a test cut in scrap first.");
    let c = [0.0, 0.0];
    let half = hole.opening.half();
    match hole.opening {
        Opening::Round { diameter_mm } => {
            d.add(Layer::Cut, Item::Circle(c, diameter_mm / 2.0));
            d.word([0.0, 12.0], format!("{}: cut {} across", hole.name, mm(tenth(diameter_mm))), Anchor::Middle);
        }
        other => {
            let ring: Vec<_> = other.corners(c).iter().flatten().map(|[u, v]| [*v, *u]).collect();
            let [h, w] = half.map(|h| 2.0 * h);
            let shape = if ring.len() == 3 { " triangle" } else { "" };
            d.add(Layer::Cut, Item::Ring(ring, false));
            d.word([0.0, 12.0], format!("{}: cut {}{shape}", hole.name, mm([tenth(w), tenth(h)])), Anchor::Middle);
        }
    }
    d.cross(c, 15.0);
    // marks of the axes at the rim, for lining up with lines on the board
    let rim = half[0].max(half[1]) + 14.0;
    for (x, y) in [(1.0, 0.0), (-1.0, 0.0), (0.0, 1.0), (0.0, -1.0)] {
        d.add(Layer::Centre, Item::Line([x * (rim - 26.0), y * (rim - 26.0)], [x * rim, y * rim]));
    }
    if let Some(recess) = hole.recess {
        d.add(Layer::Cut, Item::Circle(c, recess.diameter_mm / 2.0));
        let [across, deep] = [recess.diameter_mm, recess.depth_mm].map(|v| mm(tenth(v)));
        let words = format!("recess first: {across} across, {deep} deep");
        d.word([0.0, 28.0], words, Anchor::Middle);
    } else if let Some(frame) = hole.frame_mm {
        d.add(Layer::Hidden, Item::Circle(c, frame / 2.0));
    }
    if let Some(circle) = hole.screw_circle_mm {
        d.add(Layer::Screws, Item::Circle(c, circle / 2.0));
        for k in 0..hole.screws {
            let angle = (f64::from(k) + 0.5) / f64::from(hole.screws) * TAU;
            let p = [circle / 2.0 * angle.cos(), circle / 2.0 * angle.sin()];
            d.add(Layer::Screws, Item::Circle(p, 1.5));
            d.add(Layer::Screws, Item::Line([p[0] - 4.0, p[1]], [p[0] + 4.0, p[1]]));
            d.add(Layer::Screws, Item::Line([p[0], p[1] - 4.0], [p[0], p[1] + 4.0]));
        }
        d.word(
            [0.0, -12.0],
            format!("{} screws on {}: check with the part", hole.screws, mm(tenth(circle))),
            Anchor::Middle,
        );
    }
    d.word([0.0, 20.0], format!("{larger} what goes in; test cut first"), Anchor::Middle);
    // two lengths to be measured on the print, whichever rule is at hand
    for (y, step, steps, words) in [(-30.0, 10.0, 10, "100 mm"), (-46.0, INCH / 2.0, 8, "4 in")] {
        let x = -step * f64::from(steps) / 2.0;
        d.add(Layer::Dimension, Item::Line([x, y], [-x, y]));
        for k in 0..=steps {
            let high = if k % (steps / 2) == 0 { 3.0 } else { 1.5 };
            let at = x + step * f64::from(k);
            d.add(Layer::Dimension, Item::Line([at, y], [at, y + high]));
        }
        d.word([0.0, y - 6.0], format!("{words}: measure this on the print"), Anchor::Middle);
    }
    d
}
