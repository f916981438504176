//! Ports: from sizes to a tuning, or from a tuning to a length, and the chain of links they are computed as.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | S | area of all openings together | m² |
//! | a | √(S1/π), radius of the circle of one opening's area | m |
//! | L_eff | length with both end corrections | m |
//! | M_AP | ρ·L_eff/S, the air's acoustic mass | kg/m⁴ |

use crate::air::Air;
use crate::network::chain::{Chain, Duct, Link, RadiationResistance};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::{PI, TAU};

/// End correction of a tube ending in a wide wall, in radii (Nomura et al. 1960, plane wave, low frequency).
pub const FLANGED_END: f64 = 0.8217;
/// End correction of a free tube end, in radii (Levine & Schwinger 1948).
pub const FREE_END: f64 = 0.6133;
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
    /// edge, 3 for a slot of full width. Each wall acts as a mirror and lengthens the inner end correction
    /// (times √2 a wall: an estimate).
    #[schemars(title = "Walls alongside", range(min = 0, max = 3), extend("x-group" = "Ends and walls of the port"))]
    #[serde(default)]
    pub walls_alongside: u32,
    /// Thickness of the tube's wall or of the slot's own board.
    #[schemars(title = "Port wall", range(min = 0.5, max = 60.0), extend("x-group" = "Ends and walls of the port", "x-unit" = "mm"))]
    #[serde(default = "default_wall")]
    pub wall_mm: f64,
    /// How the air in the port is computed.
    #[schemars(title = "Computed as", extend("x-group" = "Ends and walls of the port"))]
    #[serde(default)]
    pub model: PortModel,
}

fn default_wall() -> f64 {
    3.0
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
    /// Flared in a wall; half of the flare counts as length (common practice), the correction is the opening's.
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
    /// (length that does not count as tube, end correction in lengths of the tube), m, for radius a (m).
    fn lengths(self, a: f64) -> (f64, f64) {
        match self {
            End::Flanged => (0.0, FLANGED_END * a),
            End::Free => (0.0, FREE_END * a),
            End::Flared { radius_mm } => {
                let r = radius_mm * 1e-3;
                // the opening's correction k·(a + r), of a mass spread over the opening's larger area
                (r / 2.0, FLANGED_END * a * a / (a + r))
            }
        }
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
        if matches!(self, Section::Round { .. }) { PI * w * h / 4.0 } else { w * h }
    }
    /// Width and height (both the diameter for a tube), m.
    pub fn size(self) -> (f64, f64) {
        match self {
            Section::Round { diameter_mm } => (diameter_mm * 1e-3, diameter_mm * 1e-3),
            Section::Square { side_mm } => (side_mm * 1e-3, side_mm * 1e-3),
            Section::Slot { width_mm, height_mm } => (width_mm * 1e-3, height_mm * 1e-3),
        }
    }
    /// Twice the area over the perimeter, m: the radius of a tube.
    pub fn hydraulic_radius(self) -> f64 {
        let (w, h) = self.size();
        if matches!(self, Section::Round { .. }) { w / 2.0 } else { w * h / (w + h) }
    }
    /// The same shape with `factor` times the area.
    pub fn scaled(self, factor: f64) -> Section {
        let k = factor.sqrt();
        match self {
            Section::Round { diameter_mm } => Section::Round { diameter_mm: diameter_mm * k },
            Section::Square { side_mm } => Section::Square { side_mm: side_mm * k },
            Section::Slot { width_mm, height_mm } => Section::Slot { width_mm, height_mm: height_mm * factor },
        }
    }
    /// The same shape with its size (of a slot: its height) in millimetres put through `f`, say to whole ones.
    pub fn map_mm(self, f: impl Fn(f64) -> f64) -> Section {
        match self {
            Section::Round { diameter_mm } => Section::Round { diameter_mm: f(diameter_mm) },
            Section::Square { side_mm } => Section::Square { side_mm: f(side_mm) },
            Section::Slot { width_mm, height_mm } => Section::Slot { width_mm, height_mm: f(height_mm) },
        }
    }
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
    /// The highest tuning this opening can give in this chamber (length 0), Hz.
    pub highest_tuning: f64,
    /// Set when the wanted tuning lies above the highest; the length is then 0 and the tuning the highest.
    pub out_of_reach: bool,
}

impl Port {
    /// Corrections of (inner, outer) end and the length the flares take out of the tube, m.
    fn ends(&self) -> (f64, f64, f64) {
        let a = (self.section.area() / PI).sqrt();
        let (inner_flare, inner) = self.inner_end.lengths(a);
        let (outer_flare, outer) = self.outer_end.lengths(a);
        let mirrors = 2f64.powf(f64::from(self.walls_alongside) / 2.0);
        (inner * mirrors, outer, inner_flare + outer_flare)
    }

    /// The quiet air-speed limit of common practice: 17 m/s, or 34 with both ends flared.
    pub fn quiet_speed(&self) -> f64 {
        if self.inner_end.is_flared() && self.outer_end.is_flared() { QUIET_SPEED_FLARED } else { QUIET_SPEED_STRAIGHT }
    }

    /// Works the port out for a chamber whose compliance (m³/Pa) at ω (rad/s) is `compliance(ω)`.
    ///
    /// fb = 1/(2π√(M·C)), M = ρ·L_eff/S (Helmholtz). Where the compliance depends on frequency (fill), the
    /// tuning is the fixed point.
    pub fn realise(&self, air: &Air, compliance: impl Fn(f64) -> f64) -> Realised {
        let area = self.section.area() * f64::from(self.count);
        let (inner, outer, flares) = self.ends();
        let mass_of = |effective: f64| air.rho * effective / area;
        let tuning_of = |mass: f64| {
            let mut omega = 1.0 / (mass * compliance(TAU * 30.0)).sqrt();
            for _ in 0..30 {
                omega = 1.0 / (mass * compliance(omega)).sqrt();
            }
            omega / TAU
        };
        let highest_tuning = tuning_of(mass_of((inner + outer - flares).max(1e-4)));
        let (effective_length, tuning) = match self.sizing {
            Sizing::Tuning { tuning_hz } => {
                let omega = TAU * tuning_hz;
                (area / (air.rho * omega * omega * compliance(omega)), tuning_hz)
            }
            Sizing::Length { length_mm } => {
                let effective = length_mm * 1e-3 - flares + inner + outer;
                (effective, tuning_of(mass_of(effective)))
            }
        };
        let length = effective_length - inner - outer + flares;
        let plain = matches!(self.model, PortModel::Mass);
        if length < 0.0 && !plain {
            let effective = (inner + outer - flares).max(1e-4);
            return Realised {
                area,
                length: 0.0,
                effective_length: effective,
                mass: mass_of(effective),
                tuning: highest_tuning,
                highest_tuning,
                out_of_reach: true,
            };
        }
        Realised {
            area,
            length,
            effective_length,
            mass: mass_of(effective_length),
            tuning,
            highest_tuning,
            out_of_reach: length < 0.0,
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
        let (inner, outer, flares) = self.ends();
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

    /// Volume the port's tube with its walls takes from the box over a length (m) inside, m³. A slot shares the
    /// walls it runs along.
    pub fn displacement(&self, length: f64) -> f64 {
        let t = self.wall_mm * 1e-3;
        let (w, h) = self.section.size();
        let one = match self.section {
            Section::Round { .. } => PI * (w / 2.0 + t).powi(2),
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
        one * length.max(0.0) * f64::from(self.count)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    fn tube(diameter_mm: f64, sizing: Sizing) -> Port {
        Port {
            section: Section::Round { diameter_mm },
            count: 1,
            sizing,
            inner_end: End::Free,
            outer_end: End::Flanged,
            walls_alongside: 0,
            wall_mm: 3.0,
            model: PortModel::Mass,
        }
    }

    /// Helmholtz with Nomura's and Levine & Schwinger's ends: 100 L, radius 50 mm, length 150 mm: 32.507 Hz.
    #[test]
    fn helmholtz_with_end_corrections() {
        let air = Air::given(343.2, 1.2041);
        let c = air.compliance(0.100);
        let port = tube(100.0, Sizing::Length { length_mm: 150.0 });
        let there = port.realise(&air, |_| c);
        assert_relative_eq!(there.tuning, 32.507, max_relative = 2e-5);
        let back = tube(100.0, Sizing::Tuning { tuning_hz: there.tuning }).realise(&air, |_| c);
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
        let inches = port.realise(&air, |_| c).length / 0.0254;
        assert!((30.0..60.0).contains(&inches), "{inches} in");
    }

    #[test]
    fn a_tuning_out_of_reach_is_said_and_the_highest_given() {
        let air = Air::at(20.0, 101_325.0);
        let c = air.compliance(0.020);
        let mut port = tube(50.0, Sizing::Tuning { tuning_hz: 200.0 });
        port.model = PortModel::default();
        let there = port.realise(&air, |_| c);
        assert!(there.out_of_reach && there.length == 0.0 && there.tuning < 200.0);
        assert_relative_eq!(there.tuning, there.highest_tuning);
    }
}
