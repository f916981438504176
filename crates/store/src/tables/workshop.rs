//! What belongs to a workshop and to no single build. No history; where nothing was kept yet it is empty, which is version 0.

use crate::error::Error;
use crate::schema::{owner, workshop};
use chrono::{DateTime, Utc};
use diesel::pg::PgConnection;
use diesel::prelude::*;
use oak_drum_document::Workshop;
use serde::Serialize;
use serde_json::Value;
use utoipa::ToSchema;
use uuid::Uuid;

/// What a workshop has.
#[derive(Clone, Debug, PartialEq, Serialize, ToSchema, Queryable, Selectable)]
#[diesel(table_name = workshop, check_for_backend(diesel::pg::Pg))]
pub struct WorkshopRecord {
    /// What it has.
    #[schema(schema_with = crate::openapi::workshop)]
    pub document: Value,
    /// Version of this record: what a save must name; 0 where nothing was kept.
    pub version: i32,
    /// When it was last saved.
    pub updated_at: DateTime<Utc>,
}

impl WorkshopRecord {
    /// What it has.
    ///
    /// # Errors
    /// [`Error::Unforeseen`] where what is stored does not read.
    pub fn workshop(&self) -> Result<Workshop, Error> {
        serde_json::from_value(self.document.clone()).map_err(|e| Error::Unforeseen(format!("a workshop: {e}")))
    }
}

fn document(of: &Workshop) -> Result<Value, Error> {
    serde_json::to_value(of).map_err(|e| Error::Unforeseen(e.to_string()))
}

fn kept(connection: &mut PgConnection, of: Uuid) -> Result<Option<WorkshopRecord>, Error> {
    Ok(workshop::table.find(of).select(WorkshopRecord::as_select()).first(connection).optional()?)
}

/// What an owner's workshop has; an empty one of version 0 where nothing was kept.
///
/// # Errors
/// [`Error::NotFound`] for the owner, or those of the database.
pub fn get(connection: &mut PgConnection, of: Uuid) -> Result<WorkshopRecord, Error> {
    if let Some(kept) = kept(connection, of)? {
        return Ok(kept);
    }
    let begun = owner::table.find(of).select(owner::created_at).first(connection).optional()?;
    let updated_at = begun.ok_or(Error::NotFound("workshop"))?;
    Ok(WorkshopRecord { document: document(&Workshop::default())?, version: 0, updated_at })
}

/// Saves what was made from `base_version`.
///
/// # Errors
/// [`Error::Stale`] with what stands when another save came first; [`Error::NotFound`] for the owner; those of the database.
pub fn save(
    connection: &mut PgConnection,
    of: Uuid,
    base_version: i32,
    new: &Workshop,
) -> Result<WorkshopRecord, Error> {
    connection.transaction(|c| {
        let standing = get(c, of)?;
        let document = document(new)?;
        let saved: Option<WorkshopRecord> = if base_version == 0 {
            // of two that begin at once the second finds a row
            diesel::insert_into(workshop::table)
                .values((workshop::owner_id.eq(of), workshop::document.eq(&document)))
                .on_conflict_do_nothing()
                .returning(WorkshopRecord::as_returning())
                .get_result(c)
                .optional()?
        } else {
            diesel::update(workshop::table.find(of).filter(workshop::version.eq(base_version)))
                .set((
                    workshop::document.eq(&document),
                    workshop::version.eq(base_version + 1),
                    workshop::updated_at.eq(diesel::dsl::now),
                ))
                .returning(WorkshopRecord::as_returning())
                .get_result(c)
                .optional()?
        };
        match saved {
            Some(saved) => Ok(saved),
            None => {
                let now = kept(c, of)?.unwrap_or(standing);
                Err(Error::Stale { version: now.version, current: now.document })
            }
        }
    })
}
