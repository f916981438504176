//! What is wanted.

use super::{PRACTICE, term};
use crate::drawn;
use crate::term::Term;

pub const TERMS: &[Term] = &[
    term(
        "lowest_note",
        "Lowest note",
        "The lowest frequency that must still be heard at full strength; every octave lower asks for four times the air to be moved.",
        PRACTICE,
    )
    .fields(&["lowest_note_hz"])
    .findings(&["brief_not_stated"]),
    term(
        "level",
        "Sound pressure level",
        "How loud it is at a place, in decibels against the faintest sound heard; ten more sound about twice as loud and take ten times the power.",
        "IEC 60050-801 (the reference); common practice (twice as loud)",
    )
    .also(&["SPL", "dB", "level"])
    .fields(&["level_db"])
    .figures(&["level"])
    .findings(&["brief_level"]),
    term(
        "solid_angle",
        "Solid angle",
        "How much of the space around the cabinet is open: each large surface beside it halves that space, and low notes gain up to six decibels.",
        super::BERANEK,
    )
    .also(&["half space", "free air", "corner loading"])
    .fields(&["solid_angle"])
    .findings(&["spaces_differ"])
    .drawn(drawn::brief::solid_angle),
    term(
        "f3",
        "f3",
        "The frequency below which the level has fallen three decibels under the reference: half the power, and where the bass is said to end.",
        PRACTICE,
    )
    .also(&["-3 dB point", "lower band edge", "cut-off of the box"])
    .fields(&["band_edge_reference"])
    .drawn(drawn::brief::f3),
];
