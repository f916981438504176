//! Damping, standing waves, panels and leaks.

use super::{BERANEK, PRACTICE, SMALL_VENTED, term};
use crate::drawing;
use crate::drawn;
use crate::term::Term;

pub const TERMS: &[Term] = &[
    term(
        "standing_wave",
        "Standing wave",
        "Sound that fits between two walls and stays there: the longest side gives the lowest, loudest at the walls and still in the middle.",
        BERANEK,
    )
    .also(&["box mode", "cabinet mode"])
    .drawn(drawing::standing_wave)
    .findings(&["standing_wave", "equal_sides"]),
    term(
        "fill",
        "Fill",
        "Wool or foam in the box: it takes the standing waves down and, packed through, makes the box act up to some twenty percent larger.",
        SMALL_VENTED,
    )
    .also(&["stuffing", "damping material", "acoustic wool"])
    .fields(&["fill", "front_fill", "rear_fill"])
    .figures(&["fill_g"])
    .findings(&["fill_out_of_range", "fill_in_the_way"])
    .drawn(drawn::quiet::fill),
    term(
        "flow_resistivity",
        "Flow resistivity",
        "How hard it is to press air through a fill, by thickness: the figure by which wools are told apart.",
        "ISO 9053-1",
    )
    .fields(&["flow_resistivity_pa_s_per_m2"]),
    term(
        "panel_resonance",
        "Panel resonance",
        "The frequency at which a wall rings like a drumhead; a brace cuts it in two smaller and stiffer ones.",
        "Leissa, Vibration of Plates, NASA SP-160 (1969)",
    )
    .also(&["panel ringing"])
    .drawn(drawing::panel)
    .findings(&["panel_sings"]),
    term("brace", "Brace", "A board or bar between walls that halves what can ring.", PRACTICE)
        .also(&["bracing"])
        .fields(&["braces"])
    .findings(&["brace_blocks_air", "brace_meets_magnet"])
    .drawn(drawing::panel),
    term(
        "leak",
        "Leak",
        "Air that gets out by a gap: it takes the strength out of the tuning and hisses at high level.",
        SMALL_VENTED,
    )
    .also(&["leakage loss", "QL"])
    .fields(&["leak_q", "front_leak_q", "rear_leak_q"])
    .drawn(drawing::leak),
    term(
        "absorption",
        "Absorption loss",
        "What fill and walls swallow of the box's swing, as a Q: lower is more.",
        SMALL_VENTED,
    )
    .also(&["QA"])
    .fields(&["absorption_q", "front_absorption_q", "rear_absorption_q"]),
];
