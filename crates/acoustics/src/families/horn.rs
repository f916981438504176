//! The horn itself, as three families use it: throat, profile, mouth.
//!
//! Profiles (Webster 1919; Salmon, JASA 1946; Voigt's tractrix, 1927): exponential S = St·e^{mx}, hyperbolic
//! S = St·(cosh(x/x0) + T·sinh(x/x0))², conical (radius linear), tractrix x = rm·ln((rm + √(rm² - r²))/r) - √(rm² - r²).

use super::transmission_line::{Station, station_faults};
use super::{Axis, Context, Fault, Figure, Mark, PathReport, Wired};
use crate::air::Air;
use crate::network::volume::Volume;
use crate::network::{Node, Opening, RadiatorKind};
use crate::path::{Bend, MouthModel, MouthPlace, Path, PathFill};
use oak_drum_text::square_cm;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::{PI, TAU};

/// A horn from throat to mouth.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Horn")]
pub struct Horn {
    /// Area at the throat.
    #[schemars(title = "Throat", range(min = 1.0, max = 20000.0), extend("x-unit" = "cm2"))]
    pub throat_cm2: f64,
    /// Area at the mouth.
    #[schemars(title = "Mouth", range(min = 5.0, max = 200000.0), extend("x-rank" = "main", "x-unit" = "cm2"))]
    pub mouth_cm2: f64,
    /// How it widens.
    #[schemars(title = "Profile")]
    pub profile: HornProfile,
    /// What stands around the mouth.
    #[schemars(title = "Mouth stands", extend("x-group" = "Mouth, bends, losses"))]
    #[serde(default)]
    pub mouth: MouthPlace,
    /// How the mouth is computed.
    #[schemars(title = "Mouth computed as", extend("x-group" = "Mouth, bends, losses"))]
    #[serde(default)]
    pub mouth_model: MouthModel,
    /// Whether the walls lose (friction and heat).
    #[schemars(title = "Wall losses", extend("x-group" = "Mouth, bends, losses"))]
    #[serde(default = "yes")]
    pub wall_losses: bool,
    /// Sharp right-angled bends; their air weighs less than the centre line says.
    #[schemars(title = "Bends", length(max = 40), extend("x-group" = "Mouth, bends, losses"))]
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub bends: Vec<Bend>,
    /// Fill or foam along it, part by part.
    #[schemars(title = "Fill along it", length(max = 8), extend("x-group" = "Fill"))]
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub fills: Vec<PathFill>,
}

fn yes() -> bool {
    true
}

/// How a horn widens.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "shape", rename_all = "snake_case", deny_unknown_fields)]
pub enum HornProfile {
    /// By the same factor on every length.
    #[schemars(title = "Exponential")]
    Exponential {
        /// Length along the centre line.
        #[schemars(title = "Horn length", range(min = 50.0, max = 20000.0), extend("x-start" = 2000, "x-rank" = "main", "x-unit" = "mm"))]
        length_mm: f64,
    },
    /// Between catenoidal (T = 0), exponential (T = 1) and conical (large T).
    #[schemars(title = "Hyperbolic")]
    Hyperbolic {
        /// Length along the centre line.
        #[schemars(title = "Horn length", range(min = 50.0, max = 20000.0), extend("x-start" = 2000, "x-rank" = "main", "x-unit" = "mm"))]
        length_mm: f64,
        /// Below 1 it widens later and loads further down; above, sooner.
        #[schemars(title = "T", range(min = 0.0, max = 20.0), extend("x-start" = 0.6, "x-step" = 0.05))]
        t: f64,
    },
    /// Straight sides.
    #[schemars(title = "Conical")]
    Conical {
        /// Length along the centre line.
        #[schemars(title = "Horn length", range(min = 50.0, max = 20000.0), extend("x-start" = 2000, "x-rank" = "main", "x-unit" = "mm"))]
        length_mm: f64,
    },
    /// The curve of a dragged weight; throat and mouth set its length.
    #[schemars(title = "Tractrix")]
    Tractrix {},
    /// By stations along it, the area linear between them; the first is the throat, the last the mouth.
    #[schemars(title = "Free")]
    Free {
        /// The stations, from the throat on, the first at 0.
        #[schemars(title = "Stations", length(min = 2, max = 40))]
        stations: Vec<Station>,
    },
}

/// Points a curved profile is drawn with; the path is refined between them.
const POINTS: usize = 64;

impl Horn {
    /// Parameter x0 of the hyperbolic family (m) that meets the mouth at this length: Newton on
    /// cosh(u) + T·sinh(u) = √(Sm/St), u = L/x0.
    fn hyperbolic(&self, length: f64, t: f64) -> f64 {
        let wanted = (self.mouth_cm2 / self.throat_cm2).sqrt().max(1.0 + 1e-9);
        let mut u = wanted.ln().max(1e-3);
        for _ in 0..80 {
            let (value, slope) = (u.cosh() + t * u.sinh() - wanted, u.sinh() + t * u.cosh());
            let next = (u - value / slope).clamp(u * 0.3, u * 3.0);
            if (next / u - 1.0).abs() < 1e-14 {
                break;
            }
            u = next;
        }
        length / u
    }

    /// Length along the centre line, mm.
    pub fn length_mm(&self) -> f64 {
        match &self.profile {
            HornProfile::Exponential { length_mm }
            | HornProfile::Hyperbolic { length_mm, .. }
            | HornProfile::Conical { length_mm } => *length_mm,
            HornProfile::Tractrix {} => {
                let (throat, mouth) = ((self.throat_cm2 / PI).sqrt(), (self.mouth_cm2 / PI).sqrt());
                let root = (mouth * mouth - throat * throat).max(0.0).sqrt();
                (mouth * ((mouth + root) / throat).ln() - root) * 10.0
            }
            HornProfile::Free { stations } => stations.last().map_or(0.0, |s| s.at_mm),
        }
    }

    /// The horn as a path.
    pub fn path(&self) -> Path {
        let (throat, mouth) = (self.throat_cm2, self.mouth_cm2);
        let along = |area: &dyn Fn(f64) -> f64, length: f64| -> Vec<(f64, f64)> {
            (0..=POINTS)
                .map(|i| {
                    let x = length * i as f64 / POINTS as f64;
                    (x, area(x))
                })
                .collect()
        };
        let places = match &self.profile {
            HornProfile::Exponential { length_mm } => {
                let m = (mouth / throat).ln() / length_mm;
                along(&|x| throat * (m * x).exp(), *length_mm)
            }
            HornProfile::Hyperbolic { length_mm, t } => {
                let x0 = self.hyperbolic(*length_mm, *t);
                along(&|x| throat * ((x / x0).cosh() + t * (x / x0).sinh()).powi(2), *length_mm)
            }
            HornProfile::Conical { length_mm } => {
                let (a, b) = (throat.sqrt(), mouth.sqrt());
                along(&|x| (a + (b - a) * x / length_mm).powi(2), *length_mm)
            }
            HornProfile::Tractrix {} => {
                // by the angle of the tangent, so that the rim is as well drawn as the throat: r = rm·sin θ
                let rm = (mouth / PI).sqrt() * 10.0;
                let first = (throat / mouth).sqrt().min(1.0 - 1e-9).asin();
                let from_mouth = |angle: f64| rm * (1.0 / (angle / 2.0).tan()).ln() - rm * angle.cos();
                let far = from_mouth(first);
                (0..=POINTS)
                    .map(|i| {
                        // in the logarithm of the radius near the throat, evenly in the angle at the rim
                        let share = i as f64 / POINTS as f64;
                        let angle = first * (PI / 2.0 / first).powf(share);
                        (far - from_mouth(angle), mouth * angle.sin().powi(2))
                    })
                    .collect()
            }
            HornProfile::Free { stations } => stations.iter().map(|s| (s.at_mm, s.area_cm2)).collect(),
        };
        Path::new(places, &self.fills, &self.bends, self.wall_losses)
    }

    /// Cut-off of the profile, Hz: exponential m·c/4π, hyperbolic c/(2π·x0), tractrix that of its mouth; none of a
    /// conical or a free one.
    pub fn cutoff(&self, air: &Air) -> Option<f64> {
        match &self.profile {
            HornProfile::Exponential { length_mm } => {
                Some((self.mouth_cm2 / self.throat_cm2).ln() / (length_mm * 1e-3) * air.c / (4.0 * PI))
            }
            HornProfile::Hyperbolic { length_mm, t } => Some(air.c / (TAU * self.hyperbolic(length_mm * 1e-3, *t))),
            HornProfile::Tractrix {} => Some(air.c / (TAU * (self.mouth_cm2 * 1e-4 / PI).sqrt())),
            HornProfile::Conical { .. } | HornProfile::Free { .. } => None,
        }
    }

    /// What is wrong with it; `at` is its place.
    pub(super) fn faults(&self, at: &str) -> Vec<Fault> {
        let mut list = Vec::new();
        if self.mouth_cm2 < self.throat_cm2 {
            let message = format!("the mouth must be at least as large as the throat, {}", square_cm(self.throat_cm2));
            list.push(Fault::new(format!("{at}/mouth_cm2"), message));
        }
        if matches!(self.profile, HornProfile::Tractrix {}) && self.mouth_cm2 < self.throat_cm2 * 1.05 {
            list.push(Fault::new(format!("{at}/mouth_cm2"), "a tractrix needs a mouth larger than its throat".into()));
        }
        if let HornProfile::Free { stations } = &self.profile {
            let place = format!("{at}/profile/stations");
            list.extend(station_faults(stations, None, &place));
            let ends = stations.first().zip(stations.last());
            if ends.is_some_and(|(a, b)| a.area_cm2 != self.throat_cm2 || b.area_cm2 != self.mouth_cm2) {
                let message = "the first station must have the throat's area, the last the mouth's".to_owned();
                list.push(Fault::new(place, message));
            }
        }
        let rest = Path::faults(self.length_mm(), &self.fills, &self.bends);
        list.extend(rest.into_iter().map(|(field, message)| Fault::new(format!("{at}/{field}"), message)));
        list
    }

    /// Wires throat chamber and horn to a node; the throat's air speed is watched.
    pub(super) fn place(&self, wired: &mut Wired, context: &Context, node: Node, throat_chamber_l: Option<f64>) {
        let air = &context.air;
        let path = self.path();
        let network = &mut wired.network;
        if let Some(litres) = throat_chamber_l {
            let volume = Volume { compliance: air.compliance(litres * 1e-3), filled: None, absorption: 0.0 };
            network.place(volume, &[node, Node::Outside]);
        }
        let chain = path.to_mouth(air, 0.0, self.mouth, self.mouth_model);
        let mouth = self.mouth_cm2 * 1e-4;
        let mouth = Opening::one("mouth", RadiatorKind::Port, mouth);
        let element = network.place_opening(chain, [node, Node::Outside], mouth);
        network.watch(element, 0, Opening::one("throat", RadiatorKind::Inner, self.throat_cm2 * 1e-4));
        self.describe(wired, context);
        wired.path = Some(PathReport { path, taps: vec![(0.0, node)], mouth: self.mouth, model: self.mouth_model });
    }

    /// Figures and marks of the horn.
    pub(super) fn describe(&self, wired: &mut Wired, context: &Context) {
        let air = &context.air;
        wired.measured_by_efficiency = false;
        let length = self.length_mm() * 1e-3;
        let compression = context.array.cone_area() / (self.throat_cm2 * 1e-4);
        if let Some(cutoff) = self.cutoff(air) {
            let full = self.mouth.full_size(air, cutoff);
            wired.figures.push(Figure::new(
                "cutoff_hz",
                "Cut-off",
                cutoff,
                "Hz",
                "Below it the horn loads the cone no longer: its profile's own limit.",
            ));
            wired.figures.push(Figure::new("mouth_share", "Mouth of full size", self.mouth_cm2 * 1e-4 / full, "", "Mouth against one whose circumference is a wavelength at the cut-off, in this part of space: 1 plays smoothly, less ripples."));
            wired.marks.push(Mark::new(cutoff, "cut-off".into(), "The profile's own limit."));
        }
        wired.figures.push(Figure::new(
            "compression",
            "Compression",
            compression,
            "",
            "Cone area against the throat: the higher, the faster the air there.",
        ));
        wired.figures.push(Figure::new(
            "quarter_hz",
            "Quarter wave",
            air.c / (4.0 * length),
            "Hz",
            "Where the horn is a quarter of a wavelength long.",
        ));
        wired.figures.push(Figure::new("length_mm", "Length", length * 1e3, "mm", "Along the centre line."));
    }

    /// Length and mouth a search may choose for a lowest note: an eighth of its wave to half of it, the mouth from the throat's size to
    /// ten times the cone's.
    pub(super) fn axes(context: &Context, lowest_note: f64) -> [Axis; 2] {
        let (wave, cone) = (context.air.c / lowest_note * 1e3, context.array.cone_area() * 1e4);
        [
            Axis { id: "mouth_cm2", low: cone * 0.8, high: cone * 10.0 },
            Axis { id: "length_mm", low: wave * 0.12, high: wave * 0.5 },
        ]
    }

    /// A hyperbolic horn of this mouth (cm²) and length (mm) that stands on a floor, its throat the cone's area over the compression.
    pub(super) fn of(context: &Context, mouth_cm2: f64, length_mm: f64, compression: f64) -> Horn {
        let throat_cm2 = context.array.cone_area() * 1e4 / compression;
        Horn {
            throat_cm2: super::tidy(throat_cm2),
            mouth_cm2: mouth_cm2.max(throat_cm2 * 1.05),
            profile: HornProfile::Hyperbolic { length_mm, t: 0.7 },
            mouth: MouthPlace::HalfSpace,
            mouth_model: MouthModel::Piston,
            wall_losses: true,
            bends: Vec::new(),
            fills: Vec::new(),
        }
    }

    /// A start: as long as a part of the wavelength at `low` (Hz), its mouth of full size for a place at half that
    /// again.
    pub(super) fn start(context: &Context, low: f64, part: f64, mouth: MouthPlace, compression: f64) -> Horn {
        let air = &context.air;
        let area = mouth.full_size(air, low) * 1e4;
        let throat = context.array.cone_area() * 1e4 / compression;
        let length = (air.c / low * part * 100.0).round() * 10.0;
        Horn { mouth, ..Horn::of(context, super::tidy(area.max(throat * 1.5)), length, compression) }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    fn horn(profile: HornProfile) -> Horn {
        Horn {
            throat_cm2: 300.0,
            mouth_cm2: 4000.0,
            profile,
            mouth: MouthPlace::HalfSpace,
            mouth_model: MouthModel::Piston,
            wall_losses: false,
            bends: Vec::new(),
            fills: Vec::new(),
        }
    }

    /// An exponential horn whose area doubles every 0.2 m cuts off at 94.65 Hz.
    #[test]
    fn cutoffs_and_lengths() {
        let air = Air::given(343.2, 1.2041);
        let mut doubling = horn(HornProfile::Exponential { length_mm: 800.0 });
        doubling.mouth_cm2 = 300.0 * 16.0;
        assert_relative_eq!(doubling.cutoff(&air).unwrap(), 94.65, max_relative = 1e-4);
        // T = 1 is the exponential horn
        let exponential = horn(HornProfile::Exponential { length_mm: 1800.0 });
        let t_one = horn(HornProfile::Hyperbolic { length_mm: 1800.0, t: 1.0 });
        assert_relative_eq!(exponential.cutoff(&air).unwrap(), t_one.cutoff(&air).unwrap(), max_relative = 1e-9);
    }

    /// Every profile begins at the throat and ends at the mouth, places in order.
    #[test]
    fn profiles_meet_their_ends() {
        for profile in [
            HornProfile::Exponential { length_mm: 1800.0 },
            HornProfile::Hyperbolic { length_mm: 1800.0, t: 0.6 },
            HornProfile::Hyperbolic { length_mm: 1800.0, t: 0.0 },
            HornProfile::Conical { length_mm: 1800.0 },
            HornProfile::Tractrix {},
        ] {
            let horn = horn(profile);
            let path = horn.path();
            assert_relative_eq!(path.places[0].1, 0.03, max_relative = 1e-9);
            assert_relative_eq!(path.places.last().unwrap().1, 0.4, max_relative = 1e-9);
            assert_relative_eq!(path.length() * 1e3, horn.length_mm(), max_relative = 1e-6);
            assert!(path.places.windows(2).all(|w| w[0].0 <= w[1].0 && w[0].1 <= w[1].1));
        }
    }

    /// The tractrix' own law: the tangent from the curve to the axis is as long as the mouth's radius.
    #[test]
    fn the_tangent_of_a_tractrix_keeps_its_length() {
        let path = horn(HornProfile::Tractrix {}).path();
        let mouth = (0.4 / PI).sqrt();
        for pair in path.places.windows(2).step_by(20) {
            let (r1, r2) = ((pair[0].1 / PI).sqrt(), (pair[1].1 / PI).sqrt());
            let slope = (r2 - r1) / (pair[1].0 - pair[0].0);
            let r = 0.5 * (r1 + r2);
            // tangent length r/sin(angle)
            assert_relative_eq!(r * (1.0 + 1.0 / (slope * slope)).sqrt(), mouth, max_relative = 2e-3);
        }
    }
}
