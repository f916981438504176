//! A thing on a face of the cabinet: where it sits, the hole it wants, the space it takes inside.

use crate::analysis::solids::Solids;
use crate::analysis::spots::frame_of;
use oak_drum_acoustics::port::Face;
use oak_drum_cabinet::board::{Opening, V3, along};
use oak_drum_cabinet::bodies::Body;
use oak_drum_cabinet::carcass::FaceFrame;
use oak_drum_document::{Cabinet, Shape, Spot};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

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
pub struct MountedPart {
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
    /// By how much its inner end flares out, mm in radius.
    pub flare_mm: f64,
    /// How many screws its sheet states.
    pub screws: Option<u32>,
    /// Diameter of the circle they stand on, where its sheet states it, mm.
    pub screw_circle_mm: Option<f64>,
}

/// Screws of a frame: as many as is usual for its size (common practice).
pub fn screws(frame: f64) -> u32 {
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

/// A mounted part at a spot, the i-th of its kind.
#[allow(clippy::too_many_arguments)]
pub fn mounted_part_at(
    cabinet: &Cabinet,
    solids: &Solids,
    kind: Kind,
    name: &str,
    spot: Spot,
    i: usize,
    opening: Opening,
    frame: Option<f64>,
    depth: f64,
) -> MountedPart {
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
    MountedPart {
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
        flare_mm: 0.0,
        screws: None,
        screw_circle_mm: None,
    }
}

/// Into the box: right × up of a face seen from outside, in axes that are left-handed to the eye.
fn inward(frame: &FaceFrame) -> V3 {
    oak_drum_cabinet::board::cross(frame.right, frame.up)
}

impl MountedPart {
    /// The same thing at another spot of its face.
    pub fn moved(&self, cabinet: &Cabinet, solids: &Solids, spot: Spot) -> MountedPart {
        let Some(face) = self.face else { return self.clone() };
        let frame = frame_of(cabinet, solids.carcass.as_ref(), face, spot.up_mm);
        let at = along(along(frame.at, frame.right, spot.across_mm), frame.up, spot.up_mm);
        MountedPart {
            across_mm: spot.across_mm,
            up_mm: spot.up_mm,
            at,
            inward: inward(&frame),
            spot: Some(spot),
            ..self.clone()
        }
    }

    /// Which way it reaches into the box: a port of boards lies level behind a front that leans.
    pub fn reaches(&self) -> V3 {
        let boards = self.kind == Kind::Port && !matches!(self.opening, Opening::Round { .. });
        if boards && self.face == Some(0) { [0.0, 0.0, 1.0] } else { self.inward }
    }

    /// The space it takes inside, as convex bodies; a woofer is a basket and a magnet.
    pub fn bodies(&self) -> Vec<Body> {
        let half = self.opening.half();
        let inward = self.reaches();
        let up: V3 = if inward[1].abs() > 0.7 { [0.0, 0.0, 1.0] } else { [0.0, 1.0, 0.0] };
        let right = oak_drum_cabinet::board::cross(up, inward);
        let list = match (self.kind, self.opening) {
            (Kind::Mouth, _) => vec![],
            (Kind::Woofer | Kind::Radiator, Opening::Round { diameter_mm }) => {
                let (basket, magnet) = (diameter_mm / 2.0, self.inner_mm / 2.0);
                // frame and cone over three fifths of the depth, the magnet over the rest (common practice)
                let cone = 0.6 * self.depth_mm;
                vec![
                    Body::round(self.at, inward, cone, basket, magnet.min(basket)),
                    Body::round(along(self.at, inward, cone), inward, (self.depth_mm - cone).max(1.0), magnet, magnet),
                ]
            }
            (_, Opening::Round { .. }) => {
                let (r, flare) = (self.inner_mm / 2.0, self.flare_mm);
                let begins = along(self.at, inward, (self.depth_mm - flare).max(0.0));
                vec![
                    Body::round(self.at, inward, self.depth_mm.max(1.0), r, r),
                    (flare > 0.0).then(|| Body::round(begins, inward, flare, r, r + flare)).flatten(),
                ]
            }
            (_, Opening::Triangle { length_mm, width_mm }) => {
                let (l, w) = (length_mm / 2.0, width_mm / 2.0);
                // the floor's own up runs the other way
                let sign = if self.face == Some(5) { -1.0 } else { 1.0 };
                let points: Vec<V3> = [[-l, -w], [l, -w], [-l, w]]
                    .into_iter()
                    .flat_map(|[y, x]| {
                        let p = along(along(self.at, up, sign * y), right, sign * x);
                        [p, along(p, inward, self.depth_mm.max(1.0))]
                    })
                    .collect();
                vec![Body::hull(&points)]
            }
            (_, Opening::Rectangle { .. }) => {
                vec![Body::block(self.at, (inward, self.depth_mm.max(1.0)), (up, half[0]), (right, half[1]))]
            }
        };
        list.into_iter().flatten().collect()
    }
}
