//! What to do about a measured difference: each with the changes that make it a revision.

use crate::airway::trim::{TrimWish, trim};
use crate::analysis::Analysis;
use crate::prove::as_built::AsBuilt;
use crate::prove::box_fit::leak_area;
use crate::prove::unknown::{Unknown, varied};
use oak_drum_document::{Change, Checked, apply, read_current};
use oak_drum_text::{Text, litres, square_mm};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// One thing to do.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Cure {
    /// A stable name.
    pub id: String,
    /// What is done, in a few words.
    pub title: Text,
    /// What comes of it.
    pub sentence: Text,
    /// The changes to the design; empty where it is done at the box alone.
    pub changes: Vec<Change>,
}

/// What to do about values of unknowns that a fit came to: trims of the port or the radiators, a leak to be found, or the design kept as
/// it was measured. Only what can be taken as a design is offered.
pub fn cures(design: &Checked, built: &AsBuilt, values: &[(Unknown, f64)]) -> Vec<Cure> {
    let of = |unknown: Unknown| values.iter().find(|(u, _)| *u == unknown).map(|(_, v)| *v);
    let mut list = Vec::new();
    let Some(measured) = varied(built, values) else { return list };
    let kept = keep(design, built, values);
    if let Some(q) = of(Unknown::Leak).filter(|q| *q < 5.0) {
        let gap = square_mm(leak_area(&measured, q) * 1e6);
        list.push(Cure {
            id: "leak".into(),
            title: "Find the leak".into(),
            sentence: format!(
                "A gap of about {gap:.0}. Play a low tone and feel along joints, terminals, gasket and screws with a wet hand or a smoking match held well away from dust and solvents; seal it and measure again before anything is cut."
            )
            .into(),
            changes: Vec::new(),
        });
    }
    let tuned = |analysis: &Analysis| analysis.wired.ports.iter().find(|p| p.outside).map(|p| p.realised.tuning);
    let ways = match (tuned(&measured), measured.wired.ports.iter().find(|p| p.outside)) {
        (Some(hz), Some(port)) if of(Unknown::Port).is_some() || of(Unknown::Volume).is_some() => {
            // what was found about the volume is in the design before its port is trimmed
            let volume: Vec<(Unknown, f64)> = values.iter().copied().filter(|(u, _)| *u == Unknown::Volume).collect();
            let base = changed(design, &keep(design, built, &volume));
            let wish = TrimWish {
                pointer: format!("/enclosure{}", port.pointer),
                measured_hz: hz,
                wanted_hz: tuned(&built.analysis),
                built_mm: tuned_length(built),
            };
            base.and_then(|base| trim(&base, &wish).ok()).map(|t| (t, keep(design, built, &volume), hz))
        }
        _ => None,
    };
    if let Some((trim, before, hz)) = ways {
        for (i, way) in trim.ways.into_iter().enumerate() {
            let mut sentence = Text::from(format!("From the {hz:.1} Hz measured to {:.1} Hz: ", trim.wanted_hz));
            sentence.add(way.sentence);
            list.push(Cure {
                id: format!("trim_{i}"),
                title: way.title,
                sentence,
                changes: before.iter().cloned().chain(way.changes).collect(),
            });
        }
    }
    if let Some(k) = of(Unknown::RadiatorMass) {
        let tuning = |a: &Analysis| a.wired.figures.iter().find(|f| f.id == "fb_hz").map(|f| f.value);
        if let Some((now, wanted)) = tuning(&measured).zip(tuning(&built.analysis)).filter(|_| (k - 1.0).abs() > 0.002)
        {
            let wish = TrimWish {
                pointer: "/enclosure/radiators".into(),
                measured_hz: now,
                wanted_hz: Some(wanted),
                built_mm: None,
            };
            for (i, way) in trim(design, &wish).map_or_else(|_| Vec::new(), |t| t.ways).into_iter().enumerate() {
                list.push(Cure {
                    id: format!("trim_{i}"),
                    title: way.title,
                    sentence: way.sentence,
                    changes: way.changes,
                });
            }
        }
    }
    if !kept.is_empty() {
        let net = measured.wired.chambers.iter().find(|c| !c.pointer.is_empty()).map_or(0.0, |c| c.net * 1e3);
        let mut sentence = Text::from("The design then shows what was measured; nothing is cut.");
        if of(Unknown::Volume).is_some() {
            sentence.add(format!(" It holds {:.1}.", litres(net)));
        }
        list.push(Cure {
            id: "keep".into(),
            title: "Leave it, and keep what was measured".into(),
            sentence,
            changes: kept,
        });
    }
    list.retain(|cure| cure.changes.is_empty() || changed(design, &cure.changes).is_some());
    list
}

/// The length the outer port was built with, mm.
fn tuned_length(built: &AsBuilt) -> Option<f64> {
    built.analysis.wired.ports.iter().find(|p| p.outside).map(|p| p.realised.length * 1e3)
}

/// The changes that put what was found into the design itself.
fn keep(design: &Checked, built: &AsBuilt, values: &[(Unknown, f64)]) -> Vec<Change> {
    let mut list = Vec::new();
    let Some(found) = crate::prove::unknown::changes(built, values) else { return list };
    let port = built.analysis.wired.ports.iter().find(|p| p.outside);
    let sizing = port.map(|p| format!("/enclosure{}/sizing", p.pointer));
    for change in found {
        // a port's length was cut and stays; what is off are its ends
        if Some(&change.pointer) != sizing.as_ref() {
            list.push(rounded(change));
        }
    }
    if values.iter().any(|(u, _)| *u == Unknown::Port)
        && let Some((port, measured)) = port.zip(varied(built, values))
        && let Some(hz) = measured.wired.ports.iter().find(|p| p.outside).map(|p| p.realised.tuning)
    {
        let volume: Vec<(Unknown, f64)> = values.iter().copied().filter(|(u, _)| *u == Unknown::Volume).collect();
        let base =
            if volume.is_empty() { Some(design.clone()) } else { changed(design, &keep(design, built, &volume)) };
        let wish = TrimWish {
            pointer: format!("/enclosure{}", port.pointer),
            measured_hz: hz,
            wanted_hz: None,
            built_mm: tuned_length(built),
        };
        if let Some(trim) = base.and_then(|b| trim(&b, &wish).ok()) {
            list.extend(trim.keep);
        }
    }
    list
}

/// A number to five digits: what is kept is read by people.
fn rounded(change: Change) -> Change {
    match change.value.as_f64() {
        Some(v) if v != 0.0 => {
            let scale = 10f64.powi(4 - v.abs().log10().floor() as i32);
            Change::set(change.pointer, (v * scale).round() / scale)
        }
        _ => change,
    }
}

/// The design with changes, where it may stand.
pub fn changed(design: &Checked, changes: &[Change]) -> Option<Checked> {
    let mut document = serde_json::to_value(design).ok()?;
    apply(&mut document, changes);
    read_current(document).ok()
}
