//! Rules about the brief, and cautions for people.

use crate::analysis::Analysis;
use crate::brief::purpose::Purpose;
use crate::cabinet::lifting::{Lifting, ONE_LIFTS};
use crate::finding::{Finding, LimitSource, Severity, finding, low_end, remedy, rounded, say};
use crate::room::heard::{gain_around, held_by_brief};
use crate::trial::Case;
use oak_drum_acoustics::level::SolidAngle;
use oak_drum_acoustics::outputs::LimitingFactor;
use oak_drum_acoustics::path::MouthPlace;
use oak_drum_acoustics::port::End;
use oak_drum_document::Change;
use oak_drum_text::{capital, kg, litres, metres, mm};

/// The cabinet is larger than may stand there.
pub fn box_over_brief(case: &Case) -> Vec<Finding> {
    let Some((limit, cabinet)) = case.design.brief.largest_outside_l.zip(case.design.cabinet.as_ref()) else {
        return Vec::new();
    };
    let outside = cabinet.outside_l();
    if outside <= limit * 1.005 {
        return Vec::new();
    }
    let mut f = finding(
        Severity::Look,
        LimitSource::Brief,
        "/cabinet/depth_mm",
        "Larger than wanted",
        format!(
            "The cabinet takes {outside:.0} of the room; the brief allows {limit:.0}.",
            outside = litres(outside),
            limit = litres(limit)
        ),
        (outside, "L"),
        Some(limit),
    );
    let small_enough = |a: &Analysis| {
        let there = a.design.cabinet.as_ref()?.outside_l();
        (there <= limit * 1.005).then(|| format!("{there:.0} outside; {}", low_end(a), there = litres(there)))
    };
    let depth = (cabinet.depth_mm * limit / outside).floor();
    let smaller = vec![Change::set("/cabinet/depth_mm", depth)];
    if let Some(volume) = crate::enclosure::rules::held_by(case, &smaller).filter(|n| *n > 1.0) {
        let changes = vec![smaller[0].clone(), Change::set("/enclosure/net_volume_l", volume)];
        f.remedies.extend(remedy(
            case,
            format!("{depth:.0} deep, {volume} net", depth = mm(depth), volume = litres(volume)),
            changes,
            small_enough,
        ));
    }
    // every side shorter, and the ports' areas with the volume, so that they keep about their length
    let k = (limit / outside).cbrt();
    let sides = [("width", cabinet.width_mm), ("height", cabinet.height_mm), ("depth", cabinet.depth_mm)];
    let mut smaller: Vec<Change> =
        sides.iter().map(|(side, mm)| Change::set(format!("/cabinet/{side}_mm"), (mm * k).floor())).collect();
    for report in &case.wired.ports {
        let section = report.port.section.scaled(k.powi(3)).map_mm(f64::floor);
        let value = serde_json::to_value(section).unwrap_or_default();
        smaller.push(Change::set(format!("/enclosure{}/section", report.pointer), value));
    }
    if let Some(volume) = crate::enclosure::rules::held_by(case, &smaller).filter(|n| *n > 1.0) {
        let [w, h, d] = sides.map(|(_, mm)| (mm * k).floor());
        smaller.push(Change::set("/enclosure/net_volume_l", volume));
        let title = format!("{sides:.0}, {volume} net", sides = mm([w, h, d]), volume = litres(volume));
        f.remedies.extend(remedy(case, title, smaller, small_enough));
    }
    vec![f]
}

/// Nobody said what it is for: nothing is held against a note or a level.
pub fn brief_not_stated(case: &Case) -> Vec<Finding> {
    let brief = &case.design.brief;
    let open: Vec<&str> = [("a lowest note", brief.lowest_note_hz), ("a level", brief.level_db)]
        .iter()
        .filter(|(_, stated)| stated.is_none())
        .map(|(name, _)| *name)
        .collect();
    if open.is_empty() {
        return Vec::new();
    }
    let mut f = finding(
        Severity::Note,
        LimitSource::Brief,
        if brief.lowest_note_hz.is_none() { "/brief/lowest_note_hz" } else { "/brief/level_db" },
        "What it is for is not stated",
        format!("Without {} it was not judged whether this plays low and loud enough.", open.join(" and ")),
        (open.len() as f64, ""),
        None,
    );
    // what is stated stays; the rest is as usual for what builders build most
    for info in [Purpose::Music, Purpose::Films, Purpose::BassGuitar].map(Purpose::info) {
        let stated = [
            ("lowest_note_hz", brief.lowest_note_hz, info.lowest_note_hz),
            ("level_db", brief.level_db, info.level_db),
            ("distance_m", brief.distance_m, info.distance_m),
        ];
        let open = stated.iter().filter(|(_, own, _)| own.is_none());
        let changes = open.map(|(field, _, usual)| Change::set(format!("/brief/{field}"), *usual)).collect();
        f.remedies.extend(remedy(case, info.title, changes, |a| {
            let brief = &a.design.brief;
            Some(format!("{:.0} Hz, {:.0} dB there", brief.lowest_note_hz?, brief.level_db?))
        }));
    }
    vec![f]
}

/// What has a price comes to more than the brief allows.
pub fn over_budget(case: &Case) -> Vec<Finding> {
    let Some(budget) = case.design.brief.budget else { return Vec::new() };
    let Some(bill) = crate::cabinet::materials::bill(case, &case.prices).filter(|b| b.total > budget) else {
        return Vec::new();
    };
    let dearest = bill
        .items
        .iter()
        .filter(|i| i.total.is_some())
        .max_by(|a, b| a.total.unwrap_or(0.0).total_cmp(&b.total.unwrap_or(0.0)));
    let most = dearest.map_or(String::new(), |i| format!(" Most of it: {} ({:.0}).", i.what, i.total.unwrap_or(0.0)));
    let mut f = finding(
        Severity::Look,
        LimitSource::Brief,
        "/brief/budget",
        "Dearer than wanted",
        format!("What has a price comes to {:.0}; the brief allows {budget:.0}.{most}", bill.total),
        (bill.total, ""),
        Some(budget),
    );
    let total = |a: &Analysis| {
        let after = crate::cabinet::materials::bill(a, &case.prices)?.total;
        (after < bill.total - 0.5).then(|| format!("{after:.0} in all"))
    };
    let turned = vec![Change::set("/cabinet/saw/keep_grain", false)];
    if case.design.cabinet.as_ref().is_some_and(|c| c.saw.keep_grain) {
        f.remedies.extend(remedy(case, "Let pieces be turned on the sheet", turned, total));
    }
    vec![f]
}

/// Highest level the limits allow at the brief's note and place, dB, and what rules; at the seats of its room where the brief is held
/// to it.
fn reach(analysis: &Analysis, note: f64, distance: f64) -> (f64, LimitingFactor) {
    let at = analysis.at(note);
    let conditions = &analysis.conditions;
    let there = match held_by_brief(analysis) {
        Some(room) => gain_around(analysis, room, note, conditions.distance, conditions.solid_angle.steradians()),
        None => 20.0 * (conditions.distance / distance).log10(),
    };
    (at.max_level_db[0] + there, at.limiting[0])
}

/// What rules, in words.
fn because(limiting: LimitingFactor, note: f64) -> String {
    match limiting {
        LimitingFactor::None => "nothing stated limits it".into(),
        LimitingFactor::Thermal => format!("the coil's heat ends it at {note:.0} Hz"),
        LimitingFactor::Excursion => format!("the cone runs out of stroke at {note:.0} Hz"),
        LimitingFactor::PortAir => format!("the air in the port gets loud first at {note:.0} Hz"),
        LimitingFactor::RadiatorExcursion => format!("the passive radiator runs out of stroke at {note:.0} Hz"),
        LimitingFactor::AmplifierVoltage => "the amplifier's voltage ends it".into(),
        LimitingFactor::AmplifierCurrent => "the amplifier's current ends it".into(),
    }
}

/// Whether the lowest note comes as loud as wanted.
pub fn brief_level(case: &Case) -> Vec<Finding> {
    let brief = &case.design.brief;
    let Some((note, wanted)) = brief.lowest_note_hz.zip(brief.level_db) else { return Vec::new() };
    let distance = brief.distance_m.unwrap_or(1.0);
    let (level, limiting) = reach(case, note, distance);
    if limiting == LimitingFactor::None {
        return Vec::new();
    }
    let at = "/brief/level_db";
    let place = if held_by_brief(case).is_some() {
        format!("at {note:.1} Hz, at the seats of its room (an estimate)")
    } else {
        format!("at {note:.1} Hz, {}", metres(rounded(distance)))
    };
    if level >= wanted - 0.05 {
        return vec![finding(
            Severity::Good,
            LimitSource::Brief,
            at,
            "Reaches the brief",
            format!("{level:.1} dB {place}; {wanted:.0} dB are wanted. {}.", capital(&because(limiting, note))),
            (level, "dB"),
            Some(wanted),
        )];
    }
    let short = wanted - level;
    let mut f = finding(
        Severity::Look,
        LimitSource::Brief,
        at,
        format!("{short:.1} dB short of the brief"),
        format!("{level:.1} dB {place}, where {wanted:.0} dB are wanted: {}.", because(limiting, note)),
        (level, "dB"),
        Some(wanted),
    );
    let mut try_it = |title: String, changes: Vec<Change>| {
        f.remedies.extend(remedy(case, title, changes, |a| {
            let (after, rule) = reach(a, note, distance);
            (after > level + 0.3).then(|| format!("{after:.1} dB; then {}", because(rule, note)))
        }));
    };
    if limiting == LimitingFactor::PortAir
        && let Some(report) = case.wired.ports.first()
    {
        if report.port.quiet_speed() < 20.0 {
            let end = serde_json::to_value(End::Flared { radius_mm: 15.0 }).unwrap_or_default();
            let changes = vec![
                Change::set("/enclosure/port/inner_end", end.clone()),
                Change::set("/enclosure/port/outer_end", end),
            ];
            try_it("Flare both ends".into(), changes);
        }
        let section = serde_json::to_value(report.port.section.scaled(1.5).map_mm(f64::round)).unwrap_or_default();
        try_it("Half as much port area again".into(), vec![Change::set("/enclosure/port/section", section)]);
    }
    if case.design.enclosure.info().id == "vented" && limiting == LimitingFactor::Excursion {
        let sizing = serde_json::json!({"by": "tuning", "tuning_hz": note});
        try_it(format!("Tune to {note:.1} Hz"), vec![Change::set("/enclosure/port/sizing", sizing)]);
    }
    let count = case.design.array.count;
    if count <= 8 {
        let volume = case.wired.chambers.first().map_or(0.0, |c| c.net * 2e3);
        let changes =
            vec![Change::set("/array/count", count * 2), Change::set("/enclosure/net_volume_l", rounded(volume))];
        try_it("Twice the woofers, twice the box".into(), changes);
    }
    vec![f]
}

/// A mouth that stands in another part of space than the listener: its load and its level then belong to different rooms, and no
/// efficiency can be told.
pub fn spaces_differ(case: &Case) -> Vec<Finding> {
    let Some(path) = case.wired.path.as_ref().filter(|_| !crate::enclosure::figures::one_space(case)) else {
        return Vec::new();
    };
    let listening = case.design.listening.solid_angle;
    let words = |sr: f64| match (sr / std::f64::consts::FRAC_PI_2).round() as u32 {
        8 => "free space",
        4 => "half a space",
        2 => "a quarter of space",
        _ => "an eighth of space",
    };
    let (mouth, listener) = (path.mouth.steradians(), listening.steradians());
    let mut f = finding(
        Severity::Look,
        LimitSource::Physics,
        "/listening/solid_angle",
        "Mouth and listener in different spaces",
        format!(
            "The open end is loaded by {}, the level is told for {}: both describe the same place, and until they agree no efficiency is told.",
            words(mouth),
            words(listener)
        ),
        (mouth, "sr"),
        Some(listener),
    );
    let agrees = |a: &Analysis| crate::enclosure::figures::one_space(a).then(|| low_end(a));
    let place = match path.mouth {
        MouthPlace::Free => SolidAngle::Full,
        MouthPlace::HalfSpace => SolidAngle::Half,
        MouthPlace::QuarterSpace => SolidAngle::Quarter,
        MouthPlace::EighthSpace => SolidAngle::Eighth,
    };
    let there = serde_json::to_value(place).unwrap_or_default();
    f.remedies.extend(remedy(
        case,
        format!("Tell the level for {}", words(mouth)),
        vec![Change::set("/listening/solid_angle", there)],
        agrees,
    ));
    let stands = match listening {
        SolidAngle::Full => MouthPlace::Free,
        SolidAngle::Half => MouthPlace::HalfSpace,
        SolidAngle::Quarter => MouthPlace::QuarterSpace,
        SolidAngle::Eighth => MouthPlace::EighthSpace,
    };
    let field = if case.design.enclosure.info().id == "transmission_line" { "mouth" } else { "horn/mouth" };
    f.remedies.extend(remedy(
        case,
        format!("The open end in {}", words(listener)),
        vec![Change::set(format!("/enclosure/{field}"), serde_json::to_value(stands).unwrap_or_default())],
        agrees,
    ));
    vec![f]
}

/// Loud sound: NIOSH's recommended exposure limit, 85 dBA for 8 h with a 3 dB exchange rate (NIOSH 98-126). Bass
/// weighs less in dBA than in dB, so the hours shown are on the safe side.
pub fn hearing(case: &Case) -> Vec<Finding> {
    let Some(level) = case.design.brief.level_db.filter(|l| *l > 85.0) else { return Vec::new() };
    let hours = 8.0 / 2f64.powf((level - 85.0) / 3.0);
    let time = if hours >= 1.0 {
        format!("{} h", say(hours))
    } else if hours >= 1.0 / 60.0 {
        format!("{} min", say(hours * 60.0))
    } else {
        format!("{} s", say(hours * 3600.0))
    };
    vec![finding(
        Severity::Caution,
        LimitSource::CommonPractice,
        "/brief/level_db",
        "Mind your ears",
        format!(
            "{level:.0} dB unweighted is what the brief asks; NIOSH allows {time} a day at {level:.0} dBA. Close to the box it is far louder: wear protection when you test."
        ),
        (level, "dB"),
        Some(85.0),
    )]
}

/// A cabinet that one person should not lift: boards by their material and the
/// woofers' stated weights, over 25 kg (common practice).
pub fn heavy(case: &Case) -> Vec<Finding> {
    let Some(boards) = crate::cabinet::cutting::weight(case) else { return Vec::new() };
    let woofers = case.design.woofer.weight_kg.unwrap_or(0.0) * f64::from(case.design.array.count);
    let total = boards + woofers;
    if total <= ONE_LIFTS {
        return Vec::new();
    }
    vec![finding(
        Severity::Caution,
        LimitSource::CommonPractice,
        "/cabinet/panel_mm",
        Lifting::of(total).title(),
        format!("About {total:.0} with woofers (an estimate): {}.", Lifting::of(total).how(), total = kg(total)),
        (total, "kg"),
        Some(ONE_LIFTS),
    )]
}
