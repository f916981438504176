//! The terms, a file for each station.

pub mod airway;
pub mod brief;
pub mod cabinet;
pub mod drive;
pub mod enclosure;
pub mod listen;
pub mod prove;
pub mod quiet;
pub mod room;
pub mod woofer;

use crate::drawing::Drawing;
use crate::term::Term;

/// A term without further names, fields, figures or drawing.
const fn term(id: &'static str, name: &'static str, says: &'static str, source: &'static str) -> Term {
    Term { id, name, also: &[], says, source, families: &[], fields: &[], figures: &[], findings: &[], drawing: None }
}

impl Term {
    const fn also(mut self, also: &'static [&'static str]) -> Term {
        self.also = also;
        self
    }
    const fn families(mut self, families: &'static [&'static str]) -> Term {
        self.families = families;
        self
    }
    const fn fields(mut self, fields: &'static [&'static str]) -> Term {
        self.fields = fields;
        self
    }
    const fn figures(mut self, figures: &'static [&'static str]) -> Term {
        self.figures = figures;
        self
    }
    const fn findings(mut self, findings: &'static [&'static str]) -> Term {
        self.findings = findings;
        self
    }
    const fn drawn(mut self, drawing: fn() -> Drawing) -> Term {
        self.drawing = Some(drawing);
        self
    }
}

const PRACTICE: &str = "common practice";
const THIELE: &str = "Thiele, Loudspeakers in Vented Boxes, J. Audio Eng. Soc. 19 (1971)";
const SMALL_DIRECT: &str = "Small, Direct-Radiator Loudspeaker System Analysis, J. Audio Eng. Soc. 20 (1972)";
const SMALL_CLOSED: &str = "Small, Closed-Box Loudspeaker Systems, J. Audio Eng. Soc. 20 (1972)";
const SMALL_VENTED: &str = "Small, Vented-Box Loudspeaker Systems, J. Audio Eng. Soc. 21 (1973)";
const SMALL_PASSIVE: &str = "Small, Passive-Radiator Loudspeaker Systems, J. Audio Eng. Soc. 22 (1974)";
const BERANEK: &str = "Beranek and Mellow, Acoustics: Sound Fields and Transducers (2012)";
const KUTTRUFF: &str = "Kuttruff, Room Acoustics, 5th ed. (2009)";
