//! A design wired and computed: what the result and the findings are made from.

pub mod dimensions;
pub mod folding;
pub mod inside;
pub mod ledger;
pub mod loudest;
pub mod slots;
pub mod solids;
pub mod spots;
pub mod tunnel;

use crate::analysis::dimensions::solve_dimensions;
use crate::analysis::folding::{Folded, folded};
use crate::analysis::ledger::{Ledger, ledger};
use crate::analysis::loudest::{Loudest, loudest};
use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::driver::{Array, Resolved};
use oak_drum_acoustics::families::{Context, Enclosure, PortReport, Wired};
use oak_drum_acoustics::halt;
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_acoustics::network::RadiatorKind;
use oak_drum_acoustics::outputs::{BandEdges, Conditions, Curves, Limits, Reference, Sweep};
use oak_drum_cabinet::fold::Unfit;
use oak_drum_document::{Change, Checked, Design, Drive, apply};
use serde_json::Value;
use std::borrow::Cow;
use std::sync::OnceLock;

/// A design, worked out. Sizes, places and the network are there at once; curves and band edges, which take longer, are computed
/// when somebody asks for them, on the fixed grid the findings look at.
#[derive(Debug)]
pub struct Analysis {
    /// The design, with what follows from its cabinet put in.
    pub design: Design,
    /// The enclosure as it is built: of a folded path its real lengths and areas.
    pub enclosure: Enclosure,
    /// The fold of its line or horn, or why there is none; absent where nothing is folded.
    pub fold: Option<Result<Folded, Unfit>>,
    /// One woofer as its sheet has it.
    pub woofer: Resolved,
    /// Air, array and source.
    pub context: Context,
    /// The network with its figures.
    pub wired: Wired,
    /// Drive, distance, limits.
    pub conditions: Conditions,
    /// What its band edges are measured against.
    reference: Reference,
    /// Where its curves are asked for, Hz.
    frequencies: Cow<'static, [f64]>,
    /// Its curves, once somebody asked.
    curves: OnceLock<Curves>,
    /// Its band edges, once somebody asked.
    edges: OnceLock<BandEdges>,
    /// The design as a document, once somebody changed it.
    document: OnceLock<Value>,
    /// The air ledger.
    pub ledger: Option<Ledger>,
}

/// The frequencies the findings look at: 5 to 800 Hz in 320 steps.
pub fn grid() -> &'static [f64] {
    static GRID: OnceLock<Vec<f64>> = OnceLock::new();
    GRID.get_or_init(|| log_frequencies(5.0, 800.0, 320))
}

/// The frequencies a remedy is tried on: every other one of [`grid`], near enough for a prediction in words.
fn trial_grid() -> &'static [f64] {
    static GRID: OnceLock<Vec<f64>> = OnceLock::new();
    GRID.get_or_init(|| grid().iter().copied().step_by(2).collect())
}

impl Analysis {
    /// Works a design out.
    pub fn of(design: &Checked) -> Analysis {
        Analysis::on(design, Cow::Borrowed(grid()))
    }

    /// The same on the frequencies a remedy is tried on.
    pub(crate) fn on_trial(design: &Checked) -> Analysis {
        Analysis::on(design, Cow::Borrowed(trial_grid()))
    }

    /// Curves on [`grid`] (of a trial on every other one of its frequencies, of [`Analysis::at_frequencies`] on those).
    pub fn curves(&self) -> &Curves {
        self.curves.get_or_init(|| Sweep::new(&self.wired.network, self.conditions).curves(&self.frequencies))
    }

    /// Low end of the passband.
    pub fn edges(&self) -> &BandEdges {
        self.edges.get_or_init(|| {
            Sweep::new(&self.wired.network, self.conditions).band_edges(self.context.array.ts.fs, self.reference)
        })
    }

    /// The design as a document with changes applied.
    pub(crate) fn changed(&self, changes: &[Change]) -> Value {
        let own = || serde_json::to_value(&self.design).unwrap_or_default();
        let mut document = self.document.get_or_init(own).clone();
        apply(&mut document, changes);
        document
    }

    fn on(design: &Checked, frequencies: Cow<'static, [f64]>) -> Analysis {
        halt::check();
        let (resolved, mut context, conditions) = Analysis::context_of(design);
        let listening = design.listening;
        let design = solve_dimensions(design, &context);
        let fold = folded(&design);
        let enclosure = match &fold {
            Some(Ok(folded)) => folded.enclosure.clone(),
            _ => design.enclosure.clone(),
        };
        let mut wired = enclosure.wire(&context);
        let band = (design.programme.from_hz, design.programme_to());
        if design.drive == (Drive::Loudest {})
            && let Some(found) = loudest(&wired.network, conditions, band.0, band.1)
        {
            context.source.volts = found.volts;
            wired.network.diaphragm.source.volts = found.volts;
        }
        let reference = if wired.measured_by_efficiency { listening.band_edge_reference } else { Reference::Maximum };
        let ledger = ledger(&design, &wired, fold.as_ref().and_then(|f| f.as_ref().ok()));
        let design = design.into_owned();
        Analysis {
            design,
            enclosure,
            fold,
            woofer: resolved,
            context,
            wired,
            conditions,
            reference,
            frequencies,
            curves: OnceLock::new(),
            edges: OnceLock::new(),
            document: OnceLock::new(),
            ledger,
        }
    }

    /// Woofer, air, source, drive and limits of a design: all that does not hang on its box.
    pub(crate) fn context_of(design: &Checked) -> (Resolved, Context, Conditions) {
        let air = Air::from(&design.air);
        // a sheet speaks of its own air; masses and springs stay what they are in the design's
        let stated = design.air.of_sheets();
        let resolved = design.woofer().clone().in_air(&stated, &air);
        let arrangement = design.array.arrangement();
        let array = Array::new(&resolved, &air, &arrangement);
        let woofers = f64::from(design.array.count);
        let volts = match design.drive {
            Drive::Voltage { volts } => volts,
            Drive::Power { watts } => {
                let re_each = resolved.ts.re * f64::from(resolved.coils);
                // a checked design has a nominal impedance where its drive refers to one
                let nominal = design.woofer.nominal_ohm.unwrap_or(re_each) * array.resistance() / re_each;
                (watts * nominal).sqrt()
            }
            // found once the box is known
            Drive::Loudest {} => 1.0,
        };
        let source = design.chain.source(volts);
        let amplifier = design.chain.amplifier_on();
        let limits = Limits {
            heat: design.woofer.power_w.map(|p| p * woofers),
            excursion: design.woofer.xmax_mm.map(|x| x * 1e-3),
            volts: amplifier.map(|a| a.volts()),
            amperes: amplifier.map(|a| a.amperes()),
        };
        let listening = design.listening;
        let conditions = Conditions { air, distance: listening.distance_m, solid_angle: listening.solid_angle, limits };
        let context = Context { stated, air_limit: design.brief.port_air_m_per_s, ..Context::new(air, array, source) };
        (resolved, context, conditions)
    }

    /// The design with changes applied, worked out; `None` if it is then no longer a design.
    pub fn with(&self, changes: &[Change]) -> Option<Analysis> {
        Some(Analysis::on_trial(&Checked::assembled(serde_json::from_value(self.changed(changes)).ok()?)?))
    }

    /// The design with changes applied, worked out on frequencies (Hz) of one's own; `None` if it is then no longer a design.
    pub fn at_frequencies(&self, changes: &[Change], frequencies: &[f64]) -> Option<Analysis> {
        let design = Checked::assembled(serde_json::from_value(self.changed(changes)).ok()?)?;
        Some(Analysis::on(&design, Cow::Owned(frequencies.to_vec())))
    }

    /// The enclosure with changes applied (pointers into it), wired for the same woofers with another limit of the air, and its
    /// curves on frequencies (Hz), the air speed being that of one port alone: for who asks for nothing else. `None` if it is
    /// then no longer an enclosure.
    pub fn rewired(
        &self,
        changes: &[Change],
        air_limit: Option<f64>,
        port: &PortReport,
        frequencies: &[f64],
    ) -> Option<Curves> {
        let mut enclosure = serde_json::to_value(&self.enclosure).ok()?;
        apply(&mut enclosure, changes);
        let enclosure: Enclosure = serde_json::from_value(enclosure).ok()?;
        let mut wired = enclosure.wire(&Context { air_limit, ..self.context.clone() });
        for (i, radiator) in wired.network.radiators.iter_mut().enumerate() {
            // speed is told of openings that have an area
            if i != port.radiator && matches!(radiator.kind, RadiatorKind::Port | RadiatorKind::Inner) {
                radiator.area = 0.0;
            }
        }
        Some(Sweep::new(&wired.network, self.conditions).curves(frequencies))
    }

    /// The loudest its programme may be; `None` where nothing limits.
    pub fn loudest(&self) -> Option<Loudest> {
        let design = &self.design;
        loudest(&self.wired.network, self.conditions, design.programme.from_hz, design.programme_to())
    }

    /// Curves at one frequency (Hz).
    pub fn at(&self, frequency: f64) -> Curves {
        Sweep::new(&self.wired.network, self.conditions).curves(&[frequency])
    }

    /// The lowest frequency the build is meant to play: the brief's note, else f3, else fs.
    pub fn lowest_note(&self) -> f64 {
        self.design.brief.lowest_note_hz.or_else(|| self.edges().edges[0]).unwrap_or(self.context.array.ts.fs)
    }

    /// The largest value of a curve between two frequencies, with its frequency.
    pub fn largest(&self, values: &[f64], from: f64, to: f64) -> Option<(f64, f64)> {
        self.curves()
            .frequency
            .iter()
            .zip(values)
            .filter(|(f, _)| (from..=to).contains(*f))
            .map(|(f, v)| (*v, *f))
            .max_by(|a, b| a.0.total_cmp(&b.0))
    }
}

/// Excursion one way the passive radiators can do, m.
pub fn radiator_limit(analysis: &Analysis) -> Option<f64> {
    analysis.wired.network.radiators.iter().find(|r| r.kind == RadiatorKind::Sprung)?.limit
}
