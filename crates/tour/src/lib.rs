//! Tasks by which a newcomer learns the program: with a real design, checked by what is worked out about it, never by which button was pressed.
//!
//! A [`Task`] begins with a design of its own and has steps; a step is done once the design as it stands now shows it. The same design and the
//! same number of steps behind it always give the same answer, so nothing is kept here. A new task is one file and one line in [`TASKS`].
#![deny(missing_docs)]

mod seen;
mod sound;
mod task;
mod tasks;

pub use seen::Seen;
pub use sound::played;
pub use task::{Progress, Task, TaskShown};

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The tasks, in the order in which they are offered.
pub const TASKS: &[Task] =
    &[tasks::chuff::TASK, tasks::litres::TASK, tasks::leak::TASK, tasks::fold::TASK, tasks::boost::TASK];

/// The tasks as a page shows them.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Tour {
    /// In the order in which they are offered.
    pub tasks: Vec<TaskShown>,
}

impl Tour {
    /// All of them.
    pub fn all() -> Tour {
        Tour { tasks: TASKS.iter().map(Task::shown).collect() }
    }
}

/// The task of a name.
pub fn named(id: &str) -> Option<&'static Task> {
    TASKS.iter().find(|t| t.id == id)
}
