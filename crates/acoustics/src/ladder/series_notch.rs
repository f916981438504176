//! A coil, a capacitor and a resistor in series.

use super::component::{Component, Joined};
use super::contract::{Info, Kind};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A coil, a capacitor and a resistor in series; across the line they lead one frequency past the woofer.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Series notch")]
pub struct SeriesNotch {
    /// The coil.
    #[schemars(title = "L", range(min = 0.01, max = 200.0), extend("x-unit" = "mH", "x-start" = 10.0))]
    pub inductance_mh: f64,
    /// Resistance of its wire.
    #[schemars(title = "Wire", range(min = 0.0, max = 1000.0), extend("x-unit" = "ohm", "x-start" = 0.4))]
    #[serde(default)]
    pub coil_ohm: f64,
    /// The capacitor.
    #[schemars(title = "C", range(min = 0.1, max = 20000.0), extend("x-unit" = "uF", "x-start" = 470.0))]
    pub capacitance_uf: f64,
    /// A resistor besides the wire.
    #[schemars(title = "R", range(min = 0.0, max = 1000.0), extend("x-unit" = "ohm", "x-start" = 4.7))]
    #[serde(default)]
    pub resistance_ohm: f64,
}

impl Kind for SeriesNotch {
    const INFO: Info = Info {
        id: "series_notch",
        title: "Series notch",
        summary: "Across the line it leads one frequency past the woofer, or levels the impedance peak of a box.",
        source: "Z = R + jωL + 1/(jωC)",
    };
    fn made_of(&self) -> Joined {
        let mut of =
            vec![Component::coil(self.inductance_mh, self.coil_ohm), Component::capacitor(self.capacitance_uf, 0.0)];
        if self.resistance_ohm > 0.0 {
            of.push(Component::resistor(self.resistance_ohm));
        }
        Joined::series(of)
    }
}
