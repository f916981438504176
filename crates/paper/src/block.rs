//! What is printed, block by block, and on what.

use oak_drum_cabinet::board::P2;
use oak_drum_cabinet::drawing::Drawing;
use oak_drum_text::Text;

/// Margin of a page, mm.
pub const MARGIN: f64 = 12.0;
/// How much neighbouring tiles of a real-size drawing share, mm.
pub const OVERLAP: f64 = 10.0;

/// Paper.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Paper {
    /// 210 x 297 mm (ISO 216).
    A4,
    /// 8 1/2 x 11 in (ANSI/ASME Y14.1, size A).
    Letter,
}

impl Paper {
    /// Width and height, mm.
    pub fn size(self) -> P2 {
        match self {
            Paper::A4 => [210.0, 297.0],
            Paper::Letter => [215.9, 279.4],
        }
    }
}

/// A photo.
#[derive(Clone, Debug, PartialEq)]
pub struct Photo {
    /// The picture, JPEG.
    pub jpeg: Vec<u8>,
    /// Width, pixels.
    pub width: u32,
    /// Height, pixels.
    pub height: u32,
}

/// A paragraph, a table, a drawing.
#[derive(Clone, Debug, PartialEq)]
pub enum Block {
    /// The title of a booklet, and what stands under it.
    Cover {
        /// The title.
        title: Text,
        /// What stands under it.
        under: Text,
    },
    /// The parts with their pages. Stands once at most.
    Contents,
    /// A part begins: a large heading that stands in the contents.
    Part(Text),
    /// A heading.
    Heading(Text),
    /// A paragraph.
    Words(Text),
    /// A caution, set off by a bar.
    Caution(Text),
    /// A step with a box to tick.
    Step {
        /// Its number and title.
        title: Text,
        /// What to do.
        text: Text,
        /// The caution that belongs to it.
        caution: Option<Text>,
        /// Whether it is done.
        done: bool,
        /// What was noted.
        note: String,
    },
    /// Rows of a table, the first its head; widths in parts of the page.
    Table {
        /// Widths in parts.
        widths: Vec<f64>,
        /// Rows.
        rows: Vec<Vec<Text>>,
    },
    /// A drawing, as large as the page allows, with its title.
    Picture(Drawing),
    /// A drawing no larger than it is and than a good third of a page, among the words.
    Plot(Drawing),
    /// A drawing at its real size, on as many pages as it takes.
    RealSize(Drawing),
    /// Photos side by side.
    Photos(Vec<Photo>),
    /// A new page.
    Break,
}
