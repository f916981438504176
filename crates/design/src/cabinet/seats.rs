//! What sits on the cabinet's faces and reaches into it: woofers, openings, an amplifier, terminals; and the boards with
//! their holes.

use super::solids::{Solids, before_woofer, solids};
use crate::analysis::Analysis;
use crate::document::{AmplifierSpace, Cabinet, Shape, Spot, WooferOn};
use oak_drum_acoustics::families::Enclosure;
use oak_drum_acoustics::families::bandpass_sixth::RearPortLeads;
use oak_drum_acoustics::families::passive_radiator::Mounted;
use oak_drum_acoustics::port::{Face, Section};
use oak_drum_cabinet::board::{Board, Hole, Opening, V3, along, dot};
use oak_drum_cabinet::bodies::Body;
use oak_drum_cabinet::carcass::{Carcass, FaceFrame, Front, Housing, Joint, Through};
use oak_drum_cabinet::fold::Runs;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::PI;

/// What a thing on a face is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
#[schemars(rename = "SeatKind")]
pub enum Kind {
    /// A woofer.
    Woofer,
    /// A port.
    Port,
    /// A passive radiator.
    Radiator,
    /// A mouth of a line or a horn.
    Mouth,
    /// An amplifier.
    Amplifier,
    /// A terminal cup.
    Terminals,
}

/// A thing in its place.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct Seat {
    /// What it is.
    pub kind: Kind,
    /// What it is called.
    pub name: String,
    /// Which face: 0 baffle, 1 back, 2 left, 3 right, 4 top, 5 floor; absent on a board inside.
    pub face: Option<u32>,
    /// Middle from the face's left edge, seen from outside, mm.
    pub across_mm: f64,
    /// Middle from the face's lower edge, mm.
    pub up_mm: f64,
    /// Middle on the surface, mm in the cabinet.
    pub at: V3,
    /// Direction into the box.
    pub inward: V3,
    /// The hole it wants, without any allowance.
    pub opening: Opening,
    /// Diameter of the frame or flange around it, mm.
    pub frame_mm: Option<f64>,
    /// Whether the frame's diameter is an estimate.
    pub estimated: bool,
    /// How far it reaches in from the surface, mm.
    pub depth_mm: f64,
    /// Where its place is written (JSON pointer), where it can be moved.
    pub pointer: Option<String>,
    /// The spot as it would be written.
    #[serde(skip)]
    #[schemars(skip)]
    pub spot: Option<Spot>,
    /// Diameter of what reaches deepest, mm (a magnet, a tube).
    pub inner_mm: f64,
    /// How many screws its sheet states.
    pub screws: Option<u32>,
}

/// The cabinet as built.
#[derive(Clone, Debug)]
pub struct Built {
    /// Its solids, holes cut.
    pub solids: Solids,
    /// What sits on it.
    pub seats: Vec<Seat>,
}

/// Screws of a frame: as many as is usual for its size (common practice).
fn screws(frame: f64) -> u32 {
    if frame < 120.0 {
        4
    } else if frame < 420.0 {
        8
    } else {
        12
    }
}

fn face_index(face: Face, i: usize) -> u32 {
    match face {
        Face::Baffle => 0,
        Face::Back => 1,
        Face::Side => 2 + (i % 2) as u32,
        Face::Top => 4,
        Face::Floor => 5,
    }
}

/// The frame of a face of any cabinet; a tube's discs are the top and the floor of the square around it.
pub fn frame_of(cabinet: &Cabinet, carcass: Option<&Carcass>, face: u32, up: f64) -> FaceFrame {
    if let Some(carcass) = carcass {
        return carcass.face(face as usize, up);
    }
    Carcass {
        outside: [cabinet.width_mm, cabinet.height_mm, cabinet.depth_mm],
        panel: cabinet.panel_mm,
        baffle: cabinet.baffle_mm,
        front: Front::Straight,
        joint: Joint::Butt,
        through: Through::Sides,
        housing: Housing::Butt,
        inner: Vec::new(),
        open_front: Vec::new(),
    }
    .face(face as usize, up)
}

/// The cabinet of a design as built; `None` without one.
pub fn built(analysis: &Analysis) -> Option<Built> {
    let design = &analysis.design;
    let cabinet = design.cabinet.as_ref()?;
    let fold = analysis.fold.as_ref().and_then(|f| f.as_ref().ok());
    let before = before_woofer(&design.enclosure, cabinet, &analysis.wired);
    let mut solids = solids(cabinet, fold.map(|f| &f.fold), &analysis.wired.ports, before);
    let mut seats = woofers(analysis, cabinet, &solids);
    seats.extend(openings(analysis, cabinet, &solids));
    let spot_seat =
        |kind: Kind, name: &str, spot: &Spot, opening: Opening, frame: Option<f64>, depth: f64, pointer: &str| {
            let mut seat = seat(cabinet, &solids, kind, name, *spot, 0, opening, frame, depth);
            seat.pointer = Some(pointer.into());
            seat
        };
    match &cabinet.amplifier {
        Some(AmplifierSpace::Closed { width_mm, height_mm, depth_mm, at }) => {
            let opening = Opening::Rectangle { length_mm: *height_mm, width_mm: *width_mm };
            seats.push(spot_seat(Kind::Amplifier, "amplifier", at, opening, None, *depth_mm, "/cabinet/amplifier/at"));
        }
        Some(AmplifierSpace::OwnChamber { width_mm, height_mm, depth_mm, at }) => {
            let opening = Opening::Rectangle { length_mm: *height_mm, width_mm: *width_mm };
            let at = Spot { face: Face::Back, ..*at };
            let depth = depth_mm + 2.0 * cabinet.panel_mm;
            seats.push(spot_seat(Kind::Amplifier, "amplifier", &at, opening, None, depth, "/cabinet/amplifier/at"));
        }
        None => {}
    }
    if let Some(cup) = &cabinet.terminals {
        let opening = Opening::Round { diameter_mm: cup.hole_mm };
        let frame = Some(cup.hole_mm + 24.0);
        seats.push(spot_seat(
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
    for seat in &seats {
        let larger = match seat.opening {
            Opening::Round { diameter_mm } => Opening::Round { diameter_mm: diameter_mm + fit },
            Opening::Rectangle { length_mm, width_mm } if seat.kind == Kind::Amplifier => {
                Opening::Rectangle { length_mm: length_mm + fit, width_mm: width_mm + fit }
            }
            slot => slot,
        };
        cut(&mut solids.boards, seat, larger);
    }
    Some(Built { solids, seats })
}

/// Cuts a seat's hole into the board its middle lies on.
fn cut(boards: &mut [Board], seat: &Seat, opening: Opening) {
    let on = boards.iter_mut().find(|b| {
        let p = b.on_face(seat.at);
        let below = dot(along(seat.at, b.at, -1.0), b.normal());
        let [low, high] = b.extent();
        let inside = (0..2).all(|k| p[k] > low[k] - 1.0 && p[k] < high[k] + 1.0);
        let flat = dot(b.normal(), seat.inward).abs() > 0.99;
        inside && flat && (below.abs() < 1.0 || (below - b.thickness_mm).abs() < 1.0)
    });
    let Some(board) = on else { return };
    // a rectangle's length lies along its up; of a board whose u is not up the sides are swapped
    let opening = match opening {
        Opening::Rectangle { length_mm, width_mm } => {
            let across = match seat.face {
                Some(4 | 5) => [1.0, 0.0, 0.0],
                Some(2 | 3) => [0.0, 0.0, 1.0],
                _ => [1.0, 0.0, 0.0],
            };
            if dot(board.u, across).abs() > 0.5 {
                Opening::Rectangle { length_mm: width_mm, width_mm: length_mm }
            } else {
                Opening::Rectangle { length_mm, width_mm }
            }
        }
        round => round,
    };
    let frame = seat.frame_mm.filter(|_| matches!(opening, Opening::Round { .. }));
    let size = match opening {
        Opening::Round { diameter_mm } => diameter_mm,
        Opening::Rectangle { .. } => 0.0,
    };
    board.holes.push(Hole {
        name: seat.name.clone(),
        at: board.on_face(seat.at),
        opening,
        // screws sit midway between hole and rim (an estimate where the maker states no circle)
        screw_circle_mm: frame.map(|f| 0.5 * (f + size)),
        screws: frame.map_or(0, |f| seat.screws.unwrap_or_else(|| screws(f))),
        frame_mm: frame,
    });
}

#[allow(clippy::too_many_arguments)]
fn seat(
    cabinet: &Cabinet,
    solids: &Solids,
    kind: Kind,
    name: &str,
    spot: Spot,
    i: usize,
    opening: Opening,
    frame: Option<f64>,
    depth: f64,
) -> Seat {
    let tube = matches!(cabinet.shape, Shape::Tube { .. });
    // a tube has no faces but its discs
    let face = match face_index(spot.face, i) {
        f if !tube => f,
        5 | 0 => 5,
        _ => 4,
    };
    let frame_there = frame_of(cabinet, solids.carcass.as_ref(), face, spot.up_mm);
    let at = along(along(frame_there.at, frame_there.right, spot.across_mm), frame_there.up, spot.up_mm);
    let inward = inward(&frame_there);
    Seat {
        kind,
        name: name.into(),
        face: Some(face),
        across_mm: spot.across_mm,
        up_mm: spot.up_mm,
        at,
        inward,
        opening,
        frame_mm: frame,
        estimated: false,
        depth_mm: depth,
        pointer: None,
        spot: Some(spot),
        inner_mm: 2.0 * opening.half()[0].min(opening.half()[1]),
        screws: None,
    }
}

/// Into the box: right × up of a face seen from outside, in axes that are left-handed to the eye.
fn inward(frame: &FaceFrame) -> V3 {
    oak_drum_cabinet::board::cross(frame.right, frame.up)
}

/// Sizes of a woofer: cut-out, frame, depth, magnet (mm), and whether one is an estimate from its cone.
pub fn woofer_sizes(analysis: &Analysis) -> ([f64; 4], bool) {
    let woofer = &analysis.design.woofer;
    let cone = 2.0 * (analysis.woofer.ts.sd / PI).sqrt() * 1e3;
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

fn woofers(analysis: &Analysis, cabinet: &Cabinet, solids: &Solids) -> Vec<Seat> {
    let design = &analysis.design;
    let ([cutout, frame, depth, magnet], estimated) = woofer_sizes(analysis);
    let count = if design.array.isobaric.is_some() { design.array.count / 2 } else { design.array.count } as usize;
    let opening = Opening::Round { diameter_mm: cutout };
    let name = |i: usize| if count == 1 { "woofer".to_owned() } else { format!("woofer {}", i + 1) };
    let inner_board = |wanted: &str| solids.boards.iter().find(|b| b.name == wanted);
    let fold = analysis.fold.as_ref().and_then(|f| f.as_ref().ok());
    let mut list = Vec::new();
    for i in 0..count {
        let spread = (i as f64 + 0.5) / count as f64;
        // on a board inside: bandpass boxes, front and tapped horns
        let inside = match (&design.enclosure, fold) {
            (Enclosure::BandpassFourth(_) | Enclosure::BandpassSixth(_), _) => inner_board("Woofer board"),
            (Enclosure::FrontHorn(_), Some(_)) => inner_board("Chamber board"),
            (Enclosure::TappedHorn(_), Some(_)) => inner_board("Divider 1"),
            _ => None,
        };
        if let Some(board) = inside {
            let [low, high] = board.extent();
            let across = low[1] + (high[1] - low[1]) * spread;
            let u = match fold {
                Some(folded) => {
                    // the place along the lanes, from the end the path starts at
                    let spec = cabinet.fold.unwrap_or_default();
                    let far = spec.begins == crate::document::Near::TopOrBack;
                    let long = if spec.runs == Runs::Upright { board.u[1] } else { board.u[2] };
                    let from_low = (long > 0.0) != far;
                    if from_low { low[0] + folded.woofer_along } else { high[0] - folded.woofer_along }
                }
                None => 0.5 * (low[0] + high[0]),
            };
            // a front horn's magnet stands in the closed chamber, which lies before the board's face; a tapped horn's in the lane
            // near the mouth, behind it
            let before = matches!(design.enclosure, Enclosure::FrontHorn(_));
            let at = board.place([u, across], if before { board.thickness_mm } else { 0.0 });
            let n = board.normal();
            list.push(Seat {
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
                screws: design.woofer.screws,
            });
            continue;
        }
        let mut spot = cabinet.woofers_at.get(i).copied().unwrap_or_else(|| usual_woofer(analysis, cabinet, i, count));
        let mut movable = true;
        if let Some(folded) = fold {
            // the fold says where along the lane it stands
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
        let mut made = seat(cabinet, solids, Kind::Woofer, &name(i), spot, i, opening, Some(frame), depth);
        made.estimated = estimated;
        made.inner_mm = magnet;
        made.screws = design.woofer.screws;
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
        let ([_, frame, ..], _) = woofer_sizes(analysis);
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

fn openings(analysis: &Analysis, cabinet: &Cabinet, solids: &Solids) -> Vec<Seat> {
    let mut list = Vec::new();
    let (w, h, t) = (cabinet.width_mm, cabinet.height_mm, cabinet.panel_mm);
    let tube = matches!(cabinet.shape, Shape::Tube { .. });
    let mut k = 0;
    for report in &analysis.wired.ports {
        let port = &report.port;
        let (hole, flange) = port.fitting();
        let length = report.realised.length * 1e3;
        // of a sixth-order box's inner port there is a hole in the woofer's board: not on a face
        let leads_inside = matches!(
            &analysis.design.enclosure,
            Enclosure::BandpassSixth(b) if report.pointer.contains("rear") && b.leads == RearPortLeads::FrontChamber
        );
        if leads_inside {
            continue;
        }
        for i in 0..port.count as usize {
            let spread = (i as f64 + 0.5) / f64::from(port.count);
            let opening = match port.section {
                Section::Round { .. } => Opening::Round { diameter_mm: hole * 1e3 },
                Section::Square { side_mm } => Opening::Rectangle { length_mm: side_mm, width_mm: side_mm },
                Section::Slot { width_mm, height_mm } => Opening::Rectangle { length_mm: height_mm, width_mm },
                Section::Triangle { leg_mm } => Opening::Round { diameter_mm: leg_mm },
            };
            let fixed = !matches!(port.section, Section::Round { .. }) && port.walls_alongside > 0;
            let half = opening.half();
            let inside = analysis.wired.chambers.first().and_then(|c| c.inside).filter(|_| port.count == 1);
            let spot = if fixed {
                let across = if port.walls_alongside == 2 { t + half[1] } else { w * spread };
                Spot { face: port.leaves, across_mm: across, up_mm: t + half[0] }
            } else {
                cabinet.openings_at.get(k).copied().unwrap_or_else(|| match (tube, inside) {
                    (true, _) => Spot { face: Face::Top, across_mm: w * spread, up_mm: w / 2.0 },
                    (_, Some(inside)) if port.leaves == Face::Baffle => Spot {
                        face: Face::Baffle,
                        across_mm: t + inside.opening_across_mm,
                        up_mm: t + inside.opening_up_mm,
                    },
                    _ => {
                        let least = flange.map_or(half[0], |f| f * 500.0) + 12.0;
                        let (wide, high) = match port.leaves {
                            Face::Side => (cabinet.depth_mm, h),
                            Face::Top | Face::Floor => (w, cabinet.depth_mm),
                            _ => (w, h),
                        };
                        Spot {
                            face: port.leaves,
                            across_mm: wide * spread,
                            up_mm: (t + 0.14 * high).max(least).round(),
                        }
                    }
                })
            };
            let name = if list.is_empty() && port.count == 1 { "port".to_owned() } else { format!("port {}", k + 1) };
            let frame = flange.map(|f| f * 1e3);
            let mut made = seat(cabinet, solids, Kind::Port, &name, spot, i, opening, frame, length);
            made.pointer = (!fixed).then(|| format!("/cabinet/openings_at/{k}"));
            made.inner_mm = match port.section {
                Section::Round { diameter_mm } => diameter_mm + 2.0 * port.wall_mm,
                _ => 2.0 * half[0].min(half[1]),
            };
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
    if let Enclosure::PassiveRadiator(b) = &analysis.design.enclosure {
        let r = &b.radiators;
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
            let mut made = seat(
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
            let mut made = seat(cabinet, solids, Kind::Mouth, &name, spot, i, opening, None, 0.0);
            // what has no boards around it, as on the front, needs no hole
            made.pointer = None;
            list.push(made);
        }
    }
    list
}

impl Seat {
    /// The space it takes inside, as convex bodies; a woofer is a basket and a magnet.
    pub fn bodies(&self) -> Vec<Body> {
        let half = self.opening.half();
        let up: V3 = if self.inward[1].abs() > 0.7 { [0.0, 0.0, 1.0] } else { [0.0, 1.0, 0.0] };
        let right = oak_drum_cabinet::board::cross(up, self.inward);
        let list = match (self.kind, self.opening) {
            (Kind::Mouth, _) => vec![],
            (Kind::Woofer | Kind::Radiator, Opening::Round { diameter_mm }) => {
                let (basket, magnet) = (diameter_mm / 2.0, self.inner_mm / 2.0);
                // frame and cone over three fifths of the depth, the magnet over the rest (common practice)
                let cone = 0.6 * self.depth_mm;
                vec![
                    Body::round(self.at, self.inward, cone, basket, magnet.min(basket)),
                    Body::round(
                        along(self.at, self.inward, cone),
                        self.inward,
                        (self.depth_mm - cone).max(1.0),
                        magnet,
                        magnet,
                    ),
                ]
            }
            (_, Opening::Round { .. }) => {
                let r = self.inner_mm / 2.0;
                vec![Body::round(self.at, self.inward, self.depth_mm.max(1.0), r, r)]
            }
            (_, Opening::Rectangle { .. }) => {
                vec![Body::block(self.at, (self.inward, self.depth_mm.max(1.0)), (up, half[0]), (right, half[1]))]
            }
        };
        list.into_iter().flatten().collect()
    }
}
