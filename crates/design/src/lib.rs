//! A design worked out and judged.
//!
//! From the ground up: [`analysis`] wires a design of `oak-drum-document` and lays its cabinet out; [`finding`] is what a rule says
//! and [`trial`] tries its remedies; one folder a station holds its reckoning and its rules; [`evaluation`] joins them all.
//! [`evaluate()`] takes a design to curves, figures, the air ledger and findings. No interface, no I/O.
//!
//! ```
//! let design = oak_drum_document::read(r#"{"format": "oak-drum-design", "version": 8,
//!     "woofer": {"fs_hz": 30, "qms": 5, "qes": 0.4, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530},
//!     "enclosure": {"family": "sealed", "net_volume_l": 60}}"#).unwrap();
//! let result = oak_drum_design::evaluate(&design);
//! // fc = fs·√(1 + Vas/Vb) (Small 1972), softened by nothing: 30·√3 Hz
//! let fc = result.summary.figures.iter().find(|f| f.id == "fc_hz").unwrap();
//! assert!((fc.value - 30.0 * 3f64.sqrt()).abs() < 0.1, "{}", fc.value);
//! // what the sheet does not state is said, not passed over
//! assert!(result.findings.unwrap().iter().any(|f| f.kind == "limits_not_stated"));
//! ```
#![deny(missing_docs)]

pub mod airway;
pub mod analysis;
pub mod brief;
pub mod cabinet;
pub mod drive;
pub mod enclosure;
pub mod evaluation;
pub mod finding;
pub mod prove;
pub mod quiet;
pub mod room;
pub mod trial;
pub mod woofer;

pub use evaluation::{Evaluation, evaluate, found, outline, suggest};
