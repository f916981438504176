//! Blocks laid out on pages, one after another, from the top down.

use crate::block::{Block, MARGIN, OVERLAP, Paper, Photo};
use crate::drawn;
use crate::marks::{Laid, Mark, Part, Pen, Way};
use crate::setting::{Line, Setter};
use oak_drum_cabinet::board::P2;
use oak_drum_cabinet::drawing::Drawing;
use oak_drum_text::{System, mm, said};

/// From the foot of a line to that of the next, in heights of its letters.
const LEADING: f64 = 1.35;
/// How far below its top the foot of a line is, in heights of its letters.
const FOOT: f64 = 1.05;
/// Part of a page that a drawing among the words may take.
const DRAWN_AMONG_WORDS: f64 = 0.36;
/// What is left free at the foot of a page for its number, mm.
const FOOTER: f64 = 6.0;

/// Lays blocks out.
pub fn lay_out(paper: Paper, system: System, setter: &mut Setter, blocks: &[Block]) -> Laid {
    let titles: Vec<String> = blocks
        .iter()
        .filter_map(|b| match b {
            Block::Part(title) => Some(title.said(system)),
            _ => None,
        })
        .collect();
    let mut pages = Pages { paper, system, setter, laid: Laid::default(), y: 0.0, contents: Vec::new(), titles };
    pages.begin();
    for (i, block) in blocks.iter().enumerate() {
        // a heading goes with what stands under it
        if matches!(block, Block::Part(_) | Block::Heading(_)) {
            match blocks.get(i + 1) {
                Some(Block::Plot(_)) => pages.room(16.0 + pages.bottom() * DRAWN_AMONG_WORDS),
                Some(Block::Table { .. } | Block::Step { .. }) => pages.room(46.0),
                _ => {}
            }
        }
        pages.block(block);
    }
    pages.finish()
}

struct Pages<'a> {
    paper: Paper,
    system: System,
    setter: &'a mut Setter,
    laid: Laid,
    /// Where the next line begins, mm from the top.
    y: f64,
    /// Of each part told in the contents: the page it is told on and how far down the foot of its line is.
    contents: Vec<(usize, f64)>,
    /// Titles of all parts.
    titles: Vec<String>,
}

impl Pages<'_> {
    fn width(&self) -> f64 {
        self.paper.size()[0] - 2.0 * MARGIN
    }
    fn bottom(&self) -> f64 {
        self.paper.size()[1] - MARGIN
    }
    fn begin(&mut self) {
        self.laid.pages.push(Vec::new());
        self.y = MARGIN;
    }
    /// A page on which nothing stands yet.
    fn fresh(&mut self) {
        if self.laid.pages.last().is_some_and(|p| !p.is_empty()) {
            self.begin();
        }
    }
    fn add(&mut self, mark: Mark) {
        if let Some(page) = self.laid.pages.last_mut() {
            page.push(mark);
        }
    }
    /// Room for so much, on a new page if need be.
    fn room(&mut self, high: f64) {
        if self.y + high > self.bottom() - FOOTER && self.y > MARGIN {
            self.begin();
        }
    }
    fn rule(&mut self, from: P2, to: P2, width: f32) {
        self.add(Mark::Way(Way::Lines(vec![from, to], false), Pen::of(width)));
    }
    /// One line at the place where the next begins, which is moved on.
    fn set(&mut self, line: Line, left: f64, wide: f64) {
        let aside = if line.from_right && wide.is_finite() { (wide - line.width).max(0.0) } else { 0.0 };
        let foot = self.y + FOOT * line.size;
        self.y += LEADING * line.size;
        self.add(Mark::Words(line, [MARGIN + left + aside, foot]));
    }
    fn paragraph(&mut self, words: &str, size: f64, left: f64, bold: bool) {
        let wide = self.width() - left;
        for line in self.setter.lines(words, size, bold, wide) {
            self.room(size * LEADING);
            self.set(line, left, wide);
        }
    }
    fn high(&mut self, words: &str, size: f64, left: f64, bold: bool) -> f64 {
        let wide = self.width() - left;
        self.setter.lines(words, size, bold, wide).len() as f64 * size * LEADING
    }

    fn block(&mut self, block: &Block) {
        let system = self.system;
        match block {
            Block::Cover { title, under } => {
                self.y += 14.0;
                self.paragraph(&title.said(system), 10.0, 0.0, true);
                self.y += 2.0;
                self.paragraph(&under.said(system), 3.8, 0.0, false);
                self.y += 4.0;
                let (y, right) = (self.y, MARGIN + self.width());
                self.rule([MARGIN, y], [right, y], 0.8);
                self.y += 6.0;
            }
            Block::Contents => self.contents(),
            Block::Part(words) => {
                self.room(40.0);
                self.y += if self.y > MARGIN { 5.0 } else { 0.0 };
                let title = words.said(system);
                let page = self.laid.pages.len() - 1;
                self.laid.parts.push(Part { title: title.clone(), page, down: self.y });
                self.paragraph(&title, 6.4, 0.0, true);
                let (y, right) = (self.y + 0.8, MARGIN + self.width());
                self.rule([MARGIN, y], [right, y], 0.5);
                self.y += 3.5;
            }
            Block::Break => self.fresh(),
            Block::Heading(words) => {
                self.room(20.0);
                self.y += if self.y > MARGIN { 3.0 } else { 0.0 };
                self.paragraph(&words.said(system), 5.0, 0.0, true);
                self.y += 1.5;
            }
            Block::Words(words) => {
                self.paragraph(&words.said(system), 3.4, 0.0, false);
                self.y += 1.5;
            }
            Block::Caution(words) => self.caution(&words.said(system), 0.0),
            Block::Step { title, text, caution, done, note } => {
                let caution = caution.as_ref().map(|c| c.said(system));
                self.step([&title.said(system), &text.said(system)], caution.as_deref(), *done, note);
            }
            Block::Table { widths, rows } => {
                let rows: Vec<Vec<String>> =
                    rows.iter().map(|row| row.iter().map(|cell| cell.said(system)).collect()).collect();
                self.table(widths, &rows);
            }
            Block::Picture(drawing) => self.picture(&drawing.clone().said(system)),
            Block::Plot(drawing) => self.plot(&drawing.clone().said(system)),
            Block::RealSize(drawing) => self.tiles(&drawing.clone().said(system)),
            Block::Photos(photos) => self.photos(photos),
        }
    }

    /// The titles of all parts; their pages are filled in once they are known.
    fn contents(&mut self) {
        let size = 3.8;
        for (i, title) in self.titles.clone().iter().enumerate() {
            self.room(size * LEADING);
            let (page, top) = (self.laid.pages.len() - 1, self.y);
            let wide = self.width() - 20.0;
            let line = self.setter.lines(title, size, false, wide).remove(0);
            let from = MARGIN + line.width + 2.0;
            self.set(line, 0.0, wide);
            self.y += 1.2;
            let foot = top + FOOT * size;
            self.add(Mark::Way(
                Way::Lines(vec![[from, foot], [MARGIN + self.width() - 9.0, foot]], false),
                Pen { dash: crate::marks::Dash::Dashes, ..Pen::of(0.25) },
            ));
            self.add(Mark::Link(i, [MARGIN, top], [self.width(), size * LEADING]));
            self.contents.push((page, foot));
        }
    }

    fn caution(&mut self, words: &str, left: f64) {
        let high = self.high(words, 3.2, left + 4.0, true);
        self.room(high + 2.0);
        let top = self.y + 0.4;
        self.paragraph(words, 3.2, left + 4.0, true);
        let (x, bottom) = (MARGIN + left + 1.0, self.y);
        // of one that runs on to a next page what stands there has its bar
        self.rule([x, top.min(bottom)], [x, bottom], 2.4);
        self.y += 1.5;
    }

    /// A step stays on one page with its caution, unless it is longer than half of one.
    fn step(&mut self, [title, text]: [&str; 2], caution: Option<&str>, done: bool, note: &str) {
        let warned = caution.map_or(0.0, |c| self.high(c, 3.2, 13.0, true) + 2.0);
        let high = self.high(title, 3.8, 9.0, true) + self.high(text, 3.4, 9.0, false) + warned + 4.0;
        self.room(high.min((self.bottom() - MARGIN) / 2.0));
        self.y += 2.0;
        let (x, y, s) = (MARGIN, self.y + 0.4, 4.2);
        self.paragraph(title, 3.8, 9.0, true);
        let square = vec![[x, y], [x + s, y], [x + s, y + s], [x, y + s]];
        self.add(Mark::Way(Way::Lines(square, true), Pen::of(0.8)));
        if done {
            let tick = vec![[x + 0.2 * s, y + 0.5 * s], [x + 0.45 * s, y + 0.8 * s], [x + 0.85 * s, y + 0.15 * s]];
            self.add(Mark::Way(Way::Lines(tick, false), Pen::of(0.8)));
        }
        self.paragraph(text, 3.4, 9.0, false);
        if let Some(caution) = caution {
            self.caution(caution, 9.0);
        }
        if !note.is_empty() {
            self.paragraph(&format!("Noted: {note}"), 3.2, 9.0, false);
        }
        self.y += 1.5;
    }

    fn table(&mut self, widths: &[f64], rows: &[Vec<String>]) {
        let size = 3.0;
        let whole: f64 = widths.iter().sum();
        let wide: Vec<f64> = widths.iter().map(|part| self.width() * part / whole).collect();
        for (i, row) in rows.iter().enumerate() {
            let cells: Vec<Vec<Line>> =
                row.iter().zip(&wide).map(|(cell, wide)| self.setter.lines(cell, size, i == 0, wide - 2.0)).collect();
            let lines = cells.iter().map(Vec::len).max().unwrap_or(1);
            // the head is not left alone at the foot of a page; a row higher than a page is cut where that ends
            let most = ((self.bottom() - FOOTER - MARGIN) / (size * LEADING)).floor() as usize - 1;
            let high = lines.min(most) as f64 * size * LEADING + 1.5;
            self.room(if i == 0 { high + 3.0 * size * LEADING } else { high });
            for from in (0..lines).step_by(most) {
                if from > 0 {
                    self.begin();
                }
                let top = self.y;
                let shown = (lines - from).min(most);
                let mut x = 0.0;
                for (cell, wide) in cells.iter().zip(&wide) {
                    for (k, line) in cell.iter().skip(from).take(shown).enumerate() {
                        self.y = top + k as f64 * size * LEADING;
                        self.set(line.clone(), x, wide - 2.0);
                    }
                    x += wide;
                }
                self.y = top + shown as f64 * size * LEADING + 0.6;
            }
            let (y, right) = (self.y, MARGIN + self.width());
            self.rule([MARGIN, y], [right, y], 0.3);
            self.y += 0.6;
        }
        self.y += 3.0;
    }

    /// As large as goes on what is left of the page, or on a new one where less than half a page is left.
    fn picture(&mut self, drawing: &Drawing) {
        let [low, high] = drawing.extent();
        let (w, h) = (high[0] - low[0], high[1] - low[1]);
        let scale_in = |room: f64| (self.width() / w).min(room / h);
        let left = self.bottom() - self.y - 20.0;
        let whole = scale_in(self.bottom() - MARGIN - 24.0);
        if scale_in(left) < 0.7 * whole || left < 60.0 {
            self.fresh();
        }
        self.block(&Block::Heading(drawing.title.as_str().into()));
        if !drawing.note.is_empty() {
            self.block(&Block::Words(drawing.note.as_str().into()));
        }
        let scale = (self.width() / w).min((self.bottom() - self.y - 8.0) / h);
        self.y += 2.0;
        self.draw(drawing, [MARGIN - low[0] * scale, self.y + high[1] * scale], scale);
        self.y += h * scale + 4.0;
    }

    /// No larger than it is, with its title and its note.
    fn plot(&mut self, drawing: &Drawing) {
        let [low, high] = drawing.extent();
        let (w, h) = (high[0] - low[0], high[1] - low[1]);
        let scale = (self.width() / w).min(self.bottom() * DRAWN_AMONG_WORDS / h).min(1.0);
        self.room(h * scale + 14.0);
        if !drawing.title.is_empty() {
            self.paragraph(&drawing.title, 3.8, 0.0, true);
        }
        self.y += 1.0;
        self.draw(drawing, [MARGIN - low[0] * scale, self.y + high[1] * scale], scale);
        self.y += h * scale + 1.5;
        if !drawing.note.is_empty() {
            self.paragraph(&drawing.note, 3.2, 0.0, false);
        }
        self.y += 3.0;
    }

    fn draw(&mut self, drawing: &Drawing, zero: P2, scale: f64) {
        drawn::marks(drawing, self.setter, zero, scale).into_iter().for_each(|mark| self.add(mark));
    }

    fn tiles(&mut self, drawing: &Drawing) {
        let [low, high] = drawing.extent();
        let (w, h) = (high[0] - low[0], high[1] - low[1]);
        // a line of words at the foot of every tile
        let (tile_w, tile_h) = (self.width(), self.bottom() - MARGIN - 8.0);
        let count = |whole: f64, tile: f64| (((whole - OVERLAP) / (tile - OVERLAP)).ceil()).max(1.0) as usize;
        let (columns, rows) = (count(w, tile_w), count(h, tile_h));
        for (row, column) in (0..rows).flat_map(|r| (0..columns).map(move |c| (r, c))) {
            self.fresh();
            let left = low[0] + column as f64 * (tile_w - OVERLAP);
            let top = high[1] - row as f64 * (tile_h - OVERLAP);
            let (corner, size) = ([MARGIN, MARGIN], [tile_w, tile_h]);
            self.add(Mark::Within(corner, size));
            self.draw(drawing, [MARGIN - left, MARGIN + top], 1.0);
            self.add(Mark::Everywhere);
            let frame =
                vec![corner, [MARGIN + tile_w, MARGIN], [MARGIN + tile_w, MARGIN + tile_h], [MARGIN, MARGIN + tile_h]];
            self.add(Mark::Way(Way::Lines(frame, true), Pen::of(0.3)));
            let part = if columns * rows > 1 {
                format!(
                    ", tile {} of {columns} across, {} of {rows} down; tiles overlap by {}",
                    column + 1,
                    row + 1,
                    said(&mm(OVERLAP).to_string(), self.system)
                )
            } else {
                String::new()
            };
            let words = format!("{}, 1 : 1{part}. Print at 100 %, measure the ruler.", drawing.title);
            let line = self.setter.line(&words, 3.0, false);
            self.add(Mark::Words(line, [MARGIN, self.bottom() - 2.0]));
        }
        // nothing else goes on the last one
        self.y = self.bottom();
    }

    /// Photos in rows, two side by side, none higher than a third of the page.
    fn photos(&mut self, photos: &[Photo]) {
        let gap = 4.0;
        let wide = (self.width() - gap) / 2.0;
        let most = (self.bottom() - MARGIN) / 3.0;
        for row in photos.chunks(2) {
            let sizes: Vec<P2> = row
                .iter()
                .map(|p| {
                    let (w, h) = (f64::from(p.width.max(1)), f64::from(p.height.max(1)));
                    let scale = (wide / w).min(most / h);
                    [w * scale, h * scale]
                })
                .collect();
            let high = sizes.iter().map(|s| s[1]).fold(0.0, f64::max);
            self.room(high + 2.0);
            let mut x = MARGIN;
            for (photo, size) in row.iter().zip(sizes) {
                let there = self.laid.pictures.iter().position(|p| *p == photo.jpeg);
                let i = there.unwrap_or_else(|| {
                    self.laid.pictures.push(photo.jpeg.clone());
                    self.laid.pictures.len() - 1
                });
                self.add(Mark::Picture(i, [x, self.y], size));
                x += wide + gap;
            }
            self.y += high + 3.0;
        }
    }

    /// The pages with their numbers, in the contents too.
    fn finish(mut self) -> Laid {
        // a page that was begun and not used
        if self.laid.pages.len() > 1 && self.laid.pages.last().is_some_and(Vec::is_empty) {
            self.laid.pages.pop();
        }
        let [w, h] = self.paper.size();
        let right = w - MARGIN;
        let put = |setter: &mut Setter, pages: &mut Vec<_>, page: usize, words: &str, size: f64, foot: f64| {
            let line = setter.line(words, size, false);
            let at = [right - line.width, foot];
            let page: Option<&mut Vec<Mark>> = pages.get_mut(page);
            if let Some(page) = page {
                page.push(Mark::Words(line, at));
            }
        };
        for (told, part) in self.contents.iter().zip(&self.laid.parts) {
            put(self.setter, &mut self.laid.pages, told.0, &(part.page + 1).to_string(), 3.8, told.1);
        }
        let count = self.laid.pages.len();
        for i in 0..count {
            put(self.setter, &mut self.laid.pages, i, &format!("{} / {count}", i + 1), 2.8, h - 5.0);
        }
        self.laid
    }
}
