//! What the terms of a station do, drawn; what several share is in [`crate::drawing`].

pub mod airway;
pub mod brief;
pub mod cabinet;
pub mod drive;
pub mod enclosure;
pub mod prove;
pub mod quiet;
pub mod room;
pub mod woofer;
