//! An air path of varying area: the line and the horn, cut into short ducts.
//!
//! | symbol | meaning | unit |
//! |---|---|---|
//! | x | distance along the centre line | m |
//! | S | area | m² |
//!
//! Plane waves in a tube of slowly varying area (Webster 1919). Between two places the area is taken as linear; a short piece
//! is a cone of the same ratio of its ends, its area scaled so that it keeps the piece's mass and stiffness (both to fourth
//! order in the change of area). Pieces are so short that the area changes by at most 12 % in each.

use crate::air::Air;
use crate::fill::{FibreLaw, FibreModel, Material};
use crate::level::SolidAngle;
use crate::network::chain::{Chain, Duct, Link, Mouth, RadiationResistance};
use crate::port::{FLANGED_END, FREE_END};
use oak_drum_text::mm;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::PI;

/// Largest change of ln S within one piece.
const STEP: f64 = 0.12;
/// Longest piece where the area changes, m.
const LONGEST: f64 = 0.2;
/// A sharp right-angled bend of a flat channel weighs as 0.559 squares of it where its centre line counts one
/// (conformal mapping; the corner of a sheet resistor, Hall, Thin Solid Films 1, 1968, from memory): 0.441 widths less.
const BEND: f64 = 0.441;

/// What lies along a part of a path.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Fill of a part")]
pub struct PathFill {
    /// Where it begins, from the closed end or the throat.
    #[schemars(title = "From", range(min = 0.0, max = 30000.0), extend("x-start" = 0, "x-unit" = "mm"))]
    pub from_mm: f64,
    /// Where it ends.
    #[schemars(title = "To", range(min = 0.0, max = 30000.0), extend("x-start" = 1000, "x-unit" = "mm"))]
    pub to_mm: f64,
    /// What it is.
    #[schemars(title = "Filled with")]
    pub stuffing: Stuffing,
    /// The law that turns flow resistivity into sound.
    #[schemars(title = "Model", extend("x-start" = "allard_champoux"))]
    #[serde(default)]
    pub model: FibreLaw,
}

/// A fill by its material and packing, or by its flow resistivity.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum Stuffing {
    /// A material packed so densely.
    #[schemars(title = "Material")]
    Material {
        /// Which material.
        #[schemars(title = "Material")]
        material: Material,
        /// How densely it is packed.
        #[schemars(title = "Packed", range(min = 1.0, max = 200.0), extend("x-start" = 10, "x-unit" = "kg/m3"))]
        density_kg_per_m3: f64,
    },
    /// Its flow resistivity alone.
    #[schemars(title = "Flow resistivity")]
    Resistivity {
        /// Static flow resistivity.
        #[schemars(title = "Flow resistivity", range(min = 10.0, max = 200000.0), extend("x-start" = 2000, "x-unit" = "Pa·s/m2"))]
        flow_resistivity_pa_s_per_m2: f64,
    },
}

impl Stuffing {
    /// Flow resistivity, Pa·s/m².
    pub fn flow_resistivity(&self) -> f64 {
        match *self {
            Stuffing::Material { material, density_kg_per_m3 } => material.flow_resistivity(density_kg_per_m3),
            Stuffing::Resistivity { flow_resistivity_pa_s_per_m2 } => flow_resistivity_pa_s_per_m2,
        }
    }
}

/// A sharp right-angled bend; a fold back on itself is two of them.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Bend")]
pub struct Bend {
    /// Where on the centre line, from the closed end or the throat.
    #[schemars(title = "At", range(min = 0.0, max = 30000.0), extend("x-start" = 1000, "x-unit" = "mm"))]
    pub at_mm: f64,
    /// Width of the channel in the plane of the bend.
    #[schemars(title = "Channel width", range(min = 5.0, max = 3000.0), extend("x-start" = 150, "x-unit" = "mm"))]
    pub channel_mm: f64,
}

/// What stands around an open end.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum MouthPlace {
    /// Free in space.
    Free,
    /// In a wide wall, or on the floor of an open field.
    #[default]
    HalfSpace,
    /// Beside a wall and the floor.
    QuarterSpace,
    /// In a corner.
    EighthSpace,
}

impl MouthPlace {
    /// Solid angle, sr.
    pub fn steradians(self) -> f64 {
        match self {
            MouthPlace::Free => SolidAngle::Full,
            MouthPlace::HalfSpace => SolidAngle::Half,
            MouthPlace::QuarterSpace => SolidAngle::Quarter,
            MouthPlace::EighthSpace => SolidAngle::Eighth,
        }
        .steradians()
    }

    /// Area of a full-size mouth at a frequency (Hz), m²: circumference of one wavelength in free space, half,
    /// quarter and eighth space need 1/2, 1/4 and 1/8 of that area (common practice).
    pub fn full_size(self, air: &Air, frequency: f64) -> f64 {
        let radius = air.c / frequency / (2.0 * PI);
        PI * radius * radius * self.steradians() / (4.0 * PI)
    }
}

/// How an open end is computed.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum MouthModel {
    /// The whole radiation impedance of a piston.
    #[default]
    Piston,
    /// Its low-frequency end correction with the radiation resistance.
    EndCorrection,
    /// Its low-frequency end correction alone, lossless.
    Lossless,
}

/// A path worked out: places (m) with their areas (m²), in order.
#[derive(Clone, Debug, PartialEq)]
pub struct Path {
    /// (x, S), x from 0 on; a step stands as two places at one x.
    pub places: Vec<(f64, f64)>,
    /// (from, to, flow resistivity, law), m.
    fills: Vec<(f64, f64, f64, FibreLaw)>,
    /// (at, width of the channel), m.
    bends: Vec<(f64, f64)>,
    /// Whether the walls lose.
    wall_losses: bool,
}

impl Path {
    /// A path from its places (mm, cm²).
    pub fn new(places: Vec<(f64, f64)>, fills: &[PathFill], bends: &[Bend], wall_losses: bool) -> Path {
        Path {
            places: places.into_iter().map(|(x, s)| (x * 1e-3, s * 1e-4)).collect(),
            fills: fills
                .iter()
                .map(|f| (f.from_mm * 1e-3, f.to_mm * 1e-3, f.stuffing.flow_resistivity(), f.model))
                .collect(),
            bends: bends.iter().map(|b| (b.at_mm * 1e-3, b.channel_mm * 1e-3)).collect(),
            wall_losses,
        }
    }

    /// The same path empty and without wall losses.
    pub fn lossless(&self) -> Path {
        Path { fills: Vec::new(), wall_losses: false, ..self.clone() }
    }

    /// Length along the centre line, m.
    pub fn length(&self) -> f64 {
        self.places.last().map_or(0.0, |p| p.0)
    }

    /// Area at x (m), m²; of a step the area behind it.
    pub fn area(&self, x: f64) -> f64 {
        let i = self.places.partition_point(|p| p.0 <= x);
        match (i.checked_sub(1).and_then(|k| self.places.get(k)), self.places.get(i)) {
            (Some(a), Some(b)) => a.1 + (b.1 - a.1) * (x - a.0) / (b.0 - a.0),
            (Some(only), None) | (None, Some(only)) => only.1,
            (None, None) => 0.0,
        }
    }

    /// Air in it, m³.
    pub fn volume(&self) -> f64 {
        self.volume_between(0.0, self.length())
    }

    /// Air between two places (m), m³.
    pub fn volume_between(&self, from: f64, to: f64) -> f64 {
        let mut list = vec![(from, self.area(from))];
        list.extend(self.places.iter().copied().filter(|p| from < p.0 && p.0 < to));
        list.push((to, self.area(to)));
        list.windows(2).map(|w| (w[1].0 - w[0].0) * (w[0].1 + w[1].1) / 2.0).sum()
    }

    /// The ducts and bends from one place to another (m), in that direction, with the fills they name.
    pub fn chain(&self, air: &Air, from: f64, to: f64) -> Chain {
        let (low, high) = (from.min(to), from.max(to));
        let mut marks: Vec<f64> = vec![low, high];
        marks.extend(self.places.iter().map(|p| p.0));
        marks.extend(self.fills.iter().flat_map(|f| [f.0, f.1]));
        marks.extend(self.bends.iter().map(|b| b.0));
        marks.retain(|x| (low..=high).contains(x));
        marks.sort_by(f64::total_cmp);
        marks.dedup_by(|a, b| (*a - *b).abs() < 1e-9);
        let mut links = Vec::new();
        for pair in marks.windows(2) {
            let (a, b) = (pair[0], pair[1]);
            // of a step the area on this side of it
            let inside = 1e-7 * (b - a);
            let (s1, s2) = (self.area(a + inside), self.area(b - inside));
            let change = (s2 / s1).ln().abs();
            let pieces = if change < 1e-9 { 1.0 } else { (change / STEP).max((b - a) / LONGEST).ceil() };
            let filled = self.fills.iter().position(|f| f.0 <= a + 1e-9 && b - 1e-9 <= f.1);
            for k in 0..pieces as usize {
                let at = |k: f64| s1 + (s2 - s1) * k / pieces;
                let (p, q) = (at(k as f64), at(k as f64 + 1.0));
                let root = (p * q).sqrt();
                let area = if (q / p - 1.0).abs() < 1e-6 {
                    root
                } else {
                    // mean areas by volume and by mass, of the linear piece and of the cone between the same ends
                    let (by_volume, by_mass) = (0.5 * (p + q), (q - p) / (q / p).ln());
                    let (cone_volume, cone_mass) = ((p + root + q) / 3.0, root);
                    root * (by_volume * by_mass / (cone_volume * cone_mass)).sqrt()
                };
                let length = (b - a) / pieces;
                // walls as of a square channel: hydraulic radius √S/2
                let walls = self.wall_losses.then(|| area.sqrt() / 2.0);
                let duct = match filled {
                    Some(fill) => Duct::filled(air, length, area, fill),
                    None => Duct::new(air, length, area, walls),
                };
                let widens = (q / p).sqrt();
                links.push(Link::Duct(if (widens - 1.0).abs() < 1e-9 { duct } else { duct.widening(widens) }));
            }
            for (_, width) in self.bends.iter().filter(|bend| (bend.0 - b).abs() < 1e-9 && b < high) {
                let mass = -air.rho * BEND * width / self.area(b);
                links.push(Link::Series { resistance: 0.0, mass });
            }
        }
        if from > to {
            links.reverse();
            links = links.into_iter().map(Link::turned).collect();
        }
        let fills = self.fills.iter().map(|f| FibreModel::new(f.3, f.2, *air)).collect();
        Chain { links, fills }
    }

    /// The chain from a place (m) to the open end, its radiation included.
    pub fn to_mouth(&self, air: &Air, from: f64, mouth: MouthPlace, model: MouthModel) -> Chain {
        let mut chain = self.chain(air, from, self.length());
        let area = self.area(self.length());
        match model {
            MouthModel::Piston => chain.links.push(Link::Mouth(Mouth::new(air, area, mouth.steradians()))),
            _ => {
                let mass = air.rho * self.end_correction(mouth) / area;
                chain.links.push(Link::Series { resistance: 0.0, mass });
                if model == MouthModel::EndCorrection {
                    let n = 2.0 * PI / mouth.steradians();
                    let resistance = RadiationResistance::new(air, area, n / 2.0);
                    chain.links.push(Link::Radiation(resistance));
                }
            }
        }
        chain
    }

    /// End correction of the open end, m: 0.8217 radii in half space, 0.6133 free; beside walls that of the mirrored
    /// mouth.
    pub fn end_correction(&self, mouth: MouthPlace) -> f64 {
        let n = 2.0 * PI / mouth.steradians();
        let radius = (self.area(self.length()) / PI).sqrt();
        if mouth == MouthPlace::Free { FREE_END * radius } else { FLANGED_END * radius * n.sqrt() }
    }

    /// Resonances of the path closed at its beginning and open at its end, Hz, the first `count`: where the flow at
    /// the closed end vanishes with no pressure at the open one, D = 0 of the chain with its end correction. Fill is
    /// counted by the real part of D.
    pub fn quarter_waves(&self, air: &Air, mouth: MouthPlace, count: usize) -> Vec<f64> {
        let chain = self.to_mouth(air, 0.0, mouth, MouthModel::Lossless);
        let real = |f: f64| chain.matrix::<num_complex::Complex64>(std::f64::consts::TAU * f)[3].re;
        let guess = air.c / (4.0 * (self.length() + self.end_correction(mouth)));
        let step = guess / 24.0;
        let mut found = Vec::new();
        let (mut f, mut before) = (step, real(step));
        while found.len() < count && f < guess * 2.6 * count as f64 {
            let after = real(f + step);
            if before * after < 0.0 {
                let (mut low, mut high) = (f, f + step);
                for _ in 0..50 {
                    let middle = 0.5 * (low + high);
                    if real(middle) * before > 0.0 { low = middle } else { high = middle }
                }
                found.push(0.5 * (low + high));
            }
            before = after;
            f += step;
        }
        found
    }

    /// Pressure at a place (m) over that at the closed beginning, at a frequency (Hz): D of the chain between them.
    pub fn pressure_at(&self, air: &Air, x: f64, frequency: f64) -> f64 {
        self.chain(air, 0.0, x).matrix::<num_complex::Complex64>(std::f64::consts::TAU * frequency)[3].norm()
    }

    /// What is wrong with fills and bends: (list, index, field, message).
    pub fn faults(length: f64, fills: &[PathFill], bends: &[Bend]) -> Vec<(String, String)> {
        let mut list = Vec::new();
        for (i, fill) in fills.iter().enumerate() {
            if fill.from_mm >= fill.to_mm {
                list.push((format!("fills/{i}/to_mm"), format!("a fill must end behind {}", mm(fill.from_mm))));
            } else if fill.to_mm > length * 1.000_001 {
                list.push((format!("fills/{i}/to_mm"), format!("the path ends at {length:.0}", length = mm(length))));
            }
            let overlaps = fills[..i].iter().any(|other| fill.from_mm < other.to_mm && other.from_mm < fill.to_mm);
            if overlaps {
                list.push((
                    format!("fills/{i}/from_mm"),
                    "lies over another fill; let one begin where the other ends".into(),
                ));
            }
        }
        for (i, bend) in bends.iter().enumerate() {
            if bend.at_mm <= 0.0 || bend.at_mm >= length {
                let message = format!("a bend must lie along the path, between 0 and {length:.0}", length = mm(length));
                list.push((format!("bends/{i}/at_mm"), message));
            }
        }
        list
    }
}
