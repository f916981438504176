//! What the demo's builders wrote down and heard: logs with drawn pictures, and a listening session of four invented listeners.

use crate::error::Error;
use crate::schema::listening as sessions;
use crate::tables::build::BuildDetail;
use crate::tables::photo::Picture;
use crate::tables::{listening, log_entry, photo};
use chrono::{DateTime, Days, NaiveTime, Utc};
use diesel::pg::PgConnection;
use diesel::prelude::*;
use oak_drum_document::{LogEntry, PhotoOf};
use oak_drum_listening::session::{Hearing, Session, Slip};
use serde::Deserialize;
use std::collections::BTreeMap;
use uuid::Uuid;

const LOGS: &str = include_str!("../../demo/logs.json");
const HEARD: &str = include_str!("../../demo/listening.json");

/// Size of the drawn pictures, pixels; they are drawn from the SVG beside each.
const SIZE: (u32, u32) = (1200, 900);

/// A drawn picture and its small one.
macro_rules! picture {
    ($name:literal) => {
        (
            $name,
            include_bytes!(concat!("../../demo/photos/", $name, ".jpg")) as &[u8],
            include_bytes!(concat!("../../demo/photos/", $name, "-small.jpg")) as &[u8],
        )
    };
}

/// The drawn pictures: name, picture, small one.
const PICTURES: [(&str, &[u8], &[u8]); 4] =
    [picture!("clamped"), picture!("ring"), picture!("pieces"), picture!("port")];

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Written {
    days_ago: u64,
    hour: u32,
    entry: LogEntry,
    #[serde(default)]
    photos: Vec<String>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Evening {
    build: String,
    days_ago: u64,
    session: Session,
    listeners: Vec<Scorer>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Scorer {
    name: String,
    #[serde(default)]
    note: String,
    /// By candidate: for each piece the scores on each scale.
    scores: BTreeMap<String, Vec<Vec<f64>>>,
}

fn unread(what: &str) -> impl Fn(serde_json::Error) -> Error {
    move |e| Error::Unforeseen(format!("demo {what}: {e}"))
}

/// An hour of a day that many days ago.
fn at(now: DateTime<Utc>, days: u64, hour: u32) -> DateTime<Utc> {
    let day = (now - Days::new(days)).date_naive();
    day.and_time(NaiveTime::from_hms_opt(hour, 12, 0).unwrap_or_default()).and_utc()
}

/// Writes a build's log and holds its listening evenings.
pub(super) fn tell(c: &mut PgConnection, made: &BuildDetail, now: DateTime<Utc>) -> Result<(), Error> {
    let mut logs: BTreeMap<String, Vec<Written>> = serde_json::from_str(LOGS).map_err(unread("logs"))?;
    for written in logs.remove(&made.build.name).unwrap_or_default() {
        let mut entry = written.entry;
        for name in &written.photos {
            let found = PICTURES.iter().find(|(own, ..)| own == name);
            let (_, content, small) =
                found.ok_or_else(|| Error::Unforeseen(format!("demo logs: no picture \"{name}\"")))?;
            let (width, height) = SIZE;
            let kept = photo::keep(c, &Picture { content: content.to_vec(), small: small.to_vec(), width, height })?;
            entry.photos.push(PhotoOf { digest: log_entry::hex(&kept), width, height });
        }
        log_entry::save(c, made.build.id, Uuid::now_v7(), 0, &entry, at(now, written.days_ago, written.hour))?;
    }
    let evenings: Vec<Evening> = serde_json::from_str(HEARD).map_err(unread("listening"))?;
    evenings.into_iter().filter(|e| e.build == made.build.name).try_for_each(|e| hold(c, made.build.id, &e, now))
}

/// A session as it is held: begun, joined, answered, ended.
fn hold(c: &mut PgConnection, build: Uuid, evening: &Evening, now: DateTime<Utc>) -> Result<(), Error> {
    let session = &evening.session;
    let sounds = vec![listening::Sound { gain: 1.0, sections: Vec::new() }; session.candidates.len()];
    let record = listening::create(c, build, session, &sounds)?;
    for scorer in &evening.listeners {
        let who = listening::join(c, &record.code, &scorer.name)?;
        let hearings = session.hearings(usize::try_from(who.number).unwrap_or(0));
        for (i, hearing) in (0..).zip(&hearings) {
            listening::give(c, &record.code, who.id, i, &slip(session, scorer, hearing, i == 0)?)?;
        }
    }
    listening::help(c, &record.code, record.helper_key, None)?;
    listening::end(c, record.id)?;
    let then = at(now, evening.days_ago, 19);
    diesel::update(sessions::table.find(record.id))
        .set((
            sessions::created_at.eq(then),
            sessions::shown_at.eq(Some(then)),
            sessions::ended_at.eq(Some(at(now, evening.days_ago, 21))),
        ))
        .execute(c)?;
    let (ended, _) = listening::get(c, record.id)?;
    listening::outcome_of(c, &ended)?;
    Ok(())
}

fn slip(session: &Session, scorer: &Scorer, hearing: &Hearing, first: bool) -> Result<Slip, Error> {
    let of = |slot: &usize| {
        let name = &session.candidates[*slot].name;
        let scores = scorer.scores.get(name).and_then(|pieces| pieces.get(hearing.piece));
        scores
            .cloned()
            .ok_or_else(|| Error::Unforeseen(format!("demo listening: {} did not score {name}", scorer.name)))
    };
    Ok(Slip {
        choice: None,
        scores: hearing.slots.iter().map(of).collect::<Result<_, _>>()?,
        note: if first { scorer.note.clone() } else { String::new() },
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::demo::builds;

    /// Every log and every evening is of a build there is, and what is shown is drawn: the SVG stands beside it.
    #[test]
    fn the_story_belongs_to_builds() {
        let names: Vec<String> = builds().unwrap().into_iter().map(|(name, _)| name).collect();
        let logs: BTreeMap<String, Vec<Written>> = serde_json::from_str(LOGS).unwrap();
        assert!(logs.len() >= 2 && logs.keys().all(|name| names.contains(name)));
        for written in logs.values().flatten() {
            assert!(written.photos.iter().all(|p| PICTURES.iter().any(|(own, ..)| own == p)));
        }
        let evenings: Vec<Evening> = serde_json::from_str(HEARD).unwrap();
        assert!(evenings.iter().all(|e| names.contains(&e.build) && e.session.problems().is_empty()));
        assert_eq!(evenings[0].listeners.len(), 4);
        for (name, large, small) in PICTURES {
            let svg = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join(format!("demo/photos/{name}.svg"));
            assert!(svg.exists() && large.len() < 100_000 && small.len() < 20_000, "{name}");
        }
    }
}
