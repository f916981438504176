//! What plays in a room: the cabinets, where their cones and openings are, and the air each moves.

use crate::analysis::Analysis;
use crate::analysis::inside::Shell;
use crate::cabinet::built_cabinet::built;
use crate::cabinet::mounted_part::Kind;
use num_complex::Complex64;
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_acoustics::network::Network;
use oak_drum_acoustics::outputs::Sweep;
use oak_drum_acoustics::room::Place;
use oak_drum_document::{Facing, InRoom, OtherBuild, OtherOpening, Space, StandingCabinet};
use std::f64::consts::TAU;

/// A build as it plays, wherever it stands.
#[derive(Clone, Debug, PartialEq)]
pub struct Player {
    /// Width, height and depth of its outside, m.
    pub outside: [f64; 3],
    /// Whether that is assumed from its volume.
    pub assumed: bool,
    /// What gives sound: its place from the left lower front corner seen from before it (across, up, behind, m), and the flow out of
    /// it, m³/s rms at each frequency.
    pub openings: Vec<([f64; 3], Vec<Complex64>)>,
}

/// A cabin of less than so many times the woofers' Vas is a spring before them.
const SMALL: f64 = 50.0;

/// The outside of a design's cabinet, m, and whether it is assumed from its air.
pub fn outside(analysis: &Analysis) -> ([f64; 3], bool) {
    if let Some(cabinet) = &analysis.design.cabinet {
        return ([cabinet.width_mm, cabinet.height_mm, cabinet.depth_mm].map(|x| x * 1e-3), false);
    }
    let shell = Shell::of(analysis);
    // a line's air is its path's
    let path = analysis.wired.path.as_ref().map_or(0.0, |p| 1.2 * p.path.volume());
    let inside: f64 = shell.inside.iter().product::<f64>() * 1e-9;
    let larger = ((inside + path) / inside.max(1e-6)).cbrt();
    (shell.inside.map(|x| (x * larger + 2.0 * shell.panel) * 1e-3), true)
}

impl Player {
    /// A design at its own drive; `hz` are the frequencies. Cones share their flow, and so do ports, mouths and radiators together
    /// (an estimate where two ports differ); what leaks is counted to the cones.
    pub fn of(analysis: &Analysis, hz: &[f64]) -> Player {
        Player::with(analysis, &analysis.wired.network, hz)
    }

    /// The same in a space: the air of a cabin that is small against the woofers' Vas is a spring before them too.
    fn within(analysis: &Analysis, space: &Space, hz: &[f64]) -> Player {
        let Space::Cabin { volume_m3, leak_hz, .. } = *space else { return Player::of(analysis, hz) };
        if analysis.context.array.ts.vas <= volume_m3 / SMALL {
            return Player::of(analysis, hz);
        }
        let mut wired = analysis.enclosure.wire(&analysis.context);
        // found once for the box by itself: as loud as it goes stays what it is
        wired.network.diaphragm.source.volts = analysis.wired.network.diaphragm.source.volts;
        wired.network.enclose(analysis.context.air.compliance(volume_m3), leak_hz);
        Player::with(analysis, &wired.network, hz)
    }

    fn with(analysis: &Analysis, network: &Network, hz: &[f64]) -> Player {
        let curves = Sweep::new(network, analysis.conditions).curves(hz);
        let conditions = &analysis.conditions;
        let scale = conditions.air.rho / (conditions.solid_angle.steradians() * conditions.distance);
        let flow = |f: &f64, p: Complex64| p / Complex64::new(0.0, TAU * f * scale);
        let other: Vec<Complex64> = hz.iter().zip(&curves.port).map(|(f, p)| flow(f, *p)).collect();
        let sums = hz.iter().zip(&curves.sum).zip(&curves.port);
        let cones: Vec<Complex64> = sums.map(|((f, sum), port)| flow(f, sum - port)).collect();
        let ([width, height, depth], assumed) = outside(analysis);
        let built = built(analysis);
        let parts = built.iter().flat_map(|b| &b.mounted_parts).filter(|part| part.face.is_some());
        let parts: Vec<(bool, [f64; 3])> = parts
            .filter(|p| matches!(p.kind, Kind::Woofer | Kind::Port | Kind::Radiator | Kind::Mouth))
            .map(|p| (p.kind == Kind::Woofer, p.at.map(|x| x * 1e-3)))
            .collect();
        let front = [width / 2.0, height / 2.0, 0.0];
        let mut openings = Vec::new();
        for (is_cone, flow) in [(true, cones), (false, other)] {
            let loudest = flow.iter().map(|u| u.norm()).fold(0.0, f64::max);
            if loudest <= 0.0 {
                continue;
            }
            let mut places: Vec<[f64; 3]> = parts.iter().filter(|(cone, _)| *cone == is_cone).map(|p| p.1).collect();
            if places.is_empty() {
                places.push(front);
            }
            let share = 1.0 / places.len() as f64;
            openings.extend(places.into_iter().map(|at| (at, flow.iter().map(|u| u * share).collect())));
        }
        Player { outside: [width, height, depth], assumed, openings }
    }

    /// Another build as it was when it was put here; between its frequencies straight over ln f, beyond them silent.
    pub fn other(build: &OtherBuild, hz: &[f64]) -> Player {
        let at = |f: f64, list: &[f64]| {
            let after = build.hz.partition_point(|x| *x < f);
            match (after.checked_sub(1).and_then(|i| build.hz.get(i)), build.hz.get(after)) {
                (Some(low), Some(high)) => {
                    let t = (f / low).ln() / (high / low).ln();
                    list[after - 1] + (list[after] - list[after - 1]) * t
                }
                (None, Some(first)) if *first == f => list[0],
                _ => 0.0,
            }
        };
        let openings = build
            .openings
            .iter()
            .map(|opening| {
                let flow = hz.iter().map(|f| Complex64::new(at(*f, &opening.re), at(*f, &opening.im))).collect();
                (opening.at_mm.map(|x| x * 1e-3), flow)
            })
            .collect();
        Player { outside: build.outside_mm.map(|x| x * 1e-3), assumed: false, openings }
    }

    /// The flow out of all of it, m³/s rms, at a frequency by its index.
    pub fn all(&self, i: usize) -> Complex64 {
        self.openings.iter().map(|(_, flow)| flow[i]).sum()
    }

    /// How high above its underside its sound comes from, m: the mean of its openings.
    pub fn height(&self) -> f64 {
        self.openings.iter().map(|(at, _)| at[1]).sum::<f64>() / self.openings.len().max(1) as f64
    }

    /// What it would be kept as, to stand in another build's room. Frequencies are those it was computed at, Hz.
    pub fn kept(&self, name: &str, hz: &[f64]) -> OtherBuild {
        let openings = self.openings.iter().map(|(at, flow)| OtherOpening {
            at_mm: at.map(|x| x * 1e3),
            re: flow.iter().map(|u| u.re).collect(),
            im: flow.iter().map(|u| u.im).collect(),
        });
        OtherBuild {
            name: name.chars().take(250).collect(),
            outside_mm: self.outside.map(|x| x * 1e3),
            hz: hz.to_vec(),
            openings: openings.collect(),
        }
    }
}

/// Frequencies another build is kept at, Hz.
pub fn kept_at() -> Vec<f64> {
    log_frequencies(5.0, 400.0, 160)
}

/// The floor a cabinet takes: how long and how wide, m.
pub fn footprint(outside: [f64; 3], faces: Facing) -> [f64; 2] {
    let [width, _, depth] = outside;
    match faces {
        Facing::Right | Facing::Left => [depth, width],
        Facing::Upper | Facing::Lower => [width, depth],
    }
}

/// Where a point of a cabinet (across, up, behind, m) is in the room.
pub fn in_room(cabinet: &StandingCabinet, outside: [f64; 3], at: [f64; 3]) -> Place {
    let [width, _, depth] = outside;
    let front = match cabinet.faces {
        Facing::Right => [1.0, 0.0],
        Facing::Upper => [0.0, 1.0],
        Facing::Left => [-1.0, 0.0],
        Facing::Lower => [0.0, -1.0],
    };
    // seen from before it, across runs to the left of where it looks
    let across = [-front[1], front[0]];
    let (forward, aside) = (depth / 2.0 - at[2], at[0] - width / 2.0);
    [
        cabinet.x_m + front[0] * forward + across[0] * aside,
        cabinet.y_m + front[1] * forward + across[1] * aside,
        cabinet.raised_m + at[1],
    ]
}

/// Everything that plays in a room, at some frequencies.
#[derive(Clone, Debug)]
pub struct Playing {
    /// Frequencies, Hz.
    pub hz: Vec<f64>,
    /// One a cabinet, in their order.
    pub players: Vec<Player>,
}

impl Playing {
    /// The cabinets of a design's room, at frequencies (Hz).
    pub fn of(analysis: &Analysis, room: &InRoom, hz: &[f64]) -> Playing {
        let own = Player::within(analysis, &room.room.space, hz);
        let player = |cabinet: &StandingCabinet| match &cabinet.other {
            Some(build) => Player::other(build, hz),
            None => own.clone(),
        };
        Playing { hz: hz.to_vec(), players: room.cabinets.iter().map(player).collect() }
    }

    /// What a cabinet's setting makes of its flow at an angular frequency (rad/s): level, delay, polarity.
    pub fn set(cabinet: &StandingCabinet, omega: f64) -> Complex64 {
        let sign = if cabinet.inverted { -1.0 } else { 1.0 };
        Complex64::from_polar(sign * 10f64.powf(cabinet.level_db / 20.0), -omega * cabinet.delay_ms * 1e-3)
    }
}
