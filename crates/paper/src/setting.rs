//! Words set in lines: shaped, broken, ordered where they run from the right, in another typeface where one has no letter.

use crate::fonts::{self, FAMILY};
use cosmic_text::fontdb::ID;
use cosmic_text::{Attrs, Buffer, Family, FontSystem, Metrics, Shaping, Weight, Wrap};
use std::ops::Range;
use std::sync::Arc;

/// Points in a millimetre.
pub const PT: f64 = 72.0 / 25.4;

/// A letter's shape at its place.
#[derive(Clone, Debug, PartialEq)]
pub struct Placed {
    /// Which shape of its typeface.
    pub glyph: u16,
    /// How far the next one is, in heights of the letters.
    pub advance: f32,
    /// How far it is moved aside and up, in heights of the letters.
    pub moved: [f32; 2],
    /// The letters it stands for, in the bytes of the line's words.
    pub letters: Range<usize>,
}

/// Shapes of one typeface, side by side.
#[derive(Clone, Debug, PartialEq)]
pub struct Run {
    /// The typeface.
    pub font: ID,
    /// Where it begins, mm from the line's left end.
    pub left: f64,
    /// The shapes.
    pub placed: Vec<Placed>,
}

/// A line.
#[derive(Clone, Debug, PartialEq)]
pub struct Line {
    /// The words it is a part of.
    pub words: Arc<str>,
    /// Its runs from left to right.
    pub runs: Vec<Run>,
    /// Width, mm.
    pub width: f64,
    /// Height of its letters, mm.
    pub size: f64,
    /// Whether it is of words that run from the right.
    pub from_right: bool,
}

/// Sets words.
pub struct Setter {
    fonts: FontSystem,
    buffer: Buffer,
}

impl Default for Setter {
    fn default() -> Setter {
        Setter::new()
    }
}

impl Setter {
    /// One in the program's own typefaces.
    pub fn new() -> Setter {
        let fonts = fonts::system();
        let mut buffer = Buffer::new_empty(Metrics::new(10.0, 13.5));
        buffer.set_wrap(Wrap::WordOrGlyph);
        Setter { fonts, buffer }
    }

    /// Words in lines no wider than so much (mm) at a size (mm), at least one line.
    pub fn lines(&mut self, words: &str, size: f64, bold: bool, wide: f64) -> Vec<Line> {
        let height = (size * PT) as f32;
        self.buffer.set_metrics(Metrics::new(height, height * 1.35));
        self.buffer.set_size(wide.is_finite().then_some((wide * PT) as f32), None);
        let weight = if bold { Weight::BOLD } else { Weight::NORMAL };
        let attrs = Attrs::new().family(Family::Name(FAMILY)).weight(weight);
        self.buffer.set_text(words, &attrs, Shaping::Advanced, None);
        self.buffer.shape_until_scroll(&mut self.fonts, false);
        let mut lines = Vec::new();
        let mut paragraph: Option<(usize, Arc<str>)> = None;
        for run in self.buffer.layout_runs() {
            let words = match &paragraph {
                Some((i, words)) if *i == run.line_i => words.clone(),
                _ => Arc::from(run.text),
            };
            paragraph = Some((run.line_i, words.clone()));
            // where the library sets words that run from the right at the right end of the room, they begin at its left here
            // spaces at either end take no room
            let inked = || run.glyphs.iter().filter(|g| !words[g.start..g.end].trim().is_empty());
            let left = inked().map(|g| g.x).fold(f32::INFINITY, f32::min);
            let right = inked().map(|g| g.x + g.w).fold(0.0, f32::max);
            let left = if left.is_finite() { left } else { right };
            let mut runs: Vec<Run> = Vec::new();
            for g in run.glyphs {
                let placed = Placed {
                    glyph: g.glyph_id,
                    advance: g.w / height,
                    moved: [g.x_offset, g.y_offset],
                    letters: g.start..g.end,
                };
                match runs.last_mut() {
                    Some(last) if last.font == g.font_id => last.placed.push(placed),
                    _ => runs.push(Run { font: g.font_id, left: f64::from(g.x - left) / PT, placed: vec![placed] }),
                }
            }
            lines.push(Line { words, runs, width: f64::from(right - left) / PT, size, from_right: run.rtl });
        }
        if lines.is_empty() {
            lines.push(Line { words: Arc::from(""), runs: Vec::new(), width: 0.0, size, from_right: false });
        }
        lines
    }

    /// Words in one line, however long.
    pub fn line(&mut self, words: &str, size: f64, bold: bool) -> Line {
        let flat = words.replace(['\n', '\r'], " ");
        self.lines(&flat, size, bold, f64::INFINITY).remove(0)
    }

    /// The bytes of a typeface and which face of them it is.
    pub(crate) fn face(&self, font: ID) -> Option<(Vec<u8>, u32)> {
        self.fonts.db().with_face_data(font, |bytes, index| (bytes.to_vec(), index))
    }
}
