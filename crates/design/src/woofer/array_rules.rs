//! Rules about isobaric pairs.

use crate::analysis::Analysis;
use crate::analysis::tunnel::tunnel;
use crate::finding::{self, Finding, LimitSource, Severity, finding, remedy, rounded};
use crate::trial::Case;
use crate::woofer::arrangement::{LeastChamber, isobaric, least_chamber};
use oak_drum_document::{Change, Mounting};
use oak_drum_text::{litres, mm};

/// The least air between the cones; a tunnel of boards is square and wider than the cut-out.
fn least_air(analysis: &Analysis, mounting: Mounting) -> Option<LeastChamber> {
    let design = &analysis.design;
    let mut least = least_chamber(&design.woofer, mounting)?;
    if let (Some(cabinet), Some(tunnel)) = (&design.cabinet, tunnel(design, analysis.fold.is_some())) {
        least.volume_l = least.volume_l.max(tunnel.air_for(least.depth_mm, cabinet.baffle_mm));
    }
    Some(least)
}

/// Less air between the cones than magnet and excursions leave room for (an estimate from the sheet's sizes).
pub fn isobaric_too_shallow(case: &Case) -> Vec<Finding> {
    let design = &case.design;
    let Some(pair) = design.array.isobaric else { return Vec::new() };
    let Some(least) = least_air(case, pair.mounting) else { return Vec::new() };
    if pair.chamber_l >= least.volume_l * 0.995 {
        return Vec::new();
    }
    let mut f = finding(
        Severity::Broken,
        LimitSource::Physics,
        "/array/isobaric/chamber_l",
        "The cones would strike",
        format!(
            "{} between the cones leave too little room: magnet and strokes need {:.0} between the mounting faces, about {} (an estimate; measure the stack before cutting).",
            litres(rounded(pair.chamber_l)),
            mm(least.depth_mm),
            litres(rounded(least.volume_l))
        ),
        (pair.chamber_l, "L"),
        Some(least.volume_l),
    );
    let enough = (least.volume_l * 10.0).ceil() / 10.0;
    let changes = vec![Change::set("/array/isobaric/chamber_l", enough)];
    f.remedies.extend(remedy(case, format!("{} between the cones", litres(rounded(enough))), changes, |a| {
        Some(format!("{:.0} between the faces; {}", mm(least.depth_mm), finding::low_end(a)))
    }));
    vec![f]
}

/// So much air between the cones that they part within the band: more than 1 dB off a pair tied together.
pub fn isobaric_uncouples(case: &Case) -> Vec<Finding> {
    let design = &case.design;
    let Some(pair) = design.array.isobaric else { return Vec::new() };
    let top = design.brief.plays_to();
    let assumed = if design.brief.plays_to_hz.is_none() { ", as is usual" } else { "" };
    let Some(at) = isobaric(case).and_then(|i| i.uncouples_hz).filter(|f| *f < top) else {
        return Vec::new();
    };
    let mut f = finding(
        Severity::Look,
        LimitSource::Physics,
        "/array/isobaric/chamber_l",
        format!("The pair uncouples at {at:.0} Hz"),
        format!(
            "With {} between them the pair is more than 1 dB off one whose cones are tied together, from {at:.0} Hz on; it plays up to {top:.0} Hz{assumed}. Keep the air between them as small as magnet and strokes allow.",
            litres(rounded(pair.chamber_l))
        ),
        (at, "Hz"),
        Some(top),
    );
    let least = least_air(case, pair.mounting).map_or(pair.chamber_l / 3.0, |l| l.volume_l);
    let less = (least.max(0.1) * 10.0).ceil() / 10.0;
    if less < pair.chamber_l {
        let changes = vec![Change::set("/array/isobaric/chamber_l", less)];
        f.remedies.extend(remedy(case, format!("{} between the cones", litres(rounded(less))), changes, |a| {
            let after = isobaric(a)?.uncouples_hz;
            (after.is_none_or(|x| x > at * 1.05))
                .then(|| after.map_or("together up to 800 Hz".into(), |x| format!("together up to {x:.0} Hz")))
        }));
    }
    vec![f]
}
