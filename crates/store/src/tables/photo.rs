//! Photos, kept by their content.

use crate::error::Error;
use crate::schema::{log_photo, photo};
use chrono::{DateTime, Duration, Utc};
use diesel::dsl::{exists, not};
use diesel::pg::PgConnection;
use diesel::prelude::*;
use diesel::sql_types::Binary;

diesel::define_sql_function! {
    /// Digest of bytes, by the database itself.
    fn sha256(content: Binary) -> Binary;
}

/// How long a photo that stands in no entry is kept: it may wait for its entry to be sent.
const KEPT_DAYS: i64 = 30;

/// A photo as it is kept: pictures alone, in two sizes.
#[derive(Clone, Debug)]
pub struct Picture {
    /// The picture.
    pub content: Vec<u8>,
    /// The same, small.
    pub small: Vec<u8>,
    /// Width, pixels.
    pub width: u32,
    /// Height, pixels.
    pub height: u32,
}

/// Keeps a photo, once however often it comes, and gives its digest.
///
/// # Errors
/// Those of the database.
pub fn keep(connection: &mut PgConnection, made: &Picture) -> Result<Vec<u8>, Error> {
    let values = (
        photo::digest.eq(sha256(&made.content)),
        photo::content.eq(&made.content),
        photo::small.eq(&made.small),
        photo::width.eq(made.width.cast_signed()),
        photo::height.eq(made.height.cast_signed()),
    );
    // of one that is there its age is new: whoever sends it again is about to write of it
    Ok(diesel::insert_into(photo::table)
        .values(values)
        .on_conflict(photo::digest)
        .do_update()
        .set(photo::created_at.eq(diesel::dsl::now))
        .returning(photo::digest)
        .get_result(connection)?)
}

/// A photo's bytes, the picture or the small one.
///
/// # Errors
/// [`Error::NotFound`], or those of the database.
pub fn get(connection: &mut PgConnection, digest: &[u8], small: bool) -> Result<Vec<u8>, Error> {
    let row = photo::table.find(digest);
    let found: Option<Vec<u8>> = if small {
        row.select(photo::small).first(connection).optional()?
    } else {
        row.select(photo::content).first(connection).optional()?
    };
    found.ok_or(Error::NotFound("photo"))
}

/// Lets go of photos that stand in no entry for a month, and gives how many they were.
///
/// # Errors
/// Those of the database.
pub fn sweep(connection: &mut PgConnection, now: DateTime<Utc>) -> Result<usize, Error> {
    let used = log_photo::table.filter(log_photo::digest.eq(photo::digest));
    let old = photo::created_at.lt(now - Duration::days(KEPT_DAYS));
    Ok(diesel::delete(photo::table.filter(old).filter(not(exists(used)))).execute(connection)?)
}
