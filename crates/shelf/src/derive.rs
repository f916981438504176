//! A sheet as it is typed: what follows from it, what is missing, what contradicts itself.

use crate::sheet_air;
use oak_drum_acoustics::driver::{Indication, Woofer, indications};
use oak_drum_design::woofer::sheet::WooferResult;
use oak_drum_document::{Problem, sheet_problems};
use oak_drum_text::Text;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What follows from a sheet.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct Derived {
    /// The complete set the simulation uses; absent while something is missing.
    pub woofer: Option<WooferResult>,
    /// What frame and magnet take from the box, L: stated or estimated.
    pub displacement_l: Option<f64>,
    /// Whether that is an estimate from the dimensions.
    pub displacement_estimated: bool,
    /// Excursion one way at which something strikes, mm: stated, or one and a half times Xmax.
    pub xmech_mm: Option<f64>,
    /// Figures that do not go together, worst first.
    pub contradictions: Vec<Doubt>,
    /// What custom reads out of it.
    pub indications: Vec<Indication>,
    /// What is wrong or missing, at its field.
    pub problems: Vec<FieldMessage>,
}

/// One disagreement of a sheet with itself, in words.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct Doubt {
    /// The figure, by its field name.
    pub field: String,
    /// What the sheet states.
    pub stated: f64,
    /// What follows from the rest.
    pub derived: f64,
    /// How far it is off, per cent.
    pub percent: f64,
    /// Whether a builder should care.
    pub matters: bool,
    /// What a sceptical builder would say.
    pub sentence: String,
}

/// Something wrong with a field.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct FieldMessage {
    /// The field.
    pub field: String,
    /// What is wrong.
    pub message: Text,
}

/// Works a sheet out as far as it goes.
pub fn derive(sheet: &Woofer) -> Derived {
    let air = sheet_air();
    let resolved = sheet.resolve(&air).ok();
    let displacement = sheet.displacement();
    let message = |p: Problem| FieldMessage { field: p.pointer.trim_start_matches('/').into(), message: p.message };
    Derived {
        woofer: resolved.as_ref().map(|r| WooferResult::of(r, &air)),
        displacement_l: displacement.map(|d| d.0),
        displacement_estimated: displacement.is_some_and(|d| d.1),
        xmech_mm: sheet.mechanical_excursion().map(|s| s.0),
        contradictions: resolved
            .iter()
            .flat_map(|r| &r.contradictions)
            .map(|c| Doubt {
                field: c.field.clone(),
                stated: c.stated,
                derived: c.derived,
                percent: c.percent,
                matters: c.matters(),
                sentence: c.sentence(),
            })
            .collect(),
        indications: resolved.iter().flat_map(|r| indications(&r.ts)).collect(),
        problems: sheet_problems(sheet, &air, "").into_iter().map(message).collect(),
    }
}
