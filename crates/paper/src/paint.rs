//! Pages as PDF: what is used of the typefaces goes with them.

use crate::block::Paper;
use crate::error::Unprinted;
use crate::marks::{Dash, Laid, Mark, Pen, Way};
use crate::setting::{Line, PT, Setter};
use cosmic_text::fontdb::ID;
use krilla::Document;
use krilla::annotation::{LinkAnnotation, Target};
use krilla::color::luma;
use krilla::destination::XyzDestination;
use krilla::geom::{PathBuilder, Point, Rect, Size, Transform};
use krilla::image::Image;
use krilla::metadata::Metadata;
use krilla::num::NormalizedF32;
use krilla::outline::{Outline, OutlineNode};
use krilla::page::PageSettings;
use krilla::paint::{Fill, FillRule, Stroke, StrokeDash};
use krilla::surface::Surface;
use krilla::text::{Font, GlyphId, KrillaGlyph};
use oak_drum_cabinet::board::P2;
use std::collections::HashMap;

/// Handles of a quarter circle by cubic curves, in radii (within 0.03 % of the radius).
const QUARTER: f64 = 0.552_284_75;

fn grey(level: u8) -> Fill {
    Fill { paint: luma::Color::new(level).into(), opacity: NormalizedF32::ONE, rule: FillRule::NonZero }
}

fn pt(value: f64) -> f32 {
    (value * PT) as f32
}

fn point(at: P2) -> Point {
    Point::from_xy(pt(at[0]), pt(at[1]))
}

struct Brush<'a> {
    setter: &'a Setter,
    fonts: HashMap<ID, Font>,
    pictures: Vec<Image>,
}

impl Brush<'_> {
    fn font(&mut self, id: ID) -> Result<Font, Unprinted> {
        if let Some(there) = self.fonts.get(&id) {
            return Ok(there.clone());
        }
        let face = self.setter.face(id).and_then(|(bytes, index)| Font::new(bytes.into(), index));
        let font = face.ok_or_else(|| Unprinted("a typeface does not read".into()))?;
        self.fonts.insert(id, font.clone());
        Ok(font)
    }

    fn words(&mut self, surface: &mut Surface, line: &Line, at: P2) -> Result<(), Unprinted> {
        surface.set_stroke(None);
        surface.set_fill(Some(grey(0)));
        for run in &line.runs {
            let font = self.font(run.font)?;
            let glyphs: Vec<KrillaGlyph> = run
                .placed
                .iter()
                .map(|p| {
                    let id = GlyphId::new(u32::from(p.glyph));
                    KrillaGlyph::new(id, p.advance, p.moved[0], p.moved[1], 0.0, p.letters.clone(), None)
                })
                .collect();
            let start = point([at[0] + run.left, at[1]]);
            surface.draw_glyphs(start, &glyphs, font, &line.words, pt(line.size), false);
        }
        Ok(())
    }

    fn mark(&mut self, surface: &mut Surface, mark: &Mark) -> Result<(), Unprinted> {
        match mark {
            Mark::Words(line, at) => self.words(surface, line, *at)?,
            Mark::Way(way, pen) => follow(surface, way, *pen),
            Mark::Picture(i, at, size) => {
                let whole = Size::from_wh(pt(size[0]), pt(size[1]));
                if let (Some(picture), Some(whole)) = (self.pictures.get(*i), whole) {
                    surface.push_transform(&Transform::from_translate(pt(at[0]), pt(at[1])));
                    surface.draw_image(picture.clone(), whole);
                    surface.pop();
                }
            }
            Mark::Within(at, size) => {
                let mut way = PathBuilder::new();
                if let Some(rect) = Rect::from_xywh(pt(at[0]), pt(at[1]), pt(size[0]), pt(size[1])) {
                    way.push_rect(rect);
                }
                if let Some(way) = way.finish() {
                    surface.push_clip_path(&way, &FillRule::NonZero);
                }
            }
            Mark::Everywhere => surface.pop(),
            // no ink: it is laid over the page
            Mark::Link(..) => {}
        }
        Ok(())
    }
}

fn follow(surface: &mut Surface, way: &Way, pen: Pen) {
    let mut path = PathBuilder::new();
    match way {
        Way::Lines(points, closed) => {
            for (i, p) in points.iter().enumerate() {
                let p = point(*p);
                if i == 0 { path.move_to(p.x, p.y) } else { path.line_to(p.x, p.y) }
            }
            if *closed {
                path.close();
            }
        }
        Way::Circle(c, r) => {
            let k = QUARTER * r;
            let p = |dx: f64, dy: f64| point([c[0] + dx, c[1] + dy]);
            let start = p(*r, 0.0);
            path.move_to(start.x, start.y);
            for (a, b, e) in [
                (p(*r, k), p(k, *r), p(0.0, *r)),
                (p(-k, *r), p(-r, k), p(-r, 0.0)),
                (p(-r, -k), p(-k, -r), p(0.0, -r)),
                (p(k, -r), p(*r, -k), p(*r, 0.0)),
            ] {
                path.cubic_to(a.x, a.y, b.x, b.y, e.x, e.y);
            }
            path.close();
        }
    }
    let Some(path) = path.finish() else { return };
    let dash = match pen.dash {
        Dash::Solid => None,
        Dash::Dashes => Some(vec![3.0, 2.0]),
        Dash::Centre => Some(vec![7.0, 2.0, 1.5, 2.0]),
    };
    surface.set_fill(pen.fill.map(grey));
    surface.set_stroke((pen.width > 0.0).then(|| Stroke {
        paint: luma::Color::new(pen.ink).into(),
        width: pen.width,
        dash: dash.map(|array| StrokeDash { array, offset: 0.0 }),
        ..Stroke::default()
    }));
    surface.draw_path(&path);
}

/// The pages as PDF.
pub fn paint(title: &str, paper: Paper, setter: &Setter, laid: &Laid) -> Result<Vec<u8>, Unprinted> {
    let mut document = Document::new();
    document.set_metadata(Metadata::new().title(title.to_owned()).creator("Oak Drum".to_owned()));
    let pictures: Result<Vec<Image>, String> =
        laid.pictures.iter().map(|p| Image::from_jpeg(p.clone().into(), true)).collect();
    let pictures = pictures.map_err(|e| Unprinted(format!("a photo: {e}")))?;
    let mut brush = Brush { setter, fonts: HashMap::new(), pictures };
    let [w, h] = paper.size().map(pt);
    for page in &laid.pages {
        let settings = PageSettings::from_wh(w, h).ok_or_else(|| Unprinted("the paper has no size".into()))?;
        let mut sheet = document.start_page_with(settings);
        for mark in page {
            if let Mark::Link(part, at, size) = mark
                && let Some(to) = laid.parts.get(*part)
                && let Some(rect) = Rect::from_xywh(pt(at[0]), pt(at[1]), pt(size[0]), pt(size[1]))
            {
                let target = XyzDestination::new(to.page, Point::from_xy(0.0, pt(to.down)));
                sheet.add_annotation(LinkAnnotation::new(rect, Target::Destination(target.into())).into());
            }
        }
        let mut surface = sheet.surface();
        for mark in page {
            brush.mark(&mut surface, mark)?;
        }
        surface.finish();
        sheet.finish();
    }
    if !laid.parts.is_empty() {
        let mut outline = Outline::new();
        for part in &laid.parts {
            let to = XyzDestination::new(part.page, Point::from_xy(0.0, pt(part.down)));
            outline.push_child(OutlineNode::new(part.title.clone(), to));
        }
        document.set_outline(outline);
    }
    document.finish().map_err(|e| Unprinted(format!("{e:?}")))
}
