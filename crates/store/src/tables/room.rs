//! The workshop's rooms.

use crate::error::Error;
use crate::schema::{owner, room};
use chrono::{DateTime, Utc};
use diesel::pg::PgConnection;
use diesel::prelude::*;
use oak_drum_document::{Code, Problem, Room};
use serde::Serialize;
use serde_json::Value;
use utoipa::ToSchema;
use uuid::Uuid;

/// Most rooms of a workshop.
pub const MOST: usize = 200;

/// A room of the workshop.
#[derive(Clone, Debug, Serialize, ToSchema, Queryable, Selectable)]
#[diesel(table_name = room, check_for_backend(diesel::pg::Pg))]
pub struct RoomRecord {
    /// Key.
    pub id: Uuid,
    /// The room.
    #[schema(schema_with = crate::openapi::room)]
    pub document: Value,
    /// Version of this record: what a save must name.
    pub version: i32,
    /// When it was last saved.
    pub updated_at: DateTime<Utc>,
}

fn document(room: &Room) -> Result<Value, Error> {
    serde_json::to_value(room).map_err(|e| Error::Unforeseen(e.to_string()))
}

/// The rooms of an owner, by name.
///
/// # Errors
/// Those of the database.
pub fn list(connection: &mut PgConnection, owner: Uuid) -> Result<Vec<RoomRecord>, Error> {
    Ok(room::table
        .filter(room::owner_id.eq(owner).and(room::deleted_at.is_null()))
        .order((room::name, room::id))
        .select(RoomRecord::as_select())
        .load(connection)?)
}

/// Keeps a room.
///
/// # Errors
/// [`Error::Invalid`] where there are too many; those of the database.
pub fn create(connection: &mut PgConnection, owner: Uuid, made: &Room) -> Result<RoomRecord, Error> {
    connection.transaction(|c| {
        // so that two at once do not both find it not yet full
        let _locked: Uuid = owner::table.find(owner).select(owner::id).for_update().first(c)?;
        let standing = list(c, owner)?.len();
        if standing >= MOST {
            let message = format!("the workshop holds {standing} rooms; at most {MOST} are kept");
            return Err(Error::Invalid(vec![Problem::new(Code::OutOfRange, "", message)]));
        }
        Ok(diesel::insert_into(room::table)
            .values((
                room::id.eq(Uuid::now_v7()),
                room::owner_id.eq(owner),
                room::name.eq(&made.name),
                room::document.eq(document(made)?),
            ))
            .returning(RoomRecord::as_returning())
            .get_result(c)?)
    })
}

/// Saves a room that was made from `base_version`.
///
/// # Errors
/// [`Error::Stale`] with what stands when another save came first; [`Error::NotFound`]; those of the database.
pub fn save(connection: &mut PgConnection, id: Uuid, base_version: i32, made: &Room) -> Result<RoomRecord, Error> {
    let standing = room::table.find(id).filter(room::deleted_at.is_null());
    let saved: Option<RoomRecord> = diesel::update(standing.filter(room::version.eq(base_version)))
        .set((
            room::name.eq(&made.name),
            room::document.eq(document(made)?),
            room::version.eq(base_version + 1),
            room::updated_at.eq(diesel::dsl::now),
        ))
        .returning(RoomRecord::as_returning())
        .get_result(connection)
        .optional()?;
    if let Some(saved) = saved {
        return Ok(saved);
    }
    let there = standing.select(RoomRecord::as_select()).first(connection).optional()?;
    let there = there.ok_or(Error::NotFound("room"))?;
    Err(Error::Stale { version: there.version, current: there.document })
}

/// Takes a room away, or puts it back; builds keep their own copy of it.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn set_deleted(connection: &mut PgConnection, id: Uuid, deleted: bool) -> Result<(), Error> {
    let mark = deleted.then(Utc::now);
    let rows = diesel::update(room::table.find(id)).set(room::deleted_at.eq(mark)).execute(connection)?;
    if rows == 0 { Err(Error::NotFound("room")) } else { Ok(()) }
}
