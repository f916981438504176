//! What the terms of a station do, drawn; what several share is in [`crate::drawing`].

pub mod drive;
pub mod enclosure;
pub mod room;
