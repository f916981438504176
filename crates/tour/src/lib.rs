//! Tasks by which a newcomer learns the program: with a real design, checked by what is worked out about it, never by which button was pressed.
//!
//! A [`Task`] begins with a design of its own and has steps; a step is done once the design as it stands now shows it. The same design and the
//! same number of steps behind it always give the same answer, so nothing is kept here. A new task is one file and one line in [`TASKS`].
#![deny(missing_docs)]

mod seen;
mod tasks;

pub use seen::Seen;

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
    /// The design it begins with, as a document.
    start: fn() -> Value,
    steps: &'static [Step],
}

/// A step of a task.
struct Step {
    /// What to do.
    says: fn() -> Text,
    /// Whether the design shows it, beside the one the task began with.
    done: fn(&Seen, &Seen) -> bool,
    /// What came of it.
    told: fn(&Seen, &Seen) -> Text,
}

/// The tasks, in the order in which they are offered.
pub const TASKS: &[Task] =
    &[tasks::chuff::TASK, tasks::litres::TASK, tasks::leak::TASK, tasks::fold::TASK, tasks::boost::TASK];

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
    /// What to do, step by step.
    pub steps: Vec<Text>,
    /// The design it begins with.
    pub start: Design,
}

/// The tasks as a page shows them.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Tour {
    /// In the order in which they are offered.
    pub tasks: Vec<TaskShown>,
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

impl Tour {
    /// All of them.
    pub fn all() -> Tour {
        Tour { tasks: TASKS.iter().map(Task::shown).collect() }
    }
}

impl Task {
    /// The task of a name.
    pub fn named(id: &str) -> Option<&'static Task> {
        TASKS.iter().find(|t| t.id == id)
    }

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
