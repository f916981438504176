//! The workshop's owner. There is one for now; every other table already belongs to one.

use crate::error::Error;
use crate::schema::owner;
use diesel::pg::PgConnection;
use diesel::prelude::*;
use uuid::Uuid;

/// The owner of a workshop.
#[derive(Clone, Debug, Queryable, Selectable, Insertable)]
#[diesel(table_name = owner, check_for_backend(diesel::pg::Pg))]
pub struct Owner {
    /// Key.
    pub id: Uuid,
    /// Name of the workshop.
    pub name: String,
}

/// The first owner, made if there is none. A lock on the table keeps two servers from making two.
///
/// # Errors
/// Those of the database.
pub fn ensure(connection: &mut PgConnection, name: &str) -> Result<Owner, Error> {
    connection.transaction(|c| {
        diesel::sql_query("LOCK TABLE owner IN SHARE ROW EXCLUSIVE MODE").execute(c)?;
        let first = owner::table.order(owner::created_at).select(Owner::as_select()).first(c).optional()?;
        match first {
            Some(owner) => Ok(owner),
            None => {
                let fresh = Owner { id: Uuid::now_v7(), name: name.into() };
                diesel::insert_into(owner::table).values(&fresh).execute(c)?;
                Ok(fresh)
            }
        }
    })
}
