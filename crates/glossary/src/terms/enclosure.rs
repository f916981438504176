//! Enclosures and what they are tuned to.

use super::{BERANEK, PRACTICE, SMALL_CLOSED, SMALL_PASSIVE, SMALL_VENTED, term};
use crate::drawing;
use crate::drawn;
use crate::term::Term;

pub const TERMS: &[Term] = &[
    term(
        "tuning",
        "Tuning fb",
        "The frequency at which the air in the port swings against the air in the box: there the port does the work and the cone nearly rests; below it the two cancel and nothing holds the cone.",
        SMALL_VENTED,
    )
    .also(&["box tuning", "port tuning", "fb", "Helmholtz resonance"])
    .fields(&["tuning_hz"])
    .figures(&["fb_hz", "front_fb_hz"])
    .drawn(drawing::tuning)
    .findings(&["unloads_below_tuning", "boost_below_tuning"]),
    term(
        "qtc",
        "Qtc",
        "How a closed box lets the bass go: about 0.7 is flat the longest, higher swells before it falls, lower is lean and falls early but gently.",
        SMALL_CLOSED,
    )
    .also(&["system Q", "box Q"])
    .figures(&["qtc", "rear_qtc"])
    .drawn(drawing::q),
    term(
        "fc",
        "fc",
        "The frequency at which the woofer swings on the air shut in behind it; below it the level falls by twelve decibels an octave.",
        SMALL_CLOSED,
    )
    .also(&["closed-box resonance"])
    .figures(&["fc_hz", "rear_fc_hz"])
    .drawn(drawing::slopes),
    term(
        "alpha",
        "Vas/Vb",
        "How much stiffer the box's air is than the woofer's suspension; above about three the box alone decides.",
        SMALL_CLOSED,
    )
    .also(&["compliance ratio", "alpha"])
    .figures(&["alpha"])
    .drawn(drawn::enclosure::stiffness),
    term(
        "net_volume",
        "Net volume",
        "The air that is truly there for the woofer: the inside less woofer, port, braces, boards of a fold and what else stands in it.",
        PRACTICE,
    )
    .also(&["Vb", "box volume", "litres"])
    .fields(&["net_volume_l"])
    .findings(&["volume_left_over", "volume_missing", "box_over_brief"]),
    term(
        "slope",
        "Slope",
        "How steeply the bass falls below its end: twelve decibels an octave from a closed box, twenty-four from a vented one.",
        SMALL_VENTED,
    )
    .also(&["roll-off", "order"])
    .drawn(drawing::slopes),
    term(
        "alignment",
        "Alignment",
        "A choice of volume and tuning that gives the level a known shape, flat to the end or falling early.",
        "Thiele (1971)",
    )
    .also(&["school", "B4", "QB3", "C4"])
    .findings(&["response_humps", "response_sags"])
    .drawn(drawn::enclosure::alignment),
    term(
        "sealed",
        "Closed box",
        "The woofer before air that is shut in: small, forgiving and gently falling, with the cone working hardest of all.",
        SMALL_CLOSED,
    )
    .also(&["sealed box", "acoustic suspension"])
    .families(&["sealed"])
    .drawn(drawn::enclosure::sealed),
    term(
        "vented",
        "Vented box",
        "A box with a port: louder down to its tuning for the same stroke, larger than a closed one, with nothing to hold the cone below.",
        SMALL_VENTED,
    )
    .also(&["bass reflex", "ported box"])
    .families(&["vented"])
    .drawn(drawn::enclosure::box_with_port),
    term(
        "passive_radiator",
        "Passive radiator",
        "A cone without a motor in place of the port: it needs no length and makes no wind, but has a stroke and a notch of its own.",
        SMALL_PASSIVE,
    )
    .also(&["drone cone", "auxiliary bass radiator"])
    .families(&["passive_radiator"])
    .figures(&["radiator"])
    .findings(&["radiator_over_limit"])
    .drawn(drawn::enclosure::radiator),
    term(
        "notch",
        "Notch",
        "Where the passive radiator's own suspension swings with its mass: it moves freely there and takes the level down to nothing.",
        SMALL_PASSIVE,
    )
    .figures(&["notch_hz"])
    .drawn(drawn::enclosure::radiator),
    term(
        "bandpass",
        "Bandpass box",
        "The woofer plays into a second chamber and only a port is heard: loud within a band, silent above and below it.",
        "Fincham, A Bandpass Loudspeaker Enclosure, Audio Eng. Soc. 63rd Convention (1979)",
    )
    .also(&["fourth-order", "sixth-order"])
    .families(&["bandpass_fourth", "bandpass_sixth"])
    .drawn(drawn::enclosure::bandpass),
    term(
        "passband",
        "Band",
        "Between which frequencies a bandpass box plays, and by how much it is louder than the bare woofer.",
        PRACTICE,
    )
    .also(&["passband", "ripple"])
    .drawn(drawn::enclosure::bandpass),
    term(
        "transmission_line",
        "Transmission line",
        "A long stuffed path behind the woofer whose far end plays along at a quarter of a wave.",
        "Bailey, Wireless World (1965); common practice",
    )
    .also(&["line", "TL", "quarter-wave box"])
    .families(&["transmission_line"])
    .drawn(drawn::enclosure::line),
    term(
        "quarter_wave",
        "Quarter wave",
        "The frequency at which a path closed at one end and open at the other is a quarter of a wavelength long: its air swings fully at the mouth and not at all at the closed end.",
        BERANEK,
    )
    .also(&["pipe resonance"])
    .figures(&["quarter_hz"])
    .drawn(drawing::quarter_wave),
    term(
        "horn",
        "Horn",
        "A path that widens and so fits the small stiff cone to the large soft air: much louder for the same power, if its mouth is large enough.",
        BERANEK,
    )
    .also(&["front-loaded horn", "flare"])
    .families(&["front_horn", "back_horn", "tapped_horn"])
    .drawn(drawing::horn),
    term(
        "cutoff",
        "Cut-off of a horn",
        "The frequency its flare stops carrying: below it the horn is only a tube.",
        BERANEK,
    )
    .figures(&["cutoff_hz"])
    .drawn(drawn::enclosure::cutoff),
    term(
        "compression",
        "Compression",
        "The cone's area against the throat's: it raises what the horn gives and how hard the air beats on the cone.",
        PRACTICE,
    )
    .also(&["compression ratio"])
    .figures(&["compression"])
    .drawn(drawn::enclosure::compression),
    term(
        "mouth",
        "Mouth",
        "The open end of a path; smaller than a full horn's it throws part of the wave back, and the level ripples.",
        BERANEK,
    )
    .figures(&["mouth_share"])
    .drawn(drawn::enclosure::mouth),
    term(
        "infinite_baffle",
        "Infinite baffle",
        "The woofer in a wall whose other side is a room or loft of its own: nothing stiffens it and nothing of its back is heard, so that fs and Qts stay what they are.",
        BERANEK,
    )
    .also(&["wall-mounted woofer"])
    .families(&["infinite_baffle"])
    .drawn(drawn::enclosure::wall),
    term(
        "open_baffle",
        "Open baffle",
        "The woofer in a bare board: what the back plays meets what the front plays, and the lower the note the more they cancel.",
        BERANEK,
    )
    .also(&["dipole", "acoustic short circuit"])
    .families(&["open_baffle"])
    .figures(&["dipole_hz", "way_mm"])
    .drawn(drawing::dipole),
    term(
        "group_delay",
        "Group delay",
        "How much later each note's swell arrives than it was sent; steep slopes and high Q make the lowest notes late.",
        "Blauert and Laws, J. Acoust. Soc. Am. 63 (1978)",
    )
    .also(&["delay"])
    .figures(&["delay"])
    .drawn(drawn::enclosure::group_delay),
    term(
        "impedance",
        "Impedance",
        "What the amplifier meets at each frequency: peaks where the cone swings freely, a dip at the tuning between them.",
        SMALL_VENTED,
    )
    .figures(&["impedance"])
    .drawn(drawing::impedance),
];
