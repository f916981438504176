//! What gets through a wall: the mass law, an estimate. Below its first resonances a real wall is held by its edges, sound goes
//! around it by floor and flanks, and a small room behind it has modes of its own.

use crate::air::Air;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::PI;

/// How far the loss for sound from everywhere lies under that of sound that meets the wall head on, dB (field incidence, up to 78°
/// off; Beranek & Vér, *Noise and Vibration Control Engineering*, from memory).
const FIELD: f64 = 5.0;

/// Loss of sound through a wall of a mass per area (kg/m²) at a frequency (Hz), dB: 10·log10(1 + (πfm''/ρc)²) - 5, not below 0.
/// Near 20·log10(f·m'') - 47.
pub fn loss_db(air: &Air, mass_per_area: f64, frequency: f64) -> f64 {
    let ratio = PI * frequency * mass_per_area / (air.rho * air.c);
    (10.0 * (1.0 + ratio * ratio).log10() - FIELD).max(0.0)
}

/// What stands between a room and the neighbour.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Partition {
    /// A light wall: studs with one board on each side.
    #[schemars(title = "Stud wall, one board a side")]
    LightStuds,
    /// The same with two boards on each side.
    #[schemars(title = "Stud wall, two boards a side")]
    HeavyStuds,
    /// A floor of joists and boards with a ceiling under it.
    #[schemars(title = "Timber floor with ceiling")]
    TimberFloor,
    /// Half a brick, plastered.
    #[default]
    #[schemars(title = "Half a brick, plastered")]
    HalfBrick,
    /// A whole brick, plastered.
    #[schemars(title = "A whole brick, plastered")]
    WholeBrick,
    /// Concrete of 180 mm.
    #[schemars(title = "Concrete")]
    Concrete,
    /// A window of two panes.
    #[schemars(title = "Window, two panes")]
    Window,
}

/// Mass per area of each, kg/m² (common practice, by the densities of gypsum board, timber, brick, concrete and glass).
pub const PARTITIONS: &[(Partition, f64)] = &[
    (Partition::LightStuds, 22.0),
    (Partition::HeavyStuds, 44.0),
    (Partition::TimberFloor, 55.0),
    (Partition::HalfBrick, 225.0),
    (Partition::WholeBrick, 430.0),
    (Partition::Concrete, 420.0),
    (Partition::Window, 20.0),
];

impl Partition {
    /// Its mass per area, kg/m².
    pub fn mass_per_area(self) -> f64 {
        PARTITIONS.iter().find(|(which, _)| *which == self).map_or(0.0, |(_, mass)| *mass)
    }
}

/// Weighting A at a frequency (Hz), dB (IEC 61672-1, annex E, from memory).
pub fn a_weighting_db(frequency: f64) -> f64 {
    let f2 = frequency * frequency;
    let [a, b, c, d] = [20.598_997_f64, 107.652_65, 737.862_23, 12_194.217].map(|f| f * f);
    let response = d * f2 * f2 / ((f2 + a) * ((f2 + b) * (f2 + c)).sqrt() * (f2 + d));
    20.0 * response.log10() + 1.999_7
}
