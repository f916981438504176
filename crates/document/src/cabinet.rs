//! The cabinet of a design: outside, boards, braces, and how it is sawn.

use crate::saw::Saw;
use crate::shape::{AmplifierSpace, Constraint, FoldSpec, Shape, Spot, Terminals};
use oak_drum_acoustics::panels::BoardMaterial;
use oak_drum_acoustics::port::Face;
use oak_drum_text::mm;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The cabinet: a rectangular box of boards.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Cabinet")]
pub struct Cabinet {
    /// Outside width.
    #[schemars(title = "Width", range(min = 50.0, max = 5000.0), extend("x-start" = 400, "x-unit" = "mm"))]
    pub width_mm: f64,
    /// Outside height.
    #[schemars(title = "Height", range(min = 50.0, max = 5000.0), extend("x-start" = 600, "x-unit" = "mm"))]
    pub height_mm: f64,
    /// Outside depth, from the baffle's face to the back.
    #[schemars(title = "Depth", range(min = 50.0, max = 5000.0), extend("x-start" = 450, "x-unit" = "mm"))]
    pub depth_mm: f64,
    /// Thickness of the boards, as measured.
    #[schemars(title = "Boards", range(min = 3.0, max = 100.0), extend("x-start" = 18, "x-unit" = "mm"))]
    pub panel_mm: f64,
    /// Thickness of the baffle (both layers of a double one).
    #[schemars(title = "Baffle", range(min = 3.0, max = 150.0), extend("x-start" = 18, "x-unit" = "mm"))]
    pub baffle_mm: f64,
    /// The line of its front, or a tube between two discs.
    #[schemars(title = "Shape")]
    #[serde(default, skip_serializing_if = "Shape::is_straight")]
    pub shape: Shape,
    /// What is held; what is not follows from the net volume that is wanted, or the volume follows from the outside.
    #[schemars(title = "Holds")]
    #[serde(default, skip_serializing_if = "Constraint::is_all")]
    pub held: Constraint,
    /// Of how many equal layers the baffle is glued up.
    #[schemars(title = "Baffle's layers", range(min = 1, max = 4), extend("default" = 1))]
    #[serde(default = "one", skip_serializing_if = "is_one")]
    pub baffle_layers: u32,
    /// What small parts take that are not listed below.
    #[schemars(title = "Small parts", range(min = 0.0, max = 500.0), extend("x-start" = 0, "x-unit" = "L"))]
    #[serde(default)]
    pub bracing_l: f64,
    /// Square strips in all the inside corners, for glue and for sealing; empty is none. 19 mm is usual.
    #[schemars(title = "Corner strips", range(min = 8.0, max = 60.0), extend("x-start" = 19, "x-unit" = "mm"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub strips_mm: Option<f64>,
    /// A line or horn folded into it: its real lengths and areas are then what is computed.
    #[schemars(title = "Fold")]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub fold: Option<FoldSpec>,
    /// An amplifier built in: its bulk where its back is closed, a chamber of its own where it is open.
    #[schemars(title = "Amplifier in it", extend("x-group" = "Parts on its faces"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub amplifier: Option<AmplifierSpace>,
    /// A terminal cup; empty is none.
    #[schemars(title = "Terminal cup", extend("x-group" = "Parts on its faces"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub terminals: Option<Terminals>,
    /// Where the woofers are; those without a place stand where it is usual.
    #[schemars(title = "Woofers at", length(max = 32), extend("x-group" = "Parts on its faces"))]
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub woofers_at: Vec<Spot>,
    /// Where ports or radiators are; those without a place stand where it is usual.
    #[schemars(title = "Openings at", length(max = 32), extend("x-group" = "Parts on its faces"))]
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub openings_at: Vec<Spot>,
    /// How deep the woofers' frames are let into the face they sit on, so that they are flush; empty for frames that lie on it.
    #[schemars(title = "Frames let in", range(min = 0.5, max = 40.0), extend("x-start" = 6, "x-unit" = "mm", "x-group" = "Parts on its faces"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub recess_mm: Option<f64>,
    /// Height of the feet; a woofer that looks down wants at least its excursion and some air under it.
    #[schemars(title = "Feet", range(min = 1.0, max = 400.0), extend("x-start" = 20, "x-unit" = "mm", "x-group" = "Outside"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub feet_mm: Option<f64>,
    /// Radius the outer edges are rounded over with.
    #[schemars(title = "Round-over", range(min = 1.0, max = 60.0), extend("x-start" = 12, "x-unit" = "mm", "x-group" = "Outside"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub round_over_mm: Option<f64>,
    /// Thickness of veneer or cladding outside; comes on top of the outside sizes above.
    #[schemars(title = "Veneer", range(min = 0.1, max = 20.0), extend("x-start" = 0.6, "x-unit" = "mm", "x-group" = "Outside"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub veneer_mm: Option<f64>,
    /// What the boards are made of.
    #[schemars(title = "Material", extend("x-group" = "Panels"))]
    #[serde(default)]
    pub board: BoardMaterial,
    /// What the baffle is made of; empty is the same.
    #[schemars(title = "Baffle of", extend("x-group" = "Panels"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub baffle_board: Option<BoardMaterial>,
    /// The inner layer of the boards, where they are glued up from two materials.
    #[schemars(title = "Inner layer", extend("x-group" = "Panels"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub inner_layer: Option<InnerLayer>,
    /// By what factor the lowest mode of every panel should clear the band.
    #[schemars(title = "Panels clear by", range(min = 1.0, max = 5.0), extend("x-group" = "Panels", "x-step" = 0.1))]
    #[serde(default = "clear_by")]
    pub clear_by: f64,
    /// How its boards meet and what they are sawn from.
    #[schemars(title = "At the saw", extend("x-group" = "At the saw"))]
    #[serde(default, skip_serializing_if = "Saw::is_usual")]
    pub saw: Saw,
    /// Braces.
    #[schemars(title = "Braces", length(max = 24), extend("x-group" = "Braces"))]
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub braces: Vec<Brace>,
}

fn clear_by() -> f64 {
    1.5
}

fn one() -> u32 {
    1
}

fn is_one(count: &u32) -> bool {
    *count == 1
}

/// The inner layer of a board glued up from two.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Inner layer")]
pub struct InnerLayer {
    /// What it is made of.
    #[schemars(title = "Inner layer of", extend("x-start" = "birch_plywood"))]
    pub board: BoardMaterial,
    /// How much of the boards' thickness it is.
    #[schemars(title = "Inner layer", range(min = 1.0, max = 80.0), extend("x-start" = 9, "x-unit" = "mm"))]
    pub thickness_mm: f64,
}

/// Which way a brace lies.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Lies {
    /// Flat, like a shelf; its place is counted from the floor.
    #[default]
    Level,
    /// On edge, along the side walls; counted from the left side wall.
    Upright,
    /// On edge, along the baffle; counted from the baffle's inner face.
    Frontal,
}

impl Lies {
    /// The direction it stands across: 0 across, 1 up, 2 behind the baffle.
    pub fn axis(self) -> usize {
        match self {
            Lies::Upright => 0,
            Lies::Level => 1,
            Lies::Frontal => 2,
        }
    }
}

/// Which two walls a dowel ties.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Ties {
    /// The side walls; its place is behind the baffle and up.
    #[default]
    Sides,
    /// Baffle and back; its place is across and up.
    FrontAndBack,
    /// Floor and top; its place is across and behind the baffle.
    FloorAndTop,
}

/// A brace.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[schemars(title = "Brace")]
pub enum Brace {
    /// A board across the whole inside with openings sawn out.
    #[schemars(title = "Window")]
    Window {
        /// Which way it lies.
        #[schemars(title = "Lies")]
        lies: Lies,
        /// Where its middle is.
        #[schemars(title = "At", range(min = 1.0, max = 5000.0), extend("x-start" = 250, "x-unit" = "mm"))]
        at_mm: f64,
        /// Thickness.
        #[schemars(title = "Thickness", range(min = 3.0, max = 100.0), extend("x-start" = 18, "x-unit" = "mm"))]
        thickness_mm: f64,
        /// The part that is sawn out.
        #[schemars(title = "Open part", range(min = 0.0, max = 0.9), extend("x-start" = 0.5, "x-step" = 0.05))]
        open_part: f64,
    },
    /// A board that begins at the back (lying along the baffle: at the floor) and leaves a gap before the wall opposite.
    #[schemars(title = "Shelf")]
    Shelf {
        /// Which way it lies.
        #[schemars(title = "Lies")]
        lies: Lies,
        /// Where its middle is.
        #[schemars(title = "At", range(min = 1.0, max = 5000.0), extend("x-start" = 250, "x-unit" = "mm"))]
        at_mm: f64,
        /// Thickness.
        #[schemars(title = "Thickness", range(min = 3.0, max = 100.0), extend("x-start" = 18, "x-unit" = "mm"))]
        thickness_mm: f64,
        /// How far it reaches, as a part of the way.
        #[schemars(title = "Reaches", range(min = 0.1, max = 1.0), extend("x-start" = 0.7, "x-step" = 0.05))]
        reach_part: f64,
    },
    /// Two bars that cross in the middle and tie four walls.
    #[schemars(title = "Cross")]
    Cross {
        /// Which way it lies.
        #[schemars(title = "Lies")]
        lies: Lies,
        /// Where its middle is.
        #[schemars(title = "At", range(min = 1.0, max = 5000.0), extend("x-start" = 250, "x-unit" = "mm"))]
        at_mm: f64,
        /// Width and height of each bar.
        #[schemars(title = "Bar", range(min = 5.0, max = 200.0), extend("x-start" = 30, "x-unit" = "mm"))]
        bar_mm: f64,
    },
    /// A round bar that ties two walls.
    #[schemars(title = "Dowel")]
    Dowel {
        /// Which walls.
        #[schemars(title = "Ties")]
        ties: Ties,
        /// Its first place: behind the baffle (side walls) or across.
        #[schemars(title = "At", range(min = 1.0, max = 5000.0), extend("x-start" = 200, "x-unit" = "mm"))]
        at_mm: f64,
        /// Its second place: up, or behind the baffle between floor and top.
        #[schemars(title = "and at", range(min = 1.0, max = 5000.0), extend("x-start" = 250, "x-unit" = "mm"))]
        and_mm: f64,
        /// Diameter.
        #[schemars(title = "Diameter", range(min = 5.0, max = 120.0), extend("x-start" = 30, "x-unit" = "mm"))]
        diameter_mm: f64,
    },
}

impl Cabinet {
    /// Outside volume, L: what it takes of the room, a leaning front's missing corner included.
    pub fn outside_l(&self) -> f64 {
        self.width_mm * self.height_mm * self.depth_mm * 1e-6
    }
    /// Inside width, height, depth, mm; negative where the boards are thicker than the box. Of a leaning or stepped front the
    /// depth is the mean one; a tube counts as the square of its bore.
    pub fn inside_mm(&self) -> [f64; 3] {
        if let Shape::Tube { wall_mm } = self.shape {
            let bore = self.width_mm - 2.0 * wall_mm;
            return [bore, self.height_mm - self.panel_mm - self.baffle_mm, bore];
        }
        let off = match self.shape {
            Shape::Sloped { back_mm } => back_mm / 2.0,
            Shape::Stepped { at_mm, back_mm } => back_mm * (1.0 - at_mm / self.height_mm).clamp(0.0, 1.0),
            Shape::Straight {} | Shape::Tube { .. } => 0.0,
        };
        [
            self.width_mm - 2.0 * self.panel_mm,
            self.height_mm - 2.0 * self.panel_mm,
            self.depth_mm - self.panel_mm - self.baffle_mm - off,
        ]
    }
    /// Thickness of a wall, mm.
    pub fn wall_mm(&self, face: Face) -> f64 {
        if face == Face::Baffle { self.baffle_mm } else { self.panel_mm }
    }

    /// What is wrong with it that only several fields together can tell: (field, message).
    pub fn problems(&self) -> Vec<(String, String)> {
        let mut list = Vec::new();
        let inside = self.inside_mm();
        if let Some(axis) = (0..3).find(|axis| inside[*axis] <= 0.0) {
            // the smallest change that would do: boards a little thinner than half the side
            let (field, side) = [("width", self.width_mm), ("height", self.height_mm), ("depth", self.depth_mm)][axis];
            let least = side - inside[axis] + 10.0;
            let message = format!(
                "the boards are thicker than the box: nothing is left inside of {side:.0} of {field}; at least {least:.0} is expected",
                side = mm(side),
                least = mm(least)
            );
            list.push(("panel_mm".into(), message));
            return list;
        }
        list.extend(shape_problems(self));
        let tube = matches!(self.shape, Shape::Tube { .. });
        if tube && !self.braces.is_empty() {
            list.push(("braces".into(), "a tube takes no braces here; take them out".into()));
        }
        if self.fold.is_some() {
            if !self.shape.is_straight() {
                list.push((
                    "fold".into(),
                    "a path is folded into a box with a straight front; choose that shape".into(),
                ));
            }
            if !self.braces.is_empty() {
                let message = "braces would stand in the folded path, whose own boards tie the walls; take them out";
                list.push(("braces".into(), message.into()));
            }
        }
        if let Some(layer) = &self.inner_layer
            && layer.thickness_mm >= self.panel_mm
        {
            let message = format!(
                "an inner layer of {} is all of the boards' {}; less than {} is expected",
                mm(layer.thickness_mm),
                mm(self.panel_mm),
                mm(self.panel_mm)
            );
            list.push(("inner_layer/thickness_mm".into(), message));
        }
        let mut within = |i: usize, field: &str, value: f64, most: f64, what: &str| {
            if value > most {
                let message = format!(
                    "brace {}: {value} lies outside the box, {what} {most:.0}",
                    i + 1,
                    value = mm(value),
                    most = mm(most)
                );
                list.push((format!("braces/{i}/{field}"), message));
            }
        };
        for (i, brace) in self.braces.iter().enumerate() {
            match *brace {
                Brace::Window { lies, at_mm, .. }
                | Brace::Shelf { lies, at_mm, .. }
                | Brace::Cross { lies, at_mm, .. } => {
                    within(i, "at_mm", at_mm, inside[lies.axis()], "which inside measures");
                }
                Brace::Dowel { ties, at_mm, and_mm, .. } => {
                    let (a, b) = match ties {
                        Ties::Sides => (inside[2], inside[1]),
                        Ties::FrontAndBack => (inside[0], inside[1]),
                        Ties::FloorAndTop => (inside[0], inside[2]),
                    };
                    within(i, "at_mm", at_mm, a, "which inside measures");
                    within(i, "and_mm", and_mm, b, "which inside measures");
                }
            }
        }
        list
    }
}

/// What of a shape does not go with the rest: (field, message).
fn shape_problems(cabinet: &Cabinet) -> Vec<(String, String)> {
    let room = cabinet.depth_mm - cabinet.panel_mm - cabinet.baffle_mm;
    let mut list = Vec::new();
    let mut add = |field: &str, message: String| list.push((format!("shape/{field}"), message));
    match cabinet.shape {
        Shape::Sloped { back_mm } | Shape::Stepped { back_mm, .. } if back_mm >= room - 20.0 => {
            add(
                "back_mm",
                format!("the upper edge would stand behind the back; less than {:.0} is expected", mm(room - 20.0)),
            );
        }
        Shape::Stepped { at_mm, .. }
            if at_mm < 2.0 * cabinet.panel_mm || at_mm > cabinet.height_mm - 2.0 * cabinet.panel_mm =>
        {
            let (low, high) = (2.0 * cabinet.panel_mm, cabinet.height_mm - 2.0 * cabinet.panel_mm);
            add("at_mm", format!("the step must lie between floor and top, from {:.0} to {:.0}", mm(low), mm(high)));
        }
        _ => {}
    }
    list
}
