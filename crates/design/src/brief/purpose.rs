//! What a subwoofer is for, and what that asks of it: the lowest note, how loud, how far away, each with its reason.
//!
//! Notes are those of equal temperament at 440 Hz (ISO 16). Levels and distances are common practice; a builder changes them in the brief.

use oak_drum_document::Brief;
use oak_drum_text::{Text, metres};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What it is for.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum Purpose {
    /// Films in a living room.
    Films,
    /// Music at home.
    Music,
    /// A flat with neighbours.
    Flat,
    /// A car or van.
    Car,
    /// Bass guitar.
    BassGuitar,
    /// Double bass.
    DoubleBass,
    /// A dance floor or a stage.
    Stage,
    /// Outdoors.
    Outdoors,
    /// The radio in the workshop.
    Radio,
}

/// A purpose with what it asks.
#[derive(Clone, Copy, Debug, Serialize, JsonSchema)]
#[schemars(rename = "PurposeInfo")]
pub struct Info {
    /// Which.
    pub purpose: Purpose,
    /// What it is called.
    pub title: &'static str,
    /// The lowest note, Hz.
    pub lowest_note_hz: f64,
    /// How loud there, dB.
    pub level_db: f64,
    /// How far away, m.
    pub distance_m: f64,
    /// Why that note.
    pub note_why: &'static str,
    /// Why that level.
    pub level_why: &'static str,
}

const fn info(
    purpose: Purpose,
    title: &'static str,
    [lowest_note_hz, level_db, distance_m]: [f64; 3],
    note_why: &'static str,
    level_why: &'static str,
) -> Info {
    Info { purpose, title, lowest_note_hz, level_db, distance_m, note_why, level_why }
}

/// All of them, in the order they are shown.
pub const PURPOSES: [Info; 9] = [
    info(
        Purpose::Films,
        "Films in a living room",
        [24.0, 102.0, 3.0],
        "effects of films go to 20 Hz and under; a room lifts the last third of an octave",
        "loud, not a cinema's reference level, which few rooms at home are played at",
    ),
    info(
        Purpose::Music,
        "Music at home",
        [32.0, 96.0, 3.0],
        "a five-string bass goes down to B0, 30.9 Hz; most music ends at E1, 41.2 Hz",
        "a lively evening; 85 dB is loud for long",
    ),
    info(
        Purpose::Flat,
        "A flat with neighbours",
        [35.0, 86.0, 2.5],
        "what lies lower goes through walls first",
        "a level one may talk over, and the walls keep",
    ),
    info(
        Purpose::Car,
        "A car or van",
        [32.0, 105.0, 1.0],
        "the cabin itself lifts what lies under some 60 Hz",
        "over the noise of the road",
    ),
    info(
        Purpose::BassGuitar,
        "Bass guitar",
        [40.0, 110.0, 2.0],
        "the low E is 41.2 Hz; its first overtone is the loudest",
        "beside a drum kit",
    ),
    info(
        Purpose::DoubleBass,
        "Double bass",
        [40.0, 100.0, 2.0],
        "its lowest string is E1, 41.2 Hz",
        "a small band; more feeds back",
    ),
    info(
        Purpose::Stage,
        "Dance floor or stage",
        [40.0, 115.0, 4.0],
        "kick drums and bass lines live from 40 Hz on; lower costs twice the box",
        "a dance floor; ears have minutes there, not hours",
    ),
    info(
        Purpose::Outdoors,
        "Outdoors",
        [45.0, 110.0, 8.0],
        "no room lifts anything; every third of an octave lower wants half as much again",
        "on a meadow level falls 6 dB with every doubling of the way",
    ),
    info(
        Purpose::Radio,
        "Radio in the workshop",
        [50.0, 88.0, 2.0],
        "speech and most music want little more",
        "over hand tools; beside machines ears are covered anyway",
    ),
];

/// All purposes.
#[derive(Clone, Copy, Debug, Serialize, JsonSchema)]
pub struct Purposes {
    /// In the order they are shown.
    pub purposes: &'static [Info],
}

impl Purpose {
    /// What it asks.
    pub fn info(self) -> &'static Info {
        PURPOSES.iter().find(|i| i.purpose == self).unwrap_or(&PURPOSES[0])
    }
}

impl Info {
    /// What it asks, in sentences.
    pub fn reasons(&self) -> Vec<Text> {
        vec![
            format!("Lowest note {:.0} Hz: {}.", self.lowest_note_hz, self.note_why).into(),
            format!(
                "{:.0} dB at {distance:.1}: {}.",
                self.level_db,
                self.level_why,
                distance = metres(self.distance_m)
            )
            .into(),
        ]
    }
    /// The brief it comes to.
    pub fn brief(&self) -> Brief {
        Brief {
            purpose: format!(
                "{}. Down to {:.0} Hz: {}. {:.0} dB: {}.",
                self.title, self.lowest_note_hz, self.note_why, self.level_db, self.level_why
            ),
            lowest_note_hz: Some(self.lowest_note_hz),
            level_db: Some(self.level_db),
            distance_m: Some(self.distance_m),
            ..Brief::default()
        }
    }
}
