//! What a booklet is made from.

use chrono::{DateTime, FixedOffset, Utc};
use oak_drum_design::prove::view::Measured;
use oak_drum_document::{Checked, LogEntry, WorkPlan, Workshop};
use oak_drum_listening::outcome::Outcome;
use oak_drum_paper::block::Photo;
use std::collections::HashMap;

/// An entry of the log.
#[derive(Debug)]
pub struct WrittenEntry {
    /// When it was written.
    pub at: DateTime<Utc>,
    /// What.
    pub entry: LogEntry,
}

/// A listening session that has ended.
#[derive(Debug)]
pub struct HeardSession {
    /// What it was called.
    pub title: String,
    /// When it ended.
    pub ended_at: DateTime<Utc>,
    /// What came of it.
    pub outcome: Outcome,
}

/// A build as it is told: one of its revisions, and what belongs to the build.
#[derive(Debug)]
pub struct Told<'a> {
    /// Its name.
    pub name: &'a str,
    /// The revision that is told.
    pub letter: &'a str,
    /// Letters of all of them.
    pub letters: &'a [String],
    /// Its design.
    pub design: &'a Checked,
    /// What the workshop keeps beside it.
    pub work: &'a WorkPlan,
    /// What the workshop has: its currency, its tools.
    pub workshop: &'a Workshop,
    /// What was measured, as far as it can be drawn.
    pub measured: &'a [Measured],
    /// The log, the oldest first.
    pub log: &'a [WrittenEntry],
    /// Photos of the log by their digest.
    pub photos: &'a HashMap<String, Photo>,
    /// Whether the photos are the small ones, or some are left out, because all of them would be too much.
    pub photos_reduced: bool,
    /// Listening sessions that have ended, the oldest first.
    pub heard: &'a [HeardSession],
    /// When it is printed, in the builder's own time.
    pub now: DateTime<FixedOffset>,
}

impl Told<'_> {
    /// What stands under the title.
    pub(crate) fn under(&self) -> String {
        let revision = match (self.letters, self.design.name.as_str()) {
            ([_], "") => String::new(),
            (_, "") => format!("Revision {} of {}. ", self.letter, self.letters.join(", ")),
            (_, name) => format!("Revision {}: {name}. ", self.letter),
        };
        format!("{revision}Printed on {}.", self.day(self.now.to_utc()))
    }

    /// A day in the builder's own time.
    pub(crate) fn day(&self, at: DateTime<Utc>) -> String {
        at.with_timezone(self.now.offset()).format("%-d %B %Y").to_string()
    }

    /// A day and an hour in the builder's own time.
    pub(crate) fn hour(&self, at: DateTime<Utc>) -> String {
        at.with_timezone(self.now.offset()).format("%-d %B %Y, %H:%M").to_string()
    }
}
