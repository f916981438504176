//! Where things stand on a cabinet's faces before anything is built: sizes of a woofer, places of ports, frames of faces.

use oak_drum_acoustics::driver::Woofer;
use oak_drum_acoustics::families::{PortReport, Wired};
use oak_drum_acoustics::port::{Face, Port, Section};
use oak_drum_cabinet::board::Opening;
use oak_drum_cabinet::carcass::{Carcass, FaceFrame, Front, face_of};
use oak_drum_document::{Cabinet, Shape, Spot};
use std::f64::consts::PI;

/// Sizes of a woofer: cut-out, frame, depth, magnet (mm), and whether one is an estimate from its cone (Sd in m²).
pub fn woofer_sizes(woofer: &Woofer, sd: f64) -> ([f64; 4], bool) {
    let cone = 2.0 * (sd / PI).sqrt() * 1e3;
    let cutout = woofer.cutout_mm.unwrap_or(1.13 * cone);
    let estimated = woofer.cutout_mm.is_none() || woofer.outside_diameter_mm.is_none() || woofer.depth_mm.is_none();
    (
        [
            cutout,
            woofer.outside_diameter_mm.unwrap_or(cutout * 1.1),
            woofer.depth_mm.unwrap_or(0.45 * cone),
            woofer.magnet_diameter_mm.unwrap_or(0.6 * cone),
        ],
        estimated,
    )
}

/// The frame of a face of any cabinet; a tube's discs are the top and the floor of the square around it.
pub fn frame_of(cabinet: &Cabinet, carcass: Option<&Carcass>, face: u32, up: f64) -> FaceFrame {
    if let Some(carcass) = carcass {
        return carcass.face(face as usize, up);
    }
    let outside = [cabinet.width_mm, cabinet.height_mm, cabinet.depth_mm];
    face_of(outside, Front::Straight, face as usize, up)
}

/// The hole of one opening of a port; of a corner triangle with its right angle at the right or the top as told.
pub fn port_hole(port: &Port, [right, top]: [bool; 2]) -> Opening {
    match port.section {
        Section::Round { .. } => Opening::Round { diameter_mm: port.fitting().0 * 1e3 },
        Section::Square { side_mm } => Opening::Rectangle { length_mm: side_mm, width_mm: side_mm },
        Section::Slot { width_mm, height_mm } => Opening::Rectangle { length_mm: height_mm, width_mm },
        Section::Triangle { leg_mm } => Opening::Triangle {
            length_mm: if top { -leg_mm } else { leg_mm },
            width_mm: if right { -leg_mm } else { leg_mm },
        },
    }
}

/// Where the i-th opening of a port stands, the k-th of all openings, and whether its walls fix it there.
pub fn port_spot(wired: &Wired, cabinet: &Cabinet, report: &PortReport, i: usize, k: usize) -> (Spot, bool) {
    let port = &report.port;
    let (w, h, t) = (cabinet.width_mm, cabinet.height_mm, cabinet.panel_mm);
    let tube = matches!(cabinet.shape, Shape::Tube { .. });
    let (_, flange) = port.fitting();
    let half = port_hole(port, [false; 2]).half();
    let spread = (i as f64 + 0.5) / f64::from(port.count);
    if let Some(spot) = along_walls(cabinet, port, i) {
        return (spot, true);
    }
    let inside = wired.chambers.first().and_then(|c| c.inside).filter(|_| port.count == 1);
    let spot = cabinet.openings_at.get(k).copied().unwrap_or_else(|| match (tube, inside) {
        (true, _) => Spot { face: Face::Top, across_mm: w * spread, up_mm: w / 2.0 },
        (_, Some(inside)) if port.leaves == Face::Baffle => {
            Spot { face: Face::Baffle, across_mm: t + inside.opening_across_mm, up_mm: t + inside.opening_up_mm }
        }
        _ => {
            let least = flange.map_or(half[0], |f| f * 500.0) + 12.0;
            let (wide, high) = match port.leaves {
                Face::Side => (cabinet.depth_mm, h),
                Face::Top | Face::Floor => (w, cabinet.depth_mm),
                _ => (w, h),
            };
            Spot { face: port.leaves, across_mm: wide * spread, up_mm: (t + 0.14 * high).max(least).round() }
        }
    });
    (spot, false)
}

/// Along how many walls a port really runs in a cabinet: one meant for three of them that is narrower than the inside stands free
/// at its sides.
pub fn alongside(cabinet: &Cabinet, port: &Port) -> u32 {
    match port.section {
        Section::Round { .. } => 0,
        Section::Triangle { .. } => 2,
        Section::Square { .. } | Section::Slot { .. } => {
            let narrower = port.section.size().0 * 1e3 < across_inside(cabinet, port.leaves) - 1.0;
            if port.walls_alongside >= 3 && narrower { 1 } else { port.walls_alongside }
        }
    }
}

/// Inside width of the wall a port leaves by, mm.
pub fn across_inside(cabinet: &Cabinet, leaves: Face) -> f64 {
    let inside = cabinet.inside_mm();
    if leaves == Face::Side { inside[2] } else { inside[0] }
}

/// Thickness of what stands at a face's left, right, lower and upper edge as seen from outside, mm; on the second side left and
/// right change places.
pub fn edges(cabinet: &Cabinet, face: Face, i: usize) -> [f64; 4] {
    let (t, b) = (cabinet.panel_mm, cabinet.baffle_mm);
    match face {
        Face::Side if i.is_multiple_of(2) => [t, b, t, t],
        Face::Side => [b, t, t, t],
        Face::Top => [t, t, b, t],
        Face::Floor => [t, t, t, b],
        Face::Baffle | Face::Back => [t; 4],
    }
}

/// Where the i-th opening of a port that runs along walls stands: in the corners in turn, or along the floor.
pub fn along_walls(cabinet: &Cabinet, port: &Port, i: usize) -> Option<Spot> {
    let walls = alongside(cabinet, port);
    if walls == 0 {
        return None;
    }
    let (w, h) = port.section.size();
    let (half, tall) = (w * 500.0, h * 500.0);
    let [left, right, low, high] = edges(cabinet, port.leaves, i);
    let (wide, up) = match port.leaves {
        Face::Side => (cabinet.depth_mm, cabinet.height_mm),
        Face::Top | Face::Floor => (cabinet.width_mm, cabinet.depth_mm),
        Face::Baffle | Face::Back => (cabinet.width_mm, cabinet.height_mm),
    };
    let (at_right, at_top) = (i % 2 == 1, i / 2 % 2 == 1);
    let across = match walls {
        1 => left + (wide - left - right) * (i as f64 + 0.5) / f64::from(port.count),
        2 if at_right => wide - right - half,
        2 => left + half,
        _ => left + (wide - left - right) / 2.0,
    };
    let from_top = if walls >= 3 { i == 1 } else { walls == 2 && at_top };
    let up_mm = if from_top { up - high - tall } else { low + tall };
    Some(Spot { face: port.leaves, across_mm: across, up_mm })
}

/// What a port of a length (m) takes from the inside of a cabinet, L: its tube with walls and air, behind the wall it goes
/// through.
pub fn port_l(cabinet: &Cabinet, port: &Port, length: f64) -> f64 {
    let built = Port { walls_alongside: alongside(cabinet, port), ..port.clone() };
    built.displacement(length, cabinet.wall_mm(port.leaves) * 1e-3) * 1e3
}
