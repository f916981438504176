//! What the workshop keeps beside a design while it is built: prices, steps that are done, notes. It is no part of the design:
//! nothing is computed from it but what things cost.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value;

/// What the workshop keeps beside a design.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Work plan")]
pub struct WorkPlan {
    /// What things cost.
    #[serde(skip_serializing_if = "Prices::is_empty")]
    pub prices: Prices,
    /// Steps of the building that are done or have a note.
    #[schemars(title = "Steps", length(max = 200))]
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub steps: Vec<Tick>,
    /// What was bought, line by line of the shopping list.
    #[schemars(title = "Bought", length(max = 200))]
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub bought: Vec<Bought>,
}

/// What was really paid for a line of the shopping list.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Bought")]
pub struct Bought {
    /// Stable name of the line.
    #[schemars(title = "Line", length(min = 1, max = 80))]
    pub item: String,
    /// What was paid for it altogether.
    #[schemars(title = "Paid", range(min = 0.0, max = 100000.0))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub paid: Option<f64>,
    /// How much was bought, in the line's unit; absent is as much as was planned.
    #[schemars(title = "Bought", range(min = 0.0, max = 100000.0))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub quantity: Option<f64>,
    /// How much of it is left over.
    #[schemars(title = "Left over", range(min = 0.0, max = 100000.0))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub left: Option<f64>,
    /// Where.
    #[schemars(title = "Shop", length(max = 200))]
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub shop: String,
}

impl WorkPlan {
    /// Whether there is nothing in it.
    pub fn is_empty(&self) -> bool {
        *self == WorkPlan::default()
    }

    /// What a design document holds of it: up to version 4 it was kept there. Empty where it holds none, or none that reads.
    pub fn within(document: &Value) -> WorkPlan {
        let part = |name: &str| document.get(name).cloned();
        let prices = part("prices").and_then(|v| serde_json::from_value(v).ok()).unwrap_or_default();
        let steps = part("steps").and_then(|v| serde_json::from_value(v).ok()).unwrap_or_default();
        WorkPlan { prices, steps, bought: Vec::new() }
    }

    /// What of it goes with a copy of the design: what things cost. What is done was done to the other.
    pub fn of_a_copy(self) -> WorkPlan {
        WorkPlan { prices: self.prices, steps: Vec::new(), bought: Vec::new() }
    }
}

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
    fn is_empty(&self) -> bool {
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
    /// What the builder noted; longer than one types, since notes of two are joined.
    #[schemars(title = "Note", length(max = 10000))]
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub note: String,
    /// When it was done, RFC 3339; absent where nobody said.
    #[schemars(title = "Done at", length(max = 40))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub done_at: Option<String>,
    /// Time spent on it, min, without what is running.
    #[schemars(title = "Time spent", range(min = 0.0, max = 100000.0))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub minutes: Option<f64>,
    /// Since when its clock runs, RFC 3339; absent where it stands.
    #[schemars(title = "Clock runs since", length(max = 40))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub running_since: Option<String>,
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::json;

    /// What an older design document holds is taken whole, and a part that does not read costs only itself.
    #[test]
    fn an_older_document_gives_what_it_holds() {
        let steps = json!([{"step": "cut", "done": true, "note": "fence off by 0.3"}]);
        let held = WorkPlan::within(&json!({"version": 4, "prices": {"sheet": 58.0}, "steps": steps}));
        assert_eq!(held.prices.sheet, Some(58.0));
        assert_eq!(held.steps[0].note, "fence off by 0.3");
        let half = WorkPlan::within(&json!({"prices": {"sheet": "dear"}, "steps": steps}));
        assert!(half.prices.is_empty() && half.steps.len() == 1);
        assert!(WorkPlan::within(&json!({})).is_empty());
        let copy = held.of_a_copy();
        assert!(copy.steps.is_empty() && copy.prices.sheet == Some(58.0));
    }
}
