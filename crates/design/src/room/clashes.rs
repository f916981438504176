//! What stands where it cannot: in walls, in one another, in what is kept free.

use crate::analysis::Analysis;
use crate::room::playing::{footprint, outside};
use oak_drum_document::{InRoom, StandingCabinet};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What is in the way of what.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
#[schemars(rename = "RoomClashKind")]
pub enum Against {
    /// A wall.
    Wall,
    /// The ceiling.
    Ceiling,
    /// Another cabinet.
    Cabinet,
    /// An area kept free.
    KeptFree,
}

/// A thing that cannot stand where it is put.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[schemars(rename = "RoomClash")]
pub struct Clash {
    /// Whether it is a seat; else a cabinet.
    pub seat: bool,
    /// Which of them.
    pub index: usize,
    /// What is in its way.
    pub against: Against,
    /// Which cabinet or area that is; 0 of walls.
    pub other: usize,
    /// By how much, m.
    pub by_m: f64,
}

/// Less than this is not told, m.
const SLIGHT: f64 = 1e-3;

/// The outside of each cabinet of a room, m.
pub fn outsides(analysis: &Analysis, room: &InRoom) -> Vec<[f64; 3]> {
    let own = outside(analysis).0;
    let of = |cabinet: &StandingCabinet| cabinet.other.as_ref().map_or(own, |other| other.outside_mm.map(|x| x * 1e-3));
    room.cabinets.iter().map(of).collect()
}

/// By how much two stretches of an axis, each by its middle and length, are in one another; below 0 what lies between.
fn overlap(a: (f64, f64), b: (f64, f64)) -> f64 {
    (a.1 + b.1) / 2.0 - (a.0 - b.0).abs()
}

/// Everything that cannot stand where it is; in a cabin nothing has a place.
pub fn clashes(room: &InRoom, outsides: &[[f64; 3]]) -> Vec<Clash> {
    let Some([length, width, height]) = room.room.space.sides() else { return Vec::new() };
    let outdoors = matches!(room.room.space, oak_drum_document::Space::Outdoors { .. });
    let mut list = Vec::new();
    for (i, (cabinet, outside)) in room.cabinets.iter().zip(outsides).enumerate() {
        let mut add = |against, other, by_m: f64| {
            if by_m > SLIGHT {
                list.push(Clash { seat: false, index: i, against, other, by_m });
            }
        };
        let [along, across] = footprint(*outside, cabinet.faces);
        let out = |at: f64, size: f64, side: f64| (size / 2.0 - at).max(at + size / 2.0 - side);
        let walls = if outdoors { along / 2.0 - cabinet.x_m } else { out(cabinet.x_m, along, length) };
        add(Against::Wall, 0, if outdoors { walls } else { walls.max(out(cabinet.y_m, across, width)) });
        add(Against::Ceiling, 0, cabinet.raised_m + outside[1] - height);
        for (k, (other, its)) in room.cabinets.iter().zip(outsides).enumerate().take(i) {
            let [its_along, its_across] = footprint(*its, other.faces);
            let x = overlap((cabinet.x_m, along), (other.x_m, its_along));
            let y = overlap((cabinet.y_m, across), (other.y_m, its_across));
            let middle = |c: &StandingCabinet, outside: &[f64; 3]| (c.raised_m + outside[1] / 2.0, outside[1]);
            let z = overlap(middle(cabinet, outside), middle(other, its));
            add(Against::Cabinet, k, x.min(y).min(z));
        }
        for (k, free) in room.room.kept_free.iter().enumerate() {
            let x = overlap((cabinet.x_m, along), (free.x_m, free.length_m));
            let y = overlap((cabinet.y_m, across), (free.y_m, free.width_m));
            add(Against::KeptFree, k, x.min(y));
        }
    }
    for (i, seat) in room.seats.iter().enumerate() {
        let beyond = |at: f64, side: f64| (-at).max(at - side);
        let walls = if outdoors { -seat.x_m } else { beyond(seat.x_m, length).max(beyond(seat.y_m, width)) };
        for (against, by_m) in [(Against::Wall, walls), (Against::Ceiling, seat.ears_m - height)] {
            if by_m > SLIGHT {
                list.push(Clash { seat: true, index: i, against, other: 0, by_m });
            }
        }
    }
    list
}
