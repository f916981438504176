//! All tests of the crate from outside, in one binary.

mod outside;
mod sawn;
