//! From a design to its result.

use crate::airway::speed::fastest;
use crate::analysis::Analysis;
use crate::arrangement::{ArrayResult, array};
use crate::document::Design;
use crate::findings::{Finding, findings};
use crate::ledger::Ledger;
use crate::quiet::{modes, panels};
use crate::shaking::shake;
use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::driver::{Contradiction, Indication, Resolved, indications};
use oak_drum_acoustics::families::{Figure, Mark, Suggestion, suggestions};
use oak_drum_acoustics::level::{log_frequencies, pressure_level_db};
use oak_drum_acoustics::network::{Radiator, RadiatorKind};
use oak_drum_acoustics::outputs::{Curves, Ruling, Sweep, near_field_db, near_field_ratio};
use oak_drum_acoustics::radiation::piston;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// The result of evaluating a design. Arrays have one entry per frequency, in the order asked for.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
#[schemars(title = "Oak Drum result")]
pub struct Evaluation {
    /// Always `oak-drum-result`.
    #[schemars(extend("const" = "oak-drum-result"))]
    pub format: String,
    /// Version of this format.
    #[schemars(extend("const" = 1))]
    pub version: u32,
    /// The conditions everything was computed under.
    pub conditions: ResultConditions,
    /// The figures that sum the design up.
    pub summary: Summary,
    /// The curves.
    pub curves: CurveArrays,
    /// The ports, worked out.
    pub ports: Vec<PortResult>,
    /// The line or horn as it was computed; absent in other families.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub path: Option<PathResult>,
    /// The air ledger; absent without a cabinet.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub ledger: Option<Ledger>,
    /// Findings, worst first; absent where they were not asked for.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub findings: Option<Vec<Finding>>,
}

/// The conditions a result holds under.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct ResultConditions {
    /// Source voltage behind its resistance, V rms.
    pub volts: f64,
    /// Distance, m.
    pub distance_m: f64,
    /// Solid angle, sr.
    pub solid_angle_sr: f64,
    /// Speed of sound, m/s.
    pub speed_of_sound_m_per_s: f64,
    /// Density of the air, kg/m³.
    pub density_kg_per_m3: f64,
    /// Resistance of source and leads, Ω.
    pub source_resistance_ohm: f64,
}

/// Figures that sum a design up.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct Summary {
    /// The family's own figures, the most telling first.
    pub figures: Vec<Figure>,
    /// Level the band edges are measured against, dB.
    pub reference_level_db: f64,
    /// Highest level below five times fs, dB.
    pub peak_level_db: f64,
    /// Where that is, Hz.
    pub peak_frequency_hz: f64,
    /// Highest frequency below the passband at half power (3.01 dB under the reference), Hz.
    pub f3_hz: Option<f64>,
    /// The same 6 dB under the reference, Hz.
    pub f6_hz: Option<f64>,
    /// The same 10 dB under the reference, Hz.
    pub f10_hz: Option<f64>,
    /// The woofer as it is simulated.
    pub woofer: WooferResult,
    /// Where the woofer's sheet contradicts itself by more than 1 %, worst first.
    pub contradictions: Vec<Contradiction>,
    /// What custom reads out of fs, Qts and fs/Qes.
    pub indications: Vec<Indication>,
    /// Wiring, isobaric pairs and added mass, worked out.
    pub array: ArrayResult,
    /// The chambers, the one behind the cone first.
    pub chambers: Vec<ChamberResult>,
    /// What is worth seeing on the frequency axis.
    pub marks: Vec<Mark>,
    /// Values at hand for a field with the tuning each gives (weights on a passive radiator).
    pub steps: Vec<StepResult>,
    /// Edges, gain and ripple of a box that plays in a band; absent in others.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub passband: Option<Passband>,
    /// Stroke one way the passive radiators can do, mm; absent without them, or where it is not stated.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub radiator_limit_mm: Option<f64>,
    /// What of it is an estimate, in a sentence.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub estimate: Option<String>,
    /// Lowest standing wave of the chamber behind the cone as stated or assumed, Hz; absent in families without one.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub lowest_wave_hz: Option<f64>,
    /// Lowest mode of the cabinet's panels, between clamped and supported (an estimate), Hz; absent without a cabinet.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub lowest_panel_hz: Option<f64>,
    /// Air speed in the fastest port, mouth or throat at this drive, from the lowest note to twice the tuning, peak, m/s; absent
    /// without one.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub fastest_air_m_per_s: Option<f64>,
}

/// A chamber, worked out.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct ChamberResult {
    /// Place of its net volume in the design (JSON pointer); empty where it follows from other sizes.
    pub pointer: String,
    /// Net air volume, L.
    pub net_l: f64,
    /// By how much the fill makes it act larger.
    pub fill_factor: f64,
}

/// A value at hand.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct StepResult {
    /// Place of the field (JSON pointer).
    pub pointer: String,
    /// The value.
    pub value: f64,
    /// In words.
    pub title: String,
    /// The tuning it gives, Hz.
    pub tuning_hz: f64,
}

/// A band of its own, around the highest level below five times fs.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct Passband {
    /// Where the level falls to half its power below its highest, Hz: the same as `f3_hz`.
    pub lower_hz: f64,
    /// The same above, Hz.
    pub upper_hz: f64,
    /// Highest level against what the woofer's efficiency gives, dB.
    pub gain_db: f64,
    /// Deepest dip between the edges that the level comes back from by 0.1 dB, dB under the highest.
    pub ripple_db: f64,
}

/// A line or horn as it was computed.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct PathResult {
    /// Places along the centre line, mm.
    pub at_mm: Vec<f64>,
    /// Areas there, cm².
    pub area_cm2: Vec<f64>,
    /// Where the woofer looks in, mm.
    pub taps_mm: Vec<f64>,
}

/// One woofer's complete set as simulated, before any mass is added.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct WooferResult {
    /// Resonance, Hz.
    pub fs_hz: f64,
    /// Mechanical Q.
    pub qms: f64,
    /// Electrical Q.
    pub qes: f64,
    /// Total Q.
    pub qts: f64,
    /// Vas, L.
    pub vas_l: f64,
    /// Coil resistance, Ω; of two coils, each.
    pub re_ohm: f64,
    /// Cone area, cm².
    pub sd_cm2: f64,
    /// Moving mass with air load, g.
    pub mms_g: f64,
    /// Compliance, mm/N.
    pub cms_mm_per_n: f64,
    /// Suspension loss, N·s/m.
    pub rms_n_s_per_m: f64,
    /// Force factor, T·m.
    pub bl_t_m: f64,
    /// Reference efficiency in half space, per cent.
    pub efficiency_percent: f64,
    /// Half-space level at 1 m with 2.83 V, dB.
    pub sensitivity_db: f64,
    /// Efficiency-bandwidth product fs/Qes, Hz.
    pub efficiency_bandwidth_hz: f64,
}

/// A port, worked out.
#[derive(Clone, Debug, Serialize, Deserialize, JsonSchema)]
pub struct PortResult {
    /// Place of the port in the design (JSON pointer).
    pub pointer: String,
    /// Length from opening to opening, flares included, mm; negative only for a plain mass whose tuning no
    /// real tube of this area reaches.
    pub length_mm: f64,
    /// Length with both end corrections, mm.
    pub effective_length_mm: f64,
    /// Area of all openings, cm².
    pub area_cm2: f64,
    /// The box's tuning with this port, Hz.
    pub tuning_hz: f64,
    /// The highest tuning this opening can give in this box, Hz.
    pub highest_tuning_hz: f64,
    /// Whether the wanted tuning lies above that.
    pub out_of_reach: bool,
    /// First pipe resonance, c/(2·L_eff), Hz.
    pub first_pipe_resonance_hz: f64,
    /// Air-speed limit of common practice for its ends, m/s peak.
    pub quiet_speed_m_per_s: f64,
    /// The limit it is held against, m/s peak: the brief's own, or that of common practice.
    pub air_limit_m_per_s: f64,
}

/// The curves.
#[derive(Clone, Debug, Default, Serialize, Deserialize, JsonSchema)]
pub struct CurveArrays {
    /// Frequencies, Hz.
    pub frequency_hz: Vec<f64>,
    /// Level of everything that radiates, dB re 20 µPa rms.
    pub level_db: Vec<f64>,
    /// Cone stroke, peak one way, mm.
    pub cone_stroke_mm: Vec<f64>,
    /// Air speed in the fastest port, mouth or throat, peak, m/s; empty without one.
    pub air_speed_m_per_s: Vec<f64>,
    /// Stroke of the passive radiators, peak one way, mm; empty without one.
    pub radiator_stroke_mm: Vec<f64>,
    /// Force of cones and passive radiators on the cabinet, by their places and directions, peak, N.
    pub shaking_force_n: Vec<f64>,
    /// Their moment about the cabinet's middle, peak, N·m; empty without a cabinet.
    pub shaking_moment_nm: Vec<f64>,
    /// Sound power over the power taken, per cent; empty where the mouth stands in another part of space than the listener.
    pub efficiency_percent: Vec<f64>,
    /// Group delay, flight time removed, ms.
    pub group_delay_ms: Vec<f64>,
    /// Impedance at the terminals, magnitude, Ω.
    pub impedance_ohm: Vec<f64>,
    /// Impedance at the terminals, phase, degrees.
    pub impedance_phase_deg: Vec<f64>,
    /// Highest level the limits allow, dB; null where no limit was stated.
    pub max_level_db: Vec<Option<f64>>,
    /// Which limit rules there.
    pub max_level_ruled_by: Vec<Ruling>,
    /// Pressure of everything that radiates, real part, Pa rms (flight time left out).
    pub pressure_sum_re_pa: Vec<f64>,
    /// The same, imaginary part, Pa rms.
    pub pressure_sum_im_pa: Vec<f64>,
    /// Pressure of the cones alone, real part, Pa rms; empty where no cone is seen from outside.
    pub pressure_cone_re_pa: Vec<f64>,
    /// The same, imaginary part, Pa rms.
    pub pressure_cone_im_pa: Vec<f64>,
    /// Pressure of ports, mouths and passive radiators alone, real part, Pa rms; empty without one.
    pub pressure_port_re_pa: Vec<f64>,
    /// The same, imaginary part, Pa rms; empty without one.
    pub pressure_port_im_pa: Vec<f64>,
    /// Level at the cone's centre at this drive (Keele 1974; while ka < 1), dB; empty where no cone is seen from
    /// outside.
    pub near_field_cone_db: Vec<f64>,
    /// Each port, mouth, throat and radiator by itself.
    pub openings: Vec<OpeningCurves>,
}

/// One opening's air.
#[derive(Clone, Debug, Default, Serialize, Deserialize, JsonSchema)]
pub struct OpeningCurves {
    /// What it is: "port", "rear port", "front port", "mouth", "throat", "open end", "outer tap", "radiators".
    pub name: String,
    /// How many equal ones make it up.
    pub count: u32,
    /// Area of all together, cm².
    pub area_cm2: f64,
    /// Whether it is heard outside.
    pub outside: bool,
    /// Air speed it is held against, peak, m/s; absent where none is.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub limit_m_per_s: Option<f64>,
    /// Air speed, peak, m/s; empty of radiators.
    pub air_speed_m_per_s: Vec<f64>,
    /// Level in the middle of one of them at this drive (Keele 1974; while ka < 1), dB; empty inside.
    pub near_field_db: Vec<f64>,
}

/// The frequencies of a design that states none: 10 to 1 000 Hz in 384 steps.
pub fn default_frequencies() -> Vec<f64> {
    log_frequencies(10.0, 1000.0, 384)
}

/// Evaluates a design. `None` only for a design that did not pass [`crate::read`].
pub fn evaluate(design: &Design) -> Option<Evaluation> {
    let analysis = Analysis::of(design)?;
    let findings = findings(&analysis);
    Some(Evaluation { findings: Some(findings), ..told(design, analysis)? })
}

/// The same without findings, which take most of the time: for who draws curves under a moving hand.
pub fn outline(design: &Design) -> Option<Evaluation> {
    told(design, Analysis::of(design)?)
}

/// The findings alone, worst first.
pub fn found(design: &Design) -> Option<Vec<Finding>> {
    Some(findings(&Analysis::of(design)?))
}

fn told(design: &Design, mut analysis: Analysis) -> Option<Evaluation> {
    if let Some(shake) = shake(&analysis) {
        analysis.wired.network.shake = shake;
    }
    let frequencies = design.frequencies_hz.clone().unwrap_or_else(default_frequencies);
    let curves = Sweep::new(&analysis.wired.network, analysis.conditions).with_each_opening().curves(&frequencies);
    let conditions = &analysis.conditions;
    let [f3_hz, f6_hz, f10_hz] = analysis.edges().edges;
    Some(Evaluation {
        format: "oak-drum-result".into(),
        version: 1,
        conditions: ResultConditions {
            volts: conditions.volts,
            distance_m: conditions.distance,
            solid_angle_sr: conditions.solid_angle.steradians(),
            speed_of_sound_m_per_s: conditions.air.c,
            density_kg_per_m3: conditions.air.rho,
            source_resistance_ohm: analysis.context.source_resistance,
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
            chambers: analysis.wired.chambers.iter().map(chamber).collect(),
            marks: analysis.wired.marks.clone(),
            steps: analysis.wired.steps.iter().map(step).collect(),
            passband: analysis.wired.bandpass.then(|| passband(&analysis)).flatten(),
            radiator_limit_mm: radiator_limit(&analysis).map(|x| x * 1e3),
            estimate: analysis.wired.estimate.map(str::to_owned),
            lowest_wave_hz: lowest_wave(&analysis),
            lowest_panel_hz: design.cabinet.as_ref().and_then(panels::lowest_panel).map(|p| p.2),
            fastest_air_m_per_s: fastest(&analysis).map(|(speed, _)| speed),
        },
        curves: arrays(&analysis, &curves),
        ports: analysis.wired.ports.iter().map(|report| port(report, &analysis)).collect(),
        path: analysis.wired.path.as_ref().map(path),
        ledger: analysis.ledger.clone(),
        findings: None,
    })
}

/// c/2L of the longest side of the first chamber whose inside can be told.
fn lowest_wave(analysis: &Analysis) -> Option<f64> {
    let chamber = analysis.wired.chambers.first().filter(|c| !c.pointer.is_empty())?;
    let (inside, _) = modes::inside_of(analysis, chamber);
    let longest = inside.sides().into_iter().fold(0.0, f64::max);
    (longest > 0.0).then(|| analysis.context.air.c / (2.0 * longest))
}

/// Starting points of every family for the design's woofers, each with the volume and f3 that evaluation then shows; one that
/// could not be read as a design is told why and carries no enclosure.
pub fn suggest(design: &Design) -> Vec<Suggestion> {
    let Some(analysis) = Analysis::of(design) else { return Vec::new() };
    suggestions(&analysis.context)
        .into_iter()
        .map(|mut suggestion| {
            let Some(enclosure) = suggestion.enclosure.take() else { return suggestion };
            let tried = Design { enclosure, ..design.clone() };
            if let Err(problems) = crate::read::check(&tried) {
                let why = problems.first().map_or(String::new(), |p| format!(": {}", p.message));
                suggestion.sentence = format!("This woofer cannot do it within what can be stated here{why}.");
                return suggestion;
            }
            if let Some(there) = Analysis::of(&tried) {
                let litres: f64 = there.wired.chambers.iter().map(|c| c.net * 1e3).sum();
                let air = if litres > 0.0 { format!(" {litres:.0} L,") } else { String::new() };
                let low = there.edges().edges[0].map_or("f3 not reached".into(), |f| format!("f3 {f:.0} Hz"));
                suggestion.sentence = format!("{}{air} {low}.", suggestion.sentence);
            }
            suggestion.enclosure = Some(tried.enclosure);
            suggestion
        })
        .collect()
}

impl WooferResult {
    /// The complete set of a woofer, in the units and for the coil its sheet speaks of.
    pub fn of(woofer: &Resolved, air: &Air) -> WooferResult {
        let ts = &woofer.ts;
        WooferResult {
            fs_hz: ts.fs,
            qms: ts.qms,
            qes: ts.qes,
            qts: ts.qts(),
            vas_l: ts.vas * 1e3,
            re_ohm: ts.re * f64::from(woofer.coils),
            sd_cm2: ts.sd * 1e4,
            mms_g: ts.mms(air) * 1e3,
            cms_mm_per_n: ts.cms(air) * 1e3,
            rms_n_s_per_m: ts.rms(air),
            bl_t_m: ts.bl(air),
            efficiency_percent: ts.efficiency(air) * 100.0,
            sensitivity_db: ts.reference_level_db(air, 2.83),
            efficiency_bandwidth_hz: ts.ebp(),
        }
    }
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

/// Stroke one way the passive radiators can do, m.
pub(crate) fn radiator_limit(analysis: &Analysis) -> Option<f64> {
    analysis.wired.network.radiators.iter().find(|r| r.kind == RadiatorKind::Sprung)?.limit
}

fn chamber(chamber: &oak_drum_acoustics::families::Chamber) -> ChamberResult {
    ChamberResult {
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

fn path(report: &oak_drum_acoustics::families::PathReport) -> PathResult {
    let path = &report.path;
    let every = (path.places.len().max(2) - 1).div_ceil(DRAWN - 1);
    let last = path.places.len().saturating_sub(1);
    let drawn: Vec<(f64, f64)> =
        path.places.iter().enumerate().filter(|(i, _)| i % every == 0 || *i == last).map(|(_, p)| *p).collect();
    PathResult {
        at_mm: drawn.iter().map(|p| p.0 * 1e3).collect(),
        area_cm2: drawn.iter().map(|p| p.1 * 1e4).collect(),
        taps_mm: report.taps.iter().map(|tap| tap.0 * 1e3).collect(),
    }
}

/// The band around the highest level; `None` where it does not fall by 3 dB on both sides.
fn passband(analysis: &Analysis) -> Option<Passband> {
    let mut sweep = Sweep::new(&analysis.wired.network, analysis.conditions);
    let band = sweep.band(analysis.context.array.ts.fs, analysis.edges())?;
    Some(Passband {
        lower_hz: band.lower,
        upper_hz: band.upper,
        gain_db: analysis.edges().peak.0 - sweep.reference_level_db(),
        ripple_db: band.ripple,
    })
}

/// Whether the open end of a line or horn and the listener stand in the same part of space.
pub(crate) fn one_space(analysis: &Analysis) -> bool {
    let listening = analysis.conditions.solid_angle.steradians();
    analysis.wired.path.as_ref().is_none_or(|path| (path.mouth.steradians() / listening - 1.0).abs() < 1e-9)
}

/// Sound power over the power taken, per cent; empty where the mouth and the listener stand in different parts of space, whose
/// powers cannot be held against each other.
///
/// The level is that on the axis, p = jωρU/(Ωr). Where what radiates is no longer small it beams: of the power |p|²Ωr²/(ρc)
/// that such a level would mean all around, a piston of the whole radiating area gives the share R1(2ka)/((ka)²/2)
/// (Rayleigh; walls as mirrors). What the network does not carry as a radiation resistance (cones, ends in other spaces) is
/// sound the terminals do not show: it is added to the power taken at them, so that no more comes out than goes in.
fn efficiency(analysis: &Analysis, c: &Curves) -> Vec<f64> {
    if !one_space(analysis) {
        return Vec::new();
    }
    let network = &analysis.wired.network;
    let conditions = &analysis.conditions;
    let (rear_out, front_out) = network.cone_radiates();
    let cones = if rear_out || front_out { analysis.context.array.cone_area() } else { 0.0 };
    let open = |r: &Radiator| matches!(r.kind, RadiatorKind::Port | RadiatorKind::Sprung);
    let openings: f64 = network.radiators.iter().filter(|r| open(r)).map(|r| r.area).sum();
    let steradians = conditions.solid_angle.steradians();
    let mirrored = (openings + cones) * TAU / steradians;
    let radius = (mirrored / std::f64::consts::PI).sqrt();
    let air = &conditions.air;
    let rg = analysis.context.source_resistance;
    (0..c.frequency.len())
        .map(|i| {
            let (omega, z) = (TAU * c.frequency[i], c.impedance[i]);
            let x = 2.0 * omega / air.c * radius;
            let beams = if x < 1e-3 { 1.0 } else { piston(x).0[0] / (x * x / 8.0) };
            let sound = c.sum[i].norm_sqr() * steradians * conditions.distance.powi(2) / (air.rho * air.c) * beams;
            let carried: f64 = network
                .radiators
                .iter()
                .zip(&c.flows)
                .filter(|(r, _)| open(r))
                .map(|(r, flow)| network.elements[r.element].element.radiation_resistance(omega) * flow[i].norm_sqr())
                .sum();
            let taken = (conditions.volts / (z + rg).norm()).powi(2) * z.re + (sound - carried).max(0.0);
            if taken > 0.0 { sound / taken * 100.0 } else { 0.0 }
        })
        .collect()
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

fn arrays(analysis: &Analysis, c: &Curves) -> CurveArrays {
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
    CurveArrays {
        frequency_hz: c.frequency.clone(),
        level_db: c.level_db.clone(),
        cone_stroke_mm: c.stroke.iter().map(|x| x * 1e3).collect(),
        air_speed_m_per_s: if has_air { c.air_speed.clone() } else { Vec::new() },
        radiator_stroke_mm: c.radiator_stroke.iter().map(|x| x * 1e3).collect(),
        shaking_force_n: c.shaking_force.clone(),
        shaking_moment_nm: c.shaking_moment.clone(),
        efficiency_percent: efficiency(analysis, c),
        group_delay_ms: c.group_delay.iter().map(|t| t * 1e3).collect(),
        impedance_ohm: c.impedance.iter().map(|z| z.norm()).collect(),
        impedance_phase_deg: c.impedance.iter().map(|z| z.arg().to_degrees()).collect(),
        max_level_db: c.max_level_db.iter().map(|l| l.is_finite().then_some(*l)).collect(),
        max_level_ruled_by: c.ruling.clone(),
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

impl CurveArrays {
    /// Every list of numbers with its name, one entry a frequency; those of the openings follow under their own
    /// ([`OpeningCurves::lists_mut`]).
    pub fn lists_mut(&mut self) -> [(&'static str, &mut Vec<f64>); 18] {
        [
            ("frequency_hz", &mut self.frequency_hz),
            ("level_db", &mut self.level_db),
            ("cone_stroke_mm", &mut self.cone_stroke_mm),
            ("air_speed_m_per_s", &mut self.air_speed_m_per_s),
            ("radiator_stroke_mm", &mut self.radiator_stroke_mm),
            ("shaking_force_n", &mut self.shaking_force_n),
            ("shaking_moment_nm", &mut self.shaking_moment_nm),
            ("efficiency_percent", &mut self.efficiency_percent),
            ("group_delay_ms", &mut self.group_delay_ms),
            ("impedance_ohm", &mut self.impedance_ohm),
            ("impedance_phase_deg", &mut self.impedance_phase_deg),
            ("near_field_cone_db", &mut self.near_field_cone_db),
            ("pressure_sum_re_pa", &mut self.pressure_sum_re_pa),
            ("pressure_sum_im_pa", &mut self.pressure_sum_im_pa),
            ("pressure_cone_re_pa", &mut self.pressure_cone_re_pa),
            ("pressure_cone_im_pa", &mut self.pressure_cone_im_pa),
            ("pressure_port_re_pa", &mut self.pressure_port_re_pa),
            ("pressure_port_im_pa", &mut self.pressure_port_im_pa),
        ]
    }
}

impl OpeningCurves {
    /// Every list of numbers with its name.
    pub fn lists_mut(&mut self) -> [(&'static str, &mut Vec<f64>); 2] {
        [("air_speed_m_per_s", &mut self.air_speed_m_per_s), ("near_field_db", &mut self.near_field_db)]
    }
}

impl Evaluation {
    /// Leaves the complex pressures out, for a reader who draws levels only.
    pub fn without_pressures(&mut self) {
        for (name, list) in self.curves.lists_mut() {
            if name.starts_with("pressure_") {
                list.clear();
            }
        }
    }

    /// Rounds the curves to `digits` significant digits (for the wire; a screen shows fewer).
    pub fn round(&mut self, digits: i32) {
        let round = |x: &mut f64| {
            if *x != 0.0 && x.is_finite() {
                let scale = 10f64.powi(digits - 1 - x.abs().log10().floor() as i32);
                *x = (*x * scale).round() / scale;
            }
        };
        for (_, list) in self.curves.lists_mut() {
            list.iter_mut().for_each(round);
        }
        for (_, list) in self.curves.openings.iter_mut().flat_map(OpeningCurves::lists_mut) {
            list.iter_mut().for_each(round);
        }
        self.curves.max_level_db.iter_mut().flatten().for_each(round);
    }
}
