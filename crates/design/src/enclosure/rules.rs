//! Rules about the box: its litres, its response, its fill.

use crate::analysis::Analysis;
use crate::analysis::dimensions::fitted;
use crate::analysis::folding::can_fold;
use crate::enclosure::section::deeper_by;
use crate::finding::{self, Finding, LimitSource, Severity, finding, low_end, remedy, rounded};
use crate::room::heard::{gain_around, held_by_brief};
use crate::trial::Case;
use oak_drum_acoustics::families::suggestions_of;
use oak_drum_acoustics::fill::FibreModel;
use oak_drum_document::{Change, Constraint, Shape, apply};
use oak_drum_text::{litres, mm};

const VOLUME: &str = "/enclosure/net_volume_l";

/// Depth (mm) at which the cabinet's net volume is what the design wants.
fn fitting_depth(analysis: &Analysis) -> Option<f64> {
    Some((analysis.design.cabinet.as_ref()?.depth_mm + deeper_by(analysis)?).round())
}

/// The net volume (L, to a thousandth or better) that a cabinet so changed holds, its port gone along; `None` in families without
/// one volume.
pub(crate) fn held_by(analysis: &Analysis, changes: &[Change]) -> Option<f64> {
    let mut document = serde_json::to_value(&analysis.design).ok()?;
    apply(&mut document, changes);
    let design = fitted(&serde_json::from_value(document).ok()?, &analysis.context, Constraint::Outside)?;
    let litres = serde_json::to_value(&design.enclosure).ok()?.get("net_volume_l")?.as_f64()?;
    let steps = if litres < 20.0 { 100.0 } else { 10.0 };
    Some((litres * steps).round() / steps).filter(|v| *v > 0.5)
}

fn balance(case: &Case, severity: Severity, title: &str) -> Option<Finding> {
    let ledger = case.ledger.as_ref()?;
    // what a path takes is told by its fold
    if can_fold(&case.design.enclosure) {
        return None;
    }
    let (net, wanted) = (ledger.net_l, ledger.wanted_net_l);
    let mut f = finding(
        severity,
        LimitSource::Physics,
        "/cabinet/depth_mm",
        title,
        format!(
            "The cabinet leaves {net:.1} of air; the design wants {wanted:.1}.",
            net = litres(net),
            wanted = litres(wanted)
        ),
        (net, "L"),
        Some(wanted),
    );
    if let Some(depth) = fitting_depth(case).filter(|d| *d > 60.0) {
        let changes = vec![Change::set("/cabinet/depth_mm", depth)];
        f.remedies.extend(remedy(case, format!("Cabinet {depth:.0} deep", depth = mm(depth)), changes, |a| {
            Some(format!(
                "{:.1} of air, {:.0} outside",
                litres(a.ledger.as_ref()?.net_l),
                litres(a.design.cabinet.as_ref()?.outside_l())
            ))
        }));
    }
    if let Some(volume) = held_by(case, &[]).filter(|_| net > 0.5) {
        f.remedies.extend(remedy(
            case,
            format!("Design for {volume}", volume = litres(volume)),
            vec![Change::set(VOLUME, volume)],
            |a| Some(format!("what this cabinet holds; {}", low_end(a))),
        ));
    }
    Some(f)
}

/// The cabinet holds at least 3 % less air than the design wants.
pub fn volume_missing(case: &Case) -> Vec<Finding> {
    let Some(ledger) = &case.ledger else { return Vec::new() };
    let missing = ledger.net_l < ledger.wanted_net_l * 0.97;
    missing.then(|| balance(case, Severity::Broken, "Air is missing")).flatten().into_iter().collect()
}

/// The cabinet holds at least 5 % more air than the design wants.
pub fn volume_left_over(case: &Case) -> Vec<Finding> {
    let Some(ledger) = &case.ledger else { return Vec::new() };
    let over = ledger.net_l > ledger.wanted_net_l * 1.05;
    over.then(|| balance(case, Severity::Look, "Air left over")).flatten().into_iter().collect()
}

/// Depth of a woofer that is deeper than the box, and what the box takes, mm.
pub(super) fn too_deep(analysis: &Analysis) -> Option<(f64, f64)> {
    let (cabinet, depth) = analysis.design.cabinet.as_ref().zip(analysis.design.woofer.depth_mm)?;
    // a woofer in a disc or on a folded path's boards looks another way: its clearances say what there is to say
    if matches!(cabinet.shape, Shape::Tube { .. }) || analysis.fold.is_some() {
        return None;
    }
    // from the baffle's face; 20 mm stay free behind the magnet for its vent (common practice)
    let room = cabinet.depth_mm - cabinet.panel_mm - 20.0;
    (depth > room).then_some((depth, room))
}

/// A woofer deeper than the box.
pub fn woofer_too_deep(case: &Case) -> Vec<Finding> {
    let Some(((depth, room), cabinet)) = too_deep(case).zip(case.design.cabinet.as_ref()) else {
        return Vec::new();
    };
    let wanted = (depth + cabinet.panel_mm + 20.0).ceil();
    let mut f = finding(
        Severity::Broken,
        LimitSource::Physics,
        "/cabinet/depth_mm",
        "Woofer deeper than the box",
        format!(
            "The woofer is {depth:.0} deep; the box takes {room:.0} with {} free behind the magnet.",
            mm(20.0),
            depth = mm(depth),
            room = mm(room)
        ),
        (depth, "mm"),
        Some(room),
    );
    let changes = vec![Change::set("/cabinet/depth_mm", wanted)];
    f.remedies.extend(remedy(case, format!("Cabinet {wanted:.0} deep", wanted = mm(wanted)), changes, |a| {
        Some(format!("{:.0} outside", litres(a.design.cabinet.as_ref()?.outside_l())))
    }));
    vec![f]
}

/// The flattest box of the same family, as changes to volume and tuning only.
fn flattest(analysis: &Analysis) -> Option<Vec<Change>> {
    let family = analysis.design.enclosure.info().id;
    let enclosure = suggestions_of(family, &analysis.context)
        .into_iter()
        .filter_map(|s| s.enclosure)
        .find(|enclosure| enclosure.info().id == family)?;
    let suggested = serde_json::to_value(enclosure).ok()?;
    let mut changes = vec![Change::set(VOLUME, suggested.get("net_volume_l")?.clone())];
    if let Some(sizing) = suggested.pointer("/port/sizing") {
        changes.push(Change::set("/enclosure/port/sizing", sizing.clone()));
    }
    Some(changes)
}

fn hump(analysis: &Analysis) -> f64 {
    analysis.edges().peak.0 - analysis.edges().reference_db
}

/// A hump of more than 2 dB above the level the woofer's efficiency gives.
pub fn response_humps(case: &Case) -> Vec<Finding> {
    const LIMIT: f64 = 2.0;
    // a box that plays in a band of its own, a horn or a dipole is not measured by the bare woofer's level
    if !case.wired.measured_by_efficiency || case.edges().reference_db >= case.edges().peak.0 || hump(case) <= LIMIT {
        return Vec::new();
    }
    let at = case.edges().peak.1;
    let mut f = finding(
        Severity::Look,
        LimitSource::CommonPractice,
        VOLUME,
        format!("Booms near {at:.0} Hz"),
        format!("The level stands {:.1} dB proud at {at:.0} Hz; more than {LIMIT:.0} dB is heard as boom.", hump(case)),
        (hump(case), "dB"),
        Some(LIMIT),
    );
    if let Some(changes) = flattest(case) {
        let title = format!("The flattest box: {}", litres(changes[0].value.as_f64().unwrap_or(0.0)));
        f.remedies.extend(remedy(case, title, changes, |a| {
            (hump(a) < hump(case)).then(|| format!("{:+.1} dB at most; {}", hump(a), low_end(a)))
        }));
    }
    vec![f]
}

/// How far the level at the lowest note (Hz) lies under the passband, dB; with what the room adds there over what it adds above,
/// where the brief is held to it.
fn sag(analysis: &Analysis, note: f64) -> f64 {
    let own = analysis.edges().reference_db.min(analysis.edges().peak.0) - analysis.at(note).level_db[0];
    let Some(room) = held_by_brief(analysis) else { return own };
    let conditions = &analysis.conditions;
    let added = |hz: f64| gain_around(analysis, room, hz, conditions.distance, conditions.solid_angle.steradians());
    let above = [2.0, 2.5, 3.2, 4.0].map(|times| added(note * times));
    own - (added(note) - above.iter().sum::<f64>() / above.len() as f64)
}

/// The level sags by more than 6 dB between the lowest note and the passband.
pub fn response_sags(case: &Case) -> Vec<Finding> {
    let Some(note) = case.design.brief.lowest_note_hz else { return Vec::new() };
    let under = sag(case, note);
    if under <= 6.0 {
        return Vec::new();
    }
    let there = if held_by_brief(case).is_some() { " at the seats of its room (an estimate)" } else { "" };
    let mut f = finding(
        Severity::Look,
        LimitSource::Brief,
        "/brief/lowest_note_hz",
        format!("Fades before {note:.1} Hz"),
        format!(
            "At {note:.1} Hz the level{there} is {under:.1} dB under the rest; more than 6 dB leaves the lowest note to the room and the equaliser."
        ),
        (under, "dB"),
        Some(6.0),
    );
    if case.design.enclosure.info().id == "vented" {
        let changes =
            vec![Change::set("/enclosure/port/sizing", serde_json::json!({"by": "tuning", "tuning_hz": note}))];
        f.remedies.extend(remedy(case, format!("Tune to {note:.1} Hz"), changes, |a| {
            (sag(a, note) < under - 0.5).then(|| format!("{:.1} dB under", sag(a, note)))
        }));
    }
    if let Some((at, net)) = finding::volume(case) {
        let volume = rounded(net * 1.6e3);
        f.remedies.extend(remedy(
            case,
            format!("{} instead", litres(rounded(volume))),
            vec![Change::set(at, volume)],
            |a| (sag(a, note) < under - 0.5).then(|| format!("{:.1} dB under", sag(a, note))),
        ));
    }
    vec![f]
}

/// A fill law used below the range it was fitted for.
pub fn fill_out_of_range(case: &Case) -> Vec<Finding> {
    let Some((model, sigma, _)) = case.wired.chambers.first().and_then(|c| c.fill.fibres()) else {
        return Vec::new();
    };
    let Some(from) = FibreModel::fitted_from(model, sigma) else { return Vec::new() };
    let note = case.lowest_note();
    if from <= note {
        return Vec::new();
    }
    let mut f = finding(
        Severity::Note,
        LimitSource::Physics,
        "/enclosure/fill",
        "Fill law stretched",
        format!(
            "Miki's law was fitted from {from:.0} Hz up for this material; below, take the figures as an estimate."
        ),
        (note, "Hz"),
        Some(from),
    );
    let changes = vec![Change::set("/enclosure/fill/model", "allard_champoux")];
    f.remedies.extend(remedy(case, "Take Allard and Champoux", changes, |a| {
        Some(format!(
            "goes to the isothermal limit as it should; acts like {:.0} % more air",
            (a.wired.chambers.first()?.fill_factor - 1.0) * 100.0
        ))
    }));
    vec![f]
}
