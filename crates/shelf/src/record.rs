//! One woofer of the shelf.

use crate::sheet_air;
use oak_drum_acoustics::driver::Woofer;
use oak_drum_document::{Code, Problem, Reader, sheet_problems};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::sync::OnceLock;

/// The value of `format`.
pub const FORMAT: &str = "oak-drum-woofer";
/// The version this program writes.
pub const VERSION: u32 = 1;

/// A woofer on the shelf.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Oak Drum woofer")]
pub struct ShelfWoofer {
    /// Always `oak-drum-woofer`.
    #[schemars(extend("const" = FORMAT))]
    pub format: String,
    /// Version of this format.
    #[schemars(extend("const" = VERSION))]
    pub version: u32,
    /// What does not change with a measurement: name, coils, limits, frame, price.
    pub woofer: Woofer,
    /// The measured or stated figures, the oldest first; at least one.
    #[schemars(length(min = 1, max = 100))]
    pub sets: Vec<ParameterSet>,
    /// Which set counts, from 0.
    #[schemars(title = "In use", range(min = 0, max = 99))]
    #[serde(default)]
    pub in_use: u32,
    /// The builder's own words to find it by.
    #[schemars(length(max = 40), inner(length(min = 1, max = 40)))]
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub tags: Vec<String>,
    /// Whether it is one of the builder's favourites.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub favourite: bool,
    /// Notes.
    #[schemars(title = "Notes", length(max = 4000), extend("x-lines" = 3))]
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub notes: String,
}

/// One set of figures with where it comes from.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Parameter set")]
pub struct ParameterSet {
    /// Where the figures come from.
    #[schemars(title = "Comes from")]
    pub provenance: Provenance,
    /// When, as year-month-day.
    #[schemars(title = "When", length(max = 40))]
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub date: String,
    /// Who measured or wrote it down.
    #[schemars(title = "Who", length(max = 120))]
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub by: String,
    /// How: added mass, known box, impedance curve.
    #[schemars(title = "How", length(max = 400))]
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub method: String,
    /// Voltage it was measured at: a suspension yields more when it is driven harder.
    #[schemars(title = "Drive level", range(min = 0.0001, max = 200.0), extend("x-unit" = "V"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub drive_v: Option<f64>,
    /// Hours of breaking in before it.
    #[schemars(title = "Broken in", range(min = 0.0, max = 10_000.0), extend("x-unit" = "h"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub hours: Option<f64>,
    /// What was changed before it, or anything else worth knowing.
    #[schemars(title = "Note", length(max = 1000))]
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub note: String,
    /// The figures; only those a measurement gives (small signal, physical, coil).
    pub figures: Woofer,
}

/// Where a set of figures comes from.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Provenance {
    /// The maker's data sheet.
    #[default]
    DataSheet,
    /// Measured, new out of its carton.
    MeasuredNew,
    /// Measured after breaking in.
    MeasuredBrokenIn,
    /// Measured after a change: mass on the cone, a repair.
    MeasuredAfterChange,
}

impl ShelfWoofer {
    /// A woofer with one set from a sheet.
    pub fn from_sheet(sheet: &Woofer) -> ShelfWoofer {
        ShelfWoofer {
            format: FORMAT.into(),
            version: VERSION,
            woofer: sheet.without_figures(),
            sets: vec![ParameterSet { figures: sheet.figures(), ..ParameterSet::default() }],
            in_use: 0,
            tags: Vec::new(),
            favourite: false,
            notes: String::new(),
        }
    }

    /// The whole sheet with one of the sets; the last one where there is no such set.
    pub fn with_set(&self, index: usize) -> Woofer {
        let set = self.sets.get(index).or(self.sets.last());
        set.map_or_else(|| self.woofer.clone(), |s| self.woofer.with_figures(&s.figures))
    }

    /// The whole sheet with the set in use.
    pub fn in_use(&self) -> Woofer {
        self.with_set(self.in_use as usize)
    }

    /// Whether another is the same make: maker and name alike, capitals and spaces aside.
    pub fn key(&self) -> (String, String) {
        let plain = |text: &str| text.split_whitespace().collect::<Vec<_>>().join(" ").to_lowercase();
        (plain(&self.woofer.maker), plain(&self.woofer.name))
    }
}

/// JSON Schema (2020-12) of a woofer of the shelf.
pub fn schema() -> Value {
    oak_drum_document::schema::of::<ShelfWoofer>()
}

/// Reads a woofer of the shelf from JSON text.
///
/// # Errors
/// Every problem found, each with its place.
pub fn read(text: &str) -> Result<ShelfWoofer, Vec<Problem>> {
    let value = serde_json::from_str(text)
        .map_err(|e| vec![Problem::new(Code::NotJson, "", format!("this is not JSON: {e}"))])?;
    read_value(value)
}

fn reader() -> &'static Reader {
    static READER: OnceLock<Reader> = OnceLock::new();
    READER.get_or_init(|| Reader::new(schema()))
}

/// What a woofer made by this program would be told on being read: nothing where it may be stored.
///
/// # Errors
/// As [`read`].
pub fn check(woofer: &ShelfWoofer) -> Result<(), Vec<Problem>> {
    let value = serde_json::to_value(woofer)
        .map_err(|e| vec![Problem::new(Code::WrongType, "", format!("cannot be written: {e}"))])?;
    let mut problems = reader().problems(&value);
    problems.extend(woofer.problems());
    if problems.is_empty() { Ok(()) } else { Err(problems) }
}

/// Reads a woofer of the shelf from parsed JSON.
///
/// # Errors
/// As [`read`].
pub fn read_value(value: Value) -> Result<ShelfWoofer, Vec<Problem>> {
    let only = |code, pointer: &str, message: String| Err(vec![Problem::new(code, pointer, message)]);
    if value.get("format").and_then(Value::as_str) != Some(FORMAT) {
        return only(Code::UnknownFormat, "/format", format!("expected \"{FORMAT}\""));
    }
    if value.get("version").and_then(Value::as_u64) != Some(u64::from(VERSION)) {
        return only(Code::UnknownFormat, "/version", format!("expected {VERSION}"));
    }
    let problems = reader().problems(&value);
    if !problems.is_empty() {
        return Err(problems);
    }
    let woofer: ShelfWoofer = serde_json::from_value(value)
        .map_err(|e| vec![Problem::new(Code::WrongType, "", format!("cannot be read as a woofer: {e}"))])?;
    let problems = woofer.problems();
    if problems.is_empty() { Ok(woofer) } else { Err(problems) }
}

impl ShelfWoofer {
    /// What only several fields together can tell; empty for a woofer that can be simulated.
    pub fn problems(&self) -> Vec<Problem> {
        let mut list = Vec::new();
        if self.woofer.name.trim().is_empty() {
            let message = "a woofer on the shelf needs a name, for example \"Attic 12\"";
            list.push(Problem::new(Code::Missing, "/woofer/name", message));
        }
        if self.woofer.figures() != Woofer::default() {
            let message = "figures of a measurement stand in a parameter set, not here";
            list.push(Problem::new(Code::Contradiction, "/woofer", message));
        }
        if self.in_use as usize >= self.sets.len() {
            let message = format!("there are {} sets, counted from 0", self.sets.len());
            list.push(Problem::new(Code::OutOfRange, "/in_use", message));
        }
        let air = sheet_air();
        for (i, set) in self.sets.iter().enumerate() {
            let at = format!("/sets/{i}/figures");
            if set.figures.without_figures() != Woofer::default() {
                let message = "name, coils, limits and frame belong to the woofer, not to a set";
                list.push(Problem::new(Code::Contradiction, at.clone(), message));
            }
            list.extend(sheet_problems(&self.with_set(i), &air, &at));
        }
        list
    }
}
