//! The listening crate against scipy, statsmodels, counting and published tables.

mod session;
mod statistics;
