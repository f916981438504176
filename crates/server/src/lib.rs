//! The HTTP interface: thin handlers over the design and store crates.

pub mod app;
pub mod guard;
pub mod openapi;
pub mod problem;
pub mod routes;
pub mod state;
