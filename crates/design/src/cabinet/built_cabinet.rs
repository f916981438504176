//! What sits on the cabinet's faces and reaches into it: woofers, openings, an amplifier, terminals; and the boards with
//! their holes. Where woofers and openings go is `places`.

use crate::analysis::Analysis;
use crate::analysis::solids::{Solids, solids};
use crate::analysis::spots::{frame_of, woofer_sizes};
use crate::analysis::tunnel::tunnel;
use crate::cabinet::mounted_part::{Kind, MountedPart, mounted_part_at, screws};
use crate::cabinet::places::{inner_woofer, openings, woofers};
use oak_drum_acoustics::port::Face;
use oak_drum_cabinet::board::{Board, Hole, Opening, Recess, Role, V3, along, dot};
use oak_drum_document::{BuiltIn, Spot};

/// The cabinet as built.
#[derive(Clone, Debug)]
pub struct BuiltCabinet {
    /// Its solids, holes cut.
    pub solids: Solids,
    /// What sits on it.
    pub mounted_parts: Vec<MountedPart>,
}

impl BuiltCabinet {
    /// Length of all glued joints, mm: every board's ends and long edges that meet another, half its outline each.
    pub fn joints_mm(&self) -> f64 {
        let around = |b: &Board| {
            let [a, c] = b.blank();
            a + c
        };
        self.solids.boards.iter().filter(|b| !matches!(b.role, Role::Tube | Role::Dowel)).map(around).sum()
    }
}

/// The cabinet of a design as built; `None` without one.
pub fn built(analysis: &Analysis) -> Option<BuiltCabinet> {
    let design = &analysis.design;
    let cabinet = design.cabinet.as_ref()?;
    let fold = analysis.fold.as_ref().and_then(|f| f.as_ref().ok());
    let mut solids = solids(design, cabinet, fold.map(|f| &f.fold), &analysis.wired);
    let mut mounted_parts = woofers(analysis, cabinet, &solids);
    if let Some(tunnel) = tunnel(design, analysis.fold.is_some()) {
        let depth = woofer_sizes(&design.woofer, analysis.woofer.ts.sd).0[2];
        for i in 0..mounted_parts.len() {
            let Some(face) = mounted_parts[i].face else { continue };
            let frame = frame_of(cabinet, solids.carcass.as_ref(), face, mounted_parts[i].up_mm);
            let wall = if face == 0 { cabinet.baffle_mm } else { cabinet.panel_mm };
            solids.boards.extend(tunnel.boards(
                wall,
                mounted_parts[i].at,
                [frame.right, frame.up, mounted_parts[i].inward],
            ));
            mounted_parts.push(inner_woofer(&tunnel, wall, &mounted_parts[i], depth));
        }
    }
    mounted_parts.extend(openings(analysis, cabinet, &solids));
    let spot_seat =
        |kind: Kind, name: &str, spot: &Spot, opening: Opening, frame: Option<f64>, depth: f64, pointer: &str| {
            let mut mounted_part = mounted_part_at(cabinet, &solids, kind, name, *spot, 0, opening, frame, depth);
            mounted_part.pointer = Some(pointer.into());
            mounted_part
        };
    if let Some(BuiltIn { own_chamber, width_mm, height_mm, depth_mm, at }) = analysis.design.built_in() {
        let opening = Opening::Rectangle { length_mm: height_mm, width_mm };
        // a chamber of its own stands against the back
        let (at, depth) = if own_chamber {
            (Spot { face: Face::Back, ..at }, depth_mm + 2.0 * cabinet.panel_mm)
        } else {
            (at, depth_mm)
        };
        mounted_parts.push(spot_seat(Kind::Amplifier, "amplifier", &at, opening, None, depth, "/cabinet/amplifier/at"));
    }
    if let Some(cup) = &cabinet.terminals {
        let opening = Opening::Round { diameter_mm: cup.hole_mm };
        let frame = Some(cup.hole_mm + 24.0);
        mounted_parts.push(spot_seat(
            Kind::Terminals,
            "terminals",
            &cup.at,
            opening,
            frame,
            cup.depth_mm,
            "/cabinet/terminals/at",
        ));
    }
    let fit = cabinet.saw.fit_mm;
    for mounted_part in &mounted_parts {
        let larger = match mounted_part.opening {
            Opening::Round { diameter_mm } => Opening::Round { diameter_mm: diameter_mm + fit },
            Opening::Rectangle { length_mm, width_mm } if mounted_part.kind == Kind::Amplifier => {
                Opening::Rectangle { length_mm: length_mm + fit, width_mm: width_mm + fit }
            }
            slot => slot,
        };
        let frame = mounted_part.face.map(|face| frame_of(cabinet, solids.carcass.as_ref(), face, mounted_part.up_mm));
        let [right, up] = frame.map_or([[1.0, 0.0, 0.0], [0.0, 1.0, 0.0]], |f| [f.right, f.up]);
        // a frame can only be let in where it lies on an outer face
        let recess = match (cabinet.recess_mm, mounted_part.frame_mm, mounted_part.kind, mounted_part.face) {
            (Some(depth_mm), Some(frame), Kind::Woofer, Some(_)) => Some(Recess { diameter_mm: frame + fit, depth_mm }),
            _ => None,
        };
        cut(&mut solids.boards, mounted_part, larger, right, up, recess);
    }
    Some(BuiltCabinet { solids, mounted_parts })
}

/// Cuts a mounted part's hole into the board its middle lies on.
fn cut(boards: &mut [Board], mounted_part: &MountedPart, opening: Opening, right: V3, up: V3, recess: Option<Recess>) {
    let on = boards.iter_mut().find(|b| {
        let p = b.on_face(mounted_part.at);
        let below = dot(along(mounted_part.at, b.at, -1.0), b.normal());
        let [low, high] = b.extent();
        let inside = (0..2).all(|k| p[k] > low[k] - 1.0 && p[k] < high[k] + 1.0);
        let flat = dot(b.normal(), mounted_part.inward).abs() > 0.99;
        inside && flat && (below.abs() < 1.0 || (below - b.thickness_mm).abs() < 1.0)
    });
    let Some(board) = on else { return };
    // a length lies along up and a width along right; the board has its own axes
    let turned = |length: f64, width: f64, sign: fn(f64) -> f64| {
        let to = |axis: V3| length * sign(dot(up, axis)) + width * sign(dot(right, axis));
        (to(board.u), to(board.v))
    };
    let opening = match opening {
        Opening::Rectangle { length_mm, width_mm } => {
            let (length_mm, width_mm) = turned(length_mm, width_mm, f64::abs);
            Opening::Rectangle { length_mm, width_mm }
        }
        Opening::Triangle { length_mm, width_mm } => {
            let (length_mm, width_mm) = turned(length_mm, width_mm, |x| x);
            Opening::Triangle { length_mm, width_mm }
        }
        round => round,
    };
    let frame = mounted_part.frame_mm.filter(|_| matches!(opening, Opening::Round { .. }));
    let size = match opening {
        Opening::Round { diameter_mm } => diameter_mm,
        _ => 0.0,
    };
    board.holes.push(Hole {
        name: mounted_part.name.clone(),
        at: board.on_face(mounted_part.at),
        opening,
        // midway between hole and rim is an estimate where the maker states no circle
        screw_circle_mm: frame.map(|f| {
            let stated = mounted_part.screw_circle_mm.filter(|c| *c > size && *c < f);
            stated.unwrap_or(0.5 * (f + size))
        }),
        screws: frame.map_or(0, |f| mounted_part.screws.unwrap_or_else(|| screws(f))),
        frame_mm: frame,
        recess,
    });
}
