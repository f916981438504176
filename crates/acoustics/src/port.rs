//! Ports: from sizes to a tuning, or from a tuning to a length, and the chain of links they are computed as.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | S | area of all openings together | m² |
//! | a | √(S1/π), radius of the circle of one opening's area | m |
//! | L_eff | length with both end corrections | m |
//! | r | radius of a flare, a quarter circle | m |
//! | M_AP | ρ·L_eff/S, the air's acoustic mass | kg/m⁴ |

use crate::air::Air;
use crate::network::chain::{Chain, Duct, Link, RadiationResistance};
use oak_drum_text::mm;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::{PI, TAU};

/// End correction of a tube ending in a wide wall, in radii (Nomura et al. 1960, plane wave, low frequency).
pub const FLANGED_END: f64 = 0.8217;
/// End correction of a free tube end, in radii (Levine & Schwinger 1948).
pub const FREE_END: f64 = 0.6133;
/// End correction of a tube that ends in a flare of a quarter circle, in radii of the tube, from where the flare begins: by
/// r/a, flush in a wide wall, and free-standing with a thin wall. Axisymmetric finite elements
/// (testdata/ports/scikit-fem-flares), exact to 0.5 %; linear between the rows, within 0.5 % too.
const FLARED_ENDS: [[f64; 3]; 15] = [
    [0.0, FLANGED_END, FREE_END],
    [0.05, 0.8632, 0.6722],
    [0.1, 0.9005, 0.7217],
    [0.15, 0.9355, 0.7669],
    [0.2, 0.9687, 0.8089],
    [0.3, 1.0313, 0.8862],
    [0.4, 1.0896, 0.9565],
    [0.5, 1.1448, 1.0216],
    [0.6, 1.1972, 1.0825],
    [0.7, 1.2474, 1.1400],
    [0.8, 1.2955, 1.1946],
    [1.0, 1.3868, 1.2966],
    [1.5, 1.5922, 1.5208],
    [2.0, 1.7741, 1.7150],
    [3.0, 2.0915, 2.0474],
];

/// Correction of a flared end in radii of the tube, from where the flare begins; beyond three radii the last slope goes on.
fn flared(r_over_a: f64, free: bool) -> f64 {
    let column = if free { 2 } else { 1 };
    let last = FLARED_ENDS.len() - 1;
    let i = FLARED_ENDS.partition_point(|row| row[0] <= r_over_a).clamp(1, last);
    let (p, q) = (FLARED_ENDS[i - 1], FLARED_ENDS[i]);
    p[column] + (q[column] - p[column]) * (r_over_a - p[0]) / (q[0] - p[0])
}

/// Air speed, m/s peak, above which straight ends are heard (common practice).
pub const QUIET_SPEED_STRAIGHT: f64 = 17.0;
/// The same with both ends flared (common practice).
pub const QUIET_SPEED_FLARED: f64 = 34.0;

/// One or several equal ports.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Port")]
pub struct Port {
    /// Shape and inside size of one opening.
    #[schemars(title = "Opening")]
    pub section: Section,
    /// How many equal openings.
    #[schemars(title = "Openings", range(min = 1, max = 16))]
    pub count: u32,
    /// What is given: the tuning (the length follows) or the length (the tuning follows).
    #[schemars(title = "Given by")]
    pub sizing: Sizing,
    /// The end inside the box.
    #[schemars(title = "Inner end", extend("x-group" = "Ends and walls of the port"))]
    #[serde(default = "End::free")]
    pub inner_end: End,
    /// The end at the outside.
    #[schemars(title = "Outer end", extend("x-group" = "Ends and walls of the port"))]
    #[serde(default)]
    pub outer_end: End,
    /// Along how many of the box's walls the port runs: 0 for a tube in the open, 1 along the floor, 2 in an
    /// edge, 3 for a slot of full width. Each wall acts as a mirror and lengthens the inner end correction; a corner
    /// triangle always runs along 2.
    #[schemars(title = "Walls alongside", range(min = 0, max = 3), extend("x-group" = "Ends and walls of the port"))]
    #[serde(default)]
    pub walls_alongside: u32,
    /// Thickness of the tube's wall or of the slot's own board.
    #[schemars(title = "Port wall", range(min = 0.5, max = 60.0), extend("x-group" = "Ends and walls of the port", "x-unit" = "mm"))]
    #[serde(default = "default_wall")]
    pub wall_mm: f64,
    /// Elbows of 90 degrees in its course; the length is that along the centre line.
    #[schemars(title = "Elbows", range(min = 0, max = 3), extend("x-group" = "Course and parts of the port"))]
    #[serde(default, skip_serializing_if = "is_zero")]
    pub elbows: u32,
    /// The wall it goes out through; a straight port runs from there to the wall opposite.
    #[schemars(title = "Leaves through", extend("x-group" = "Course and parts of the port"))]
    #[serde(default, skip_serializing_if = "Face::is_baffle")]
    pub leaves: Face,
    /// Outside diameter of the flange that is screwed on; empty follows from the flare (12.5 mm of rim, common
    /// practice).
    #[schemars(title = "Flange", range(min = 10.0, max = 1000.0), extend("x-group" = "Course and parts of the port", "x-unit" = "mm"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub flange_mm: Option<f64>,
    /// Diameter of the hole it goes through; empty follows from opening, flare and wall.
    #[schemars(title = "Hole", range(min = 10.0, max = 1000.0), extend("x-group" = "Course and parts of the port", "x-unit" = "mm"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub cutout_mm: Option<f64>,
    /// The inner end's correction in place of the reckoned one, from where the straight tube ends (of a flared end, where
    /// the flare begins).
    #[schemars(title = "Inner correction", range(min = 0.0, max = 2000.0), extend("x-group" = "Ends and walls of the port", "x-unit" = "mm"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub inner_correction_mm: Option<f64>,
    /// The outer end's correction in place of the reckoned one, from where the straight tube ends (of a flared end, where
    /// the flare begins).
    #[schemars(title = "Outer correction", range(min = 0.0, max = 2000.0), extend("x-group" = "Ends and walls of the port", "x-unit" = "mm"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub outer_correction_mm: Option<f64>,
    /// What a measured tuning says about the end corrections of this very port: their sum is multiplied by this.
    #[schemars(title = "Ends as measured", range(min = -3.0, max = 5.0), extend("x-group" = "Course and parts of the port", "x-step" = 0.01))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub end_factor: Option<f64>,
    /// How the air in the port is computed.
    #[schemars(title = "Computed as", extend("x-group" = "Ends and walls of the port"))]
    #[serde(default)]
    pub model: PortModel,
}

fn default_wall() -> f64 {
    3.0
}

fn is_zero(number: &u32) -> bool {
    *number == 0
}

/// A wall of a cabinet.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Face {
    /// The baffle.
    #[default]
    Baffle,
    /// The back.
    Back,
    /// A side wall.
    Side,
    /// The top.
    Top,
    /// The floor.
    Floor,
}

impl Face {
    fn is_baffle(&self) -> bool {
        *self == Face::Baffle
    }
    /// The direction a straight port through this wall runs in: 0 across, 1 up, 2 behind the baffle.
    pub fn axis(self) -> usize {
        match self {
            Face::Side => 0,
            Face::Top | Face::Floor => 1,
            Face::Baffle | Face::Back => 2,
        }
    }
}

/// Shape of one opening, inside sizes.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "shape", rename_all = "snake_case", deny_unknown_fields)]
pub enum Section {
    /// A tube.
    #[schemars(title = "Round")]
    Round {
        /// Inside diameter.
        #[schemars(title = "Inside diameter", range(min = 10.0, max = 600.0), extend("x-start" = 100, "x-unit" = "mm"))]
        diameter_mm: f64,
    },
    /// A square shaft.
    #[schemars(title = "Square")]
    Square {
        /// Inside width and height.
        #[schemars(title = "Side", range(min = 10.0, max = 600.0), extend("x-start" = 90, "x-unit" = "mm"))]
        side_mm: f64,
    },
    /// A slot.
    #[schemars(title = "Slot")]
    Slot {
        /// Inside width.
        #[schemars(title = "Slot width", range(min = 10.0, max = 2000.0), extend("x-start" = 250, "x-unit" = "mm"))]
        width_mm: f64,
        /// Inside height.
        #[schemars(title = "Slot height", range(min = 5.0, max = 600.0), extend("x-start" = 30, "x-unit" = "mm"))]
        height_mm: f64,
    },
    /// A triangle in an edge of the box: two walls of the box and one board across.
    #[schemars(title = "Corner triangle")]
    Triangle {
        /// Inside length along each of the two walls.
        #[schemars(title = "Along each wall", range(min = 10.0, max = 800.0), extend("x-start" = 130, "x-unit" = "mm"))]
        leg_mm: f64,
    },
}

/// What of tuning and length is given.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "by", rename_all = "snake_case", deny_unknown_fields)]
pub enum Sizing {
    /// The tuning is wanted, the length follows.
    #[schemars(title = "Tuning")]
    Tuning {
        /// Wanted tuning of the box.
        #[schemars(title = "Tuned to", range(min = 5.0, max = 300.0), extend("x-start" = 30, "x-rank" = "main", "x-unit" = "Hz"))]
        tuning_hz: f64,
    },
    /// The length is given, the tuning follows.
    #[schemars(title = "Length")]
    Length {
        /// Length from opening to opening, flares included.
        #[schemars(title = "Port length", range(min = 1.0, max = 6000.0), extend("x-start" = 200, "x-rank" = "main", "x-unit" = "mm"))]
        length_mm: f64,
    },
}

/// What the air meets where a port ends.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum End {
    /// Flush in a wide wall: 0.8217 radii.
    #[default]
    #[schemars(title = "In a wall")]
    Flanged,
    /// Standing free: 0.6133 radii.
    #[schemars(title = "Free")]
    Free,
    /// Flared by a quarter circle: outside in a wall, inside standing free. Builders count half of the flare as length (common
    /// practice); what is computed gives such an end some 6 % more outside, some 15 % inside.
    #[schemars(title = "Flared")]
    Flared {
        /// Radius of the flare.
        #[schemars(title = "Flare radius", range(min = 2.0, max = 150.0), extend("x-start" = 15, "x-unit" = "mm"))]
        radius_mm: f64,
    },
}

impl End {
    fn free() -> End {
        End::Free
    }
    /// Whether the end is flared.
    pub fn is_flared(self) -> bool {
        matches!(self, End::Flared { .. })
    }
    /// Radius of the flare, m; 0 without one.
    pub fn flare(self) -> f64 {
        if let End::Flared { radius_mm } = self { radius_mm * 1e-3 } else { 0.0 }
    }
    /// Whether it stands free in the air: an inner end unless it is flush in a wall.
    fn stands_free(self, inner: bool) -> bool {
        self == End::Free || (inner && self.is_flared())
    }
    /// Factor of (ka)² in the radiation resistance over ρc/S.
    fn radiation_factor(self) -> f64 {
        if self == End::Free { 0.25 } else { 0.5 }
    }
}

/// How a port's air is computed.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum PortModel {
    /// A duct of finite length: its pipe resonances show.
    #[schemars(title = "Duct")]
    Duct {
        /// Viscous and thermal losses at the walls.
        #[schemars(title = "Wall losses", extend("x-start" = true))]
        wall_losses: bool,
        /// Radiation resistance of the outer end.
        #[schemars(title = "Radiation of the end", extend("x-start" = true))]
        end_radiation: bool,
    },
    /// A plain mass without resonances, to hold a design against other tools.
    #[schemars(title = "Plain mass")]
    Mass,
}

impl Default for PortModel {
    fn default() -> Self {
        PortModel::Duct { wall_losses: true, end_radiation: true }
    }
}

impl Section {
    /// Area, m².
    pub fn area(self) -> f64 {
        let (w, h) = self.size();
        match self {
            Section::Round { .. } => PI * w * h / 4.0,
            Section::Triangle { .. } => w * h / 2.0,
            _ => w * h,
        }
    }
    /// Width and height (both the diameter for a tube, both legs for a triangle), m.
    pub fn size(self) -> (f64, f64) {
        match self {
            Section::Round { diameter_mm } => (diameter_mm * 1e-3, diameter_mm * 1e-3),
            Section::Square { side_mm } => (side_mm * 1e-3, side_mm * 1e-3),
            Section::Slot { width_mm, height_mm } => (width_mm * 1e-3, height_mm * 1e-3),
            Section::Triangle { leg_mm } => (leg_mm * 1e-3, leg_mm * 1e-3),
        }
    }
    /// The size that counts for what must stay free at its inner end: diameter, side or height of the slot, m.
    pub fn clearance(self) -> f64 {
        let (w, h) = self.size();
        if matches!(self, Section::Triangle { .. }) { h * std::f64::consts::FRAC_1_SQRT_2 } else { w.min(h) }
    }
    /// Twice the area over the perimeter, m: the radius of a tube.
    pub fn hydraulic_radius(self) -> f64 {
        let (w, h) = self.size();
        match self {
            Section::Round { .. } => w / 2.0,
            Section::Triangle { .. } => w / (2.0 + std::f64::consts::SQRT_2),
            _ => w * h / (w + h),
        }
    }
    /// The same shape with `factor` times the area.
    pub fn scaled(self, factor: f64) -> Section {
        let k = factor.sqrt();
        match self {
            Section::Round { diameter_mm } => Section::Round { diameter_mm: diameter_mm * k },
            Section::Square { side_mm } => Section::Square { side_mm: side_mm * k },
            Section::Slot { width_mm, height_mm } => Section::Slot { width_mm, height_mm: height_mm * factor },
            Section::Triangle { leg_mm } => Section::Triangle { leg_mm: leg_mm * k },
        }
    }
    /// The same shape with its size (of a slot: its height) in millimetres put through `f`, say to whole ones.
    pub fn map_mm(self, f: impl Fn(f64) -> f64) -> Section {
        match self {
            Section::Round { diameter_mm } => Section::Round { diameter_mm: f(diameter_mm) },
            Section::Square { side_mm } => Section::Square { side_mm: f(side_mm) },
            Section::Slot { width_mm, height_mm } => Section::Slot { width_mm, height_mm: f(height_mm) },
            Section::Triangle { leg_mm } => Section::Triangle { leg_mm: f(leg_mm) },
        }
    }
    /// In words: "105 mm tube", "slot 300 x 25 mm".
    pub fn words(self) -> String {
        match self {
            Section::Round { diameter_mm } => format!("{:.0} tube", mm(diameter_mm)),
            Section::Square { side_mm } => format!("{:.0} square", mm(side_mm)),
            Section::Slot { width_mm, height_mm } => format!("slot {:.0}", mm([width_mm, height_mm])),
            Section::Triangle { leg_mm } => format!("corner triangle of {:.0}", mm(leg_mm)),
        }
    }

    /// Factor on a circular end's correction for the shape of the opening and its mirror images in `walls` walls
    /// beside it; `room` is the volume it opens into, m³.
    ///
    /// The static inertance of a rigid piston of this shape over that of the circle of its area (8/(3π)·a). A wall
    /// doubles the piston; a rectangle's is the closed form of ∬∬dS dS'/(2πr·S²); a slot between two side walls is the
    /// step in height of a flat duct (Marcuvitz, *Waveguide Handbook*, sec. 5.26, as its acoustic dual, low-frequency
    /// limit), from the slot's height to that of a box of square section across the slot, √(V/w).
    fn crowding(self, free: bool, walls: u32, room: f64) -> f64 {
        let a = (self.area() / PI).sqrt();
        let circle = 8.0 / (3.0 * PI) * a;
        let (w, h) = self.size();
        let side = self.area().sqrt();
        let walls = if matches!(self, Section::Triangle { .. }) { 2 } else { walls };
        match (self, walls) {
            (Section::Round { .. }, 0) => 1.0,
            (Section::Triangle { .. }, _) => {
                piston(w * std::f64::consts::SQRT_2, w * std::f64::consts::SQRT_2) / circle
            }
            (Section::Round { .. }, 1) => piston(side, 2.0 * side) / circle,
            (Section::Round { .. }, _) => piston(2.0 * side, 2.0 * side) / circle,
            (_, 0) => piston(w, h) / circle,
            (_, 1) => piston(w, 2.0 * h) / circle,
            (_, 2) => piston(2.0 * w, 2.0 * h) / circle,
            // exact for a plane wave and a flush end, as the flanged end's own constant is; a board that stands into the box
            // has 0.85 of it (finite elements, testdata/ports: 0.84 to 0.88)
            _ => {
                let own = if free { FREE_END / 0.85 } else { FLANGED_END };
                height_step(h, (room / w).sqrt()) / (own * a)
            }
        }
    }
}

/// End correction of a rigid rectangular piston in a wide wall (m): ∬∬dS dS'/(2π·r·S) in closed form.
fn piston(a: f64, b: f64) -> f64 {
    let diagonal = a.hypot(b);
    let twofold =
        a * a * b * (b / a).asinh() + a * b * b * (a / b).asinh() + (a.powi(3) + b.powi(3) - diagonal.powi(3)) / 3.0;
    2.0 * twofold / (2.0 * PI * a * b)
}

/// End correction (m) of a flat duct of height h that opens, floor flush, into one of height `into`.
fn height_step(h: f64, into: f64) -> f64 {
    let alpha = (h / into.max(1e-6)).min(0.999);
    let bracket =
        (1.0 - alpha * alpha) / (4.0 * alpha) * ((1.0 + alpha) / (1.0 - alpha)).powf((alpha + 1.0 / alpha) / 2.0);
    2.0 * h / PI * bracket.ln()
}

/// A port worked out for one chamber, SI.
#[derive(Clone, Debug, PartialEq)]
pub struct Realised {
    /// Area of all openings, m².
    pub area: f64,
    /// Length from opening to opening, m; may come out negative where the tuning asks for less than no tube.
    pub length: f64,
    /// Length with end corrections, m.
    pub effective_length: f64,
    /// Acoustic mass of all openings together, kg/m⁴.
    pub mass: f64,
    /// The tuning with this chamber, Hz.
    pub tuning: f64,
    /// The highest tuning this opening can give in this chamber, Hz: at length 0, of flared ends with nothing but the flares.
    pub highest_tuning: f64,
    /// Set when the wanted tuning lies above the highest; length and tuning are then those of the shortest port.
    pub out_of_reach: bool,
    /// Corrections of the inner and the outer end, and what of the length the flares are, m.
    pub ends: Ends,
}

/// What the ends of a port do to its length, m.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Ends {
    /// Correction of the inner end, from where the straight tube ends.
    pub inner: f64,
    /// Correction of the outer end, from where the straight tube ends.
    pub outer: f64,
    /// What of the length from opening to opening is flare; the corrections hold its air.
    pub flares: f64,
    /// What common practice would add to the length: plain ends' corrections, half of each flare taken off.
    pub by_custom: f64,
}

impl Ends {
    /// What is added to the length from opening to opening.
    pub fn added(self) -> f64 {
        self.inner + self.outer - self.flares
    }
}

impl Port {
    /// One straight port, free inside, flush outside, 3 mm of wall.
    pub fn plain(section: Section, sizing: Sizing) -> Port {
        Port {
            section,
            count: 1,
            sizing,
            inner_end: End::Free,
            outer_end: End::Flanged,
            walls_alongside: 0,
            wall_mm: default_wall(),
            elbows: 0,
            leaves: Face::Baffle,
            flange_mm: None,
            cutout_mm: None,
            inner_correction_mm: None,
            outer_correction_mm: None,
            end_factor: None,
            model: PortModel::default(),
        }
    }

    /// What the ends do when the port opens into a chamber of `room` m³.
    ///
    /// A plain end has its constant times the factor for shape and walls; a flare adds what it adds to a round tube of the
    /// same area (of slots an estimate).
    pub fn ends(&self, room: f64) -> Ends {
        let a = (self.section.area() / PI).sqrt();
        let one = |end: End, inner: bool, given: Option<f64>| {
            let free = end.stands_free(inner);
            let plain = if free { FREE_END } else { FLANGED_END };
            let walls = if inner { self.walls_alongside } else { 0 };
            let bare = plain * a * self.section.crowding(free, walls, room);
            let flare = if end.is_flared() { (flared(end.flare() / a, free) - plain) * a } else { 0.0 };
            (given.map_or(bare + flare, |mm| mm * 1e-3), bare - end.flare() / 2.0)
        };
        let (inner, custom_inner) = one(self.inner_end, true, self.inner_correction_mm);
        let (outer, custom_outer) = one(self.outer_end, false, self.outer_correction_mm);
        let measured = self.end_factor.unwrap_or(1.0);
        Ends {
            inner: inner * measured,
            outer: outer * measured,
            flares: self.shortest(),
            by_custom: custom_inner + custom_outer,
        }
    }

    /// The shortest it can be made, m: its flares alone.
    pub fn shortest(&self) -> f64 {
        self.inner_end.flare() + self.outer_end.flare()
    }

    /// What is wrong with it: (field, message).
    pub fn problems(&self) -> Vec<(&'static str, String)> {
        match self.sizing {
            Sizing::Length { length_mm } if length_mm < self.shortest() * 1e3 - 1e-6 => {
                let least = self.shortest() * 1e3;
                vec![(
                    "sizing/length_mm",
                    format!("the flares alone are {least} long; at least that is expected", least = mm(least)),
                )]
            }
            _ => Vec::new(),
        }
    }

    /// The hole it goes through and the flange over it (where it has one), m: stated, or for a flare 12.5 mm of rim
    /// around a hole that lets the flare through (common practice).
    pub fn fitting(&self) -> (f64, Option<f64>) {
        let (w, h) = self.section.size();
        let flare = match self.outer_end {
            End::Flared { radius_mm } => Some(radius_mm * 1e-3),
            _ => None,
        };
        let hole = self.cutout_mm.map_or(w.max(h) + 2.0 * (flare.unwrap_or(0.0) + self.wall_mm * 1e-3), |x| x * 1e-3);
        let round = matches!(self.section, Section::Round { .. });
        let flange = self.flange_mm.map(|x| x * 1e-3).or_else(|| (round && flare.is_some()).then_some(hole + 0.025));
        (hole, flange)
    }

    /// The quiet air-speed limit of common practice: 17 m/s, or 34 with both ends flared.
    pub fn quiet_speed(&self) -> f64 {
        if self.inner_end.is_flared() && self.outer_end.is_flared() { QUIET_SPEED_FLARED } else { QUIET_SPEED_STRAIGHT }
    }

    /// Works the port out for a chamber whose compliance (m³/Pa) at ω (rad/s) is `compliance(ω)`.
    ///
    /// fb = 1/(2π√(M·C)), M = ρ·L_eff/S (Helmholtz). Where the compliance depends on frequency (fill), the
    /// tuning is the fixed point. `room` is the chamber's volume, m³.
    pub fn realise(&self, air: &Air, room: f64, compliance: impl Fn(f64) -> f64) -> Realised {
        let area = self.section.area() * f64::from(self.count);
        let ends = self.ends(room);
        let mass_of = |effective: f64| air.rho * effective / area;
        let tuning_of = |mass: f64| {
            let mut omega = 1.0 / (mass * compliance(TAU * 30.0)).sqrt();
            for _ in 0..30 {
                let next = 1.0 / (mass * compliance(omega)).sqrt();
                let still = (next / omega - 1.0).abs() < 1e-14;
                omega = next;
                if still {
                    break;
                }
            }
            omega / TAU
        };
        let plain = matches!(self.model, PortModel::Mass);
        let shortest = (ends.flares + ends.added()).max(1e-4);
        let highest_tuning = tuning_of(mass_of(shortest));
        let (effective_length, tuning) = match self.sizing {
            Sizing::Tuning { tuning_hz } => {
                let omega = TAU * tuning_hz;
                (area / (air.rho * omega * omega * compliance(omega)), tuning_hz)
            }
            Sizing::Length { length_mm } => {
                let effective = ((length_mm * 1e-3).max(ends.flares) + ends.added()).max(1e-4);
                (effective, tuning_of(mass_of(effective)))
            }
        };
        let length = effective_length - ends.added();
        let too_short = length < ends.flares - 1e-9;
        if too_short && !plain {
            return Realised {
                area,
                length: ends.flares,
                effective_length: shortest,
                mass: mass_of(shortest),
                tuning: highest_tuning,
                highest_tuning,
                out_of_reach: true,
                ends,
            };
        }
        Realised {
            area,
            length,
            effective_length,
            mass: mass_of(effective_length),
            tuning,
            highest_tuning,
            out_of_reach: too_short,
            ends,
        }
    }

    /// The chain of links, with the port friction R_AP (Pa·s/m³) in series at its inner end.
    pub fn chain(&self, air: &Air, realised: &Realised, friction: f64) -> Chain {
        let PortModel::Duct { wall_losses, end_radiation } = self.model else {
            return Chain {
                links: vec![Link::Series { resistance: friction, mass: realised.mass }],
                ..Chain::default()
            };
        };
        let Ends { inner, outer, flares, .. } = realised.ends;
        let mass = |length: f64| air.rho * length / realised.area;
        let hydraulic = wall_losses.then(|| self.section.hydraulic_radius());
        let tube = (realised.length - flares).max(0.0);
        let mut links = vec![
            Link::Series { resistance: friction, mass: mass(inner) },
            Link::Duct(Duct::new(air, tube, realised.area, hydraulic)),
            Link::Series { resistance: 0.0, mass: mass(outer) },
        ];
        if end_radiation {
            let factor = self.outer_end.radiation_factor();
            links.push(Link::Radiation(RadiationResistance::new(air, realised.area, factor)));
        }
        Chain { links, ..Chain::default() }
    }

    /// Volume the port's tube with its walls takes from the box, m³, of a length (m) of which the first part lies in the wall it
    /// goes through (m), flares with what lies inside. A slot shares the walls it runs along.
    pub fn displacement(&self, length: f64, wall: f64) -> f64 {
        let t = self.wall_mm * 1e-3;
        let (w, h) = self.section.size();
        let one = match self.section {
            Section::Round { .. } => PI * (w / 2.0 + t).powi(2),
            // the board lies across: its outer face is t further from the edge
            Section::Triangle { .. } => (w + t * std::f64::consts::SQRT_2).powi(2) / 2.0,
            _ => {
                let (sides, lids) = match self.walls_alongside {
                    0 => (2.0, 2.0),
                    1 => (2.0, 1.0),
                    2 => (1.0, 1.0),
                    _ => (0.0, 1.0),
                };
                (w + sides * t) * (h + lids * t)
            }
        };
        let inside = (length - wall).max(0.0);
        let flares =
            if inside > 0.0 { self.flare(self.inner_end, 0.0) + self.flare(self.outer_end, wall) } else { 0.0 };
        (one * inside + flares) * f64::from(self.count)
    }

    /// What a tube's flare and its wall take beyond the plain tube, m³, as far as it lies deeper than so much (m) behind its
    /// opening: the tube's outer radius grows by r − √(r² − y²), a quarter circle, over y from its beginning.
    fn flare(&self, end: End, behind: f64) -> f64 {
        let (Section::Round { diameter_mm }, End::Flared { radius_mm }) = (self.section, end) else { return 0.0 };
        let (a, r) = ((diameter_mm / 2.0 + self.wall_mm) * 1e-3, radius_mm * 1e-3);
        let y = (r - behind).max(0.0);
        let b = a + r;
        let chord = (y * (r * r - y * y).max(0.0).sqrt() + r * r * (y / r).asin()) / 2.0;
        PI * (b * b * y - 2.0 * b * chord + r * r * y - y.powi(3) / 3.0 - a * a * y)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    fn tube(diameter_mm: f64, sizing: Sizing) -> Port {
        Port { model: PortModel::Mass, ..Port::plain(Section::Round { diameter_mm }, sizing) }
    }

    /// Helmholtz with Nomura's and Levine & Schwinger's ends: 100 L, radius 50 mm, length 150 mm: 32.507 Hz.
    #[test]
    fn helmholtz_with_end_corrections() {
        let air = Air::given(343.2, 1.2041);
        let c = air.compliance(0.100);
        let port = tube(100.0, Sizing::Length { length_mm: 150.0 });
        let there = port.realise(&air, 0.1, |_| c);
        assert_relative_eq!(there.tuning, 32.507, max_relative = 2e-5);
        let back = tube(100.0, Sizing::Tuning { tuning_hz: there.tuning }).realise(&air, 0.1, |_| c);
        assert_relative_eq!(back.length, 0.150, max_relative = 1e-9);
        // one flanged and one free end: 0.73 diameters, the rule of the trade
        assert_relative_eq!((there.effective_length - 0.150) / 0.100, 0.73, epsilon = 0.015);
    }

    /// Common practice: a quarter-cubic-foot box tuned to 45 Hz for a 6.5 in woofer asks for a vent of about
    /// 53 in. (A 3 in tube is the size that goes with that figure; from memory.)
    #[test]
    fn the_absurd_vent_of_a_small_box() {
        let air = Air::at(20.0, 101_325.0);
        let c = air.compliance(0.25 * 0.028_316_85);
        let port = tube(76.2, Sizing::Tuning { tuning_hz: 45.0 });
        let inches = port.realise(&air, 0.1, |_| c).length / 0.0254;
        assert!((30.0..60.0).contains(&inches), "{inches} in");
    }

    /// Flared ends by axisymmetric finite elements (testdata/ports/scikit-fem-flares): within 1 % for flares of a tenth to
    /// three radii, flush outside and free-standing inside; plain ends are that solution's own check (0.8217, 0.6133).
    #[test]
    fn flared_ends_against_finite_elements() {
        let text = include_str!("../../../testdata/ports/scikit-fem-flares/flares.json");
        let data: serde_json::Value = serde_json::from_str(text).unwrap();
        let cases = data["cases"].as_array().unwrap();
        assert_eq!(cases.len(), 16);
        for case in cases {
            let of = |name: &str| case[name].as_f64().unwrap();
            let a = 50.0;
            let end = |plain| match of("flare") {
                0.0 => plain,
                r => End::Flared { radius_mm: a * r },
            };
            let port = Port {
                inner_end: end(End::Free),
                outer_end: end(End::Flanged),
                ..tube(2.0 * a, Sizing::Length { length_mm: 400.0 })
            };
            let ends = port.ends(0.1);
            assert_relative_eq!(ends.outer * 1e3, a * of("flush"), max_relative = 0.01);
            assert_relative_eq!(ends.inner * 1e3, a * of("free"), max_relative = 0.012);
        }
        // Rayleigh's lower bound: the air in the flare and a plug of its mouth weigh at least so much; half of the flare and a
        // plain end (common practice) come within 10 % below what is computed
        for (a, r, flush, free) in [(50.0, 12.5, 50.0, 42.6), (50.0, 25.0, 57.2, 51.2), (100.0, 30.0, 103.1, 88.8)] {
            let flare = End::Flared { radius_mm: r };
            let port =
                Port { inner_end: flare, outer_end: flare, ..tube(2.0 * a, Sizing::Length { length_mm: 300.0 }) };
            let ends = port.ends(0.1);
            assert_relative_eq!(ends.outer * 1e3, flush, max_relative = 0.01);
            assert_relative_eq!(ends.inner * 1e3, free, max_relative = 0.01);
            let custom = (ends.by_custom + 2.0 * r * 1e-3) / (ends.inner + ends.outer);
            assert!((0.88..1.0).contains(&custom), "{custom}");
        }
    }

    /// What flares take of the box against a sum of thin discs: the inner one whole, of the outer one what lies behind the wall.
    #[test]
    fn flares_take_room_too() {
        let flared = |inner, outer| Port {
            inner_end: inner,
            outer_end: outer,
            count: 2,
            ..tube(100.0, Sizing::Length { length_mm: 300.0 })
        };
        let flare = End::Flared { radius_mm: 30.0 };
        let plain = flared(End::Free, End::Flanged).displacement(0.3, 0.018);
        let discs = |deeper: f64| {
            let n = 20_000;
            let thin = (0.03 - deeper) / f64::from(n);
            let sum: f64 = (0..n)
                .map(|i| {
                    let y = (f64::from(i) + 0.5) * thin;
                    (0.053 + 0.03 - (0.03f64.powi(2) - y * y).sqrt()).powi(2) - 0.053f64.powi(2)
                })
                .sum();
            2.0 * PI * sum * thin
        };
        let inner = flared(flare, End::Flanged).displacement(0.3, 0.018) - plain;
        assert_relative_eq!(inner, discs(0.0), max_relative = 1e-5);
        let outer = flared(End::Free, flare).displacement(0.3, 0.018) - plain;
        assert_relative_eq!(outer, discs(0.018), max_relative = 1e-5);
        assert!(inner > 10.0 * outer && inner > 0.1e-3, "{inner} {outer}");
    }

    /// An end correction that is given stands in place of the reckoned one.
    #[test]
    fn a_given_end_correction_is_taken() {
        let port = Port { inner_correction_mm: Some(61.0), ..tube(100.0, Sizing::Length { length_mm: 200.0 }) };
        let ends = port.ends(0.1);
        assert_relative_eq!(ends.inner, 0.061);
        assert_relative_eq!(ends.outer, FLANGED_END * 0.05, max_relative = 1e-12);
    }

    /// A port whose flares alone are longer than what is given is refused, and one that would have to be is out of reach.
    #[test]
    fn no_port_is_shorter_than_its_flares() {
        let flare = End::Flared { radius_mm: 20.0 };
        let flared = |sizing| Port {
            inner_end: flare,
            outer_end: flare,
            ..Port::plain(Section::Round { diameter_mm: 100.0 }, sizing)
        };
        assert_eq!(flared(Sizing::Length { length_mm: 39.0 }).problems().len(), 1);
        assert_eq!(flared(Sizing::Length { length_mm: 40.0 }).problems().len(), 0);
        let air = Air::at(20.0, 101_325.0);
        let c = air.compliance(0.05);
        let there = flared(Sizing::Tuning { tuning_hz: 150.0 }).realise(&air, 0.05, |_| c);
        assert!(there.out_of_reach);
        assert_relative_eq!(there.length, 0.040);
        assert_relative_eq!(there.tuning, there.highest_tuning);
        assert_relative_eq!(there.effective_length, there.length + there.ends.added());
    }

    #[test]
    fn a_tuning_out_of_reach_is_said_and_the_highest_given() {
        let air = Air::at(20.0, 101_325.0);
        let c = air.compliance(0.020);
        let mut port = tube(50.0, Sizing::Tuning { tuning_hz: 200.0 });
        port.model = PortModel::default();
        let there = port.realise(&air, 0.1, |_| c);
        assert!(there.out_of_reach && there.length == 0.0 && there.tuning < 200.0);
        assert_relative_eq!(there.tuning, there.highest_tuning);
    }
}
