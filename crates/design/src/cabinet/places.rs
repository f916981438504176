//! Where woofers and openings sit: at their stated places, where a fold puts them, or where it is usual.

use crate::analysis::Analysis;
use crate::analysis::solids::Solids;
use crate::analysis::spots::{port_hole, port_spot, woofer_sizes};
use crate::analysis::tunnel::Tunnel;
use crate::cabinet::mounted_part::{Kind, MountedPart, mounted_part_at};
use oak_drum_acoustics::families::PortReport;
use oak_drum_acoustics::families::radiators::Mounted;
use oak_drum_acoustics::families::{Enclosure, Stands};
use oak_drum_acoustics::port::{End, Face, Section};
use oak_drum_cabinet::board::{Opening, along};
use oak_drum_cabinet::fold::Runs;
use oak_drum_document::{Cabinet, Shape, Spot, WooferOn};
use std::f64::consts::PI;

/// Every woofer in its place.
pub(super) fn woofers(analysis: &Analysis, cabinet: &Cabinet, solids: &Solids) -> Vec<MountedPart> {
    let design = &analysis.design;
    let ([cutout, frame, depth, magnet], estimated) = woofer_sizes(&analysis.design.woofer, analysis.woofer.ts.sd);
    let count = if design.array.isobaric.is_some() { design.array.count / 2 } else { design.array.count } as usize;
    let opening = Opening::Round { diameter_mm: cutout };
    let name = |i: usize| if count == 1 { "woofer".to_owned() } else { format!("woofer {}", i + 1) };
    let inner_board = |wanted: &str| solids.boards.iter().find(|b| b.name == wanted);
    let fold = analysis.fold.as_ref().and_then(|f| f.as_ref().ok());
    let mut list = Vec::new();
    for i in 0..count {
        let spread = (i as f64 + 0.5) / count as f64;
        // on a board inside: bandpass boxes, front and tapped horns
        let stands = design.enclosure.stands();
        let inside = match (stands, fold) {
            (Stands::BetweenChambers, _) => inner_board("Woofer board"),
            (Stands::AtThroat, Some(_)) => inner_board("Chamber board"),
            (Stands::OnDivider, Some(_)) => inner_board("Divider 1"),
            _ => None,
        };
        if let Some(board) = inside {
            let [low, high] = board.extent();
            let across = low[1] + (high[1] - low[1]) * spread;
            let u = match fold {
                Some(folded) => {
                    // the place along the segments, from the end the path starts at
                    let spec = cabinet.fold.unwrap_or_default();
                    let far = spec.begins == oak_drum_document::Near::TopOrBack;
                    let long = if spec.runs == Runs::Upright { board.u[1] } else { board.u[2] };
                    let from_low = (long > 0.0) != far;
                    if from_low { low[0] + folded.woofer_along } else { high[0] - folded.woofer_along }
                }
                None => 0.5 * (low[0] + high[0]),
            };
            // a front horn's magnet stands in the closed chamber, which lies before the board's face; a tapped horn's in the segment
            // near the mouth, behind it; a bandpass box's woofer is screwed on from behind, where its back comes off
            let before = stands == Stands::AtThroat;
            let behind = stands == Stands::BetweenChambers;
            let at = board.place([u, across], if before || behind { board.thickness_mm } else { 0.0 });
            let n = board.normal();
            list.push(MountedPart {
                kind: Kind::Woofer,
                name: name(i),
                face: None,
                across_mm: across,
                up_mm: u,
                at,
                inward: if before { n.map(|x| -x) } else { n },
                opening,
                frame_mm: Some(frame),
                estimated,
                depth_mm: depth,
                pointer: None,
                spot: None,
                inner_mm: magnet,
                flare_mm: 0.0,
                screws: design.woofer.screws,
                screw_circle_mm: design.woofer.screw_circle_mm,
            });
            continue;
        }
        let mut spot = cabinet.woofers_at.get(i).copied().unwrap_or_else(|| usual_woofer(analysis, cabinet, i, count));
        let mut movable = true;
        if let Some(folded) = fold {
            // the fold says where along the segment it stands
            movable = false;
            let spec = cabinet.fold.unwrap_or_default();
            let [z, y] = folded.woofer_at;
            spot = match (&design.enclosure, spec.woofer_on) {
                (Enclosure::TransmissionLine(_), WooferOn::Side) => {
                    Spot { face: Face::Side, across_mm: cabinet.depth_mm - z, up_mm: y }
                }
                _ if spec.pattern == oak_drum_cabinet::fold::Pattern::MirroredW => {
                    Spot { face: Face::Baffle, across_mm: cabinet.width_mm * spread, up_mm: cabinet.height_mm / 2.0 }
                }
                _ => Spot { face: Face::Baffle, across_mm: cabinet.width_mm * spread, up_mm: y },
            };
        }
        // let in, it reaches so much deeper
        let depth = depth + cabinet.recess_mm.unwrap_or(0.0);
        let mut made = mounted_part_at(cabinet, solids, Kind::Woofer, &name(i), spot, i, opening, Some(frame), depth);
        made.estimated = estimated;
        made.inner_mm = magnet;
        made.screws = design.woofer.screws;
        made.screw_circle_mm = design.woofer.screw_circle_mm;
        made.pointer = movable.then(|| format!("/cabinet/woofers_at/{i}"));
        list.push(made);
    }
    list
}

/// Where a woofer stands that has no place: on the axis, at 0.62 of the height; several above one another in the upper part.
fn usual_woofer(analysis: &Analysis, cabinet: &Cabinet, i: usize, count: usize) -> Spot {
    let (w, h, t) = (cabinet.width_mm, cabinet.height_mm, cabinet.panel_mm);
    if matches!(cabinet.shape, Shape::Tube { .. }) {
        return Spot { face: Face::Floor, across_mm: w / 2.0, up_mm: w / 2.0 };
    }
    let inside = analysis.wired.chambers.first().and_then(|c| c.inside);
    if let (Some(inside), 1) = (inside, count) {
        return Spot { face: Face::Baffle, across_mm: t + inside.woofer_across_mm, up_mm: t + inside.woofer_up_mm };
    }
    if count == 1 {
        let up = t + 0.62 * (h - 2.0 * t);
        if let Shape::Stepped { at_mm, .. } = cabinet.shape {
            return Spot { face: Face::Baffle, across_mm: w / 2.0, up_mm: (0.5 * (at_mm + h)).round() };
        }
        // the frame stays on the board
        let ([_, frame, ..], _) = woofer_sizes(&analysis.design.woofer, analysis.woofer.ts.sd);
        let up = up.min(h - frame / 2.0 - 10.0).max(h / 2.0).round();
        return Spot { face: Face::Baffle, across_mm: w / 2.0, up_mm: up };
    }
    let spread = (i as f64 + 0.5) / count as f64;
    if w > h {
        Spot { face: Face::Baffle, across_mm: (w * spread).round(), up_mm: (h * 0.6).round() }
    } else {
        Spot { face: Face::Baffle, across_mm: w / 2.0, up_mm: (h * (0.25 + 0.75 * spread)).round() }
    }
}

/// A port from chamber to chamber: in the board between them, under the woofers, its flange before it and its tube behind.
fn inner_port(report: &PortReport, solids: &Solids) -> Vec<MountedPart> {
    let port = &report.port;
    let Some(board) = solids.boards.iter().find(|b| b.name == "Woofer board") else { return Vec::new() };
    let [low, high] = board.extent();
    let (_, flange) = port.fitting();
    let opening = port_hole(port, [false; 2]);
    let half = opening.half();
    let least = flange.map_or(half[0], |f| f * 500.0) + 12.0;
    let up = low[0] + (0.14 * (high[0] - low[0])).max(least).round();
    (0..port.count as usize)
        .map(|i| {
            let across = low[1] + (high[1] - low[1]) * (i as f64 + 0.5) / f64::from(port.count);
            MountedPart {
                kind: Kind::Port,
                name: if port.count == 1 { "inner port".into() } else { format!("inner port {}", i + 1) },
                face: None,
                across_mm: across,
                up_mm: up,
                at: board.place([up, across], 0.0),
                inward: board.normal(),
                opening,
                frame_mm: flange.map(|f| f * 1e3),
                estimated: false,
                depth_mm: report.realised.length * 1e3,
                pointer: None,
                spot: None,
                inner_mm: match port.section {
                    Section::Round { diameter_mm } => diameter_mm + 2.0 * port.wall_mm,
                    _ => 2.0 * half[0].min(half[1]),
                },
                flare_mm: 0.0,
                screws: None,
                screw_circle_mm: None,
            }
        })
        .collect()
}

/// Every port, radiator and mouth in its place.
pub(super) fn openings(analysis: &Analysis, cabinet: &Cabinet, solids: &Solids) -> Vec<MountedPart> {
    let mut list = Vec::new();
    let (w, h, t) = (cabinet.width_mm, cabinet.height_mm, cabinet.panel_mm);
    let mut k = 0;
    for report in &analysis.wired.ports {
        let port = &report.port;
        let (_, flange) = port.fitting();
        let length = report.realised.length * 1e3;
        if !report.outside {
            list.extend(inner_port(report, solids));
            continue;
        }
        for i in 0..port.count as usize {
            let (spot, fixed) = port_spot(&analysis.wired, cabinet, report, i, k);
            let opening = port_hole(port, [i % 2 == 1, i / 2 % 2 == 1]);
            let half = opening.half();
            let name = if list.is_empty() && port.count == 1 { "port".to_owned() } else { format!("port {}", k + 1) };
            let frame = flange.map(|f| f * 1e3);
            let mut made = mounted_part_at(cabinet, solids, Kind::Port, &name, spot, i, opening, frame, length);
            made.pointer = (!fixed).then(|| format!("/cabinet/openings_at/{k}"));
            made.inner_mm = match port.section {
                Section::Round { diameter_mm } => diameter_mm + 2.0 * port.wall_mm,
                _ => 2.0 * half[0].min(half[1]),
            };
            if let (End::Flared { radius_mm }, 0) = (port.inner_end, port.elbows) {
                made.flare_mm = radius_mm;
            }
            if port.elbows > 0 {
                // the straight part before the elbow, which turns in its own diameter and a half
                let room = match port.leaves {
                    Face::Baffle | Face::Back => cabinet.depth_mm,
                    Face::Side => w,
                    Face::Top | Face::Floor => h,
                };
                made.depth_mm = length.min(room - t - 1.0 * made.inner_mm);
            }
            list.push(made);
            k += 1;
        }
    }
    if let Some(r) = analysis.design.enclosure.radiators() {
        let cone = 2.0 * (r.sd_cm2 * 100.0 / PI).sqrt();
        let face = match r.mounted {
            Mounted::InOpposedPairs => Face::Side,
            Mounted::OppositeWoofer => Face::Back,
            _ => Face::Baffle,
        };
        for i in 0..r.count as usize {
            let (wide, spread) = match face {
                Face::Side => (cabinet.depth_mm, 0.5),
                _ => (w, (i as f64 + 0.5) / f64::from(r.count)),
            };
            let high = if face == Face::Baffle { 0.2 } else { 0.5 };
            let usual = Spot { face, across_mm: wide * spread, up_mm: (h * high).max(cone * 0.65).round() };
            let spot = cabinet.openings_at.get(i).copied().unwrap_or(usual);
            let opening = Opening::Round { diameter_mm: (cone * 1.13).round() };
            let name = if r.count == 1 { "radiator".to_owned() } else { format!("radiator {}", i + 1) };
            let mut made = mounted_part_at(
                cabinet,
                solids,
                Kind::Radiator,
                &name,
                spot,
                i,
                opening,
                Some((cone * 1.24).round()),
                cone * 0.35,
            );
            made.estimated = true;
            made.pointer = Some(format!("/cabinet/openings_at/{i}"));
            made.inner_mm = cone * 0.5;
            list.push(made);
        }
    }
    if let Some(Ok(folded)) = &analysis.fold {
        for (i, mouth) in folded.fold.mouths.iter().enumerate() {
            let middle = 0.5 * (mouth.from_mm + mouth.to_mm);
            let (face, across, up) = match mouth.face {
                0 => (Face::Baffle, w / 2.0, middle),
                1 => (Face::Back, w / 2.0, middle),
                4 => (Face::Top, w / 2.0, middle),
                // the floor is seen from below: its lower edge is the back's
                _ => (Face::Floor, w / 2.0, cabinet.depth_mm - middle),
            };
            let opening = Opening::Rectangle { length_mm: mouth.to_mm - mouth.from_mm, width_mm: mouth.width_mm };
            let spot = Spot { face, across_mm: across, up_mm: up };
            let name = if folded.fold.mouths.len() == 1 { "mouth".to_owned() } else { format!("mouth {}", i + 1) };
            let mut made = mounted_part_at(cabinet, solids, Kind::Mouth, &name, spot, i, opening, None, 0.0);
            // what has no boards around it, as on the front, needs no hole
            made.pointer = None;
            list.push(made);
        }
    }
    list
}

/// The woofer behind a tunnel, looking the same way as the outer one.
pub(super) fn inner_woofer(tunnel: &Tunnel, wall_mm: f64, outer: &MountedPart, depth_mm: f64) -> MountedPart {
    let middle = tunnel.side_mm / 2.0 + tunnel.board_mm;
    MountedPart {
        kind: Kind::Woofer,
        name: format!("inner {}", outer.name),
        face: None,
        across_mm: middle,
        up_mm: middle,
        at: along(outer.at, outer.inward, wall_mm + tunnel.depth_mm + tunnel.board_mm),
        depth_mm,
        pointer: None,
        spot: None,
        ..outer.clone()
    }
}
