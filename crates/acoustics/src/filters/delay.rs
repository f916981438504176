//! A delay.

use super::contract::{Info, Kind};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Everything later by so much.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Delay")]
pub struct Delay {
    /// How much later; 2.9 ms is a metre of air.
    #[schemars(title = "Delay", range(min = 0.0, max = 500.0), extend("x-unit" = "ms", "x-start" = 3.0))]
    pub delay_ms: f64,
}

impl Kind for Delay {
    const INFO: Info = Info {
        id: "delay",
        title: "Delay",
        summary: "Everything later by so much: set against the mains, which stand nearer or farther.",
        source: "e^(-jωT)",
    };
    fn delay(&self) -> f64 {
        self.delay_ms * 1e-3
    }
}
