//! The design document: what a builder decides, in one open, versioned JSON text.
//!
//! [`read()`] takes a text to a [`Checked`] design, upgrading older versions and refusing what it does not know, with the place and
//! the nearest right name; [`Change`]s alter it. No interface, no I/O.
#![deny(missing_docs)]

mod along;
mod cabinet;
mod change;
mod checked;
mod design;
mod problem;
mod read;
mod reader;
mod saw;
pub mod schema;
mod shape;
pub mod upgrade;
mod work_plan;

pub use along::lengths_along;
pub use cabinet::{Brace, Cabinet, InnerLayer, Lies, Ties};
pub use change::{Change, apply};
pub use checked::Checked;
pub use design::*;
pub use problem::{Code, Problem};
pub use read::{check, read, read_current, read_value, sheet_problems};
pub use reader::{MOST_PROBLEMS, Reader, nearest};
pub use saw::{Carried, InchSteps, Offcut, Saw};
pub use shape::{AmplifierSpace, Constraint, FirstSegment, FoldSpec, Near, Shape, Spot, Terminals, WooferOn};
pub use work_plan::{Prices, Tick, WorkPlan};
