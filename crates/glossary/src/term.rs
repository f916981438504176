//! What a term says of itself.

use crate::drawing::Drawing;
use serde::Serialize;

/// A term of the field.
#[derive(Clone, Debug, Serialize)]
pub struct Term {
    /// Stable name, in lower case with underscores.
    pub id: &'static str,
    /// As builders write it.
    pub name: &'static str,
    /// What else it is called; each is searched for.
    pub also: &'static [&'static str],
    /// One sentence without sizes, so that it is right in every system of units.
    pub says: &'static str,
    /// Where the sentence is from.
    pub source: &'static str,
    /// Enclosure families of this kind, by their stable names.
    pub families: &'static [&'static str],
    /// Properties of the published documents that state it.
    pub fields: &'static [&'static str],
    /// Figures and lanes that show it, by their stable names.
    pub figures: &'static [&'static str],
    /// Rules whose findings are about it, by their stable names.
    pub findings: &'static [&'static str],
    /// What it does, drawn.
    #[serde(serialize_with = "drawn", skip_serializing_if = "Option::is_none")]
    pub drawing: Option<fn() -> Drawing>,
}

fn drawn<S: serde::Serializer>(made: &Option<fn() -> Drawing>, to: S) -> Result<S::Ok, S::Error> {
    made.map(|make| make()).serialize(to)
}
