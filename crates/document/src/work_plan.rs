//! What the workshop keeps beside a design while it is built: prices, steps that are done, notes. It is no part of the design:
//! nothing is computed from it but what things cost.

use crate::days::Days;
use crate::problem::{Code, Problem};
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
    /// When and how it is built.
    #[serde(skip_serializing_if = "Days::is_empty")]
    pub days: Days,
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

    /// What its schema cannot tell: hours and days that are none.
    pub fn faults(&self) -> Vec<Problem> {
        let mut list = Vec::new();
        let mut add = |at: String, what: &str| list.push(Problem::new(Code::OutOfRange, at, what.to_owned()));
        for (i, free) in self.days.free.iter().enumerate().filter(|(_, f)| !is_hour(&f.from)) {
            add(
                format!("/days/free/{i}/from"),
                &format!("an hour is expected, for example 18:30; \"{}\" is none", free.from),
            );
        }
        if !self.days.begins.is_empty() && !is_day(&self.days.begins) {
            add("/days/begins".into(), "a day is expected, for example 2026-11-28");
        }
        list
    }

    /// What a design document holds of it: up to version 4 it was kept there. Empty where it holds none, or none that reads.
    pub fn within(document: &Value) -> WorkPlan {
        let part = |name: &str| document.get(name).cloned();
        let prices = part("prices").and_then(|v| serde_json::from_value(v).ok()).unwrap_or_default();
        let steps = part("steps").and_then(|v| serde_json::from_value(v).ok()).unwrap_or_default();
        WorkPlan { prices, steps, ..WorkPlan::default() }
    }

    /// What of it goes with a copy of the design: what things cost, and when there is time. What is done was done to the other.
    pub fn of_a_copy(self) -> WorkPlan {
        let days = Days { begins: String::new(), ..self.days };
        WorkPlan { prices: self.prices, days, ..WorkPlan::default() }
    }
}

/// Numbers between marks, so many digits each.
fn numbers(text: &str, mark: char, digits: &[std::ops::RangeInclusive<usize>]) -> Option<Vec<u32>> {
    let parts: Vec<&str> = text.split(mark).collect();
    let fits = parts.len() == digits.len() && parts.iter().zip(digits).all(|(p, d)| d.contains(&p.len()));
    if !fits || !parts.iter().all(|p| p.bytes().all(|b| b.is_ascii_digit())) {
        return None;
    }
    parts.iter().map(|p| p.parse().ok()).collect()
}

fn is_hour(text: &str) -> bool {
    matches!(numbers(text, ':', &[1..=2, 2..=2]).as_deref(), Some([h, m]) if *h < 24 && *m < 60)
}

fn is_day(text: &str) -> bool {
    let found = numbers(text, '-', &[4..=4, 2..=2, 2..=2]);
    let Some([year, month, day]) = found.as_deref() else { return false };
    let leap = year % 4 == 0 && (year % 100 != 0 || year % 400 == 0);
    let longest = [31, if leap { 29 } else { 28 }, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
    month.checked_sub(1).and_then(|m| longest.get(m as usize)).is_some_and(|most| (1..=*most).contains(day))
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
    /// What it was reckoned to take when its time was kept, min: from both the program learns how fast this builder is.
    #[schemars(title = "Reckoned", range(min = 0.0, max = 100000.0))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub reckoned_min: Option<f64>,
    /// What the builder allows for it, min; absent is as it is reckoned.
    #[schemars(title = "Allow", range(min = 0.0, max = 10000.0), extend("x-unit" = "min"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub allow_min: Option<f64>,
    /// How long what comes next waits after it, h; absent is as usual for what is used.
    #[schemars(title = "Then wait", range(min = 0.0, max = 1000.0), extend("x-unit" = "h"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub wait_h: Option<f64>,
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
        // hours and days as hands type them
        assert!(["9:00", "18:30", "00:00", "23:59"].into_iter().all(is_hour));
        assert!(!["24:00", "7", "7:5", "12:60", "", "-1:00", "1:00 "].into_iter().any(is_hour));
        assert!(["2026-11-28", "2028-02-29", "2000-02-29"].into_iter().all(is_day));
        assert!(
            !["2026-02-29", "2100-02-29", "2026-13-01", "2026-00-10", "26-1-1", "2026-11-31"].into_iter().any(is_day)
        );
        let copy = held.of_a_copy();
        assert!(copy.steps.is_empty() && copy.prices.sheet == Some(58.0));
    }
}
