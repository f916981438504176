//! Rules about the woofer's sheet.

use super::likely::{USUAL_W, likely_xmax_mm};
use crate::finding::{Finding, LimitSource, Severity, finding, remedy};
use crate::trial::Case;
use oak_drum_document::Change;
use oak_drum_text::{capital, travel};

/// Figures of the sheet that do not go together.
pub fn sheet_contradicts_itself(case: &Case) -> Vec<Finding> {
    case.woofer
        .contradictions
        .iter()
        .filter(|c| c.matters())
        .map(|c| {
            let (what, unit) = c.name();
            let pointer = format!("/woofer/{}", c.field);
            let mut f = finding(
                Severity::Look,
                LimitSource::DataSheet,
                &pointer,
                format!("The sheet contradicts itself: {what}"),
                c.sentence(),
                (c.stated, unit),
                Some(c.derived),
            );
            let leave = vec![Change::set(pointer.clone(), serde_json::Value::Null)];
            f.remedies
                .extend(remedy(case, format!("Leave {what} out"), leave, |_| Some("derived from the rest".into())));
            f
        })
        .collect()
}

/// A limit that a sheet may leave out.
struct Limit {
    field: &'static str,
    name: &'static str,
    means: &'static str,
    likely: f64,
}

/// Without Xmax and rated power there is no highest level: it was not judged, and a likely value is offered.
pub fn limits_not_stated(case: &Case) -> Vec<Finding> {
    let woofer = &case.design.woofer;
    let stroke = likely_xmax_mm(case.woofer.ts.sd);
    let xmax = Limit { field: "xmax_mm", name: "Xmax", means: "how far the cone may go", likely: stroke };
    let power = Limit { field: "power_w", name: "rated power", means: "what the coil takes", likely: USUAL_W };
    let open: Vec<Limit> = [(woofer.xmax_mm, xmax), (woofer.power_w, power)]
        .into_iter()
        .filter_map(|(stated, limit)| stated.is_none().then_some(limit))
        .collect();
    let Some(first) = open.first() else { return Vec::new() };
    let list = |of: fn(&Limit) -> &'static str| open.iter().map(of).collect::<Vec<_>>().join(" and ");
    let mut f = finding(
        Severity::Look,
        LimitSource::DataSheet,
        &format!("/woofer/{}", first.field),
        format!("No {} stated", list(|l| l.name)),
        format!("{} was not judged: how loud it plays is told without it.", capital(&list(|l| l.means))),
        (open.len() as f64, ""),
        None,
    );
    let changes = open.iter().map(|l| Change::set(format!("/woofer/{}", l.field), l.likely));
    let title = match (woofer.xmax_mm, woofer.power_w) {
        (None, None) => format!("Reckon with an Xmax of {:.1} and {USUAL_W:.0} W", travel(stroke)),
        (None, Some(_)) => format!("Reckon with an Xmax of {:.1}", travel(stroke)),
        _ => format!("Reckon with {USUAL_W:.0} W"),
    };
    f.remedies.extend(remedy(case, title, changes.collect(), |a| {
        let most = a.loudest()?;
        Some(format!("a cautious guess: up to {:.0} V then; its own figures when you have them", most.volts))
    }));
    vec![f]
}
