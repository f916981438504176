//! Rules about the woofer's sheet.

use super::{Finding, Severity, Whose, finding, remedy, say};
use crate::analysis::{Analysis, Change};

/// How a field is called on a sheet, and its unit.
fn name(field: &str) -> (&str, &str) {
    match field {
        "qts" => ("Qts", ""),
        "mms_g" => ("Mms", "g"),
        "cms_mm_per_n" => ("Cms", "mm/N"),
        "rms_n_s_per_m" => ("Rms", "N·s/m"),
        "bl_t_m" => ("Bl", "T·m"),
        "sensitivity_db" => ("the sensitivity", "dB"),
        other => (other, ""),
    }
}

/// Figures of the sheet that do not go together: more than 3 % for parameters; for the sensitivity, which is
/// rarely an average of the same band, more than 1.5 dB.
pub fn sheet_contradicts_itself(analysis: &Analysis) -> Vec<Finding> {
    analysis
        .contradictions
        .iter()
        .filter(|c| match c.field.as_str() {
            "sensitivity_db" => (c.stated - c.derived).abs() > 1.5,
            _ => c.percent.abs() > 3.0,
        })
        .map(|c| {
            let (what, unit) = name(&c.field);
            let pointer = format!("/woofer/{}", c.field);
            let sentence = if c.field == "sensitivity_db" {
                format!(
                    "It states {} dB at 2.83 V; fs, Vas, Qes and Re give {} dB. A sheet rarely errs on the quiet side. The simulation uses the latter.",
                    say(c.stated),
                    say(c.derived)
                )
            } else {
                format!(
                    "It states {what} {} {unit}; fs, Q, Vas, Re and Sd give {} {unit}, {:.0} % apart. The simulation uses the latter; measure before you cut.",
                    say(c.stated),
                    say(c.derived),
                    c.percent.abs()
                )
            };
            let mut f = finding(
                Severity::Look,
                Whose::DataSheet,
                ("woofer", &pointer),
                format!("The sheet contradicts itself: {what}"),
                sentence,
                (c.stated, unit),
                Some(c.derived),
            );
            let leave = vec![Change::set(pointer.clone(), serde_json::Value::Null)];
            f.remedies.extend(remedy(analysis, format!("Leave {what} out"), leave, |_| Some("derived from the rest".into())));
            f
        })
        .collect()
}

/// Without Xmax and rated power there is no highest level.
pub fn limits_not_stated(analysis: &Analysis) -> Vec<Finding> {
    let woofer = &analysis.design.woofer;
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
        Whose::DataSheet,
        ("woofer", pointer),
        "No limit stated",
        format!("Without {} the highest level is only as honest as what is left.", missing.join(" and ")),
        (missing.len() as f64, ""),
        None,
    )]
}
