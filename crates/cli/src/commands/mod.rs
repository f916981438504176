//! One file a command.

pub mod chain;
pub mod evaluate;
pub mod schema;
