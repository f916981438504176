//! What was measured at builds: each a document, and its untouched samples kept by their content.

use super::photo::sha256;
use super::revision::{self as revisions, Revision};
use crate::error::Error;
use crate::schema::{build, measurement, revision, samples};
use chrono::{DateTime, Utc};
use diesel::dsl::sum;
use diesel::pg::PgConnection;
use diesel::prelude::*;
use diesel::sql_types::Binary;
use oak_drum_curves::formats::packed::{pack, unpack};
use oak_drum_curves::measurement::{MOST, Measurement};
use oak_drum_curves::process::recipe::Data;
use oak_drum_document::{Code, Problem};
use serde::Serialize;
use serde_json::Value;
use utoipa::ToSchema;
use uuid::Uuid;

/// Most bytes of samples one build keeps.
const MOST_BYTES: i64 = oak_drum_bundle::limits::MOST_SAMPLES.cast_signed();

diesel::define_sql_function! {
    /// Length of bytes.
    fn octet_length(content: Binary) -> diesel::sql_types::Integer;
}

/// A measurement without its samples.
#[derive(Clone, Debug, Serialize, ToSchema, Queryable, Selectable)]
#[diesel(table_name = measurement, check_for_backend(diesel::pg::Pg))]
pub struct MeasurementRecord {
    /// Key.
    pub id: Uuid,
    /// The build it was taken at.
    pub build_id: Uuid,
    /// The revision it was taken of, where that is known.
    pub revision_id: Option<Uuid>,
    /// The measurement.
    #[schema(schema_with = crate::openapi::measurement)]
    pub document: Value,
    /// Version of this record: what a save must name.
    pub version: i32,
    /// When it came here.
    pub created_at: DateTime<Utc>,
}

impl MeasurementRecord {
    /// The measurement as it was made.
    ///
    /// # Errors
    /// [`Error::Unforeseen`] where what is stored does not read.
    pub fn measurement(&self) -> Result<Measurement, Error> {
        serde_json::from_value(self.document.clone()).map_err(|e| Error::Unforeseen(format!("a measurement: {e}")))
    }
}

fn document(made: &Measurement) -> Result<Value, Error> {
    serde_json::to_value(made).map_err(|e| Error::Unforeseen(e.to_string()))
}

/// The measurements of a build, the oldest first.
///
/// # Errors
/// Those of the database.
pub fn of_build(connection: &mut PgConnection, build_id: Uuid) -> Result<Vec<MeasurementRecord>, Error> {
    Ok(measurement::table
        .filter(measurement::build_id.eq(build_id).and(measurement::deleted_at.is_null()))
        .order((measurement::created_at, measurement::id))
        .select(MeasurementRecord::as_select())
        .load(connection)?)
}

/// Keeps a measurement; the build's row is locked meanwhile, so that two at once do not both find room.
///
/// # Errors
/// [`Error::NotFound`] for the build, or for a revision that is not this build's; [`Error::Invalid`] where it holds as much as is kept; those of the database.
pub fn create(
    connection: &mut PgConnection,
    build_id: Uuid,
    revision_id: Option<Uuid>,
    made: &Measurement,
    data: &Data,
) -> Result<MeasurementRecord, Error> {
    let content = pack(data);
    connection.transaction(|c| {
        let _locked: Uuid = build::table
            .find(build_id)
            .filter(build::deleted_at.is_null())
            .select(build::id)
            .for_update()
            .first(c)
            .optional()?
            .ok_or(Error::NotFound("build"))?;
        if let Some(id) = revision_id {
            let own = revision::table.find(id).filter(revision::build_id.eq(build_id));
            let found: Option<Uuid> = own.select(revision::id).first(c).optional()?;
            found.ok_or(Error::NotFound("revision"))?;
        }
        room(c, build_id, content.len() as i64)?;
        diesel::insert_into(samples::table)
            .values((samples::digest.eq(sha256(&content)), samples::content.eq(&content)))
            .on_conflict_do_nothing()
            .execute(c)?;
        Ok(diesel::insert_into(measurement::table)
            .values((
                measurement::id.eq(Uuid::now_v7()),
                measurement::build_id.eq(build_id),
                measurement::revision_id.eq(revision_id),
                measurement::digest.eq(sha256(&content)),
                measurement::document.eq(document(made)?),
            ))
            .returning(MeasurementRecord::as_returning())
            .get_result(c)?)
    })
}

fn room(connection: &mut PgConnection, build_id: Uuid, more: i64) -> Result<(), Error> {
    let own = measurement::table.filter(measurement::build_id.eq(build_id).and(measurement::deleted_at.is_null()));
    let standing: i64 = own.count().get_result(connection)?;
    let full = |message: String| Err(Error::Invalid(vec![Problem::new(Code::OutOfRange, "", message)]));
    if standing >= MOST as i64 {
        return full(format!(
            "this build keeps {standing} measurements, which is as many as there may be; take one away first"
        ));
    }
    let bytes: Option<i64> =
        own.inner_join(samples::table).select(sum(octet_length(samples::content))).first(connection)?;
    if bytes.unwrap_or(0) + more > MOST_BYTES {
        return full(format!(
            "the samples of this build would take more than {} MB; take a measurement away first",
            MOST_BYTES >> 20
        ));
    }
    Ok(())
}

/// A measurement and its data.
pub type Whole = (MeasurementRecord, Data);

/// A measurement with its untouched data.
///
/// # Errors
/// [`Error::NotFound`]; [`Error::Unforeseen`] where what is stored does not read; those of the database.
pub fn get(connection: &mut PgConnection, id: Uuid) -> Result<Whole, Error> {
    let found: Option<(MeasurementRecord, Vec<u8>)> = measurement::table
        .find(id)
        .filter(measurement::deleted_at.is_null())
        .inner_join(samples::table)
        .select((MeasurementRecord::as_select(), samples::content))
        .first(connection)
        .optional()?;
    let (record, content) = found.ok_or(Error::NotFound("measurement"))?;
    let data = unpack(&content).map_err(|e| Error::Unforeseen(e.to_string()))?;
    Ok((record, data))
}

/// A box whose impedance was measured.
pub struct MeasuredBox {
    /// Its build.
    pub build_id: Uuid,
    /// Its name.
    pub build: String,
    /// The revision that was measured; the newest one where that was not said.
    pub revision: Revision,
    /// The measurement.
    pub measured: Whole,
}

/// The newest impedance of every build of an owner that has one, the newest builds first; what was measured at a practice cabinet is no
/// box of anybody's.
///
/// # Errors
/// Those of the database, or where what is stored does not read.
pub fn of_boxes(connection: &mut PgConnection, of: Uuid, most: usize) -> Result<Vec<MeasuredBox>, Error> {
    let real = diesel::dsl::sql::<diesel::sql_types::Bool>(
        "measurement.document #>> '{about,taken,kind}' = 'in_box' AND measurement.document #>> '{source,kind}' <> 'practice'",
    );
    let mut found: Vec<(Uuid, String, DateTime<Utc>, Uuid)> = measurement::table
        .inner_join(build::table.on(build::id.eq(measurement::build_id)))
        .filter(build::owner_id.eq(of).and(build::deleted_at.is_null()).and(measurement::deleted_at.is_null()))
        .filter(real)
        .order((build::id, measurement::created_at.desc(), measurement::id.desc()))
        .select((build::id, build::name, build::created_at, measurement::id))
        .load(connection)?;
    found.dedup_by_key(|f| f.0);
    found.sort_by_key(|f| std::cmp::Reverse((f.2, f.0)));
    found.truncate(most);
    let mut list = Vec::new();
    for (build_id, build, _, id) in found {
        let measured = get(connection, id)?;
        let mut all = revisions::of_builds(connection, &[build_id])?;
        let at = all.iter().position(|r| Some(r.id) == measured.0.revision_id);
        let Some(at) = at.or(all.len().checked_sub(1)) else { continue };
        list.push(MeasuredBox { build_id, build, revision: all.swap_remove(at), measured });
    }
    Ok(list)
}

/// Saves what is known about a measurement and what was done to it, made from `base_version`; its data stay.
///
/// # Errors
/// [`Error::Stale`] with what stands when another save came first; [`Error::NotFound`]; those of the database.
pub fn save(
    connection: &mut PgConnection,
    id: Uuid,
    base_version: i32,
    made: &Measurement,
) -> Result<MeasurementRecord, Error> {
    let standing = measurement::table.find(id).filter(measurement::deleted_at.is_null());
    let saved: Option<MeasurementRecord> = diesel::update(standing.filter(measurement::version.eq(base_version)))
        .set((
            measurement::document.eq(document(made)?),
            measurement::version.eq(base_version + 1),
            measurement::updated_at.eq(diesel::dsl::now),
        ))
        .returning(MeasurementRecord::as_returning())
        .get_result(connection)
        .optional()?;
    if let Some(saved) = saved {
        return Ok(saved);
    }
    let there: Option<MeasurementRecord> =
        standing.select(MeasurementRecord::as_select()).first(connection).optional()?;
    let there = there.ok_or(Error::NotFound("measurement"))?;
    Err(Error::Stale { version: there.version, current: there.document })
}

/// Marks a measurement as deleted, or takes the mark back; its samples stay.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn set_deleted(connection: &mut PgConnection, id: Uuid, deleted: bool) -> Result<(), Error> {
    let mark = deleted.then(Utc::now);
    let rows = diesel::update(measurement::table.find(id)).set(measurement::deleted_at.eq(mark)).execute(connection)?;
    if rows == 0 { Err(Error::NotFound("measurement")) } else { Ok(()) }
}
