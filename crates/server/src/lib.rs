//! The HTTP interface: thin handlers over the design and store crates.

pub mod app;
mod asking;
pub mod body;
pub mod guard;
pub mod limits;
pub mod openapi;
pub mod photo;
pub mod pool;
pub mod problem;
pub mod routes;
pub mod schemas;
pub mod state;
pub mod worker;
