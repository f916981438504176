//! How it is sawn and built, what it costs.

use crate::told::Told;
use oak_drum_design::analysis::Analysis;
use oak_drum_design::cabinet::materials::{bill, spent};
use oak_drum_design::cabinet::printed_plan::{PlanParts, in_currency, not_as_it_is};
use oak_drum_design::evaluation::Evaluation;
use oak_drum_design::finding::Severity;
use oak_drum_design::woofer::arrangement::{polarity_in_words, wiring_in_words};
use oak_drum_paper::Block;
use oak_drum_text::Text;

/// Cabinet, cut plan, wiring, steps, cost.
pub fn parts(told: &Told, evaluation: &Evaluation, analysis: &Analysis, plan: Option<PlanParts>) -> Vec<Block> {
    let Some(plan) = plan else {
        return vec![Block::Part("Cabinet".into()), Block::Words("No cabinet is drawn yet.".into())];
    };
    let broken = evaluation.findings.iter().flatten().filter(|f| f.severity == Severity::Broken);
    let against: Vec<Text> = broken.map(|f| f.sentence.clone()).collect();
    let mut blocks = vec![Block::Part("Cabinet".into()), Block::Words(plan.sizes)];
    blocks.extend(not_as_it_is(&against));
    // smaller than on the plan: the booklet is read, the plan is sawn by
    blocks.extend(plan.views.into_iter().map(|b| match b {
        Block::Picture(drawing) => Block::Plot(drawing.with_words(1.5)),
        other => other,
    }));
    blocks.push(Block::Part("Cut plan".into()));
    blocks.extend(plan.cut);
    blocks.push(Block::Part("Wiring".into()));
    let design = &analysis.design;
    let array = &design.array;
    let wired = wiring_in_words(array.count, analysis.woofer.coils, array.coils, array.woofers_in_series);
    blocks.push(Block::Words(oak_drum_text::capital(&format!("{wired}. {}", polarity_in_words(design))).into()));
    blocks.push(Block::Part("Tools and small stuff".into()));
    blocks.extend(plan.tools);
    blocks.push(Block::Part("Building it".into()));
    blocks.extend(plan.steps);
    blocks.push(Block::Part("Cost".into()));
    blocks.extend(plan.buy);
    blocks.extend(paid(told, analysis));
    blocks
}

/// What was really paid, and how long it took.
fn paid(told: &Told, analysis: &Analysis) -> Vec<Block> {
    let mut blocks = Vec::new();
    if let Some(bill) = bill(analysis, &told.work.prices) {
        let sum = spent(&bill, &told.work.bought);
        if sum.paid > 0.0 {
            let money = |head: &str| in_currency(head, &told.workshop.currency);
            let mut rows: Vec<Vec<Text>> =
                vec![vec!["what".into(), money("planned"), money("paid"), money("next time")]];
            for line in &sum.lines {
                let what = bill
                    .items
                    .iter()
                    .find(|i| i.id == line.item)
                    .map_or_else(|| line.item.as_str().into(), |i| i.what.clone());
                let planned = line.planned.map_or(Text::default(), |p| format!("{p:.2}").into());
                rows.push(vec![what, planned, format!("{:.2}", line.paid).into(), format!("{:.2}", line.next).into()]);
            }
            rows.push(vec![
                "together".into(),
                Text::default(),
                format!("{:.2}", sum.paid).into(),
                format!("{:.2}", sum.next).into(),
            ]);
            blocks.push(Block::Heading("Paid".into()));
            blocks.push(Block::Table { widths: vec![4.0, 1.0, 1.0, 1.0], rows });
        }
    }
    let minutes: f64 = told.work.steps.iter().filter_map(|t| t.minutes).sum();
    if minutes > 0.0 {
        let (hours, rest) = ((minutes / 60.0).floor(), (minutes % 60.0).round());
        blocks.push(Block::Words(format!("The clocks of the steps say {hours:.0} h {rest:.0} min.").into()));
    }
    blocks
}

/// Templates at 1:1.
pub fn templates(found: Vec<Block>) -> Vec<Block> {
    if found.is_empty() {
        return Vec::new();
    }
    let mut blocks = vec![
        Block::Break,
        Block::Part("Templates".into()),
        Block::Words(
            "Printed at 100 %, so that a hole is as large on paper as in wood: measure the ruler first.".into(),
        ),
    ];
    blocks.extend(found);
    blocks
}
