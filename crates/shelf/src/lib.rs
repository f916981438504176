//! The shelf: woofers as a workshop keeps them.
//!
//! A [`ShelfWoofer`] has its frame and limits once and its measured figures in several [`ParameterSet`]s, each with
//! where it comes from; one is in use. [`import`] reads files of many woofers ([`csv`], JSON) and says row by row
//! what is wrong; [`export`] writes them. Amplifiers stand beside them ([`amplifier`]). No interface, no I/O.
//!
//! ```
//! use oak_drum_shelf::{Format, import};
//! let file = "name;fs_hz;qms;qes;Vas (ft³);re_ohm;sd_cm2\nAttic 12;28;6;0,42;4,24;5,6;530\n";
//! let read = import(file.as_bytes(), Format::Csv).unwrap();
//! let woofer = read.woofers().next().unwrap();
//! assert!((woofer.in_use().vas_l.unwrap() - 120.06).abs() < 0.01);
//! ```
#![deny(missing_docs)]

pub mod amplifier;
pub mod csv;
pub mod derive;
mod error;
pub mod import;
mod record;
mod report;
mod row;
pub mod units;

pub use amplifier::ShelfAmplifier;
pub use derive::{Derived, derive};
pub use error::{CellError, ColumnError, FileError};
pub use import::{Format, Import, export, import};
pub use record::{FORMAT, ParameterSet, Provenance, ShelfWoofer, VERSION, check, read, read_value, schema};
pub use report::{ColumnReport, ImportedRow, RowProblem};
pub use row::{ShelfRow, row};

use oak_drum_acoustics::air::Air;

/// The air a sheet's Vas is read in: 20 °C at sea level.
pub fn sheet_air() -> Air {
    Air::at(20.0, 101_325.0)
}
