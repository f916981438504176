//! When there is time to build, what is glued and painted with: what a plan of days is made from.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// When and how it is built.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Days")]
pub struct Days {
    /// When there is time.
    #[schemars(title = "Free time", length(max = 21))]
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub free: Vec<FreeTime>,
    /// The day it begins, as 2026-11-28; empty is today.
    #[schemars(title = "Begins on", length(max = 10), regex(pattern = "^([0-9]{4}-[0-9]{2}-[0-9]{2})?$"))]
    #[serde(skip_serializing_if = "String::is_empty")]
    pub begins: String,
    /// How warm the workshop is: glue and paint take longer in the cold, and below their least temperature they do not take at all.
    #[schemars(title = "Warmth of the workshop", range(min = -20.0, max = 45.0), extend("x-unit" = "°C"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub warmth_c: Option<f64>,
    /// The glue.
    #[schemars(title = "Glue")]
    #[serde(skip_serializing_if = "is_usual")]
    pub glue: Glue,
    /// What the outside gets.
    #[schemars(title = "Outside")]
    #[serde(skip_serializing_if = "is_as_usual")]
    pub finish: FinishKind,
    /// How many coats; empty is as usual for it.
    #[schemars(title = "Coats", range(min = 1, max = 12))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub coats: Option<u32>,
}

fn is_as_usual(finish: &FinishKind) -> bool {
    *finish == FinishKind::AsUsual
}

fn is_usual(glue: &Glue) -> bool {
    *glue == Glue::default()
}

impl Days {
    /// Whether nothing is stated.
    pub fn is_empty(&self) -> bool {
        *self == Days::default()
    }
}

/// A time of the week that is free.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Free time")]
pub struct FreeTime {
    /// The day.
    #[schemars(title = "Day", extend("x-start" = "saturday"))]
    pub day: DayOfWeek,
    /// When it begins, as 18:30.
    #[schemars(title = "From", length(max = 5), regex(pattern = "^([01]?[0-9]|2[0-3]):[0-5][0-9]$"), extend("x-start" = "10:00"))]
    pub from: String,
    /// How long it is.
    #[schemars(title = "For", range(min = 0.25, max = 16.0), extend("x-unit" = "h", "x-start" = 5))]
    pub hours: f64,
    /// Whether somebody is there to lend a hand.
    #[schemars(title = "With a second pair of hands")]
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub helper: bool,
}

/// A day of the week.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum DayOfWeek {
    /// Monday.
    Monday,
    /// Tuesday.
    Tuesday,
    /// Wednesday.
    Wednesday,
    /// Thursday.
    Thursday,
    /// Friday.
    Friday,
    /// Saturday.
    Saturday,
    /// Sunday.
    Sunday,
}

/// A glue, by its class.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Glue {
    /// White or yellow wood glue.
    #[default]
    WoodGlue,
    /// Wood glue of a slow grade.
    SlowWoodGlue,
    /// Polyurethane glue.
    Polyurethane,
    /// Epoxy, slow hardener.
    Epoxy,
}

/// What the outside gets.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum FinishKind {
    /// Oil where there is veneer, else rolled paint.
    #[default]
    AsUsual,
    /// Wall paint with a roller.
    RolledPaint,
    /// Lacquer, clear or coloured.
    Lacquer,
    /// Oil or hard wax.
    Oil,
    /// Stain, then clear coats.
    StainAndClear,
    /// A textured coat, sprayed or rolled.
    Textured,
    /// Film or cloth.
    Wrap,
}
