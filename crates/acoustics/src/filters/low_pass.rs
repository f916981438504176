//! A low pass.

use super::contract::{Info, Kind, Place, Section};
use super::slope::Slope;
use crate::fault::Fault;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Takes away what lies above its corner.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Low pass")]
pub struct LowPass {
    /// Its corner.
    #[schemars(title = "Corner", range(min = 1.0, max = 20000.0), extend("x-unit" = "Hz", "x-start" = 80.0))]
    pub frequency_hz: f64,
    /// Its shape.
    #[schemars(title = "Shape")]
    pub slope: Slope,
}

impl Kind for LowPass {
    const INFO: Info = Info {
        id: "low_pass",
        title: "Low pass",
        summary: "Takes away what lies above its corner: what the mains play.",
        source: "Butterworth 1930, Thomson 1949, Linkwitz, JAES 24 (1976); from memory",
    };
    fn sections(&self) -> Vec<Section> {
        self.slope.low_pass(self.frequency_hz)
    }
    fn problems(&self) -> Vec<Fault> {
        self.slope.problem().map(|message| Fault::new("/slope/order", message)).into_iter().collect()
    }
    fn place(&self) -> Place {
        Place { hz: Some(self.frequency_hz), level_db: None }
    }
}
