//! The crate against data made outside it, and against damaged files.

mod damaged;
mod recordings;
mod references;
mod sweeps;
mod texts;
