//! What belongs to the workshop and to no single build: its money, the tools it has, the pieces of board on its rack.

use oak_drum_acoustics::panels::BoardMaterial;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What belongs to the workshop.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Workshop")]
pub struct Workshop {
    /// What its prices are in, as it is written behind a sum.
    #[schemars(title = "Currency", length(max = 8))]
    #[serde(skip_serializing_if = "String::is_empty")]
    pub currency: String,
    /// Tools and small things it has.
    #[schemars(title = "Has", length(max = 500))]
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub has: Vec<Owned>,
    /// Pieces of board on the rack.
    #[schemars(title = "On the rack", length(max = 500))]
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub rack: Vec<RackPiece>,
}

impl Workshop {
    /// Whether nothing is stated.
    pub fn is_empty(&self) -> bool {
        *self == Workshop::default()
    }
}

/// A tool, or so many of a kind.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Tool")]
pub struct Owned {
    /// Stable name of the kind.
    #[schemars(title = "What", length(min = 1, max = 80))]
    pub thing: String,
    /// Its size: what a clamp opens to, the diameter of a bit; absent where it has none.
    #[schemars(title = "Size", range(min = 0.1, max = 10000.0), extend("x-unit" = "mm"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub size_mm: Option<f64>,
    /// How many.
    #[schemars(title = "How many", range(min = 1, max = 1000))]
    #[serde(default = "one", skip_serializing_if = "is_one")]
    pub many: u32,
}

fn one() -> u32 {
    1
}

fn is_one(many: &u32) -> bool {
    *many == 1
}

/// A piece of board on the rack.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Piece on the rack")]
pub struct RackPiece {
    /// What it is of.
    #[schemars(title = "Of", extend("x-start" = "mdf"))]
    pub board: BoardMaterial,
    /// Along its grain.
    #[schemars(title = "Length", range(min = 20.0, max = 6000.0), extend("x-start" = 600, "x-unit" = "mm"))]
    pub length_mm: f64,
    /// Across it.
    #[schemars(title = "Width", range(min = 20.0, max = 3000.0), extend("x-start" = 300, "x-unit" = "mm"))]
    pub width_mm: f64,
    /// Thickness.
    #[schemars(title = "Thickness", range(min = 2.0, max = 100.0), extend("x-start" = 18, "x-unit" = "mm"))]
    pub thickness_mm: f64,
    /// What it was left over from.
    #[schemars(title = "Left over from", length(max = 200))]
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub from: String,
}
