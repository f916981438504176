//! Entries of builds' logs. Their keys are made where they are written, so that one that is sent twice is kept once.

use crate::error::Error;
use crate::schema::{build, log_entry, log_photo, photo};
use chrono::{DateTime, Utc};
use diesel::pg::PgConnection;
use diesel::prelude::*;
use oak_drum_document::{Code, EntryKind, LogEntry, Problem};
use serde::Serialize;
use serde_json::Value;
use utoipa::ToSchema;
use uuid::Uuid;

/// Most entries of one build.
pub const MOST_ENTRIES: i64 = oak_drum_bundle::build::MOST_ENTRIES as i64;
/// Most entries handed out at once.
pub const PAGE: i64 = 200;

/// An entry.
#[derive(Clone, Debug, PartialEq, Serialize, ToSchema, Queryable, Selectable)]
#[diesel(table_name = log_entry, check_for_backend(diesel::pg::Pg))]
pub struct LogRecord {
    /// Key.
    pub id: Uuid,
    /// The build it is about.
    pub build_id: Uuid,
    /// The entry.
    #[schema(schema_with = crate::openapi::log_entry)]
    pub document: Value,
    /// When it was written.
    pub written_at: DateTime<Utc>,
    /// Version of this record: what a save must name.
    pub version: i32,
    /// When it came here.
    pub created_at: DateTime<Utc>,
}

/// Which entries are wanted.
#[derive(Clone, Debug, Default)]
pub struct Wanted {
    /// Words that stand in its text.
    pub words: String,
    /// Its kind.
    pub kind: Option<EntryKind>,
    /// Only those written before this one.
    pub before: Option<(DateTime<Utc>, Uuid)>,
}

fn document(entry: &LogEntry) -> Result<Value, Error> {
    serde_json::to_value(entry).map_err(|e| Error::Unforeseen(e.to_string()))
}

/// An entry's kind as it is stored.
pub(crate) fn kind_of(kind: EntryKind) -> Result<String, Error> {
    let value = serde_json::to_value(kind).map_err(|e| Error::Unforeseen(e.to_string()))?;
    Ok(value.as_str().unwrap_or_default().to_owned())
}

/// The entries of a build that are wanted, the newest first, at most [`PAGE`].
///
/// # Errors
/// Those of the database.
pub fn of_build(connection: &mut PgConnection, build_id: Uuid, wanted: &Wanted) -> Result<Vec<LogRecord>, Error> {
    let mut query = log_entry::table
        .filter(log_entry::build_id.eq(build_id).and(log_entry::deleted_at.is_null()))
        .order((log_entry::written_at.desc(), log_entry::id.desc()))
        .limit(PAGE)
        .select(LogRecord::as_select())
        .into_boxed();
    if let Some(kind) = wanted.kind {
        query = query.filter(log_entry::kind.eq(kind_of(kind)?));
    }
    for word in wanted.words.split_whitespace().take(8) {
        let escaped = word.replace('\\', "\\\\").replace('%', "\\%").replace('_', "\\_");
        let text = diesel::dsl::sql::<diesel::sql_types::Text>("(log_entry.document->>'text')");
        query = query.filter(text.ilike(format!("%{escaped}%")));
    }
    if let Some((at, id)) = wanted.before {
        let earlier = log_entry::written_at.lt(at).or(log_entry::written_at.eq(at).and(log_entry::id.lt(id)));
        query = query.filter(earlier);
    }
    Ok(query.load(connection)?)
}

/// Every entry of a build, the oldest first.
///
/// # Errors
/// Those of the database.
pub fn whole(connection: &mut PgConnection, build_id: Uuid) -> Result<Vec<LogRecord>, Error> {
    Ok(log_entry::table
        .filter(log_entry::build_id.eq(build_id).and(log_entry::deleted_at.is_null()))
        .order((log_entry::written_at, log_entry::id))
        .select(LogRecord::as_select())
        .load(connection)?)
}

/// How many entries a build has.
///
/// # Errors
/// Those of the database.
pub fn count(connection: &mut PgConnection, build_id: Uuid) -> Result<i64, Error> {
    let own = log_entry::table.filter(log_entry::build_id.eq(build_id).and(log_entry::deleted_at.is_null()));
    Ok(own.count().get_result(connection)?)
}

/// Keeps an entry under its key: a new one where `base_version` is 0, else one changed from that version. The same entry sent once
/// more changes nothing and is no conflict.
///
/// # Errors
/// [`Error::NotFound`] for the build, or for an entry that is another build's; [`Error::Stale`] with what stands when another save
/// came first; [`Error::Invalid`] where there are as many as may be, or a photo is not here; those of the database.
pub fn save(
    connection: &mut PgConnection,
    build_id: Uuid,
    id: Uuid,
    base_version: i32,
    entry: &LogEntry,
    written_at: DateTime<Utc>,
) -> Result<LogRecord, Error> {
    connection.transaction(|c| {
        // one at a time for a build: the count below stays true
        let _locked: Uuid = build::table
            .find(build_id)
            .filter(build::deleted_at.is_null())
            .select(build::id)
            .for_update()
            .first(c)
            .optional()?
            .ok_or(Error::NotFound("build"))?;
        let made = document(entry)?;
        let standing: Option<LogRecord> =
            log_entry::table.find(id).select(LogRecord::as_select()).first(c).optional()?;
        let saved = match standing {
            Some(there) if there.build_id != build_id => return Err(Error::NotFound("entry")),
            Some(there) if there.document == made => return Ok(there),
            Some(there) if there.version != base_version => {
                return Err(Error::Stale { version: there.version, current: there.document });
            }
            Some(_) => diesel::update(log_entry::table.find(id))
                .set((
                    log_entry::kind.eq(kind_of(entry.kind)?),
                    log_entry::document.eq(&made),
                    log_entry::version.eq(base_version + 1),
                    log_entry::updated_at.eq(diesel::dsl::now),
                ))
                .returning(LogRecord::as_returning())
                .get_result(c)?,
            None => {
                if count(c, build_id)? >= MOST_ENTRIES {
                    let what = format!("this log holds {MOST_ENTRIES} entries, which is as many as there may be");
                    return Err(Error::Invalid(vec![Problem::new(Code::OutOfRange, "", what)]));
                }
                diesel::insert_into(log_entry::table)
                    .values((
                        log_entry::id.eq(id),
                        log_entry::build_id.eq(build_id),
                        log_entry::kind.eq(kind_of(entry.kind)?),
                        log_entry::document.eq(&made),
                        log_entry::written_at.eq(written_at),
                    ))
                    .returning(LogRecord::as_returning())
                    .get_result(c)?
            }
        };
        tie(c, id, entry)?;
        Ok(saved)
    })
}

/// Ties an entry to its photos.
pub(crate) fn tie(connection: &mut PgConnection, id: Uuid, entry: &LogEntry) -> Result<(), Error> {
    diesel::delete(log_photo::table.filter(log_photo::entry_id.eq(id))).execute(connection)?;
    for (i, shown) in entry.photos.iter().enumerate() {
        let missing = |what: &str| Problem::new(Code::OutOfRange, format!("/entry/photos/{i}/digest"), what.to_owned());
        let digest = digest_of(&shown.digest)
            .ok_or_else(|| Error::Invalid(vec![missing("64 hexadecimal letters are expected")]))?;
        let there: i64 = photo::table.find(&digest).count().get_result(connection)?;
        if there == 0 {
            return Err(Error::Invalid(vec![missing("this photo is not kept here; send it first")]));
        }
        diesel::insert_into(log_photo::table)
            .values((log_photo::entry_id.eq(id), log_photo::digest.eq(&digest)))
            .on_conflict_do_nothing()
            .execute(connection)?;
    }
    Ok(())
}

/// The bytes of a digest written in hexadecimal letters; `None` where it is none.
pub fn digest_of(hex: &str) -> Option<Vec<u8>> {
    if hex.len() != 64 || !hex.is_ascii() {
        return None;
    }
    (0..32).map(|i| u8::from_str_radix(&hex[2 * i..2 * i + 2], 16).ok()).collect()
}

/// A digest in hexadecimal letters.
pub fn hex(digest: &[u8]) -> String {
    digest.iter().map(|b| format!("{b:02x}")).collect()
}

/// Marks an entry as deleted, or takes the mark back.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn set_deleted(connection: &mut PgConnection, id: Uuid, deleted: bool) -> Result<(), Error> {
    let mark = deleted.then(Utc::now);
    let rows = diesel::update(log_entry::table.find(id)).set(log_entry::deleted_at.eq(mark)).execute(connection)?;
    if rows == 0 { Err(Error::NotFound("entry")) } else { Ok(()) }
}

/// What another build shares with the one that is begun.
#[derive(Clone, Debug, Default)]
pub struct Shared {
    /// Its enclosure's family.
    pub family: String,
    /// Its woofer's name; empty is none.
    pub woofer: String,
    /// Its boards' material; empty is none.
    pub board: String,
}

/// What a builder would do better, from another build.
#[derive(Clone, Debug, PartialEq, Serialize, ToSchema)]
pub struct Lesson {
    /// The build it was written at.
    pub build_id: Uuid,
    /// Its name.
    pub build: String,
    /// What was written.
    pub text: String,
    /// When.
    pub written_at: DateTime<Utc>,
    /// What the two share: the woofer, the family, the boards.
    pub shares: Vec<String>,
}

/// Most lessons that are told at once.
const MOST_LESSONS: usize = 12;

/// What the owner would do better after other builds that share woofer, family or boards; who shares most comes first, then the newest.
///
/// # Errors
/// Those of the database.
pub fn lessons(
    connection: &mut PgConnection,
    owner: Uuid,
    aside: Option<Uuid>,
    wanted: &Shared,
) -> Result<Vec<Lesson>, Error> {
    let better = kind_of(EntryKind::Better)?;
    let mut rows: Vec<(LogRecord, String)> = log_entry::table
        .inner_join(build::table.on(log_entry::build_id.eq(build::id)))
        .filter(build::owner_id.eq(owner).and(build::deleted_at.is_null()))
        .filter(log_entry::kind.eq(better).and(log_entry::deleted_at.is_null()))
        .order((log_entry::written_at.desc(), log_entry::id.desc()))
        .limit(500)
        .select((LogRecord::as_select(), build::name))
        .load(connection)?;
    rows.retain(|(entry, _)| Some(entry.build_id) != aside);
    let builds: Vec<Uuid> = rows.iter().map(|(entry, _)| entry.build_id).collect();
    let revisions = super::revision::of_builds(connection, &builds)?;
    let mut list: Vec<Lesson> = rows
        .into_iter()
        .filter_map(|(entry, build)| {
            let letter = entry.document.pointer("/tied/revision").and_then(Value::as_str);
            let own = revisions.iter().filter(|r| r.build_id == entry.build_id);
            let about = own.filter(|r| letter.is_none_or(|l| l == r.letter));
            let mut shares: Vec<String> = Vec::new();
            for r in about {
                let board = r.document.pointer("/cabinet/board").and_then(Value::as_str).unwrap_or_default();
                for (what, own, other) in [
                    ("woofer", r.woofer_name.as_str(), wanted.woofer.as_str()),
                    ("family", r.family.as_str(), wanted.family.as_str()),
                    ("boards", board, wanted.board.as_str()),
                ] {
                    if !other.is_empty() && own == other && !shares.iter().any(|s| s == what) {
                        shares.push(what.to_owned());
                    }
                }
            }
            let text = entry.document.get("text")?.as_str()?.to_owned();
            let told = Lesson { build_id: entry.build_id, build, text, written_at: entry.written_at, shares };
            (!told.shares.is_empty()).then_some(told)
        })
        .collect();
    list.sort_by_key(|l| std::cmp::Reverse(l.shares.len()));
    list.truncate(MOST_LESSONS);
    Ok(list)
}
