//! What a file says, looked at part by part as if a stranger had sent it.

use crate::build::{
    BuildFile, EntryFile, ListenerFile, MOST_ENTRIES, MOST_REVISIONS, MOST_SESSIONS, MOST_STATES, MeasurementFile,
    RevisionFile, SessionFile,
};
use crate::error::FileError;
use crate::tags::tags;
use crate::workshop::{Kept, MOST_SHEETS, Sheets, WorkshopFile};
use chrono::{DateTime, Utc};
use oak_drum_curves::measurement::{self, Measurement};
use oak_drum_document::{Checked, Code, LogEntry, Problem, Reader, Room, WorkPlan, Workshop, read_value, schema};
use oak_drum_listening::session::{MOST_LISTENERS, Session, Slip};
use oak_drum_shelf::{ShelfAmplifier, ShelfWoofer};
use schemars::JsonSchema;
use serde::de::DeserializeOwned;
use serde_json::Value;
use std::collections::BTreeSet;
use std::sync::OnceLock;

/// Most problems that are told.
const TOLD: usize = 20;

/// A build that was looked at.
#[derive(Debug)]
pub struct CheckedBuild {
    /// What it is recognised by.
    pub key: String,
    /// Its name.
    pub name: String,
    /// When it was begun.
    pub created_at: DateTime<Utc>,
    /// Words it is sorted by.
    pub tags: Vec<String>,
    /// Its revisions.
    pub revisions: Vec<CheckedRevision>,
    /// What was measured.
    pub measurements: Vec<CheckedMeasurement>,
    /// What was written down: when, and what.
    pub log: Vec<(DateTime<Utc>, LogEntry)>,
    /// Listening sessions.
    pub listening: Vec<CheckedSession>,
}

/// A revision that was looked at.
#[derive(Debug)]
pub struct CheckedRevision {
    /// Its letter.
    pub letter: String,
    /// When it was begun and when it was last saved.
    pub times: [DateTime<Utc>; 2],
    /// The design.
    pub design: Checked,
    /// What the workshop keeps beside it.
    pub work: WorkPlan,
    /// What it was before: when, and what, the oldest first.
    pub before: Vec<(DateTime<Utc>, Checked)>,
}

/// A measurement that was looked at.
#[derive(Debug)]
pub struct CheckedMeasurement {
    /// When it came.
    pub created_at: DateTime<Utc>,
    /// The revision it was taken of.
    pub revision: Option<String>,
    /// Digest of its samples.
    pub samples: String,
    /// The measurement.
    pub measurement: Measurement,
}

/// A session that was looked at.
#[derive(Debug)]
pub struct CheckedSession {
    /// When it began, was first shown to a helper, and ended.
    pub times: (DateTime<Utc>, Option<DateTime<Utc>>, DateTime<Utc>),
    /// The session.
    pub session: Session,
    /// Who listened, and what each answered.
    pub listeners: Vec<(String, Vec<(usize, Slip)>)>,
}

/// Problems as they are found.
#[derive(Default)]
struct Found(Vec<Problem>);

impl Found {
    fn add(&mut self, at: &str, what: impl Into<String>) {
        self.0.push(Problem::new(Code::OutOfRange, at, what.into()));
    }
    fn under(&mut self, at: &str, problems: Vec<Problem>) {
        self.0.extend(problems.into_iter().map(|mut p| {
            p.pointer = format!("{at}{}", p.pointer);
            p
        }));
    }
    fn many(&mut self, at: &str, there: usize, least: usize, most: usize) {
        if !(least..=most).contains(&there) {
            self.add(at, format!("{least} to {most} are taken, {there} are there"));
        }
    }
    fn name(&mut self, at: &str, name: &str, most: usize) {
        if name.trim().is_empty() || name.chars().count() > most || name.contains('\0') {
            self.add(at, format!("a name of 1 to {most} characters is expected"));
        }
    }
    fn part<T: DeserializeOwned + JsonSchema>(
        &mut self,
        reader: &'static OnceLock<Reader>,
        at: &str,
        value: Value,
    ) -> Option<T> {
        let problems = reader.get_or_init(|| Reader::new(schema::of::<T>())).problems(&value);
        if !problems.is_empty() {
            self.under(at, problems);
            return None;
        }
        serde_json::from_value(value).map_err(|e| self.add(at, e.to_string())).ok()
    }
    fn end<T>(mut self, made: Option<T>) -> Result<T, FileError> {
        self.0.truncate(TOLD);
        match made {
            Some(made) if self.0.is_empty() => Ok(made),
            _ => Err(FileError::Unreadable(self.0)),
        }
    }
}

fn is_hex(text: &str, long: usize) -> bool {
    text.len() == long && text.bytes().all(|b| b.is_ascii_digit() || (b'a'..=b'f').contains(&b))
}

/// Looks at all a build's file says.
///
/// # Errors
/// [`FileError::Unreadable`] with what is wrong and where.
pub fn build(read: BuildFile) -> Result<CheckedBuild, FileError> {
    let mut found = Found::default();
    if !is_hex(&read.key, 32) {
        found.add("/key", "32 hexadecimal letters are expected");
    }
    found.name("/name", &read.name, 120);
    let tags = tags(&read.tags).map_err(|why| found.add("/tags", why)).unwrap_or_default();
    found.many("/revisions", read.revisions.len(), 1, MOST_REVISIONS);
    found.many("/measurements", read.measurements.len(), 0, measurement::MOST);
    found.many("/log", read.log.len(), 0, MOST_ENTRIES);
    found.many("/listening", read.listening.len(), 0, MOST_SESSIONS);
    if !found.0.is_empty() {
        return found.end(None);
    }
    let mut letters = BTreeSet::new();
    for (i, r) in read.revisions.iter().enumerate() {
        if !letters.insert(r.letter.clone()) {
            found.add(&format!("/revisions/{i}/letter"), format!("there are two revisions {}", r.letter));
        }
    }
    let each = |i: usize, of: &str| format!("/{of}/{i}");
    let revisions: Vec<_> =
        (0..).zip(read.revisions).filter_map(|(i, r)| revision(&mut found, &each(i, "revisions"), r)).collect();
    let measurements: Vec<_> = (0..)
        .zip(read.measurements)
        .filter_map(|(i, m)| measured(&mut found, &each(i, "measurements"), m, &letters))
        .collect();
    let log: Vec<_> = (0..).zip(read.log).filter_map(|(i, e)| entry(&mut found, &each(i, "log"), e)).collect();
    let listening: Vec<_> =
        (0..).zip(read.listening).filter_map(|(i, s)| session(&mut found, &each(i, "listening"), s)).collect();
    let (key, name, created_at) = (read.key, read.name, read.created_at);
    found.end(Some(CheckedBuild { key, name, created_at, tags, revisions, measurements, log, listening }))
}

fn design(found: &mut Found, at: &str, document: Value) -> Option<Checked> {
    read_value(document).map_err(|problems| found.under(at, problems)).ok()
}

fn revision(found: &mut Found, at: &str, read: RevisionFile) -> Option<CheckedRevision> {
    static PLAN: OnceLock<Reader> = OnceLock::new();
    if read.letter.is_empty() || read.letter.len() > 8 || !read.letter.bytes().all(|b| b.is_ascii_uppercase()) {
        found.add(&format!("{at}/letter"), "one to eight capital letters are expected, for example \"B\"");
    }
    found.many(&format!("{at}/before"), read.before.len(), 0, MOST_STATES);
    let work: Option<WorkPlan> =
        read.work.map_or(Some(WorkPlan::default()), |w| found.part(&PLAN, &format!("{at}/work"), w));
    found.under(&format!("{at}/work"), work.as_ref().map(WorkPlan::faults).unwrap_or_default());
    let before: Vec<_> = read
        .before
        .into_iter()
        .take(MOST_STATES)
        .enumerate()
        .filter_map(|(i, s)| Some((s.saved_at, design(found, &format!("{at}/before/{i}/document"), s.document)?)))
        .collect();
    let design = design(found, &format!("{at}/document"), read.document)?;
    Some(CheckedRevision {
        letter: read.letter,
        times: [read.created_at, read.updated_at],
        design,
        work: work?,
        before,
    })
}

fn measured(
    found: &mut Found,
    at: &str,
    read: MeasurementFile,
    letters: &BTreeSet<String>,
) -> Option<CheckedMeasurement> {
    if !is_hex(&read.samples, 64) {
        found.add(&format!("{at}/samples"), "64 hexadecimal letters are expected");
    }
    if let Some(letter) = read.revision.as_ref().filter(|l| !letters.contains(*l)) {
        found.add(&format!("{at}/revision"), format!("there is no revision {letter}"));
    }
    let made =
        measurement::read_value(read.document).map_err(|e| found.add(&format!("{at}/document"), e.to_string())).ok()?;
    Some(CheckedMeasurement {
        created_at: read.created_at,
        revision: read.revision,
        samples: read.samples,
        measurement: made,
    })
}

fn entry(found: &mut Found, at: &str, read: EntryFile) -> Option<(DateTime<Utc>, LogEntry)> {
    static ENTRY: OnceLock<Reader> = OnceLock::new();
    Some((read.written_at, found.part(&ENTRY, &format!("{at}/document"), read.document)?))
}

fn session(found: &mut Found, at: &str, read: SessionFile) -> Option<CheckedSession> {
    static SESSION: OnceLock<Reader> = OnceLock::new();
    let planned: Session = found.part(&SESSION, &format!("{at}/document"), read.document)?;
    let problems = planned.problems();
    for (field, what) in &problems {
        found.add(&format!("{at}/document{field}"), what.clone());
    }
    found.many(&format!("{at}/listeners"), read.listeners.len(), 0, MOST_LISTENERS);
    if !problems.is_empty() || read.listeners.len() > MOST_LISTENERS {
        return None;
    }
    let listeners: Vec<_> = read
        .listeners
        .into_iter()
        .enumerate()
        .filter_map(|(i, l)| listener(found, &format!("{at}/listeners/{i}"), &planned, i, l))
        .collect();
    Some(CheckedSession { times: (read.created_at, read.shown_at, read.ended_at), session: planned, listeners })
}

fn listener(
    found: &mut Found,
    at: &str,
    planned: &Session,
    number: usize,
    read: ListenerFile,
) -> Option<(String, Vec<(usize, Slip)>)> {
    static SLIP: OnceLock<Reader> = OnceLock::new();
    found.name(&format!("{at}/name"), &read.name, 120);
    let hearings = planned.hearings(number);
    let mut slips: Vec<(usize, Slip)> = Vec::new();
    for (i, given) in read.slips.into_iter().enumerate() {
        let at = format!("{at}/slips/{i}");
        let place = given.hearing as usize;
        let Some(hearing) = hearings.get(place).filter(|_| slips.iter().all(|(p, _)| *p != place)) else {
            found.add(&format!("{at}/hearing"), "there is no such hearing, or it is answered twice");
            return None;
        };
        let slip: Slip = found.part(&SLIP, &format!("{at}/document"), given.document)?;
        if let Some((field, what)) = planned.wrong_with(hearing, &slip) {
            found.add(&format!("{at}/document{field}"), what);
            return None;
        }
        slips.push((place, slip));
    }
    Some((read.name, slips))
}

/// Looks at a workshop's sheets.
///
/// # Errors
/// [`FileError::Unreadable`] with what is wrong and where.
pub fn sheets(read: WorkshopFile) -> Result<Sheets, FileError> {
    static AMPLIFIER: OnceLock<Reader> = OnceLock::new();
    static ROOM: OnceLock<Reader> = OnceLock::new();
    let mut found = Found::default();
    found.name("/name", &read.name, 120);
    for (of, there) in
        [("/woofers", read.woofers.len()), ("/amplifiers", read.amplifiers.len()), ("/rooms", read.rooms.len())]
    {
        found.many(of, there, 0, MOST_SHEETS);
    }
    if !found.0.is_empty() {
        return found.end(None);
    }
    fn all<T>(list: Vec<Kept<Value>>, mut one: impl FnMut(usize, Value) -> Option<T>) -> Vec<Kept<T>> {
        list.into_iter()
            .enumerate()
            .filter_map(|(i, k)| Some(Kept { created_at: k.created_at, document: one(i, k.document)? }))
            .collect()
    }
    static HAS: OnceLock<Reader> = OnceLock::new();
    let has = match read.has {
        Value::Null => Some(Workshop::default()),
        has => found.part(&HAS, "/has", has),
    };
    let woofers = all(read.woofers, |i, v| {
        let read: Result<ShelfWoofer, _> = oak_drum_shelf::read_value(v);
        read.map_err(|p| found.under(&format!("/woofers/{i}/document"), p)).ok()
    });
    let amplifiers: Vec<Kept<ShelfAmplifier>> =
        all(read.amplifiers, |i, v| found.part(&AMPLIFIER, &format!("/amplifiers/{i}/document"), v));
    let rooms: Vec<Kept<Room>> = all(read.rooms, |i, v| found.part(&ROOM, &format!("/rooms/{i}/document"), v));
    found.end(has.map(|has| Sheets { has, woofers, amplifiers, rooms }))
}
