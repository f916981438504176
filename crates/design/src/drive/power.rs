//! Volts, amperes and watts of a design: what the amplifier gives, what becomes of it, how loud a whole programme may be.

use crate::analysis::Analysis;
use crate::analysis::loudest::Loudest;
use oak_drum_acoustics::outputs::{Curves, LimitingFactor};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What drives a design, in a few figures.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct DriveSummary {
    /// Voltage with every filter at gain 1, V rms.
    pub volts: f64,
    /// The same as watts into the nominal impedance of the array, which is no more than a way to say volts; absent where no nominal
    /// impedance is stated.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub nominal_w: Option<f64>,
    /// The loudest its programme may be; absent where nothing limits it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub loudest: Option<LoudestResult>,
    /// Lowest impedance the amplifier sees at the frequencies computed, Ω.
    pub lowest_load_ohm: f64,
    /// Where, Hz.
    pub lowest_load_hz: f64,
}

/// The loudest a programme may be.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct LoudestResult {
    /// Drive with every filter at gain 1, V rms.
    pub volts: f64,
    /// How much that is over the present drive, dB.
    pub over_drive_db: f64,
    /// Where a limit is met first, Hz.
    pub at_hz: f64,
    /// Which.
    pub limiting: LimitingFactor,
    /// Where the programme begins, Hz.
    pub from_hz: f64,
    /// Where it ends, Hz.
    pub to_hz: f64,
}

/// Nominal impedance of the array, Ω; `None` where none is stated.
pub fn nominal(analysis: &Analysis) -> Option<f64> {
    let each = analysis.woofer.ts.re * f64::from(analysis.woofer.coils);
    analysis.design.woofer.nominal_ohm.map(|z| z * analysis.context.array.resistance() / each)
}

/// A woofer sold by a nominal impedance may fall to this part of it: its coil is often no more than that (common practice, from memory).
const SOLD: f64 = 0.65;

/// The array's nominal impedance, Ω, where that is what the amplifier asks for and this lowest impedance no less than what is sold so.
pub fn as_sold(analysis: &Analysis, least_ohm: f64, lowest_ohm: f64) -> Option<f64> {
    nominal(analysis).filter(|n| *n >= 0.99 * least_ohm && lowest_ohm >= SOLD * n)
}

/// Lowest impedance that the amplifier sees, Ω, and where, Hz.
pub fn lowest_load(c: &Curves) -> (f64, f64) {
    let each = c.load.iter().zip(&c.frequency).map(|(z, f)| (z.norm(), *f));
    each.fold((f64::INFINITY, 0.0), |least, one| if one.0 < least.0 { one } else { least })
}

/// Largest heat in all coils over the grid the findings look at, W.
pub fn most_heat(analysis: &Analysis) -> f64 {
    let resistance = analysis.wired.network.diaphragm.resistance();
    analysis.curves().current.iter().map(|i| i.norm_sqr() * resistance).fold(0.0, f64::max)
}

/// What drives a design, by its curves and the loudest it may be.
pub fn summary(analysis: &Analysis, curves: &Curves, loudest: Option<Loudest>) -> DriveSummary {
    let volts = analysis.context.source.volts;
    let programme = &analysis.design.programme;
    let (lowest_load_ohm, lowest_load_hz) = lowest_load(curves);
    DriveSummary {
        volts,
        nominal_w: nominal(analysis).map(|z| volts * volts / z),
        loudest: loudest.map(|l| LoudestResult {
            volts: l.volts,
            over_drive_db: 20.0 * (l.volts / volts).log10(),
            at_hz: l.at_hz,
            limiting: l.limiting,
            from_hz: programme.from_hz,
            to_hz: analysis.design.programme_to(),
        }),
        lowest_load_ohm,
        lowest_load_hz,
    }
}

/// What ends a level, in words.
pub fn in_words(limiting: LimitingFactor) -> &'static str {
    match limiting {
        LimitingFactor::None => "nothing stated",
        LimitingFactor::Thermal => "the coil's heat",
        LimitingFactor::Excursion => "the cone's stroke",
        LimitingFactor::PortAir => "the air in the port",
        LimitingFactor::RadiatorExcursion => "the radiators' stroke",
        LimitingFactor::AmplifierVoltage => "the amplifier's voltage",
        LimitingFactor::AmplifierCurrent => "the amplifier's current",
    }
}

/// What a filter's or a source's curves are told down to, dB.
const FLOOR_DB: f64 = -300.0;

/// A ratio of voltages or pressures in decibels.
pub fn decibels(ratio: f64) -> f64 {
    (20.0 * ratio.log10()).max(FLOOR_DB)
}

/// Apparent and real power out of the amplifier behind its leads, VA and W.
pub fn powers(curves: &Curves) -> Vec<(f64, f64)> {
    let each = curves.amplifier_current.iter().zip(&curves.load);
    each.map(|(i, z)| (i.norm_sqr() * z.norm(), i.norm_sqr() * z.re)).collect()
}
