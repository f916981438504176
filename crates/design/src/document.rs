//! The design document, version 3. Every number carries its unit in its name.

use oak_drum_acoustics::air::AirSpec;
use oak_drum_acoustics::driver::{Arrangement, CoilWiring, Woofer};
use oak_drum_acoustics::families::Enclosure;
use oak_drum_acoustics::level::SolidAngle;
use oak_drum_acoustics::outputs::Reference;
use oak_drum_acoustics::panels::Board;
use oak_drum_cabinet::carcass::{Joint, Through};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The value of `format`.
pub const FORMAT: &str = "oak-drum-design";
/// The version this program writes.
pub const VERSION: u32 = 3;
/// Most frequencies one evaluation computes.
pub const MOST_FREQUENCIES: usize = 20_000;

/// A design: brief, woofer, box and the conditions it is computed under.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Oak Drum design")]
pub struct Design {
    /// Always `oak-drum-design`.
    #[schemars(extend("const" = FORMAT))]
    pub format: String,
    /// Version of this format; older versions are upgraded on reading.
    #[schemars(extend("const" = VERSION))]
    pub version: u32,
    /// Name of this revision.
    #[schemars(title = "Name", length(max = 120))]
    #[serde(default)]
    pub name: String,
    /// What the build is for.
    #[serde(default)]
    pub brief: Brief,
    /// The woofer: any sufficient subset of its parameters.
    pub woofer: Woofer,
    /// How many woofers and how they are wired.
    #[serde(default)]
    pub array: ArraySpec,
    /// The enclosure.
    pub enclosure: Enclosure,
    /// The cabinet's outside and boards, where known; the air ledger is drawn up from it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub cabinet: Option<Cabinet>,
    /// The drive the curves are computed at.
    #[serde(default)]
    pub drive: Drive,
    /// What lies between amplifier and woofer.
    #[serde(default)]
    pub source: Source,
    /// Where the level is read.
    #[serde(default)]
    pub listening: Listening,
    /// The air.
    #[serde(default)]
    pub air: AirSpec,
    /// Frequencies to compute, Hz; absent for 10 to 1 000 Hz in 384 steps.
    #[schemars(length(min = 1, max = MOST_FREQUENCIES), inner(range(min = 0.01, max = 20000.0)))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub frequencies_hz: Option<Vec<f64>>,
}

/// What the build is for.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Brief")]
pub struct Brief {
    /// Where it plays and what.
    #[schemars(title = "Purpose", length(max = 2000), extend("x-lines" = 3))]
    pub purpose: String,
    /// The lowest note it has to play.
    #[schemars(title = "Lowest note", range(min = 5.0, max = 200.0), extend("x-unit" = "Hz"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub lowest_note_hz: Option<f64>,
    /// How loud the lowest note has to be at the listener.
    #[schemars(title = "Level there", range(min = 60.0, max = 150.0), extend("x-unit" = "dB"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub level_db: Option<f64>,
    /// How far away the listener is.
    #[schemars(title = "Listener at", range(min = 0.3, max = 100.0), extend("x-unit" = "m"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub distance_m: Option<f64>,
    /// The highest frequency it is sent: standing waves and panels matter up to there. Empty is taken for 120 Hz, as of
    /// a plain subwoofer.
    #[schemars(title = "Plays up to", range(min = 30.0, max = 2000.0), extend("x-unit" = "Hz"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub plays_to_hz: Option<f64>,
    /// The air speed a port may reach: contest builders go higher than the quiet limit and accept what the port then
    /// costs. Empty is the quiet limit of its ends, 17 m/s straight and 34 m/s flared (common practice).
    #[schemars(title = "Port air up to", range(min = 5.0, max = 120.0), extend("x-unit" = "m/s"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub port_air_m_per_s: Option<f64>,
    /// The largest outside volume that may stand there.
    #[schemars(title = "Largest box, outside", range(min = 1.0, max = 10000.0), extend("x-unit" = "L"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub largest_outside_l: Option<f64>,
    /// The amplifier at hand.
    #[schemars(title = "Amplifier")]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub amplifier: Option<Amplifier>,
}

/// What a plain subwoofer is sent at most, Hz (common practice).
pub const PLAYS_TO: f64 = 120.0;

impl Brief {
    /// The highest frequency it is sent, Hz.
    pub fn plays_to(&self) -> f64 {
        self.plays_to_hz.unwrap_or(PLAYS_TO)
    }
}

/// An amplifier by its rating.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Amplifier")]
pub struct Amplifier {
    /// Rated power into the rated load: sets its highest voltage.
    #[schemars(title = "Amplifier power", range(min = 1.0, max = 20000.0), extend("x-start" = 300, "x-unit" = "W"))]
    pub power_w: f64,
    /// The load that power is rated into.
    #[schemars(title = "into", range(min = 0.5, max = 32.0), extend("x-start" = 8, "x-unit" = "ohm"))]
    pub load_ohm: f64,
    /// The lowest load it may drive: sets its highest current.
    #[schemars(title = "Lowest load", range(min = 0.25, max = 32.0), extend("x-start" = 4, "x-unit" = "ohm"))]
    pub minimum_load_ohm: f64,
}

impl Amplifier {
    /// Highest voltage, V rms.
    pub fn volts(&self) -> f64 {
        (self.power_w * self.load_ohm).sqrt()
    }
    /// Highest current, A rms: the highest voltage on the lowest load.
    pub fn amperes(&self) -> f64 {
        self.volts() / self.minimum_load_ohm
    }
}

/// How many equal woofers, how they are mounted and how they are wired.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Woofers")]
pub struct ArraySpec {
    /// How many equal woofers there are, both of an isobaric pair counted.
    #[schemars(title = "Woofers", range(min = 1, max = 32))]
    pub count: u32,
    /// How the two coils of each woofer are joined; of no effect with one coil.
    #[schemars(title = "Coils")]
    pub coils: CoilWiring,
    /// How many woofers follow one another in each string; the strings are in parallel.
    #[schemars(title = "Woofers in series", range(min = 1, max = 32))]
    pub woofers_in_series: u32,
    /// Two cones behind one another on one opening.
    #[schemars(title = "Isobaric pairs")]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub isobaric: Option<Isobaric>,
    /// What if: mass fixed to each cone; lowers fs, costs level.
    #[schemars(title = "Added mass", range(min = 0.0, max = 1000.0), extend("x-unit" = "g"))]
    pub added_mass_g: f64,
}

impl Default for ArraySpec {
    fn default() -> Self {
        ArraySpec { count: 1, coils: CoilWiring::Parallel, woofers_in_series: 1, isobaric: None, added_mass_g: 0.0 }
    }
}

impl ArraySpec {
    /// In SI, for the network.
    pub fn arrangement(&self) -> Arrangement {
        Arrangement {
            count: self.count,
            in_series: self.woofers_in_series,
            coils: self.coils,
            isobaric: self.isobaric.map(|i| i.chamber_l * 1e-3 * f64::from(self.count / 2)),
            added_mass: self.added_mass_g * 1e-3,
        }
    }
}

/// Isobaric pairs: two cones on one opening with a little air between them.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Isobaric pairs")]
pub struct Isobaric {
    /// Which way the two woofers of a pair look.
    #[schemars(title = "Mounting")]
    pub mounting: Mounting,
    /// Air between the two cones of one pair.
    #[schemars(title = "Air between", range(min = 0.05, max = 500.0), extend("x-start" = 5, "x-unit" = "L"))]
    pub chamber_l: f64,
}

/// How the two woofers of an isobaric pair look.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Mounting {
    /// One behind the other, looking the same way; the outer magnet lies between the cones.
    FrontToBack,
    /// Cone against cone, the inner woofer with its polarity reversed; the outer magnet stands outside.
    FaceToFace,
}

/// The drive the curves are drawn at.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
pub enum Drive {
    /// The amplifier's open-circuit voltage, rms.
    #[schemars(title = "Voltage")]
    Voltage {
        /// Volts rms.
        #[schemars(title = "Drive", range(min = 0.001, max = 1000.0), extend("x-unit" = "V", "x-start" = 10))]
        volts: f64,
    },
    /// A power into the nominal impedance of the array, turned into volts at once.
    #[schemars(title = "Power")]
    Power {
        /// Watts into the nominal impedance.
        #[schemars(title = "Drive", range(min = 0.000_001, max = 20000.0), extend("x-unit" = "W", "x-start" = 50))]
        watts: f64,
    },
}

impl Default for Drive {
    fn default() -> Self {
        Drive::Voltage { volts: 2.83 }
    }
}

/// Between the amplifier and the woofer.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Source")]
pub struct Source {
    /// Output resistance of the amplifier.
    #[schemars(title = "Source resistance", range(min = 0.0, max = 100.0), extend("x-unit" = "ohm"))]
    pub source_resistance_ohm: f64,
    /// Resistance of the leads, both ways.
    #[schemars(title = "Lead resistance", range(min = 0.0, max = 100.0), extend("x-unit" = "ohm"))]
    pub lead_resistance_ohm: f64,
}

/// Where the level is read.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields, default)]
#[schemars(title = "Listening")]
pub struct Listening {
    /// Distance the level lanes are drawn for.
    #[schemars(title = "Distance", range(min = 0.1, max = 1000.0), extend("x-unit" = "m"))]
    pub distance_m: f64,
    /// How much of the space around it the box radiates into.
    #[schemars(title = "Solid angle")]
    pub solid_angle: SolidAngle,
    /// What f3, f6 and f10 are measured against.
    #[schemars(title = "Band edge against")]
    pub band_edge_reference: Reference,
}

impl Default for Listening {
    fn default() -> Self {
        Listening { distance_m: 1.0, solid_angle: SolidAngle::Half, band_edge_reference: Reference::Efficiency }
    }
}

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
