//! Boards and joints.

use super::{PRACTICE, term};
use crate::drawn;
use crate::term::Term;

pub const TERMS: &[Term] = &[
    term("baffle", "Baffle", "The wall the woofer is screwed to; it carries the weight and the shaking.", PRACTICE)
        .fields(&["baffle_mm", "baffle_layers", "baffle_board"]),
    term(
        "air_ledger",
        "Air ledger",
        "The account of every litre: the inside, less what stands in it, times what the fill adds, against what the design wants.",
        PRACTICE,
    )
    .also(&["displacement", "gross and net volume"]),
    term("kerf", "Kerf", "The width of what the blade turns to dust; each cut costs one.", PRACTICE)
        .fields(&["kerf_mm"])
    .drawn(drawn::cabinet::kerf),
    term(
        "rebate",
        "Rebate",
        "A step cut along an edge that the next board lies in: it finds its place by itself and holds tight.",
        PRACTICE,
    )
    .also(&["rabbet"])
    .drawn(drawn::cabinet::rebate),
    term(
        "bevel",
        "Bevel",
        "An edge sawn at a slant, as walls that lean want it; the blade is set to the angle from upright.",
        PRACTICE,
    )
    .drawn(drawn::cabinet::bevel),
    term(
        "fold",
        "Fold",
        "A long path laid back and forth in a box; at each bend the centre of the channel counts, and the boards between cost their own volume.",
        PRACTICE,
    )
    .fields(&["fold"])
    .findings(&["does_not_fold", "folds_otherwise", "not_folded"])
    .drawn(drawn::enclosure::fold),
    term(
        "round_over",
        "Round-over",
        "An edge rounded with a router: kinder to hands and paint, and to sound only where the radius is a fair part of the wavelength.",
        PRACTICE,
    )
    .drawn(drawn::cabinet::round_over),
];
