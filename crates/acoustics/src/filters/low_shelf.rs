//! A low shelf.

use super::contract::{Info, Kind, Place, Section};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Lifts or cuts everything below its frequency.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Low shelf")]
pub struct LowShelf {
    /// Where half of its level is reached, in decibels.
    #[schemars(title = "Frequency", range(min = 1.0, max = 20000.0), extend("x-unit" = "Hz", "x-start" = 50.0))]
    pub frequency_hz: f64,
    /// How much it lifts or cuts in the end.
    #[schemars(title = "Level", range(min = -24.0, max = 24.0), extend("x-unit" = "dB", "x-start" = -3.0))]
    pub level_db: f64,
    /// Steepness of a second-order shelf, 0.71 without overshoot; empty is first order, the gentle one.
    #[schemars(title = "Q", range(min = 0.1, max = 30.0), extend("x-start" = 0.71))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub q: Option<f64>,
}

impl Kind for LowShelf {
    const INFO: Info = Info {
        id: "low_shelf",
        title: "Low shelf",
        summary: "Lifts or cuts everything below its frequency.",
        source: "Bristow-Johnson, Cookbook formulae for audio EQ biquad filter coefficients (lowShelf), from memory",
    };
    /// A(x² + x√A/Q + A)/(A·x² + x√A/Q + 1); first order (x + A)/(x + 1/A).
    fn sections(&self) -> Vec<Section> {
        let a = 10f64.powf(self.level_db / 40.0);
        let (above, below) = match self.q {
            Some(q) => ([a * a, a * a.sqrt() / q, a], [1.0, a.sqrt() / q, a]),
            None => ([a, 1.0, 0.0], [1.0 / a, 1.0, 0.0]),
        };
        vec![Section::new(self.frequency_hz, above, below)]
    }
    fn place(&self) -> Place {
        Place { hz: Some(self.frequency_hz), level_db: Some(self.level_db) }
    }
}
