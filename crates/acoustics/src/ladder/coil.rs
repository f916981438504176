//! A coil.

use super::component::{Component, Joined};
use super::contract::{Info, Kind};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A coil with the resistance of its wire. What an iron core adds when it saturates is not reckoned.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Coil")]
pub struct Coil {
    /// Its inductance.
    #[schemars(title = "L", range(min = 0.01, max = 200.0), extend("x-unit" = "mH", "x-start" = 4.7))]
    pub inductance_mh: f64,
    /// Resistance of its wire.
    #[schemars(title = "Wire", range(min = 0.0, max = 1000.0), extend("x-unit" = "ohm", "x-start" = 0.3))]
    #[serde(default)]
    pub coil_ohm: f64,
}

impl Kind for Coil {
    const INFO: Info = Info {
        id: "coil",
        title: "Coil",
        summary: "In line a low pass: the higher the note, the less goes through.",
        source: "Z = R + jωL",
    };
    fn made_of(&self) -> Joined {
        Joined::series(vec![Component::coil(self.inductance_mh, self.coil_ohm)])
    }
}
