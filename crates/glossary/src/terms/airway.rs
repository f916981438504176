//! Ports and the air in them.

use super::{BERANEK, SMALL_VENTED, term};
use crate::drawing;
use crate::drawn;
use crate::term::Term;

pub const TERMS: &[Term] = &[
    term(
        "port",
        "Port",
        "A tube or slot whose air is a mass on the spring of the box: longer or narrower tunes lower, wider must be longer for the same tuning.",
        SMALL_VENTED,
    )
    .also(&["vent", "tube", "slot"])
    .findings(&["port_meets_woofer", "port_wider_than_box", "port_will_not_fit", "port_out_of_reach"])
    .drawn(drawn::airway::port),
    term(
        "end_correction",
        "End correction",
        "Air before and behind a port swings along with it, so that it acts longer than it is; a flange, a wall or a flare changes by how much.",
        BERANEK,
    )
    .also(&["acoustic length"])
    .figures(&["acts_longer"])
    .drawn(drawing::end_correction)
    .findings(&["port_not_as_stated", "port_dead_end"]),
    term(
        "air_speed",
        "Air speed",
        "How fast the air in the port moves: too fast and it is heard as wind, and the port no longer gives what it should.",
        "Salvatti, Devantier and Button, J. Audio Eng. Soc. 50 (2002)",
    )
    .also(&["chuffing", "port noise", "Mach number"])
    .fields(&["port_air_m_per_s"])
    .figures(&["air"])
    .drawn(drawing::air_speed)
    .findings(&["port_air_fast"]),
    term(
        "flare",
        "Flare",
        "A rounded end of a port: the air leaves without tearing off, so that it may move faster before it is heard.",
        "Salvatti, Devantier and Button (2002)",
    )
    .also(&["rounded edge", "lip"])
    .drawn(drawn::enclosure::flare),
    term(
        "port_resonance",
        "Pipe resonance of a port",
        "A port is also a pipe with waves along it; the first plays through what the box holds in of the midrange.",
        BERANEK,
    )
    .also(&["organ-pipe resonance"])
    .findings(&["pipe_resonance_low"])
    .drawn(drawn::airway::resonance),
    term(
        "port_compression",
        "Port compression",
        "At high level the air in a port grows turbulent and gives less than it should: louder in no longer means louder out.",
        "Salvatti, Devantier and Button (2002)",
    )
    .drawn(drawn::airway::compression),
];
