//! The cabinet of a design: outside, boards, braces, and how it is sawn.

use oak_drum_acoustics::panels::Board;
use oak_drum_acoustics::port::{Face, Port};
use oak_drum_cabinet::carcass::{Joint, Through};
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
    /// What corner strips and other small parts take; the braces below are counted by themselves.
    #[schemars(title = "Strips and others", range(min = 0.0, max = 500.0), extend("x-start" = 0, "x-unit" = "L"))]
    #[serde(default)]
    pub bracing_l: f64,
    /// What the boards are made of.
    #[schemars(title = "Material", extend("x-group" = "Panels"))]
    #[serde(default)]
    pub board: Board,
    /// What the baffle is made of; empty is the same.
    #[schemars(title = "Baffle of", extend("x-group" = "Panels"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub baffle_board: Option<Board>,
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

/// How a cabinet is sawn.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "At the saw")]
pub struct Saw {
    /// How floor, top and sides meet.
    #[schemars(title = "Joints")]
    pub joint: Joint,
    /// Which of them run through at the corners.
    #[schemars(title = "Run through")]
    pub through: Through,
    /// Length of a sheet, along its grain.
    #[schemars(title = "Sheet length", range(min = 200.0, max = 6000.0), extend("x-unit" = "mm"))]
    pub sheet_length_mm: f64,
    /// Width of a sheet.
    #[schemars(title = "Sheet width", range(min = 200.0, max = 3000.0), extend("x-unit" = "mm"))]
    pub sheet_width_mm: f64,
    /// What the saw takes.
    #[schemars(title = "Kerf", range(min = 0.0, max = 10.0), extend("x-unit" = "mm"))]
    pub kerf_mm: f64,
    /// What is trimmed off each edge of a sheet first.
    #[schemars(title = "Trim", range(min = 0.0, max = 50.0), extend("x-unit" = "mm"))]
    pub trim_mm: f64,
    /// What a shop leaves on, to be trimmed at home.
    #[schemars(title = "Oversize", range(min = 0.0, max = 50.0), extend("x-unit" = "mm"))]
    pub oversize_mm: f64,
    /// Whether pieces keep their length along the grain.
    #[schemars(title = "Keep the grain")]
    pub keep_grain: bool,
    /// What inches are rounded to.
    #[schemars(title = "Inches in")]
    pub inches: InchSteps,
}

impl Default for Saw {
    fn default() -> Self {
        Saw {
            joint: Joint::Butt,
            through: Through::FloorAndTop,
            sheet_length_mm: 2440.0,
            sheet_width_mm: 1220.0,
            kerf_mm: 3.2,
            trim_mm: 5.0,
            oversize_mm: 0.0,
            keep_grain: false,
            inches: InchSteps::ThirtySeconds,
        }
    }
}

impl Saw {
    fn is_usual(&self) -> bool {
        *self == Saw::default()
    }
}

/// What inches are rounded to.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum InchSteps {
    /// Sixteenths.
    Sixteenths,
    /// Thirty-seconds.
    #[default]
    ThirtySeconds,
}

impl InchSteps {
    /// Steps in an inch.
    pub fn steps(self) -> u32 {
        match self {
            InchSteps::Sixteenths => 16,
            InchSteps::ThirtySeconds => 32,
        }
    }
}

/// The inner layer of a board glued up from two.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Inner layer")]
pub struct InnerLayer {
    /// What it is made of.
    #[schemars(title = "Inner layer of", extend("x-start" = "birch_plywood"))]
    pub board: Board,
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
    /// Outside volume, L.
    pub fn outside_l(&self) -> f64 {
        self.width_mm * self.height_mm * self.depth_mm * 1e-6
    }
    /// Inside width, height, depth, mm; negative where the boards are thicker than the box.
    pub fn inside_mm(&self) -> [f64; 3] {
        [
            self.width_mm - 2.0 * self.panel_mm,
            self.height_mm - 2.0 * self.panel_mm,
            self.depth_mm - self.panel_mm - self.baffle_mm,
        ]
    }
    /// Inside volume, L; 0 where there is none.
    pub fn inside_l(&self) -> f64 {
        self.inside_mm().iter().map(|side| side.max(0.0)).product::<f64>() * 1e-6
    }
    /// Thickness of a wall, mm.
    pub fn wall_mm(&self, face: Face) -> f64 {
        if face == Face::Baffle { self.baffle_mm } else { self.panel_mm }
    }
    /// What a port of a length (m) takes from the inside, L: its tube with walls and air, behind the wall it goes through.
    pub fn port_l(&self, port: &Port, length: f64) -> f64 {
        port.displacement(length - self.wall_mm(port.leaves) * 1e-3) * 1e3
    }
    /// What a brace takes from the inside, L.
    pub fn brace_l(&self, brace: &Brace) -> f64 {
        let inside = self.inside_mm().map(|side| side.max(0.0));
        let across = |axis: usize| (inside[(axis + 1) % 3], inside[(axis + 2) % 3]);
        1e-6 * match *brace {
            Brace::Window { lies, thickness_mm, open_part, .. } => {
                let (a, b) = across(lies.axis());
                a * b * (1.0 - open_part) * thickness_mm
            }
            Brace::Shelf { lies, thickness_mm, reach_part, .. } => {
                let (a, b) = across(lies.axis());
                a * b * reach_part * thickness_mm
            }
            Brace::Cross { lies, bar_mm, .. } => {
                let (a, b) = across(lies.axis());
                (a + b - bar_mm).max(0.0) * bar_mm * bar_mm
            }
            Brace::Dowel { ties, diameter_mm, .. } => {
                let length = match ties {
                    Ties::Sides => inside[0],
                    Ties::FloorAndTop => inside[1],
                    Ties::FrontAndBack => inside[2],
                };
                std::f64::consts::PI * diameter_mm * diameter_mm / 4.0 * length
            }
        }
    }
    /// What all braces take, L.
    pub fn braces_l(&self) -> f64 {
        self.braces.iter().map(|brace| self.brace_l(brace)).sum()
    }

    /// What is wrong with it that only several fields together can tell: (field, message).
    pub fn problems(&self) -> Vec<(String, String)> {
        let mut list = Vec::new();
        let inside = self.inside_mm();
        if inside.iter().any(|side| *side <= 0.0) {
            list.push(("panel_mm".into(), "the boards are thicker than the box: nothing is left inside".into()));
            return list;
        }
        if let Some(layer) = &self.inner_layer
            && layer.thickness_mm >= self.panel_mm
        {
            let message = format!(
                "an inner layer of {} mm is all of the boards' {} mm; less than {} mm is expected",
                layer.thickness_mm, self.panel_mm, self.panel_mm
            );
            list.push(("inner_layer/thickness_mm".into(), message));
        }
        let mut within = |i: usize, field: &str, value: f64, most: f64, what: &str| {
            if value > most {
                let message = format!("brace {}: {value} mm lies outside the box, {what} {most:.0} mm", i + 1);
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
