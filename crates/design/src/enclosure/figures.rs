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
