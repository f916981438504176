//! The design document, version 8. Every number carries its unit in its name.

use crate::cabinet::Cabinet;
use crate::chain::{Chain, Programme};
use crate::room::InRoom;
use crate::shape::{AmplifierSpace, BuiltIn};
use oak_drum_acoustics::air::AirSpec;
use oak_drum_acoustics::amplifier::Back;
use oak_drum_acoustics::driver::{Arrangement, CoilWiring, Woofer};
use oak_drum_acoustics::families::Enclosure;
use oak_drum_acoustics::level::SolidAngle;
use oak_drum_acoustics::outputs::Reference;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The value of `format`.
pub const FORMAT: &str = "oak-drum-design";
/// The version this program writes.
pub const VERSION: u32 = 8;
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
    /// What lies between what plays and the woofers: filters, amplifier, leads, parts.
    #[serde(default)]
    pub chain: Chain,
    /// What is played, for heat, batteries and the loudest it may be.
    #[serde(default)]
    pub programme: Programme,
    /// Where the level is read.
    #[serde(default)]
    pub listening: Listening,
    /// Where it stands, and who listens there; absent in the open field.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub room: Option<InRoom>,
    /// The air.
    #[serde(default)]
    pub air: AirSpec,
    /// Frequencies to compute, Hz; absent for 10 to 1 000 Hz in 384 steps.
    #[schemars(length(min = 1, max = MOST_FREQUENCIES), inner(range(min = 0.01, max = 20000.0)))]
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub frequencies_hz: Option<Vec<f64>>,
}

/// Air left behind an amplifier in its own chamber, for warmth and wires, mm (common practice).
const AIR_BEHIND: f64 = 30.0;

impl Design {
    /// Whether anything is stated that ends its level: an excursion, a power or an amplifier.
    pub fn ends_somewhere(&self) -> bool {
        self.woofer.xmax_mm.is_some() || self.woofer.power_w.is_some() || self.chain.amplifier_on().is_some()
    }

    /// The amplifier in its cabinet: its measures as they stand there, or by its sheet; `None` without one, or without a sheet that
    /// states them.
    pub fn built_in(&self) -> Option<BuiltIn> {
        let cabinet = self.cabinet.as_ref()?;
        match cabinet.amplifier? {
            AmplifierSpace::Closed { width_mm, height_mm, depth_mm, at } => {
                Some(BuiltIn { own_chamber: false, width_mm, height_mm, depth_mm, at })
            }
            AmplifierSpace::OwnChamber { width_mm, height_mm, depth_mm, at } => {
                Some(BuiltIn { own_chamber: true, width_mm, height_mm, depth_mm, at })
            }
            AmplifierSpace::BySheet { at } => {
                let Back { open, width_mm, height_mm, depth_mm } = self.chain.amplifier.as_ref()?.back?;
                let depth_mm = if open { (depth_mm - cabinet.panel_mm).max(0.0) + AIR_BEHIND } else { depth_mm };
                Some(BuiltIn { own_chamber: open, width_mm, height_mm, depth_mm, at })
            }
        }
    }

    /// Where what is played ends, Hz.
    pub fn programme_to(&self) -> f64 {
        self.programme.to_hz.unwrap_or(self.brief.plays_to()).max(self.programme.from_hz * 1.1)
    }
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
    /// What the whole build may cost.
    #[schemars(title = "Budget", range(min = 0.0, max = 1000000.0))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub budget: Option<f64>,
    /// The largest outside volume that may stand there.
    #[schemars(title = "Largest box, outside", range(min = 1.0, max = 10000.0), extend("x-unit" = "L"))]
    #[serde(skip_serializing_if = "Option::is_none")]
    pub largest_outside_l: Option<f64>,
}

/// What a plain subwoofer is sent at most, Hz (common practice).
pub const PLAYS_TO: f64 = 120.0;

impl Brief {
    /// The highest frequency it is sent, Hz.
    pub fn plays_to(&self) -> f64 {
        self.plays_to_hz.unwrap_or(PLAYS_TO)
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
    /// As loud as a programme may be before the first limit is met: coil heat, cone, port air, radiators or amplifier.
    #[schemars(title = "As loud as it goes")]
    Loudest {},
}

impl Default for Drive {
    fn default() -> Self {
        Drive::Voltage { volts: 2.83 }
    }
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
