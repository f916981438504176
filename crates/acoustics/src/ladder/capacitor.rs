//! A capacitor.

use super::component::{Component, Joined};
use super::contract::{Info, Kind};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A capacitor with its loss. How an electrolytic one changes with voltage is not reckoned.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Capacitor")]
pub struct Capacitor {
    /// Its capacitance.
    #[schemars(title = "C", range(min = 0.1, max = 20000.0), extend("x-unit" = "uF", "x-start" = 220.0))]
    pub capacitance_uf: f64,
    /// Its loss as a resistance in series.
    #[schemars(title = "Loss", range(min = 0.0, max = 1000.0), extend("x-unit" = "ohm", "x-start" = 0.05))]
    #[serde(default)]
    pub loss_ohm: f64,
}

impl Kind for Capacitor {
    const INFO: Info = Info {
        id: "capacitor",
        title: "Capacitor",
        summary: "Across the line it leads the high notes past the woofer; in line it holds the low ones back.",
        source: "Z = R + 1/(jωC)",
    };
    fn made_of(&self) -> Joined {
        Joined::series(vec![Component::capacitor(self.capacitance_uf, self.loss_ohm)])
    }
}
