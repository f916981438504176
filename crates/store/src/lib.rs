//! The store: a workshop with its woofers and builds, each build with revisions, each revision with its history.
//!
//! Every save names the version it was made from; a stale one is answered with [`Error::Stale`] and changes
//! nothing. Deleting is a mark that can be taken back.
#![deny(missing_docs)]

pub mod carry;
pub mod demo;
pub mod error;
pub mod openapi;
#[allow(missing_docs)]
mod schema;
pub mod tables;

pub use error::Error;

use diesel::pg::PgConnection;
use diesel::r2d2::{ConnectionManager, Pool, PooledConnection};
use diesel_migrations::{EmbeddedMigrations, MigrationHarness, embed_migrations};
use std::time::Duration;

/// The migrations, run at start-up.
pub const MIGRATIONS: EmbeddedMigrations = embed_migrations!("migrations");

/// A pool of connections to one database.
#[derive(Clone)]
pub struct Store {
    pool: Pool<ConnectionManager<PgConnection>>,
}

/// A connection of the pool.
pub type Connection = PooledConnection<ConnectionManager<PgConnection>>;

impl Store {
    /// A pool for the database at `url`. Connections are made when first asked for, so that the server can start
    /// before the database does.
    pub fn new(url: &str, connections: u32) -> Store {
        let pool = Pool::builder()
            .max_size(connections)
            .min_idle(Some(0))
            .connection_timeout(Duration::from_secs(3))
            .test_on_check_out(true)
            .error_handler(Box::new(diesel::r2d2::NopErrorHandler))
            .build_unchecked(ConnectionManager::new(url));
        Store { pool }
    }

    /// A connection.
    ///
    /// # Errors
    /// [`Error::Away`] when the database does not answer within three seconds.
    pub fn connect(&self) -> Result<Connection, Error> {
        self.pool.get().map_err(|e| Error::Away(e.to_string()))
    }

    /// Brings the database to the newest migration.
    ///
    /// # Errors
    /// [`Error::Away`] or [`Error::Unforeseen`].
    pub fn migrate(&self) -> Result<(), Error> {
        let mut connection = self.connect()?;
        connection.run_pending_migrations(MIGRATIONS).map_err(|e| Error::Unforeseen(e.to_string()))?;
        Ok(())
    }

    /// Whether the database answers.
    ///
    /// # Errors
    /// [`Error::Away`].
    pub fn ping(&self) -> Result<(), Error> {
        use diesel::RunQueryDsl;
        diesel::sql_query("SELECT 1").execute(&mut self.connect()?)?;
        Ok(())
    }
}
