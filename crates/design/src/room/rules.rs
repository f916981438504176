//! What the room tells of a design, and what would help.

use crate::analysis::Analysis;
use crate::finding::{Finding, LimitSource, Remedy, Severity, finding, remedy, rounded, value};
use crate::room::arrangements::{Walls, usual};
use crate::room::clashes::{Against, Clash, clashes, outsides};
use crate::room::heard::{Heard, can_be_told};
use crate::room::neighbour::neighbour;
use crate::room::playing::footprint;
use crate::room::response::{around, at, ears, level, mean_over_seats, shared_excess};
use crate::room::surroundings::Surroundings;
use crate::trial::Case;
use oak_drum_acoustics::filters::Filter;
use oak_drum_acoustics::filters::band::Band;
use oak_drum_acoustics::filters::low_shelf::LowShelf;
use oak_drum_acoustics::flatten::{Curve, Ranges, Wish, flatten};
use oak_drum_document::{ChainFilter, Change, Drive, Facing, InRoom, MOST_FILTERS, Stage};
use oak_drum_text::{litres, metres};

/// A low end this much over the rest is told, dB.
const STRONG: f64 = 3.0;
/// A dip this far under the octave around it is a null, dB.
const NULL: f64 = 8.0;
/// A peak all seats share that stands so far over the octave around it wants a cut, dB.
const PEAK: f64 = 5.0;
/// Seats that differ by more are told, dB.
const DIFFER: f64 = 4.0;

/// What stands where it cannot.
pub fn cannot_stand(case: &Case) -> Vec<Finding> {
    let Some(room) = &case.design.room else { return Vec::new() };
    let outsides = outsides(case, room);
    clashes(room, &outsides).iter().map(|clash| told(case, room, &outsides, clash)).collect()
}

fn told(case: &Case, room: &InRoom, outsides: &[[f64; 3]], clash: &Clash) -> Finding {
    let Clash { seat, index, against, other, by_m } = *clash;
    let who = if seat {
        let name = room.seats[index].name.trim();
        if name.is_empty() { format!("Seat {}", index + 1) } else { format!("\u{201c}{name}\u{201d}") }
    } else {
        format!("Cabinet {}", index + 1)
    };
    let list = if seat { "seats" } else { "cabinets" };
    let by = metres(by_m);
    let (severity, title, sentence, field) = match against {
        Against::Wall if seat => (
            Severity::Broken,
            "A seat outside the room",
            format!("{who} is {by:.2} outside; nothing is told of it."),
            "x_m",
        ),
        Against::Wall => {
            (Severity::Broken, "A cabinet in a wall", format!("{who} reaches {by:.2} into a wall."), "x_m")
        }
        Against::Ceiling if seat => (
            Severity::Broken,
            "A seat over the ceiling",
            format!("{who} hears from {by:.2} over the ceiling."),
            "ears_m",
        ),
        Against::Ceiling => {
            (Severity::Broken, "Higher than the room", format!("{who} reaches {by:.2} over the ceiling."), "raised_m")
        }
        Against::Cabinet => (
            Severity::Broken,
            "Two cabinets in one another",
            format!("{who} and cabinet {} are {by:.2} in one another.", other + 1),
            "x_m",
        ),
        Against::KeptFree => {
            let what = room.room.kept_free[other].name.trim();
            let what = if what.is_empty() { "what is kept free".into() } else { format!("\u{201c}{what}\u{201d}") };
            (Severity::Look, "In the way", format!("{who} stands {by:.2} in {what}."), "x_m")
        }
    };
    let pointer = format!("/room/{list}/{index}/{field}");
    let mut f = finding(severity, LimitSource::Physics, &pointer, title, sentence, (by_m, "m"), None);
    if matches!(against, Against::Wall | Against::Ceiling) {
        f.remedies.extend(back_inside(case, room, outsides, clash));
    }
    f
}

/// Puts a thing back within the walls, on the floor.
fn back_inside(case: &Case, room: &InRoom, sizes: &[[f64; 3]], clash: &Clash) -> Option<Remedy> {
    let [length, width, height] = room.room.space.sides()?;
    let within = |at: f64, size: f64, side: f64| {
        (size <= side).then(|| (at.clamp(size / 2.0, side - size / 2.0) * 1e3).round() / 1e3)
    };
    let at = |name: &str, value: f64| {
        let list = if clash.seat { "seats" } else { "cabinets" };
        Change::set(format!("/room/{list}/{}/{name}", clash.index), value)
    };
    let changes = if clash.seat {
        let seat = &room.seats[clash.index];
        let ears = if seat.ears_m > height { 1.2f64.min(height) } else { seat.ears_m };
        vec![at("x_m", within(seat.x_m, 0.1, length)?), at("y_m", within(seat.y_m, 0.1, width)?), at("ears_m", ears)]
    } else {
        let (cabinet, outside) = (&room.cabinets[clash.index], sizes[clash.index]);
        let [along, across] = footprint(outside, cabinet.faces);
        let middle = within(cabinet.raised_m + outside[1] / 2.0, outside[1], height)?;
        vec![
            at("x_m", within(cabinet.x_m, along, length)?),
            at("y_m", within(cabinet.y_m, across, width)?),
            at("raised_m", ((middle - outside[1] / 2.0) * 1e3).round() / 1e3),
        ]
    };
    let still = |a: &Analysis| {
        let room = a.design.room.as_ref()?;
        let left = clashes(room, &outsides(a, room));
        let same = |c: &&Clash| c.seat == clash.seat && c.index == clash.index && c.against == clash.against;
        left.iter().find(same).is_none().then(|| "stands inside".to_owned())
    };
    remedy(case, "Back inside", changes, still)
}

/// A design in its room, where nothing stands in the way of telling.
fn heard<'a>(case: &'a Case) -> Option<(&'a InRoom, Heard)> {
    let room = case.design.room.as_ref()?;
    can_be_told(case, room).then(|| (room, Heard::of(case, room)))
}

/// By how much the lowest octave stands over the rest of the band, dB; 0 where there is hardly a rest.
fn low_over_rest(level: &[f64], octave: usize) -> f64 {
    let octave = octave.clamp(1, level.len());
    let mean = |part: &[f64]| part.iter().sum::<f64>() / part.len().max(1) as f64;
    // half an octave is the least there is to compare with
    if level.len() - octave < octave / 2 {
        return 0.0;
    }
    mean(&level[..octave]) - mean(&level[octave..])
}

fn low_in_room(analysis: &Analysis) -> Option<f64> {
    let room = analysis.design.room.as_ref()?;
    let heard = Heard::of(analysis, room);
    Some(low_over_rest(&mean_over_seats(&heard.levels), heard.octave))
}

/// The room lifts the low end over the rest: a smaller box, or a cut, would do.
pub fn low_end_lifted(case: &Case) -> Vec<Finding> {
    let Some((room, heard)) = heard(case) else { return Vec::new() };
    let over = low_over_rest(&mean_over_seats(&heard.levels), heard.octave);
    let open: Vec<f64> =
        at(&heard.surroundings, &heard.playing, room, ears(&room.seats[0]), true).into_iter().map(level).collect();
    // what a box does by itself is not the room's
    let lifted = over - low_over_rest(&open, heard.octave);
    if over < STRONG || lifted < STRONG {
        return Vec::new();
    }
    let (low, rest) = (heard.playing.hz[0], heard.playing.hz[heard.octave - 1]);
    let what = match heard.surroundings {
        Surroundings::Cabin(_) => "this cabin",
        Surroundings::Room(_) => "this room",
        Surroundings::Outdoors { .. } => "what surrounds it",
    };
    let mut f = finding(
        Severity::Look,
        LimitSource::Physics,
        "/enclosure",
        "The room lifts the low end",
        format!(
            "From {low:.0} to {rest:.0} Hz the seats get {over:.1} dB more than above (an estimate); {what} lifts them by {lifted:.1} dB against above."
        ),
        (over, "dB"),
        Some(STRONG),
    );
    let helps = |a: &Analysis| {
        let after = low_in_room(a)?;
        (after.abs() < over.abs() - 1.0).then(|| format!("{after:+.1} dB there; {}", crate::finding::low_end(a)))
    };
    if case.design.enclosure.info().id == "sealed"
        && let Some((pointer, now)) = crate::finding::volume(case)
    {
        let smaller = |part: f64| {
            let net = rounded(now * 1e3 * part);
            (format!("{:.0} less air", litres(now * 1e3 - net)), vec![Change::set(pointer.clone(), net)])
        };
        let enough = |a: &Analysis| low_in_room(a).filter(|after| *after < STRONG * 0.7).and_then(|_| helps(a));
        // the least cut in volume that does, else the least that helps
        let does = [0.8, 0.6, 0.45, 0.3].into_iter().find_map(|part| {
            let (title, changes) = smaller(part);
            remedy(case, title, changes, enough)
        });
        f.remedies.extend(does.or_else(|| {
            [0.6, 0.4, 0.25].into_iter().find_map(|part| {
                let (title, changes) = smaller(part);
                remedy(case, title, changes, helps)
            })
        }));
    }
    if case.design.enclosure.info().id == "vented"
        && let Some(tuning) = case.wired.ports.first().map(|p| p.realised.tuning)
    {
        let lower = (tuning * 0.82).round();
        let sizing = serde_json::json!({"by": "tuning", "tuning_hz": lower});
        let changes = vec![Change::set("/enclosure/port/sizing", sizing)];
        f.remedies.extend(remedy(case, format!("Tune to {lower:.0} Hz"), changes, helps));
    }
    let by = -(over.min(15.0) * 10.0).round() / 10.0;
    let shelf = LowShelf { frequency_hz: rounded(rest * 1.1), level_db: by, q: Some(0.71) };
    f.remedies.extend(with_filter(case, format!("A low shelf of {by:.0} dB"), Filter::LowShelf(shelf), helps));
    vec![f]
}

/// A filter at line level behind those there are.
fn with_filter(
    case: &Case,
    title: String,
    filter: Filter,
    predict: impl Fn(&Analysis) -> Option<String>,
) -> Option<Remedy> {
    let mut filters = case.design.chain.filters.clone();
    if filters.len() >= MOST_FILTERS {
        return None;
    }
    filters.push(ChainFilter { name: "For the room".into(), stage: Stage::Line, off: false, filter });
    remedy(case, title, vec![Change::set("/chain/filters", value(&filters))], predict)
}

/// The deepest dip of a level under the octave around it, away from the ends: where, and how deep, dB.
fn deepest(level: &[f64], octave: usize) -> Option<(usize, f64)> {
    let around = around(level, octave);
    let edge = (octave / 6).max(1);
    (edge..level.len().saturating_sub(edge)).map(|i| (i, around[i] - level[i])).max_by(|a, b| a.1.total_cmp(&b.1))
}

/// How deep the deepest dip at the main seat is, dB.
fn dip_at_main(analysis: &Analysis) -> Option<f64> {
    let room = analysis.design.room.as_ref()?;
    let only = InRoom { seats: vec![room.seats[0].clone()], ..room.clone() };
    let heard = Heard::of(analysis, &only);
    deepest(&heard.levels[0], heard.octave).map(|d| d.1)
}

/// Where something is moved on the plan: what of it, by how much along which axis, in words.
const WAYS: [(&str, usize, f64); 4] = [("right", 0, 1.0), ("left", 0, -1.0), ("upper", 1, 1.0), ("lower", 1, -1.0)];

/// A note that is all but silent at the main seat.
pub fn null_at_seat(case: &Case) -> Vec<Finding> {
    let Some((room, heard)) = heard(case) else { return Vec::new() };
    let Some((at, depth)) = deepest(&heard.levels[0], heard.octave).filter(|d| d.1 > NULL) else { return Vec::new() };
    let hz = heard.playing.hz[at];
    let mut f = finding(
        Severity::Look,
        LimitSource::Physics,
        "/room/seats/0/x_m",
        format!("A null at {hz:.0} Hz"),
        format!(
            "At the main seat {hz:.0} Hz lie {depth:.0} dB under the octave around them (an estimate). No equaliser fills that: it costs the whole of a lift and changes nothing where waves cancel. A move does."
        ),
        (depth, "dB"),
        Some(NULL),
    );
    let outsides = outsides(case, room);
    let only = InRoom { seats: vec![room.seats[0].clone()], ..room.clone() };
    // the least move of the seat, and the least of the first cabinet, after which nothing lies nearly so deep
    let good = (NULL * 0.75).max(depth * 0.6);
    for seat in [true, false] {
        let mut found: Option<(f64, InRoom, &str, f64)> = None;
        'steps: for steps in 1..=10u32 {
            let by = f64::from(steps) * 0.2;
            for (wall, axis, sign) in WAYS {
                let mut moved = only.clone();
                let place = match (seat, axis) {
                    (true, 0) => &mut moved.seats[0].x_m,
                    (true, _) => &mut moved.seats[0].y_m,
                    (false, 0) => &mut moved.cabinets[0].x_m,
                    (false, _) => &mut moved.cabinets[0].y_m,
                };
                *place += sign * by;
                if !clashes(&moved, &outsides).is_empty() {
                    continue;
                }
                let after = heard.moved(&moved);
                let dip = deepest(&after.levels[0], after.octave).map_or(0.0, |d| d.1);
                if dip < good && found.as_ref().is_none_or(|best| dip < best.0) {
                    found = Some((dip, moved, wall, by));
                }
            }
            if found.is_some() {
                break 'steps;
            }
        }
        let Some((_, moved, wall, by)) = found else { continue };
        let (list, x, y) = if seat {
            ("seats", moved.seats[0].x_m, moved.seats[0].y_m)
        } else {
            ("cabinets", moved.cabinets[0].x_m, moved.cabinets[0].y_m)
        };
        let changes = [("x_m", x), ("y_m", y)]
            .map(|(name, at)| Change::set(format!("/room/{list}/0/{name}"), (at * 1e3).round() / 1e3));
        let what = if seat { "Main seat" } else { "Cabinet" };
        let title = format!("{what} {:.2} toward the {wall} wall", metres(by));
        f.remedies.extend(remedy(case, title, changes.to_vec(), |a| {
            dip_at_main(a).filter(|dip| *dip < good + 1.0).map(|dip| format!("the deepest dip is then {dip:.0} dB"))
        }));
    }
    vec![f]
}

/// The highest of it, away from the ends: where, and how high.
fn highest(excess: &[f64]) -> Option<(usize, f64)> {
    let inner = 1..excess.len().saturating_sub(1);
    inner.map(|i| (i, excess[i])).max_by(|a, b| a.1.total_cmp(&b.1))
}

fn peak_at_all(analysis: &Analysis) -> Option<f64> {
    let heard = Heard::of(analysis, analysis.design.room.as_ref()?);
    highest(&shared_excess(&heard.levels, heard.octave)).map(|h| h.1)
}

/// A note that booms at every seat: one cut serves all.
pub fn boom_at_all_seats(case: &Case) -> Vec<Finding> {
    let Some((room, heard)) = heard(case) else { return Vec::new() };
    let excess = shared_excess(&heard.levels, heard.octave);
    let Some((at, over)) = highest(&excess).filter(|h| h.1 > PEAK) else { return Vec::new() };
    let hz = heard.playing.hz[at];
    let who = if room.seats.len() > 1 { "At every seat" } else { "At the seat" };
    let mut f = finding(
        Severity::Look,
        LimitSource::Physics,
        "/chain/filters",
        format!("The room booms at {hz:.0} Hz"),
        format!("{who} {hz:.0} Hz stand {over:.1} dB over the octave around them, and die away slowly (an estimate)."),
        (over, "dB"),
        Some(PEAK),
    );
    let positive: Vec<f64> = excess.iter().map(|x| x.max(0.0)).collect();
    let flat = vec![0.0; positive.len()];
    let curve = Curve { hz: &heard.playing.hz, level_db: &positive, target_db: &flat, room_db: &[] };
    let ranges = Ranges { hz: [hz * 0.9, hz * 1.1], level_db: [-12.0, 0.0], q: [1.0, 10.0] };
    let wish = Wish { bands: 1, ranges, level_db: Some(0.0), prefer_cuts: 0.0 };
    if let Some(band) = flatten(curve, &wish).bands.first().filter(|b| b.level_db < -1.0) {
        let band = Band {
            frequency_hz: rounded(band.frequency_hz),
            level_db: (band.level_db * 10.0).round() / 10.0,
            q: rounded(band.q),
        };
        let title = format!("Cut {:.1} dB at {:.1} Hz", -band.level_db, band.frequency_hz);
        f.remedies.extend(with_filter(case, title, Filter::Band(band), |a| {
            let after = peak_at_all(a)?;
            (after < over - 1.0).then(|| format!("the highest such peak is then {after:.1} dB"))
        }));
    }
    vec![f]
}

/// How far the seats of a design differ, dB.
fn difference(analysis: &Analysis) -> Option<f64> {
    Some(Heard::of(analysis, analysis.design.room.as_ref()?).evenness().between)
}

/// Some seats get much more than others.
pub fn seats_differ(case: &Case) -> Vec<Finding> {
    let Some((room, heard)) = heard(case) else { return Vec::new() };
    let between = heard.evenness().between;
    let Some(sides) = room.room.space.sides().filter(|_| room.seats.len() > 1 && between > DIFFER) else {
        return Vec::new();
    };
    let mut f = finding(
        Severity::Look,
        LimitSource::CommonPractice,
        "/room/cabinets/0/x_m",
        "Seats differ",
        format!(
            "The {} seats lie {between:.1} dB apart on average over the band (an estimate): what suits one is wrong for another, and no filter mends both.",
            room.seats.len()
        ),
        (between, "dB"),
        Some(DIFFER),
    );
    let outsides = outsides(case, room);
    let here = &room.cabinets[0];
    let walls = Walls { sides, outside: outsides[0], raised: here.raised_m };
    let better = usual(1).into_iter().filter_map(|(title, spots)| {
        let there = walls.at(spots[0]);
        let mut moved = room.clone();
        let first = &mut moved.cabinets[0];
        (first.x_m, first.y_m, first.faces) = (there.x_m, there.y_m, there.faces);
        let clear = !clashes(&moved, &outsides).iter().any(|c| !c.seat);
        let values = heard.moved(&moved).evenness();
        (clear && values.between < between - 0.7).then_some((values.uneven, title, there))
    });
    if let Some((_, title, there)) = better.min_by(|a, b| a.0.total_cmp(&b.0)) {
        let faces: Facing = there.faces;
        let changes = vec![
            Change::set("/room/cabinets/0/x_m", there.x_m),
            Change::set("/room/cabinets/0/y_m", there.y_m),
            Change::set("/room/cabinets/0/faces", value(faces)),
        ];
        f.remedies.extend(remedy(case, format!("Cabinet 1 {title}"), changes, |a| {
            let after = difference(a)?;
            (after < between - 0.5).then(|| format!("the seats then lie {after:.1} dB apart"))
        }));
    }
    vec![f]
}

/// What gets to a neighbour.
pub fn neighbour_hears(case: &Case) -> Vec<Finding> {
    let Some((room, heard)) = heard(case) else { return Vec::new() };
    let Some(behind) = &room.neighbour else { return Vec::new() };
    let there = neighbour(case, &heard, behind);
    let said = format!(
        "Behind {:.0} kg/m\u{b2} some {:.0} dBA arrive at this drive (an estimate by the mass law); {:.0} may be there over {:.1} h.",
        there.mass_kg_per_m2, there.there_dba, behind.limit_dba, behind.evening_h
    );
    let place = "/room/neighbour/limit_dba";
    let figure = (there.there_dba, "dBA");
    if there.softer_db <= 0.0 {
        let title = "The neighbour sleeps";
        let f = finding(Severity::Good, LimitSource::Brief, place, title, said, figure, Some(behind.limit_dba));
        return vec![f];
    }
    let minutes = there.hours * 60.0;
    let left = if minutes < 90.0 { format!("{minutes:.0} min") } else { format!("{:.1} h", there.hours) };
    let mut f = finding(
        Severity::Look,
        LimitSource::Brief,
        place,
        "The neighbour hears it",
        format!("{said} That is {left} of the evening."),
        figure,
        Some(behind.limit_dba),
    );
    let softer = 10f64.powf(-there.softer_db / 20.0);
    let (pointer, drive) = match case.design.drive {
        Drive::Voltage { volts } => ("/drive/volts", volts * softer),
        Drive::Power { watts } => ("/drive/watts", watts * softer * softer),
        Drive::Loudest {} => return vec![f],
    };
    let changes = vec![Change::set(pointer, rounded(drive * 0.995))];
    f.remedies.extend(remedy(case, format!("Play {:.0} dB softer", there.softer_db.ceil()), changes, |a| {
        let room = a.design.room.as_ref()?;
        let after = neighbour(a, &Heard::of(a, room), room.neighbour.as_ref()?);
        (after.softer_db < 0.3).then(|| format!("{:.0} dBA there, all evening", after.there_dba))
    }));
    vec![f]
}
