//! A design with what is worked out and found of it.

use oak_drum_acoustics::filters::Filter;
use oak_drum_design::Evaluation;
use oak_drum_design::evaluation::evaluate;
use oak_drum_design::finding::Finding;
use oak_drum_document::Checked;

/// A design with what is worked out and found of it.
pub struct Seen {
    /// The design.
    pub design: Checked,
    /// What is worked out.
    pub evaluation: Evaluation,
}

impl Seen {
    /// Works a design out.
    pub fn of(design: &Checked) -> Seen {
        Seen { design: design.clone(), evaluation: evaluate(design) }
    }

    /// What was found of a kind.
    pub fn found(&self, kind: &str) -> Option<&Finding> {
        self.evaluation.findings.iter().flatten().find(|f| f.kind == kind)
    }

    /// Level at a frequency, dB: of the frequency worked out that lies nearest.
    pub fn level_db(&self, hz: f64) -> f64 {
        let curves = &self.evaluation.curves;
        let off = |i: &usize| (curves.frequency_hz[*i] / hz).ln().abs();
        let nearest = (0..curves.frequency_hz.len()).min_by(|a, b| off(a).total_cmp(&off(b))).unwrap_or(0);
        curves.level_db.get(nearest).copied().unwrap_or(f64::NAN)
    }

    /// The highest lift of a band or a shelf that is switched on, dB.
    pub fn boost_db(&self) -> f64 {
        let lifts = self.design.chain.filters.iter().filter(|f| !f.off).map(|f| match &f.filter {
            Filter::Band(band) => band.level_db,
            Filter::LowShelf(shelf) => shelf.level_db,
            _ => 0.0,
        });
        lifts.fold(0.0, f64::max)
    }

    /// The drive, V.
    pub fn volts(&self) -> f64 {
        self.evaluation.summary.drive.volts
    }

    /// Fastest air in an opening, m/s.
    pub fn air(&self) -> f64 {
        self.evaluation.summary.fastest_air_m_per_s.unwrap_or(0.0)
    }
}
