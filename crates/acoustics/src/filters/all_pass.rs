//! An all-pass: phase without level.

use super::contract::{Info, Kind, Place, Section};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Turns the phase about its frequency and leaves the level alone.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "All-pass")]
pub struct AllPass {
    /// Where it turns by 90 degrees (first order) or 180 (second).
    #[schemars(title = "Frequency", range(min = 1.0, max = 20000.0), extend("x-unit" = "Hz", "x-start" = 80.0))]
    pub frequency_hz: f64,
    /// Of a second-order one how quickly it turns; empty is first order, what most amplifiers call phase.
    #[schemars(title = "Q", range(min = 0.1, max = 30.0), extend("x-start" = 0.71))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub q: Option<f64>,
}

impl Kind for AllPass {
    const INFO: Info = Info {
        id: "all_pass",
        title: "All-pass",
        summary: "Turns the phase about its frequency and leaves the level alone: to meet the mains at the crossover.",
        source: "Bristow-Johnson, Cookbook formulae for audio EQ biquad filter coefficients (APF), from memory",
    };
    /// (x² - x/Q + 1)/(x² + x/Q + 1); first order (1 - x)/(1 + x).
    fn sections(&self) -> Vec<Section> {
        let (above, below) = match self.q {
            Some(q) => ([1.0, -1.0 / q, 1.0], [1.0, 1.0 / q, 1.0]),
            None => ([1.0, -1.0, 0.0], [1.0, 1.0, 0.0]),
        };
        vec![Section::new(self.frequency_hz, above, below)]
    }
    fn place(&self) -> Place {
        Place { hz: Some(self.frequency_hz), level_db: None }
    }
}
