//! The field's terms as a builder meets them: one sentence each, what else they are called, where they are stated or read, and a
//! small drawing of what they do where they move something.
//!
//! Works are cited from memory, as the page says.
//!
//! The page of terms, the explanations beside fields and figures and the search are all made from [`all`]. A new term is one entry in the file
//! of its station; a new station's file is one line in [`STATIONS`].

pub mod drawing;
pub mod drawn;
mod term;
mod terms;

pub use term::Term;

use serde::Serialize;

/// The terms of one station.
#[derive(Clone, Debug, Serialize)]
pub struct Section {
    /// Stable name of the station.
    pub station: &'static str,
    /// Its terms, as they are read.
    pub terms: &'static [Term],
}

const STATIONS: &[Section] = &[
    Section { station: "brief", terms: terms::brief::TERMS },
    Section { station: "woofer", terms: terms::woofer::TERMS },
    Section { station: "box", terms: terms::enclosure::TERMS },
    Section { station: "airway", terms: terms::airway::TERMS },
    Section { station: "quiet", terms: terms::quiet::TERMS },
    Section { station: "cabinet", terms: terms::cabinet::TERMS },
    Section { station: "drive", terms: terms::drive::TERMS },
    Section { station: "room", terms: terms::room::TERMS },
    Section { station: "prove", terms: terms::prove::TERMS },
    Section { station: "listen", terms: terms::listen::TERMS },
];

/// Every term, by station in the order in which builders work.
pub fn all() -> &'static [Section] {
    STATIONS
}
