//! Where a design stands, and what the room does with it. All of it is an estimate, and says what it rests on.

pub mod arrangements;
pub mod clashes;
pub mod families;
pub mod heard;
pub mod map;
pub mod modes;
pub mod neighbour;
pub mod playing;
pub mod response;
mod rules;
pub mod surroundings;
pub mod view;

use crate::finding::Rule;

/// The rules of this station: name, station where it is seen, function.
pub const RULES: &[Rule] = &[
    ("cannot_stand", "room", rules::cannot_stand),
    ("null_at_seat", "room", rules::null_at_seat),
    ("boom_at_all_seats", "room", rules::boom_at_all_seats),
    ("low_end_lifted", "room", rules::low_end_lifted),
    ("seats_differ", "room", rules::seats_differ),
    ("neighbour_hears", "room", rules::neighbour_hears),
];
