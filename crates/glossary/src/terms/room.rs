//! Rooms.

use super::{KUTTRUFF, PRACTICE, term};
use crate::drawing;
use crate::drawn;
use crate::term::Term;

pub const TERMS: &[Term] = &[
    term(
        "room_mode",
        "Room mode",
        "A standing wave of the room: loud along its walls, nothing in between, and the reason that one seat booms where the next is empty.",
        KUTTRUFF,
    )
    .also(&["room resonance", "boom"])
    .drawn(drawing::standing_wave)
    .findings(&["boom_at_all_seats"]),
    term(
        "room_gain",
        "Room gain",
        "Below its lowest mode a closed room only breathes: the level rises towards the lowest notes, as far as its walls hold tight.",
        PRACTICE,
    )
    .also(&["cabin gain", "transfer function of a car"])
    .findings(&["low_end_lifted"])
    .drawn(drawn::room::room_gain),
    term(
        "null",
        "Null",
        "A place where what comes straight and what comes by a wall cancel: no equaliser fills it, another place does.",
        KUTTRUFF,
    )
    .also(&["cancellation", "dip"])
    .findings(&["null_at_seat"])
    .drawn(drawn::room::null),
    term(
        "reverberation_time",
        "Dies away in",
        "How long sound takes to fall by sixty decibels after it is cut off.",
        "ISO 3382-2",
    )
    .also(&["reverberation time", "RT60", "T60"])
    .drawn(drawn::room::dies_away),
    term(
        "seat_spread",
        "Seats differ by",
        "How unlike the level is from seat to seat; two cabinets on opposite walls bring it down more than any equaliser.",
        "Welti and Devantier, J. Audio Eng. Soc. 54 (2006)",
    )
    .findings(&["seats_differ"]),
];
