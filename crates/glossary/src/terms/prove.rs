//! Measuring.

use super::{PRACTICE, term};
use crate::drawn;
use crate::term::Term;

pub const TERMS: &[Term] = &[
    term(
        "near_field",
        "Near field",
        "Measured so close to the cone that the room does not matter; cone and port are then added by their sizes.",
        "Keele, J. Audio Eng. Soc. 22 (1974)",
    )
    .figures(&["near"])
    .drawn(drawn::prove::near_field),
    term(
        "sweep",
        "Sweep",
        "A tone that slides from low to high; what comes back tells the response and the distortion at once.",
        "Farina, Audio Eng. Soc. 108th Convention (2000)",
    )
    .also(&["chirp"])
    .drawn(drawn::prove::sweep),
    term(
        "impedance_jig",
        "Impedance jig",
        "A resistor of known value before the woofer, so that two voltages tell its impedance.",
        PRACTICE,
    )
    .drawn(drawn::prove::jig),
    term(
        "added_mass",
        "Added mass",
        "Weighing the cone by putting a known mass on it and watching the resonance fall: so the moving mass and Vas are found.",
        PRACTICE,
    )
    .also(&["delta mass"])
    .fields(&["added_mass_g"])
    .drawn(drawn::prove::added_mass),
    term(
        "calibration",
        "Calibration",
        "A record of what the microphone itself adds at each frequency, taken off what it measured.",
        PRACTICE,
    )
    .also(&["microphone file"]),
    term(
        "distortion",
        "Distortion",
        "What comes out that was not put in: at low notes mostly twice and three times the note, from a stroke that is too long.",
        "IEC 60268-21",
    )
    .also(&["THD", "harmonics"])
    .drawn(drawn::prove::distortion),
];
