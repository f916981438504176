//! One file a table (the history is written by its revisions).

pub mod build;
pub mod owner;
pub mod revision;
pub mod woofer;
