//! A whole floor of places for a cabinet or a listener: how even the seats are then, how loud, how low.

use crate::analysis::Analysis;
use crate::room::clashes::{clashes, outsides};
use crate::room::heard::{Heard, band, frequencies};
use crate::room::playing::{Playing, in_room};
use crate::room::response::{Evenness, at, ears, evenness, of_cabinet};
use crate::room::surroundings::Surroundings;
use num_complex::Complex64;
use oak_drum_acoustics::halt;
use oak_drum_acoustics::room::Place;
use oak_drum_acoustics::room::field::Field;
use oak_drum_document::{Change, Checked, InRoom};
use oak_drum_text::{Text, metres};
use rayon::prelude::*;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// What a map is of.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum MapOf {
    /// One of the cabinets, moved over the floor.
    Cabinet,
    /// One of the seats, moved over the floor.
    Seat,
}

/// What is asked for.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Map of a room")]
pub struct MapWish {
    /// What is moved.
    #[schemars(title = "Of")]
    pub of: MapOf,
    /// Which of them, from 0.
    #[schemars(title = "Which", range(min = 0, max = 15), extend("x-start" = 0))]
    pub index: usize,
    /// Places along the length.
    #[schemars(title = "Along", range(min = 2, max = 120), extend("x-start" = 60))]
    pub columns: usize,
    /// Places across the width.
    #[schemars(title = "Across", range(min = 2, max = 80), extend("x-start" = 40))]
    pub rows: usize,
}

/// The map. Lists have an entry a place, row by row from the lower wall, each from the left; null where it cannot stand.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct RoomMap {
    /// Places along the length, m.
    pub x_m: Vec<f64>,
    /// Places across the width, m.
    pub y_m: Vec<f64>,
    /// Root mean square of what any seat is at any frequency of the band off their mean, dB.
    pub uneven_db: Vec<Option<f64>>,
    /// How far seats differ: standard deviation, mean over the band, dB.
    pub between_db: Vec<Option<f64>>,
    /// Mean level over seats and band, against the build's own on open ground at 1 m, dB.
    pub loud_db: Vec<Option<f64>>,
    /// The same over the lowest octave, dB.
    pub low_db: Vec<Option<f64>>,
    /// Where it stands now.
    pub now: MapValues,
    /// The best places for evenness, the best first.
    pub best: Vec<BestPlace>,
    /// The band, Hz.
    pub band_hz: [f64; 2],
}

/// What a map tells of one place.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct MapValues {
    /// As in the map.
    pub uneven_db: f64,
    /// As in the map.
    pub between_db: f64,
    /// How far the seats' mean goes up and down along the band: standard deviation, dB.
    pub along_db: f64,
    /// As in the map.
    pub loud_db: f64,
    /// As in the map.
    pub low_db: f64,
}

impl From<Evenness> for MapValues {
    fn from(e: Evenness) -> MapValues {
        MapValues { uneven_db: e.uneven, between_db: e.between, along_db: e.along, loud_db: e.level, low_db: e.low }
    }
}

/// One of the best places.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct BestPlace {
    /// Along the length, m.
    pub x_m: f64,
    /// Across the width, m.
    pub y_m: f64,
    /// What is had there.
    pub values: MapValues,
    /// Why, in a few words.
    pub why: Text,
    /// What puts it there.
    pub changes: Vec<Change>,
}

/// Frequencies an octave of a map.
const AN_OCTAVE: f64 = 40.0;
/// Most frequencies of a map.
const MOST: usize = 120;
/// Best places marked, and how far they lie apart, m.
const MARKED: usize = 3;
const APART: f64 = 0.7;

/// The map of a design's room; `None` in the open field, in a cabin, or where there is no such cabinet or seat.
pub fn map(design: &Checked, wish: &MapWish) -> Option<RoomMap> {
    let analysis = Analysis::of(design);
    let room = analysis.design.room.clone()?;
    mapped(&analysis, &room, wish)
}

/// Levels of a build against its own at 1 m on open ground: what a level (Pa) at a frequency by its index is divided by.
fn own_level(playing: &Playing, rho: f64, i: usize) -> f64 {
    let own = playing.players[0].all(i).norm();
    (playing.hz[i] * rho * own).max(1e-300)
}

fn mapped(analysis: &Analysis, room: &InRoom, wish: &MapWish) -> Option<RoomMap> {
    let there = match wish.of {
        MapOf::Cabinet => room.cabinets.len(),
        MapOf::Seat => room.seats.len(),
    };
    let sides = room.room.space.sides().filter(|_| wish.index < there)?;
    let surroundings = Surroundings::of(&room.room.space, analysis.context.air);
    let limits = band(analysis, &surroundings);
    let an_octave = AN_OCTAVE.min((MOST - 1) as f64 / (limits[1] / limits[0]).log2());
    let (hz, octave) = frequencies(limits, an_octave);
    let playing = Playing::of(analysis, room, &hz);
    let middles = |side: f64, n: usize| (0..n).map(|i| (i as f64 + 0.5) / n as f64 * side).collect::<Vec<f64>>();
    let (x, y) = (middles(sides[0], wish.columns), middles(sides[1], wish.rows));
    let levels = match wish.of {
        MapOf::Cabinet => over_cabinets(&surroundings, &playing, room, wish.index, &x, &y),
        MapOf::Seat => over_seats(&surroundings, &playing, room, wish.index, &x, &y),
    };
    let outsides = outsides(analysis, room);
    let put = |at: [f64; 2]| {
        let mut moved = room.clone();
        match wish.of {
            MapOf::Cabinet => [moved.cabinets[wish.index].x_m, moved.cabinets[wish.index].y_m] = at,
            MapOf::Seat => [moved.seats[wish.index].x_m, moved.seats[wish.index].y_m] = at,
        }
        moved
    };
    let seat = wish.of == MapOf::Seat;
    let stands = |at: [f64; 2]| {
        !clashes(&put(at), &outsides)
            .iter()
            .any(|c| c.seat == seat && (c.index == wish.index || (!seat && c.other == wish.index)))
    };
    let places: Vec<[f64; 2]> = y.iter().flat_map(|y| x.iter().map(move |x| [*x, *y])).collect();
    let values: Vec<Option<MapValues>> = places
        .iter()
        .enumerate()
        .map(|(p, at)| {
            let seats: Vec<Vec<f64>> = levels.iter().map(|seat| seat.iter().map(|row| row[p]).collect()).collect();
            stands(*at).then(|| evenness(&seats, octave).into())
        })
        .collect();
    let now = Heard {
        surroundings: surroundings.clone(),
        playing: playing.clone(),
        levels: against_own(&surroundings, &playing, room),
        octave,
    };
    let now: MapValues = now.evenness().into();
    let pointer = if seat { format!("/room/seats/{}", wish.index) } else { format!("/room/cabinets/{}", wish.index) };
    let best = best(&places, &values, &now, room.seats.len(), sides, &pointer);
    let list = |of: fn(&MapValues) -> f64| values.iter().map(|v| v.as_ref().map(of)).collect::<Vec<Option<f64>>>();
    Some(RoomMap {
        uneven_db: list(|v| v.uneven_db),
        between_db: list(|v| v.between_db),
        loud_db: list(|v| v.loud_db),
        low_db: list(|v| v.low_db),
        now,
        best,
        band_hz: limits,
        x_m: x,
        y_m: y,
    })
}

/// Levels by seat and frequency as things stand, against the build's own at 1 m on open ground, dB.
pub(crate) fn against_own(surroundings: &Surroundings, playing: &Playing, room: &InRoom) -> Vec<Vec<f64>> {
    let rho = surroundings.air().rho;
    let levels = |seat| {
        let heard = at(surroundings, playing, room, ears(seat), false);
        heard.iter().enumerate().map(|(i, p)| decibels(p.norm() / own_level(playing, rho, i))).collect()
    };
    room.seats.iter().map(levels).collect()
}

fn decibels(ratio: f64) -> f64 {
    20.0 * ratio.max(1e-9).log10()
}

/// Transfers between a place and a plane of places, at each frequency.
pub(crate) fn over_plane(
    surroundings: &Surroundings,
    hz: &[f64],
    x: &[f64],
    y: &[f64],
    height: f64,
    at: Place,
) -> Vec<Vec<Complex64>> {
    if let Surroundings::Room(room) = surroundings {
        let field = Field::new(room, x, y, height, at);
        return hz.par_iter().map(halt::carried(|f: &f64| field.transfer(TAU * f))).collect();
    }
    let places = y.iter().flat_map(|y| x.iter().map(move |x| [*x, *y, height]));
    let mut planes: Vec<Vec<Complex64>> = hz.iter().map(|_| Vec::with_capacity(x.len() * y.len())).collect();
    for place in places {
        halt::check();
        let heard = surroundings.heard(hz, place, at);
        planes.iter_mut().zip(heard).for_each(|(plane, [t, _])| plane.push(t));
    }
    planes
}

/// Levels by seat, frequency and place of a cabinet, whose sound is taken to come from its middle.
fn over_cabinets(
    surroundings: &Surroundings,
    playing: &Playing,
    room: &InRoom,
    which: usize,
    x: &[f64],
    y: &[f64],
) -> Vec<Vec<Vec<f64>>> {
    let cabinet = &room.cabinets[which];
    let height = cabinet.raised_m + playing.players[which].height();
    let rho = surroundings.air().rho;
    let of_seat = |seat| {
        let place = ears(seat);
        let mut others = vec![Complex64::default(); playing.hz.len()];
        for (i, other) in room.cabinets.iter().enumerate().filter(|(i, _)| *i != which) {
            let heard = of_cabinet(surroundings, playing, i, other, place, false);
            others.iter_mut().zip(heard).for_each(|(sum, p)| *sum += p);
        }
        let planes = over_plane(surroundings, &playing.hz, x, y, height, place);
        let level = |(i, plane): (usize, Vec<Complex64>)| -> Vec<f64> {
            let flow = playing.players[which].all(i) * Playing::set(cabinet, TAU * playing.hz[i]);
            let own = own_level(playing, rho, i);
            plane.into_iter().map(|t| decibels((others[i] + t * flow).norm() / own)).collect()
        };
        planes.into_iter().enumerate().map(level).collect()
    };
    room.seats.iter().map(of_seat).collect()
}

/// Levels by seat, frequency and place of a seat: the others stay where they are.
fn over_seats(
    surroundings: &Surroundings,
    playing: &Playing,
    room: &InRoom,
    which: usize,
    x: &[f64],
    y: &[f64],
) -> Vec<Vec<Vec<f64>>> {
    let rho = surroundings.air().rho;
    let places = x.len() * y.len();
    let mut sums = vec![vec![Complex64::default(); places]; playing.hz.len()];
    for (cabinet, player) in room.cabinets.iter().zip(&playing.players) {
        for (at, flow) in &player.openings {
            let from = in_room(cabinet, player.outside, *at);
            let planes = over_plane(surroundings, &playing.hz, x, y, room.seats[which].ears_m, from);
            for (i, (sum, plane)) in sums.iter_mut().zip(planes).enumerate() {
                let u = flow[i] * Playing::set(cabinet, TAU * playing.hz[i]);
                sum.iter_mut().zip(plane).for_each(|(sum, t)| *sum += t * u);
            }
        }
    }
    let standing = against_own(surroundings, playing, room);
    let moved = |i: usize, sum: &Vec<Complex64>| {
        let own = own_level(playing, rho, i);
        sum.iter().map(|p| decibels(p.norm() / own)).collect::<Vec<f64>>()
    };
    let of_seat = |s: usize| -> Vec<Vec<f64>> {
        if s == which {
            sums.iter().enumerate().map(|(i, sum)| moved(i, sum)).collect()
        } else {
            standing[s].iter().map(|level| vec![*level; places]).collect()
        }
    };
    (0..room.seats.len()).map(of_seat).collect()
}

/// How far from the walls a place is, in words.
pub(crate) fn from_walls([x, y]: [f64; 2], [length, width, _]: [f64; 3]) -> String {
    let side = |at: f64, long: f64, low: &str, high: &str| {
        let (by, wall) = if at <= long / 2.0 { (at, low.to_owned()) } else { (long - at, high.to_owned()) };
        format!("{:.2} from the {wall} wall", metres(by))
    };
    format!("{}, {}", side(x, length, "left", "right"), side(y, width, "lower", "upper"))
}

fn best(
    places: &[[f64; 2]],
    values: &[Option<MapValues>],
    now: &MapValues,
    seats: usize,
    sides: [f64; 3],
    pointer: &str,
) -> Vec<BestPlace> {
    let mut order: Vec<(usize, MapValues)> = values.iter().enumerate().filter_map(|(p, v)| Some((p, (*v)?))).collect();
    order.sort_by(|a, b| a.1.uneven_db.total_cmp(&b.1.uneven_db));
    let mut list: Vec<BestPlace> = Vec::new();
    for (p, values) in order {
        let [x_m, y_m] = places[p].map(|v| (v * 100.0).round() / 100.0);
        if list.iter().any(|b| (b.x_m - x_m).hypot(b.y_m - y_m) < APART) {
            continue;
        }
        let seats = if seats > 1 {
            format!("seats within {:.1} dB of one another, ", values.between_db)
        } else {
            String::new()
        };
        let louder = values.loud_db - now.loud_db;
        let louder = if louder.abs() < 0.5 {
            "as loud as now".to_owned()
        } else {
            format!("{:.1} dB {} than now", louder.abs(), if louder > 0.0 { "louder" } else { "softer" })
        };
        let why = format!(
            "{}: {seats}{:.1} dB up and down along the band (now {:.1}), {louder}.",
            from_walls([x_m, y_m], sides),
            values.along_db,
            now.along_db
        );
        let changes = vec![Change::set(format!("{pointer}/x_m"), x_m), Change::set(format!("{pointer}/y_m"), y_m)];
        list.push(BestPlace { x_m, y_m, values, why: why.into(), changes });
        if list.len() == MARKED {
            break;
        }
    }
    list
}
