//! A resistor.

use super::component::{Component, Joined};
use super::contract::{Info, Kind};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A resistor.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Resistor")]
pub struct Resistor {
    /// Its resistance.
    #[schemars(title = "R", range(min = 0.01, max = 1000.0), extend("x-unit" = "ohm", "x-start" = 4.7))]
    pub resistance_ohm: f64,
}

impl Kind for Resistor {
    const INFO: Info = Info {
        id: "resistor",
        title: "Resistor",
        summary: "In line it costs level and raises Q; with another across the line it is a pad.",
        source: "Z = R",
    };
    fn made_of(&self) -> Joined {
        Joined::series(vec![Component::resistor(self.resistance_ohm)])
    }
}
