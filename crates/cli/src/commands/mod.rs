//! One file a command.

pub mod evaluate;
pub mod schema;
