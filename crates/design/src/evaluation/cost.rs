//! How much reckoning a design asks for, known before it is begun. The format's own limits bound it: the worst that can be stated,
//! a path of forty stations with eight fills at twenty thousand frequencies, is heavy, but no more than that.

use crate::analysis::Analysis;
use crate::evaluation::default_frequencies;
use oak_drum_document::Checked;

/// What a design asks for.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Cost {
    /// Of one frequency, in that of a plain mass.
    pub each: usize,
    /// Frequencies asked for.
    pub frequencies: usize,
    /// Woofers.
    pub woofers: usize,
}

/// Frequencies that are computed whatever is asked for: band edges, the findings' own.
const ALWAYS: usize = 1000;
/// Up to so much a question is a light one: a line of a hundred parts, a chamber with two hundred waves.
const LIGHT: usize = 900_000;
/// Up to so many woofers too.
const FEW: usize = 8;

impl Cost {
    /// What a design asks for.
    pub fn of(design: &Checked) -> Cost {
        let frequencies = design.frequencies_hz.as_ref().map_or_else(|| default_frequencies().len(), Vec::len);
        let woofers = design.array.count as usize;
        let (_, context, _) = Analysis::context_of(design);
        let each = design.enclosure.wire(&context).network.weight();
        Cost { each, frequencies, woofers }
    }

    /// In frequencies of a plain mass.
    fn all(&self) -> usize {
        self.each * (self.frequencies + ALWAYS)
    }

    /// Whether it is answered in a moment.
    pub fn is_light(&self) -> bool {
        self.all() <= LIGHT && self.woofers <= FEW
    }
}
