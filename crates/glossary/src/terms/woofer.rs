//! The woofer's own figures.

use super::{PRACTICE, SMALL_DIRECT, THIELE, term};
use crate::drawing;
use crate::drawn;
use crate::term::Term;

pub const TERMS: &[Term] = &[
    term(
        "thiele_small",
        "Thiele-Small parameters",
        "The few figures that say how a woofer moves at low notes; with them any enclosure can be reckoned before a board is cut.",
        "Thiele (1971) and Small (1972)",
    )
    .also(&["T/S", "TSP", "parameters"])
    .findings(&["sheet_contradicts_itself"]),
    term(
        "fs",
        "fs",
        "The frequency at which the bare woofer swings by itself: moving mass against suspension.",
        SMALL_DIRECT,
    )
    .also(&["free-air resonance", "resonance frequency"])
    .fields(&["fs_hz"])
    .figures(&["fs_hz"])
    .drawn(drawn::woofer::resonance),
    term(
        "qts",
        "Qts",
        "How strongly the woofer holds its own resonance down, by its motor and its friction together: low is tight and asks for a port, high is loose and asks for a closed box or a board.",
        SMALL_DIRECT,
    )
    .also(&["total Q", "damping of the woofer"])
    .fields(&["qts"])
    .figures(&["qts_in_circuit"])
    .drawn(drawing::q),
    term(
        "qes",
        "Qes",
        "The part of the damping that the motor gives: a strong magnet or an amplifier without resistance before it makes it low.",
        SMALL_DIRECT,
    )
    .also(&["electrical Q"])
    .fields(&["qes"])
    .drawn(drawn::woofer::damping),
    term(
        "qms",
        "Qms",
        "The part of the damping that friction in surround, spider and air gives; high means little is lost.",
        SMALL_DIRECT,
    )
    .also(&["mechanical Q"])
    .fields(&["qms"])
    .drawn(drawn::woofer::damping),
    term(
        "vas",
        "Vas",
        "The volume of air that is as springy as the woofer's suspension: a box much smaller than this rules the cone, a larger one hardly touches it.",
        SMALL_DIRECT,
    )
    .also(&["equivalent volume"])
    .fields(&["vas_l"])
    .drawn(drawing::vas),
    term("sd", "Sd", "The area of the cone that pushes air, with half of the surround counted in.", PRACTICE)
        .also(&["effective area", "piston area"])
        .fields(&["sd_cm2"])
    .drawn(drawn::woofer::area),
    term(
        "xmax",
        "Xmax",
        "How far the cone may move one way while the coil keeps its grip; beyond it the bass distorts long before anything breaks.",
        PRACTICE,
    )
    .also(&["linear stroke", "excursion limit"])
    .fields(&["xmax_mm"])
    .figures(&["stroke"])
    .drawn(drawing::stroke)
    .findings(&["excursion_over_limit", "limits_not_stated"]),
    term(
        "xmech",
        "Xmech",
        "How far the cone can move one way before something strikes or tears.",
        PRACTICE,
    )
    .also(&["damage limit"])
    .fields(&["xmech_mm"]),
    term("re", "Re", "The coil's resistance to direct current; a warm coil has more.", THIELE)
        .also(&["DC resistance"])
        .fields(&["re_ohm"])
    .drawn(drawn::woofer::resonance),
    term(
        "le",
        "Le",
        "The coil's inductance: it raises the impedance towards the midrange and takes the upper bass down a little.",
        PRACTICE,
    )
    .also(&["voice-coil inductance"])
    .fields(&["le_mh", "l2_mh", "r2_ohm"])
    .drawn(drawn::drive::inductance),
    term(
        "semi_inductance",
        "Semi-inductance",
        "A coil in iron behaves between a coil and a resistor: its impedance rises with a power of the frequency less than one.",
        "Vanderkooy, J. Audio Eng. Soc. 37 (1989)",
    )
    .also(&["K and n", "lossy inductance"])
    .fields(&["semi_inductance_k", "semi_inductance_n"])
    .drawn(drawn::woofer::semi_inductance),
    term(
        "bl",
        "Bl",
        "The motor's strength: the force on the cone for each ampere in the coil.",
        SMALL_DIRECT,
    )
    .also(&["force factor", "motor strength"])
    .fields(&["bl_t_m"]),
    term(
        "mms",
        "Mms",
        "The mass that moves: cone, coil, half of the suspension and the air that clings to the cone.",
        SMALL_DIRECT,
    )
    .also(&["moving mass"])
    .fields(&["mms_g"])
    .drawn(drawn::woofer::by_mass),
    term("cms", "Cms", "How far the suspension gives for each newton: a soft one gives more.", SMALL_DIRECT)
        .also(&["compliance of the suspension"])
        .fields(&["cms_mm_per_n"])
    .drawn(drawn::woofer::by_softness),
    term("rms", "Rms", "The friction of the suspension, as a force for each speed.", SMALL_DIRECT)
        .also(&["mechanical resistance"])
        .fields(&["rms_n_s_per_m"])
    .drawn(drawn::woofer::damping),
    term(
        "nominal_impedance",
        "Nominal impedance",
        "A round figure by which amplifiers and woofers are matched; the true impedance swings far above it and a little below.",
        "IEC 60268-5, rated impedance",
    )
    .also(&["rated impedance", "ohms"])
    .fields(&["nominal_ohm"])
    .findings(&["load_below_amplifier"]),
    term(
        "sensitivity",
        "Sensitivity",
        "How loud the woofer is for a stated voltage at a stated distance, in its band where the box no longer matters.",
        PRACTICE,
    )
    .fields(&["sensitivity_db"]),
    term(
        "rated_power",
        "Rated power",
        "What the coil can turn into heat for long without burning; how loud it plays low is decided by its stroke, not by this.",
        PRACTICE,
    )
    .also(&["power handling", "RMS watts"])
    .fields(&["power_w"])
    .findings(&["coil_over_power", "amplifier_far_from_rating"]),
    term(
        "isobaric",
        "Isobaric pair",
        "Two woofers with a little air shut between them act as one of twice the mass and half the Vas: the same bass from half the box, for twice the money.",
        PRACTICE,
    )
    .also(&["clamshell", "push-pull pair"])
    .fields(&["isobaric"])
    .findings(&["isobaric_too_shallow", "isobaric_uncouples"])
    .drawn(drawn::woofer::isobaric),
    term(
        "breaking_in",
        "Breaking in",
        "A new suspension softens in its first hours of hard work; parameters taken before that are off.",
        PRACTICE,
    )
    .also(&["run-in"]),
];
