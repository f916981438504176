//! Measured curves: reading and writing them, treating them, taking them with sweeps, fitting models to them.
//!
//! A measurement is untouched data (points of a file, or an impulse response) with a recipe ([`process::recipe`]); what is drawn and
//! fitted is cooked from both. No interface, no I/O: files come and go as bytes.
//!
//! ```
//! use oak_drum_curves::formats::text;
//! let read = text::read(b"* measured today\n20\t81.5\n40\t88.0\n80\t88.2\n", None).unwrap();
//! assert_eq!(read.curve.frequency, [20.0, 40.0, 80.0]);
//! assert!(!read.curve.has_phase);
//! ```
#![deny(missing_docs)]

pub mod about;
pub mod curve;
pub mod error;
pub mod fit;
pub mod formats;
pub mod jig;
pub mod measurement;
pub mod process;
pub mod quality;
pub mod recorded;
pub mod rig;
pub mod sweep;
