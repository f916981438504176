//! The low cut that saves the cone: of each shape there is, the lowest corner at which nothing under the tuning passes its limit at
//! full power, and what it costs.
//!
//! Under its tuning a vented box no longer holds the cone: its excursion per volt tends to √2·Bl·Cms/(Re + Rg), whatever the box. A
//! corner c does when E·|H_rest(f)·H_c(f)| ≤ E_lim(f) from 3 Hz to the tuning (of a sealed box to 3·fc, where it is not the box
//! that limits), E_lim the voltage at which cone, radiators or, a third of an octave under the tuning and lower, the air in a port
//! meet their limits. What happens above the tuning is no business of a low cut.

use crate::analysis::Analysis;
use crate::drive::power::decibels;
use oak_drum_acoustics::filters::high_pass::HighPass;
use oak_drum_acoustics::filters::slope::Slope;
use oak_drum_acoustics::filters::{Cascade, Filter};
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_acoustics::outputs::{Conditions, Limits, Sweep};
use oak_drum_document::{ChainFilter, Change, Stage};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A low cut that was found.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct LowCutChoice {
    /// Its shape.
    pub slope: Slope,
    /// Its corner, Hz: the lowest that does, or the highest there is.
    pub frequency_hz: f64,
    /// Whether it does; else it only does up to `holds_v`.
    pub does: bool,
    /// The highest drive at which it does, V rms.
    pub holds_v: f64,
    /// What it costs at the lowest note, dB.
    pub loss_db: f64,
    /// What it adds to the group delay there, ms.
    pub later_ms: f64,
    /// The changes that set it, in the place of the one there is.
    pub changes: Vec<Change>,
}

/// What a low cut has to do, and those that do.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct LowCut {
    /// Full power: the drive looked at, V rms.
    pub volts: f64,
    /// The tuning, or how high it is looked, Hz.
    pub to_hz: f64,
    /// The lowest note, Hz.
    pub note_hz: f64,
    /// Whether one is wanted at all: without one, something passes its limit.
    pub wanted: bool,
    /// One of each shape there is; those that do first, those that cost least first.
    pub choices: Vec<LowCutChoice>,
}

/// Frequencies it is looked at.
const POINTS: usize = 192;
/// Shapes at line level where the amplifier has no low cut of its own.
const USUAL: [Slope; 3] =
    [Slope::Butterworth { order: 2 }, Slope::Butterworth { order: 3 }, Slope::Butterworth { order: 4 }];

/// How high a low cut is asked for: the tuning, of a sealed box 3·fc; `None` where neither is.
fn top(analysis: &Analysis) -> Option<f64> {
    let sealed = || analysis.wired.figures.iter().find(|f| f.id == "fc_hz").map(|f| 3.0 * f.value);
    analysis.wired.unloads_below.or_else(sealed)
}

/// The filter of the chain that is its low cut: the last high pass of the amplifier, else of the line.
fn now(analysis: &Analysis) -> Option<usize> {
    let filters = &analysis.design.chain.filters;
    let of = |stage| filters.iter().rposition(|f| f.stage == stage && matches!(f.filter, Filter::HighPass(_)));
    of(Stage::Amplifier).or_else(|| of(Stage::Line))
}

/// What remains of the room: at each frequency the drive (V, the low cut left out) that meets a limit.
struct Room {
    hz: Vec<f64>,
    volts: Vec<f64>,
}

impl Room {
    fn of(analysis: &Analysis, top: f64, rest: &Cascade) -> Room {
        let hz = log_frequencies(3.0, top, POINTS);
        let limits = Limits { excursion: analysis.conditions.limits.excursion, ..Limits::default() };
        let conditions = Conditions { limits, ..analysis.conditions };
        let c = Sweep::new(&analysis.wired.network, conditions).curves(&hz);
        let radiator = crate::analysis::radiator_limit(analysis);
        let air_to = top / 2f64.cbrt();
        let volts = (0..hz.len())
            .map(|i| {
                let cone = limits.excursion.map_or(f64::INFINITY, |x| x / c.excursion[i]);
                let sprung = radiator.map_or(f64::INFINITY, |x| x / c.radiator_excursion[i]);
                let factor = if hz[i] <= air_to { c.headroom[i] } else { cone.min(sprung) };
                factor * c.emf[i].norm() / rest.at(hz[i]).norm()
            })
            .collect();
        Room { hz, volts }
    }

    /// By what factor a drive of one volt through a low cut passes a limit, at the worst place.
    fn over(&self, cut: &Cascade) -> f64 {
        let ratio: Vec<f64> = self.hz.iter().zip(&self.volts).map(|(f, v)| (cut.at(*f).norm() / v).ln()).collect();
        let worst = (0..ratio.len()).max_by(|a, b| ratio[*a].total_cmp(&ratio[*b])).unwrap_or(0);
        if worst == 0 || worst + 1 == ratio.len() {
            return ratio[worst].exp();
        }
        // the top of a parabola through it and its neighbours
        let (a, b, c) = (ratio[worst - 1], ratio[worst], ratio[worst + 1]);
        let bend = a - 2.0 * b + c;
        let more = if bend < 0.0 { -(c - a).powi(2) / (8.0 * bend) } else { 0.0 };
        (b + more).exp()
    }
}

fn cut(frequency_hz: f64, slope: Slope) -> Filter {
    Filter::HighPass(HighPass { frequency_hz, slope })
}

/// The lowest corner (Hz) of a shape with which a drive (V) does, up to a highest one; `None` where none does.
fn lowest_corner(room: &Room, slope: Slope, volts: f64, lowest: f64, highest: f64) -> Option<f64> {
    let does = |hz: f64| volts * room.over(&Cascade::of([&cut(hz, slope)])) <= 1.0;
    let mut before = lowest;
    if does(before) {
        return Some(before);
    }
    while before < highest {
        let next = (before * 2f64.powf(1.0 / 12.0)).min(highest);
        if does(next) {
            let (mut low, mut high) = (before, next);
            for _ in 0..22 {
                let middle = (low * high).sqrt();
                if does(middle) { high = middle } else { low = middle }
            }
            return Some(high);
        }
        before = next;
    }
    None
}

/// The low cuts that save the cone at full power; `None` where no limit is stated or nothing is tuned.
pub fn low_cut(analysis: &Analysis) -> Option<LowCut> {
    low_cut_of(analysis, None)
}

/// The same of shapes of one's own, at line level, in place of those there are.
pub fn low_cut_of(analysis: &Analysis, asked: Option<&[Slope]>) -> Option<LowCut> {
    let design = &analysis.design;
    let top = top(analysis)?;
    if design.woofer.xmax_mm.is_none() && crate::analysis::radiator_limit(analysis).is_none() {
        return None;
    }
    let chain = &design.chain;
    let amplifier = chain.amplifier_on();
    let volts = amplifier.map_or(analysis.context.source.volts, |a| a.volts());
    let now = now(analysis);
    let others = chain.filters.iter().enumerate().filter(|(i, f)| Some(*i) != now && !f.off).map(|(_, f)| &f.filter);
    let rest = Cascade::of(others.chain(amplifier.into_iter().flat_map(|a| &a.always)));
    let room = Room::of(analysis, top, &rest);
    let own = amplifier.and_then(|a| a.low_cut.as_ref()).filter(|_| asked.is_none());
    let stage = if own.is_some() { Stage::Amplifier } else { Stage::Line };
    let (slopes, from, to) =
        own.map_or((asked.unwrap_or(&USUAL), 3.0, 3.0 * top), |p| (&p.slopes[..], p.from_hz, p.to_hz));
    let note = analysis.lowest_note();
    let mut choices: Vec<LowCutChoice> = slopes
        .iter()
        .map(|slope| {
            let found = lowest_corner(&room, *slope, volts, from, to);
            // up to a tenth of a hertz: what is set by hand
            let hz = found.map_or(to, |hz| ((hz * 10.0 - 1e-6).ceil() / 10.0).min(to));
            let cascade = Cascade::of([&cut(hz, *slope)]);
            LowCutChoice {
                slope: *slope,
                frequency_hz: hz,
                does: found.is_some(),
                holds_v: 1.0 / room.over(&cascade),
                loss_db: -decibels(cascade.at(note).norm()),
                later_ms: cascade.group_delay(note) * 1e3,
                changes: taken(analysis, now, stage, cut(hz, *slope)),
            }
        })
        .collect();
    let worth = |c: &LowCutChoice| (!c.does, if c.does { c.loss_db } else { -c.holds_v });
    choices.sort_by(|a, b| worth(a).0.cmp(&worth(b).0).then(worth(a).1.total_cmp(&worth(b).1)));
    let wanted = volts * room.over(&Cascade::default()) > 1.0;
    Some(LowCut { volts, to_hz: top, note_hz: note, wanted, choices })
}

/// The changes that set a low cut.
fn taken(analysis: &Analysis, now: Option<usize>, stage: Stage, filter: Filter) -> Vec<Change> {
    let mut filters = analysis.design.chain.filters.clone();
    match now.and_then(|i| filters.get_mut(i)) {
        Some(now) => {
            now.filter = filter;
            now.off = false;
            // one at line level that the amplifier has goes there
            now.stage = stage;
        }
        None => filters.push(ChainFilter { name: String::new(), stage, off: false, filter }),
    }
    vec![Change::set("/chain/filters", crate::finding::value(filters))]
}

/// A shape in words: "24 dB an octave, Butterworth".
pub fn slope_in_words(slope: &Slope) -> String {
    let steep = 6 * slope.order();
    match slope {
        Slope::Butterworth { .. } => format!("{steep} dB an octave, Butterworth"),
        Slope::Bessel { .. } => format!("{steep} dB an octave, Bessel"),
        Slope::LinkwitzRiley { .. } => format!("{steep} dB an octave, Linkwitz-Riley"),
        Slope::OwnQ { q } => format!("{steep} dB an octave, Q {q}"),
    }
}
