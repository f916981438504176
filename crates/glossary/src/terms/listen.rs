//! Listening tests.

use super::term;
use crate::term::Term;

pub const TERMS: &[Term] = &[
    term(
        "blind",
        "Blind",
        "Nobody who scores knows which cabinet plays: what the eye expects the ear hears.",
        "ITU-R BS.1534-3 and BS.1116-3",
    ),
    term(
        "level_match",
        "Matched levels",
        "Cabinets compared at the same loudness, for the louder is taken for the better.",
        "ITU-R BS.1116-3",
    ),
    term(
        "duo_trio",
        "Duo-trio",
        "One known sound and two unknown ones, of which one is the same: who cannot tell which is guessing, and how often he is right says so.",
        "ISO 10399",
    ),
];
