//! Rules about ports: reach, fit, air speed, pipe resonance.

use crate::airway::speed::loudest_air;
use crate::airway::{dead_end, fit, speed};
use crate::analysis::inside::{Shell, chamber_of, place};
use crate::analysis::{Analysis, slots, spots};
use crate::finding::{self, Finding, LimitSource, Severity, finding, low_end, remedy, say, value};
use crate::trial::Case;
use oak_drum_acoustics::families::PortReport;
use oak_drum_acoustics::port::{End, Section, Sizing};
use oak_drum_document::Change;
use oak_drum_text::{litres, mm, square_cm};
use serde_json::json;

/// Runs a rule for every port in turn.
fn each(case: &Case, rule: fn(&Case, usize) -> Vec<Finding>) -> Vec<Finding> {
    (0..case.wired.ports.len()).flat_map(|i| rule(case, i)).collect()
}

fn port_of(analysis: &Analysis, i: usize) -> Option<&PortReport> {
    analysis.wired.ports.get(i)
}

/// The longest port of this opening and course the cabinet takes, mm; and this one's length, mm.
fn room(analysis: &Analysis, report: &PortReport) -> Option<(f64, f64)> {
    analysis.design.cabinet.as_ref()?;
    let port = &report.port;
    let room = fit::room(&Shell::of(analysis), port, fit::stands(analysis, report), port.elbows);
    Some((room, report.realised.length * 1e3))
}

/// Whether a port goes into the cabinet, where there is one.
fn goes_in(analysis: &Analysis, report: &PortReport) -> bool {
    room(analysis, report).is_none_or(|(room, length)| length <= room + 0.6)
}

/// What of the ports cannot be built, in words.
pub(super) fn troubles(analysis: &Analysis) -> Vec<&'static str> {
    let mut list = Vec::new();
    for (i, report) in analysis.wired.ports.iter().enumerate() {
        if report.realised.out_of_reach {
            list.push("the tuning is out of reach");
        }
        if dead_end::is_one(analysis, report) {
            list.push("no box of this size takes the port");
        } else if !goes_in(analysis, report) {
            list.push("the port will not fit");
        }
        if standing_in_the_way(analysis, i).is_some() {
            list.push("the port meets woofer or wall");
        }
        if wider(analysis, report).is_some() {
            list.push("the opening is larger than the box");
        }
    }
    list.dedup();
    list
}

/// A wanted tuning that this opening cannot give in this box.
pub fn out_of_reach(case: &Case) -> Vec<Finding> {
    each(case, out_of_reach_of)
}

fn out_of_reach_of(case: &Case, i: usize) -> Vec<Finding> {
    let Some(report) = port_of(case, i).filter(|r| r.realised.out_of_reach) else { return Vec::new() };
    let port_at = place(report);
    let Sizing::Tuning { tuning_hz } = report.port.sizing else { return Vec::new() };
    let highest = report.realised.highest_tuning;
    let mut f = finding(
        Severity::Broken,
        LimitSource::Physics,
        &format!("{port_at}/sizing/tuning_hz"),
        "Tuning out of reach",
        format!(
            "{} already tunes the box to {highest:.1} Hz; {tuning_hz:.1} Hz is above that. The curves show {highest:.1} Hz.",
            if report.realised.length > 0.0 {
                "The shortest port of this size, its flares alone,"
            } else {
                "A bare hole of this size"
            }
        ),
        (tuning_hz, "Hz"),
        Some(highest),
    );
    let lower = (highest * 0.85 * 2.0).floor() / 2.0;
    let tune = vec![Change::set(format!("{port_at}/sizing"), json!({"by": "tuning", "tuning_hz": lower}))];
    f.remedies.extend(remedy(case, format!("Tune to {lower} Hz"), tune, |a| {
        Some(format!("port {:.0} long, {}", mm(port_of(a, i)?.realised.length * 1e3), low_end(a)))
    }));
    let factor = (tuning_hz / highest).powi(4) * 1.6;
    let larger =
        vec![Change::set(format!("{port_at}/section"), value(report.port.section.scaled(factor).map_mm(f64::ceil)))];
    f.remedies.extend(remedy(case, "A larger opening", larger, |a| {
        let r = port_of(a, i).filter(|r| !r.realised.out_of_reach && goes_in(a, r))?;
        Some(format!("{:.0}, {:.0} long", square_cm(r.realised.area * 1e4), mm(r.realised.length * 1e3)))
    }));
    vec![f]
}

/// A straight port longer than the depth leaves room for.
pub fn will_not_fit(case: &Case) -> Vec<Finding> {
    each(case, will_not_fit_of)
}

fn will_not_fit_of(case: &Case, i: usize) -> Vec<Finding> {
    let Some(report) = port_of(case, i) else { return Vec::new() };
    let port_at = place(report);
    let Some((room, length)) = room(case, report) else { return Vec::new() };
    if length <= room || room <= 0.0 || dead_end::is_one(case, report) {
        return Vec::new();
    }
    let course = match report.port.elbows {
        0 => "a straight one".to_owned(),
        1 => "one with an elbow".to_owned(),
        n => format!("one with {n} elbows"),
    };
    let free = if matches!(report.port.section, Section::Slot { .. }) { "one slot height" } else { "one diameter" };
    let mut f = finding(
        Severity::Broken,
        LimitSource::Physics,
        &format!("{port_at}/section"),
        "Port will not fit",
        format!(
            "The port must be {length:.0} long; the inside leaves {room:.0} for {course} with {free} free at its inner end.",
            length = mm(length),
            room = mm(room)
        ),
        (length, "mm"),
        Some(room),
    );
    let fits = |a: &Analysis| {
        let r = port_of(a, i)?;
        let (room, length) = self::room(a, r)?;
        (length <= room + 0.6).then_some(length)
    };
    // Smaller opening at the same tuning: the effective length is in proportion to the area.
    let section = |step: usize| report.port.section.scaled(0.97 * 0.93f64.powi(step as i32)).map_mm(f64::floor);
    let changes = |step: usize| vec![Change::set(format!("{port_at}/section"), value(section(step)))];
    // down to a tenth of the area
    let smaller = finding::first_step(32, |step| case.with(&changes(step)).is_some_and(|a| fits(&a).is_some()));
    if let Some(step) = smaller {
        let title = format!("{} instead", oak_drum_text::capital(&section(step).words()));
        f.remedies.extend(remedy(case, title, changes(step), |a| {
            Some(format!("{:.0} long, fits; air {:.0} m/s at this drive", mm(fits(a)?), loudest_air(a)))
        }));
    }
    // Folded: the fewest elbows that do
    let folded = (report.port.elbows + 1..=3).find_map(|elbows| {
        let changes = vec![Change::set(format!("{port_at}/elbows"), elbows)];
        let title =
            if elbows == 1 { "Fold it with an elbow".to_owned() } else { format!("Fold it with {elbows} elbows") };
        remedy(case, title, changes, |a| {
            fits(a)?;
            Some(format!(
                "{length:.0} along the centre line, {:.0} go in",
                mm(self::room(a, port_of(a, i)?)?.0),
                length = mm(length)
            ))
        })
    });
    f.remedies.extend(folded);
    // Higher tuning with the same opening: the length that fits gives it.
    let by_length = vec![Change::set(format!("{port_at}/sizing"), json!({"by": "length", "length_mm": room.floor()}))];
    if let Some(tuned) = case.with(&by_length) {
        let tuning = port_of(&tuned, i).map_or(0.0, |r| (r.realised.tuning * 10.0).ceil() / 10.0);
        let changes = vec![Change::set(format!("{port_at}/sizing"), json!({"by": "tuning", "tuning_hz": tuning}))];
        f.remedies.extend(remedy(case, format!("Tune to {tuning:.1} Hz"), changes, |a| {
            Some(format!("{:.0} long, fits; {}", mm(fits(a)?), low_end(a)))
        }));
    }
    if let Some(cabinet) = &case.design.cabinet {
        let depth = (cabinet.depth_mm + length - room).ceil();
        let changes = vec![Change::set("/cabinet/depth_mm", depth)];
        f.remedies.extend(remedy(case, format!("Cabinet {depth:.0} deep", depth = mm(depth)), changes, |a| {
            fits(a)?;
            Some(format!("fits; {:.0} outside", litres(a.design.cabinet.as_ref()?.outside_l())))
        }));
    }
    vec![f]
}

/// The port's flange or hole against the woofer's frame and the edges, where their places are stated.
pub fn meets_woofer(case: &Case) -> Vec<Finding> {
    each(case, meets_woofer_of)
}

/// What a port whose place is stated stands in the way of: the woofer's frame, or a wall.
fn standing_in_the_way(a: &Analysis, i: usize) -> Option<fit::Check> {
    let report = port_of(a, i)?;
    let chamber = chamber_of(a, report).filter(|c| c.inside.is_some())?;
    let there = fit::fit(a, report, Some(chamber), &Shell::of(a));
    there.checks.into_iter().find(|c| !c.passed && ["neighbour", "edge"].contains(&c.id.as_str()))
}

fn meets_woofer_of(case: &Case, i: usize) -> Vec<Finding> {
    let Some(report) = port_of(case, i) else { return Vec::new() };
    let Some(chamber) = chamber_of(case, report).filter(|c| c.inside.is_some()) else { return Vec::new() };
    let checks = |a: &Analysis| standing_in_the_way(a, i);
    let Some(check) = checks(case) else { return Vec::new() };
    let at = format!("/enclosure{}", chamber.part("inside"));
    let mut f = finding(
        Severity::Broken,
        LimitSource::Physics,
        &format!("{at}/opening_up_mm"),
        if check.id == "edge" { "Port runs into a wall" } else { "Port meets the woofer" },
        oak_drum_text::capital(&format!("{}.", check.sentence)),
        (check.figure_mm, "mm"),
        Some(check.limit_mm),
    );
    // the nearest place that does, searched outward
    if let Some(inside) = chamber.inside {
        let (w, h) = (inside.width_mm, inside.height_mm);
        let mut places: Vec<(f64, f64)> =
            (0..=24).flat_map(|k| (0..=24).map(move |l| (w * f64::from(k) / 24.0, h * f64::from(l) / 24.0))).collect();
        let away = |(x, y): &(f64, f64)| (x - inside.opening_across_mm).hypot(y - inside.opening_up_mm);
        places.sort_by(|a, b| away(a).total_cmp(&away(b)));
        let found = places.into_iter().find_map(|(x, y)| {
            let (x, y) = (x.round(), y.round());
            let changes =
                vec![Change::set(format!("{at}/opening_across_mm"), x), Change::set(format!("{at}/opening_up_mm"), y)];
            let trial = case.with(&changes)?;
            checks(&trial).is_none().then_some((x, y, changes))
        });
        if let Some((x, y, changes)) = found {
            let title = format!("Port to {x:.0} across, {y:.0} up", x = mm(x), y = mm(y));
            f.remedies.extend(remedy(case, title, changes, |a| {
                checks(a).is_none().then(|| "clear of frame and walls".into())
            }));
        }
    }
    vec![f]
}

/// An opening wider or higher than the inside of the cabinet.
pub fn wider_than_box(case: &Case) -> Vec<Finding> {
    each(case, wider_than_box_of)
}

/// Size of an opening that is larger than the baffle's inside, and that inside, mm.
fn wider(analysis: &Analysis, report: &PortReport) -> Option<([f64; 2], [f64; 2])> {
    let cabinet = analysis.design.cabinet.as_ref()?;
    let (w, h) = report.port.section.size();
    let [inside_w, inside_h, _] = cabinet.inside_mm();
    let (w, h) = (w * 1e3, h * 1e3);
    let fits = (w <= inside_w && h <= inside_h) || (h <= inside_w && w <= inside_h);
    (!fits).then_some(([w, h], [inside_w, inside_h]))
}

fn wider_than_box_of(case: &Case, i: usize) -> Vec<Finding> {
    let Some(report) = port_of(case, i) else { return Vec::new() };
    let Some(([w, h], [inside_w, inside_h])) = wider(case, report) else { return Vec::new() };
    let port_at = place(report);
    let room = inside_w.max(inside_h);
    vec![finding(
        Severity::Broken,
        LimitSource::Physics,
        &format!("{port_at}/section"),
        "Opening larger than the box",
        format!(
            "The opening is {sides:.0}; the inside of the baffle is {inside:.0}.",
            sides = mm([w, h]),
            inside = mm([inside_w, inside_h])
        ),
        (w.max(h), "mm"),
        Some(room),
    )]
}

/// A port of boards that the cabinet does not take as it is stated.
pub fn not_as_stated(case: &Case) -> Vec<Finding> {
    each(case, |case, i| {
        let (Some(report), Some(cabinet)) = (port_of(case, i), &case.design.cabinet) else { return Vec::new() };
        let Some(sentence) = slots::not_as_stated(cabinet, report) else { return Vec::new() };
        let length = report.realised.length * 1e3;
        let mut f = finding(
            Severity::Look,
            LimitSource::Physics,
            &format!("{}/section", place(report)),
            "The port is not built as stated",
            sentence,
            (length, "mm"),
            None,
        );
        let built = spots::alongside(cabinet, &report.port);
        if report.port.walls_alongside >= 3 && built == 1 {
            let told = vec![Change::set(format!("{}/walls_alongside", place(report)), built)];
            f.remedies.extend(remedy(case, "Reckon with one wall alongside", told, |a| {
                let r = port_of(a, i)?;
                Some(format!("{:.0} long for {:.1} Hz; {}", mm(r.realised.length * 1e3), r.realised.tuning, low_end(a)))
            }));
        }
        vec![f]
    })
}

/// Air faster than common practice allows at the drive chosen.
pub fn air_fast(case: &Case) -> Vec<Finding> {
    each(case, air_fast_of)
}

fn air_fast_of(case: &Case, i: usize) -> Vec<Finding> {
    let Some(report) = port_of(case, i) else { return Vec::new() };
    let port_at = place(report);
    let air = |a: &Analysis| speed::fastest_in(a, port_of(a, i)?);
    let Some((speed, at)) = air(case) else { return Vec::new() };
    let own = case.context.air_limit;
    let limit = own.unwrap_or(report.port.quiet_speed());
    if speed <= limit {
        return Vec::new();
    }
    let flared = report.port.quiet_speed() > 20.0;
    let volts = say(case.context.source.volts);
    let mut f = finding(
        Severity::Look,
        if own.is_some() { LimitSource::Brief } else { LimitSource::CommonPractice },
        &format!("{port_at}/section"),
        format!("Air is loud near {at:.0} Hz"),
        match own {
            Some(_) => format!("{speed:.1} m/s at {at:.0} Hz with {volts} V; the brief allows {limit:.0} m/s."),
            None => format!(
                "{speed:.1} m/s at {at:.0} Hz with {volts} V; {} start to chuff at {limit:.0} m/s.",
                if flared { "flared ends" } else { "straight ends" }
            ),
        },
        (speed, "m/s"),
        Some(limit),
    );
    if !flared {
        let (w, h) = report.port.section.size();
        let radius = (w.min(h) * 1e3 * 0.15).round().clamp(5.0, 40.0);
        let end = value(End::Flared { radius_mm: radius });
        let changes = vec![
            Change::set(format!("{port_at}/inner_end"), end.clone()),
            Change::set(format!("{port_at}/outer_end"), end),
        ];
        f.remedies.extend(remedy(case, format!("Flare both ends, {radius:.0}", radius = mm(radius)), changes, |a| {
            let limit = port_of(a, i)?.port.quiet_speed();
            Some(format!(
                "{:.0} m/s against {limit:.0}; port {:.0} long",
                air(a)?.0,
                mm(port_of(a, i)?.realised.length * 1e3)
            ))
        }));
    }
    let factor = speed / limit * 1.05;
    let section = report.port.section.scaled(factor).map_mm(f64::ceil);
    let changes = vec![Change::set(format!("{port_at}/section"), value(section))];
    let title = format!("{} instead", oak_drum_text::capital(&section.words()));
    f.remedies.extend(remedy(case, title, changes, |a| {
        let (before, after) = (report.realised.length, port_of(a, i)?.realised.length);
        let longer = if before > 0.0 { format!(", {:.1} x longer", after / before) } else { String::new() };
        Some(format!("{:.0} m/s; {:.0} long{longer}", air(a)?.0, mm(after * 1e3)))
    }));
    vec![f]
}

/// A first pipe resonance so low that it colours what the woofer plays (common practice: under 300 Hz; 450 Hz is
/// still harmless for a subwoofer).
pub fn pipe_resonance_low(case: &Case) -> Vec<Finding> {
    each(case, pipe_resonance_low_of)
}

fn pipe_resonance_low_of(case: &Case, i: usize) -> Vec<Finding> {
    const HARMLESS: f64 = 300.0;
    let Some(report) = port_of(case, i) else { return Vec::new() };
    let port_at = place(report);
    let resonance = case.context.air.c / (2.0 * report.realised.effective_length);
    if resonance >= HARMLESS {
        return Vec::new();
    }
    let length = report.realised.length * 1e3;
    let mut f = finding(
        Severity::Note,
        LimitSource::CommonPractice,
        &format!("{port_at}/section"),
        format!("Port rings at {resonance:.0} Hz"),
        format!(
            "A port of {length:.0} sounds like a pipe at {resonance:.0} Hz; keep what you send it an octave below, or shorten it.",
            length = mm(length)
        ),
        (resonance, "Hz"),
        Some(HARMLESS),
    );
    let section = report.port.section.scaled(resonance / HARMLESS * 0.95).map_mm(f64::floor);
    let changes = vec![Change::set(format!("{port_at}/section"), value(section))];
    f.remedies.extend(remedy(case, "A smaller opening", changes, |a| {
        let r = port_of(a, i).filter(|r| goes_in(a, r))?;
        let first = a.context.air.c / (2.0 * r.realised.effective_length);
        Some(format!("rings at {first:.0} Hz; air {:.0} m/s at this drive", loudest_air(a)))
    }));
    vec![f]
}
