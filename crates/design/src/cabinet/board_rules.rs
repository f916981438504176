//! Rules about the boards.

use crate::analysis::Analysis;
use crate::analysis::solids::AROUND;
use crate::cabinet::built_cabinet::built;
use crate::cabinet::clearance::CLASH;
use crate::cabinet::cutting::{CutPart, cutting};
use crate::finding::{Finding, LimitSource, Severity, finding, remedy};
use crate::trial::Case;
use oak_drum_cabinet::board::{BAR_HOLE, Board, Role};
use oak_drum_cabinet::bodies::{Body, clearance_within};
use oak_drum_document::{BuiltIn, Change};
use oak_drum_text::mm;

/// No cabinet is stated: what stands in what, panels, weight and cost were not judged.
pub fn cabinet_not_stated(case: &Case) -> Vec<Finding> {
    if case.design.cabinet.is_some() {
        return Vec::new();
    }
    vec![finding(
        Severity::Note,
        LimitSource::Physics,
        "/cabinet/width_mm",
        "No cabinet yet",
        "Whether woofer and port find room in it, what its panels do, what it weighs and costs was not judged. One press at Cabinet makes one.".to_owned(),
        (0.0, "mm"),
        None,
    )]
}

/// Letters of parts larger than the sheet.
fn too_large(analysis: &Analysis) -> Vec<String> {
    let stocks = cutting(analysis).map_or_else(Vec::new, |c| c.stocks);
    let mut letters: Vec<String> = stocks.into_iter().flat_map(|s| s.layout.too_large).collect();
    letters.sort();
    letters.dedup();
    letters
}

/// Of the parts of these letters the one that goes farthest over a sheet of these sides (mm) as it lies best, with the side of it
/// that does and by how much.
fn worst_fit(analysis: &Analysis, letters: &[String], sheet: [f64; 2]) -> Option<(CutPart, (f64, f64))> {
    let keep_grain = analysis.design.cabinet.as_ref()?.saw.keep_grain;
    let lain = |sides: [f64; 2]| {
        let over = [0, 1].map(|i| (sides[i], sides[i] - sheet[i]));
        if over[0].1 > over[1].1 { over[0] } else { over[1] }
    };
    let best = |part: &CutPart| {
        let (along, across) = (part.rough_length_mm, part.rough_width_mm);
        let (as_is, turned) = (lain([along, across]), lain([across, along]));
        if keep_grain || as_is.1 <= turned.1 { as_is } else { turned }
    };
    let parts = cutting(analysis)?.parts.into_iter().filter(|p| letters.contains(&p.part.label));
    parts.map(|p| (best(&p), p)).max_by(|a, b| a.0.1.total_cmp(&b.0.1)).map(|(over, part)| (part, over))
}

/// A part larger than the sheet it is to come from.
pub fn part_over_sheet(case: &Case) -> Vec<Finding> {
    let Some(cabinet) = &case.design.cabinet else { return Vec::new() };
    let saw = &cabinet.saw;
    // the plain case first: nothing of a box can be larger than the box itself
    let longest = cabinet.width_mm.max(cabinet.height_mm).max(cabinet.depth_mm) + saw.oversize_mm;
    let (length, width) = (saw.sheet_length_mm - 2.0 * saw.trim_mm, saw.sheet_width_mm - 2.0 * saw.trim_mm);
    if longest <= length.min(width) {
        return Vec::new();
    }
    let letters = too_large(case);
    let Some((part, (side, over))) = worst_fit(case, &letters, [length, width]) else { return Vec::new() };
    let list = letters.join(", ");
    let mut f = finding(
        Severity::Broken,
        LimitSource::Physics,
        "/cabinet/saw/sheet_length_mm",
        "A part larger than the sheet",
        format!(
            "{list} of the cut list: {label} is {blank:.0} with its oversize, a trimmed sheet is {sides:.0}.",
            label = part.part.label,
            blank = mm([part.rough_length_mm, part.rough_width_mm]),
            sides = mm([length, width])
        ),
        (side, "mm"),
        Some(side - over),
    );
    let mut ways: Vec<(String, Vec<Change>)> = Vec::new();
    if saw.keep_grain {
        ways.push(("Let pieces be turned".into(), vec![Change::set("/cabinet/saw/keep_grain", false)]));
    }
    let sheet = |length: f64, width: f64| {
        vec![Change::set("/cabinet/saw/sheet_length_mm", length), Change::set("/cabinet/saw/sheet_width_mm", width)]
    };
    for [length, width] in [[2440.0, 1220.0], [3050.0, 1525.0]] {
        ways.push((format!("Sheets of {}", mm([length, width])), sheet(length, width)));
    }
    for (title, changes) in ways {
        f.remedies.extend(remedy(case, title, changes, |a| {
            let sheets: u32 = cutting(a)?.stocks.iter().map(|s| s.sheets).sum();
            too_large(a).is_empty().then(|| format!("{sheets} in all"))
        }));
    }
    vec![f]
}

/// Which walls the boards of an amplifier's own chamber reach into, and how far at most, mm.
fn reached(analysis: &Analysis) -> (Vec<String>, f64) {
    let boards = built(analysis).map_or_else(Vec::new, |b| b.solids.boards);
    let of = |role: fn(Role) -> bool| boards.iter().filter(move |b| role(b.role)).map(|b| (b, Body::of_board(b)));
    let chamber: Vec<(&Board, Vec<Body>)> = of(|role| role == Role::Bay).collect();
    let mut deepest = 0.0f64;
    let mut names: Vec<String> = Vec::new();
    for (wall, pieces) in of(|role| matches!(role, Role::Wall | Role::Baffle)) {
        let pairs = chamber.iter().flat_map(|(_, own)| own).flat_map(|a| {
            let pieces = &pieces;
            pieces.iter().filter_map(move |b| clearance_within(a, b, 0.0))
        });
        let deep = -pairs.fold(0.0, f64::min);
        if deep > CLASH {
            deepest = deepest.max(deep);
            names.push(format!("the {}", wall.name.to_lowercase()));
        }
    }
    (names, deepest)
}

/// An amplifier's own chamber that reaches into walls: each of them is named.
pub fn bay_through_walls(case: &Case) -> Vec<Finding> {
    let Some(cabinet) = &case.design.cabinet else { return Vec::new() };
    let Some(BuiltIn { own_chamber: true, width_mm, height_mm, at, .. }) = case.design.built_in() else {
        return Vec::new();
    };
    let (names, deepest) = reached(case);
    let Some((last, others)) = names.split_last() else { return Vec::new() };
    let walls = if others.is_empty() { last.clone() } else { format!("{} and {last}", others.join(", ")) };
    let mut f = finding(
        Severity::Broken,
        LimitSource::Physics,
        "/cabinet/amplifier/at",
        "The amplifier's chamber through a wall",
        format!("The boards of the amplifier's chamber reach up to {deepest:.0} into {walls}.", deepest = mm(deepest)),
        (deepest, "mm"),
        Some(0.0),
    );
    // wall, board of the chamber, air, half the cut-out
    let least = |size: f64| 2.0 * cabinet.panel_mm + AROUND + size / 2.0;
    let within = |value: f64, size: f64, whole: f64| {
        (whole >= 2.0 * least(size)).then(|| value.clamp(least(size).ceil(), (whole - least(size)).floor()))
    };
    let place = within(at.across_mm, width_mm, cabinet.width_mm).zip(within(at.up_mm, height_mm, cabinet.height_mm));
    if let Some((across, up)) = place {
        let changes = vec![
            Change::set("/cabinet/amplifier/at/across_mm", across),
            Change::set("/cabinet/amplifier/at/up_mm", up),
        ];
        f.remedies.extend(remedy(case, "Move the amplifier inward", changes, |a| {
            reached(a)
                .0
                .is_empty()
                .then(|| format!("{across:.0} across, {up:.0} up on the back", across = mm(across), up = mm(up)))
        }));
    }
    vec![f]
}

/// A brace laid through what has to stay whole, a board between chambers, of a port, a tunnel, an amplifier's chamber, a step, or
/// lying in another brace; braces that cross are let into each other.
pub fn boards_cross(case: &Case) -> Vec<Finding> {
    let Some(cabinet) = &case.design.cabinet else { return Vec::new() };
    if cabinet.braces.is_empty() {
        return Vec::new();
    }
    let boards = built(case).map_or_else(Vec::new, |b| b.solids.boards);
    let is_brace = |b: &Board| matches!(b.role, Role::Brace | Role::Dowel);
    let whole = |b: &Board| matches!(b.role, Role::Fold | Role::Port | Role::Bay | Role::Tunnel) || b.name == "Step";
    // a round bar through a hole of its own
    let through = |a: &Board, b: &Board| {
        let holes = a.holes.iter().filter(|h| h.name == BAR_HOLE);
        b.role == Role::Dowel && holes.map(|h| b.on_face(a.place(h.at, 0.0))).any(|[u, v]| u.hypot(v) < 1.0)
    };
    let all: Vec<(&Board, Vec<Body>)> =
        boards.iter().filter(|b| is_brace(b) || whole(b)).map(|b| (b, Body::of_board(b))).collect();
    let mut list: Vec<(String, String, f64)> = Vec::new();
    for (i, (brace, bodies)) in all.iter().enumerate().filter(|(_, (b, _))| is_brace(b)) {
        for (k, (other, pieces)) in all.iter().enumerate() {
            let once = whole(other) || k > i;
            if !once || k == i || through(brace, other) || through(other, brace) {
                continue;
            }
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
                LimitSource::Physics,
                "/cabinet/braces",
                "A brace through a board",
                format!(
                    "The {brace} and the {other} are {deep:.0} in each other: move the brace, or let it end there.",
                    deep = mm(deep)
                ),
                (deep, "mm"),
                None,
            )
        })
        .collect()
}
