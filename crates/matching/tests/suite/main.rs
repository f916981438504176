//! Tests of searching and seeking.
//! One program, so that it is linked once.

mod search;
mod seek;
