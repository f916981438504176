//! The transform that gives a sealed box another resonance and Q.

use super::contract::{Info, Kind, Place, Section};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Gives a sealed box another resonance and Q; exact as far as the box is a plain second-order one.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Sealed-box transform")]
pub struct Transform {
    /// Resonance the box has.
    #[schemars(title = "Box has fc", range(min = 1.0, max = 20000.0), extend("x-unit" = "Hz", "x-start" = 50.0))]
    pub from_hz: f64,
    /// Q the box has there.
    #[schemars(title = "and Qtc", range(min = 0.1, max = 30.0), extend("x-start" = 0.8))]
    pub from_q: f64,
    /// Resonance it shall have.
    #[schemars(title = "Shall have fc", range(min = 1.0, max = 20000.0), extend("x-unit" = "Hz", "x-start" = 25.0))]
    pub to_hz: f64,
    /// Q it shall have there.
    #[schemars(title = "and Q", range(min = 0.1, max = 30.0), extend("x-start" = 0.71))]
    pub to_q: f64,
}

impl Transform {
    /// What it lifts toward 0 Hz, dB: 40 log(fc/fp).
    pub fn lift_db(&self) -> f64 {
        40.0 * (self.from_hz / self.to_hz).log10()
    }
}

impl Kind for Transform {
    const INFO: Info = Info {
        id: "transform",
        title: "Sealed-box transform",
        summary: "Gives a sealed box another resonance and Q, at the price of stroke and watts below the old one.",
        source: "Linkwitz 1978, from memory",
    };
    /// (s² + s·wc/Qc + wc²)/(s² + s·wp/Qp + wp²), about the geometric mean of the two.
    fn sections(&self) -> Vec<Section> {
        let middle = (self.from_hz * self.to_hz).sqrt();
        let quadratic = |hz: f64, q: f64| {
            let x = hz / middle;
            [x * x, x / q, 1.0]
        };
        vec![Section::new(middle, quadratic(self.from_hz, self.from_q), quadratic(self.to_hz, self.to_q))]
    }
    fn place(&self) -> Place {
        Place { hz: Some(self.to_hz), level_db: None }
    }
}
