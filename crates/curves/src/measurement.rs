//! A measurement as a build keeps it: what is known about it, where its data came from, and what was done to them. The data
//! themselves are kept beside it, untouched ([`crate::formats::packed`]).

use crate::about::About;
use crate::error::CurveError;
use crate::process::recipe::{MOST_STEPS, RecipeStep};
use crate::sweep::analyse::Harmonic;
use crate::sweep::buzz::Buzz;
use oak_drum_document::Reader;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::sync::OnceLock;

/// The value of `format`.
pub const FORMAT: &str = "oak-drum-measurement";
/// The version this program writes.
pub const VERSION: u32 = 1;
/// Most measurements of a build.
pub const MOST: usize = 100;

/// Where data came from.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum Source {
    /// A file of text or JSON.
    File {
        /// Its name.
        #[schemars(length(max = 200))]
        name: String,
    },
    /// A recorded sweep.
    Recording {
        /// Its name; empty where it was recorded here.
        #[schemars(length(max = 200))]
        name: String,
    },
    /// The simulated bench.
    Bench {},
    /// A practice cabinet on the simulated bench.
    Practice {
        /// Which cabinet.
        seed: u32,
        /// How hard, by its name.
        #[schemars(length(max = 40))]
        difficulty: String,
    },
    /// Made of other measurements.
    Combined {
        /// How, in words.
        #[schemars(length(max = 400))]
        how: String,
    },
}

/// A measurement without its data.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Oak Drum measurement")]
pub struct Measurement {
    /// Always `oak-drum-measurement`.
    #[schemars(extend("const" = FORMAT))]
    pub format: String,
    /// Version of this format.
    #[schemars(extend("const" = VERSION))]
    pub version: u32,
    /// How it was taken.
    #[serde(default)]
    pub about: About,
    /// Where its data came from.
    pub source: Source,
    /// What was done to them, in order.
    #[schemars(length(max = MOST_STEPS))]
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub steps: Vec<RecipeStep>,
    /// Distortion by order, of a recorded sweep.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub harmonics: Vec<Harmonic>,
    /// What buzzed, of a recorded sweep.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub buzzes: Vec<Buzz>,
    /// Peak of the recording, dB of full scale.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub peak_dbfs: Option<f64>,
}

impl Measurement {
    /// One without steps.
    pub fn of(about: About, source: Source) -> Measurement {
        Measurement {
            format: FORMAT.into(),
            version: VERSION,
            about,
            source,
            steps: Vec::new(),
            harmonics: Vec::new(),
            buzzes: Vec::new(),
            peak_dbfs: None,
        }
    }
}

/// JSON Schema of a measurement.
pub fn schema() -> Value {
    oak_drum_document::schema::of::<Measurement>()
}

/// Reads a measurement.
///
/// # Errors
/// [`CurveError::Shape`] with the place of the first problem.
pub fn read_value(value: Value) -> Result<Measurement, CurveError> {
    static READER: OnceLock<Reader> = OnceLock::new();
    let shape = |pointer: &str, message: String| CurveError::Shape { pointer: pointer.into(), message };
    if let Some(first) = READER.get_or_init(|| Reader::new(schema())).problems(&value).first() {
        return Err(shape(&first.pointer, first.message.metric()));
    }
    serde_json::from_value(value).map_err(|e| shape("", e.to_string()))
}
