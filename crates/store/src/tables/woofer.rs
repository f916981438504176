//! The shelf: woofers with their sheets.

use crate::error::Error;
use crate::schema::woofer;
use chrono::{DateTime, Utc};
use diesel::pg::PgConnection;
use diesel::prelude::*;
use oak_drum_acoustics::driver::Woofer as Sheet;
use serde::Serialize;
use serde_json::Value;
use utoipa::ToSchema;
use uuid::Uuid;

/// A woofer on the shelf.
#[derive(Clone, Debug, Serialize, ToSchema, Queryable, Selectable)]
#[diesel(table_name = woofer, check_for_backend(diesel::pg::Pg))]
pub struct WooferRecord {
    /// Key.
    pub id: Uuid,
    /// Name on the sheet.
    pub name: String,
    /// Maker.
    pub maker: String,
    /// Nominal size, inches.
    pub size_in: Option<f64>,
    /// The sheet: a woofer as in the design document.
    #[schema(schema_with = crate::openapi::woofer)]
    pub document: Value,
    /// Version of this record.
    pub version: i32,
    /// When it was last saved.
    pub updated_at: DateTime<Utc>,
}

/// All woofers of an owner, by size and name.
///
/// # Errors
/// Those of the database.
pub fn list(connection: &mut PgConnection, owner: Uuid) -> Result<Vec<WooferRecord>, Error> {
    Ok(woofer::table
        .filter(woofer::owner_id.eq(owner).and(woofer::deleted_at.is_null()))
        .order((woofer::size_in, woofer::name))
        .select(WooferRecord::as_select())
        .load(connection)?)
}

/// Puts a woofer on the shelf.
///
/// # Errors
/// Those of the database.
pub fn create(connection: &mut PgConnection, owner: Uuid, sheet: &Sheet) -> Result<WooferRecord, Error> {
    let document = serde_json::to_value(sheet).map_err(|e| Error::Unforeseen(e.to_string()))?;
    Ok(diesel::insert_into(woofer::table)
        .values((
            woofer::id.eq(Uuid::now_v7()),
            woofer::owner_id.eq(owner),
            woofer::name.eq(&sheet.name),
            woofer::maker.eq(&sheet.maker),
            woofer::size_in.eq(sheet.size_in),
            woofer::document.eq(document),
        ))
        .returning(WooferRecord::as_returning())
        .get_result(connection)?)
}

/// Takes a woofer off the shelf; builds keep their own copy of its sheet.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn delete(connection: &mut PgConnection, id: Uuid) -> Result<(), Error> {
    let rows = diesel::update(woofer::table.find(id).filter(woofer::deleted_at.is_null()))
        .set(woofer::deleted_at.eq(diesel::dsl::now))
        .execute(connection)?;
    if rows == 0 { Err(Error::NotFound("woofer")) } else { Ok(()) }
}
