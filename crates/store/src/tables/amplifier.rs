//! The shelf's amplifiers.

use crate::error::Error;
use crate::schema::{amplifier, owner};
use chrono::{DateTime, Utc};
use diesel::pg::PgConnection;
use diesel::prelude::*;
use oak_drum_document::{Code, Problem};
use oak_drum_shelf::ShelfAmplifier;
use oak_drum_shelf::amplifier::MOST;
use serde::Serialize;
use serde_json::Value;
use std::collections::HashSet;
use utoipa::ToSchema;
use uuid::Uuid;

/// An amplifier on the shelf.
#[derive(Clone, Debug, Serialize, ToSchema, Queryable, Selectable)]
#[diesel(table_name = amplifier, check_for_backend(diesel::pg::Pg))]
pub struct AmplifierRecord {
    /// Key.
    pub id: Uuid,
    /// The amplifier.
    #[schema(schema_with = crate::openapi::shelf_amplifier)]
    pub document: Value,
    /// Version of this record: what a save must name.
    pub version: i32,
    /// When it was last saved.
    pub updated_at: DateTime<Utc>,
}

/// What an import of amplifiers did.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, ToSchema)]
pub struct AmplifiersImported {
    /// New ones.
    pub added: usize,
    /// Left out, since their maker and name stand on the shelf already.
    pub left_out: usize,
}

fn document(made: &ShelfAmplifier) -> Result<Value, Error> {
    serde_json::to_value(made).map_err(|e| Error::Unforeseen(e.to_string()))
}

/// The amplifiers of an owner, by name.
///
/// # Errors
/// Those of the database.
pub fn list(connection: &mut PgConnection, owner: Uuid) -> Result<Vec<AmplifierRecord>, Error> {
    Ok(amplifier::table
        .filter(amplifier::owner_id.eq(owner).and(amplifier::deleted_at.is_null()))
        .order((amplifier::name, amplifier::id))
        .select(AmplifierRecord::as_select())
        .load(connection)?)
}

/// The amplifiers of an owner as they were made, by name.
///
/// # Errors
/// Those of the database.
pub fn sheets(connection: &mut PgConnection, owner: Uuid) -> Result<Vec<ShelfAmplifier>, Error> {
    let unread = |e: serde_json::Error| Error::Unforeseen(format!("a stored amplifier does not read: {e}"));
    list(connection, owner)?.into_iter().map(|r| serde_json::from_value(r.document).map_err(unread)).collect()
}

fn insert(connection: &mut PgConnection, owner: Uuid, made: &ShelfAmplifier) -> Result<AmplifierRecord, Error> {
    Ok(diesel::insert_into(amplifier::table)
        .values((
            amplifier::id.eq(Uuid::now_v7()),
            amplifier::owner_id.eq(owner),
            amplifier::name.eq(&made.amplifier.name),
            amplifier::maker.eq(&made.amplifier.maker),
            amplifier::document.eq(document(made)?),
        ))
        .returning(AmplifierRecord::as_returning())
        .get_result(connection)?)
}

/// Puts an amplifier on the shelf.
///
/// # Errors
/// [`Error::Invalid`] where the shelf is full; those of the database.
pub fn create(connection: &mut PgConnection, owner: Uuid, made: &ShelfAmplifier) -> Result<AmplifierRecord, Error> {
    connection.transaction(|c| {
        room(c, owner, 1)?;
        insert(c, owner, made)
    })
}

/// Sees that so many more go on the shelf, and locks the owner's row, so that two at once do not both find room.
fn room(connection: &mut PgConnection, owner: Uuid, more: usize) -> Result<(), Error> {
    let _locked: Uuid = owner::table.find(owner).select(owner::id).for_update().first(connection)?;
    let standing = list(connection, owner)?.len();
    if standing + more <= MOST {
        return Ok(());
    }
    let message = format!("the shelf holds {standing} amplifiers; at most {MOST} are kept");
    Err(Error::Invalid(vec![Problem::new(Code::OutOfRange, "", message)]))
}

/// Saves an amplifier that was made from `base_version`.
///
/// # Errors
/// [`Error::Stale`] with what stands when another save came first; [`Error::NotFound`]; those of the database.
pub fn save(
    connection: &mut PgConnection,
    id: Uuid,
    base_version: i32,
    made: &ShelfAmplifier,
) -> Result<AmplifierRecord, Error> {
    let standing = amplifier::table.find(id).filter(amplifier::deleted_at.is_null());
    let saved: Option<AmplifierRecord> = diesel::update(standing.filter(amplifier::version.eq(base_version)))
        .set((
            amplifier::name.eq(&made.amplifier.name),
            amplifier::maker.eq(&made.amplifier.maker),
            amplifier::document.eq(document(made)?),
            amplifier::version.eq(base_version + 1),
            amplifier::updated_at.eq(diesel::dsl::now),
        ))
        .returning(AmplifierRecord::as_returning())
        .get_result(connection)
        .optional()?;
    if let Some(saved) = saved {
        return Ok(saved);
    }
    let there = standing.select(AmplifierRecord::as_select()).first(connection).optional()?;
    let there = there.ok_or(Error::NotFound("amplifier"))?;
    Err(Error::Stale { version: there.version, current: there.document })
}

/// Takes an amplifier off the shelf, or puts it back; builds keep their own copy of its sheet.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn set_deleted(connection: &mut PgConnection, id: Uuid, deleted: bool) -> Result<(), Error> {
    let mark = deleted.then(Utc::now);
    let rows = diesel::update(amplifier::table.find(id)).set(amplifier::deleted_at.eq(mark)).execute(connection)?;
    if rows == 0 { Err(Error::NotFound("amplifier")) } else { Ok(()) }
}

/// Puts many amplifiers on the shelf, all of them or none; those whose maker and name stand there are left out.
///
/// # Errors
/// As [`create`]; then nothing is stored.
pub fn import(
    connection: &mut PgConnection,
    owner: Uuid,
    made: &[ShelfAmplifier],
) -> Result<AmplifiersImported, Error> {
    connection.transaction(|c| {
        room(c, owner, 0)?;
        let standing: HashSet<(String, String)> = sheets(c, owner)?.iter().map(ShelfAmplifier::key).collect();
        let fresh: Vec<&ShelfAmplifier> = made.iter().filter(|m| !standing.contains(&m.key())).collect();
        room(c, owner, fresh.len())?;
        for one in &fresh {
            insert(c, owner, one)?;
        }
        Ok(AmplifiersImported { added: fresh.len(), left_out: made.len() - fresh.len() })
    })
}
