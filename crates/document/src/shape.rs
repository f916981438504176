//! The shape of a cabinet, what of it is held, how a path is folded into it, and what sits on its faces.

use oak_drum_acoustics::port::Face;
use oak_drum_cabinet::fold::{Leaves, Pattern, Runs};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The line of the front, or a tube.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[schemars(title = "Shape")]
pub enum Shape {
    /// An upright front.
    #[schemars(title = "Straight")]
    Straight {},
    /// A front that leans back.
    #[schemars(title = "Sloped")]
    Sloped {
        /// How far its top edge stands behind its foot.
        #[schemars(title = "Leans back", range(min = 1.0, max = 2000.0), extend("x-start" = 60, "x-unit" = "mm"))]
        back_mm: f64,
    },
    /// A front whose upper part stands back.
    #[schemars(title = "Stepped")]
    Stepped {
        /// Height of the step.
        #[schemars(title = "Step at", range(min = 20.0, max = 5000.0), extend("x-start" = 300, "x-unit" = "mm"))]
        at_mm: f64,
        /// How far the upper part stands back.
        #[schemars(title = "Stands back", range(min = 1.0, max = 2000.0), extend("x-start" = 50, "x-unit" = "mm"))]
        back_mm: f64,
    },
    /// A bought tube, upright between two discs: the upper as thick as the boards, the lower as the baffle. Its width is the
    /// outside diameter.
    #[schemars(title = "Tube")]
    Tube {
        /// Wall of the tube; 5 mm or more of heavy plastic (common practice).
        #[schemars(title = "Tube wall", range(min = 1.0, max = 60.0), extend("x-start" = 8, "x-unit" = "mm"))]
        wall_mm: f64,
    },
}

impl Default for Shape {
    fn default() -> Self {
        Shape::Straight {}
    }
}

impl Shape {
    pub(crate) fn is_straight(&self) -> bool {
        *self == Shape::Straight {}
    }
}

/// What of the cabinet is held, and what follows.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Constraint {
    /// Outside and volume both as stated; the ledger says what is missing.
    #[default]
    All,
    /// The outside; the net volume is what the boards leave.
    Outside,
    /// Width and height; the depth follows from the net volume.
    WidthAndHeight,
    /// Width and depth; the height follows.
    WidthAndDepth,
    /// Height and depth; the width follows.
    HeightAndDepth,
    /// The ratio of the outside; all three sides follow.
    Ratio,
}

impl Constraint {
    pub(crate) fn is_all(&self) -> bool {
        *self == Constraint::All
    }
}

/// Where the path begins.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Near {
    /// At the floor; of level segments at the front.
    #[default]
    FloorOrFront,
    /// At the top; of level segments at the back.
    TopOrBack,
}

/// Where the first segment lies.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum FirstSegment {
    /// Behind the baffle; of level segments over the floor.
    #[default]
    FrontOrFloor,
    /// Before the back; of level segments under the top.
    BackOrTop,
}

/// Which wall the woofer of a line is mounted on.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum WooferOn {
    /// The baffle.
    #[default]
    Baffle,
    /// A side: anywhere along the first segment.
    Side,
}

/// How a line or a horn is folded into the cabinet.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Fold")]
pub struct FoldSpec {
    /// How often and which way it turns.
    #[schemars(title = "Pattern", extend("x-start" = "u"))]
    pub pattern: Pattern,
    /// Which way its segments run; mirrored ones run level.
    #[schemars(title = "Segments run", extend("x-start" = "upright"))]
    pub runs: Runs,
    /// Which end of the segments the path begins at.
    #[schemars(title = "Begins at", extend("x-start" = "floor_or_front"))]
    pub begins: Near,
    /// Where the first segment lies.
    #[schemars(title = "First segment", extend("x-start" = "front_or_floor"))]
    pub first_segment: FirstSegment,
    /// How the path leaves the box.
    #[schemars(title = "Mouth", extend("x-start" = "straight"))]
    pub leaves: Leaves,
    /// Thickness of its boards; empty is that of the walls.
    #[schemars(title = "Fold's boards", range(min = 3.0, max = 60.0), extend("x-unit" = "mm"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub board_mm: Option<f64>,
    /// Which wall a line's woofer is on; a front horn's stands between chamber and throat, a tapped horn's on the divider.
    #[schemars(title = "Woofer on", extend("x-start" = "baffle"))]
    pub woofer_on: WooferOn,
}

/// An amplifier in the cabinet.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[schemars(title = "Amplifier in it")]
pub enum AmplifierSpace {
    /// With a closed back: its bulk is taken off.
    #[schemars(title = "Closed back")]
    Closed {
        /// Width of its cut-out.
        #[schemars(title = "Cut-out, width", range(min = 30.0, max = 800.0), extend("x-start" = 200, "x-unit" = "mm"))]
        width_mm: f64,
        /// Height of its cut-out.
        #[schemars(title = "Cut-out, height", range(min = 30.0, max = 800.0), extend("x-start" = 220, "x-unit" = "mm"))]
        height_mm: f64,
        /// How far it reaches in, from the face it is screwed on.
        #[schemars(title = "Depth", range(min = 10.0, max = 500.0), extend("x-start" = 80, "x-unit" = "mm"))]
        depth_mm: f64,
        /// Where it is.
        #[schemars(title = "Place")]
        at: Spot,
    },
    /// With an open back: it gets a sealed chamber of its own.
    #[schemars(title = "Own chamber")]
    OwnChamber {
        /// Width of its cut-out.
        #[schemars(title = "Cut-out, width", range(min = 30.0, max = 800.0), extend("x-start" = 200, "x-unit" = "mm"))]
        width_mm: f64,
        /// Height of its cut-out.
        #[schemars(title = "Cut-out, height", range(min = 30.0, max = 800.0), extend("x-start" = 220, "x-unit" = "mm"))]
        height_mm: f64,
        /// Depth of the chamber behind the wall.
        #[schemars(title = "Chamber, depth", range(min = 20.0, max = 500.0), extend("x-start" = 110, "x-unit" = "mm"))]
        depth_mm: f64,
        /// Where it is; its chamber stands against the back.
        #[schemars(title = "Place")]
        at: Spot,
    },
    /// As the sheet of the amplifier at the Drive says: cut-out, depth, and a chamber of its own where its back is open.
    #[schemars(title = "By its sheet")]
    BySheet {
        /// Where it is.
        #[schemars(title = "Place")]
        at: Spot,
    },
}

impl AmplifierSpace {
    /// Where it is.
    pub fn at(&self) -> Spot {
        match self {
            AmplifierSpace::Closed { at, .. }
            | AmplifierSpace::OwnChamber { at, .. }
            | AmplifierSpace::BySheet { at } => *at,
        }
    }
}

/// An amplifier in a cabinet, with its measures.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct BuiltIn {
    /// Whether it stands in a chamber of its own.
    pub own_chamber: bool,
    /// Width of its cut-out, mm.
    pub width_mm: f64,
    /// Height of its cut-out, mm.
    pub height_mm: f64,
    /// How far it reaches in from the face it is screwed on, mm; of its own chamber the depth behind the wall.
    pub depth_mm: f64,
    /// Where it is.
    pub at: Spot,
}

/// A terminal cup in the back.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Terminal cup")]
pub struct Terminals {
    /// Diameter of its hole.
    #[schemars(title = "Hole", range(min = 5.0, max = 300.0), extend("x-start" = 76, "x-unit" = "mm"))]
    pub hole_mm: f64,
    /// How far it reaches in.
    #[schemars(title = "Depth", range(min = 5.0, max = 200.0), extend("x-start" = 50, "x-unit" = "mm"))]
    pub depth_mm: f64,
    /// Where it is.
    #[schemars(title = "Place")]
    pub at: Spot,
}

/// A place on a face, seen from outside.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Place")]
pub struct Spot {
    /// Which face; things on the sides stand left and right in turn.
    #[schemars(title = "Face", extend("x-start" = "baffle"))]
    pub face: Face,
    /// Middle, from the face's left edge.
    #[schemars(title = "Across", range(min = 0.0, max = 5000.0), extend("x-start" = 200, "x-unit" = "mm"))]
    pub across_mm: f64,
    /// Middle, from the face's lower edge.
    #[schemars(title = "Up", range(min = 0.0, max = 5000.0), extend("x-start" = 200, "x-unit" = "mm"))]
    pub up_mm: f64,
}
