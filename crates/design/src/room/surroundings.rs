//! What surrounds the cabinets of a design, ready to be asked for the sound between two places.

use num_complex::Complex64;
use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::room::boundary::{self, Plane};
use oak_drum_acoustics::room::{Place, Shoebox, cabin};
use oak_drum_document::{CabinBegins, Damping, Space};
use std::f64::consts::TAU;

/// What surrounds them.
#[derive(Clone, Debug, PartialEq)]
pub enum Surroundings {
    /// Four walls, a floor, a ceiling.
    Room(Shoebox),
    /// A space smaller than the wave.
    Cabin(Cabin),
    /// The ground, and perhaps a wall.
    Outdoors {
        /// The air.
        air: Air,
        /// The ground first.
        planes: Vec<Plane>,
    },
}

/// A cabin, worked out.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Cabin {
    /// The air.
    pub air: Air,
    /// Its volume, m³.
    pub volume: f64,
    /// Its longest side, m.
    pub longest: f64,
    /// From the cabinet to who listens, m.
    pub distance: f64,
    /// Where its leaks let go, Hz.
    pub leak: f64,
    /// Where its pressure begins to rise by its volume, and by its longest side, Hz.
    pub crossings: [f64; 2],
    /// The one that is used, Hz.
    pub crossing: f64,
}

impl Cabin {
    /// What it adds to the level in half of free space, dB.
    pub fn gain_db(&self, frequency: f64) -> f64 {
        cabin::gain_db(frequency, self.crossing, self.leak)
    }
}

impl Surroundings {
    /// Of a space in this air.
    pub fn of(space: &Space, air: Air) -> Surroundings {
        match *space {
            Space::Room { length_m, width_m, height_m, damping, leak_hz } => {
                let sides = [length_m, width_m, height_m];
                let room = match damping {
                    Damping::Time { t60_s } => Shoebox::with_time(sides, t60_s, air),
                    Damping::Walls { left, right, lower, upper, floor, ceiling, open_m2 } => {
                        Shoebox::with_walls(sides, [[left, right], [lower, upper], [floor, ceiling]], open_m2, air)
                    }
                };
                Surroundings::Room(room.leaking(leak_hz))
            }
            Space::Cabin { volume_m3, length_m, distance_m, leak_hz, begins } => {
                let crossings = [
                    cabin::crossing_by_volume(&air, TAU, distance_m, volume_m3),
                    cabin::crossing_by_length(&air, length_m),
                ];
                let crossing = match begins {
                    CabinBegins::ByVolume => crossings[0],
                    CabinBegins::ByLength => crossings[1],
                };
                let (volume, longest, distance, leak) = (volume_m3, length_m, distance_m, leak_hz);
                Surroundings::Cabin(Cabin { air, volume, longest, distance, leak, crossings, crossing })
            }
            Space::Outdoors { wall_takes, .. } => {
                let ground = Plane { axis: 2, at: 0.0, reflection: 1.0 };
                let planes = std::iter::once(ground).chain(wall_takes.map(|takes| Plane::taking(0, 0.0, takes)));
                Surroundings::Outdoors { air, planes: planes.collect() }
            }
        }
    }

    /// Its air.
    pub fn air(&self) -> &Air {
        match self {
            Surroundings::Room(room) => &room.air,
            Surroundings::Cabin(cabin) => &cabin.air,
            Surroundings::Outdoors { air, .. } => air,
        }
    }

    /// Pressure at one place per volume velocity at another, Pa·s/m³, and its derivative by ω, at frequencies (Hz, rising). In a cabin
    /// places do not count: it is that of half a space at the listener's distance, lifted, and its slope is left out, which delays
    /// nothing.
    pub fn heard(&self, hz: &[f64], from: Place, to: Place) -> Vec<[Complex64; 2]> {
        match self {
            Surroundings::Room(room) => {
                let omegas: Vec<f64> = hz.iter().map(|f| TAU * f).collect();
                room.transfers(&omegas, from, to)
            }
            Surroundings::Outdoors { air, planes } => {
                hz.iter().map(|f| boundary::sloped(air, planes, TAU * f, from, to)).collect()
            }
            Surroundings::Cabin(cabin) => {
                let at = |f: &f64| {
                    let lift = 10f64.powf(cabin.gain_db(*f) / 20.0);
                    [Complex64::new(0.0, f * cabin.air.rho / cabin.distance) * lift, Complex64::default()]
                };
                hz.iter().map(at).collect()
            }
        }
    }

    /// The same on open ground without any walls, the source on it: what a room is held against.
    pub fn open(&self, hz: &[f64], from: Place, to: Place) -> Vec<[Complex64; 2]> {
        let air = self.air();
        let apart = match self {
            Surroundings::Cabin(cabin) => cabin.distance,
            _ => (0..3).map(|i| (from[i] - to[i]).powi(2)).sum::<f64>().sqrt().max(0.1),
        };
        // no way to go in a cabin
        let late = if matches!(self, Surroundings::Cabin(_)) { 0.0 } else { apart / air.c };
        let at = |f: &f64| {
            let wave = Complex64::from_polar(air.rho / (TAU * apart), -TAU * f * late) * Complex64::i();
            [wave * TAU * f, wave + wave * TAU * f * Complex64::new(0.0, -late)]
        };
        hz.iter().map(at).collect()
    }

    /// Above it single modes say nothing, Hz; without bound where there are none.
    pub fn ends(&self) -> f64 {
        match self {
            Surroundings::Room(room) => room.schroeder(),
            Surroundings::Cabin(_) | Surroundings::Outdoors { .. } => f64::INFINITY,
        }
    }
}
