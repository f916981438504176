//! A drawing on a page.

use crate::marks::{Dash, Mark, Pen, Way};
use crate::setting::Setter;
use oak_drum_cabinet::board::P2;
use oak_drum_cabinet::drawing::{Anchor, Drawing, Item, Layer};

/// Grey of what is cut through.
const SECTION: u8 = 209;
/// Grey of lines a plot is read by.
const GRID: u8 = 190;
/// Letters no smaller than this, mm.
const LEAST: f64 = 1.8;

/// A drawing whose quantities are said, its zero at a place of the page (mm from its upper left corner), at a scale.
pub fn marks(drawing: &Drawing, setter: &mut Setter, zero: P2, scale: f64) -> Vec<Mark> {
    let at = |p: P2| [zero[0] + p[0] * scale, zero[1] - p[1] * scale];
    let all = |points: &[P2]| points.iter().map(|p| at(*p)).collect::<Vec<_>>();
    let draw = |(layer, item): &(Layer, Item)| {
        let strong = matches!(layer, Layer::Outline | Layer::Section | Layer::Cut | Layer::Wrong);
        let dash = match layer {
            Layer::Hidden => Dash::Dashes,
            Layer::Centre => Dash::Centre,
            _ => Dash::Solid,
        };
        let ink = if *layer == Layer::Grid { GRID } else { 0 };
        let pen = Pen { width: if strong { 0.8 } else { 0.35 }, ink, dash, fill: None };
        match item {
            Item::Line(a, b) => Mark::Way(Way::Lines(vec![at(*a), at(*b)], false), pen),
            Item::Ring(points, filled) => {
                let fill = if *layer == Layer::Section { Some(SECTION) } else { filled.then_some(255) };
                Mark::Way(Way::Lines(all(points), true), Pen { fill, ..pen })
            }
            Item::Run(points) => Mark::Way(Way::Lines(all(points), false), pen),
            Item::Circle(c, r) => Mark::Way(Way::Circle(at(*c), r * scale), pen),
            Item::Text(p, words, size, anchor) => {
                let line = setter.line(words, (size * scale).max(LEAST), false);
                let [x, y] = at(*p);
                let x = match anchor {
                    Anchor::Start => x,
                    Anchor::Middle => x - line.width / 2.0,
                    Anchor::End => x - line.width,
                };
                Mark::Words(line, [x, y])
            }
        }
    };
    drawing.items.iter().map(draw).collect()
}
