//! Glue, filler, sealer, paint: how long they stay open, when one may go on, when they are hard, how warm they want it.
//!
//! Common practice by class of product, at 20 °C and a dry day; what stands on the tin comes first.

use oak_drum_document::{FinishKind, Glue};

/// A class of product.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Product {
    /// What it is called in a sentence.
    pub name: &'static str,
    /// How long it stays open once it is spread, min; absent where that does not matter.
    pub open_min: Option<f64>,
    /// When one may go on: clamps off, the next coat, h.
    pub next_h: f64,
    /// When it is hard: routed, sanded, leant on, h.
    pub hard_h: f64,
    /// The least temperature it takes at, °C.
    pub least_c: f64,
}

const fn product(name: &'static str, open_min: Option<f64>, next_h: f64, hard_h: f64, least_c: f64) -> Product {
    Product { name, open_min, next_h, hard_h, least_c }
}

/// A glue.
pub const fn glue(kind: Glue) -> Product {
    match kind {
        Glue::WoodGlue => product("wood glue", Some(10.0), 1.0, 24.0, 10.0),
        Glue::SlowWoodGlue => product("slow wood glue", Some(20.0), 2.0, 24.0, 10.0),
        Glue::Polyurethane => product("polyurethane glue", Some(25.0), 4.0, 24.0, 5.0),
        Glue::Epoxy => product("epoxy", Some(40.0), 12.0, 48.0, 12.0),
    }
}

/// Wood filler.
pub const FILLER: Product = product("filler", None, 2.0, 4.0, 5.0);
/// Thinned glue or shellac on raw edges.
pub const SEALER: Product = product("sealer", None, 1.0, 4.0, 8.0);
/// Contact glue under veneer or film.
pub const CONTACT: Product = product("contact glue", None, 1.0, 24.0, 15.0);
/// Paint inside a port.
pub const PORT_PAINT: Product = product("paint", None, 2.0, 12.0, 8.0);
/// Stain.
pub const STAIN: Product = product("stain", None, 24.0, 24.0, 10.0);
/// A woofer's suspension that is run in: nobody waits beside it.
pub const RUN_IN: Product = product("running in", None, 12.0, 12.0, -50.0);

/// A coat of what the outside gets.
pub const fn coat(kind: FinishKind) -> Product {
    match kind {
        FinishKind::AsUsual | FinishKind::RolledPaint => product("paint", None, 4.0, 48.0, 8.0),
        FinishKind::Lacquer | FinishKind::StainAndClear => product("lacquer", None, 2.0, 24.0, 10.0),
        FinishKind::Oil => product("oil", None, 12.0, 72.0, 10.0),
        FinishKind::Textured => product("textured coat", None, 4.0, 72.0, 10.0),
        FinishKind::Wrap => CONTACT,
    }
}

/// How much longer anything takes at a temperature: twice as long for every ten degrees below twenty (van 't Hoff's rule, an
/// estimate), never less than at twenty.
pub fn longer(warmth_c: Option<f64>) -> f64 {
    warmth_c.map_or(1.0, |t| 2f64.powf((20.0 - t) / 10.0).clamp(1.0, 8.0))
}
