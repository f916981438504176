//! Pages: drawings at a scale or at their real size in tiles, and words, as PDF.
//!
//! The words are in Helvetica, one of the typefaces every reader has; letters outside Latin-1 are written as question marks.

use super::{Anchor, Drawing, Item, Layer, text_width};
use crate::board::P2;
use oak_drum_text::{System, Text, mm, said};
use pdf_writer::{Content, Finish, Name, Pdf, Rect, Ref, Str, TextStr};

/// Points in a millimetre.
const PT: f64 = 72.0 / 25.4;
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

/// A paragraph or a line of a table.
#[derive(Clone, Debug, PartialEq)]
pub enum Block {
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
    /// A drawing at its real size, on as many pages as it takes.
    RealSize(Drawing),
    /// A new page.
    Break,
}

/// Writes blocks one after another, their quantities said in a system.
pub fn write(title: &str, paper: Paper, system: System, blocks: Vec<Block>) -> Vec<u8> {
    let mut pages = Pages { paper, system, pages: Vec::new(), y: 0.0 };
    pages.begin();
    for block in blocks {
        pages.block(block);
    }
    pages.finish(title)
}

struct Pages {
    paper: Paper,
    system: System,
    pages: Vec<Content>,
    /// Where the next line goes, mm from the bottom.
    y: f64,
}

impl Pages {
    fn width(&self) -> f64 {
        self.paper.size()[0] - 2.0 * MARGIN
    }
    fn height(&self) -> f64 {
        self.paper.size()[1] - 2.0 * MARGIN
    }
    fn begin(&mut self) {
        self.pages.push(Content::new());
        self.y = self.paper.size()[1] - MARGIN;
    }
    /// A page on which nothing is written yet.
    fn fresh(&mut self) {
        if (self.y - (self.paper.size()[1] - MARGIN)).abs() > 1e-9 {
            self.begin();
        }
    }
    fn content(&mut self) -> &mut Content {
        let last = self.pages.len() - 1;
        &mut self.pages[last]
    }
    /// Room for so much, on a new page if need be.
    fn room(&mut self, high: f64) {
        if self.y - high < MARGIN + 6.0 {
            self.begin();
        }
    }
    fn text(&mut self, at: P2, size: f64, bold: bool, words: &str) {
        let bytes = latin(words);
        let content = self.content();
        content.begin_text();
        content.set_font(Name(if bold { b"B" } else { b"F" }), (size * PT) as f32);
        content.next_line((at[0] * PT) as f32, (at[1] * PT) as f32);
        content.show(Str(&bytes));
        content.end_text();
    }
    fn paragraph(&mut self, words: &str, size: f64, left: f64, bold: bool) {
        // Helvetica-Bold runs up to a twelfth wider than Helvetica (Adobe's font metrics)
        let wide = if bold { size * 13.0 / 12.0 } else { size };
        for line in wrap(words, wide, self.width() - left) {
            self.room(size * 1.35);
            self.y -= size * 1.35;
            let y = self.y;
            self.text([MARGIN + left, y], size, bold, &line);
        }
    }

    fn block(&mut self, block: Block) {
        let system = self.system;
        match block {
            Block::Break => self.fresh(),
            Block::Heading(words) => {
                self.room(16.0);
                self.y -= 3.0;
                self.paragraph(&words.said(system), 5.0, 0.0, true);
                self.y -= 1.5;
            }
            Block::Words(words) => {
                self.paragraph(&words.said(system), 3.4, 0.0, false);
                self.y -= 1.5;
            }
            Block::Caution(words) => self.caution(&words.said(system), 0.0),
            Block::Step { title, text, caution, done, note } => {
                let (title, text) = (title.said(system), text.said(system));
                let caution = caution.map(|c| c.said(system));
                // a step stays on one page with its caution, unless it is longer than a page
                let lines = |words: &str, size: f64, left: f64| wrap(words, size, self.width() - left).len() as f64;
                let warned = caution.as_ref().map_or(0.0, |c| lines(c, 3.2 * 13.0 / 12.0, 13.0) * 4.4 + 2.0);
                let high = 10.0 + lines(&text, 3.4, 9.0) * 4.6 + warned;
                self.room(high.min(self.height() / 2.0));
                self.y -= 2.0;
                let top = self.y;
                self.paragraph(&title, 3.8, 9.0, true);
                let (x, y, s) = (MARGIN * PT, (top - 5.2) * PT, 4.2 * PT);
                let content = self.content();
                content.set_line_width(0.8);
                content.rect(x as f32, y as f32, s as f32, s as f32);
                if done {
                    content.move_to((x + 0.2 * s) as f32, (y + 0.5 * s) as f32);
                    content.line_to((x + 0.45 * s) as f32, (y + 0.2 * s) as f32);
                    content.line_to((x + 0.85 * s) as f32, (y + 0.85 * s) as f32);
                }
                content.stroke();
                self.paragraph(&text, 3.4, 9.0, false);
                if let Some(caution) = caution {
                    self.caution(&caution, 9.0);
                }
                if !note.is_empty() {
                    self.paragraph(&format!("Noted: {note}"), 3.2, 9.0, false);
                }
                self.y -= 1.5;
            }
            Block::Table { widths, rows } => {
                let whole: f64 = widths.iter().sum();
                for (i, row) in rows.iter().enumerate() {
                    let size = 3.0;
                    let cells: Vec<Vec<String>> = row
                        .iter()
                        .zip(&widths)
                        .map(|(cell, part)| wrap(&cell.said(system), size, self.width() * part / whole - 2.0))
                        .collect();
                    let lines = cells.iter().map(Vec::len).max().unwrap_or(1) as f64;
                    self.room(lines * size * 1.35 + 1.5);
                    let top = self.y;
                    let mut x = MARGIN;
                    for (cell, part) in cells.iter().zip(&widths) {
                        for (k, line) in cell.iter().enumerate() {
                            self.text([x, top - (k as f64 + 1.0) * size * 1.35], size, i == 0, line);
                        }
                        x += self.width() * part / whole;
                    }
                    self.y = top - lines * size * 1.35 - 1.2;
                    let (y, right) = (self.y * PT, (MARGIN + self.width()) * PT);
                    let content = self.content();
                    content.set_line_width(0.3);
                    content.move_to((MARGIN * PT) as f32, y as f32);
                    content.line_to(right as f32, y as f32);
                    content.stroke();
                    self.y -= 0.6;
                }
                self.y -= 3.0;
            }
            Block::Picture(drawing) => self.picture(&drawing.said(system)),
            Block::RealSize(drawing) => self.tiles(&drawing.said(system)),
        }
    }

    fn caution(&mut self, words: &str, left: f64) {
        let lines = wrap(words, 3.2 * 13.0 / 12.0, self.width() - left - 4.0).len() as f64;
        self.room(lines * 4.4 + 2.0);
        let top = self.y - 0.8;
        self.paragraph(words, 3.2, left + 4.0, true);
        let (x, bottom) = ((MARGIN + left + 1.0) * PT, (self.y - 1.2) * PT);
        let content = self.content();
        content.set_line_width(2.4);
        content.move_to(x as f32, (top * PT) as f32);
        content.line_to(x as f32, bottom as f32);
        content.stroke();
        self.y -= 1.5;
    }

    /// As large as goes on what is left of the page, or on a new one where less than half a page is left.
    fn picture(&mut self, drawing: &Drawing) {
        let [low, high] = drawing.extent();
        let (w, h) = (high[0] - low[0], high[1] - low[1]);
        let scale_in = |room: f64| (self.width() / w).min(room / h);
        let left = self.y - MARGIN - 20.0;
        let whole = scale_in(self.height() - 24.0);
        if scale_in(left) < 0.7 * whole || left < 60.0 {
            self.begin();
        }
        self.block(Block::Heading(drawing.title.as_str().into()));
        if !drawing.note.is_empty() {
            self.block(Block::Words(drawing.note.as_str().into()));
        }
        let scale = (self.width() / w).min((self.y - MARGIN - 8.0) / h);
        let top = self.y - 2.0;
        let origin = [MARGIN - low[0] * scale, top - high[1] * scale];
        self.draw(drawing, origin, scale);
        self.y = top - h * scale - 4.0;
    }

    fn tiles(&mut self, drawing: &Drawing) {
        let [low, high] = drawing.extent();
        let (w, h) = (high[0] - low[0], high[1] - low[1]);
        // a line of words at the foot of every tile
        let (tile_w, tile_h) = (self.width(), self.height() - 8.0);
        let count = |whole: f64, tile: f64| (((whole - OVERLAP) / (tile - OVERLAP)).ceil()).max(1.0) as usize;
        let (columns, rows) = (count(w, tile_w), count(h, tile_h));
        for row in 0..rows {
            for column in 0..columns {
                self.fresh();
                self.y = 0.0;
                let left = low[0] + column as f64 * (tile_w - OVERLAP);
                let bottom = high[1] - row as f64 * (tile_h - OVERLAP) - tile_h;
                let origin = [MARGIN - left, MARGIN + 8.0 - bottom];
                let content = self.content();
                content.save_state();
                content.rect(
                    (MARGIN * PT) as f32,
                    ((MARGIN + 8.0) * PT) as f32,
                    (tile_w * PT) as f32,
                    (tile_h * PT) as f32,
                );
                content.clip_nonzero();
                content.end_path();
                self.draw(drawing, origin, 1.0);
                self.content().restore_state();
                let content = self.content();
                content.set_line_width(0.3);
                content.rect(
                    (MARGIN * PT) as f32,
                    ((MARGIN + 8.0) * PT) as f32,
                    (tile_w * PT) as f32,
                    (tile_h * PT) as f32,
                );
                content.stroke();
                let part = if columns * rows > 1 {
                    format!(
                        ", tile {} of {} across, {} of {} down; tiles overlap by {}",
                        column + 1,
                        columns,
                        row + 1,
                        rows,
                        said(&mm(OVERLAP).to_string(), self.system)
                    )
                } else {
                    String::new()
                };
                let words = format!("{}, 1 : 1{part}. Print at 100 %, measure the ruler.", drawing.title);
                self.text([MARGIN, MARGIN + 2.0], 3.0, false, &words);
            }
        }
        self.y = 0.0;
    }

    fn draw(&mut self, drawing: &Drawing, origin: P2, scale: f64) {
        let at = |p: P2| (((origin[0] + p[0] * scale) * PT) as f32, ((origin[1] + p[1] * scale) * PT) as f32);
        for (layer, item) in &drawing.items {
            let content = self.content();
            content.set_line_width(match layer {
                Layer::Outline | Layer::Section | Layer::Cut | Layer::Wrong => 0.8,
                _ => 0.35,
            });
            match layer {
                Layer::Hidden => content.set_dash_pattern([3.0, 2.0], 0.0),
                Layer::Centre => content.set_dash_pattern([7.0, 2.0, 1.5, 2.0], 0.0),
                _ => content.set_dash_pattern([], 0.0),
            };
            match item {
                Item::Line(a, b) => {
                    let ((x1, y1), (x2, y2)) = (at(*a), at(*b));
                    content.move_to(x1, y1);
                    content.line_to(x2, y2);
                    content.stroke();
                }
                Item::Ring(points, filled) => {
                    follow(content, points.iter().map(|p| at(*p)));
                    content.close_path();
                    if *layer == Layer::Section {
                        content.set_fill_gray(0.82);
                        content.fill_nonzero_and_stroke();
                    } else if *filled {
                        content.set_fill_gray(1.0);
                        content.fill_nonzero_and_stroke();
                    } else {
                        content.stroke();
                    }
                    content.set_fill_gray(0.0);
                }
                Item::Run(points) => {
                    follow(content, points.iter().map(|p| at(*p)));
                    content.stroke();
                }
                Item::Circle(c, r) => {
                    // four cubic arcs (handles at 0.5523 radii: within 0.03 % of the radius)
                    let k = 0.552_284_75 * r;
                    let p = |dx: f64, dy: f64| at([c[0] + dx, c[1] + dy]);
                    let (sx, sy) = p(*r, 0.0);
                    content.move_to(sx, sy);
                    for (a, b, e) in [
                        (p(*r, k), p(k, *r), p(0.0, *r)),
                        (p(-k, *r), p(-r, k), p(-r, 0.0)),
                        (p(-r, -k), p(-k, -r), p(0.0, -r)),
                        (p(k, -r), p(*r, -k), p(*r, 0.0)),
                    ] {
                        content.cubic_to(a.0, a.1, b.0, b.1, e.0, e.1);
                    }
                    content.close_path();
                    content.stroke();
                }
                Item::Text(p, words, size, anchor) => {
                    let size = (size * scale).max(1.8);
                    let wide = text_width(words) * size;
                    let shift = match anchor {
                        Anchor::Start => 0.0,
                        Anchor::Middle => -wide / 2.0,
                        Anchor::End => -wide,
                    };
                    let place = [origin[0] + p[0] * scale + shift, origin[1] + p[1] * scale];
                    self.text(place, size, false, words);
                }
            }
        }
        self.content().set_dash_pattern([], 0.0);
    }

    fn finish(self, title: &str) -> Vec<u8> {
        let mut pdf = Pdf::new();
        let (catalog, tree, plain, bold, info) = (Ref::new(1), Ref::new(2), Ref::new(3), Ref::new(4), Ref::new(5));
        let id = |i: usize| (Ref::new(10 + 2 * i as i32), Ref::new(11 + 2 * i as i32));
        pdf.catalog(catalog).pages(tree);
        pdf.document_info(info).title(TextStr(title));
        let count = self.pages.len();
        pdf.pages(tree).kids((0..count).map(|i| id(i).0)).count(count as i32);
        let [w, h] = self.paper.size();
        for (i, mut content) in self.pages.into_iter().enumerate() {
            let (page_id, content_id) = id(i);
            let number = format!("{} / {count}", i + 1);
            content.begin_text();
            content.set_font(Name(b"F"), (2.8 * PT) as f32);
            content.next_line(((w - MARGIN - 12.0) * PT) as f32, (5.0 * PT) as f32);
            content.show(Str(number.as_bytes()));
            content.end_text();
            let mut page = pdf.page(page_id);
            page.media_box(Rect::new(0.0, 0.0, (w * PT) as f32, (h * PT) as f32));
            page.parent(tree);
            page.contents(content_id);
            page.resources().fonts().pair(Name(b"F"), plain).pair(Name(b"B"), bold);
            page.finish();
            pdf.stream(content_id, &content.finish());
        }
        pdf.type1_font(plain).base_font(Name(b"Helvetica")).encoding_predefined(Name(b"WinAnsiEncoding"));
        pdf.type1_font(bold).base_font(Name(b"Helvetica-Bold")).encoding_predefined(Name(b"WinAnsiEncoding"));
        pdf.finish()
    }
}

/// A run of lines, begun but not yet drawn.
fn follow(content: &mut Content, points: impl Iterator<Item = (f32, f32)>) {
    for (i, (x, y)) in points.enumerate() {
        if i == 0 {
            content.move_to(x, y);
        } else {
            content.line_to(x, y);
        }
    }
}

/// Latin-1 bytes of a text.
fn latin(words: &str) -> Vec<u8> {
    words
        .chars()
        .map(|c| match c {
            '\u{2212}' | '\u{2013}' => b'-',
            '\u{d7}' => 0xd7,
            c if (c as u32) < 256 => c as u32 as u8,
            _ => b'?',
        })
        .collect()
}

/// Lines no wider than so much (mm) at a size.
fn wrap(words: &str, size: f64, wide: f64) -> Vec<String> {
    let mut lines = Vec::new();
    for paragraph in words.lines() {
        let mut line = String::new();
        for word in paragraph.split_whitespace() {
            let longer = if line.is_empty() { word.to_owned() } else { format!("{line} {word}") };
            if text_width(&longer) * size <= wide || line.is_empty() {
                line = longer;
            } else {
                lines.push(std::mem::replace(&mut line, word.to_owned()));
            }
        }
        lines.push(line);
    }
    if lines.is_empty() {
        lines.push(String::new());
    }
    lines
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn lines_are_as_wide_as_allowed() {
        let lines = wrap("one two three four five six seven eight nine ten", 3.4, 30.0);
        assert!(lines.len() > 2);
        assert!(lines.iter().all(|l| text_width(l) * 3.4 <= 30.0));
        assert_eq!(wrap("", 3.0, 10.0), [""]);
    }
}
