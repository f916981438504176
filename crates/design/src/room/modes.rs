//! The standing waves of a room: which the cabinets feed and the seats hear, what moving does, and what they look like.

use crate::room::surroundings::Surroundings;
use oak_drum_acoustics::room::{Mode, Place, Shoebox};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Between how many pairs of walls a wave runs.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
#[schemars(rename = "RoomModeKind")]
pub enum Kind {
    /// Between one pair.
    Axial,
    /// Between two.
    Tangential,
    /// Between all three.
    Oblique,
}

/// A standing wave of a room.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct RoomMode {
    /// Half waves along the length, across the width, from floor to ceiling.
    pub order: [u32; 3],
    /// Its frequency, Hz.
    pub frequency_hz: f64,
    /// Between how many pairs of walls it runs.
    pub kind: Kind,
    /// Time in which it dies away by 60 dB, s.
    pub t60_s: f64,
    /// How much of it each cabinet feeds, -1 to 1.
    pub cabinets: Vec<f64>,
    /// How much of it each seat hears, -1 to 1.
    pub seats: Vec<f64>,
    /// Both together for the first cabinet and the main seat, dB under where it is heard most.
    pub coupling_db: f64,
    /// The same by cabinet, then seat.
    pub together_db: Vec<Vec<f64>>,
    /// What moving one of them by 20 cm does; empty while a hand moves.
    pub moves: Vec<Move>,
}

/// What is moved.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
#[schemars(rename = "RoomMoved")]
pub enum Moved {
    /// The first cabinet, toward the right wall.
    CabinetRight,
    /// The first cabinet, toward the left wall.
    CabinetLeft,
    /// The first cabinet, toward the upper wall.
    CabinetUpper,
    /// The first cabinet, toward the lower wall.
    CabinetLower,
    /// The main seat, toward the right wall.
    SeatRight,
    /// The main seat, toward the left wall.
    SeatLeft,
    /// The main seat, toward the upper wall.
    SeatUpper,
    /// The main seat, toward the lower wall.
    SeatLower,
}

/// A move of 20 cm.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[schemars(rename = "RoomMove")]
pub struct Move {
    /// What is moved, and where to.
    pub moved: Moved,
    /// By how much the wave is then heard more, dB.
    pub change_db: f64,
}

/// How far things are moved, m.
pub const STEP: f64 = 0.2;
/// Most waves told.
const MOST: usize = 40;
/// Weaker than this is not told further, dB.
const FLOOR: f64 = -40.0;

const MOVES: [(Moved, bool, usize, f64); 8] = [
    (Moved::CabinetRight, true, 0, STEP),
    (Moved::CabinetLeft, true, 0, -STEP),
    (Moved::CabinetUpper, true, 1, STEP),
    (Moved::CabinetLower, true, 1, -STEP),
    (Moved::SeatRight, false, 0, STEP),
    (Moved::SeatLeft, false, 0, -STEP),
    (Moved::SeatUpper, false, 1, STEP),
    (Moved::SeatLower, false, 1, -STEP),
];

/// The lowest standing waves of a room up to a frequency (Hz); places are those of each cabinet's sound and of each seat.
/// With what moving does where `whole`.
pub fn modes(
    surroundings: &Surroundings,
    up_to: f64,
    cabinets: &[Place],
    seats: &[Place],
    whole: bool,
) -> Vec<RoomMode> {
    let Surroundings::Room(room) = surroundings else { return Vec::new() };
    room.modes(up_to).iter().take(MOST).map(|mode| one(room, mode, cabinets, seats, whole)).collect()
}

fn one(room: &Shoebox, mode: &Mode, cabinets: &[Place], seats: &[Place], whole: bool) -> RoomMode {
    let shape = |at: &Place| mode.shape(*at, room.sides);
    let (source, main) = (cabinets.first().copied().unwrap_or_default(), seats.first().copied().unwrap_or_default());
    let coupling = |from: &Place, to: &Place| (20.0 * (shape(from) * shape(to)).abs().log10()).max(FLOOR);
    let now = coupling(&source, &main);
    let moves = MOVES.iter().filter(|_| whole).filter_map(|&(moved, is_cabinet, axis, by)| {
        let (mut from, mut to) = (source, main);
        let at = if is_cabinet { &mut from[axis] } else { &mut to[axis] };
        *at += by;
        (0.0..=room.sides[axis]).contains(at).then(|| Move { moved, change_db: coupling(&from, &to) - now })
    });
    let moves = moves.collect();
    RoomMode {
        order: mode.order,
        frequency_hz: mode.frequency,
        kind: match mode.order.iter().filter(|n| **n > 0).count() {
            1 => Kind::Axial,
            2 => Kind::Tangential,
            _ => Kind::Oblique,
        },
        t60_s: mode.t60(),
        cabinets: cabinets.iter().map(shape).collect(),
        seats: seats.iter().map(shape).collect(),
        coupling_db: now,
        together_db: cabinets.iter().map(|from| seats.iter().map(|to| coupling(from, to)).collect()).collect(),
        moves,
    }
}

/// Pressure of a standing wave over the plan and over the side view, -1 to 1.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct RoomModePicture {
    /// Over the floor at the main seat's ears, row by row from the lower wall, each from the left; middles of equal fields.
    pub plan: Vec<f64>,
    /// Over a section along the length through the main seat, row by row from the floor.
    pub side: Vec<f64>,
    /// Fields along the length.
    pub columns: usize,
    /// Fields across the width.
    pub rows: usize,
    /// Fields from floor to ceiling.
    pub storeys: usize,
}

/// Fields of a picture.
const FIELDS: [usize; 3] = [48, 32, 20];

/// The picture of a standing wave through a place.
pub fn picture(room: &Shoebox, order: [u32; 3], through: Place) -> RoomModePicture {
    let mode = room.mode(order);
    let [columns, rows, storeys] = FIELDS;
    let at = |axis: usize, i: usize| (i as f64 + 0.5) / FIELDS[axis] as f64 * room.sides[axis];
    let fields = |axis: usize| {
        let place = move |i: usize, k: usize| {
            let mut place = through;
            place[0] = at(0, i);
            place[axis] = at(axis, k);
            place
        };
        let all = (0..FIELDS[axis]).flat_map(move |k| (0..columns).map(move |i| place(i, k)));
        all.map(|place| mode.shape(place, room.sides)).collect::<Vec<f64>>()
    };
    RoomModePicture { plan: fields(1), side: fields(2), columns, rows, storeys }
}
