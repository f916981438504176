//! What stands on a page, mm from its upper left corner.

use crate::setting::Line;
use oak_drum_cabinet::board::P2;

/// How a line is drawn.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Dash {
    /// Without a gap.
    Solid,
    /// What lies behind.
    Dashes,
    /// A centre line.
    Centre,
}

/// How a way is drawn and filled.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Pen {
    /// Width of the line, points; nothing is drawn where it is 0.
    pub width: f32,
    /// How dark it is: 0 black, 255 white.
    pub ink: u8,
    /// Its dashes.
    pub dash: Dash,
    /// What it is filled with: 0 black, 255 white.
    pub fill: Option<u8>,
}

impl Pen {
    /// A line of a width.
    pub fn of(width: f32) -> Pen {
        Pen { width, ink: 0, dash: Dash::Solid, fill: None }
    }
}

/// A way of lines and arcs.
#[derive(Clone, Debug, PartialEq)]
pub enum Way {
    /// From point to point; closed or open.
    Lines(Vec<P2>, bool),
    /// A circle.
    Circle(P2, f64),
}

/// Something on a page.
#[derive(Clone, Debug, PartialEq)]
pub enum Mark {
    /// A line of words, by the left end of its foot.
    Words(Line, P2),
    /// Lines.
    Way(Way, Pen),
    /// A picture: which, its upper left corner, its size.
    Picture(usize, P2, P2),
    /// What follows is seen only within a rectangle.
    Within(P2, P2),
    /// The rectangle holds no longer.
    Everywhere,
    /// A rectangle that leads to a part: which, its upper left corner, its size.
    Link(usize, P2, P2),
}

/// A page.
pub type Page = Vec<Mark>;

/// A part as the contents tell it.
#[derive(Clone, Debug, PartialEq)]
pub struct Part {
    /// Its title.
    pub title: String,
    /// The page it begins on, from 0.
    pub page: usize,
    /// How far down, mm.
    pub down: f64,
}

/// All of it.
#[derive(Debug, Default)]
pub struct Laid {
    /// The pages.
    pub pages: Vec<Page>,
    /// The parts.
    pub parts: Vec<Part>,
    /// The pictures, JPEG.
    pub pictures: Vec<Vec<u8>>,
}
