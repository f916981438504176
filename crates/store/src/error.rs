//! What can go wrong in the store.

use diesel::result::{DatabaseErrorKind, Error as Diesel};
use oak_drum_document::Problem;
use serde_json::Value;

/// An error of the store.
#[derive(Debug, thiserror::Error)]
pub enum Error {
    /// There is no such thing, or it was deleted.
    #[error("there is no such {0}")]
    NotFound(&'static str),
    /// The save was made from an older version; what stands now is inside.
    #[error("somebody saved version {version} in the meantime")]
    Stale {
        /// The version that stands.
        version: i32,
        /// The document that stands.
        current: Value,
    },
    /// The document is not a design.
    #[error("the document has problems")]
    Invalid(Vec<Problem>),
    /// It is over, or was done once and for all; nothing was changed.
    #[error("{0}")]
    Closed(&'static str),
    /// A file that is not taken.
    #[error(transparent)]
    File(#[from] oak_drum_bundle::FileError),
    /// The database does not answer.
    #[error("the database is away: {0}")]
    Away(String),
    /// Anything else.
    #[error("{0}")]
    Unforeseen(String),
}

impl From<Diesel> for Error {
    fn from(error: Diesel) -> Error {
        match error {
            Diesel::NotFound => Error::NotFound("record"),
            Diesel::DatabaseError(DatabaseErrorKind::ClosedConnection, info) => Error::Away(info.message().into()),
            // a server going down or coming up says so in words only
            Diesel::DatabaseError(_, info)
                if ["terminating connection", "shutting down", "starting up", "server closed"]
                    .iter()
                    .any(|words| info.message().contains(words)) =>
            {
                Error::Away(info.message().into())
            }
            other => Error::Unforeseen(other.to_string()),
        }
    }
}
