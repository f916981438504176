//! Volume and length of a port solved together: what the port displaces changes the net volume, which changes the length.

use crate::analysis::Analysis;
use crate::analysis::inside::chamber_of;
use crate::analysis::spots::port_l;
use oak_drum_acoustics::families::{Chamber, PortReport, chamber_compliance};
use oak_drum_acoustics::port::{Port, Realised};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Net volume and length that belong together in a cabinet of given size.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PortVolumeSolution {
    /// Whether there is such a pair.
    pub exists: bool,
    /// Net volume, L; where there is none, the one that comes nearest.
    pub net_l: f64,
    /// Length of the port, mm.
    pub length_mm: f64,
    /// What its tube and air take from the chamber, L.
    pub displaced_l: f64,
    /// Litres for chamber and port together.
    pub room_l: f64,
    /// Litres that are missing where there is no such pair.
    pub short_by_l: f64,
    /// Whether the cabinet gives the room; else the design's own net volume is held.
    pub by_cabinet: bool,
}

/// Litres of a cabinet for a port and its chamber together: what is left when everything else is taken off.
pub fn room_of(analysis: &Analysis, report: &PortReport, chamber: &Chamber) -> Option<f64> {
    let ledger = analysis.ledger.as_ref()?;
    let others: f64 = analysis.wired.chambers.iter().map(|c| c.net * 1e3).sum::<f64>() - chamber.net * 1e3;
    Some(ledger.net_l + displaced(analysis, &report.port, &report.realised) - others)
}

/// What a port takes from the chamber, L: its tube with walls and air, behind the wall it goes through.
pub fn displaced(analysis: &Analysis, port: &Port, realised: &Realised) -> f64 {
    let outside = || port.displacement(realised.length, 0.0) * 1e3;
    analysis.design.cabinet.as_ref().map_or_else(outside, |cabinet| port_l(cabinet, port, realised.length))
}

/// A port realised in a chamber of `net` litres with the fill of another.
pub fn realised_in(analysis: &Analysis, port: &Port, chamber: &Chamber, net: f64) -> Realised {
    let air = &analysis.context.air;
    let volume = net * 1e-3;
    port.realise(air, volume, |omega| chamber_compliance(air, volume, &chamber.fill, omega))
}

/// Solves a port's chamber in a room of so many litres.
///
/// With L = K/V - (ends) the room needed, V + A·L(V), has one least value; below it no net volume exists, above it the larger
/// of the two roots is the box (the other is all port). Found by golden section and bisection, which fill does not upset.
pub fn in_room(analysis: &Analysis, port: &Port, chamber: &Chamber, room: f64) -> PortVolumeSolution {
    let needed = |net: f64| net + displaced(analysis, port, &realised_in(analysis, port, chamber, net));
    let answer = |net: f64, exists: bool| {
        let there = realised_in(analysis, port, chamber, net);
        let displaced = displaced(analysis, port, &there);
        PortVolumeSolution {
            exists,
            net_l: net,
            length_mm: there.length * 1e3,
            displaced_l: displaced,
            room_l: room,
            short_by_l: (net + displaced - room).max(0.0),
            by_cabinet: true,
        }
    };
    if room <= 0.0 {
        return PortVolumeSolution { short_by_l: -room, ..answer(0.2, false) };
    }
    // least room over net volumes, in the logarithm
    let golden = (5f64.sqrt() - 1.0) / 2.0;
    let (mut low, mut high) = ((room * 1e-3).ln(), room.ln());
    for _ in 0..40 {
        let (a, b) = (high - golden * (high - low), low + golden * (high - low));
        if needed(a.exp()) < needed(b.exp()) { high = b } else { low = a }
    }
    let least = ((low + high) / 2.0).exp();
    if needed(least) > room * (1.0 + 1e-9) {
        return answer(least, false);
    }
    let (mut below, mut above) = (least, room);
    for _ in 0..50 {
        let middle = (below + above) / 2.0;
        if needed(middle) > room { above = middle } else { below = middle }
    }
    PortVolumeSolution { short_by_l: 0.0, ..answer(below, true) }
}

/// The pair for a port as designed; without a cabinet the net volume is that of the design and the room follows.
pub fn solve_port_volume(analysis: &Analysis, report: &PortReport) -> Option<PortVolumeSolution> {
    let chamber = chamber_of(analysis, report)?;
    Some(match room_of(analysis, report, chamber) {
        Some(room) => in_room(analysis, &report.port, chamber, room),
        None => {
            let displaced = displaced(analysis, &report.port, &report.realised);
            PortVolumeSolution {
                exists: true,
                net_l: chamber.net * 1e3,
                length_mm: report.realised.length * 1e3,
                displaced_l: displaced,
                room_l: chamber.net * 1e3 + displaced,
                short_by_l: 0.0,
                by_cabinet: false,
            }
        }
    })
}
