//! Revisions: design documents, saved from a known version, every saved state kept in the history.

use super::work_plan;
use crate::error::Error;
use crate::schema::{build, history, revision};
use chrono::{DateTime, Utc};
use diesel::pg::PgConnection;
use diesel::prelude::*;
use oak_drum_document::{Design, WorkPlan};
use serde::Serialize;
use serde_json::Value;
use utoipa::ToSchema;
use uuid::Uuid;

/// A revision with its document.
#[derive(Clone, Debug, Serialize, ToSchema, Queryable, Selectable)]
#[diesel(table_name = revision, check_for_backend(diesel::pg::Pg))]
pub struct Revision {
    /// Key.
    pub id: Uuid,
    /// The build it belongs to.
    pub build_id: Uuid,
    /// A, B, C...
    pub letter: String,
    /// The design document.
    #[schema(schema_with = crate::openapi::design)]
    pub document: Value,
    /// Its family.
    pub family: String,
    /// Its woofer's name.
    pub woofer_name: String,
    /// Version of this record: what a save must name.
    pub version: i32,
    /// When it was last saved.
    pub updated_at: DateTime<Utc>,
}

/// One saved state.
#[derive(Clone, Debug, Serialize, ToSchema, Queryable, Selectable)]
#[diesel(table_name = history, check_for_backend(diesel::pg::Pg))]
pub struct HistoryEntry {
    /// The version it became.
    pub version: i32,
    /// The document as saved.
    #[schema(schema_with = crate::openapi::design)]
    pub document: Value,
    /// When.
    pub saved_at: DateTime<Utc>,
}

fn document(design: &Design) -> Result<Value, Error> {
    serde_json::to_value(design).map_err(|e| Error::Unforeseen(e.to_string()))
}

/// Documents saved by an older version of the program are brought up to date as they are read.
fn upgraded(mut list: Vec<Revision>) -> Vec<Revision> {
    list.iter_mut().for_each(|r| oak_drum_document::upgrade::upgrade(&mut r.document));
    list
}

/// The revisions of some builds, by letter (A to Z, then AA).
pub(crate) fn of_builds(connection: &mut PgConnection, builds: &[Uuid]) -> Result<Vec<Revision>, Error> {
    let mut list: Vec<Revision> = revision::table
        .filter(revision::build_id.eq_any(builds).and(revision::deleted_at.is_null()))
        .select(Revision::as_select())
        .load(connection)?;
    list.sort_by_key(|r| (r.letter.len(), r.letter.clone()));
    Ok(upgraded(list))
}

/// What a list of builds tells of a revision.
#[derive(Clone, Debug, Default, Queryable)]
pub(crate) struct Told {
    pub(crate) build_id: Uuid,
    pub(crate) letter: String,
    pub(crate) family: String,
    pub(crate) woofer_name: String,
    pub(crate) purpose: Option<String>,
}

/// Of the revisions of some builds what a list tells, by letter: their documents stay where they are.
pub(crate) fn told(connection: &mut PgConnection, builds: &[Uuid]) -> Result<Vec<Told>, Error> {
    let purpose = diesel::dsl::sql::<diesel::sql_types::Nullable<diesel::sql_types::Text>>(
        "revision.document #>> '{brief,purpose}'",
    );
    let mut list: Vec<Told> = revision::table
        .filter(revision::build_id.eq_any(builds).and(revision::deleted_at.is_null()))
        .select((revision::build_id, revision::letter, revision::family, revision::woofer_name, purpose))
        .load(connection)?;
    list.sort_by_cached_key(|r| (r.letter.len(), r.letter.clone()));
    Ok(list)
}

/// Of every other build of an owner its name and the newest revision in which a port's ends were measured.
///
/// # Errors
/// Those of the database.
pub fn with_measured_ends(
    connection: &mut PgConnection,
    owner: Uuid,
    aside: Uuid,
) -> Result<Vec<(String, Value)>, Error> {
    let named = diesel::dsl::sql::<diesel::sql_types::Bool>("revision.document::text LIKE '%\"end_factor\"%'");
    let mut found: Vec<(Uuid, String, Value)> = revision::table
        .inner_join(build::table.on(revision::build_id.eq(build::id)))
        .filter(build::owner_id.eq(owner).and(build::deleted_at.is_null()).and(build::id.ne(aside)))
        .filter(revision::deleted_at.is_null())
        .filter(named)
        .order((build::created_at, build::id, revision::updated_at.desc(), revision::id))
        .select((build::id, build::name, revision::document))
        .load(connection)?;
    found.dedup_by_key(|(build, ..)| *build);
    Ok(found.into_iter().map(|(_, name, document)| (name, document)).collect())
}

/// One revision.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn get(connection: &mut PgConnection, id: Uuid) -> Result<Revision, Error> {
    let found = revision::table
        .find(id)
        .filter(revision::deleted_at.is_null())
        .select(Revision::as_select())
        .first(connection)
        .optional()?
        .ok_or(Error::NotFound("revision"))?;
    Ok(upgraded(vec![found]).remove(0))
}

/// When a revision was begun.
pub(crate) fn begun(connection: &mut PgConnection, id: Uuid) -> Result<DateTime<Utc>, Error> {
    Ok(revision::table.find(id).select(revision::created_at).first(connection)?)
}

/// What is kept beside a new revision.
#[derive(Clone, Copy, Debug)]
pub enum Beside<'a> {
    /// This plan; nothing where it is empty.
    Plan(&'a WorkPlan),
    /// What goes with a copy of another revision.
    AsCopyOf(Uuid),
}

/// A new revision of a build, with the next free letter. The build's row is locked meanwhile, so that two at once
/// get two letters.
///
/// # Errors
/// [`Error::NotFound`] for the build or the revision it is a copy of, or those of the database.
pub fn create(
    connection: &mut PgConnection,
    build_id: Uuid,
    design: &Design,
    beside: Beside,
) -> Result<Revision, Error> {
    connection.transaction(|c| {
        let _locked: Uuid = build::table
            .find(build_id)
            .filter(build::deleted_at.is_null())
            .select(build::id)
            .for_update()
            .first(c)
            .optional()?
            .ok_or(Error::NotFound("build"))?;
        let taken: Vec<String> =
            revision::table.filter(revision::build_id.eq(build_id)).select(revision::letter).load(c)?;
        // after the last one, also where letters before it are free: what they stood for is written of in the log
        let next = taken.iter().map(|l| number(l) + 1).max().unwrap_or(0);
        let made: Revision = diesel::insert_into(revision::table)
            .values((
                revision::id.eq(Uuid::now_v7()),
                revision::build_id.eq(build_id),
                revision::letter.eq(letter(next)),
                revision::document.eq(document(design)?),
                revision::family.eq(design.enclosure.info().id),
                revision::woofer_name.eq(&design.woofer.name),
            ))
            .returning(Revision::as_returning())
            .get_result(c)?;
        remember(c, &made)?;
        let plan = match beside {
            Beside::Plan(plan) => plan.clone(),
            Beside::AsCopyOf(other) => work_plan::get(c, other)?.plan()?.of_a_copy(),
        };
        if !plan.is_empty() {
            work_plan::save(c, made.id, 0, &plan)?;
        }
        Ok(made)
    })
}

/// Saves a revision that was made from `base_version`.
///
/// # Errors
/// [`Error::Stale`] with what stands when another save came first; [`Error::NotFound`]; those of the database.
pub fn save(connection: &mut PgConnection, id: Uuid, base_version: i32, design: &Design) -> Result<Revision, Error> {
    connection.transaction(|c| {
        let saved: Option<Revision> = diesel::update(
            revision::table.find(id).filter(revision::version.eq(base_version).and(revision::deleted_at.is_null())),
        )
        .set((
            revision::document.eq(document(design)?),
            revision::family.eq(design.enclosure.info().id),
            revision::woofer_name.eq(&design.woofer.name),
            revision::version.eq(base_version + 1),
            revision::updated_at.eq(diesel::dsl::now),
        ))
        .returning(Revision::as_returning())
        .get_result(c)
        .optional()?;
        let Some(saved) = saved else {
            let standing = get(c, id)?;
            return Err(Error::Stale { version: standing.version, current: standing.document });
        };
        diesel::update(build::table.find(saved.build_id)).set(build::updated_at.eq(diesel::dsl::now)).execute(c)?;
        remember(c, &saved)?;
        Ok(saved)
    })
}

fn remember(connection: &mut PgConnection, saved: &Revision) -> Result<(), Error> {
    diesel::insert_into(history::table)
        .values((
            history::revision_id.eq(saved.id),
            history::version.eq(saved.version),
            history::document.eq(&saved.document),
        ))
        .execute(connection)?;
    Ok(())
}

/// The newest saved states of a revision, at most 200.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn history_of(connection: &mut PgConnection, id: Uuid) -> Result<Vec<HistoryEntry>, Error> {
    get(connection, id)?;
    let mut list: Vec<HistoryEntry> = history::table
        .filter(history::revision_id.eq(id))
        .order(history::version.desc())
        .limit(200)
        .select(HistoryEntry::as_select())
        .load(connection)?;
    list.iter_mut().for_each(|entry| oak_drum_document::upgrade::upgrade(&mut entry.document));
    Ok(list)
}

/// What a revision was at the end of a day.
#[derive(Clone, Debug)]
pub struct DayEnd {
    /// The revision's letter.
    pub letter: String,
    /// The version it was.
    pub version: i32,
    /// When it became so.
    pub saved_at: DateTime<Utc>,
    /// The document then.
    pub document: Value,
}

/// Of every revision of a build its first state, and its last one of each day (UTC), by revision and version.
///
/// # Errors
/// Those of the database.
pub fn day_ends(connection: &mut PgConnection, build_id: Uuid) -> Result<Vec<DayEnd>, Error> {
    use diesel::dsl::sql;
    let own = || {
        history::table
            .inner_join(revision::table.on(history::revision_id.eq(revision::id)))
            .filter(revision::build_id.eq(build_id).and(revision::deleted_at.is_null()))
            .select((revision::letter, history::version, history::saved_at, history::document))
    };
    type Row = (String, i32, DateTime<Utc>, Value);
    let mut rows: Vec<Row> = own().filter(history::version.eq(1)).load(connection)?;
    let last = sql::<diesel::sql_types::Bool>(
        "history.version = (SELECT max(other.version) FROM history other WHERE other.revision_id = history.revision_id \
         AND (other.saved_at AT TIME ZONE 'UTC')::date = (history.saved_at AT TIME ZONE 'UTC')::date)",
    );
    rows.extend(own().filter(history::version.gt(1)).filter(last).load::<Row>(connection)?);
    rows.sort_by(|a, b| (a.0.len(), &a.0, a.1).cmp(&(b.0.len(), &b.0, b.1)));
    let ends = rows.into_iter().map(|(letter, version, saved_at, mut document)| {
        oak_drum_document::upgrade::upgrade(&mut document);
        DayEnd { letter, version, saved_at, document }
    });
    Ok(ends.collect())
}

/// Marks a revision as deleted, or takes the mark back.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn set_deleted(connection: &mut PgConnection, id: Uuid, deleted: bool) -> Result<(), Error> {
    let mark = deleted.then(Utc::now);
    let rows = diesel::update(revision::table.find(id)).set(revision::deleted_at.eq(mark)).execute(connection)?;
    if rows == 0 { Err(Error::NotFound("revision")) } else { Ok(()) }
}

/// A is 0, Z is 25, AA is 26.
fn number(letter: &str) -> i64 {
    letter.bytes().fold(0, |n, b| 26 * n + i64::from(b.saturating_sub(b'A')) + 1) - 1
}

/// 0 is A, 25 is Z, 26 is AA.
fn letter(index: i64) -> String {
    let mut text = String::new();
    let mut rest = index + 1;
    while rest > 0 {
        rest -= 1;
        text.insert(0, char::from(b'A' + u8::try_from(rest % 26).unwrap_or(0)));
        rest /= 26;
    }
    text
}

#[cfg(test)]
mod tests {
    #[test]
    fn letters_go_on_after_z() {
        assert_eq!(super::letter(0), "A");
        assert_eq!(super::letter(25), "Z");
        assert_eq!(super::letter(26), "AA");
        assert_eq!(super::letter(27), "AB");
        assert!((0..2000).all(|i| super::number(&super::letter(i)) == i));
    }
}
