//! Rules about the boards.

use super::{Finding, Severity, Whose, finding, remedy};
use crate::analysis::{Analysis, Change};
use crate::cabinet::clearance::CLASH;
use crate::cabinet::cutting::cutting;
use crate::cabinet::seats::built;
use oak_drum_cabinet::board::{Board, Role};
use oak_drum_cabinet::bodies::{Body, clearance_within};

/// Letters of parts larger than the sheet.
fn too_large(analysis: &Analysis) -> Vec<String> {
    let stocks = cutting(analysis).map_or_else(Vec::new, |c| c.stocks);
    let mut letters: Vec<String> = stocks.into_iter().flat_map(|s| s.layout.too_large).collect();
    letters.sort();
    letters.dedup();
    letters
}

/// A part larger than the sheet it is to come from.
pub fn part_over_sheet(analysis: &Analysis) -> Vec<Finding> {
    let Some(cabinet) = &analysis.design.cabinet else { return Vec::new() };
    let saw = &cabinet.saw;
    // the plain case first: nothing of a box can be larger than the box itself
    let longest = cabinet.width_mm.max(cabinet.height_mm).max(cabinet.depth_mm) + saw.oversize_mm;
    let (length, width) = (saw.sheet_length_mm - 2.0 * saw.trim_mm, saw.sheet_width_mm - 2.0 * saw.trim_mm);
    if longest <= length.min(width) {
        return Vec::new();
    }
    let letters = too_large(analysis);
    if letters.is_empty() {
        return Vec::new();
    }
    let list = letters.join(", ");
    let mut f = finding(
        Severity::Broken,
        Whose::Physics,
        ("cabinet", "/cabinet/saw/sheet_length_mm"),
        "A part larger than the sheet",
        format!(
            "{list} of the cut list: the cabinet's longest side is {longest:.0} mm with its oversize, a trimmed sheet is {length:.0} x {width:.0} mm."
        ),
        (longest, "mm"),
        Some(length),
    );
    let mut ways: Vec<(&str, Vec<Change>)> = Vec::new();
    if saw.keep_grain {
        ways.push(("Let pieces be turned", vec![Change::set("/cabinet/saw/keep_grain", false)]));
    }
    let sheet = |length: f64, width: f64| {
        vec![Change::set("/cabinet/saw/sheet_length_mm", length), Change::set("/cabinet/saw/sheet_width_mm", width)]
    };
    ways.push(("Sheets of 2440 x 1220 mm", sheet(2440.0, 1220.0)));
    ways.push(("Sheets of 3050 x 1525 mm", sheet(3050.0, 1525.0)));
    for (title, changes) in ways {
        f.remedies.extend(remedy(analysis, title, changes, |a| {
            let sheets: u32 = cutting(a)?.stocks.iter().map(|s| s.sheets).sum();
            too_large(a).is_empty().then(|| format!("{sheets} in all"))
        }));
    }
    vec![f]
}

/// A brace laid through a board that has to stay whole: one between chambers, of a port, of an amplifier's chamber, a step.
pub fn boards_cross(analysis: &Analysis) -> Vec<Finding> {
    let Some(cabinet) = &analysis.design.cabinet else { return Vec::new() };
    if cabinet.braces.is_empty() {
        return Vec::new();
    }
    let boards = built(analysis).map_or_else(Vec::new, |b| b.solids.boards);
    let whole = |b: &&Board| matches!(b.role, Role::Fold | Role::Port | Role::Bay) || b.name == "Step";
    let others: Vec<(&Board, Vec<Body>)> = boards.iter().filter(whole).map(|b| (b, Body::of_board(b))).collect();
    if others.is_empty() {
        return Vec::new();
    }
    let mut list: Vec<(String, String, f64)> = Vec::new();
    for brace in boards.iter().filter(|b| b.role == Role::Brace) {
        let bodies = Body::of_board(brace);
        for (other, pieces) in &others {
            let pairs = bodies.iter().flat_map(|a| pieces.iter().filter_map(move |b| clearance_within(a, b, 0.0)));
            let deep = -pairs.fold(0.0, f64::min);
            let said = list.iter().any(|(a, b, _)| *a == brace.name && *b == other.name);
            if deep > CLASH && !said {
                list.push((brace.name.to_lowercase(), other.name.to_lowercase(), deep));
            }
        }
    }
    list.into_iter()
        .map(|(brace, other, deep)| {
            finding(
                Severity::Broken,
                Whose::Physics,
                ("cabinet", "/cabinet/braces"),
                "A brace through a board",
                format!(
                    "The {brace} and the {other} are {deep:.0} mm in each other: move the brace, or let it end there."
                ),
                (deep, "mm"),
                None,
            )
        })
        .collect()
}
