//! Rules about what a box says of its own: standing waves, fill, braces, panels.

use crate::analysis::inside;
use crate::finding::{self, Finding, LimitSource, Severity, along_with_cabinet, finding, remedy};
use crate::quiet::{collisions, modes, panels, ratios};
use crate::trial::{self, Case};
use oak_drum_acoustics::families::inside::FillPlace;
use oak_drum_document::{Brace, Change};
use oak_drum_text::{capital, kg, litres, mm, square_cm};
use std::f64::consts::PI;

/// A standing wave in the band that moves the level by more than 1.5 dB; with the inside not stated, one that could.
pub fn standing_wave(case: &Case) -> Vec<Finding> {
    let plays_to = case.design.brief.plays_to();
    let chambers = case.wired.chambers.iter().filter(|c| !c.pointer.is_empty());
    chambers
        .filter_map(|chamber| {
            let at = format!("/enclosure{}", chamber.part("inside"));
            if chamber.inside.is_none() {
                let cabinet = case.design.cabinet.as_ref().filter(|_| case.wired.chambers.len() == 1)?;
                let longest = cabinet.inside_mm().into_iter().fold(0.0, f64::max) * 1e-3;
                let lowest = case.context.air.c / (2.0 * longest);
                if lowest > plays_to {
                    return None;
                }
                let (inside, _) = inside::inside_of(case, chamber);
                let mut f = finding(
                    Severity::Note,
                    LimitSource::Physics,
                    &at,
                    format!("A standing wave at {lowest:.0} Hz"),
                    format!("The inside is {:.0} long: a wave stands in it at {lowest:.0} Hz, and this box is sent up to {plays_to:.0} Hz. The curves do not count it yet.", mm(longest * 1e3)),
                    (lowest, "Hz"),
                    Some(plays_to),
                );
                f.remedies.extend(remedy(case, "Count it", vec![modes::state(chamber, &inside)], |a| {
                    let chamber = a.wired.chambers.iter().find(|c| c.pointer == chamber.pointer)?;
                    let worst = modes::worst(a, chamber).map_or(0.0, |w| w.2);
                    Some(format!("up to {worst:.1} dB with the woofer where it is assumed"))
                }));
                return Some(f);
            }
            let (order, hz, effect) = modes::worst(case, chamber)?;
            if effect <= modes::HARMLESS {
                return None;
            }
            let along: Vec<&str> =
                ["across", "up", "behind"].into_iter().zip(order).filter(|(_, n)| *n > 0).map(|(word, _)| word).collect();
            let mut f = finding(
                Severity::Look,
                LimitSource::CommonPractice,
                &at,
                format!("Standing wave at {hz:.0} Hz"),
                format!(
                    "A wave {} moves the level by {effect:.1} dB near {hz:.0} Hz, and this box is sent up to {plays_to:.0} Hz; less than {} dB is left in peace.",
                    along.join(" and "),
                    modes::HARMLESS
                ),
                (effect, "dB"),
                Some(modes::HARMLESS),
            );
            let stands = |changes: &[Change]| trial::stands_as_is(case, changes);
            f.remedies = modes::cures(case, chamber, &stands);
            f.remedies = f.remedies.into_iter().filter_map(|r| finding::known(case, r)).collect();
            Some(f)
        })
        .collect()
}

/// A cube, or two equal sides, where their waves pile up near the band.
pub fn equal_sides(case: &Case) -> Vec<Finding> {
    let [chamber] = &case.wired.chambers[..] else { return Vec::new() };
    if chamber.pointer.is_empty() || (chamber.inside.is_none() && case.design.cabinet.is_none()) {
        return Vec::new();
    }
    let (inside, _) = inside::inside_of(case, chamber);
    let sides = [inside.width_mm, inside.height_mm, inside.depth_mm];
    let equal = ratios::equal_sides(sides);
    let plays_to = case.design.brief.plays_to();
    let longest = sides.iter().copied().fold(0.0, f64::max);
    let lowest = case.context.air.c / (2e-3 * longest);
    if equal == 0 || lowest > 2.0 * plays_to {
        return Vec::new();
    }
    let [w, h, d] = sides;
    let what = if equal == 3 { "A cube" } else { "Two equal sides" };
    let mut f = finding(
        Severity::Note,
        LimitSource::CommonPractice,
        "/cabinet/depth_mm",
        what,
        format!(
            "Inside {sides:.0}: {} standing waves fall on one another from {lowest:.0} Hz up, within an octave of what this box is sent.",
            if equal == 3 { "three" } else { "two" },
            sides = mm([w, h, d])
        ),
        (f64::from(equal), ""),
        None,
    );
    let rows = ratios::ratios(case);
    let best = rows
        .iter()
        .skip(1)
        .filter(|r| !r.changes.is_empty())
        .min_by(|a, b| a.crowded.cmp(&b.crowded).then(b.closest_percent.total_cmp(&a.closest_percent)));
    if let Some(best) = best {
        let [w, h, d] = best.inside_mm;
        let lowest = best.lowest_hz;
        f.remedies.extend(remedy(case, format!("{} inside", best.title), best.changes.clone(), |_| {
            Some(format!("{sides:.0}, waves from {lowest:.0} Hz, spread out", sides = mm([w, h, d])))
        }));
    }
    vec![f]
}

/// Fill in the port's mouth or in the cone's way.
pub fn fill_in_the_way(case: &Case) -> Vec<Finding> {
    let Some(chamber) = case.wired.chambers.iter().find(|c| c.filled > 0.0 && !c.pointer.is_empty()) else {
        return Vec::new();
    };
    let free = chamber.net - chamber.filled;
    // one diameter of air before a port's inner end, and the woofer's own diameter half as deep behind it
    let port: f64 = case
        .wired
        .ports
        .iter()
        .filter(|p| chamber.part("port") == p.pointer)
        .map(|p| {
            let size = p.port.section.clearance();
            p.realised.area * 4.0 * size
        })
        .sum();
    let radius = (case.context.array.cone_area() / PI).sqrt();
    let cone = case.context.array.cone_area() * radius;
    let needed = port + cone;
    let lining = chamber.inside.and_then(|i| i.lining);
    let thick = lining.map_or(0.0, |l| l.thickness_mm);
    let over_baffle = lining.is_some_and(|l| l.baffle) && thick > 0.0;
    let middle = chamber.inside.is_some_and(|i| i.lining.is_none() && i.fill_lies == FillPlace::Middle);
    if !over_baffle && (free >= needed || (middle && free > needed * 0.7)) {
        return Vec::new();
    }
    let fill_at = format!("/enclosure{}", chamber.part("fill"));
    let what = if port > 0.0 { "the port's mouth and the cone" } else { "the cone" };
    let part = ((1.0 - needed / chamber.net).max(0.1) * 20.0).floor() / 20.0;
    let sentence = if over_baffle {
        format!(
            "A lining of {thick:.0} on the baffle lies around woofer and port; cut it back one diameter around both.",
            thick = mm(thick)
        )
    } else {
        format!(
            "The fill leaves {:.1} free; {what} want about {:.1} of plain air around them. Never pack the port's mouth.",
            litres(free * 1e3),
            litres(needed * 1e3)
        )
    };
    let mut f = finding(
        Severity::Note,
        LimitSource::CommonPractice,
        &fill_at,
        "Keep fill out of the way",
        sentence,
        (free * 1e3, "L"),
        Some(needed * 1e3),
    );
    if !over_baffle && part > 0.1 {
        let changes = vec![Change::set(format!("{fill_at}/filled_part"), part)];
        f.remedies.extend(remedy(case, format!("Fill {:.0} %", part * 100.0), changes, |a| {
            let there = a.wired.chambers.iter().find(|c| c.pointer == chamber.pointer)?;
            Some(format!(
                "{:.1} stay free; acts like {:.0} % more air",
                litres((there.net - there.filled) * 1e3),
                (there.fill_factor - 1.0) * 100.0
            ))
        }));
    }
    vec![f]
}

fn brace_words(i: usize, brace: &Brace) -> String {
    let kind = match brace {
        Brace::Window { .. } => "window",
        Brace::Shelf { .. } => "shelf",
        Brace::Cross { .. } => "cross",
        Brace::Dowel { .. } => "dowel",
    };
    format!("brace {} ({kind})", i + 1)
}

/// A brace that runs through the woofer's magnet.
pub fn brace_meets_magnet(case: &Case) -> Vec<Finding> {
    let Some(cabinet) = &case.design.cabinet else { return Vec::new() };
    let inside = cabinet.inside_mm();
    cabinet
        .braces
        .iter()
        .enumerate()
        .filter_map(|(i, brace)| {
            let (at, below, above) = collisions::magnet(case, cabinet, brace)?;
            let woofer = collisions::behind(case, cabinet)?;
            let (field, most) = match brace {
                Brace::Window { lies, .. } | Brace::Shelf { lies, .. } | Brace::Cross { lies, .. } => ("at_mm", inside[lies.axis()]),
                Brace::Dowel { ties: oak_drum_document::Ties::FloorAndTop, .. } => ("and_mm", inside[2]),
                Brace::Dowel { ties: oak_drum_document::Ties::Sides, .. } => ("at_mm", inside[2]),
                Brace::Dowel { .. } => ("at_mm", inside[0]),
            };
            let pointer = format!("/cabinet/braces/{i}/{field}");
            let mut f = finding(
                Severity::Broken,
                LimitSource::Physics,
                &pointer,
                "Brace through the magnet",
                format!("{} stands at {at:.0}; the magnet, {:.0} across and {:.0} deep{}, needs it below {below:.0} or above {above:.0}.", capital(&brace_words(i, brace)), mm(2.0 * woofer.radius), mm(woofer.depth), if woofer.estimated { " (an estimate)" } else { "" }, below = mm(below.max(0.0)), at = mm(at), above = mm(above)),
                (at, "mm"),
                Some(if at - below < above - at && below > 0.0 { below } else { above }),
            );
            let mut places = vec![below.floor(), above.ceil()];
            places.retain(|place| *place > 10.0 && *place < most - 10.0);
            places.sort_by(|a, b| (a - at).abs().total_cmp(&(b - at).abs()));
            for place in places {
                let changes = vec![Change::set(pointer.clone(), place)];
                f.remedies.extend(remedy(case, format!("Move it to {place:.0}", place = mm(place)), changes, |a| {
                    let cabinet = a.design.cabinet.as_ref()?;
                    if collisions::magnet(a, cabinet, cabinet.braces.get(i)?).is_some() {
                        return None;
                    }
                    let (_, title, hz) = panels::lowest_panel(cabinet)?;
                    Some(format!("clear of the magnet; lowest panel {hz:.0} Hz ({})", title.to_lowercase()))
                }));
            }
            Some(f)
        })
        .collect()
}

/// A window or shelf whose opening is small against the port and the cone.
pub fn brace_blocks_air(case: &Case) -> Vec<Finding> {
    let Some(cabinet) = &case.design.cabinet else { return Vec::new() };
    let inside = cabinet.inside_mm().map(|side| side * 1e-3);
    let wanted = panels::opening_wanted(case);
    cabinet
        .braces
        .iter()
        .enumerate()
        .filter_map(|(i, brace)| {
            let (lies, open, field) = match *brace {
                Brace::Window { lies, open_part, .. } => (lies, open_part, "open_part"),
                Brace::Shelf { lies, reach_part, .. } => (lies, 1.0 - reach_part, "reach_part"),
                Brace::Cross { .. } | Brace::Dowel { .. } => return None,
            };
            let axis = lies.axis();
            let plane = inside[(axis + 1) % 3] * inside[(axis + 2) % 3];
            let area = open * plane;
            if area >= wanted * 0.98 {
                return None;
            }
            let pointer = format!("/cabinet/braces/{i}/{field}");
            let mut f = finding(
                Severity::Look,
                LimitSource::CommonPractice,
                &pointer,
                "Brace in the air's way",
                format!("{} leaves {:.0} open; twice the ports and half the cones, {:.0}, keep it from acting like a second port.", capital(&brace_words(i, brace)), square_cm(area * 1e4), square_cm(wanted * 1e4)),
                (area * 1e4, "cm2"),
                Some(wanted * 1e4),
            );
            let part = (wanted / plane * 20.0).ceil() / 20.0;
            let value = if field == "open_part" { part } else { 1.0 - part };
            if part <= 0.9 && value > 0.1 {
                let value = (value * 100.0).round() / 100.0;
                let changes = vec![Change::set(pointer, value)];
                f.remedies.extend(remedy(case, format!("Open {:.0} % of it", part * 100.0), changes, |_| {
                    Some(format!("{:.0} open", square_cm(part * plane * 1e4)))
                }));
            }
            Some(f)
        })
        .collect()
}

/// A panel whose lowest mode, between clamped and supported, does not clear the band by the cabinet's factor.
pub fn panel_sings(case: &Case) -> Vec<Finding> {
    let Some(cabinet) = &case.design.cabinet else { return Vec::new() };
    // the boards of a fold tie the sides, and a tube is no panel: neither is what is computed here
    if cabinet.fold.is_some() || matches!(cabinet.shape, oak_drum_document::Shape::Tube { .. }) {
        return Vec::new();
    }
    let wanted = panels::wanted(case, cabinet);
    let Some((_, title, hz)) = panels::lowest_panel(cabinet).filter(|p| p.2 < wanted) else { return Vec::new() };
    let mut f = finding(
        Severity::Look,
        LimitSource::CommonPractice,
        "/cabinet/braces",
        format!("Panels ring at {hz:.0} Hz"),
        format!(
            "{}: the lowest mode lies near {hz:.0} Hz (between clamped and supported edges, an estimate); {:.1} times the band, {wanted:.0} Hz, is asked for.",
            title.split(',').next().unwrap_or(title),
            cabinet.clear_by
        ),
        (hz, "Hz"),
        Some(wanted),
    );
    for plan in panels::plans(case, 3) {
        let better = plan.lowest_hz > hz * 1.05 && (plan.clears || f.remedies.is_empty());
        if better && f.remedies.len() < 2 {
            f.remedies.extend(remedy(case, plan.title, plan.changes, |a| {
                let (_, _, there) = panels::lowest_panel(a.design.cabinet.as_ref()?)?;
                let better = there > hz * 1.05;
                better.then(|| {
                    format!("lowest panel {there:.0} Hz; {:.1}, {:.1}", litres(plan.litres), kg(plan.weight_kg))
                })
            }));
        }
    }
    // the one that cures it first
    f.remedies.sort_by_cached_key(|r| {
        let after = case.with(&r.changes);
        let cured = after.and_then(|a| panels::lowest_panel(a.design.cabinet.as_ref()?)).is_some_and(|p| p.2 >= wanted);
        usize::from(!cured)
    });
    // thicker boards, the box taken along for its volume
    let least = (cabinet.panel_mm * wanted / hz).ceil();
    let most = cabinet.panel_mm * 1.7;
    let found = (0..6).map(|more| least + f64::from(more)).take_while(|t| *t <= most).find_map(|thick| {
        let mut changes = vec![Change::set("/cabinet/panel_mm", thick)];
        if cabinet.baffle_mm < thick {
            changes.push(Change::set("/cabinet/baffle_mm", thick));
        }
        along_with_cabinet(case, format!("Boards of {thick:.0}", thick = mm(thick)), changes, |a| {
            let cabinet = a.design.cabinet.as_ref()?;
            let hz = panels::lowest_panel(cabinet)?.2;
            (hz >= wanted).then_some(())?;
            Some(format!("lowest panel {hz:.0} Hz; {:.0} of boards", kg(crate::cabinet::cutting::weight(a)?)))
        })
    });
    f.remedies.extend(found);
    vec![f]
}
