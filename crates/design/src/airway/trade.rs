//! The trade-off of a port: its area against length, air speed, what it displaces and its first pipe resonance.

use crate::airway::fit::{room, stands};
use crate::airway::port_volume::{displaced, in_room, realised_in, room_of};
use crate::airway::speed::{UNLIMITED, frequencies, speeds};
use crate::analysis::Analysis;
use crate::analysis::inside::{Shell, chamber_of};
use oak_drum_acoustics::families::PortReport;
use oak_drum_acoustics::port::Section;
use oak_drum_document::Change;
use oak_drum_text::Text;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// Areas a trade-off is drawn over.
pub const AREAS: usize = 60;

/// The trade-off; every list has one entry an area.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PortTrade {
    /// Area of all openings together, cm².
    pub area_cm2: Vec<f64>,
    /// The opening in words.
    pub opening: Vec<Text>,
    /// The opening itself, in whole millimetres, ready to be taken.
    pub sections: Vec<Section>,
    /// Net volume that belongs with it, L.
    pub net_l: Vec<f64>,
    /// Length, mm; null where no pair of volume and length exists, or the bare hole tunes too low.
    pub length_mm: Vec<Option<f64>>,
    /// Air speed at the drive chosen, m/s.
    pub air_speed_m_per_s: Vec<Option<f64>>,
    /// Air speed at the most the other parts allow, m/s.
    pub most_air_speed_m_per_s: Vec<Option<f64>>,
    /// What it displaces, L.
    pub displaced_l: Vec<Option<f64>>,
    /// First pipe resonance, Hz.
    pub pipe_hz: Vec<Option<f64>>,
    /// Whether its length goes in.
    pub fits: Vec<bool>,
}

/// The trade-off of a port at its tuning, from a seventh to six times its area.
pub fn trade(analysis: &Analysis, report: &PortReport, shell: &Shell) -> Option<PortTrade> {
    let chamber = chamber_of(analysis, report)?;
    let stands = stands(analysis, report);
    let gross = room_of(analysis, report, chamber);
    let frequencies = frequencies(analysis, 16);
    // standing waves have no say in how fast the air is at the tuning, nor has the ports' own limit
    let inside = analysis.wired.chambers.iter().filter(|c| c.inside.is_some());
    let plain: Vec<Change> = inside.map(|c| Change::set(c.part("inside"), serde_json::Value::Null)).collect();
    let mut out = PortTrade::default();
    for k in 0..AREAS {
        let factor = 6f64.powf(2.0 * k as f64 / (AREAS - 1) as f64 - 1.0);
        let mut port = report.port.clone();
        port.section = port.section.scaled(factor);
        let net = match gross {
            Some(gross) => {
                let pair = in_room(analysis, &port, chamber, gross);
                pair.exists.then_some(pair.net_l)
            }
            None => Some(chamber.net * 1e3),
        };
        out.area_cm2.push(port.section.area() * f64::from(port.count) * 1e4);
        out.opening.push(port.section.words().into());
        out.sections.push(port.section.map_mm(|mm| mm.round().max(10.0)));
        out.net_l.push(net.unwrap_or(chamber.net * 1e3));
        let there = net.map(|net| (net, realised_in(analysis, &port, chamber, net))).filter(|(_, r)| !r.out_of_reach);
        let length = there.as_ref().map(|(_, r)| r.length * 1e3);
        out.length_mm.push(length);
        out.displaced_l.push(there.as_ref().map(|(_, r)| displaced(analysis, &port, r)));
        out.pipe_hz.push(there.as_ref().map(|(_, r)| analysis.context.air.c / (2.0 * r.effective_length)));
        let most = room(shell, &port, stands, port.elbows);
        out.fits.push(length.is_some_and(|length| length <= most + 0.6));
        let found = there.and_then(|(net, _)| {
            let section = serde_json::to_value(port.section).ok()?;
            let mut changes = plain.clone();
            changes.push(Change::set(format!("{}/section", report.pointer), section));
            changes.push(Change::set(chamber.pointer, net));
            let curves = analysis.rewired(&changes, UNLIMITED, report, &frequencies)?;
            let (at_drive, at_most) = speeds(analysis, &curves);
            Some((at_drive.0, at_most.map(|m| m.0)))
        });
        out.air_speed_m_per_s.push(found.map(|f| f.0));
        out.most_air_speed_m_per_s.push(found.and_then(|f| f.1));
    }
    Some(out)
}
