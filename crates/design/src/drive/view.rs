//! The chain as a station shows it: every member with its own curve, what a boost costs, what the amplifier has.

use crate::analysis::Analysis;
use crate::drive::card::{Setting, settings};
use crate::drive::low_cut::{LowCut, low_cut};
use crate::drive::offers::{FieldRange, lack, ranges};
use crate::drive::parts::{Snapped, snapped, windings};
use crate::drive::power::decibels;
use oak_drum_acoustics::filters::band::{Band, constant_of, octaves_of, three_db_octaves_of};
use oak_drum_acoustics::filters::{Cascade, Filter};
use oak_drum_acoustics::ladder::preferred::Series;
use oak_drum_acoustics::ladder::winding::Winding;
use oak_drum_acoustics::ladder::{Ladder, Part, Sort};
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_acoustics::network::RadiatorKind;
use oak_drum_acoustics::outputs::Sweep;
use oak_drum_acoustics::source::Source;
use oak_drum_document::{ChainFilter, Checked, Stage};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// The chain, worked out.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct DriveView {
    /// Frequencies of the members' own curves, Hz.
    pub frequency_hz: Vec<f64>,
    /// The filters in the order of the document, then what is always in the amplifier.
    pub filters: Vec<FilterView>,
    /// The leads.
    pub leads: MemberView,
    /// The parts in the order of the document.
    pub parts: Vec<PartView>,
    /// What rounding the parts to preferred values does; empty without parts.
    pub snapped: Vec<Snapped>,
    /// What every knob is set to, filters that are off left out.
    pub settings: Vec<Setting>,
    /// Low cuts that save the cone; absent where they were not asked for or nothing is tuned or limited.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub low_cut: Option<LowCut>,
}

/// A member of the chain by itself.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct MemberView {
    /// Place in the design (JSON pointer).
    pub pointer: String,
    /// What it is called.
    pub title: String,
    /// Whether it is off.
    pub off: bool,
    /// What it alone does, dB.
    pub own_db: Vec<f64>,
    /// The same, phase, degrees.
    pub own_phase_deg: Vec<f64>,
}

/// How wide a band is, as devices count it.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Width {
    /// Octaves between the points of half its level in decibels.
    pub octaves: f64,
    /// Octaves between the points 3 dB under the top of a boost; absent of a cut, or of a boost under 3 dB.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub three_db_octaves: Option<f64>,
    /// What a device with a constant Q shows.
    pub constant_q: f64,
}

impl Width {
    fn of(band: &Band) -> Width {
        Width {
            octaves: octaves_of(band.q),
            three_db_octaves: three_db_octaves_of(band.q, band.level_db),
            constant_q: constant_of(band.q, band.level_db),
        }
    }
}

/// A filter.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct FilterView {
    /// The member.
    pub member: MemberView,
    /// Where it is.
    pub stage: Stage,
    /// Whether it is always there.
    pub fixed: bool,
    /// Its frequency, Hz, where it has one.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub hz: Option<f64>,
    /// Its level there, dB, where it has one that can be pulled.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub level_db: Option<f64>,
    /// Of a band, its width as other devices count it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub width: Option<Width>,
    /// What the amplifier lets its fields be; empty where it is not in one.
    pub ranges: Vec<FieldRange>,
    /// Whether it is in an amplifier that has it not, or not so.
    pub beyond: bool,
    /// What it costs, where it lifts.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub price: Option<Price>,
}

/// What a boost costs at its frequency, against the same build without it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Price {
    /// How much it lifts there, dB.
    pub lift_db: f64,
    /// Real power with it, W.
    pub watts: f64,
    /// Real power without it, W.
    pub watts_without: f64,
    /// Cone excursion with it, peak one way, mm.
    pub excursion_mm: f64,
    /// The same without it, mm.
    pub excursion_without_mm: f64,
    /// Fastest air with it, peak, m/s; absent without an opening.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub air_m_per_s: Option<f64>,
    /// What it takes of the loudest the programme may be, dB; negative where it gives; absent where nothing limits.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub level_cost_db: Option<f64>,
}

/// A part at the terminals.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PartView {
    /// The member.
    pub member: MemberView,
    /// Its coil wound from usual wires; empty without one.
    pub windings: Vec<Winding>,
    /// What each of its components bears at this drive, at the worst frequency from 10 to 1 000 Hz.
    pub components: Vec<ComponentView>,
}

/// What a component bears.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct ComponentView {
    /// What it is.
    pub sort: Sort,
    /// The field of its value in the part.
    pub field: String,
    /// The preferred value next below its own (E12, IEC 60063), in the field's unit.
    pub lower: f64,
    /// The preferred value next above, likewise.
    pub higher: f64,
    /// Heat in it, W.
    pub watts: f64,
    /// Current through it, A rms.
    pub amperes: f64,
    /// Voltage across it, V rms.
    pub volts: f64,
}

/// Frequencies of the members' own curves.
const POINTS: usize = 97;

/// The chain of a design with its low cuts.
pub fn drive(design: &Checked) -> DriveView {
    let analysis = Analysis::of(design);
    DriveView { low_cut: low_cut(&analysis), ..told(&analysis) }
}

/// The same without the low cuts, which take longest: for who follows a hand.
pub fn drive_alone(design: &Checked) -> DriveView {
    told(&Analysis::of(design))
}

/// What each filter that lifts costs; one entry a filter of the document.
pub fn prices(analysis: &Analysis) -> Vec<Option<Price>> {
    let chain = &analysis.design.chain;
    // most designs lift nothing: no sweep is wanted then
    let gain = |f: &ChainFilter| {
        let hz = f.filter.place().hz.filter(|_| !f.off)?;
        let own = Cascade::of([&f.filter]);
        let gain = own.at(hz).norm();
        (gain > 1.0 + 1e-9).then_some((hz, own, gain))
    };
    let lifts: Vec<Option<(f64, Cascade, f64)>> = chain.filters.iter().map(gain).collect();
    if lifts.iter().all(Option::is_none) {
        return vec![None; lifts.len()];
    }
    let source = &analysis.context.source;
    let programme = &analysis.design.programme;
    let band = log_frequencies(programme.from_hz, analysis.design.programme_to(), 61);
    let c = Sweep::new(&analysis.wired.network, analysis.conditions).curves(&band);
    // what the limits allow does not know the filters
    let room: Vec<f64> = c.headroom.iter().zip(&c.emf).map(|(g, e)| g * e.norm()).collect();
    let loudest = |without: Option<&Cascade>| {
        let through = |i: usize| source.filters.at(band[i]).norm() / without.map_or(1.0, |w| w.at(band[i]).norm());
        (0..band.len()).map(|i| room[i] / through(i)).fold(f64::INFINITY, f64::min)
    };
    let with_all = loudest(None);
    let mut openings = analysis.wired.network.radiators.iter();
    let airy = openings.any(|r| matches!(r.kind, RadiatorKind::Port | RadiatorKind::Inner));
    lifts
        .into_iter()
        .map(|lift| {
            let (hz, own, gain) = lift?;
            let there = analysis.at(hz);
            let watts = there.amplifier_current[0].norm_sqr() * there.load[0].re;
            let excursion = there.excursion[0] * 1e3;
            Some(Price {
                lift_db: decibels(gain),
                watts,
                watts_without: watts / (gain * gain),
                excursion_mm: excursion,
                excursion_without_mm: excursion / gain,
                air_m_per_s: airy.then_some(there.air_speed[0]),
                level_cost_db: with_all.is_finite().then(|| decibels(loudest(Some(&own)) / with_all)),
            })
        })
        .collect()
}

fn told(analysis: &Analysis) -> DriveView {
    let chain = &analysis.design.chain;
    let amplifier = chain.amplifier.as_ref();
    let frequencies = log_frequencies(10.0, 1000.0, POINTS);
    let member = |pointer: String, title: String, off: bool, h: Vec<num_complex::Complex64>| MemberView {
        pointer,
        title,
        off,
        own_db: h.iter().map(|h| decibels(h.norm())).collect(),
        own_phase_deg: h.iter().map(|h| h.arg().to_degrees()).collect(),
    };
    let filtered = |pointer: String, name: &str, off: bool, filter: &Filter| {
        let own = Cascade::of([filter]);
        let title = if name.is_empty() { filter.info().title.to_owned() } else { name.to_owned() };
        member(pointer, title, off, frequencies.iter().map(|f| own.at(*f)).collect())
    };
    let mut filters: Vec<FilterView> = chain
        .filters
        .iter()
        .zip(prices(analysis))
        .enumerate()
        .map(|(i, (f, price))| {
            let place = f.filter.place();
            let own = amplifier.filter(|_| f.stage == Stage::Amplifier);
            FilterView {
                member: filtered(format!("/chain/filters/{i}"), &f.name, f.off, &f.filter),
                stage: f.stage,
                fixed: false,
                hz: place.hz,
                level_db: place.level_db,
                width: if let Filter::Band(band) = &f.filter { Some(Width::of(band)) } else { None },
                ranges: own.and_then(|a| ranges(a, &f.filter)).unwrap_or_default(),
                beyond: own.is_some_and(|a| lack(a, &f.filter).is_some()),
                price,
            }
        })
        .collect();
    let always = amplifier.iter().flat_map(|a| &a.always).enumerate();
    filters.extend(always.map(|(i, f)| FilterView {
        member: filtered(format!("/chain/amplifier/always/{i}"), "", chain.amplifier_off, f),
        stage: Stage::Amplifier,
        fixed: true,
        hz: f.place().hz,
        level_db: f.place().level_db,
        width: None,
        ranges: Vec::new(),
        beyond: false,
        price: None,
    }));

    // what a member before the terminals does alone: the woofers' voltage with it over that without
    let terminals = Sweep::new(&analysis.wired.network, analysis.conditions).curves(&frequencies);
    let output = chain.amplifier_on().map_or(0.0, |a| a.output_resistance_ohm);
    let alone = |before: f64, resistance: f64, ladder: Ladder| -> Vec<_> {
        let with = Source { ladder, ..Source::new(1.0, resistance) };
        let without = Source::new(1.0, before);
        let volts = |source: &Source, f: f64, z: num_complex::Complex64| {
            let there = source.terminals::<num_complex::Complex64>(TAU * f);
            there.voltage * z / (z + there.impedance)
        };
        let each = frequencies.iter().zip(&terminals.impedance);
        each.map(|(f, z)| volts(&with, *f, *z) / volts(&without, *f, *z)).collect()
    };
    let leads = member(
        "/chain/cable".into(),
        "Leads".into(),
        chain.cable_off,
        alone(output, output + chain.cable.resistance(), Ladder::default()),
    );
    let bearing = bearing(analysis, &frequencies, &terminals);
    let mut on = bearing.into_iter();
    let parts = chain
        .parts
        .iter()
        .enumerate()
        .map(|(i, p)| PartView {
            member: member(
                format!("/chain/parts/{i}"),
                p.part.info().title.into(),
                p.off,
                alone(chain.resistance(), chain.resistance(), Ladder::of([(p.placement, p.part)])),
            ),
            windings: coil_mh(&p.part).map_or_else(Vec::new, windings),
            components: if p.off { Vec::new() } else { on.next().unwrap_or_default() },
        })
        .collect();
    let snapped = [Series::E12, Series::E24].into_iter().filter_map(|series| snapped(analysis, series)).collect();
    DriveView {
        frequency_hz: frequencies,
        filters,
        leads,
        parts,
        settings: settings(&chain.filters),
        snapped,
        low_cut: None,
    }
}

/// Inductance of the coil in a part, mH.
fn coil_mh(part: &Part) -> Option<f64> {
    part.made_of().of.iter().find(|c| c.sort == Sort::Coil).map(|c| c.value * 1e3)
}

/// What each component of each rung of the ladder bears at the worst.
fn bearing(
    analysis: &Analysis,
    frequencies: &[f64],
    curves: &oak_drum_acoustics::outputs::Curves,
) -> Vec<Vec<ComponentView>> {
    let ladder = &analysis.context.source.ladder;
    let mut worst: Vec<Vec<ComponentView>> = ladder
        .rungs
        .iter()
        .map(|rung| {
            let one = |c: &oak_drum_acoustics::ladder::Component| ComponentView {
                sort: c.sort,
                field: c.field.into(),
                lower: Series::E12.next(c.in_field(), false),
                higher: Series::E12.next(c.in_field(), true),
                watts: 0.0,
                amperes: 0.0,
                volts: 0.0,
            };
            rung.made_of.of.iter().map(one).collect()
        })
        .collect();
    for (i, f) in frequencies.iter().enumerate() {
        let (current, z) = (curves.current[i], curves.impedance[i]);
        for (rung, stresses) in worst.iter_mut().zip(ladder.stresses(TAU * f, current * z, current)) {
            for (most, now) in rung.iter_mut().zip(stresses) {
                most.watts = most.watts.max(now.watts);
                most.amperes = most.amperes.max(now.amperes);
                most.volts = most.volts.max(now.volts);
            }
        }
    }
    worst
}
