//! Figures that sum a box up: its band, its efficiency, its lowest wave.

use crate::analysis::Analysis;
use crate::analysis::inside::inside_of;
use oak_drum_acoustics::network::{Radiator, RadiatorKind};
use oak_drum_acoustics::outputs::{Curves, Sweep};
use oak_drum_acoustics::radiation::piston;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// A band of its own, around the highest level below five times fs.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct Passband {
    /// Where the level falls to half its power below its highest, Hz: the same as `f3_hz`.
    pub lower_hz: f64,
    /// The same above, Hz.
    pub upper_hz: f64,
    /// Highest level against what the woofer's efficiency gives, dB.
    pub gain_db: f64,
    /// Deepest dip between the edges that the level comes back from by 0.1 dB, dB under the highest.
    pub ripple_db: f64,
}

/// What boxes are compared by, at the drive they are computed at.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct Compared {
    /// The lowest note they are compared at, Hz: the brief's, or 30.
    pub note_hz: f64,
    /// All chambers together, or the line, L; absent where there is no air to tell.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub air_l: Option<f64>,
    /// Level at the lowest note, dB.
    pub level_db: f64,
    /// The highest level that excursion, heat, air and amplifier allow there, dB; absent where nothing stated limits it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub highest_db: Option<f64>,
    /// Highest less lowest level from there two octaves up, dB.
    pub swing_db: f64,
    /// Largest excursion from there to 500 Hz, peak one way, mm.
    pub excursion_mm: f64,
    /// Longest group delay from there to 300 Hz, ms.
    pub delay_ms: f64,
    /// Lowest impedance from 10 to 300 Hz, ohm.
    pub impedance_ohm: f64,
}

/// The note boxes are compared at where the brief names none, Hz.
const USUAL_NOTE: f64 = 30.0;

/// What boxes are compared by, from the design's curves; at the note itself it is computed apart, whatever their frequencies.
pub fn compared(analysis: &Analysis, curves: &Curves) -> Compared {
    let note = analysis.design.brief.lowest_note_hz.unwrap_or(USUAL_NOTE);
    let there = analysis.at(note);
    let within = |values: &[f64], from: f64, to: f64| -> Vec<f64> {
        let pairs = curves.frequency.iter().zip(values);
        pairs.filter(|(f, _)| (from..=to).contains(*f)).map(|(_, v)| *v).collect()
    };
    // the note itself is among what is looked at
    let most = |values: &[f64], own: f64, to: f64| within(values, note, to).into_iter().fold(own, f64::max);
    let level = there.level_db[0];
    let band = within(&curves.level_db, note, note * 4.0);
    let impedance: Vec<f64> = curves.impedance.iter().map(|z| z.norm()).collect();
    let air: f64 = analysis.wired.chambers.iter().map(|c| c.net * 1e3).sum();
    let highest = there.max_level_db[0];
    Compared {
        note_hz: note,
        air_l: (air > 0.0).then_some(air),
        level_db: level,
        highest_db: highest.is_finite().then_some(highest),
        swing_db: band.iter().copied().fold(level, f64::max) - band.iter().copied().fold(level, f64::min),
        excursion_mm: 1e3 * most(&curves.excursion, there.excursion[0], 500.0),
        delay_ms: 1e3 * most(&curves.group_delay, there.group_delay[0], 300.0),
        impedance_ohm: within(&impedance, 10.0, 300.0).into_iter().fold(there.impedance[0].norm(), f64::min),
    }
}

/// c/2L of the longest side of the first chamber whose inside can be told.
pub fn lowest_wave(analysis: &Analysis) -> Option<f64> {
    let chamber = analysis.wired.chambers.first().filter(|c| !c.pointer.is_empty())?;
    let (inside, _) = inside_of(analysis, chamber);
    let longest = inside.sides().into_iter().fold(0.0, f64::max);
    (longest > 0.0).then(|| analysis.context.air.c / (2.0 * longest))
}

/// The band around the highest level; `None` where it does not fall by 3 dB on both sides.
pub fn passband(analysis: &Analysis) -> Option<Passband> {
    let mut sweep = Sweep::new(&analysis.wired.network, analysis.conditions);
    let band = sweep.band(analysis.context.array.ts.fs, analysis.edges())?;
    Some(Passband {
        lower_hz: band.lower,
        upper_hz: band.upper,
        gain_db: analysis.edges().peak.0 - sweep.reference_level_db(),
        ripple_db: band.ripple,
    })
}

/// Whether the open end of a line or horn and the listener stand in the same part of space.
pub fn one_space(analysis: &Analysis) -> bool {
    let listening = analysis.conditions.solid_angle.steradians();
    analysis.wired.path.as_ref().is_none_or(|path| (path.mouth.steradians() / listening - 1.0).abs() < 1e-9)
}

/// Sound power over the power taken, per cent; empty where the mouth and the listener stand in different parts of space, whose
/// powers cannot be held against each other.
///
/// The level is that on the axis, p = jωρU/(Ωr). Where what radiates is no longer small it beams: of the power |p|²Ωr²/(ρc)
/// that such a level would mean all around, a piston of the whole radiating area gives the share R1(2ka)/((ka)²/2)
/// (Rayleigh; walls as mirrors). What the network does not carry as a radiation resistance (cones, ends in other spaces) is
/// sound the terminals do not show: it is added to the power taken at them, so that no more comes out than goes in.
pub fn efficiency(analysis: &Analysis, c: &Curves) -> Vec<f64> {
    if !one_space(analysis) {
        return Vec::new();
    }
    let network = &analysis.wired.network;
    let conditions = &analysis.conditions;
    let (rear_out, front_out) = network.cone_radiates();
    let cones = if rear_out || front_out { analysis.context.array.cone_area() } else { 0.0 };
    let open = |r: &Radiator| matches!(r.kind, RadiatorKind::Port | RadiatorKind::Sprung);
    let openings: f64 = network.radiators.iter().filter(|r| open(r)).map(|r| r.area).sum();
    let steradians = conditions.solid_angle.steradians();
    let mirrored = (openings + cones) * TAU / steradians;
    let radius = (mirrored / std::f64::consts::PI).sqrt();
    let air = &conditions.air;
    let source = &analysis.context.source;
    (0..c.frequency.len())
        .map(|i| {
            let (omega, z) = (TAU * c.frequency[i], c.impedance[i]);
            let x = 2.0 * omega / air.c * radius;
            let beams = if x < 1e-3 { 1.0 } else { piston(x).0[0] / (x * x / 8.0) };
            let sound = c.sum[i].norm_sqr() * steradians * conditions.distance.powi(2) / (air.rho * air.c) * beams;
            let carried: f64 = network
                .radiators
                .iter()
                .zip(&c.flows)
                .filter(|(r, _)| open(r))
                .map(|(r, flow)| network.elements[r.element].element.radiation_resistance(omega) * flow[i].norm_sqr())
                .sum();
            let taken = source.current(omega, z).powi(2) * z.re + (sound - carried).max(0.0);
            if taken > 0.0 { sound / taken * 100.0 } else { 0.0 }
        })
        .collect()
}
