//! Rules about the woofer's sheet.

use crate::finding::{Finding, LimitSource, Severity, finding, remedy};
use crate::trial::Case;
use oak_drum_document::Change;

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

/// Without Xmax and rated power there is no highest level.
pub fn limits_not_stated(case: &Case) -> Vec<Finding> {
    let woofer = &case.design.woofer;
    let missing: Vec<&str> = [("Xmax", woofer.xmax_mm), ("rated power", woofer.power_w)]
        .iter()
        .filter(|m| m.1.is_none())
        .map(|m| m.0)
        .collect();
    if missing.is_empty() {
        return Vec::new();
    }
    let pointer = if woofer.xmax_mm.is_none() { "/woofer/xmax_mm" } else { "/woofer/power_w" };
    vec![finding(
        Severity::Note,
        LimitSource::DataSheet,
        pointer,
        "No limit stated",
        format!("Without {} the highest level is only as honest as what is left.", missing.join(" and ")),
        (missing.len() as f64, ""),
        None,
    )]
}
