//! A resistor and a capacitor in series.

use super::component::{Component, Joined};
use super::contract::{Info, Kind};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A resistor and a capacitor in series; across the line they level the rise of a voice coil's impedance.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "R and C in series")]
pub struct Zobel {
    /// The resistor.
    #[schemars(title = "R", range(min = 0.01, max = 1000.0), extend("x-unit" = "ohm", "x-start" = 6.8))]
    pub resistance_ohm: f64,
    /// The capacitor.
    #[schemars(title = "C", range(min = 0.1, max = 20000.0), extend("x-unit" = "uF", "x-start" = 33.0))]
    pub capacitance_uf: f64,
}

impl Kind for Zobel {
    const INFO: Info = Info {
        id: "zobel",
        title: "R and C in series",
        summary: "Across the line it levels the rise of the voice coil, so that parts before it see a plain resistance.",
        source: "Zobel 1923, from memory: Z = R + 1/(jωC)",
    };
    fn made_of(&self) -> Joined {
        Joined::series(vec![Component::resistor(self.resistance_ohm), Component::capacitor(self.capacitance_uf, 0.0)])
    }
}
