//! A notch: one frequency taken out.

use super::contract::{Info, Kind, Place, Section};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Takes one frequency out.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Notch")]
pub struct Notch {
    /// What it takes out.
    #[schemars(title = "Frequency", range(min = 1.0, max = 20000.0), extend("x-unit" = "Hz", "x-start" = 180.0))]
    pub frequency_hz: f64,
    /// Its frequency over its width between the points 3 dB down.
    #[schemars(title = "Q", range(min = 0.1, max = 30.0), extend("x-start" = 4.0))]
    pub q: f64,
}

impl Kind for Notch {
    const INFO: Info = Info {
        id: "notch",
        title: "Notch",
        summary: "Takes one frequency out: a pipe resonance that is heard.",
        source: "Bristow-Johnson, Cookbook formulae for audio EQ biquad filter coefficients (notch), from memory",
    };
    /// (x² + 1)/(x² + x/Q + 1).
    fn sections(&self) -> Vec<Section> {
        vec![Section::new(self.frequency_hz, [1.0, 0.0, 1.0], [1.0, 1.0 / self.q, 1.0])]
    }
    fn place(&self) -> Place {
        Place { hz: Some(self.frequency_hz), level_db: None }
    }
}
