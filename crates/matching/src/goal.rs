//! What is wanted.

use oak_drum_acoustics::air::AirSpec;
use oak_drum_acoustics::level::SolidAngle;
use oak_drum_document::Chain;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What a search is after: the brief with nothing left open.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
#[schemars(title = "Goal")]
pub struct Goal {
    /// The lowest note to be played.
    #[schemars(title = "Lowest note", range(min = 5.0, max = 200.0), extend("x-unit" = "Hz"))]
    pub lowest_note_hz: f64,
    /// How loud it has to be at the listener, from the lowest note two octaves up.
    #[schemars(title = "Level there", range(min = 60.0, max = 150.0), extend("x-unit" = "dB"))]
    pub level_db: f64,
    /// How far away the listener is.
    #[schemars(title = "Listener at", range(min = 0.3, max = 100.0), extend("x-unit" = "m"))]
    pub distance_m: f64,
    /// The largest outside volume.
    #[schemars(title = "Largest box, outside", range(min = 1.0, max = 10000.0), extend("x-unit" = "L"))]
    pub largest_outside_l: f64,
    /// Filters, amplifier, leads and parts; without an amplifier only the woofer and the port limit the level.
    #[schemars(title = "Signal chain")]
    #[serde(default)]
    pub chain: Chain,
    /// How fast the air in a port may be.
    #[schemars(title = "Air in the port")]
    #[serde(default)]
    pub port_air: PortAir,
    /// Whether a straight port has to find room in the box.
    #[schemars(title = "Port has to fit")]
    #[serde(default = "yes")]
    pub port_fits: bool,
    /// How much of the space around it the box radiates into.
    #[schemars(title = "Solid angle")]
    #[serde(default)]
    pub solid_angle: SolidAngle,
    /// What a room adds at the listener's place, at 16 frequencies from the lowest note two octaves up, dB; empty in the open.
    #[schemars(title = "The room adds", length(max = 16), inner(range(min = -80.0, max = 80.0)))]
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub room_adds_db: Vec<f64>,
    /// The air.
    #[schemars(title = "Air")]
    #[serde(default)]
    pub air: AirSpec,
}

fn yes() -> bool {
    true
}

/// Which air speed a port is allowed.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum PortAir {
    /// Quiet: 17 m/s with straight ends, 34 with flared ones (common practice).
    #[default]
    Quiet,
    /// Contest: the port may blow as it likes, and is not counted as a limit.
    Contest,
}

impl Goal {
    /// What a room adds at those frequencies, dB; nothing in the open.
    pub fn room(&self) -> [f64; 16] {
        let mut room = [0.0; 16];
        room.iter_mut().zip(&self.room_adds_db).for_each(|(to, added)| *to = *added);
        room
    }

    /// The same at any frequency (Hz): between those straight over ln f, beyond them as at the ends.
    pub fn room_at(&self, frequency: f64) -> f64 {
        let room = self.room();
        let at = ((frequency / self.lowest_note_hz).ln() / 4f64.ln() * 15.0).clamp(0.0, 15.0);
        let low = (at.floor() as usize).min(14);
        room[low] + (room[low + 1] - room[low]) * (at - low as f64)
    }

    /// The frequencies the level is looked at: 16 from the lowest note two octaves up, Hz.
    pub fn band(&self) -> [f64; 16] {
        let mut band = [0.0; 16];
        for (i, f) in band.iter_mut().enumerate() {
            *f = self.lowest_note_hz * 4f64.powf(i as f64 / 15.0);
        }
        band
    }
}
