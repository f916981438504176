//! The project's own format of a curve, with a published schema.

use crate::about::About;
use crate::curve::{Curve, MOST_POINTS, Measurand, wrong_points};
use crate::error::CurveError;
use oak_drum_document::Reader;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::sync::OnceLock;

/// The value of `format`.
pub const FORMAT: &str = "oak-drum-curve";
/// The version this program reads and writes.
pub const VERSION: u32 = 1;

/// A curve with what is known about how it was taken.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Oak Drum curve")]
pub struct CurveFile {
    /// Always `oak-drum-curve`.
    #[schemars(extend("const" = FORMAT))]
    pub format: String,
    /// Version of this format.
    #[schemars(extend("const" = VERSION))]
    pub version: u32,
    /// How it was taken.
    #[serde(default)]
    pub about: About,
    /// What it tells.
    pub quantity: Measurand,
    /// Frequencies, Hz, rising.
    #[schemars(length(min = 2, max = MOST_POINTS))]
    pub frequency_hz: Vec<f64>,
    /// Level in dB re 20 µPa, or impedance in Ω, one a frequency.
    #[schemars(length(min = 2, max = MOST_POINTS))]
    pub magnitude: Vec<f64>,
    /// Phase in degrees, one a frequency; absent where it is not known.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub phase_deg: Option<Vec<f64>>,
    /// Signal over noise in dB, one a frequency; absent where it is not known.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub snr_db: Option<Vec<f64>>,
}

impl CurveFile {
    /// A curve with what is known about it.
    pub fn of(curve: &Curve, about: About) -> CurveFile {
        CurveFile {
            format: FORMAT.into(),
            version: VERSION,
            about,
            quantity: curve.quantity,
            frequency_hz: curve.frequency.clone(),
            magnitude: curve.magnitude(),
            phase_deg: curve.phase_deg(),
            snr_db: (!curve.snr_db.is_empty()).then(|| curve.snr_db.clone()),
        }
    }

    /// The points.
    pub fn curve(&self) -> Curve {
        let phase: Option<Vec<f64>> = self.phase_deg.as_ref().map(|p| p.iter().map(|d| d.to_radians()).collect());
        let made = match self.quantity {
            Measurand::Level => Curve::of_level(self.frequency_hz.clone(), &self.magnitude, phase.as_deref()),
            Measurand::Impedance => Curve::of_impedance(self.frequency_hz.clone(), &self.magnitude, phase.as_deref()),
        };
        Curve { snr_db: self.snr_db.clone().unwrap_or_default(), ..made }
    }
}

/// JSON Schema of a curve.
pub fn schema() -> Value {
    oak_drum_document::schema::of::<CurveFile>()
}

/// Reads a curve.
///
/// # Errors
/// [`CurveError::Shape`] with the place of the first problem.
pub fn read(bytes: &[u8]) -> Result<CurveFile, CurveError> {
    let text = super::decode(bytes)?;
    if text.trim().is_empty() {
        return Err(CurveError::Empty);
    }
    read_value(serde_json::from_str(&text).map_err(|e| CurveError::NotJson(e.to_string()))?)
}

/// Reads a curve from a value.
///
/// # Errors
/// [`CurveError::Shape`] with the place of the first problem.
pub fn read_value(value: Value) -> Result<CurveFile, CurveError> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let shape = |pointer: &str, message: String| CurveError::Shape { pointer: pointer.into(), message };
    let known = value["format"].as_str() == Some(FORMAT) && value["version"].as_u64() == Some(u64::from(VERSION));
    if !known {
        return Err(shape("/format", format!("expected \"{FORMAT}\" and version {VERSION}")));
    }
    if let Some(first) = READER.get_or_init(|| Reader::new(schema())).problems(&value).first() {
        return Err(shape(&first.pointer, first.message.metric()));
    }
    let file: CurveFile = serde_json::from_value(value).map_err(|e| shape("", e.to_string()))?;
    let phase = file.phase_deg.as_deref();
    if let Some(wrong) = wrong_points(&file.frequency_hz, &file.magnitude, phase, file.quantity) {
        return Err(shape("/frequency_hz", wrong));
    }
    if file.snr_db.as_ref().is_some_and(|s| s.len() != file.frequency_hz.len() || s.iter().any(|x| !x.is_finite())) {
        return Err(shape("/snr_db", "one value a frequency is expected".into()));
    }
    Ok(file)
}

/// A curve as a file.
pub fn write(file: &CurveFile) -> String {
    serde_json::to_string(file).unwrap_or_default() + "\n"
}
