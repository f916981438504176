//! Polarity.

use super::contract::{Info, Kind};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Plus and minus changed over.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Polarity turned")]
pub struct Polarity {}

impl Kind for Polarity {
    const INFO: Info = Info {
        id: "polarity",
        title: "Polarity turned",
        summary: "Plus and minus changed over: what the 180 degree switch of an amplifier does.",
        source: "a factor of -1",
    };
    fn factor(&self) -> f64 {
        -1.0
    }
}
