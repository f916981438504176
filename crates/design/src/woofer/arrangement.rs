//! What follows from the choice of wiring, from isobaric pairs and from mass on the cone.

use crate::analysis::Analysis;
use oak_drum_acoustics::driver::{Arrangement, Array, CoilWiring, Woofer, wirings};
use oak_drum_acoustics::families::Context;
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_acoustics::outputs::Sweep;
use oak_drum_document::{Checked, Design, Mounting};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::{PI, TAU};

/// Wiring, isobaric pairs and added mass, worked out.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct ArrayResult {
    /// Voice coils of each woofer.
    pub voice_coils: u32,
    /// Every wiring possible for the count and the coils, the lowest load first.
    pub wirings: Vec<WiringResult>,
    /// Which way round the woofers are joined, in words.
    pub polarity: String,
    /// The isobaric pairs; absent in plain mounting.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub isobaric: Option<IsobaricResult>,
    /// Least coupling chambers this woofer would need, front to back and face to face; absent without the sizes.
    pub least_chambers: Vec<LeastChamber>,
    /// The stock woofer beside the one with mass on its cone; absent without added mass.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub added_mass: Option<AddedMassResult>,
}

/// One way to wire the array.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct WiringResult {
    /// How the two coils of each woofer are joined.
    pub coils: CoilWiring,
    /// Woofers in each string.
    pub woofers_in_series: u32,
    /// In words.
    pub title: String,
    /// Whether it is the one chosen.
    pub chosen: bool,
    /// Nominal impedance, Ω, where the woofer's is stated.
    pub nominal_ohm: Option<f64>,
    /// Lowest impedance in this box from 5 to 800 Hz, Ω.
    pub minimum_ohm: f64,
    /// Whether the brief's amplifier can carry it; absent without one.
    pub carried: Option<bool>,
    /// Level against the wiring chosen, at the same voltage, dB.
    pub level_change_db: f64,
    /// Most heat in each coil at the present drive, W.
    pub watts_per_coil: f64,
    /// Highest level the limits allow at the lowest note, dB at the reading distance; absent where nothing limits.
    pub max_level_db: Option<f64>,
}

/// The isobaric pairs, worked out.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct IsobaricResult {
    /// Where the two cones would swing against each other on the air between them, Hz.
    pub antiphase_hz: f64,
    /// Lowest frequency from the lowest note on at which the level is more than 1 dB off that of a pair tied
    /// together, Hz; absent when it never is below 800 Hz.
    pub uncouples_hz: Option<f64>,
}

/// The least chamber two cones can do with.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct LeastChamber {
    /// Which way the woofers look.
    pub mounting: Mounting,
    /// Between the two mounting faces, mm.
    pub depth_mm: f64,
    /// Air between the cones in a tunnel as wide as the cut-out, L.
    pub volume_l: f64,
}

/// A woofer with mass on its cone beside the stock one.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct AddedMassResult {
    /// As it comes.
    pub stock: MassFigures,
    /// With the mass.
    pub loaded: MassFigures,
    /// Power for the stock woofer's level in the passband, as a multiple: (Mms'/Mms)².
    pub power_ratio: f64,
    /// Where the excursions are read, Hz.
    pub excursion_at_hz: f64,
}

/// Figures of a woofer with or without added mass.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct MassFigures {
    /// Resonance, Hz.
    pub fs_hz: f64,
    /// Mechanical Q.
    pub qms: f64,
    /// Electrical Q.
    pub qes: f64,
    /// Total Q.
    pub qts: f64,
    /// Half-space level at 1 m with 2.83 V, dB.
    pub sensitivity_db: f64,
    /// f3 in this box, Hz.
    pub f3_hz: Option<f64>,
    /// Excursion at the lowest note, peak one way, mm, at the present drive.
    pub excursion_mm: f64,
}

/// A wiring in words, with a small first letter.
pub fn wiring_in_words(count: u32, voice_coils: u32, coils: CoilWiring, in_series: u32) -> String {
    let strings = count / in_series.max(1);
    let woofers = match (count, in_series, strings) {
        (1, ..) => String::new(),
        (_, 1, _) => "woofers in parallel".into(),
        (_, _, 1) => "woofers in series".into(),
        (_, s, n) => format!("{n} strings of {s} woofers in series"),
    };
    let each = match (voice_coils, coils) {
        (1, _) => "",
        (_, CoilWiring::Parallel) => "coils in parallel",
        (_, CoilWiring::Series) => "coils in series",
    };
    match (each, woofers.as_str()) {
        ("", "") => "one woofer".into(),
        ("", woofers) => woofers.into(),
        (each, "") => each.into(),
        (each, woofers) => format!("{each}, {woofers}"),
    }
}

/// Which way round the woofers are joined, in words.
pub fn polarity_in_words(design: &Design) -> &'static str {
    match design.array.isobaric.map(|pair| pair.mounting) {
        Some(Mounting::FaceToFace) => {
            "Of each pair the outer woofer plus to plus; on the inner one plus and minus change places: face to face only then do both cones move the same way."
        }
        _ => "Plus to plus on every woofer.",
    }
}

/// Works array, pairs and mass out.
pub(crate) fn array(analysis: &Analysis) -> ArrayResult {
    let woofer = &analysis.design.woofer;
    let least = [Mounting::FrontToBack, Mounting::FaceToFace];
    ArrayResult {
        voice_coils: analysis.woofer.coils,
        wirings: all_wirings(analysis),
        polarity: polarity_in_words(&analysis.design).into(),
        isobaric: isobaric(analysis),
        least_chambers: least.iter().filter_map(|m| least_chamber(woofer, *m)).collect(),
        added_mass: added_mass(analysis),
    }
}

fn all_wirings(analysis: &Analysis) -> Vec<WiringResult> {
    let design = &analysis.design;
    let spec = design.array;
    let voice_coils = analysis.woofer.coils;
    let air = analysis.context.air;
    let note = analysis.lowest_note();
    let mut frequencies = log_frequencies(5.0, 800.0, 63);
    frequencies.push(note);
    let reference = Sweep::new(&analysis.wired.network, analysis.conditions).reference_level_db();
    let lowest_load = design.chain.amplifier_on().map(|a| a.minimum_load_ohm * LOWEST_OF_NOMINAL);
    wirings(spec.count, voice_coils)
        .into_iter()
        .map(|(coils, in_series)| {
            let arrangement = Arrangement { coils, in_series, ..spec.arrangement() };
            let context =
                Context { array: Array::new(&analysis.woofer, &air, &arrangement), ..analysis.context.clone() };
            let wired = analysis.enclosure.wire(&context);
            let mut sweep = Sweep::new(&wired.network, analysis.conditions);
            let curves = sweep.curves(&frequencies);
            let minimum = curves.impedance.iter().map(|z| z.norm()).fold(f64::INFINITY, f64::min);
            let resistance = context.array.resistance();
            let sent = frequencies.iter().zip(&curves.impedance);
            let current = sent.map(|(f, z)| context.source.current(TAU * f, *z));
            let heat = current.fold(0.0, f64::max).powi(2) * resistance;
            let each = analysis.woofer.ts.re * f64::from(voice_coils);
            let highest = curves.max_level_db.last().copied().filter(|l| l.is_finite());
            WiringResult {
                coils,
                woofers_in_series: in_series,
                title: wiring_in_words(spec.count, voice_coils, coils, in_series),
                chosen: in_series == spec.woofers_in_series && (voice_coils == 1 || coils == spec.coils),
                nominal_ohm: design.woofer.nominal_ohm.map(|z| z * resistance / each),
                minimum_ohm: minimum,
                carried: lowest_load.map(|limit| minimum >= limit),
                level_change_db: sweep.reference_level_db() - reference,
                watts_per_coil: heat / f64::from(spec.count * voice_coils),
                max_level_db: highest,
            }
        })
        .collect()
}

/// A load may fall to four fifths of the nominal one (IEC 60268-5: not below 80 % of the rated value).
pub(crate) const LOWEST_OF_NOMINAL: f64 = 0.8;

/// The pairs, worked out; `None` in plain mounting.
pub(crate) fn isobaric(analysis: &Analysis) -> Option<IsobaricResult> {
    let mut context = analysis.context.clone();
    let antiphase_hz = context.array.uncouples_near(&context.air)?;
    // tied together: a thousandth of the air between the cones
    context.array.pairing.as_mut()?.compliance *= 1e-3;
    let tied = analysis.enclosure.wire(&context);
    let c = analysis.curves();
    let level = Sweep::new(&tied.network, analysis.conditions).curves(&c.frequency).level_db;
    let note = analysis.lowest_note();
    let apart =
        c.frequency.iter().zip(c.level_db.iter().zip(&level)).find(|(f, (a, b))| **f >= note && (*a - *b).abs() > 1.0);
    Some(IsobaricResult { antiphase_hz, uncouples_hz: apart.map(|(f, _)| *f) })
}

/// The least chamber for a mounting; `None` where cut-out, cone area, excursion (and depth) are not stated.
///
/// Front to back the outer magnet and the inner cone's excursion must find room; face to face both surrounds rise by
/// their excursion. The air is that of a tunnel as wide as the cut-out, less the outer frame, plus the hollow of the
/// cones, taken as 0.1·Sd·diameter each. An estimate: measure the stack before cutting.
pub fn least_chamber(woofer: &Woofer, mounting: Mounting) -> Option<LeastChamber> {
    let excursion = woofer.mechanical_excursion()?.0 * 1e-3;
    let cutout = woofer.cutout_mm? * 1e-3;
    let sd = woofer.sd_cm2? * 1e-4;
    let hollow = 0.1 * sd * (4.0 * sd / PI).sqrt();
    let tunnel = PI / 4.0 * cutout * cutout;
    let (depth, volume) = match mounting {
        Mounting::FaceToFace => (2.0 * excursion, 2.0 * excursion * tunnel + 2.0 * hollow),
        Mounting::FrontToBack => {
            let depth = woofer.depth_mm? * 1e-3 + excursion;
            (depth, depth * tunnel - woofer.displacement()?.0 * 1e-3 + hollow)
        }
    };
    Some(LeastChamber { mounting, depth_mm: depth * 1e3, volume_l: volume * 1e3 })
}

fn added_mass(analysis: &Analysis) -> Option<AddedMassResult> {
    let design = &analysis.design;
    let mass = design.array.added_mass_g * 1e-3;
    if mass == 0.0 {
        return None;
    }
    let mut stock = Design::clone(design);
    stock.array.added_mass_g = 0.0;
    let stock = Analysis::of(&Checked::assembled(stock)?);
    let air = &analysis.context.air;
    let note = analysis.lowest_note();
    let figures = |a: &Analysis| {
        let ts = &a.context.array.ts;
        MassFigures {
            fs_hz: ts.fs,
            qms: ts.qms,
            qes: ts.qes,
            qts: ts.qts(),
            sensitivity_db: ts.reference_level_db(air, 2.83),
            f3_hz: a.edges().edges[0],
            excursion_mm: a.at(note).excursion[0] * 1e3,
        }
    };
    let before = analysis.woofer.ts.mms(air);
    Some(AddedMassResult {
        stock: figures(&stock),
        loaded: figures(analysis),
        power_ratio: ((before + mass) / before).powi(2),
        excursion_at_hz: note,
    })
}
