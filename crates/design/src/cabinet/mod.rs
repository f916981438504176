//! The cabinet of a design as it is built: solids, folded paths, what follows from what is held, places and clearances, and
//! what goes to the saw and the bench.

mod assembly;
pub mod clearance;
pub mod cutting;
pub mod drawings;
pub mod folding;
pub mod lifting;
pub mod materials;
pub(crate) mod places;
pub mod seats;
pub mod settle;
pub(crate) mod slots;
pub mod solids;
pub mod steps;
pub mod tunnel;
pub mod view;
