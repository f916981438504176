//! Drawings: lines, rings, circles, words and dimensions on layers, in millimetres at their real size, y upward; and writers
//! that turn them into SVG and DXF.

pub mod dxf;
pub mod exploded;
pub mod svg;
pub mod template;
pub mod views;

use crate::board::P2;
use oak_drum_text::{System, said, size};

/// What a line is for.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Layer {
    /// What is seen.
    Outline,
    /// What is cut through, hatched or filled.
    Section,
    /// What lies behind.
    Hidden,
    /// What is cut out.
    Cut,
    /// Centre marks and lines.
    Centre,
    /// Screws and their circle.
    Screws,
    /// Dimensions.
    Dimension,
    /// Words.
    Text,
    /// What is wrong, drawn in place.
    Wrong,
    /// Lines a plot is read by.
    Grid,
}

/// Every layer, with its name in files.
pub const LAYERS: &[(Layer, &str)] = &[
    (Layer::Outline, "OUTLINE"),
    (Layer::Section, "SECTION"),
    (Layer::Hidden, "HIDDEN"),
    (Layer::Cut, "CUT"),
    (Layer::Centre, "CENTRE"),
    (Layer::Screws, "SCREWS"),
    (Layer::Dimension, "DIMENSION"),
    (Layer::Text, "TEXT"),
    (Layer::Wrong, "WRONG"),
    (Layer::Grid, "GRID"),
];

impl Layer {
    /// Its name in files.
    pub fn name(self) -> &'static str {
        LAYERS.iter().find(|l| l.0 == self).map_or("OUTLINE", |l| l.1)
    }
}

/// Where a word hangs on its place.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Anchor {
    /// Begins there.
    Start,
    /// Its middle is there.
    Middle,
    /// Ends there.
    End,
}

/// Something drawn.
#[derive(Clone, Debug, PartialEq)]
pub enum Item {
    /// A line.
    Line(P2, P2),
    /// A closed outline; filled ones hide what was drawn before.
    Ring(Vec<P2>, bool),
    /// An open run of lines.
    Run(Vec<P2>),
    /// A circle by its middle and radius.
    Circle(P2, f64),
    /// A word: where, what, height (mm), how it hangs.
    Text(P2, String, f64, Anchor),
}

/// A drawing.
#[derive(Clone, Debug, PartialEq)]
pub struct Drawing {
    /// What it shows.
    pub title: String,
    /// What to mind, in a sentence; may be empty.
    pub note: String,
    /// What is drawn, first things first.
    pub items: Vec<(Layer, Item)>,
    /// Height of its words, mm at real size.
    pub text: f64,
    /// Whether it is to be printed at its real size only.
    pub real_size: bool,
}

impl Drawing {
    /// An empty drawing whose words are so high (mm).
    pub fn new(title: impl Into<String>, text: f64) -> Drawing {
        Drawing { title: title.into(), note: String::new(), items: Vec::new(), text, real_size: false }
    }

    /// Adds something.
    pub fn add(&mut self, layer: Layer, item: Item) {
        self.items.push((layer, item));
    }

    /// Adds a word.
    pub fn word(&mut self, at: P2, text: impl Into<String>, anchor: Anchor) {
        let size = self.text;
        self.add(Layer::Text, Item::Text(at, text.into(), size, anchor));
    }

    /// A dimension between two points, its line so far off to the left of the way from one to the other (mm), with its
    /// words.
    pub fn dimension(&mut self, a: P2, b: P2, off: f64, words: impl Into<String>) {
        let (dx, dy) = (b[0] - a[0], b[1] - a[1]);
        let long = dx.hypot(dy).max(1e-9);
        let (ux, uy) = (dx / long, dy / long);
        let n = [-uy, ux];
        let at = |p: P2, k: f64| [p[0] + n[0] * k, p[1] + n[1] * k];
        let beyond = off + off.signum() * 0.5 * self.text;
        let gap = off.signum() * 0.35 * self.text;
        self.add(Layer::Dimension, Item::Line(at(a, gap), at(a, beyond)));
        self.add(Layer::Dimension, Item::Line(at(b, gap), at(b, beyond)));
        let (p, q) = (at(a, off), at(b, off));
        self.add(Layer::Dimension, Item::Line(p, q));
        // slanted strokes at both ends, as on a building drawing
        let tick = 0.35 * self.text;
        for end in [p, q] {
            let (sx, sy) = ((ux + n[0]) * tick, (uy + n[1]) * tick);
            self.add(Layer::Dimension, Item::Line([end[0] - sx, end[1] - sy], [end[0] + sx, end[1] + sy]));
        }
        let middle = [(p[0] + q[0]) / 2.0, (p[1] + q[1]) / 2.0];
        // words lie level; beside an upright line they stand next to it
        let steep = uy.abs() > 0.7;
        let (place, anchor) = if steep {
            let right = n[0] * off > 0.0;
            let x = middle[0] + if right { 0.4 } else { -0.4 } * self.text;
            ([x, middle[1] - 0.35 * self.text], if right { Anchor::Start } else { Anchor::End })
        } else {
            ([middle[0], middle[1] + 0.3 * self.text], Anchor::Middle)
        };
        let size = self.text;
        self.add(Layer::Dimension, Item::Text(place, words.into(), size, anchor));
    }

    /// A centre mark: a cross a little larger than a radius.
    pub fn cross(&mut self, at: P2, half: f64) {
        self.add(Layer::Centre, Item::Line([at[0] - half, at[1]], [at[0] + half, at[1]]));
        self.add(Layer::Centre, Item::Line([at[0], at[1] - half], [at[0], at[1] + half]));
    }

    /// What it covers, words estimated: (low, high), mm.
    pub fn extent(&self) -> [P2; 2] {
        let (mut low, mut high) = ([f64::INFINITY; 2], [f64::NEG_INFINITY; 2]);
        let mut take = |p: P2, pad: P2| {
            for k in 0..2 {
                low[k] = low[k].min(p[k] - pad[k]);
                high[k] = high[k].max(p[k] + pad[k]);
            }
        };
        for (_, item) in &self.items {
            match item {
                Item::Line(a, b) => {
                    take(*a, [0.0; 2]);
                    take(*b, [0.0; 2]);
                }
                Item::Ring(points, _) | Item::Run(points) => points.iter().for_each(|p| take(*p, [0.0; 2])),
                Item::Circle(c, r) => take(*c, [*r; 2]),
                Item::Text(at, text, size, anchor) => {
                    let wide = widest(text) * size;
                    let left = match anchor {
                        Anchor::Start => at[0],
                        Anchor::Middle => at[0] - wide / 2.0,
                        Anchor::End => at[0] - wide,
                    };
                    take([left, at[1] - 0.25 * size], [0.0; 2]);
                    take([left + wide, at[1] + 0.8 * size], [0.0; 2]);
                }
            }
        }
        if low[0].is_finite() { [low, high] } else { [[0.0; 2], [1.0; 2]] }
    }

    /// The drawing with its quantities in words.
    pub fn said(mut self, system: System) -> Drawing {
        for (_, item) in &mut self.items {
            if let Item::Text(_, text, ..) = item {
                *text = said(text, system);
            }
        }
        self.title = said(&self.title, system);
        self.note = said(&self.note, system);
        self
    }

    /// The drawing with larger words, for a small place.
    pub fn with_words(mut self, times: f64) -> Drawing {
        self.text *= times;
        for (_, item) in &mut self.items {
            if let Item::Text(_, _, size, _) = item {
                *size *= times;
            }
        }
        self
    }
}

/// Width of a text in the system in which it is wider.
fn widest(text: &str) -> f64 {
    [System::Metric, System::Inch].map(|system| text_width(&said(text, system))).into_iter().fold(0.0, f64::max)
}

/// Width of a text against the height of its letters: that of a plain sans, by groups of letters (an estimate within a few
/// parts in a hundred of Helvetica's, whose metrics are public).
pub fn text_width(text: &str) -> f64 {
    text.chars()
        .map(|c| match c {
            'i' | 'j' | 'l' | '\'' | '|' => 0.222,
            ' ' | '.' | ',' | ':' | ';' | 'I' | '!' | 'f' | 't' | '/' | '\\' => 0.278,
            'r' | '(' | ')' | '-' | '"' => 0.333,
            'm' | 'M' => 0.833,
            'w' | 'C' | 'D' | 'H' | 'N' | 'R' | 'U' => 0.722,
            'A' | 'B' | 'E' | 'K' | 'P' | 'S' | 'V' | 'X' | 'Y' => 0.667,
            'G' | 'O' | 'Q' => 0.778,
            'W' => 0.944,
            'F' | 'T' | 'Z' => 0.611,
            'c' | 'k' | 's' | 'v' | 'x' | 'y' | 'z' | 'J' => 0.5,
            _ => 0.556,
        })
        .sum()
}

/// A tenth of a millimetre is as near as anything is drawn or said.
pub fn tenth(value: f64) -> f64 {
    // a negative zero is a zero
    (value * 10.0).round() / 10.0 + 0.0
}

/// A number of millimetres on a drawing, where the unit goes without saying.
pub fn mm(value: f64) -> String {
    size(tenth(value)).to_string()
}
