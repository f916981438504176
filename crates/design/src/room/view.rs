//! The station: what the room does, as it is shown beside the plan.

use crate::analysis::Analysis;
use crate::room::clashes::{Clash, clashes, outsides};
use crate::room::heard::{Heard, band, can_be_told, gain};
use crate::room::modes::{RoomMode, modes};
use crate::room::neighbour::{NeighbourView, neighbour};
use crate::room::playing::{Playing, footprint, in_room};
use crate::room::response::{NUDGE, at, at_seats, ears, group_delay, level, mean_over_seats, spread_over_seats};
use crate::room::surroundings::Surroundings;
use oak_drum_acoustics::level::log_frequencies;
use oak_drum_acoustics::room::{Place, cabin};
use oak_drum_document::{Checked, InRoom};
use oak_drum_text::{Text, litres, metres};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::f64::consts::TAU;

/// A design in its room. All of it is an estimate.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct RoomView {
    /// Frequencies of the curves, Hz.
    pub frequency_hz: Vec<f64>,
    /// Level at the main seat on open ground, without walls, dB.
    pub open_level_db: Vec<f64>,
    /// Each seat.
    pub seats: Vec<SeatView>,
    /// Mean of the seats' levels, dB.
    pub mean_level_db: Vec<f64>,
    /// Standard deviation of the seats' levels, dB.
    pub spread_db: Vec<f64>,
    /// Group delay at the main seat, the way of the sound left out, ms.
    pub group_delay_ms: Vec<f64>,
    /// The same on open ground, ms.
    pub open_group_delay_ms: Vec<f64>,
    /// The band it is judged in, Hz.
    pub band_hz: [f64; 2],
    /// Mean over seats and band, dB.
    pub level_db: f64,
    /// How far seats differ: standard deviation, mean over the band, dB.
    pub between_seats_db: f64,
    /// How far their mean goes up and down along the band: standard deviation, dB.
    pub along_band_db: f64,
    /// What the room adds at the main seat, mean over the band, dB.
    pub gain_db: f64,
    /// The same over the lowest octave of the band, dB.
    pub low_gain_db: f64,
    /// Figures of the room.
    pub figures: RoomFigures,
    /// Each cabinet.
    pub cabinets: Vec<CabinetView>,
    /// The lowest standing waves.
    pub modes: Vec<RoomMode>,
    /// What cannot stand where it is.
    pub clashes: Vec<Clash>,
    /// What gets to a neighbour; absent where none is named.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub neighbour: Option<NeighbourView>,
    /// What the room adds to the level at the brief's distance in the design's solid angle, mean over the seats, at 16 frequencies from
    /// the brief's lowest note two octaves up, dB: a goal of trying the shelf; empty without a note.
    pub brief_gain_db: Vec<f64>,
    /// What all of it rests on, in a sentence or two.
    pub rests_on: Text,
}

/// A seat.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[schemars(rename = "RoomSeat")]
pub struct SeatView {
    /// What it is called.
    pub name: String,
    /// Level, dB; empty where it is outside the room.
    pub level_db: Vec<f64>,
    /// Mean over the band, dB; absent where it is outside the room.
    pub mean_db: Option<f64>,
    /// From the first cabinet's sound, m.
    pub distance_m: f64,
}

/// A cabinet.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[schemars(rename = "RoomCabinet")]
pub struct CabinetView {
    /// Width, height and depth of its outside, m.
    pub outside_m: [f64; 3],
    /// The floor it takes along the length and across the width, m.
    pub footprint_m: [f64; 2],
    /// Whether its outside is assumed from its volume.
    pub assumed: bool,
    /// Where its sound comes from, m.
    pub openings_m: Vec<[f64; 3]>,
}

/// Figures of a room.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct RoomFigures {
    /// Its air, m³; absent outdoors.
    pub volume_m3: Option<f64>,
    /// Time of reverberation of waves between all walls, s.
    pub t60_s: Option<f64>,
    /// Above it single waves say nothing, Hz (Schroeder).
    pub schroeder_hz: Option<f64>,
    /// Its lowest standing wave, Hz; of a cabin that of its longest side.
    pub lowest_mode_hz: Option<f64>,
    /// Below it the air goes out, Hz.
    pub leak_hz: Option<f64>,
    /// Where the pressure of the closed space meets that of half a space at the main seat, Hz.
    pub crossing_hz: Option<f64>,
    /// The one that is used of a cabin, Hz.
    pub begins_hz: Option<f64>,
}

/// Curves are told between these, Hz, but not where single waves say nothing.
const SHOWN: [f64; 2] = [10.0, 250.0];
/// They go so far in any room, Hz.
const LEAST: f64 = 60.0;
/// How many frequencies.
const POINTS: usize = 180;
/// Standing waves are told up to here, Hz.
const MODES_TO: f64 = 150.0;

/// A design in its room; `None` in the open field. Not `whole` where a hand moves: without the neighbour and the goal.
pub fn view(design: &Checked, whole: bool) -> Option<RoomView> {
    let analysis = Analysis::of(design);
    let room = analysis.design.room.clone()?;
    Some(of(&analysis, &room, whole))
}

fn of(analysis: &Analysis, room: &InRoom, whole: bool) -> RoomView {
    let surroundings = Surroundings::of(&room.room.space, analysis.context.air);
    let hz = log_frequencies(SHOWN[0], SHOWN[1].min(surroundings.ends().max(LEAST)), POINTS);
    let playing = Playing::of(analysis, room, &hz);
    let outsides = outsides(analysis, room);
    let clashes = clashes(room, &outsides);
    let inside = |i: usize| !clashes.iter().any(|c| c.seat && c.index == i);
    let pressures = at_seats(&surroundings, &playing, room);
    let levels: Vec<Vec<f64>> = pressures.iter().map(|seat| seat.iter().map(|p| level(*p)).collect()).collect();
    let told: Vec<Vec<f64>> = levels.iter().enumerate().filter(|(i, _)| inside(*i)).map(|(_, l)| l.clone()).collect();
    let sounds: Vec<Place> = room
        .cabinets
        .iter()
        .zip(&playing.players)
        .map(|(cabinet, player)| {
            let [width, _, _] = player.outside;
            let at: [f64; 3] = player.openings.first().map_or([width / 2.0, player.height(), 0.0], |o| o.0);
            in_room(cabinet, player.outside, at)
        })
        .collect();
    let main = ears(&room.seats[0]);
    let open = at(&surroundings, &playing, room, main, true);
    let [low, high] = band(analysis, &surroundings);
    let within = |f: &f64, top: f64| *f >= low * 0.999 && *f <= top * 1.001;
    let mean_in = |list: &[f64], top: f64| {
        let chosen: Vec<f64> = hz.iter().zip(list).filter(|(f, _)| within(f, top)).map(|(_, x)| *x).collect();
        chosen.iter().sum::<f64>() / chosen.len().max(1) as f64
    };
    let distance = |place: Place| match &surroundings {
        Surroundings::Cabin(cabin) => cabin.distance,
        _ => sounds.first().map_or(0.0, |s| (0..3).map(|i| (s[i] - place[i]).powi(2)).sum::<f64>().sqrt()),
    };
    let heard = Heard::of(analysis, room);
    let even = heard.evenness();
    let open_level: Vec<f64> = open.iter().map(|p| level(*p)).collect();
    let gain: Vec<f64> = levels[0].iter().zip(&open_level).map(|(there, free)| there - free).collect();
    let nudged: Vec<f64> = hz.iter().map(|f| f * (1.0 + NUDGE)).collect();
    let nudged = Playing::of(analysis, room, &nudged);
    // the way from the first cabinet is left out; in a cabin there is none
    let flight =
        if matches!(surroundings, Surroundings::Cabin(_)) { 0.0 } else { distance(main) / surroundings.air().c };
    let delay = |openly: bool| -> Vec<f64> {
        let all = group_delay(&surroundings, [&playing, &nudged], room, main, openly);
        all.into_iter().map(|t| (t - flight) * 1e3).collect()
    };
    let seats = room.seats.iter().zip(&levels).enumerate().map(|(i, (seat, levels))| SeatView {
        name: seat.name.clone(),
        mean_db: inside(i).then(|| mean_in(levels, high)),
        level_db: if inside(i) { levels.clone() } else { Vec::new() },
        distance_m: distance(ears(seat)),
    });
    let cabinets = room.cabinets.iter().zip(&playing.players).map(|(cabinet, player)| CabinetView {
        outside_m: player.outside,
        footprint_m: footprint(player.outside, cabinet.faces),
        assumed: player.assumed,
        openings_m: player.openings.iter().map(|(at, _)| in_room(cabinet, player.outside, *at)).collect(),
    });
    let mut view = RoomView {
        open_level_db: open_level,
        seats: seats.collect(),
        mean_level_db: mean_over_seats(&told),
        spread_db: spread_over_seats(&told),
        group_delay_ms: delay(false),
        open_group_delay_ms: delay(true),
        band_hz: [low, high],
        level_db: even.level,
        between_seats_db: even.between,
        along_band_db: even.along,
        gain_db: mean_in(&gain, high),
        low_gain_db: mean_in(&gain, 2.0 * low),
        figures: figures(&surroundings, distance(main)),
        cabinets: cabinets.collect(),
        modes: {
            let seats: Vec<Place> = room.seats.iter().map(ears).collect();
            modes(&surroundings, MODES_TO.min(surroundings.ends().max(LEAST)), &sounds, &seats, whole)
        },
        clashes,
        neighbour: room.neighbour.as_ref().filter(|_| whole).map(|behind| neighbour(analysis, &heard, behind)),
        brief_gain_db: if whole { brief_gain(analysis, room) } else { Vec::new() },
        rests_on: rests_on(&surroundings),
        frequency_hz: hz,
    };
    view.round();
    view
}

impl RoomView {
    /// Curves to a hundredth of a decibel and a millisecond: what a screen shows, and half the way over the wire.
    fn round(&mut self) {
        let hundredth = |x: &mut f64| *x = (*x * 1e2).round() / 1e2;
        self.frequency_hz.iter_mut().for_each(|f| *f = (*f * 1e4).round() / 1e4);
        let lists = [
            &mut self.open_level_db,
            &mut self.mean_level_db,
            &mut self.spread_db,
            &mut self.group_delay_ms,
            &mut self.open_group_delay_ms,
        ];
        lists.into_iter().chain(self.seats.iter_mut().map(|s| &mut s.level_db)).flatten().for_each(hundredth);
        for mode in &mut self.modes {
            let both = mode.together_db.iter_mut().flatten();
            mode.cabinets
                .iter_mut()
                .chain(&mut mode.seats)
                .chain([&mut mode.coupling_db])
                .chain(both)
                .for_each(hundredth);
        }
    }
}

fn brief_gain(analysis: &Analysis, room: &InRoom) -> Vec<f64> {
    let brief = &analysis.design.brief;
    let Some(note) = brief.lowest_note_hz.filter(|_| can_be_told(analysis, room)) else { return Vec::new() };
    let hz = log_frequencies(note, 4.0 * note, 16);
    gain(analysis, room, &hz, brief.distance_m.unwrap_or(1.0), analysis.conditions.solid_angle.steradians())
}

fn figures(surroundings: &Surroundings, distance: f64) -> RoomFigures {
    match surroundings {
        Surroundings::Room(room) => RoomFigures {
            volume_m3: Some(room.volume()),
            t60_s: Some(room.t60()),
            schroeder_hz: Some(room.schroeder()),
            lowest_mode_hz: Some(room.air.c / 2.0 / room.sides.iter().copied().fold(0.0, f64::max)),
            leak_hz: Some(room.corner()),
            crossing_hz: Some(cabin::crossing_by_volume(&room.air, TAU, distance.max(0.3), room.volume())),
            begins_hz: None,
        },
        Surroundings::Cabin(cabin) => RoomFigures {
            volume_m3: Some(cabin.volume),
            lowest_mode_hz: Some(cabin.crossings[1]),
            leak_hz: Some(cabin.leak),
            crossing_hz: Some(cabin.crossings[0]),
            begins_hz: Some(cabin.crossing),
            ..RoomFigures::default()
        },
        Surroundings::Outdoors { .. } => RoomFigures::default(),
    }
}

fn rests_on(surroundings: &Surroundings) -> Text {
    match surroundings {
        Surroundings::Room(room) => {
            let [length, width, height] = room.sides;
            format!(
                "An estimate: a bare box of {:.2} by {:.2} by {:.2} whose walls hardly give way, and whose waves die away in {:.2} s. Furniture, alcoves and soft walls change it, most above {:.0} Hz.",
                metres(length), metres(width), metres(height), room.t60(), room.schroeder().min(200.0)
            )
            .into()
        }
        Surroundings::Cabin(cabin) => format!(
            "An estimate: {:.0} of air that move as one, leaking below {:.0} Hz. Glass, doors and seats give way, and above {:.0} Hz places differ.",
            litres(cabin.volume * 1e3),
            cabin.leak,
            cabin.crossings[1]
        )
        .into(),
        Surroundings::Outdoors { planes, .. } => {
            let wall = if planes.len() > 1 { " and one wall" } else { "" };
            format!("An estimate: hard ground{wall}, nothing else around, no wind.").into()
        }
    }
}
