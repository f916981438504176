//! A task: where it begins, its steps, and how far a design is with it.

use crate::seen::Seen;
use oak_drum_document::{Checked, Design, read_value};
use oak_drum_text::Text;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value;

/// A task.
pub struct Task {
    /// Stable name.
    pub id: &'static str,
    /// What is done, in a few words.
    pub title: &'static str,
    /// What it teaches, in a sentence.
    pub teaches: &'static str,
    /// Minutes it takes at most: an estimate.
    pub minutes: u32,
    /// Where it begins: a station, or a station and its view.
    pub station: &'static str,
    /// The piece by which what changes is heard, where there is something to hear.
    pub plays: Option<&'static str>,
    /// The design it begins with, as a document.
    pub(crate) start: fn() -> Value,
    pub(crate) steps: &'static [Step],
}

/// A step of a task.
pub(crate) struct Step {
    /// What to do.
    pub(crate) says: fn() -> Text,
    /// Whether the design shows it, beside the one the task began with.
    pub(crate) done: fn(&Seen, &Seen) -> bool,
    /// What came of it.
    pub(crate) told: fn(&Seen, &Seen) -> Text,
}

/// A task as a page shows it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[schemars(rename = "TourTask")]
pub struct TaskShown {
    /// Stable name.
    pub id: String,
    /// What is done.
    pub title: String,
    /// What it teaches.
    pub teaches: String,
    /// Minutes it takes at most: an estimate.
    pub minutes: u32,
    /// Where it begins: a station, or a station and its view.
    pub station: String,
    /// Stable name of the piece by which what changes is heard; absent where there is nothing to hear.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub plays: Option<String>,
    /// What to do, step by step.
    pub steps: Vec<Text>,
    /// The design it begins with.
    pub start: Design,
}

/// How far a task is.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[schemars(rename = "TourProgress")]
pub struct Progress {
    /// Steps that are done.
    pub done: usize,
    /// What came of those that were done just now.
    pub told: Vec<Text>,
}

impl Task {
    /// The design it begins with.
    ///
    /// # Panics
    /// Never of a task in [`TASKS`]: a test reads every one.
    pub fn start(&self) -> Checked {
        match read_value((self.start)()) {
            Ok(design) => design,
            Err(problems) => panic!("{}: {problems:?}", self.id),
        }
    }

    /// As a page shows it.
    pub fn shown(&self) -> TaskShown {
        TaskShown {
            id: self.id.into(),
            title: self.title.into(),
            teaches: self.teaches.into(),
            minutes: self.minutes,
            station: self.station.into(),
            plays: self.plays.map(Into::into),
            steps: self.steps.iter().map(|s| (s.says)()).collect(),
            start: self.start().into_design(),
        }
    }

    /// How far it is with this design, of which so many steps were done before. A step once done stays done.
    pub fn progress(&self, design: &Checked, done: usize) -> Progress {
        let (now, start) = (Seen::of(design), Seen::of(&self.start()));
        let reached: Vec<&Step> = self.steps.iter().skip(done).take_while(|s| (s.done)(&now, &start)).collect();
        Progress {
            done: done.min(self.steps.len()) + reached.len(),
            told: reached.iter().map(|s| (s.told)(&now, &start)).collect(),
        }
    }
}
