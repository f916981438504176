//! Amplifier, filters and wires.

use super::{PRACTICE, term};
use crate::drawing;
use crate::drawn;
use crate::term::Term;

pub const TERMS: &[Term] = &[
    term(
        "drive_level",
        "Drive",
        "The voltage at the terminals; 2.83 V is one watt into eight ohms and two into four.",
        "Ohm's law",
    )
    .also(&["volts", "2.83 V"])
    .fields(&["volts", "watts"])
    .figures(&["emf", "power"]),
    term(
        "high_pass",
        "High-pass",
        "A filter that takes away what lies under its corner: under a port's tuning that saves the cone and nobody misses it.",
        PRACTICE,
    )
    .also(&["subsonic filter", "rumble filter"])
    .drawn(drawing::high_pass)
    .findings(&["peak_wants_cut"]),
    term(
        "low_pass",
        "Low-pass",
        "A filter that takes away what lies above its corner, which other speakers play.",
        PRACTICE,
    )
    .also(&["crossover"])
    .findings(&["crossover_fights"])
    .drawn(drawn::drive::low_pass),
    term(
        "boost",
        "Boost",
        "A band raised by the equaliser: six decibels more take four times the power and twice the stroke.",
        "Ohm's law; Small (1972)",
    )
    .also(&["equaliser", "EQ", "peg"])
    .findings(&["boost_into_limit"])
    .drawn(drawn::drive::boost),
    term(
        "linkwitz_transform",
        "Linkwitz transform",
        "A filter that takes a closed box's own fall away and puts a lower, gentler one in its place, at the price of stroke and power.",
        "Linkwitz, Wireless World (1978)",
    )
    .also(&["pole shifting", "transform"])
    .findings(&["transform_misses"])
    .drawn(drawn::drive::linkwitz),
    term(
        "crest",
        "Crest factor",
        "How far the peaks of a programme stand over its mean: music seldom asks of an amplifier for long what its peaks ask.",
        PRACTICE,
    )
    .fields(&["crest_db"])
    .drawn(drawn::drive::crest),
    term(
        "clipping",
        "Clipping",
        "What an amplifier does past its voltage: the tops of the wave are cut flat, which heats the coil and sounds harsh.",
        PRACTICE,
    )
    .findings(&["drive_over_amplifier", "beyond_amplifier"])
    .drawn(drawn::drive::clipping),
    term(
        "power_compression",
        "Power compression",
        "A hot coil has more resistance and takes less current, so that the level grows less than the voltage does.",
        PRACTICE,
    )
    .also(&["thermal compression", "hot coil"])
    .drawn(drawn::drive::power_compression),
    term(
        "zobel",
        "Zobel",
        "A resistor and a capacitor across the woofer that hold its impedance level where the coil would raise it.",
        "Zobel, Bell System Technical Journal 2 (1923)",
    )
    .also(&["impedance compensation"])
    .drawn(drawn::drive::zobel),
    term(
        "polarity",
        "Polarity",
        "Which way the cone moves at a positive voltage; two cabinets of opposite polarity cancel.",
        PRACTICE,
    )
    .fields(&["inverted"])
    .drawn(drawn::drive::polarity),
];
