//! What moves at one frequency, and how: cones, air in openings, radiators, the air along a line or horn, as phasors of
//! displacement in their true relative size and phase.

use crate::analysis::Analysis;
use num_complex::Complex64;
use oak_drum_acoustics::air::Air;
use oak_drum_acoustics::families::PathReport;
use oak_drum_acoustics::network::plain::{PlainFlows, solve};
use oak_drum_acoustics::network::{Node, RadiatorKind};
use oak_drum_document::Checked;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::{SQRT_2, TAU};

/// Everything that moves.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Motion {
    /// The frequency, Hz.
    pub frequency_hz: f64,
    /// The cone, toward the front (of isobaric pairs the outer one).
    pub cone: Swing,
    /// The inner cone of isobaric pairs, toward the front; else the same.
    pub inner_cone: Swing,
    /// Ports, mouths and passive radiators in the order in which they were wired, outward.
    pub openings: Vec<OpeningMotion>,
    /// The air along a line or horn, toward its open end; empty in other families.
    pub path: Vec<PathMotion>,
}

/// A displacement as a phasor, peak, mm.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Swing {
    /// Real part.
    pub re_mm: f64,
    /// Imaginary part.
    pub im_mm: f64,
}

/// The air in an opening, or a radiator's cone.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct OpeningMotion {
    /// Whether it is a passive radiator.
    pub radiator: bool,
    /// Whether it leads to the outside.
    pub outside: bool,
    /// Its displacement.
    pub swing: Swing,
}

/// The air at a place of a path.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PathMotion {
    /// Where, mm.
    pub at_mm: f64,
    /// Its displacement.
    pub swing: Swing,
}

/// Places along a path whose air is shown.
const PLACES: usize = 24;

/// What moves in a design at a frequency (Hz), by the plain solver.
pub fn motion(design: &Checked, frequency: f64) -> Motion {
    let analysis = Analysis::of(design);
    let network = &analysis.wired.network;
    let omega = TAU * frequency;
    let flows = solve(network, omega);
    let volts = analysis.context.source.volts;
    // x = U/(jωS), peak
    let swing = |flow: Complex64, area: f64| {
        let x = flow / Complex64::new(0.0, omega) / area * (SQRT_2 * volts * 1e3);
        Swing { re_mm: x.re, im_mm: x.im }
    };
    let sd = network.diaphragm.motor.sd;
    let shown = |kind: RadiatorKind| kind != RadiatorKind::Leak;
    Motion {
        frequency_hz: frequency,
        cone: swing(flows.cone, sd),
        inner_cone: swing(flows.inner_cone, sd),
        openings: network
            .radiators
            .iter()
            .zip(&flows.radiators)
            .filter(|(r, _)| shown(r.kind) && r.area > 0.0)
            .map(|(r, flow)| OpeningMotion {
                radiator: r.kind == RadiatorKind::Sprung,
                outside: r.kind != RadiatorKind::Inner,
                swing: swing(*flow, r.area),
            })
            .collect(),
        path: analysis.wired.path.as_ref().map_or_else(Vec::new, |report| {
            along(&analysis.context.air, report, &flows, omega)
                .into_iter()
                .map(|(x, flow)| PathMotion { at_mm: x * 1e3, swing: swing(flow, report.path.area(x)) })
                .collect()
        }),
    }
}

/// Flow toward the open end at places along a path, from the pressures at the woofer's taps: the chain from the tap
/// behind each place, closed at its beginning, or ending at the next tap's pressure or at the mouth.
fn along(air: &Air, report: &PathReport, flows: &PlainFlows, omega: f64) -> Vec<(f64, Complex64)> {
    let PathReport { path, taps, mouth, model } = report;
    let pressure = |node: Node| match node {
        Node::Outside => Complex64::new(0.0, 0.0),
        Node::Inner(k) => flows.pressure[k],
    };
    let matrix = |from: f64, to: f64| path.chain(air, from, to).matrix::<Complex64>(omega);
    (0..PLACES)
        .map(|i| path.length() * (i as f64 + 0.5) / PLACES as f64)
        .map(|x| {
            let behind = taps.iter().rposition(|tap| tap.0 <= x);
            let Some(k) = behind else {
                // the closed stub before the first tap: p = A·p0, U = C·p0 from the closed end
                let (at, node) = taps[0];
                let ([whole, ..], [_, _, c, _]) = (matrix(at, 0.0), matrix(x, 0.0));
                return (x, -c * (pressure(node) / whole));
            };
            let (at, node) = taps[k];
            let p1 = pressure(node);
            // U1 = (D·p1 - p2)/B of the chain up to the next pressure known
            let (end, p2) = match taps.get(k + 1) {
                Some((next, node)) => (matrix(at, *next), pressure(*node)),
                None => (path.to_mouth(air, at, *mouth, *model).matrix::<Complex64>(omega), Complex64::new(0.0, 0.0)),
            };
            let u1 = (end[3] * p1 - p2) / end[1];
            let [a, _, c, _] = matrix(at, x);
            (x, a * u1 - c * p1)
        })
        .collect()
}
