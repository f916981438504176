//! The design document: what a builder decides, in one open, versioned JSON text.
//!
//! [`read()`] takes a text to a [`Checked`] design, upgrading older versions and refusing what it does not know, with the place and
//! the nearest right name; [`Change`]s alter it. No interface, no I/O.
//!
//! ```
//! let text = r#"{"format": "oak-drum-design", "version": 8,
//!     "woofer": {"fs_hz": 28, "qms": 6, "qes": 0.42, "vas_l": 120, "re_ohm": 5.6, "sd_cm2": 530},
//!     "enclosure": {"family": "sealed", "net_volume_l": 60}}"#;
//! let design = oak_drum_document::read(text).unwrap();
//! assert_eq!(design.woofer.fs_hz, Some(28.0));
//! // a slip of the pen is named at its place, with the nearest right name
//! let problems = oak_drum_document::read(&text.replace("net_volume_l", "net_volume")).unwrap_err();
//! assert!(problems.iter().any(|p| p.to_string().contains("net_volume_l")), "{problems:?}");
//! ```
#![deny(missing_docs)]

mod along;
mod cabinet;
mod chain;
mod change;
mod checked;
mod days;
mod design;
mod log_entry;
mod problem;
mod read;
mod reader;
mod room;
mod saw;
pub mod schema;
mod shape;
pub mod timeline;
pub mod upgrade;
mod work_plan;
mod workshop;

pub use along::lengths_along;
pub use cabinet::{Brace, Cabinet, InnerLayer, Lies, Ties};
pub use chain::{
    Battery, Chain, ChainFilter, ChainPart, Chemistry, MOST_FILTERS, MOST_PARTS, Programme, Stage, amplifier_faults,
};
pub use change::{Change, apply};
pub use checked::Checked;
pub use days::{DayOfWeek, Days, FinishKind, FreeTime, Glue};
pub use design::*;
pub use log_entry::{EntryKind, LogEntry, MOST_PHOTOS, PhotoOf, Tied};
pub use problem::{Code, Problem};
pub use read::{check, read, read_current, read_value, sheet_problems};
pub use reader::{MOST_PROBLEMS, Reader, nearest};
pub use room::{
    CabinBegins, Damping, Facing, InRoom, KeptFree, MOST_CABINETS, MOST_KEPT_FREE, MOST_SEATS, Neighbour, OtherBuild,
    OtherOpening, Room, Seat, Space, StandingCabinet,
};
pub use saw::{Carried, InchSteps, Offcut, Saw};
pub use shape::{AmplifierSpace, BuiltIn, Constraint, FirstSegment, FoldSpec, Near, Shape, Spot, Terminals, WooferOn};
pub use work_plan::{Bought, Prices, Tick, WorkPlan};
pub use workshop::{Owned, RackPiece, Workshop};
