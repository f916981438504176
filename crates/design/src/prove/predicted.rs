//! What the model says a measurement would show.

use crate::analysis::Analysis;
use crate::room::heard::can_be_told;
use crate::room::playing::Playing;
use crate::room::response::{at, ears};
use crate::room::surroundings::Surroundings;
use num_complex::Complex64;
use oak_drum_acoustics::network::RadiatorKind;
use oak_drum_acoustics::outputs::Sweep;
use oak_drum_curves::about::Taken;
use oak_drum_curves::curve::{Curve, Measurand};
use oak_drum_curves::fit::woofer::impedance;
use oak_drum_document::InRoom;
use std::f64::consts::{PI, TAU};

/// What radiates at a place a microphone is held close to.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Face {
    /// Area of one, m².
    pub area: f64,
    /// How many equal ones there are.
    pub count: u32,
}

/// What radiates where a curve was taken; `None` where it was not taken close to anything, or the design has none of it.
pub fn face(analysis: &Analysis, taken: &Taken) -> Option<Face> {
    match taken {
        Taken::NearCone {} => {
            let count = analysis.design.array.count;
            Some(Face { area: analysis.context.array.ts.sd, count })
        }
        Taken::NearPort {} => opening(analysis, RadiatorKind::Port).map(|(_, face)| face),
        Taken::NearRadiator {} => opening(analysis, RadiatorKind::Sprung).map(|(_, face)| face),
        _ => None,
    }
}

/// The first opening of a kind that lies outside, with its place among the radiators.
fn opening(analysis: &Analysis, kind: RadiatorKind) -> Option<(usize, Face)> {
    let list = &analysis.wired.network.radiators;
    let found = list.iter().enumerate().find(|(_, r)| r.kind == kind && r.area > 0.0)?;
    let count = found.1.count.max(1);
    Some((found.0, Face { area: found.1.area / f64::from(count), count }))
}

/// Whether a curve taken so means anything for a design.
pub fn applies(analysis: &Analysis, taken: &Taken) -> bool {
    match taken {
        Taken::NearPort {} | Taken::NearRadiator {} => face(analysis, taken).is_some(),
        Taken::NearCone {} => analysis.wired.network.cone_radiates().0 || analysis.wired.network.cone_radiates().1,
        _ => true,
    }
}

/// The curve a design would show at frequencies (Hz), with the filters of its chain or without. Levels are those at its drive. `None` where
/// it has nothing of the kind.
pub fn predicted(analysis: &Analysis, taken: &Taken, filtered: bool, frequencies: &[f64]) -> Option<Curve> {
    let context = &analysis.context;
    let alone = |heavier: f64, stiffer: f64| {
        // one woofer by itself, its coils as they are wired in the build
        let ts = &context.array.ts;
        let coil = &analysis.woofer.coil;
        let value =
            frequencies.iter().map(|f| impedance(coil, [ts.fs, ts.qes, ts.qms], heavier, stiffer, *f)).collect();
        Some(curve(Measurand::Impedance, frequencies, value))
    };
    match taken {
        Taken::FreeAir {} => return alone(0.0, 0.0),
        Taken::AddedMass { mass_g } => return alone(mass_g * 1e-3 / context.array.ts.mms(&context.air), 0.0),
        Taken::KnownBox { volume_l } => return alone(0.0, context.array.ts.vas / (volume_l * 1e-3)),
        _ => {}
    }
    let each = matches!(taken, Taken::NearPort {} | Taken::NearRadiator {});
    let sweep = Sweep::new(&analysis.wired.network, analysis.conditions);
    let curves = if each { sweep.with_each_opening().curves(frequencies) } else { { sweep }.curves(frequencies) };
    if matches!(taken, Taken::InBox {}) {
        return Some(curve(Measurand::Impedance, frequencies, curves.impedance));
    }
    let source = &context.source;
    // what the filters do is divided out where it was measured without them
    let plain = |f: f64, v: Complex64| if filtered { v } else { v / source.filters.at(f) };
    let conditions = &analysis.conditions;
    let (rho, distance) = (conditions.air.rho, conditions.distance);
    let near = |flow: Complex64, face: Face, f: f64| {
        let radius = (face.area / PI).sqrt();
        Complex64::new(0.0, rho * TAU * f) * flow / f64::from(face.count) / (PI * radius)
    };
    let value: Vec<Complex64> = match taken {
        Taken::NearCone {} => {
            let face = face(analysis, taken)?;
            let to_flow = conditions.solid_angle.steradians() * distance / rho;
            let flow = |f: f64, p: Complex64| p * to_flow / Complex64::new(0.0, TAU * f);
            frequencies.iter().zip(&curves.cone).map(|(f, p)| plain(*f, near(flow(*f, *p), face, *f))).collect()
        }
        Taken::NearPort {} | Taken::NearRadiator {} => {
            let kind = if matches!(taken, Taken::NearPort {}) { RadiatorKind::Port } else { RadiatorKind::Sprung };
            let (index, face) = opening(analysis, kind)?;
            let flows = curves.flows.get(index)?;
            frequencies.iter().zip(flows).map(|(f, u)| plain(*f, near(*u, face, *f))).collect()
        }
        Taken::InFront { distance_m } => {
            let nearer = distance / distance_m;
            frequencies.iter().zip(&curves.sum).map(|(f, p)| plain(*f, p * nearer)).collect()
        }
        Taken::AtSeat {} if in_its_room(analysis).is_some() => {
            let heard = at_main_seat(analysis, in_its_room(analysis)?, frequencies);
            frequencies.iter().zip(heard).map(|(f, p)| plain(*f, p)).collect()
        }
        _ => frequencies.iter().zip(&curves.sum).map(|(f, p)| plain(*f, *p)).collect(),
    };
    let sound = value.iter().all(|v| v.is_finite());
    sound.then(|| curve(Measurand::Level, frequencies, value))
}

/// The room a design stands in, where everything in it can stand so.
fn in_its_room(analysis: &Analysis) -> Option<&InRoom> {
    analysis.design.room.as_ref().filter(|room| can_be_told(analysis, room))
}

/// Pressure (Pa rms) of all that plays in its room at the main seat, an estimate.
fn at_main_seat(analysis: &Analysis, room: &InRoom, frequencies: &[f64]) -> Vec<Complex64> {
    let surroundings = Surroundings::of(&room.room.space, analysis.context.air);
    at(&surroundings, &Playing::of(analysis, room, frequencies), room, ears(&room.seats[0]), false)
}

fn curve(quantity: Measurand, frequencies: &[f64], value: Vec<Complex64>) -> Curve {
    Curve { quantity, frequency: frequencies.to_vec(), value, has_phase: true, snr_db: Vec::new() }
}
