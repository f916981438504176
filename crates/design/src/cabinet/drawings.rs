//! The drawings of a design's cabinet, and the plan that is printed.

use crate::analysis::Analysis;
use crate::cabinet::built_cabinet::{BuiltCabinet, built};
use crate::cabinet::clearance::{How, clearances_within};
use crate::cabinet::cutting::{Cutting, cutting, layers};
use crate::cabinet::materials::{Bill, bill};
use crate::cabinet::mounted_part::{Kind, MountedPart};
use crate::cabinet::step::Step;
use crate::cabinet::steps::steps_with;
use oak_drum_cabinet::board::{Board, Hole, Opening, P2, V3, along};
use oak_drum_cabinet::drawing::Drawing;
use oak_drum_cabinet::drawing::exploded::exploded;
use oak_drum_cabinet::drawing::template::template;
use oak_drum_cabinet::drawing::views::{
    FlatPiece, Side, Silhouette, elevation, fold_section, hull, parts_flat, section, sheets,
};
use oak_drum_cabinet::parts::{Part, parts};
use oak_drum_document::{Cabinet, WorkPlan};
use oak_drum_paper::Block;
use oak_drum_text::{Text, mm, size};

/// A drawing with its stable name.
#[derive(Clone, Debug, PartialEq)]
pub struct Named {
    /// Stable name: `front`, `section`, `template-0`, …
    pub id: String,
    /// The drawing.
    pub drawing: Drawing,
}

/// Everything worked out once.
struct Shop<'a> {
    analysis: &'a Analysis,
    cabinet: &'a Cabinet,
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

fn shop(analysis: &Analysis) -> Option<Shop<'_>> {
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
fn all_of(shop: &Shop, cutting: Option<&Cutting>, only: Option<&str>) -> Vec<Named> {
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

/// The plan to be printed, part by part.
#[derive(Clone, Debug, PartialEq)]
pub struct PlanParts {
    /// Outside sizes, and how the drawings are to be read.
    pub sizes: Text,
    /// The cabinet from its sides, cut open, taken apart.
    pub views: Vec<Block>,
    /// The cut list and the sheets.
    pub cut: Vec<Block>,
    /// What to buy.
    pub buy: Vec<Block>,
    /// Steps with their cautions, what is done of them and what was noted.
    pub steps: Vec<Block>,
    /// Templates at 1:1.
    pub templates: Vec<Block>,
}

/// The whole plan to be printed: sizes, what stands `against` building it, cut list, sheets, drawings, what to buy, steps with
/// their cautions and what is done of them, templates at 1:1.
pub fn plan(analysis: &Analysis, title: &str, against: &[Text], work: &WorkPlan) -> Option<Vec<Block>> {
    let parts = plan_parts(analysis, work)?;
    let mut blocks = vec![Block::Heading(title.into()), Block::Words(parts.sizes)];
    blocks.extend(not_as_it_is(against));
    blocks.extend(parts.views);
    for (title, part) in [("Cut list", parts.cut), ("To buy", parts.buy), ("Building it", parts.steps)] {
        blocks.extend([Block::Break, Block::Heading(title.into())]);
        blocks.extend(part);
    }
    blocks.extend(parts.templates);
    Some(blocks)
}

/// What stands against building it.
pub fn not_as_it_is(against: &[Text]) -> Option<Block> {
    if against.is_empty() {
        return None;
    }
    let mut words = Text::from("Not to be built as it is.");
    for sentence in against {
        words.add(" ");
        words.add(sentence.clone());
    }
    Some(Block::Caution(words))
}

/// The same part by part; `None` without a cabinet.
pub fn plan_parts(analysis: &Analysis, work: &WorkPlan) -> Option<PlanParts> {
    let shop = shop(analysis)?;
    let c = shop.cabinet;
    let cutting = cutting(analysis)?;
    let drawings = all_of(&shop, Some(&cutting), None);
    let picture = |n: &Named| Block::Picture(n.drawing.clone());
    let of = |id: &str| drawings.iter().filter(|n| n.id == id).map(picture).collect::<Vec<_>>();
    let mut cut = vec![cut_list(&cutting)];
    cut.extend(drawings.iter().filter(|n| n.id.starts_with("sheets")).map(picture));
    Some(PlanParts {
        sizes: Text::from(format!(
            "Outside {:.0} (width, height, depth), boards {}, baffle {}. Numbers without a unit are millimetres, those with \" inches; drawings other than templates are not to be measured from. Local codes and licensed practice come first where they say more than this plan.",
            mm([c.width_mm, c.height_mm, c.depth_mm]),
            mm(c.panel_mm),
            mm(c.baffle_mm)
        )),
        views: ["front", "section", "left", "back", "top", "fold", "exploded"].into_iter().flat_map(of).collect(),
        cut,
        buy: to_buy(bill(analysis, &work.prices)?),
        steps: to_do(analysis, work)?,
        templates: drawings
            .iter()
            .filter(|n| n.drawing.real_size)
            .map(|n| Block::RealSize(n.drawing.clone()))
            .collect(),
    })
}

fn cut_list(cutting: &Cutting) -> Block {
    let mut rows = vec![["", "part", "pieces", "length x width, mm", "inches", "of", "edges"].map(Text::from).to_vec()];
    for p in &cutting.parts {
        let part = &p.part;
        let rough = if p.rough_length_mm > part.length_mm + 0.05 {
            format!(
                "{:.1} x {:.1}, rough {:.1} x {:.1}",
                part.length_mm, part.width_mm, p.rough_length_mm, p.rough_width_mm
            )
        } else {
            format!("{:.1} x {:.1}", part.length_mm, part.width_mm)
        };
        rows.push(vec![
            part.label.as_str().into(),
            part.name.as_str().into(),
            part.count.to_string().into(),
            rough.into(),
            format!("{} x {}, off by {:+.2}", p.length_in, p.width_in, mm(p.rounding_mm)).into(),
            format!("{:.1} {}", size(part.thickness_mm), p.board).into(),
            part.edges.clone(),
        ]);
    }
    Block::Table { widths: vec![0.6, 2.2, 0.9, 2.4, 2.6, 1.5, 3.0], rows }
}

fn to_buy(bill: Bill) -> Vec<Block> {
    let mut rows = vec![["what", "how much", "each", "together"].map(Text::from).to_vec()];
    let price = |p: Option<f64>| p.map_or(Text::default(), |p| format!("{p:.2}").into());
    for item in &bill.items {
        rows.push(vec![item.what.clone(), item.amount.clone(), price(item.each), price(item.total)]);
    }
    if bill.items.iter().any(|i| i.total.is_some()) {
        rows.push(vec![
            "what has a price, together".into(),
            Text::default(),
            Text::default(),
            format!("{:.2}", bill.total).into(),
        ]);
    }
    vec![Block::Table { widths: vec![5.0, 1.6, 1.0, 1.0], rows }, Block::Words(bill.lifting)]
}

fn to_do(analysis: &Analysis, work: &WorkPlan) -> Option<Vec<Block>> {
    let step = |(i, step): (usize, Step)| {
        let mut title = Text::from(format!("{}  ", i + 1));
        title.add(step.title);
        let tick = work.steps.iter().find(|t| t.step == step.id);
        Block::Step {
            title,
            text: step.text,
            caution: step.caution,
            done: tick.is_some_and(|t| t.done),
            note: tick.map_or_else(String::new, |t| t.note.clone()),
        }
    };
    Some(steps_with(analysis, &work.days)?.into_iter().enumerate().map(step).collect())
}
