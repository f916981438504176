//! Into the store: all of a file or nothing of it. Every key is made anew.

use crate::error::Error;
use crate::schema::{
    amplifier as amplifiers, build as builds, history, log_entry as entries, measurement as measured, owner,
    revision as revisions, room as rooms, woofer as woofers, work_plan as plans,
};
use crate::tables::photo::{self, Picture, sha256};
use crate::tables::{amplifier, build, listening, log_entry, measurement, room, woofer, workshop as has};
use chrono::{DateTime, Utc};
use diesel::pg::PgConnection;
use diesel::prelude::*;
use oak_drum_bundle::check::{CheckedBuild, CheckedMeasurement, CheckedRevision, CheckedSession};
use oak_drum_bundle::open::CheckedWorkshop;
use oak_drum_bundle::{Blob, FileError, Opened};
use oak_drum_curves::formats::packed::{pack, unpack};
use oak_drum_document::{Design, LogEntry};
use serde::Serialize;
use serde_json::Value;
use std::collections::HashMap;
use std::io::{Read, Seek};
use uuid::Uuid;

/// What to do with a build that is here already.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Again {
    /// What is here stays as it is.
    #[default]
    Stays,
    /// It comes in beside it, as a build of its own.
    Copy,
}

/// A build that came, or was here.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Came {
    /// Its key here.
    pub id: Uuid,
    /// Its name.
    pub name: String,
    /// Whether it was here before, and nothing was changed.
    pub was_here: bool,
}

/// Makes what is to be kept of a photo, or says why nothing is.
pub type MakePicture<'a> = &'a dyn Fn(&[u8]) -> Result<Picture, String>;

fn value(of: &impl Serialize) -> Result<Value, Error> {
    serde_json::to_value(of).map_err(|e| Error::Unforeseen(e.to_string()))
}

/// Takes a build in.
///
/// # Errors
/// [`Error::File`] where what lies beside the JSON is damaged; those of the database. Nothing is kept then.
pub fn build<R: Read + Seek>(
    connection: &mut PgConnection,
    of: Uuid,
    file: &mut Opened<R>,
    made: &CheckedBuild,
    again: Again,
    picture: MakePicture,
) -> Result<Came, Error> {
    let key = Uuid::parse_str(&made.key).map_err(|e| Error::Unforeseen(e.to_string()))?;
    connection.transaction(|c| {
        // so that the same file twice at once is one build
        let _locked: Uuid = owner::table.find(of).select(owner::id).for_update().first(c)?;
        let here: Option<(Uuid, String)> = builds::table
            .filter(builds::owner_id.eq(of).and(builds::deleted_at.is_null()))
            .filter(builds::id.eq(key).or(builds::origin.eq(key)))
            .select((builds::id, builds::name))
            .first(c)
            .optional()?;
        match (here, again) {
            (Some((id, name)), Again::Stays) => Ok(Came { id, name, was_here: true }),
            (here, _) => {
                let copy = here.is_some();
                let name = if copy { copy_of(&made.name) } else { made.name.clone() };
                let id = write(c, of, file, made, &name, (!copy).then_some(key), picture)?;
                Ok(Came { id, name, was_here: false })
            }
        }
    })
}

/// The name of a copy, no longer than names are.
fn copy_of(name: &str) -> String {
    let mut short: String = name.chars().take(113).collect();
    short.push_str(" (copy)");
    short
}

fn write<R: Read + Seek>(
    c: &mut PgConnection,
    of: Uuid,
    file: &mut Opened<R>,
    made: &CheckedBuild,
    name: &str,
    origin: Option<Uuid>,
    picture: MakePicture,
) -> Result<Uuid, Error> {
    let id = Uuid::now_v7();
    let saved = made.revisions.iter().map(|r| r.times[1]).max().unwrap_or(made.created_at);
    diesel::insert_into(builds::table)
        .values((
            builds::id.eq(id),
            builds::owner_id.eq(of),
            builds::name.eq(name),
            builds::origin.eq(origin),
            builds::tags.eq(&made.tags),
            builds::created_at.eq(made.created_at),
            builds::updated_at.eq(saved),
        ))
        .execute(c)?;
    let mut letters = HashMap::new();
    for r in &made.revisions {
        letters.insert(r.letter.clone(), revision(c, id, r)?);
    }
    for m in &made.measurements {
        take_measurement(c, id, file, m, &letters)?;
    }
    log(c, id, file, &made.log, picture)?;
    made.listening.iter().try_for_each(|s| session(c, id, s))?;
    Ok(id)
}

fn revision(c: &mut PgConnection, build_id: Uuid, made: &CheckedRevision) -> Result<Uuid, Error> {
    let id = Uuid::now_v7();
    let version = i32::try_from(made.before.len()).unwrap_or(0) + 1;
    let design: &Design = &made.design;
    let [created, updated] = made.times;
    diesel::insert_into(revisions::table)
        .values((
            revisions::id.eq(id),
            revisions::build_id.eq(build_id),
            revisions::letter.eq(&made.letter),
            revisions::document.eq(value(design)?),
            revisions::family.eq(design.enclosure.info().id),
            revisions::woofer_name.eq(&design.woofer.name),
            revisions::version.eq(version),
            revisions::created_at.eq(created),
            revisions::updated_at.eq(updated),
        ))
        .execute(c)?;
    let before = made.before.iter().map(|(at, design)| (*at, design as &Design));
    for (number, (at, design)) in (1..).zip(before.chain(std::iter::once((updated, design)))) {
        diesel::insert_into(history::table)
            .values((
                history::revision_id.eq(id),
                history::version.eq(number),
                history::document.eq(value(design)?),
                history::saved_at.eq(at),
            ))
            .execute(c)?;
    }
    if !made.work.is_empty() {
        diesel::insert_into(plans::table)
            .values((plans::revision_id.eq(id), plans::document.eq(value(&made.work)?)))
            .execute(c)?;
    }
    Ok(id)
}

fn take_measurement<R: Read + Seek>(
    c: &mut PgConnection,
    build_id: Uuid,
    file: &mut Opened<R>,
    made: &CheckedMeasurement,
    letters: &HashMap<String, Uuid>,
) -> Result<(), Error> {
    let blob = Blob::Samples(&made.samples);
    let damaged = |what: String| Error::File(FileError::Damaged(what));
    let content = file.blob(blob)?;
    let data = unpack(&content).map_err(|e| damaged(format!("{}: {e}", blob.name())))?;
    let digest: Vec<u8> = diesel::select(sha256(&content)).get_result(c)?;
    if log_entry::hex(&digest) != made.samples || pack(&data) != content {
        return Err(damaged(format!("{} is not what its name says", blob.name())));
    }
    let of = made.revision.as_ref().and_then(|l| letters.get(l).copied());
    let kept = measurement::create(c, build_id, of, &made.measurement, &data)?;
    diesel::update(measured::table.find(kept.id)).set(measured::created_at.eq(made.created_at)).execute(c)?;
    Ok(())
}

fn log<R: Read + Seek>(
    c: &mut PgConnection,
    build_id: Uuid,
    file: &mut Opened<R>,
    log: &[(DateTime<Utc>, LogEntry)],
    picture: MakePicture,
) -> Result<(), Error> {
    // of each photo of the file what it is kept as here
    let mut kept: HashMap<String, (String, u32, u32)> = HashMap::new();
    for (written_at, entry) in log {
        let mut entry = entry.clone();
        for shown in &mut entry.photos {
            if !kept.contains_key(&shown.digest) {
                let blob = Blob::Photo(&shown.digest);
                let bytes = file.blob(blob)?;
                let made = picture(&bytes)
                    .map_err(|why| Error::File(FileError::Damaged(format!("{}: {why}", blob.name()))))?;
                let digest = log_entry::hex(&photo::keep(c, &made)?);
                kept.insert(shown.digest.clone(), (digest, made.width, made.height));
            }
            if let Some((digest, width, height)) = kept.get(&shown.digest) {
                shown.digest.clone_from(digest);
                (shown.width, shown.height) = (*width, *height);
            }
        }
        let id = Uuid::now_v7();
        diesel::insert_into(entries::table)
            .values((
                entries::id.eq(id),
                entries::build_id.eq(build_id),
                entries::kind.eq(log_entry::kind_of(entry.kind)?),
                entries::document.eq(value(&entry)?),
                entries::written_at.eq(written_at),
            ))
            .execute(c)?;
        log_entry::tie(c, id, &entry)?;
    }
    Ok(())
}

/// A session that has ended somewhere: under a code of its own here, its answers as they were given.
fn session(c: &mut PgConnection, build_id: Uuid, made: &CheckedSession) -> Result<(), Error> {
    let sounds = vec![listening::Sound { gain: 1.0, sections: Vec::new() }; made.session.candidates.len()];
    let record = listening::create(c, build_id, &made.session, &sounds)?;
    for (number, (name, slips)) in (0..).zip(&made.listeners) {
        listening::put(c, record.id, number, name, slips)?;
    }
    listening::ended(c, record.id, made.times)
}

/// Restores a whole workshop into an empty one.
///
/// # Errors
/// [`Error::Closed`] where there is anything here; [`Error::File`]; those of the database. Nothing is kept then.
pub fn workshop<R: Read + Seek>(
    connection: &mut PgConnection,
    of: Uuid,
    file: &mut Opened<R>,
    made: &CheckedWorkshop,
    picture: MakePicture,
) -> Result<usize, Error> {
    connection.transaction(|c| {
        let _locked: Uuid = owner::table.find(of).select(owner::id).for_update().first(c)?;
        let empty = build::list(c, of, build::Shelf::Bench)?.is_empty()
            && woofer::list(c, of)?.is_empty()
            && amplifier::list(c, of)?.is_empty()
            && room::list(c, of)?.is_empty();
        let standing = has::get(c, of)?;
        let empty = empty && standing.workshop()?.is_empty();
        if !empty {
            return Err(Error::Closed(
                "a whole workshop is restored into an empty one only, and there are builds, sheets or tools here; import its builds one by one, or begin with an empty database",
            ));
        }
        diesel::update(owner::table.find(of)).set(owner::name.eq(&made.name)).execute(c)?;
        if !made.sheets.has.is_empty() {
            has::save(c, of, standing.version, &made.sheets.has)?;
        }
        for kept in &made.sheets.woofers {
            let id = woofer::create(c, of, &kept.document)?.id;
            diesel::update(woofers::table.find(id)).set(woofers::created_at.eq(kept.created_at)).execute(c)?;
        }
        for kept in &made.sheets.amplifiers {
            let id = amplifier::create(c, of, &kept.document)?.id;
            diesel::update(amplifiers::table.find(id)).set(amplifiers::created_at.eq(kept.created_at)).execute(c)?;
        }
        for kept in &made.sheets.rooms {
            let id = room::create(c, of, &kept.document)?.id;
            diesel::update(rooms::table.find(id)).set(rooms::created_at.eq(kept.created_at)).execute(c)?;
        }
        for build in &made.builds {
            let key = Uuid::parse_str(&build.key).map_err(|e| Error::Unforeseen(e.to_string()))?;
            write(c, of, file, build, &build.name, Some(key), picture)?;
        }
        Ok(made.builds.len())
    })
}
