//! Transmission line: the woofer's rear drives a quarter-wave pipe (Bailey, Wireless World 1965; Bradbury, *The Use of
//! Fibrous Materials in Loudspeaker Enclosures*, JAES 1976; solved here as plane waves in a tube of varying area).

use super::{
    Axis, Chamber, Context, Family, Fault, Figure, Info, Knob, Mark, PathReport, Searched, Start, Wired, Wish, tidy,
};
use crate::network::chain::Stub;
use crate::network::volume::Volume;
use crate::network::{Network, Node, Opening, RadiatorKind};
use crate::path::{Bend, MouthModel, MouthPlace, Path, PathFill, Stuffing};
use crate::port::QUIET_SPEED_STRAIGHT;
use oak_drum_text::mm;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A transmission line.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Transmission line")]
pub struct TransmissionLine {
    /// Length along the centre line, from the closed end to the open one.
    #[schemars(title = "Line length", range(min = 200.0, max = 20000.0), extend("x-rank" = "main", "x-unit" = "mm"))]
    pub length_mm: f64,
    /// How the area runs along it.
    #[schemars(title = "Area")]
    pub profile: LineProfile,
    /// Middle of the woofer from the closed end; at one third of the length the third of the odd harmonics' first is missed.
    #[schemars(title = "Woofer at", range(min = 0.0, max = 20000.0), extend("x-rank" = "main", "x-unit" = "mm"))]
    pub woofer_at_mm: f64,
    /// Air between the cone and the line; empty is none.
    #[schemars(title = "Coupling chamber", range(min = 0.05, max = 500.0), extend("x-unit" = "L"))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub coupling_l: Option<f64>,
    /// What stands around the open end.
    #[schemars(title = "Open end", extend("x-group" = "Ends, bends, losses"))]
    #[serde(default)]
    pub mouth: MouthPlace,
    /// How the open end is computed.
    #[schemars(title = "Open end computed as", extend("x-group" = "Ends, bends, losses"))]
    #[serde(default)]
    pub mouth_model: MouthModel,
    /// Whether the walls lose (friction and heat).
    #[schemars(title = "Wall losses", extend("x-group" = "Ends, bends, losses"))]
    #[serde(default = "yes")]
    pub wall_losses: bool,
    /// Sharp right-angled bends; their air weighs less than the centre line says.
    #[schemars(title = "Bends", length(max = 40), extend("x-group" = "Ends, bends, losses"))]
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub bends: Vec<Bend>,
    /// What the line is filled with, part by part.
    #[schemars(title = "Fill along it", length(max = 8), extend("x-group" = "Fill"))]
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub fills: Vec<PathFill>,
}

fn yes() -> bool {
    true
}

/// How a line's area runs.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "shape", rename_all = "snake_case", deny_unknown_fields)]
pub enum LineProfile {
    /// The same everywhere.
    #[schemars(title = "Straight")]
    Straight {
        /// Area.
        #[schemars(title = "Area", range(min = 5.0, max = 20000.0), extend("x-start" = 500, "x-unit" = "cm2"))]
        area_cm2: f64,
    },
    /// Evenly from the closed end to the open one; narrowing lowers the tuning.
    #[schemars(title = "Tapered")]
    Tapered {
        /// Area at the closed end.
        #[schemars(title = "Area, closed end", range(min = 5.0, max = 20000.0), extend("x-start" = 700, "x-unit" = "cm2"))]
        closed_end_cm2: f64,
        /// Area at the open end.
        #[schemars(title = "Area, open end", range(min = 5.0, max = 20000.0), extend("x-start" = 350, "x-unit" = "cm2"))]
        open_end_cm2: f64,
    },
    /// In one step.
    #[schemars(title = "Stepped")]
    Stepped {
        /// Area at the closed end.
        #[schemars(title = "Area, closed end", range(min = 5.0, max = 20000.0), extend("x-start" = 700, "x-unit" = "cm2"))]
        closed_end_cm2: f64,
        /// Area at the open end.
        #[schemars(title = "Area, open end", range(min = 5.0, max = 20000.0), extend("x-start" = 350, "x-unit" = "cm2"))]
        open_end_cm2: f64,
        /// Where the step is, from the closed end.
        #[schemars(title = "Step at", range(min = 1.0, max = 20000.0), extend("x-start" = 1000, "x-unit" = "mm"))]
        step_at_mm: f64,
    },
    /// By stations along it, the area linear between them.
    #[schemars(title = "Free")]
    Free {
        /// The stations, from the closed end on; the first at 0, the last at the line's length.
        #[schemars(title = "Stations", length(min = 2, max = 40))]
        stations: Vec<Station>,
    },
}

/// The area at a place.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Station")]
pub struct Station {
    /// From the closed end or the throat.
    #[schemars(title = "At", range(min = 0.0, max = 30000.0), extend("x-start" = 0, "x-unit" = "mm"))]
    pub at_mm: f64,
    /// Area there.
    #[schemars(title = "Area", range(min = 5.0, max = 100000.0), extend("x-start" = 500, "x-unit" = "cm2"))]
    pub area_cm2: f64,
}

/// What is wrong with stations along a path of this length (mm): (field, message).
pub(super) fn station_faults(stations: &[Station], length: Option<f64>, at: &str) -> Vec<Fault> {
    let mut list = Vec::new();
    if stations.len() < 2 {
        list.push(Fault::new(at, "at least two stations are expected".into()));
        return list;
    }
    if stations[0].at_mm != 0.0 {
        list.push(Fault::new(format!("{at}/0/at_mm"), "the first station must stand at 0 mm".into()));
    }
    for (i, pair) in stations.windows(2).enumerate() {
        if pair[1].at_mm < pair[0].at_mm {
            let message = format!("stands before the station at {}; give them in order", mm(pair[0].at_mm));
            list.push(Fault::new(format!("{at}/{}/at_mm", i + 1), message));
        }
    }
    let last = stations[stations.len() - 1].at_mm;
    match length {
        Some(length) if (last - length).abs() > 0.5 => {
            let message = format!(
                "the last station stands at {last}, the line is {length} long: they must meet",
                last = mm(last),
                length = mm(length)
            );
            list.push(Fault::new(format!("{at}/{}/at_mm", stations.len() - 1), message));
        }
        None if last < 10.0 => {
            list.push(Fault::new(format!("{at}/{}/at_mm", stations.len() - 1), "the path has no length".into()));
        }
        _ => {}
    }
    list
}

impl TransmissionLine {
    /// The line as a path.
    pub fn path(&self) -> Path {
        let length = self.length_mm;
        let places = match &self.profile {
            LineProfile::Straight { area_cm2 } => vec![(0.0, *area_cm2), (length, *area_cm2)],
            LineProfile::Tapered { closed_end_cm2, open_end_cm2 } => {
                vec![(0.0, *closed_end_cm2), (length, *open_end_cm2)]
            }
            LineProfile::Stepped { closed_end_cm2, open_end_cm2, step_at_mm } => vec![
                (0.0, *closed_end_cm2),
                (*step_at_mm, *closed_end_cm2),
                (*step_at_mm, *open_end_cm2),
                (length, *open_end_cm2),
            ],
            LineProfile::Free { stations } => stations.iter().map(|s| (s.at_mm, s.area_cm2)).collect(),
        };
        Path::new(places, &self.fills, &self.bends, self.wall_losses)
    }

    /// A plain line for a woofer whose first quarter wave lies at `tuning` (Hz), areas in parts of the cone's.
    fn tuned(context: &Context, tuning: f64, closed: f64, open: f64, woofer_at: f64, stuffed: bool) -> Self {
        let air = &context.air;
        let sd = context.array.cone_area() * 1e4;
        let profile = if closed == open {
            LineProfile::Straight { area_cm2: tidy(sd * closed) }
        } else {
            LineProfile::Tapered { closed_end_cm2: tidy(sd * closed), open_end_cm2: tidy(sd * open) }
        };
        let mut line = TransmissionLine {
            length_mm: air.c / (4.0 * tuning) * 1e3,
            profile,
            woofer_at_mm: 0.0,
            coupling_l: None,
            mouth: MouthPlace::HalfSpace,
            mouth_model: MouthModel::Piston,
            wall_losses: true,
            bends: Vec::new(),
            fills: Vec::new(),
        };
        for _ in 0..12 {
            if let Some(f) = line.path().quarter_waves(air, line.mouth, 1).first() {
                line.length_mm *= f / tuning;
            }
        }
        line.length_mm = (line.length_mm / 10.0).round() * 10.0;
        line.woofer_at_mm = (line.length_mm * woofer_at).round();
        if stuffed {
            line.fills.push(usual_fill((line.length_mm * 0.5).round()));
        }
        line
    }
}

/// Wadding from the closed end to here (mm), loosely packed.
fn usual_fill(to_mm: f64) -> PathFill {
    PathFill {
        from_mm: 0.0,
        to_mm,
        stuffing: Stuffing::Material { material: crate::fill::Material::PolyesterWadding, density_kg_per_m3: 8.0 },
        model: crate::fill::FibreLaw::AllardChampoux,
    }
}

/// Mass of the fills along a path, kg; of those given by their flow resistivity alone nothing is known.
pub(super) fn fill_mass(path: &Path, fills: &[PathFill]) -> f64 {
    fills
        .iter()
        .map(|f| match f.stuffing {
            Stuffing::Material { density_kg_per_m3, .. } => {
                path.volume_between(f.from_mm * 1e-3, f.to_mm * 1e-3) * density_kg_per_m3
            }
            Stuffing::Resistivity { .. } => 0.0,
        })
        .sum()
}

impl Family for TransmissionLine {
    const INFO: Info = Info {
        id: "transmission_line",
        title: "Transmission line",
        summary: "A folded pipe behind the cone: holds it at the quarter wave and lets the bottom out at its end.",
        source: "Webster's equation (1919); Bailey, Wireless World, October 1965; Bradbury, JAES 1976",
        searched: Searched::Slowly,
    };

    fn wire(&self, context: &Context) -> Wired {
        let air = &context.air;
        let path = self.path();
        let at = self.woofer_at_mm * 1e-3;
        let mut wired = Wired::new(Network::new(context.diaphragm()));
        let network = &mut wired.network;
        let node = network.node();
        network.rear = node;
        if let Some(litres) = self.coupling_l {
            let volume = Volume { compliance: air.compliance(litres * 1e-3), filled: None, absorption: 0.0 };
            network.place(volume, &[node, Node::Outside]);
        }
        if at > 1e-6 {
            network.place(Stub(path.chain(air, at, 0.0)), &[node, Node::Outside]);
        }
        let mouth = path.area(path.length());
        let chain = path.to_mouth(air, at, self.mouth, self.mouth_model);
        let end = Opening {
            limit: Some(context.air_limit.unwrap_or(QUIET_SPEED_STRAIGHT)),
            ..Opening::one("open end", RadiatorKind::Port, mouth)
        };
        network.place_opening(chain, [node, Node::Outside], end);
        let bare = path.lossless().quarter_waves(air, self.mouth, 3);
        let filled = if self.fills.is_empty() { bare.clone() } else { path.quarter_waves(air, self.mouth, 1) };
        let quarter = filled.first().copied().unwrap_or(f64::NAN);
        let empty = bare.first().copied().unwrap_or(f64::NAN);
        wired.figures = vec![
            Figure::new(
                "fb_hz",
                "Quarter wave",
                quarter,
                "Hz",
                "Lowest resonance of the line: the cone nearly stops there and the open end takes over.",
            ),
            Figure::new("air_l", "Air in the line", path.volume() * 1e3, "L", "Volume of the whole line."),
            Figure::new(
                "delay_ms",
                "Delay along it",
                1e3 / (4.0 * quarter),
                "ms",
                "A quarter of the period at its resonance: how late the open end's sound comes.",
            ),
        ];
        if !self.fills.is_empty() {
            wired.figures.push(Figure::new(
                "acts_longer",
                "Acts longer by",
                empty / quarter,
                "",
                "By how much the fill lowers the quarter wave: as if the line were so much longer.",
            ));
            let grams = fill_mass(&path, &self.fills) * 1e3;
            if grams > 0.0 {
                wired.figures.push(Figure::new(
                    "fill_g",
                    "Fill to buy",
                    grams,
                    "g",
                    "Mass of the fill at this packing.",
                ));
            }
        }
        let names = ["λ/4", "3λ/4", "5λ/4"];
        wired.marks = bare
            .iter()
            .zip(names)
            .map(|(f, name)| Mark::new(*f, name.into(), "A resonance of the empty line."))
            .collect();
        wired.chambers = vec![Chamber::plain(path.volume())];
        wired.unloads_below = quarter.is_finite().then_some(quarter);
        wired.path = Some(PathReport { path, taps: vec![(at, node)], mouth: self.mouth, model: self.mouth_model });
        wired
    }

    fn suggestions(context: &Context) -> Vec<Start<Self>> {
        let fs = context.array.ts.fs;
        [
            ("straight", "at fs, straight", 1.0, 1.0, 0.0, "The classic: as long as a quarter wave at fs, as wide as the cone; stuff the first half against its harmonics."),
            ("tapered", "at fs, tapered", 1.4, 0.5, 0.2, "Narrowing to the open end makes it shorter for the same tuning and softens the harmonics; faster air at the end."),
            ("third", "woofer at a third", 1.0, 1.0, 1.0 / 3.0, "The woofer a third along the line misses the second resonance; less fill is needed."),
        ]
        .into_iter()
        .map(|(id, title, closed, open, woofer_at, what)| Start {
            id: format!("transmission_line_{id}"),
            title: format!("Line, {title}"),
            sentence: what.into(),
            enclosure: Some(TransmissionLine::tuned(
                context, fs, closed, open, woofer_at, true,
            )),
        })
        .collect()
    }

    fn axes(context: &Context, wish: &Wish) -> Vec<Axis> {
        // its quarter wave from half an octave above the lowest note to an octave below it
        let quarter = |hz: f64| context.air.c / (4.0 * hz) * 1e3;
        let sd = context.array.cone_area() * 1e4;
        vec![
            Axis { id: "area_cm2", low: sd * 0.3, high: sd * 2.5 },
            Axis { id: "length_mm", low: quarter(wish.lowest_note * 1.5), high: quarter(wish.lowest_note * 0.5) },
        ]
    }

    /// A straight line with its woofer at a third, half filled.
    fn at(_: &Context, values: &[f64]) -> Option<TransmissionLine> {
        let (area_cm2, length) = (values[0], values[1]);
        let place = |part: f64| (length * part * 10.0).round() / 10.0;
        Some(TransmissionLine {
            length_mm: length,
            profile: LineProfile::Straight { area_cm2 },
            woofer_at_mm: place(1.0 / 3.0),
            coupling_l: None,
            mouth: MouthPlace::HalfSpace,
            mouth_model: MouthModel::Piston,
            wall_losses: true,
            bends: Vec::new(),
            fills: vec![usual_fill(place(0.5))],
        })
    }

    fn head_l(&self) -> Option<f64> {
        self.coupling_l
    }

    fn problems(&self) -> Vec<Fault> {
        let mut list = Vec::new();
        if self.woofer_at_mm > self.length_mm {
            let message = format!("the woofer lies outside the line, which ends at {}", mm(self.length_mm));
            list.push(Fault::new("/woofer_at_mm", message));
        } else if self.woofer_at_mm == self.length_mm {
            list.push(Fault::new("/woofer_at_mm", "the woofer must lie before the open end".into()));
        }
        match &self.profile {
            LineProfile::Stepped { step_at_mm, .. } if *step_at_mm >= self.length_mm => {
                let message = format!("the step must lie along the line, before {}", mm(self.length_mm));
                list.push(Fault::new("/profile/step_at_mm", message));
            }
            LineProfile::Free { stations } => {
                list.extend(station_faults(stations, Some(self.length_mm), "/profile/stations"));
            }
            _ => {}
        }
        let rest = Path::faults(self.length_mm, &self.fills, &self.bends);
        list.extend(rest.into_iter().map(|(at, message)| Fault::new(format!("/{at}"), message)));
        list
    }

    fn knobs() -> &'static [Knob] {
        &[
            Knob { pointer: "/length_mm", low: 800.0, high: 6000.0 },
            Knob { pointer: "/profile/area_cm2", low: 50.0, high: 4000.0 },
            Knob { pointer: "/profile/closed_end_cm2", low: 50.0, high: 4000.0 },
            Knob { pointer: "/profile/open_end_cm2", low: 50.0, high: 4000.0 },
        ]
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::air::Air;

    /// A quarter-wave line: c/(4·L_eff) (the effective length with Nomura's end correction).
    #[test]
    fn a_straight_line_resonates_at_a_quarter_wave() {
        let air = Air::given(343.2, 1.2041);
        let path = Path::new(vec![(0.0, 300.0), (2700.0, 300.0)], &[], &[], false);
        let effective = 2.7 + path.end_correction(MouthPlace::HalfSpace);
        let found = path.quarter_waves(&air, MouthPlace::HalfSpace, 3);
        for (k, f) in found.iter().enumerate() {
            let odd = (2 * k + 1) as f64;
            assert!((f / (odd * air.c / (4.0 * effective)) - 1.0).abs() < 2e-3, "{f}");
        }
        // this one lies near 30 Hz; such a line delays by about 8 ms (common practice)
        let delay = 1e3 / (4.0 * found[0]);
        assert!((7.8..8.6).contains(&delay), "{delay} ms");
    }

    /// Narrowing toward the open end lowers the tuning (common practice).
    #[test]
    fn narrowing_lowers_the_tuning() {
        let air = Air::given(343.2, 1.2041);
        let first = |places| Path::new(places, &[], &[], false).quarter_waves(&air, MouthPlace::HalfSpace, 1)[0];
        let straight = first(vec![(0.0, 300.0), (2000.0, 300.0)]);
        assert!(first(vec![(0.0, 400.0), (2000.0, 200.0)]) < straight * 0.9);
        assert!(first(vec![(0.0, 200.0), (2000.0, 400.0)]) > straight * 1.1);
    }
}
