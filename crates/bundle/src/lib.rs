//! A build, or a whole workshop, as one file: a zip of JSON, curves, samples and photos (`docs/files.md` has it in words).
//!
//! [`build`] and [`workshop`] are what its JSON says, [`pack`] writes such a file and [`open`] reads one that may have been made by
//! anybody: nothing of it is believed before it was looked at ([`check`]), nothing is unpacked to a path, and what is read never
//! exceeds what was allowed, whatever the file says about itself.
#![deny(missing_docs)]

pub mod build;
pub mod check;
pub mod error;
pub mod limits;
pub mod open;
pub mod pack;
pub mod tags;
pub mod workshop;

pub use build::BuildFile;
pub use error::FileError;
pub use open::{Opened, open};
pub use pack::{Blob, pack};
pub use workshop::WorkshopFile;
