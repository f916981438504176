//! The booklet of a build: brief, woofer, box with its curves, airway, fill, drive, room, findings, cut plan and steps, what was
//! measured against what was predicted, the log with its photos, what was heard, what it cost, sources and estimates.
//!
//! Each part is one function that gives blocks of `oak-drum-paper`; [`booklet`] puts them in their order. A part that has nothing to
//! tell says so in a sentence: what was never judged is not called fine.
#![deny(missing_docs)]

mod design;
pub mod fields;
mod heard;
mod log;
mod making;
mod measured;
pub mod plot;
mod sources;
mod told;

pub use told::{HeardSession, Told, WrittenEntry};

use oak_drum_design::analysis::Analysis;
use oak_drum_design::cabinet::printed_plan::plan_parts;
use oak_drum_design::evaluation::evaluate_at;
use oak_drum_paper::Block;
use oak_drum_text::System;

/// The booklet, block by block, its plots in a system; sentences carry both.
pub fn booklet(told: &Told, system: System) -> Vec<Block> {
    let evaluation = evaluate_at(told.design, &told.work.prices);
    let analysis = Analysis::of(told.design);
    let mut blocks =
        vec![Block::Cover { title: told.name.into(), under: told.under().into() }, Block::Contents, Block::Break];
    blocks.extend(design::parts(told, system, &evaluation, &analysis));
    let mut plan = plan_parts(&analysis, told.work, told.workshop);
    let templates = plan.as_mut().map(|p| std::mem::take(&mut p.templates)).unwrap_or_default();
    blocks.extend(making::parts(told, &evaluation, &analysis, plan));
    blocks.extend(measured::part(told));
    blocks.extend(log::part(told));
    blocks.extend(heard::part(told));
    blocks.extend(sources::part(told, &evaluation));
    // what is printed at its real size comes last, where it can be taken out
    blocks.extend(making::templates(templates));
    blocks
}
