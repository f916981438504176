//! Rules about an amplifier that is built in: its sheet at the Drive and its place in the cabinet have to agree.

use crate::analysis::Analysis;
use crate::cabinet::built_cabinet::built;
use crate::cabinet::clearance::clashes;
use crate::finding::{Finding, LimitSource, Remedy, Severity, finding, known, remedy, rounded, value};
use crate::trial::Case;
use oak_drum_acoustics::port::Face;
use oak_drum_document::{AmplifierSpace, Change, Spot};
use oak_drum_text::{litres, mm};

/// What the amplifier takes off the box, L.
fn taken(analysis: &Analysis) -> f64 {
    let lines = analysis.ledger.iter().flat_map(|l| &l.lines);
    lines.filter(|l| l.id == "amplifier").map(|l| -l.litres).sum()
}

/// How many things are in each other.
fn clashing(analysis: &Analysis) -> usize {
    let built = analysis.design.cabinet.as_ref().zip(built(analysis));
    built.map_or(0, |(cabinet, built)| clashes(cabinet, &built, None).len())
}

fn set(space: AmplifierSpace) -> Vec<Change> {
    vec![Change::set("/cabinet/amplifier", value(space))]
}

/// An amplifier made to be built in, and a cabinet without a place for it: its bulk is counted nowhere.
pub fn amplifier_without_place(case: &Case) -> Vec<Finding> {
    let design = &case.design;
    let back = design.chain.amplifier.as_ref().and_then(|a| a.back);
    let (Some(cabinet), Some(back)) = (&design.cabinet, back) else { return Vec::new() };
    if cabinet.amplifier.is_some() {
        return Vec::new();
    }
    let bulk = back.width_mm * back.height_mm * back.depth_mm * 1e-6;
    let mut f = finding(
        Severity::Note,
        LimitSource::DataSheet,
        "/cabinet/amplifier",
        "The amplifier has no place in the cabinet",
        format!(
            "Its sheet states a cut-out of {:.0} and {:.0} of depth; the cabinet has no place for it, and up to {:.1} of air are counted that it would fill. One that stands outside needs no measures on its sheet.",
            mm([back.width_mm, back.height_mm]),
            mm(back.depth_mm),
            litres(bulk),
        ),
        (bulk, "L"),
        None,
    );
    let at = |up: f64| Spot { face: Face::Back, across_mm: rounded(cabinet.width_mm / 2.0), up_mm: rounded(up) };
    // in the middle of the back, or where the terminal cup leaves room: above, below
    let places = [0.5, 0.7, 0.3].map(|part| at(cabinet.height_mm * part));
    let fits = |spot: &Spot| {
        let tried = case.with(&set(AmplifierSpace::BySheet { at: *spot }));
        tried.is_some_and(|a| clashing(&a) <= clashing(case))
    };
    if let Some(spot) = places.iter().find(|spot| fits(spot)) {
        f.remedies.extend(remedy(case, "Build it into the back", set(AmplifierSpace::BySheet { at: *spot }), |a| {
            Some(format!("{:.0} up; takes {:.1}", mm(spot.up_mm), litres(taken(a))))
        }));
    }
    vec![f]
}

/// A place that goes by the amplifier's sheet, and no sheet that states its measures.
pub fn amplifier_by_no_sheet(case: &Case) -> Vec<Finding> {
    let design = &case.design;
    let stands = design.cabinet.as_ref().is_some_and(|c| c.amplifier.is_some());
    if !stands || design.built_in().is_some() {
        return Vec::new();
    }
    let mut f = finding(
        Severity::Broken,
        LimitSource::DataSheet,
        "/cabinet/amplifier",
        "The amplifier's measures are not stated",
        "The cabinet has a place for the amplifier by its sheet, and the sheet at the Drive states neither cut-out nor depth: no hole is cut and no volume taken off for it.",
        (0.0, "L"),
        None,
    );
    let out = vec![Change::set("/cabinet/amplifier", serde_json::Value::Null)];
    f.remedies.extend(known(
        case,
        Remedy { title: "Leave it outside".into(), changes: out, predicted: "nothing else changes".into() },
    ));
    vec![f]
}

/// How far measures may lie apart before they are two, mm.
const APART: f64 = 1.0;

/// Measures in the cabinet that are not those of the amplifier's sheet.
pub fn amplifier_differs(case: &Case) -> Vec<Finding> {
    let design = &case.design;
    let stated = design.cabinet.as_ref().and_then(|c| c.amplifier);
    let (Some(built), Some(stated)) = (design.built_in(), stated) else { return Vec::new() };
    if matches!(stated, AmplifierSpace::BySheet { .. }) {
        return Vec::new();
    }
    let space = set(AmplifierSpace::BySheet { at: stated.at() });
    let Some(by_sheet) = case.with(&space) else { return Vec::new() };
    let Some(sheet) = by_sheet.design.built_in() else { return Vec::new() };
    let apart = [
        (built.width_mm - sheet.width_mm).abs(),
        (built.height_mm - sheet.height_mm).abs(),
        // a chamber may be as deep as one likes, if it is deep enough
        if sheet.own_chamber {
            (sheet.depth_mm - built.depth_mm).max(0.0)
        } else {
            (built.depth_mm - sheet.depth_mm).abs()
        },
    ];
    let most = apart.into_iter().fold(0.0, f64::max);
    let chamber = built.own_chamber != sheet.own_chamber;
    if most <= APART && !chamber {
        return Vec::new();
    }
    let severity = if sheet.own_chamber && chamber { Severity::Broken } else { Severity::Look };
    let why = if sheet.own_chamber && chamber {
        "its back is open: the box's pressure would work in it, and it wants a chamber of its own".to_owned()
    } else {
        format!(
            "the cabinet has {:.0} and {:.0} of depth for it, its sheet {:.0} and {:.0}",
            mm([built.width_mm, built.height_mm]),
            mm(built.depth_mm),
            mm([sheet.width_mm, sheet.height_mm]),
            mm(sheet.depth_mm)
        )
    };
    let mut f = finding(
        severity,
        LimitSource::DataSheet,
        "/cabinet/amplifier",
        "Not the amplifier of the sheet",
        format!("The amplifier at the Drive is another than the one the cabinet is made for: {why}."),
        (most, "mm"),
        Some(APART),
    );
    let before = taken(case);
    f.remedies.extend(remedy(case, "Take its measures from the sheet", space, |a| {
        Some(format!("takes {:.1} in place of {:.1}", litres(taken(a)), litres(before)))
    }));
    vec![f]
}
