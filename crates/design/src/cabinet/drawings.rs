//! The drawings of a design's cabinet, and the plan that is printed.

use crate::analysis::Analysis;
use crate::cabinet::built_cabinet::{BuiltCabinet, built};
use crate::cabinet::clearance::{How, clearances_within};
use crate::cabinet::cutting::{Cutting, cutting, layers};
use crate::cabinet::mounted_part::{Kind, MountedPart};
use oak_drum_cabinet::board::{Board, Hole, Opening, P2, V3, along};
use oak_drum_cabinet::drawing::Drawing;
use oak_drum_cabinet::drawing::exploded::exploded;
use oak_drum_cabinet::drawing::template::template;
use oak_drum_cabinet::drawing::views::{
    FlatPiece, Side, Silhouette, elevation, fold_section, hull, parts_flat, section, sheets,
};
use oak_drum_cabinet::parts::{Part, parts};
use oak_drum_document::Cabinet;
use oak_drum_text::mm;

/// A drawing with its stable name.
#[derive(Clone, Debug, PartialEq)]
pub struct Named {
    /// Stable name: `front`, `section`, `template-0`, …
    pub id: String,
    /// The drawing.
    pub drawing: Drawing,
}

/// Everything worked out once.
pub(super) struct Shop<'a> {
    analysis: &'a Analysis,
    pub(super) cabinet: &'a Cabinet,
    built: BuiltCabinet,
    parts: Vec<Part>,
}

impl Shop<'_> {
    fn letter_at(&self, i: usize) -> String {
        let part = self.parts.iter().find(|p| p.boards.contains(&(i as u32)));
        part.map_or_else(|| self.built.solids.boards[i].name.clone(), |p| p.label.clone())
    }
    fn letter(&self, name: &str) -> String {
        let i = self.built.solids.boards.iter().position(|b| b.name == name);
        i.map_or_else(|| name.to_owned(), |i| self.letter_at(i))
    }
    /// What sits in it, seen from the side; what is in something's way is told as wrong.
    fn silhouettes(&self) -> Vec<Silhouette> {
        let wrong: Vec<u32> = clearances_within(self.cabinet, &self.built, 0.0)
            .iter()
            .filter(|c| c.mm < -0.5 && c.how == How::Inside)
            .flat_map(|c| std::iter::once(c.part).chain(c.other_part))
            .collect();
        self.built
            .mounted_parts
            .iter()
            .enumerate()
            .filter(|(_, s)| s.kind != Kind::Mouth)
            .flat_map(|(i, s)| profiles(s).into_iter().map(move |ring| (i, s.name.clone(), ring)))
            .map(|(i, name, ring)| Silhouette { name, ring, wrong: wrong.contains(&(i as u32)) })
            .collect()
    }
    /// Holes that want a template, alike ones once.
    fn holes(&self) -> Vec<&Hole> {
        let mut list: Vec<&Hole> = Vec::new();
        for hole in self.built.solids.boards.iter().flat_map(|b| &b.holes) {
            if hole.is_of_board() || hole.name == "bore" || hole.name.starts_with("mouth") {
                continue;
            }
            let stem = |h: &Hole| h.name.trim_end_matches(|c: char| c.is_ascii_digit() || c == ' ').to_owned();
            if !list.iter().any(|h| stem(h) == stem(hole) && h.opening == hole.opening) {
                list.push(hole);
            }
        }
        list
    }
}

/// Outlines of a mounted part's bodies in the side section (z, y).
fn profiles(mounted_part: &MountedPart) -> Vec<Vec<P2>> {
    let inward = mounted_part.reaches();
    let side: V3 = if inward[0].abs() > 0.7 { [0.0, 0.0, 1.0] } else { [0.0, -inward[2], inward[1]] };
    let at = |below: f64, off: f64| {
        let p = along(along(mounted_part.at, inward, below), side, off);
        [p[2], p[1]]
    };
    let half = match mounted_part.opening {
        Opening::Round { diameter_mm } => diameter_mm / 2.0,
        // in the section its up counts, on floor and top its depth
        other => other.half()[0],
    };
    if inward[0].abs() > 0.7 {
        // seen along its axis
        let ring = (0..48)
            .map(|i| {
                let a = f64::from(i) / 48.0 * std::f64::consts::TAU;
                [mounted_part.at[2] + half * a.cos(), mounted_part.at[1] + half * a.sin()]
            })
            .collect();
        return vec![ring];
    }
    let inner = mounted_part.inner_mm / 2.0;
    match mounted_part.kind {
        Kind::Woofer | Kind::Radiator => {
            let cone = 0.6 * mounted_part.depth_mm;
            vec![hull(&[
                at(0.0, -half),
                at(0.0, half),
                at(cone, inner),
                at(mounted_part.depth_mm, inner),
                at(mounted_part.depth_mm, -inner),
                at(cone, -inner),
            ])]
        }
        _ => {
            let r = if matches!(mounted_part.opening, Opening::Round { .. }) { inner } else { half };
            vec![vec![at(0.0, -r), at(0.0, r), at(mounted_part.depth_mm, r), at(mounted_part.depth_mm, -r)]]
        }
    }
}

pub(super) fn shop(analysis: &Analysis) -> Option<Shop<'_>> {
    let cabinet = analysis.design.cabinet.as_ref()?;
    let built = built(analysis)?;
    let parts = parts(&built.solids.boards, |board| layers(cabinet, board));
    Some(Shop { analysis, cabinet, built, parts })
}

/// Every drawing of a design's cabinet; `None` without one.
pub fn drawings(analysis: &Analysis) -> Option<Vec<Named>> {
    Some(all_of(&shop(analysis)?, cutting(analysis).as_ref(), None))
}

/// The side section, of a folded path the fold; `None` without a cabinet.
pub(crate) fn section_of(analysis: &Analysis) -> Option<Drawing> {
    let shop = shop(analysis)?;
    let wanted = if matches!(analysis.fold, Some(Ok(_))) { "fold" } else { "section" };
    all_of(&shop, None, Some(wanted)).into_iter().next().map(|n| n.drawing.with_words(1.8))
}

/// Every drawing, or the one that is wanted; sheets where they are laid out.
pub(super) fn all_of(shop: &Shop, cutting: Option<&Cutting>, only: Option<&str>) -> Vec<Named> {
    let boards = &shop.built.solids.boards;
    let mut list: Vec<Named> = Vec::new();
    let wanted = |id: &str| only.is_none_or(|o| o == id);
    let mut add = |id: &str, draw: &dyn Fn() -> Drawing| {
        if wanted(id) {
            list.push(Named { id: id.into(), drawing: draw() });
        }
    };
    for (id, side) in [("front", Side::Front), ("back", Side::Back), ("left", Side::Left), ("top", Side::Top)] {
        add(id, &|| elevation(boards, side));
    }
    let things = shop.silhouettes();
    add("section", &|| section(boards, &things));
    if let Some(Ok(folded)) = &shop.analysis.fold {
        add("fold", &|| fold_section(boards, &folded.fold, &things, |name| shop.letter(name)));
    }
    let lettered: Vec<(String, &Board)> = boards.iter().enumerate().map(|(i, b)| (shop.letter_at(i), b)).collect();
    add("exploded", &|| {
        let mut d = exploded(&lettered);
        let glued: Vec<String> = shop
            .built
            .solids
            .boards
            .iter()
            .filter_map(|b| {
                let n = layers(shop.cabinet, b).len();
                (n > 1).then(|| format!("{} of {n} layers", b.name.to_lowercase()))
            })
            .collect();
        if !glued.is_empty() {
            d.note = format!("{} Glued up: {}.", d.note, glued.join(", "));
        }
        d
    });
    add("parts", &|| {
        let pieces: Vec<FlatPiece> = shop
            .parts
            .iter()
            .flat_map(|p| p.boards.iter().map(|i| (p.label.clone(), &boards[*i as usize], p.thickness_mm)))
            .collect();
        parts_flat(&pieces)
    });
    for (i, stock) in cutting.iter().flat_map(|c| &c.stocks).enumerate() {
        add(&format!("sheets-{i}"), &|| {
            let title = format!("Sheets, {:.1} {}", mm(stock.thickness_mm), stock.board);
            let mut d = sheets(&title, &stock.layout.bins, &stock.layout.placed, &stock.layout.cuts);
            d.note = format!(
                "{} to buy (the areas allow no fewer than {}), {:.0} % left over, {} settings of the fence.",
                stock.sheets,
                stock.bound,
                stock.layout.waste * 100.0,
                stock.layout.settings
            );
            d
        });
    }
    for (i, hole) in shop.holes().into_iter().enumerate() {
        // a slot is made of boards that are set around its hole
        let slot = hole.name.contains("port") && !matches!(hole.opening, Opening::Round { .. });
        let fit = if slot { 0.0 } else { shop.cabinet.saw.fit_mm };
        add(&format!("template-{i}"), &|| template(hole, fit));
    }
    list
}
