//! Tests of searching and seeking.
//! One program, so that it is linked once.

mod begin;
mod search;
mod seek;
