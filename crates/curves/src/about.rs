//! What is known about how a curve was taken.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Where a curve was taken.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum Taken {
    /// At the terminals of the finished box.
    #[schemars(title = "Terminals of the box")]
    InBox {},
    /// At the terminals of a woofer that hangs free.
    #[schemars(title = "Woofer in free air")]
    FreeAir {},
    /// The same with a known mass on its cone.
    #[schemars(title = "Woofer with added mass")]
    AddedMass {
        /// The mass.
        #[schemars(title = "Mass", range(min = 0.1, max = 2000.0), extend("x-unit" = "g", "x-start" = 40))]
        mass_g: f64,
    },
    /// At the terminals of a woofer on a closed box of known volume.
    #[schemars(title = "Woofer on a known box")]
    KnownBox {
        /// Air in that box, all that stands in it taken off.
        #[schemars(title = "Its air", range(min = 0.2, max = 5000.0), extend("x-unit" = "L", "x-start" = 40))]
        volume_l: f64,
    },
    /// A microphone close to the middle of the cone.
    #[schemars(title = "Close to the cone")]
    NearCone {},
    /// A microphone in the plane of one port's mouth.
    #[schemars(title = "In the port's mouth")]
    NearPort {},
    /// A microphone close to the middle of a passive radiator.
    #[schemars(title = "Close to a passive radiator")]
    NearRadiator {},
    /// A microphone in front of the box, nothing else near.
    #[schemars(title = "In front of the box")]
    InFront {
        /// How far away.
        #[schemars(title = "Distance", range(min = 0.1, max = 100.0), extend("x-unit" = "m", "x-start" = 1))]
        distance_m: f64,
    },
    /// A microphone where somebody sits.
    #[schemars(title = "At the seat")]
    AtSeat {},
}

impl Default for Taken {
    fn default() -> Self {
        Taken::InBox {}
    }
}

impl Taken {
    /// Whether it is an impedance.
    pub fn is_impedance(&self) -> bool {
        matches!(self, Taken::InBox {} | Taken::FreeAir {} | Taken::AddedMass { .. } | Taken::KnownBox { .. })
    }

    /// In words.
    pub fn words(&self) -> &'static str {
        match self {
            Taken::InBox {} => "terminals of the box",
            Taken::FreeAir {} => "woofer in free air",
            Taken::AddedMass { .. } => "woofer with added mass",
            Taken::KnownBox { .. } => "woofer on a known box",
            Taken::NearCone {} => "close to the cone",
            Taken::NearPort {} => "in the port's mouth",
            Taken::NearRadiator {} => "close to a passive radiator",
            Taken::InFront { .. } => "in front of the box",
            Taken::AtSeat {} => "at the seat",
        }
    }
}

/// What is known about how a curve was taken.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "About a curve")]
pub struct About {
    /// What it is called.
    #[schemars(title = "Name", length(max = 120))]
    pub name: String,
    /// Where it was taken.
    #[schemars(title = "Taken")]
    pub taken: Taken,
    /// Whether the level is absolute: a calibrated microphone at a known drive.
    #[schemars(title = "Level is absolute")]
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    pub absolute: bool,
    /// Who took it.
    #[schemars(title = "By", length(max = 120))]
    #[serde(skip_serializing_if = "String::is_empty")]
    pub by: String,
    /// On which day, as 2026-11-26.
    #[schemars(title = "On", length(max = 32))]
    #[serde(skip_serializing_if = "String::is_empty")]
    pub on: String,
    /// With what: microphone, sound card, jig.
    #[schemars(title = "With", length(max = 200))]
    #[serde(skip_serializing_if = "String::is_empty")]
    pub with: String,
    /// Volts at the terminals.
    #[schemars(title = "Drive", range(min = 0.0001, max = 1000.0), extend("x-unit" = "V"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub volts: Option<f64>,
    /// Whether it went through the build's own filters; else it was taken without them.
    #[schemars(title = "Through the build's filters")]
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    pub filtered: bool,
    /// Temperature of the air.
    #[schemars(title = "Temperature", range(min = -30.0, max = 60.0), extend("x-unit" = "°C"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub temperature_c: Option<f64>,
    /// What else there is to say.
    #[schemars(title = "Notes", length(max = 4000), extend("x-lines" = 3))]
    #[serde(skip_serializing_if = "String::is_empty")]
    pub notes: String,
}
