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

#[cfg(test)]
mod tests {
    use super::*;
    use crate::about::Taken;

    fn made() -> Measurement {
        let about = About { name: "Cone".into(), taken: Taken::NearCone {}, ..About::default() };
        let mut made = Measurement::of(about, Source::Recording { name: "cone.wav".into() });
        made.steps = vec![RecipeStep::Smooth { per_octave: 6 }, RecipeStep::Gate { from_ms: -2.0, to_ms: 250.0 }];
        made.harmonics = vec![Harmonic { order: 2, frequency_hz: vec![20.0, 40.0], percent: vec![1.2, 0.8] }];
        made.buzzes = vec![Buzz { from_hz: 55.0, to_hz: 62.0, out_db: 18.0 }];
        made.peak_dbfs = Some(-7.5);
        made
    }

    #[test]
    fn what_is_kept_reads_back_by_its_schema() {
        let value = serde_json::to_value(made()).unwrap();
        assert_eq!(read_value(value).unwrap(), made());
        let plain = Measurement::of(About::default(), Source::Bench {});
        let value = serde_json::to_value(&plain).unwrap();
        assert!(value.get("steps").is_none() && value.get("harmonics").is_none(), "what is empty is left out");
        assert_eq!(read_value(value).unwrap(), plain);
    }

    #[test]
    fn what_is_wrong_is_named_at_its_place() {
        let says = |pointer: &str, value: Value, place: &str| {
            let mut document = serde_json::to_value(made()).unwrap();
            *document.pointer_mut(pointer).unwrap() = value;
            let CurveError::Shape { pointer, .. } = read_value(document).unwrap_err() else { panic!() };
            assert!(pointer.starts_with(place), "{pointer}");
        };
        says("/version", 2.into(), "/version");
        says("/steps/0/per_octave", 99.into(), "/steps/0/per_octave");
        says("/about/taken/kind", "nowhere".into(), "/about/taken");
        says("/source/kind", "hearsay".into(), "/source");
        says("/about/name", "x".repeat(200).into(), "/about/name");
    }
}
