//! What the builder keeps while building: prices, steps that are done, notes.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What things cost where the builder buys them; what is empty is not added up.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Prices")]
pub struct Prices {
    /// One sheet.
    #[schemars(title = "A sheet", range(min = 0.0, max = 100000.0))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub sheet: Option<f64>,
    /// One woofer.
    #[schemars(title = "A woofer", range(min = 0.0, max = 100000.0))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub woofer: Option<f64>,
    /// The amplifier.
    #[schemars(title = "Amplifier", range(min = 0.0, max = 100000.0))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub amplifier: Option<f64>,
    /// One port, its flares too, or one passive radiator.
    #[schemars(title = "A port or radiator", range(min = 0.0, max = 100000.0))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub opening: Option<f64>,
    /// A kilogram of fill.
    #[schemars(title = "Fill, a kilogram", range(min = 0.0, max = 10000.0))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub fill_per_kg: Option<f64>,
    /// Screws, glue, gaskets, terminals together.
    #[schemars(title = "Screws, glue, gaskets", range(min = 0.0, max = 100000.0))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub small_parts: Option<f64>,
    /// Paint, oil or veneer for a square metre.
    #[schemars(title = "Finish, a square metre", range(min = 0.0, max = 10000.0))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub finish_per_m2: Option<f64>,
}

impl Prices {
    pub(crate) fn is_empty(&self) -> bool {
        *self == Prices::default()
    }
}

/// What became of a step of the building.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Step")]
pub struct Tick {
    /// Stable name of the step.
    #[schemars(title = "Step", length(min = 1, max = 60))]
    pub step: String,
    /// Whether it is done.
    #[schemars(title = "Done")]
    #[serde(default)]
    pub done: bool,
    /// What the builder noted.
    #[schemars(title = "Note", length(max = 2000))]
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub note: String,
}
