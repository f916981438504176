//! Tests of the acoustics against other tools, worked examples and what must hold of any design.
//! One program, so that it is linked once.

mod electrical;
mod filters;
mod flatten;
mod outside;
mod properties;
mod room;
mod worked_driver;
mod worked_families;
