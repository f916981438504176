//! Every family's starting point for a design's woofers, in the open and in its room: why a cabin likes another tuning.

use crate::analysis::Analysis;
use crate::room::heard::gain;
use oak_drum_acoustics::families::suggestions;
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_acoustics::outputs::Sweep;
use oak_drum_document::{Checked, Design};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// What the room does to each family.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct FamiliesInRoom {
    /// Frequencies of the curves, Hz.
    pub frequency_hz: Vec<f64>,
    /// What the room adds as things stand: mean over the seats against the open field at the distance the level is read at, dB.
    pub gain_db: Vec<f64>,
    /// Between which frequencies slopes are told, Hz.
    pub slope_hz: [f64; 2],
    /// The design as it is, then each family's starting point.
    pub list: Vec<FamilyInRoom>,
}

/// One of them.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct FamilyInRoom {
    /// The family's stable name.
    pub family: String,
    /// What it is called, with its figure.
    pub title: String,
    /// Level in the open, dB.
    pub level_db: Vec<f64>,
    /// Level in the room, dB.
    pub in_room_db: Vec<f64>,
    /// How it falls toward the low end in the open, dB an octave; below 0 where it rises.
    pub falls_db: f64,
    /// The same in the room.
    pub falls_in_room_db: f64,
}

/// Frequencies of the curves.
const POINTS: usize = 60;

/// The families in a design's room; `None` in the open field.
pub fn families(design: &Checked) -> Option<FamiliesInRoom> {
    let analysis = Analysis::of(design);
    let room = analysis.design.room.clone()?;
    let hz = log_frequencies(12.0, 120.0, POINTS);
    let conditions = analysis.conditions;
    let gain = gain(&analysis, &room, &hz, conditions.distance, conditions.solid_angle.steradians());
    let slope_hz = [15.0, 40.0];
    let told = |family: &str, title: String, analysis: &Analysis| {
        let level_db = Sweep::new(&analysis.wired.network, analysis.conditions).curves(&hz).level_db;
        let in_room_db: Vec<f64> = level_db.iter().zip(&gain).map(|(l, g)| l + g).collect();
        FamilyInRoom {
            family: family.into(),
            title,
            falls_db: slope(&hz, &level_db, slope_hz),
            falls_in_room_db: slope(&hz, &in_room_db, slope_hz),
            level_db,
            in_room_db,
        }
    };
    let now = told(analysis.design.enclosure.info().id, "As it is".into(), &analysis);
    let offered = suggestions(&analysis.context).into_iter().filter_map(|suggestion| {
        let enclosure = suggestion.enclosure?;
        let id = enclosure.info().id;
        let bare = Design { enclosure, cabinet: None, room: None, ..Design::clone(design) };
        let tried = oak_drum_document::check(bare).ok()?;
        Some(told(id, suggestion.title, &Analysis::of(&tried)))
    });
    Some(FamiliesInRoom {
        list: std::iter::once(now).chain(offered).collect(),
        frequency_hz: hz,
        gain_db: gain,
        slope_hz,
    })
}

/// The straight line through a level over ln f between two frequencies, dB an octave upward (least squares).
fn slope(hz: &[f64], level: &[f64], [low, high]: [f64; 2]) -> f64 {
    let points: Vec<(f64, f64)> =
        hz.iter().zip(level).filter(|(f, _)| (low..=high).contains(*f)).map(|(f, l)| (f.log2(), *l)).collect();
    let n = points.len().max(1) as f64;
    let (x, y) = points.iter().fold((0.0, 0.0), |(x, y), p| (x + p.0 / n, y + p.1 / n));
    let (over, under) =
        points.iter().fold((0.0, 1e-12), |(over, under), p| (over + (p.0 - x) * (p.1 - y), under + (p.0 - x).powi(2)));
    over / under
}
