//! The tables: one file each.

pub mod amplifier;
pub mod build;
pub mod listening;
pub mod log_entry;
pub mod measurement;
pub mod owner;
pub mod photo;
pub mod revision;
pub mod room;
pub mod trial;
pub mod woofer;
pub mod work_plan;
pub mod workshop;
