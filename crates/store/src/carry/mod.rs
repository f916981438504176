//! Builds and whole workshops carried out of the store and into it, as files of `oak-drum-bundle`.

pub mod into;
pub mod out;
