//! A coil, a capacitor and a resistor side by side.

use super::component::{Component, Joined};
use super::contract::{Info, Kind};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A coil, a capacitor and a resistor side by side; in line they hold one frequency back.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Trap")]
pub struct Trap {
    /// The coil.
    #[schemars(title = "L", range(min = 0.01, max = 200.0), extend("x-unit" = "mH", "x-start" = 8.2))]
    pub inductance_mh: f64,
    /// Resistance of its wire.
    #[schemars(title = "Wire", range(min = 0.0, max = 1000.0), extend("x-unit" = "ohm", "x-start" = 0.3))]
    #[serde(default)]
    pub coil_ohm: f64,
    /// The capacitor.
    #[schemars(title = "C", range(min = 0.1, max = 20000.0), extend("x-unit" = "uF", "x-start" = 470.0))]
    pub capacitance_uf: f64,
    /// The resistor across both: how deep it goes.
    #[schemars(title = "R", range(min = 0.01, max = 1000.0), extend("x-unit" = "ohm", "x-start" = 8.2))]
    pub resistance_ohm: f64,
}

impl Kind for Trap {
    const INFO: Info = Info {
        id: "trap",
        title: "Trap",
        summary: "In line it holds one frequency back: a peak that the box makes.",
        source: "1/Z = 1/(R_L + jωL) + jωC + 1/R",
    };
    fn made_of(&self) -> Joined {
        Joined::parallel(vec![
            Component::coil(self.inductance_mh, self.coil_ohm),
            Component::capacitor(self.capacitance_uf, 0.0),
            Component::resistor(self.resistance_ohm),
        ])
    }
}
