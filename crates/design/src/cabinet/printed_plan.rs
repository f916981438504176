//! The plan to be printed: drawings, cut list, what to buy, what it is done with, steps, templates.

use crate::analysis::Analysis;
use crate::cabinet::cutting::{Cutting, cutting};
use crate::cabinet::drawings::{Named, all_of, shop};
use crate::cabinet::kit::{Kit, kit};
use crate::cabinet::materials::{Bill, bill};
use crate::cabinet::step::Step;
use crate::cabinet::steps::steps_with;
use oak_drum_document::{WorkPlan, Workshop};
use oak_drum_paper::Block;
use oak_drum_text::{Text, drill, mm, size};

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
    /// What it is done with: tools, the jig's settings, screws, wires.
    pub tools: Vec<Block>,
    /// Steps with their cautions, what is done of them and what was noted.
    pub steps: Vec<Block>,
    /// Templates at 1:1.
    pub templates: Vec<Block>,
}

/// The whole plan to be printed: sizes, what stands `against` building it, cut list, sheets, drawings, what to buy, steps with
/// their cautions and what is done of them, templates at 1:1.
pub fn plan(
    analysis: &Analysis,
    title: &str,
    against: &[Text],
    work: &WorkPlan,
    workshop: &Workshop,
) -> Option<Vec<Block>> {
    let parts = plan_parts(analysis, work, workshop)?;
    let mut blocks = vec![Block::Heading(title.into()), Block::Words(parts.sizes)];
    blocks.extend(not_as_it_is(against));
    blocks.extend(parts.views);
    for (title, part) in [
        ("Cut list", parts.cut),
        ("To buy", parts.buy),
        ("Tools and small stuff", parts.tools),
        ("Building it", parts.steps),
    ] {
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
pub fn plan_parts(analysis: &Analysis, work: &WorkPlan, workshop: &Workshop) -> Option<PlanParts> {
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
        buy: to_buy(bill(analysis, &work.prices)?, &workshop.currency),
        tools: tools(kit(analysis, &work.days, &workshop.has)?),
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

/// A head over prices with what they are in.
pub fn in_currency(head: &str, currency: &str) -> Text {
    if currency.is_empty() { head.into() } else { format!("{head}, {currency}").into() }
}

fn tools(kit: Kit) -> Vec<Block> {
    let mut rows = vec![["", "what", "for"].map(Text::from).to_vec()];
    for thing in kit.things {
        let has = if thing.has >= thing.many {
            "there".into()
        } else if thing.has > 0 {
            format!("{} there", thing.has)
        } else {
            String::new()
        };
        rows.push(vec![has.into(), thing.what, thing.why]);
    }
    let mut blocks = vec![Block::Table { widths: vec![0.8, 3.0, 5.0], rows }];
    if !kit.circles.is_empty() {
        let mut rows = vec![["hole", "across", "deep", "with", "pivot to the bit's middle"].map(Text::from).to_vec()];
        for circle in kit.circles {
            rows.push(vec![
                circle.what,
                format!("{:.1}", size(circle.diameter_mm)).into(),
                format!("{:.1}", size(circle.depth_mm)).into(),
                if circle.radius_mm.is_some() { drill(circle.bit_mm).to_string().into() } else { "a hole saw".into() },
                circle.radius_mm.map_or(Text::default(), |r| format!("{:.1}", size(r)).into()),
            ]);
        }
        blocks.push(Block::Table { widths: vec![3.4, 1.2, 1.0, 1.2, 2.2], rows });
    }
    blocks.extend(kit.screws.into_iter().map(|s| Block::Words(s.said)));
    blocks.extend(kit.leads.map(|l| Block::Words(l.said)));
    blocks
}

fn to_buy(bill: Bill, currency: &str) -> Vec<Block> {
    let heads = ["what".into(), "how much".into(), in_currency("each", currency), in_currency("together", currency)];
    let mut rows: Vec<Vec<Text>> = vec![heads.to_vec()];
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
