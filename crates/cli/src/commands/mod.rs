//! One file a command.

pub mod chain;
pub mod compare;
pub mod curve;
pub mod evaluate;
mod files;
pub mod fit;
pub mod listening;
pub mod rig;
pub mod room;
pub mod schema;
pub mod sweep;
