//! Sentences that carry quantities, so that the same sentence is said in millimetres and litres or in inches and cubic feet.
//!
//! A [`Quantity`] is put into a text by `format!`, with its digits: `format!("{:.0} deep", mm(620.0))`. The string then holds the
//! quantity between marks, and is taken to a [`Text`] where it is handed out; whoever draws or prints strings says them with
//! [`said`]. Strings that hold no quantity pass through as they are.
//!
//! ```
//! use oak_drum_text::{System, Text, litres, mm};
//! let text = Text::from(format!("{:.0} deep holds {:.1}.", mm(620.0), litres(95.2)));
//! assert_eq!(text.said(System::Metric), "620 mm deep holds 95.2 L.");
//! assert_eq!(text.said(System::Inch), "24 13/32 in deep holds 3.36 ft³.");
//! ```
#![deny(missing_docs)]

pub mod inches;
mod quantity;
mod text;

pub use quantity::{
    Quantity, Said, Unit, bolt, drill, kg, litres, metres, mm, screw, size, square_cm, square_metres, square_mm,
    travel, wire,
};
pub use text::{Part, Text, capital, said};

/// What sizes are said in.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, serde::Serialize, serde::Deserialize, schemars::JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum System {
    /// Millimetres, litres, kilograms.
    #[default]
    Metric,
    /// Inches with fractions, feet, cubic feet, pounds.
    Inch,
}
