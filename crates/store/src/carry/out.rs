//! Out of the store.

use crate::error::Error;
use crate::schema::{amplifier, build, history, listening, measurement, owner, room, samples, woofer};
use crate::tables::listening::{SessionRecord, given};
use crate::tables::log_entry::{self, digest_of, hex};
use crate::tables::measurement::MeasurementRecord;
use crate::tables::{photo, revision, work_plan, workshop as workshop_table};
use chrono::{DateTime, Utc};
use diesel::pg::PgConnection;
use diesel::prelude::*;
use oak_drum_bundle::build::{
    self as file, BuildFile, EntryFile, ListenerFile, MOST_STATES, MeasurementFile, RevisionFile, SessionFile,
    SlipFile, StateFile,
};
use oak_drum_bundle::pack::{Blob, Curves, Packer};
use oak_drum_bundle::workshop::{self, Kept, WorkshopFile};
use oak_drum_curves::formats::packed::unpack;
use oak_drum_curves::formats::text;
use oak_drum_curves::process::recipe::cook;
use oak_drum_document::read_value;
use oak_drum_document::upgrade::upgrade;
use serde_json::Value;
use std::collections::HashMap;
use std::io::{Seek, Write};
use uuid::Uuid;

/// What a build's file says, read in one moment.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn build(connection: &mut PgConnection, id: Uuid) -> Result<BuildFile, Error> {
    /// Name, what it is recognised by, when it was begun, tags.
    type Row = (String, Option<Uuid>, DateTime<Utc>, Vec<String>);
    let row: Option<Row> = build::table
        .find(id)
        .filter(build::deleted_at.is_null())
        .select((build::name, build::origin, build::created_at, build::tags))
        .first(connection)
        .optional()?;
    let (name, origin, created_at, tags) = row.ok_or(Error::NotFound("build"))?;
    let revisions = revision::of_builds(connection, &[id])?;
    let letters: HashMap<Uuid, String> = revisions.iter().map(|r| (r.id, r.letter.clone())).collect();
    let plans = work_plan::of_revisions(connection, &revisions.iter().map(|r| r.id).collect::<Vec<_>>())?;
    let (mut told, many) = (Vec::new(), revisions.len().max(1));
    for r in revisions {
        let plan = plans.iter().find(|p| p.revision_id == r.id && p.version > 0);
        told.push(RevisionFile {
            created_at: revision::begun(connection, r.id)?,
            before: before(connection, r.id, r.version, STATES / many)?,
            work: plan.map(|p| p.document.clone()),
            letter: r.letter,
            updated_at: r.updated_at,
            document: r.document,
        });
    }
    let measured: Vec<(MeasurementRecord, Vec<u8>)> = measurement::table
        .filter(measurement::build_id.eq(id).and(measurement::deleted_at.is_null()))
        .order((measurement::created_at, measurement::id))
        .select((MeasurementRecord::as_select(), measurement::digest))
        .load(connection)?;
    let measurements = measured.into_iter().map(|(m, digest)| MeasurementFile {
        created_at: m.created_at,
        revision: m.revision_id.and_then(|r| letters.get(&r).cloned()),
        samples: hex(&digest),
        document: m.document,
    });
    let entries = log_entry::whole(connection, id)?;
    Ok(BuildFile {
        format: file::FORMAT.into(),
        version: file::VERSION,
        key: origin.unwrap_or(id).simple().to_string(),
        name,
        created_at,
        tags,
        revisions: told,
        measurements: measurements.collect(),
        log: entries.into_iter().map(|e| EntryFile { written_at: e.written_at, document: e.document }).collect(),
        listening: sessions(connection, id)?,
    })
}

/// Bytes of earlier states that go into a build's file, the newest of each revision first: all of it has to be read back.
const STATES: usize = 24 << 20;

/// What a revision was before it became what it is, the newest states that fit into so many bytes.
fn before(connection: &mut PgConnection, revision: Uuid, version: i32, most: usize) -> Result<Vec<StateFile>, Error> {
    let mut list: Vec<(DateTime<Utc>, Value)> = history::table
        .filter(history::revision_id.eq(revision).and(history::version.lt(version)))
        .order(history::version.desc())
        .limit(MOST_STATES as i64)
        .select((history::saved_at, history::document))
        .load(connection)?;
    let mut bytes = 0;
    let fit = list.iter().take_while(|(_, document)| {
        bytes += document.to_string().len();
        bytes <= most
    });
    list.truncate(fit.count());
    list.reverse();
    Ok(list
        .into_iter()
        .map(|(saved_at, mut document)| {
            upgrade(&mut document);
            StateFile { saved_at, document }
        })
        // one that no longer reads would keep all of the file from being taken in
        .filter(|s| read_value(s.document.clone()).is_ok())
        .collect())
}

/// The sessions of a build that have ended.
fn sessions(connection: &mut PgConnection, build: Uuid) -> Result<Vec<SessionFile>, Error> {
    let list: Vec<SessionRecord> = listening::table
        .filter(listening::build_id.eq(build).and(listening::deleted_at.is_null()))
        .filter(listening::ended_at.is_not_null())
        .order((listening::created_at, listening::id))
        .select(SessionRecord::as_select())
        .load(connection)?;
    let mut told = Vec::new();
    for session in list {
        let Some(ended_at) = session.ended_at else { continue };
        let listeners = given(connection, session.id)?.into_iter().map(|(name, slips)| {
            let slips = slips.into_iter().map(|(hearing, document)| SlipFile { hearing, document });
            ListenerFile { name, slips: slips.collect() }
        });
        told.push(SessionFile {
            created_at: session.created_at,
            shown_at: session.shown_at,
            ended_at,
            listeners: listeners.collect(),
            document: session.document,
        });
    }
    Ok(told)
}

/// What lies beside the JSON.
fn blob(connection: &mut PgConnection, blob: Blob) -> Result<Vec<u8>, Error> {
    let key = |digest: &str| digest_of(digest).ok_or_else(|| Error::Unforeseen("a digest does not read".into()));
    match blob {
        Blob::Samples(digest) => Ok(samples::table.find(key(digest)?).select(samples::content).first(connection)?),
        Blob::Photo(digest) => photo::get(connection, &key(digest)?, false),
    }
}

/// What was measured as text for other programs; what cannot be worked out is left out.
fn curves(connection: &mut PgConnection, told: &BuildFile) -> Result<Curves, Error> {
    let mut list = Curves::new();
    for (i, m) in told.measurements.iter().enumerate() {
        let Ok(read) = oak_drum_curves::measurement::read_value(m.document.clone()) else { continue };
        let content = blob(connection, Blob::Samples(&m.samples))?;
        let Ok(data) = unpack(&content) else { continue };
        if let Ok(done) = cook(&data, &read.steps) {
            let name = format!("{:03}.txt", i + 1);
            list.push((name, text::write(&done.curve, &read.about.name)));
        }
    }
    Ok(list)
}

/// One moment for all that is read, however long it takes.
fn in_one_moment<T>(
    connection: &mut PgConnection,
    read: impl FnOnce(&mut PgConnection) -> Result<T, Error>,
) -> Result<T, Error> {
    connection.build_transaction().repeatable_read().read_only().run(read)
}

/// Writes a build's file.
///
/// # Errors
/// [`Error::NotFound`], [`Error::File`], or those of the database.
pub fn write_build<W: Write + Seek>(connection: &mut PgConnection, id: Uuid, out: W) -> Result<W, Error> {
    in_one_moment(connection, |c| {
        let told = build(c, id)?;
        let curves = curves(c, &told)?;
        oak_drum_bundle::pack(out, &told, &curves, |b| blob(c, b))
    })
}

/// Writes the whole workshop's file: the shelf, the rooms, every build.
///
/// # Errors
/// [`Error::File`], or those of the database.
pub fn write_workshop<W: Write + Seek>(connection: &mut PgConnection, of: Uuid, out: W) -> Result<W, Error> {
    in_one_moment(connection, |c| {
        let builds: Vec<Uuid> = build::table
            .filter(build::owner_id.eq(of).and(build::deleted_at.is_null()))
            .order((build::created_at, build::id))
            .select(build::id)
            .load(c)?;
        let mut packer = Packer::begin(out)?;
        packer.workshop(&sheets(c, of, builds.len())?)?;
        for (i, id) in builds.into_iter().enumerate() {
            let told = build(c, id)?;
            let curves = curves(c, &told)?;
            packer.build(&format!("builds/{i}/"), &told, &curves, |b| blob(c, b))?;
        }
        Ok(packer.end()?)
    })
}

fn sheets(connection: &mut PgConnection, of: Uuid, builds: usize) -> Result<WorkshopFile, Error> {
    type Row = (DateTime<Utc>, Value);
    let kept = |rows: Vec<Row>| rows.into_iter().map(|(created_at, document)| Kept { created_at, document }).collect();
    let name: String = owner::table.find(of).select(owner::name).first(connection)?;
    let woofers: Vec<Row> = woofer::table
        .filter(woofer::owner_id.eq(of).and(woofer::deleted_at.is_null()))
        .order((woofer::created_at, woofer::id))
        .select((woofer::created_at, woofer::document))
        .load(connection)?;
    let amplifiers: Vec<Row> = amplifier::table
        .filter(amplifier::owner_id.eq(of).and(amplifier::deleted_at.is_null()))
        .order((amplifier::created_at, amplifier::id))
        .select((amplifier::created_at, amplifier::document))
        .load(connection)?;
    let rooms: Vec<Row> = room::table
        .filter(room::owner_id.eq(of).and(room::deleted_at.is_null()))
        .order((room::created_at, room::id))
        .select((room::created_at, room::document))
        .load(connection)?;
    Ok(WorkshopFile {
        format: workshop::FORMAT.into(),
        version: workshop::VERSION,
        name,
        has: workshop_table::get(connection, of)?.document,
        builds: u32::try_from(builds).unwrap_or(u32::MAX),
        woofers: kept(woofers),
        amplifiers: kept(amplifiers),
        rooms: kept(rooms),
    })
}
