//! How a cabinet is sawn, and what from.

use oak_drum_cabinet::carcass::{Housing, Joint, Through};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// How a cabinet is sawn.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "At the saw")]
pub struct Saw {
    /// How floor, top and sides meet.
    #[schemars(title = "Joints")]
    pub joint: Joint,
    /// Which of them run through at the corners.
    #[schemars(title = "Run through")]
    pub through: Through,
    /// How boards inside are held by the walls.
    #[schemars(title = "Inside boards")]
    #[serde(skip_serializing_if = "is_butt")]
    pub housing: Housing,
    /// What a hole is made larger than what goes into it, in diameter.
    #[schemars(title = "Holes larger by", range(min = 0.0, max = 10.0), extend("x-unit" = "mm"))]
    pub fit_mm: f64,
    /// Length of a sheet, along its grain.
    #[schemars(title = "Sheet length", range(min = 200.0, max = 6000.0), extend("x-unit" = "mm"))]
    pub sheet_length_mm: f64,
    /// Width of a sheet.
    #[schemars(title = "Sheet width", range(min = 200.0, max = 3000.0), extend("x-unit" = "mm"))]
    pub sheet_width_mm: f64,
    /// What the saw takes.
    #[schemars(title = "Kerf", range(min = 0.0, max = 10.0), extend("x-unit" = "mm"))]
    pub kerf_mm: f64,
    /// What is trimmed off each edge of a sheet first.
    #[schemars(title = "Trim", range(min = 0.0, max = 50.0), extend("x-unit" = "mm"))]
    pub trim_mm: f64,
    /// What a shop leaves on, to be trimmed at home.
    #[schemars(title = "Oversize", range(min = 0.0, max = 50.0), extend("x-unit" = "mm"))]
    pub oversize_mm: f64,
    /// Whether pieces keep their length along the grain.
    #[schemars(title = "Keep the grain")]
    pub keep_grain: bool,
    /// What inches are rounded to.
    #[schemars(title = "Inches in")]
    pub inches: InchSteps,
    /// Pieces at hand, of the boards' material and thickness; they are used before a sheet is begun.
    #[schemars(title = "Own offcuts", length(max = 40))]
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub offcuts: Vec<Offcut>,
    /// The largest piece that can be carried home: the shop's first cuts then leave pieces no larger. Empty takes whole sheets.
    #[schemars(title = "Shop cuts to")]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub carried: Option<Carried>,
}

fn is_butt(housing: &Housing) -> bool {
    *housing == Housing::Butt
}

/// A piece at hand.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Offcut")]
pub struct Offcut {
    /// Along its grain.
    #[schemars(title = "Length", range(min = 20.0, max = 6000.0), extend("x-start" = 600, "x-unit" = "mm"))]
    pub length_mm: f64,
    /// Across it.
    #[schemars(title = "Width", range(min = 20.0, max = 3000.0), extend("x-start" = 300, "x-unit" = "mm"))]
    pub width_mm: f64,
    /// Thickness.
    #[schemars(title = "Thickness", range(min = 2.0, max = 100.0), extend("x-start" = 18, "x-unit" = "mm"))]
    pub thickness_mm: f64,
}

/// The largest piece that can be carried.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Largest piece")]
pub struct Carried {
    /// Its longer side.
    #[schemars(title = "Length", range(min = 200.0, max = 6000.0), extend("x-start" = 1220, "x-unit" = "mm"))]
    pub length_mm: f64,
    /// Its shorter side.
    #[schemars(title = "Width", range(min = 200.0, max = 3000.0), extend("x-start" = 610, "x-unit" = "mm"))]
    pub width_mm: f64,
}

impl Default for Saw {
    fn default() -> Self {
        Saw {
            joint: Joint::Butt,
            through: Through::FloorAndTop,
            housing: Housing::Butt,
            fit_mm: 2.0,
            sheet_length_mm: 2440.0,
            sheet_width_mm: 1220.0,
            kerf_mm: 3.2,
            trim_mm: 5.0,
            oversize_mm: 0.0,
            keep_grain: false,
            inches: InchSteps::ThirtySeconds,
            offcuts: Vec::new(),
            carried: None,
        }
    }
}

impl Saw {
    pub(crate) fn is_usual(&self) -> bool {
        *self == Saw::default()
    }
}

/// What inches are rounded to.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum InchSteps {
    /// Sixteenths.
    Sixteenths,
    /// Thirty-seconds.
    #[default]
    ThirtySeconds,
}

impl InchSteps {
    /// Steps in an inch.
    pub fn steps(self) -> u32 {
        match self {
            InchSteps::Sixteenths => 16,
            InchSteps::ThirtySeconds => 32,
        }
    }
}
