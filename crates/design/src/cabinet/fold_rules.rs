//! Rules about folded paths and about what collides.

use crate::analysis::Analysis;
use crate::analysis::folding::{can_fold, outside_for};
use crate::cabinet::built_cabinet::built;
use crate::cabinet::clearance::{CLASH, How, Scene, clashes, clearances_within};
use crate::cabinet::mounted_part::{Kind, MountedPart};
use crate::finding::{Finding, LimitSource, Remedy, Severity, finding, low_end, remedy};
use crate::trial::Case;
use oak_drum_acoustics::families::ChamberRole;
use oak_drum_cabinet::board::Role;
use oak_drum_document::{Change, Shape, Spot};
use oak_drum_text::{capital, litres, mm};
use serde_json::json;

/// Outside sizes that give the path what it wants.
fn sized(analysis: &Analysis) -> Option<([f64; 2], Vec<Change>)> {
    let [depth, height] = outside_for(&analysis.design)?.ok()?;
    let changes = vec![Change::set("/cabinet/depth_mm", depth), Change::set("/cabinet/height_mm", height)];
    Some(([depth, height], changes))
}

fn folds(a: &Analysis) -> Option<String> {
    let folded = a.fold.as_ref()?.as_ref().ok()?;
    Some(format!(
        "{:.0} along the path; {:.0} outside",
        mm(folded.fold.length),
        litres(a.design.cabinet.as_ref()?.outside_l())
    ))
}

/// A path that cannot be folded into the box as stated.
pub fn does_not_fold(case: &Case) -> Vec<Finding> {
    let Some(Err(unfit)) = &case.fold else { return Vec::new() };
    let level = case.design.cabinet.as_ref().and_then(|c| c.fold).is_some_and(|f| {
        f.runs == oak_drum_cabinet::fold::Runs::Level || f.pattern == oak_drum_cabinet::fold::Pattern::MirroredW
    });
    // along upright segments is up, across them is behind; of level ones the other way around
    let side = if unfit.along == level { "depth" } else { "height" };
    let message = capital(&unfit.message);
    let sentence = if unfit.least > 0.0 {
        format!("{message}. Inside it takes at least {:.0} of {side}.", mm(unfit.least))
    } else {
        format!("{message}.")
    };
    let mut f = finding(
        Severity::Broken,
        LimitSource::Physics,
        "/cabinet/fold/pattern",
        "The path cannot be folded so",
        sentence,
        (unfit.least, "mm"),
        None,
    );
    if let Some(([depth, height], changes)) = sized(case) {
        let title = format!("Cabinet {height:.0} high, {depth:.0} deep", height = mm(height), depth = mm(depth));
        f.remedies.extend(remedy(case, title, changes, folds));
    }
    for (title, pattern) in [("Fold it as a U", "u"), ("Fold it as an S", "s")] {
        let changes = vec![Change::set("/cabinet/fold", json!({"pattern": pattern}))];
        f.remedies.extend(remedy(case, title, changes, folds));
    }
    vec![f]
}

/// A folded path whose length or areas are not those the design asks for.
pub fn folds_otherwise(case: &Case) -> Vec<Finding> {
    const LENGTH: f64 = 0.03;
    const AREA: f64 = 0.12;
    let Some(Ok(folded)) = &case.fold else { return Vec::new() };
    let off = folded.fold.length / folded.wanted_mm - 1.0;
    let area = folded.fold.scale.iter().map(|s| s - 1.0).fold(0.0, |a: f64, b| if b.abs() > a.abs() { b } else { a });
    if off.abs() <= LENGTH && area.abs() <= AREA {
        return Vec::new();
    }
    let more = |x: f64, up: &str, down: &str| if x > 0.0 { up.to_owned() } else { down.to_owned() };
    let mut f = finding(
        Severity::Look,
        LimitSource::Physics,
        "/cabinet/fold/pattern",
        "The fold is not the path that was designed",
        format!(
            "As folded the path is {:.0} long, {:.0} % {} than the {:.0} asked for, and up to {:.0} % {}. What is folded is what the curves show.",
            mm(folded.fold.length),
            off.abs() * 100.0,
            more(off, "longer", "shorter"),
            mm(folded.wanted_mm),
            area.abs() * 100.0,
            more(area, "wider", "narrower")
        ),
        (folded.fold.length, "mm"),
        Some(folded.wanted_mm),
    );
    if let Some(([depth, height], changes)) = sized(case) {
        let title = format!("Cabinet {height:.0} high, {depth:.0} deep", height = mm(height), depth = mm(depth));
        f.remedies.extend(remedy(case, title, changes, folds));
    }
    vec![f]
}

/// A line or horn with a cabinet, but without its fold.
pub fn not_folded(case: &Case) -> Vec<Finding> {
    let Some(cabinet) = &case.design.cabinet else { return Vec::new() };
    let straight = cabinet.shape == (Shape::Straight {});
    if cabinet.fold.is_some() || !straight || !can_fold(&case.design.enclosure) {
        return Vec::new();
    }
    let Some(path) = &case.wired.path else { return Vec::new() };
    let length = path.path.length() * 1e3;
    let mut f = finding(
        Severity::Look,
        LimitSource::Physics,
        "/cabinet/fold",
        "Not folded yet",
        format!(
            "The path is {length:.0} long; until it is folded into the box, its boards are missing from the cut list.",
            length = mm(length)
        ),
        (length, "mm"),
        None,
    );
    for (title, pattern) in [("Fold it as a U", "u"), ("Fold it as an S", "s")] {
        let spec = json!({"pattern": pattern});
        let first =
            vec![Change::set("/cabinet/fold", spec.clone()), Change::set("/cabinet/braces", serde_json::Value::Null)];
        // with the outside that goes with it
        let Some(tried) = case.with(&first) else { continue };
        let Some((_, mut changes)) = sized(&tried) else { continue };
        changes.insert(0, Change::set("/cabinet/fold", spec));
        if !cabinet.braces.is_empty() {
            // the fold's own boards tie the walls
            changes.push(Change::set("/cabinet/braces", serde_json::Value::Null));
        }
        f.remedies.extend(remedy(case, title, changes, folds));
    }
    vec![f]
}

/// Things that would be in each other: bodies inside, frames on a face, frames over an edge.
pub fn parts_collide(case: &Case) -> Vec<Finding> {
    let Some((cabinet, built)) = case.design.cabinet.as_ref().zip(built(case)) else { return Vec::new() };
    let mut list = Vec::new();
    for c in clearances_within(cabinet, &built, 0.0) {
        if c.mm > -CLASH || list.len() >= 4 {
            break;
        }
        let mounted_part = &built.mounted_parts[c.part as usize];
        // a brace through the first woofer's magnet has a rule of its own
        if mounted_part.kind == Kind::Woofer
            && c.role == Some(Role::Brace)
            && mounted_part.face == Some(0)
            && c.part == 0
        {
            continue;
        }
        // a woofer against the back has one too
        if mounted_part.kind == Kind::Woofer && c.other == "back" {
            continue;
        }
        let (title, sentence) = match c.how {
            How::Inside => (
                format!("{} meets {}", capital(&c.name), c.other),
                format!("The {} and the {} are {:.0} in each other inside the box.", c.name, c.other, mm(-c.mm)),
            ),
            How::Frames => (
                format!("{} over {}", capital(&c.name), c.other),
                format!("The {} and the {} overlap by {:.0} on their face.", c.name, c.other, mm(-c.mm)),
            ),
            How::Edge => (
                format!("{} over the edge", capital(&c.name)),
                format!("The {} reaches {:.0} over the edge of its face.", c.name, mm(-c.mm)),
            ),
        };
        let pointer = mounted_part.pointer.clone().unwrap_or_else(|| "/cabinet/depth_mm".into());
        let mut f =
            finding(Severity::Broken, LimitSource::Physics, &pointer, title, sentence, (-c.mm, "mm"), Some(0.0));
        if mounted_part.kind == Kind::Port && c.other == "woofer board" {
            f.remedies.extend(through_the_back(case));
        }
        f.remedies.extend(moved(case, c.part as usize, c.mm));
        list.push(f);
    }
    list
}

/// A rear chamber's port straight out of it, instead of through the board between the chambers.
fn through_the_back(case: &Case) -> Option<Remedy> {
    let rear = case.wired.ports.iter().find(|p| p.role == ChamberRole::Rear)?;
    let changes = vec![Change::set(format!("/enclosure{}/leaves", rear.pointer), "back")];
    remedy(case, "Let the rear port leave through the back", changes, |a| {
        let built = built(a)?;
        let clear = clashes(a.design.cabinet.as_ref()?, &built, None).iter().all(|c| c.other != "woofer board");
        clear.then(|| format!("clear of the board; {}", low_end(a)))
    })
}

/// The smallest move of a mounted part on its face that frees it of everything, along the face's sides; or a deeper box.
fn moved(case: &Case, i: usize, deep: f64) -> Vec<Remedy> {
    let free = |a: &Analysis| -> Option<bool> {
        let built = built(a)?;
        (built.mounted_parts.len() > i).then_some(())?;
        Some(clashes(a.design.cabinet.as_ref()?, &built, Some(i)).is_empty())
    };
    let Some(built_now) = built(case) else { return Vec::new() };
    let mounted_part = &built_now.mounted_parts[i];
    let mut list = Vec::new();
    if let (Some(pointer), Some(spot), Some(cabinet)) = (&mounted_part.pointer, mounted_part.spot, &case.design.cabinet)
    {
        let scene = Scene::new(cabinet, &built_now);
        'found: for step in 1..=12 {
            let far = (-deep + 5.0) * 0.5 * f64::from(step);
            for (dx, dy, word) in [(0.0, far, "up"), (0.0, -far, "down"), (far, 0.0, "right"), (-far, 0.0, "left")] {
                let (across, up) = ((spot.across_mm + dx).round(), (spot.up_mm + dy).round());
                if across < 0.0 || up < 0.0 {
                    continue;
                }
                let face = serde_json::to_value(spot.face).unwrap_or_default();
                let value = json!({"face": face, "across_mm": across, "up_mm": up});
                // a look at the place itself first: nothing else moves
                let there =
                    mounted_part.moved(cabinet, &built_now.solids, Spot { across_mm: across, up_mm: up, ..spot });
                if scene.clashes_at(i, &there) {
                    continue;
                }
                let Some(change) = placed(case, &built_now.mounted_parts, pointer, value) else { continue };
                let title = format!("Move the {} {:.0} {word}", mounted_part.name, mm((dx + dy).abs()));
                if let Some(found) =
                    remedy(case, title, vec![change], |a| (free(a)?).then(|| format!("clear; {}", low_end(a))))
                {
                    list.push(found);
                    break 'found;
                }
            }
        }
    }
    let cabinet = case.design.cabinet.as_ref();
    if let Some(cabinet) = cabinet.filter(|c| c.fold.is_none()) {
        for (title, pointer, value) in [
            ("deep", "/cabinet/depth_mm", cabinet.depth_mm - deep + 10.0),
            ("wide", "/cabinet/width_mm", cabinet.width_mm - 2.0 * deep + 10.0),
        ] {
            let value = value.ceil();
            list.extend(remedy(
                case,
                format!("Cabinet {value:.0} {title}", value = mm(value)),
                vec![Change::set(pointer, value)],
                |a| {
                    (free(a)?).then(|| {
                        format!(
                            "clear; {:.0} outside",
                            litres(a.design.cabinet.as_ref().map_or(0.0, |c| c.outside_l()))
                        )
                    })
                },
            ));
        }
    }
    list
}

/// A change that places a mounted part: into a list as long as it has to be.
fn placed(
    analysis: &Analysis,
    mounted_parts: &[MountedPart],
    pointer: &str,
    value: serde_json::Value,
) -> Option<Change> {
    let (list, index) = pointer.rsplit_once('/')?;
    let Ok(index) = index.parse::<usize>() else {
        return Some(Change::set(pointer, value));
    };
    let cabinet = serde_json::to_value(&analysis.design).ok()?;
    let mut spots = cabinet.pointer(list).and_then(|v| v.as_array()).cloned().unwrap_or_default();
    // those before it keep where they are
    while spots.len() <= index {
        let at = format!("{list}/{}", spots.len());
        let there = mounted_parts.iter().find(|s| s.pointer.as_deref() == Some(&at))?.spot?;
        spots.push(serde_json::to_value(there).ok()?);
    }
    spots[index] = value;
    Some(Change::set(list, spots))
}

/// A woofer that looks down on the floor without room for its air.
pub fn gap_under_woofer(case: &Case) -> Vec<Finding> {
    let Some((cabinet, built)) = case.design.cabinet.as_ref().zip(built(case)) else { return Vec::new() };
    let down: Vec<_> = built.mounted_parts.iter().filter(|s| s.kind == Kind::Woofer && s.face == Some(5)).collect();
    if down.is_empty() {
        return Vec::new();
    }
    // as much opening around the foot as the cones have area, and the excursion with 10 mm to spare (common practice)
    let around = match cabinet.shape {
        Shape::Tube { .. } => std::f64::consts::PI * cabinet.width_mm,
        _ => 2.0 * (cabinet.width_mm + cabinet.depth_mm),
    };
    let cones = case.woofer.ts.sd * 1e6 * down.len() as f64;
    let excursion = case.design.woofer.mechanical_excursion().map_or(0.0, |s| s.0);
    let wanted = (cones / around).max(excursion + 10.0).ceil();
    let feet = cabinet.feet_mm.unwrap_or(0.0);
    if feet >= wanted {
        return Vec::new();
    }
    let mut f = finding(
        Severity::Look,
        LimitSource::CommonPractice,
        "/cabinet/feet_mm",
        "Too near to the floor",
        format!(
            "The woofer looks down over {feet:.0} of air; for its cone and stroke {wanted:.0} are wanted.",
            feet = mm(feet),
            wanted = mm(wanted)
        ),
        (feet, "mm"),
        Some(wanted),
    );
    let changes = vec![Change::set("/cabinet/feet_mm", wanted)];
    f.remedies.extend(remedy(case, format!("Feet of {wanted:.0}", wanted = mm(wanted)), changes, |a| Some(low_end(a))));
    vec![f]
}
