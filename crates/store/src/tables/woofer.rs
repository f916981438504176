//! The shelf: woofers with their parameter sets.

use crate::error::Error;
use crate::schema::{owner, woofer};
use chrono::{DateTime, Utc};
use diesel::pg::PgConnection;
use diesel::prelude::*;
use oak_drum_acoustics::driver::Woofer;
use oak_drum_shelf::{ParameterSet, ShelfRow, ShelfWoofer};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::collections::{HashMap, HashSet};
use utoipa::ToSchema;
use uuid::Uuid;

/// Rows written at once in an import.
const BATCH: usize = 250;

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
    /// The woofer with its parameter sets.
    #[schema(schema_with = crate::openapi::shelf_woofer)]
    pub document: Value,
    /// Version of this record: what a save must name.
    pub version: i32,
    /// When it was last saved.
    pub updated_at: DateTime<Utc>,
}

/// A line of the shelf.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub struct ShelfLine {
    /// Key.
    pub id: Uuid,
    /// Version of the record.
    pub version: i32,
    /// Its figures.
    #[schema(schema_with = crate::openapi::shelf_row)]
    pub row: ShelfRow,
}

/// What to do with a woofer of the file whose maker and name stand on the shelf already.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum Known {
    /// Leave the shelf's as it is.
    #[default]
    LeaveOut,
    /// Add the file's figures to it as further parameter sets, those it has already aside; the set in use stays.
    AddSets,
}

/// What an import did.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, ToSchema)]
pub struct Imported {
    /// New woofers.
    pub added: usize,
    /// Woofers that got further sets.
    pub extended: usize,
    /// Woofers left out, since they stand on the shelf already.
    pub left_out: usize,
}

fn document(made: &ShelfWoofer) -> Result<Value, Error> {
    serde_json::to_value(made).map_err(|e| Error::Unforeseen(e.to_string()))
}

fn read(stored: Value) -> Result<ShelfWoofer, Error> {
    serde_json::from_value(stored).map_err(|e| Error::Unforeseen(format!("a stored woofer does not read: {e}")))
}

/// The shelf of an owner, by size and name.
///
/// # Errors
/// Those of the database.
pub fn list(connection: &mut PgConnection, owner: Uuid) -> Result<Vec<ShelfLine>, Error> {
    let records: Vec<(Uuid, i32, Value)> = woofer::table
        .filter(woofer::owner_id.eq(owner).and(woofer::deleted_at.is_null()))
        .order((woofer::size_in, woofer::name, woofer::id))
        .select((woofer::id, woofer::version, woofer::document))
        .load(connection)?;
    records
        .into_iter()
        .map(|(id, version, stored)| Ok(ShelfLine { id, version, row: oak_drum_shelf::row(&read(stored)?) }))
        .collect()
}

/// Woofers by their keys, or all of an owner where none are named, in the shelf's order.
///
/// # Errors
/// Those of the database.
pub fn records(
    connection: &mut PgConnection,
    owner: Uuid,
    keys: Option<&[Uuid]>,
) -> Result<Vec<(Uuid, ShelfWoofer)>, Error> {
    let mut query = woofer::table
        .filter(woofer::owner_id.eq(owner).and(woofer::deleted_at.is_null()))
        .order((woofer::size_in, woofer::name, woofer::id))
        .select((woofer::id, woofer::document))
        .into_boxed();
    if let Some(keys) = keys {
        query = query.filter(woofer::id.eq_any(keys.to_vec()));
    }
    let found: Vec<(Uuid, Value)> = query.load(connection)?;
    found.into_iter().map(|(id, stored)| Ok((id, read(stored)?))).collect()
}

/// Maker and name of every woofer of an owner, as they are compared.
///
/// # Errors
/// Those of the database.
pub fn keys(connection: &mut PgConnection, owner: Uuid) -> Result<HashSet<(String, String)>, Error> {
    Ok(records(connection, owner, None)?.iter().map(|(_, w)| w.key()).collect())
}

/// One woofer.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn get(connection: &mut PgConnection, id: Uuid) -> Result<WooferRecord, Error> {
    woofer::table
        .find(id)
        .filter(woofer::deleted_at.is_null())
        .select(WooferRecord::as_select())
        .first(connection)
        .optional()?
        .ok_or(Error::NotFound("woofer"))
}

/// Puts a woofer on the shelf.
///
/// # Errors
/// Those of the database.
pub fn create(connection: &mut PgConnection, owner: Uuid, made: &ShelfWoofer) -> Result<WooferRecord, Error> {
    Ok(diesel::insert_into(woofer::table)
        .values((
            woofer::id.eq(Uuid::now_v7()),
            woofer::owner_id.eq(owner),
            woofer::name.eq(&made.woofer.name),
            woofer::maker.eq(&made.woofer.maker),
            woofer::size_in.eq(made.woofer.size_in),
            woofer::document.eq(document(made)?),
        ))
        .returning(WooferRecord::as_returning())
        .get_result(connection)?)
}

/// Saves a woofer that was made from `base_version`.
///
/// # Errors
/// [`Error::Stale`] with what stands when another save came first; [`Error::NotFound`]; those of the database.
pub fn save(
    connection: &mut PgConnection,
    id: Uuid,
    base_version: i32,
    made: &ShelfWoofer,
) -> Result<WooferRecord, Error> {
    let saved: Option<WooferRecord> = diesel::update(
        woofer::table.find(id).filter(woofer::version.eq(base_version).and(woofer::deleted_at.is_null())),
    )
    .set((
        woofer::name.eq(&made.woofer.name),
        woofer::maker.eq(&made.woofer.maker),
        woofer::size_in.eq(made.woofer.size_in),
        woofer::document.eq(document(made)?),
        woofer::version.eq(base_version + 1),
        woofer::updated_at.eq(diesel::dsl::now),
    ))
    .returning(WooferRecord::as_returning())
    .get_result(connection)
    .optional()?;
    match saved {
        Some(saved) => Ok(saved),
        None => {
            let standing = get(connection, id)?;
            Err(Error::Stale { version: standing.version, current: standing.document })
        }
    }
}

/// Marks a woofer as a favourite or not; what else was saved meanwhile stays.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn set_favourite(connection: &mut PgConnection, id: Uuid, favourite: bool) -> Result<WooferRecord, Error> {
    connection.transaction(|c| {
        let standing: WooferRecord = woofer::table
            .find(id)
            .filter(woofer::deleted_at.is_null())
            .select(WooferRecord::as_select())
            .for_update()
            .first(c)
            .optional()?
            .ok_or(Error::NotFound("woofer"))?;
        let mut made = read(standing.document)?;
        made.favourite = favourite;
        save(c, id, standing.version, &made)
    })
}

/// Takes a woofer off the shelf, or puts it back; builds keep their own copy of its sheet.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn set_deleted(connection: &mut PgConnection, id: Uuid, deleted: bool) -> Result<(), Error> {
    let mark = deleted.then(Utc::now);
    let rows = diesel::update(woofer::table.find(id)).set(woofer::deleted_at.eq(mark)).execute(connection)?;
    if rows == 0 { Err(Error::NotFound("woofer")) } else { Ok(()) }
}

/// What happened to a woofer: it was measured, or something was done to it.
#[derive(Clone, Debug, Default)]
pub struct Happened {
    /// Figures that were measured; they are in use from then on.
    pub set: Option<ParameterSet>,
    /// A line of its notes.
    pub note: Option<String>,
}

/// Writes down what happened to the woofer of a sheet: the one of that maker and name on the shelf, put there if it is not.
///
/// # Errors
/// [`Error::Invalid`] where the woofer is then none; those of the database.
pub fn log(
    connection: &mut PgConnection,
    owner: Uuid,
    sheet: &Woofer,
    happened: &Happened,
) -> Result<WooferRecord, Error> {
    connection.transaction(|c| {
        let _locked: Uuid = owner::table.find(owner).select(owner::id).for_update().first(c)?;
        let own = ShelfWoofer::from_sheet(sheet);
        let standing = records(c, owner, None)?.into_iter().find(|(_, w)| w.key() == own.key());
        let (there, mut made) = match standing {
            Some((id, woofer)) => (Some(get(c, id)?), woofer),
            None => (None, own),
        };
        if let Some(set) = &happened.set {
            made.in_use = made.sets.len() as u32;
            made.sets.push(set.clone());
        }
        if let Some(note) = &happened.note {
            let lines = [made.notes.trim_end(), note];
            made.notes = lines.into_iter().filter(|l| !l.is_empty()).collect::<Vec<_>>().join("\n");
        }
        oak_drum_shelf::check(&made).map_err(Error::Invalid)?;
        match there {
            Some(there) => save(c, there.id, there.version, &made),
            None => create(c, owner, &made),
        }
    })
}

/// Puts many woofers on the shelf, all of them or none; `progress` hears how many are done.
///
/// The owner's row is locked meanwhile, so that two imports at once do not both add the same woofer.
///
/// # Errors
/// Those of the database; then nothing is stored.
pub fn import(
    connection: &mut PgConnection,
    owner: Uuid,
    made: &[ShelfWoofer],
    known: Known,
    mut progress: impl FnMut(usize),
) -> Result<Imported, Error> {
    connection.transaction(|c| {
        let _locked: Uuid = owner::table.find(owner).select(owner::id).for_update().first(c)?;
        let standing: HashMap<(String, String), Uuid> =
            records(c, owner, None)?.into_iter().map(|(id, w)| (w.key(), id)).collect();
        let mut outcome = Imported::default();
        for (batch, chunk) in made.chunks(BATCH).enumerate() {
            let mut rows = Vec::with_capacity(chunk.len());
            for woofer in chunk {
                match (standing.get(&woofer.key()), known) {
                    (None, _) => {
                        rows.push((
                            woofer::id.eq(Uuid::now_v7()),
                            woofer::owner_id.eq(owner),
                            woofer::name.eq(&woofer.woofer.name),
                            woofer::maker.eq(&woofer.woofer.maker),
                            woofer::size_in.eq(woofer.woofer.size_in),
                            woofer::document.eq(document(woofer)?),
                        ));
                    }
                    (Some(_), Known::LeaveOut) => outcome.left_out += 1,
                    (Some(id), Known::AddSets) => {
                        let there = get(c, *id)?;
                        let mut extended = read(there.document)?;
                        let before = extended.sets.len();
                        for set in &woofer.sets {
                            if !extended.sets.contains(set) {
                                extended.sets.push(set.clone());
                            }
                        }
                        if extended.sets.len() == before {
                            outcome.left_out += 1;
                            continue;
                        }
                        oak_drum_shelf::check(&extended).map_err(|mut problems| {
                            for problem in &mut problems {
                                problem.message = format!("{}: {}", extended.woofer.name, problem.message).into();
                            }
                            Error::Invalid(problems)
                        })?;
                        save(c, *id, there.version, &extended)?;
                        outcome.extended += 1;
                    }
                }
            }
            outcome.added += rows.len();
            diesel::insert_into(woofer::table).values(&rows).execute(c)?;
            progress((batch * BATCH + chunk.len()).min(made.len()));
        }
        Ok(outcome)
    })
}
