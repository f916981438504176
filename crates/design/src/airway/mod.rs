//! The air's way out: ports and radiators from a tuning to something that can be made.

mod dead_end;
pub mod fit;
pub mod learned;
pub mod port_volume;
pub mod radiators;
mod rules;
pub mod speed;
pub mod trade;
pub mod trim;

use crate::analysis::Analysis;
use crate::analysis::inside::{Shell, chamber_of};
use crate::finding::Rule;
use crate::trial::Trouble;
use fit::{Course, Fit, course, fit, stands};
use oak_drum_acoustics::port::Section;
use oak_drum_document::Checked;
use oak_drum_text::Text;
use port_volume::{PortVolumeSolution, solve_port_volume};
use radiators::{RadiatorDesign, radiators};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use speed::{AirSpeed, air_speed};
use trade::{PortTrade, trade};

/// The rules of this station: name, station where it is seen, function.
pub const RULES: &[Rule] = &[
    ("port_out_of_reach", "box", rules::out_of_reach),
    ("port_dead_end", "airway", dead_end::dead_end),
    ("port_will_not_fit", "airway", rules::will_not_fit),
    ("port_meets_woofer", "airway", rules::meets_woofer),
    ("port_wider_than_box", "airway", rules::wider_than_box),
    ("port_not_as_stated", "airway", rules::not_as_stated),
    ("port_air_fast", "airway", rules::air_fast),
    ("pipe_resonance_low", "airway", rules::pipe_resonance_low),
];

/// What of the ports cannot be built.
pub fn impossible(analysis: &Analysis) -> Vec<Trouble> {
    rules::troubles(analysis).into_iter().map(Trouble::Unbuildable).collect()
}

/// Everything about the ports and radiators of a design.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Airway {
    /// The ports, in the order of the result.
    pub ports: Vec<PortDesign>,
    /// The radiators; absent in other families.
    pub radiators: Option<RadiatorDesign>,
}

/// A port designed.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PortDesign {
    /// The port (JSON pointer into the design).
    pub pointer: String,
    /// Its opening in words.
    pub opening: Text,
    /// Length from opening to opening along the centre line, mm.
    pub length_mm: f64,
    /// Correction of the inner end, mm.
    pub inner_correction_mm: f64,
    /// Correction of the outer end, mm.
    pub outer_correction_mm: f64,
    /// What of the length is flare, mm; the corrections, counted from where the straight tube ends, hold its air.
    pub flares_mm: f64,
    /// Length common practice gives it, mm: half of each flare counted, plain end corrections.
    pub by_custom_mm: f64,
    /// Tuning, Hz.
    pub tuning_hz: f64,
    /// First pipe resonance, Hz.
    pub pipe_hz: f64,
    /// The hole a tube goes through, mm; absent for other shapes, whose hole is their opening.
    pub hole_mm: Option<f64>,
    /// The flange over it, mm; absent where there is none.
    pub flange_mm: Option<f64>,
    /// Volume and length together.
    pub port_volume: Option<PortVolumeSolution>,
    /// Whether it goes in.
    pub fit: Fit,
    /// Its course inside.
    pub course: Course,
    /// Its air speed.
    pub air: Option<AirSpeed>,
    /// Area against everything else.
    pub trade: Option<PortTrade>,
}

/// Works everything about ports and radiators out.
pub fn airway(design: &Checked) -> Airway {
    worked_out(design, true)
}

/// The same without the trade-offs, which take longest and stay while a port is pulled at.
pub fn airway_alone(design: &Checked) -> Airway {
    worked_out(design, false)
}

fn worked_out(design: &Checked, with_trade: bool) -> Airway {
    let analysis = Analysis::of(design);
    let shell = Shell::of(&analysis);
    let ports = analysis
        .wired
        .ports
        .iter()
        .map(|report| {
            let there = &report.realised;
            let (hole, flange) = report.port.fitting();
            let round = matches!(report.port.section, Section::Round { .. });
            PortDesign {
                pointer: format!("/enclosure{}", report.pointer),
                opening: report.port.section.words().into(),
                length_mm: there.length * 1e3,
                inner_correction_mm: there.ends.inner * 1e3,
                outer_correction_mm: there.ends.outer * 1e3,
                flares_mm: there.ends.flares * 1e3,
                by_custom_mm: (there.effective_length - there.ends.by_custom) * 1e3,
                tuning_hz: there.tuning,
                pipe_hz: analysis.context.air.c / (2.0 * there.effective_length),
                hole_mm: round.then_some(hole * 1e3),
                flange_mm: flange.map(|f| f * 1e3),
                port_volume: solve_port_volume(&analysis, report),
                fit: fit(&analysis, report, chamber_of(&analysis, report), &shell),
                course: course(&shell, &report.port, there.length * 1e3, stands(&analysis, report)),
                air: air_speed(&analysis, report),
                trade: if with_trade { trade(&analysis, report, &shell) } else { None },
            }
        })
        .collect();
    Airway { ports, radiators: radiators(&analysis) }
}
