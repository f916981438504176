//! From a design to its result.

pub mod card;
pub mod cost;
pub mod findings;
pub mod packed;
mod result;

pub use result::*;

use crate::airway::speed::fastest;
use crate::analysis::inside::inside_of;
use crate::analysis::loudest::Loudest;
use crate::analysis::{Analysis, radiator_limit};
use crate::cabinet::shaking::shake;
use crate::drive::power::{decibels, powers, summary};
use crate::enclosure::figures::{compared, efficiency, lowest_wave, passband};
use crate::enclosure::handles::handles;
use crate::enclosure::section::section;
use crate::evaluation::findings::findings_at;
use crate::finding::Finding;
use crate::quiet::panels;
use crate::woofer::arrangement::array;
use crate::woofer::sheet::WooferResult;
use oak_drum_acoustics::driver::indications;
use oak_drum_acoustics::families::{Suggestion, suggestions};
use oak_drum_acoustics::level::{log_frequencies, pressure_level_db};
use oak_drum_acoustics::network::RadiatorKind;
use oak_drum_acoustics::outputs::{Curves, Sweep, near_field_db, near_field_ratio};
use oak_drum_document::{Checked, Design, Prices};
use oak_drum_text::litres;
use std::f64::consts::TAU;

/// The frequencies of a design that states none: 10 to 1 000 Hz in 384 steps.
pub fn default_frequencies() -> Vec<f64> {
    log_frequencies(10.0, 1000.0, 384)
}

/// Evaluates a design; nothing has a price.
pub fn evaluate(design: &Checked) -> Evaluation {
    evaluate_at(design, &Prices::default())
}

/// Evaluates a design at these prices.
pub fn evaluate_at(design: &Checked, prices: &Prices) -> Evaluation {
    let analysis = Analysis::of(design);
    let findings = findings_at(&analysis, prices);
    Evaluation { findings: Some(findings), ..told(design, analysis) }
}

/// The same without findings, which take most of the time: for who draws curves under a moving hand.
pub fn outline(design: &Checked) -> Evaluation {
    told(design, Analysis::of(design))
}

/// The findings alone, worst first, at these prices.
pub fn found(design: &Checked, prices: &Prices) -> Vec<Finding> {
    findings_at(&Analysis::of(design), prices)
}

fn told(design: &Design, mut analysis: Analysis) -> Evaluation {
    if let Some(shake) = shake(&analysis) {
        analysis.wired.network.shake = shake;
    }
    let frequencies = design.frequencies_hz.clone().unwrap_or_else(default_frequencies);
    let curves = Sweep::new(&analysis.wired.network, analysis.conditions).with_each_opening().curves(&frequencies);
    let conditions = &analysis.conditions;
    let [f3_hz, f6_hz, f10_hz] = analysis.edges().edges;
    let loudest = analysis.loudest();
    Evaluation {
        format: "oak-drum-result".into(),
        version: 3,
        conditions: ResultConditions {
            volts: analysis.context.source.volts,
            distance_m: conditions.distance,
            solid_angle_sr: conditions.solid_angle.steradians(),
            speed_of_sound_m_per_s: conditions.air.c,
            density_kg_per_m3: conditions.air.rho,
            source_resistance_ohm: analysis.context.source.resistance,
        },
        summary: Summary {
            figures: analysis.wired.figures.clone(),
            reference_level_db: analysis.edges().reference_db,
            peak_level_db: analysis.edges().peak.0,
            peak_frequency_hz: analysis.edges().peak.1,
            f3_hz,
            f6_hz,
            f10_hz,
            woofer: WooferResult::of(&analysis.woofer, &conditions.air),
            contradictions: analysis.woofer.contradictions.clone(),
            indications: indications(&analysis.woofer.ts),
            array: array(&analysis),
            chambers: analysis.wired.chambers.iter().map(|c| chamber(&analysis, c)).collect(),
            compared: compared(&analysis, &curves),
            marks: analysis.wired.marks.clone(),
            steps: analysis.wired.steps.iter().map(step).collect(),
            passband: analysis.wired.bandpass.then(|| passband(&analysis)).flatten(),
            radiator_limit_mm: radiator_limit(&analysis).map(|x| x * 1e3),
            estimate: analysis.wired.estimate.map(str::to_owned),
            lowest_wave_hz: lowest_wave(&analysis),
            lowest_panel_hz: design.cabinet.as_ref().and_then(panels::lowest_panel).map(|p| p.2),
            fastest_air_m_per_s: fastest(&analysis).map(|(speed, _)| speed),
            drive: summary(&analysis, &curves, loudest),
        },
        curves: arrays(&analysis, &curves, loudest),
        ports: analysis.wired.ports.iter().map(|report| port(report, &analysis)).collect(),
        handles: handles(&analysis),
        section: section(&analysis),
        path: analysis.wired.path.as_ref().map(|report| path(&analysis, report)),
        ledger: analysis.ledger.clone(),
        findings: None,
    }
}

/// Starting points of every family for the design's woofers, each with the volume and f3 that evaluation then shows; one that
/// could not be read as a design is told why and carries no enclosure.
pub fn suggest(design: &Checked) -> Vec<Suggestion> {
    let analysis = Analysis::of(design);
    suggestions(&analysis.context)
        .into_iter()
        .map(|mut suggestion| {
            let Some(enclosure) = suggestion.enclosure.take() else { return suggestion };
            let tried = match oak_drum_document::check(Design { enclosure, ..Design::clone(design) }) {
                Ok(tried) => tried,
                Err(problems) => {
                    let why = problems.first().map_or(String::new(), |p| format!(": {}", p.message));
                    suggestion.sentence =
                        format!("This woofer cannot do it within what can be stated here{why}.").into();
                    return suggestion;
                }
            };
            let there = Analysis::of(&tried);
            let net: f64 = there.wired.chambers.iter().map(|c| c.net * 1e3).sum();
            let air = if net > 0.0 { format!(" {:.0},", litres(net)) } else { String::new() };
            let low = there.edges().edges[0].map_or("f3 not reached".into(), |f| format!("f3 {f:.0} Hz"));
            suggestion.sentence.add(format!("{air} {low}."));
            suggestion.enclosure = Some(tried.into_design().enclosure);
            suggestion
        })
        .collect()
}

fn port(report: &oak_drum_acoustics::families::PortReport, analysis: &Analysis) -> PortResult {
    let there = &report.realised;
    PortResult {
        pointer: format!("/enclosure{}", report.pointer),
        length_mm: there.length * 1e3,
        effective_length_mm: there.effective_length * 1e3,
        area_cm2: there.area * 1e4,
        tuning_hz: there.tuning,
        highest_tuning_hz: there.highest_tuning,
        out_of_reach: there.out_of_reach,
        first_pipe_resonance_hz: analysis.context.air.c / (2.0 * there.effective_length),
        quiet_speed_m_per_s: report.port.quiet_speed(),
        air_limit_m_per_s: analysis.context.air_limit.unwrap_or(report.port.quiet_speed()),
    }
}

fn chamber(analysis: &Analysis, chamber: &oak_drum_acoustics::families::Chamber) -> ChamberResult {
    let stated = !chamber.pointer.is_empty();
    ChamberResult {
        inside_pointer: if stated { format!("/enclosure{}", chamber.part("inside")) } else { String::new() },
        inside: stated.then(|| inside_of(analysis, chamber).0),
        pointer: if chamber.pointer.is_empty() { String::new() } else { format!("/enclosure{}", chamber.pointer) },
        net_l: chamber.net * 1e3,
        fill_factor: chamber.fill_factor,
    }
}

fn step(step: &oak_drum_acoustics::families::Step) -> StepResult {
    StepResult {
        pointer: format!("/enclosure{}", step.pointer),
        value: step.value,
        title: step.title.clone(),
        tuning_hz: step.tuning,
    }
}

/// Most places of a path in a result: enough to draw it.
const DRAWN: usize = 61;

fn path(analysis: &Analysis, report: &oak_drum_acoustics::families::PathReport) -> PathResult {
    let path = &report.path;
    let every = (path.places.len().max(2) - 1).div_ceil(DRAWN - 1);
    let last = path.places.len().saturating_sub(1);
    let drawn: Vec<(f64, f64)> =
        path.places.iter().enumerate().filter(|(i, _)| i % every == 0 || *i == last).map(|(_, p)| *p).collect();
    let chambers: f64 = analysis.wired.chambers.iter().filter(|c| !c.pointer.is_empty()).map(|c| c.net).sum();
    PathResult {
        length_mm: path.length() * 1e3,
        room_l: 1.2 * (path.volume() + chambers) * 1e3,
        at_mm: drawn.iter().map(|p| p.0 * 1e3).collect(),
        area_cm2: drawn.iter().map(|p| p.1 * 1e4).collect(),
        taps_mm: report.taps.iter().map(|tap| tap.0 * 1e3).collect(),
    }
}

/// Every opening with its air and its near field.
fn openings(analysis: &Analysis, c: &Curves) -> Vec<OpeningCurves> {
    let air = &analysis.context.air;
    let shown = analysis.wired.network.radiators.iter().zip(&c.flows).filter(|(r, _)| r.area > 0.0);
    shown
        .map(|(r, flow)| {
            let outside = matches!(r.kind, RadiatorKind::Port | RadiatorKind::Sprung);
            let of = |value: &dyn Fn(f64, f64) -> f64| -> Vec<f64> {
                c.frequency.iter().zip(flow).map(|(f, u)| value(*f, u.norm())).collect()
            };
            OpeningCurves {
                name: r.name.into(),
                count: r.count,
                area_cm2: r.area * 1e4,
                outside,
                limit_m_per_s: r.limit.filter(|_| r.kind != RadiatorKind::Sprung),
                air_speed_m_per_s: if r.kind == RadiatorKind::Sprung {
                    Vec::new()
                } else {
                    of(&|_, u| std::f64::consts::SQRT_2 * u / r.area)
                },
                near_field_db: if outside { of(&|f, u| near_field_db(air, u, r.area, r.count, f)) } else { Vec::new() },
            }
        })
        .collect()
}

fn arrays(analysis: &Analysis, c: &Curves, loudest: Option<Loudest>) -> CurveArrays {
    let network = &analysis.wired.network;
    let any = |kinds: &[RadiatorKind]| network.radiators.iter().any(|r| kinds.contains(&r.kind));
    let has_port = any(&[RadiatorKind::Port, RadiatorKind::Sprung]);
    let has_air = any(&[RadiatorKind::Port, RadiatorKind::Inner]);
    let (rear_out, front_out) = network.cone_radiates();
    let if_port = |list: Vec<f64>| if has_port { list } else { Vec::new() };
    let if_cone = |list: Vec<f64>| if rear_out || front_out { list } else { Vec::new() };
    let conditions = &analysis.conditions;
    let woofers = &analysis.context.array;
    // of isobaric pairs the outer cones radiate
    let cones = if woofers.pairing.is_some() { woofers.count / 2 } else { woofers.count };
    // the near field is that of a half space whatever solid angle the level is read in
    let to_half_space = conditions.solid_angle.steradians() / TAU;
    let n = f64::from(cones);
    let near = near_field_ratio(woofers.motor.sd / n, conditions.distance) * to_half_space / n;
    let openings = openings(analysis, c);
    let source = &analysis.context.source;
    let filtered = !source.filters.is_plain();
    let if_filtered = |list: Vec<f64>| if filtered { list } else { Vec::new() };
    let responses: Vec<_> = c.emf.iter().map(|e| e / source.volts).collect();
    let loads: &[_] = if source.ladder.rungs.is_empty() { &[] } else { &c.load };
    let powers = powers(c);
    let coils = network.diaphragm.resistance();
    let over = loudest.map(|l| decibels(l.volts / source.volts));
    CurveArrays {
        frequency_hz: c.frequency.clone(),
        level_db: c.level_db.clone(),
        cone_excursion_mm: c.excursion.iter().map(|x| x * 1e3).collect(),
        air_speed_m_per_s: if has_air { c.air_speed.clone() } else { Vec::new() },
        radiator_excursion_mm: c.radiator_excursion.iter().map(|x| x * 1e3).collect(),
        shaking_force_n: c.shaking_force.clone(),
        shaking_moment_nm: c.shaking_moment.clone(),
        efficiency_percent: efficiency(analysis, c),
        group_delay_ms: c.group_delay.iter().map(|t| t * 1e3).collect(),
        impedance_ohm: c.impedance.iter().map(|z| z.norm()).collect(),
        impedance_phase_deg: c.impedance.iter().map(|z| z.arg().to_degrees()).collect(),
        filter_db: if_filtered(responses.iter().map(|h| decibels(h.norm())).collect()),
        filter_phase_deg: if_filtered(responses.iter().map(|h| h.arg().to_degrees()).collect()),
        unfiltered_level_db: if_filtered(c.unfiltered_level_db.clone()),
        emf_v: c.emf.iter().map(|e| e.norm()).collect(),
        terminal_v: c.current.iter().zip(&c.impedance).map(|(i, z)| i.norm() * z.norm()).collect(),
        amplifier_a: c.amplifier_current.iter().map(|i| i.norm()).collect(),
        real_power_w: powers.iter().map(|p| p.1).collect(),
        apparent_power_va: powers.iter().map(|p| p.0).collect(),
        coil_heat_w: c.current.iter().map(|i| i.norm_sqr() * coils).collect(),
        load_ohm: loads.iter().map(|z| z.norm()).collect(),
        load_phase_deg: loads.iter().map(|z| z.arg().to_degrees()).collect(),
        loudest_level_db: over.map_or(Vec::new(), |over| c.level_db.iter().map(|l| l + over).collect()),
        max_level_db: c.max_level_db.iter().map(|l| l.is_finite().then_some(*l)).collect(),
        max_level_ruled_by: c.limiting.clone(),
        pressure_sum_re_pa: c.sum.iter().map(|p| p.re).collect(),
        pressure_sum_im_pa: c.sum.iter().map(|p| p.im).collect(),
        pressure_cone_re_pa: if_cone(c.cone.iter().map(|p| p.re).collect()),
        pressure_cone_im_pa: if_cone(c.cone.iter().map(|p| p.im).collect()),
        pressure_port_re_pa: if_port(c.port.iter().map(|p| p.re).collect()),
        pressure_port_im_pa: if_port(c.port.iter().map(|p| p.im).collect()),
        near_field_cone_db: if_cone(c.cone.iter().map(|p| pressure_level_db(p.norm() * near)).collect()),
        openings,
    }
}

/// JSON Schema (2020-12) of a result.
pub fn schema() -> serde_json::Value {
    oak_drum_document::schema::of::<Evaluation>()
}
