//! The dead end: a tuning whose port eats the box, with the nearest choices that exist.

use crate::airway::fit;
use crate::airway::port_volume::{displaced, in_room, room_of};
use crate::airway::speed::loudest_air;
use crate::analysis::Analysis;
use crate::analysis::inside::{Shell, chamber_of, place};
use crate::finding::{
    Finding, LimitSource, Remedy, Severity, along_with_cabinet, finding, first_step, low_end, remedy, rounded, value,
};
use crate::trial::{self, Case};
use oak_drum_acoustics::families::radiators::Mounted;
use oak_drum_acoustics::families::{Enclosure, PortReport, at};
use oak_drum_document::Change;
use oak_drum_text::{capital, litres, mm, square_cm};
use serde_json::json;

/// From this part of the net volume on, what the port takes is absurd (common practice).
const ABSURD: f64 = 0.5;

/// Whether a port is a dead end: no net volume goes with its length in this cabinet, it takes more than half as much as the
/// air it is tuned with, or it is too long even for three elbows.
pub(super) fn is_one(analysis: &Analysis, report: &PortReport) -> bool {
    let Some(chamber) = chamber_of(analysis, report) else { return false };
    if report.realised.out_of_reach {
        return false;
    }
    let eaten = displaced(analysis, &report.port, &report.realised) > ABSURD * chamber.net * 1e3;
    let none = room_of(analysis, report, chamber)
        .is_some_and(|room| room > 0.0 && !in_room(analysis, &report.port, chamber, room).exists);
    // a box that is not drawn yet may still be made long for its port
    let leeway = if analysis.design.cabinet.is_some() { 1.0 } else { 2.0 };
    eaten || none || report.realised.length * 1e3 > leeway * longest(analysis, report, 3)
}

/// Longest port with at most so many elbows, mm.
fn longest(analysis: &Analysis, report: &PortReport, elbows: u32) -> f64 {
    let (shell, stands) = (Shell::of(analysis), fit::stands(analysis, report));
    (0..=elbows).map(|e| fit::room(&shell, &report.port, stands, e)).fold(0.0, f64::max)
}

/// A port that no box of this size takes.
pub fn dead_end(case: &Case) -> Vec<Finding> {
    (0..case.wired.ports.len()).flat_map(|i| of(case, i)).collect()
}

fn of(case: &Case, i: usize) -> Option<Finding> {
    let report = case.wired.ports.get(i)?;
    if !is_one(case, report) {
        return None;
    }
    let chamber = chamber_of(case, report)?;
    let net = chamber.net * 1e3;
    let port_at = place(report);
    let volume_at = format!("/enclosure{}", chamber.pointer);
    let length = report.realised.length * 1e3;
    let taken = displaced(case, &report.port, &report.realised);
    let tuning = report.realised.tuning;
    let mut f = finding(
        Severity::Broken,
        LimitSource::Physics,
        &format!("{port_at}/section"),
        "A dead end",
        format!(
            "A {} would have to be {length:.0} long to tune {net:.1} to {tuning:.1} Hz, and take {taken:.1} for itself: no box of this size holds it.",
            report.port.section.words(),
            length = mm(length),
            net = litres(net),
            taken = litres(taken)
        ),
        (taken, "L"),
        Some(ABSURD * net),
    );
    let list: [Option<Remedy>; 6] = [
        smaller(case, i, &port_at),
        higher(case, i, &port_at),
        radiator(case, i),
        larger(case, i, &volume_at, net),
        shared(case, i, &volume_at, net, tuning, &port_at),
        folded(case, i, &port_at),
    ];
    f.remedies.extend(list.into_iter().flatten());
    Some(f)
}

/// The port after a change, where it is no longer a dead end and goes in with so many elbows as it has.
fn cured(analysis: &Analysis, i: usize) -> Option<&PortReport> {
    let report = analysis.wired.ports.get(i)?;
    let shell = Shell::of(analysis);
    let port = &report.port;
    let room = fit::room(&shell, port, fit::stands(analysis, report), port.elbows);
    (!is_one(analysis, report) && !report.realised.out_of_reach && report.realised.length * 1e3 <= room)
        .then_some(report)
}

/// The largest opening of this shape that goes in, and how fast its air is.
fn smaller(case: &Case, i: usize, port_at: &str) -> Option<Remedy> {
    let report = case.wired.ports.get(i)?;
    let section = |step: usize| report.port.section.scaled(0.9f64.powi(step as i32 + 1)).map_mm(f64::floor);
    let changes = |step: usize| vec![Change::set(format!("{port_at}/section"), value(section(step)))];
    let does = |step: usize| case.with(&changes(step)).is_some_and(|a| cured(&a, i).is_some());
    // down to a fiftieth of the area
    let step = first_step(37, does)?;
    let title = format!("{} instead", capital(&section(step).words()));
    remedy(case, title, changes(step), |a| {
        let report = cured(a, i)?;
        let (air, limit) = (loudest_air(a), report.port.quiet_speed());
        let loud = if air > limit { "; it will chuff" } else { "" };
        Some(format!(
            "{:.0} long; air {air:.0} m/s at this drive against {limit:.0}{loud}",
            mm(report.realised.length * 1e3)
        ))
    })
}

/// The lowest tuning that goes in with this opening.
fn higher(case: &Case, i: usize, port_at: &str) -> Option<Remedy> {
    let report = case.wired.ports.get(i)?;
    let mut tunings = Vec::new();
    let mut tuning = report.realised.tuning;
    while tuning < report.realised.highest_tuning * 0.98 && tuning < 290.0 {
        tuning = ((tuning * 1.03 + 0.25) * 2.0).ceil() / 2.0;
        tunings.push(tuning);
    }
    // the last may lie beyond what the opening reaches
    tunings.retain(|t| *t < report.realised.highest_tuning);
    let changes = |hz: f64| vec![Change::set(format!("{port_at}/sizing"), json!({"by": "tuning", "tuning_hz": hz}))];
    let does = |step: usize| case.with(&changes(tunings[step])).is_some_and(|a| cured(&a, i).is_some());
    let tuning = tunings[first_step(tunings.len(), does)?];
    remedy(case, format!("Tune to {tuning} Hz"), changes(tuning), |a| {
        Some(format!("{:.0} long; {}", mm(cured(a, i)?.realised.length * 1e3), low_end(a)))
    })
}

/// The smallest box of this tuning and opening that takes its port; a stated cabinet grows with it.
fn larger(case: &Case, i: usize, volume_at: &str, net: f64) -> Option<Remedy> {
    let mut volumes = Vec::new();
    let mut volume = net;
    while volume < net * 12.0 {
        volume = rounded(volume * 1.12);
        volumes.push(volume);
    }
    let sketched = |step: usize| trial::sketch(case, &[Change::set(volume_at, volumes[step])]);
    let first = first_step(volumes.len(), |step| sketched(step).is_some_and(|a| cured(&a, i).is_some()))?;
    // a sketch is not looked at closely: a little more may be wanted
    for volume in volumes.into_iter().skip(first).take(4) {
        let changes = vec![Change::set(volume_at, volume)];
        let found = along_with_cabinet(case, format!("A box of {}", litres(rounded(volume))), changes, |a| {
            Some(format!("port {:.0} long; {}", mm(cured(a, i)?.realised.length * 1e3), low_end(a)))
        });
        if found.is_some() {
            return found;
        }
    }
    None
}

/// Two woofers share a box more than twice as large, tuned a little lower.
fn shared(case: &Case, i: usize, volume_at: &str, net: f64, tuning: f64, port_at: &str) -> Option<Remedy> {
    let array = &case.design.array;
    if array.count > 8 || array.isobaric.is_some() {
        return None;
    }
    let lower = (tuning * 0.8 * 2.0).round() / 2.0;
    [2.5, 3.0, 4.0, 5.0, 6.5, 8.0].into_iter().find_map(|factor| {
        let volume = rounded(net * factor);
        let changes = vec![
            Change::set("/array/count", array.count * 2),
            Change::set(volume_at, volume),
            Change::set(format!("{port_at}/sizing"), json!({"by": "tuning", "tuning_hz": lower})),
        ];
        cured(&trial::sketch(case, &changes)?, i)?;
        let title = format!("{} woofers in {} at {lower} Hz", array.count * 2, litres(rounded(volume)));
        along_with_cabinet(case, title, changes, |a| {
            Some(format!(
                "port {:.0} long; {}; air {:.0} m/s",
                mm(cured(a, i)?.realised.length * 1e3),
                low_end(a),
                loudest_air(a)
            ))
        })
    })
}

/// The same course with the fewest elbows that do.
fn folded(case: &Case, i: usize, port_at: &str) -> Option<Remedy> {
    let report = case.wired.ports.get(i)?;
    (report.port.elbows + 1..=3).find_map(|elbows| {
        let changes = vec![Change::set(format!("{port_at}/elbows"), elbows)];
        remedy(case, format!("Fold it with {elbows} elbows"), changes, |a| {
            Some(format!("{:.0} along the centre line", mm(cured(a, i)?.realised.length * 1e3)))
        })
    })
}

/// A passive radiator of the same tuning in its place, where the family has but one chamber.
fn radiator(case: &Case, i: usize) -> Option<Remedy> {
    let report = case.wired.ports.get(i)?;
    if case.wired.chambers.len() != 1 {
        return None;
    }
    let chamber = chamber_of(case, report)?;
    let made = at("passive_radiator", &case.context, &[rounded(chamber.net * 1e3), report.realised.tuning])?;
    let Enclosure::PassiveRadiator(mut box_of) = made else { return None };
    box_of.fill = chamber.fill.clone();
    let r = &mut box_of.radiators;
    for figure in [&mut r.fs_hz, &mut r.vas_l, &mut r.sd_cm2, &mut r.added_mass_g] {
        *figure = rounded(*figure);
    }
    // beside the woofer, or where there is room for them
    [Mounted::BesideWoofer, Mounted::OppositeWoofer, Mounted::InOpposedPairs].into_iter().find_map(|mounted| {
        if mounted == Mounted::InOpposedPairs && !box_of.radiators.count.is_multiple_of(2) {
            return None;
        }
        let mut made = box_of.clone();
        made.radiators.mounted = mounted;
        let (count, sd) = (made.radiators.count, made.radiators.sd_cm2);
        let mut changes = vec![Change::set("/enclosure", value(Enclosure::PassiveRadiator(made)))];
        if case.design.cabinet.as_ref().is_some_and(|c| !c.openings_at.is_empty()) {
            changes.push(Change::set("/cabinet/openings_at", serde_json::Value::Null));
        }
        let each = if count > 1 { " each" } else { "" };
        along_with_cabinet(case, "A passive radiator instead", changes, |a| {
            let figure = |id: &str| a.wired.figures.iter().find(|f| f.id == id).map(|f| f.value);
            Some(format!(
                "{count} of {sd:.0}, {:.0} g moving{each}, tuned to {:.1} Hz; no port at all; {}",
                figure("radiator_mass_g")?,
                figure("fb_hz")?,
                low_end(a),
                sd = square_cm(sd)
            ))
        })
    })
}
