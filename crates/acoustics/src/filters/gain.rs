//! Gain.

use super::contract::{Info, Kind};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Everything louder or softer.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Gain")]
pub struct Gain {
    /// How much louder.
    #[schemars(title = "Level", range(min = -60.0, max = 24.0), extend("x-unit" = "dB", "x-start" = -3.0))]
    pub level_db: f64,
}

impl Kind for Gain {
    const INFO: Info = Info { id: "gain", title: "Gain", summary: "Everything louder or softer.", source: "10^(G/20)" };
    fn factor(&self) -> f64 {
        10f64.powf(self.level_db / 20.0)
    }
}
